"""Put small faults into the core, one at a time, and see whether some test finds each.

The faults are those of cosmic-ray's operators: a number that is another, a comparison or a sign
turned round, a condition denied. Each is put into a copy of the program, and the tests of its
module run on it until the first fails. Kernel modules run uncompiled, or each would compile anew.

    python scripts/mutants.py                    all of them: hours
    python scripts/mutants.py --share 0.05       a random twentieth, the same one every time
    python scripts/mutants.py --share 0.05 --seed 2    another twentieth
    python scripts/mutants.py --module simulation/ledger one module
    python scripts/mutants.py --again OUT        those that survived before

Prints a table and the survivors; ends with 1 when fewer than 85 in 100 are found.
"""

from __future__ import annotations

import argparse
import compileall
import difflib
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from cosmic_ray.ast import get_ast_from_path
from cosmic_ray.mutating import mutate_code
from cosmic_ray.plugins import get_operator, operator_names

ROOT = Path(__file__).resolve().parents[1]
CORE = ROOT / "src" / "oddkettle" / "core"
ENOUGH = 0.85
PATIENCE_S = 240
ENDED = (0, 1, 2)
"""All pass, some fail, or a fault that cannot even be imported; others are no answer, but for a
fault that reads outside its arrays and takes Python with it (below nought: a signal)."""
SEED = 20261128
WORKED = (
    "tests/core/test_worked_values.py",
    "tests/core/test_worked_loads.py",
    "tests/core/test_worked_doubt.py",
    "tests/core/test_worked_arrays.py",
)
"""Values worked by hand, for constants of all modules."""
LAWS = (
    "tests/physics",
    "tests/core/test_ensemble.py",
    "tests/core/test_ledger.py",
    "tests/core/test_sources.py",
    "tests/core/test_controllers.py",
)
KERNEL_TESTS = (
    "tests/physics/test_plain_box.py",
    "tests/core/test_kernel.py",
    "tests/core/test_emptying_banks.py",
)
SOURCES = ("tests/core/test_sources.py",)
TRACKED = ("tests/core/test_tracker.py", "tests/usecases/test_tracking.py")
ENSEMBLE_TESTS = ("tests/core/test_ensemble.py",)
JUDGED = (
    "tests/core/test_judgement.py",
    "tests/core/test_judgement_figures.py",
    "tests/core/test_judgement_of_places.py",
    "tests/core/test_judgement_overlooked.py",
    "tests/usecases/test_remedies.py",
)
TESTS: dict[str, tuple[str, ...]] = {
    "kernel/arithmetic": KERNEL_TESTS,
    "kernel/bank_step": KERNEL_TESTS,
    "kernel/source_step": KERNEL_TESTS,
    "kernel/bus": KERNEL_TESTS,
    "kernel/loop": KERNEL_TESTS,
    "kernel/ensemble": (
        *ENSEMBLE_TESTS,
        "tests/core/test_controllers.py",
        "tests/core/test_tracker.py",
    ),
    "battery/bank": ("tests/core/test_bank.py", "tests/core/test_kernel.py", "tests/physics"),
    "loads/demand": (
        "tests/core/test_loads.py",
        "tests/core/test_patterns.py",
        "tests/core/test_day_kinds.py",
        "tests/usecases/test_use_report.py",
        "tests/core/test_ledger.py",
    ),
    "sources/alternator": SOURCES,
    "sources/dcdc": SOURCES,
    "sources/relay": SOURCES,
    "sources/generator": ("tests/core/test_generator.py",),
    "sources/solar": ("tests/core/test_solar.py", "tests/core/test_sources.py"),
    "sources/panel": (
        "tests/core/test_solar.py",
        "tests/core/test_sources.py",
        "tests/core/test_judgement_of_places.py",
        "tests/plan/test_case.py",
        "tests/plan/test_document.py",
    ),
    "sources/mains": SOURCES,
    "simulation/ledger": (
        "tests/core/test_ledger.py",
        "tests/physics/test_laws.py",
        "tests/usecases/test_sums.py",
    ),
    "estimation/measurement_update": TRACKED,
    "estimation/particle_filter": TRACKED,
    "judgement/battery": JUDGED,
    "judgement/charging": JUDGED,
    "judgement/panels": JUDGED,
    "judgement/use": JUDGED,
    "judgement/vehicle": JUDGED,
    "judgement/generator": ("tests/core/test_generator.py",),
    "judgement/place": JUDGED,
    "judgement/wiring": (
        "tests/core/construction",
        "tests/usecases/test_build.py",
        "tests/core/test_judgement_overlooked.py",
    ),
}
PLAIN = {
    "core/NumberReplacer",
    "core/AddNot",
    "core/ReplaceAndWithOr",
    "core/ReplaceOrWithAnd",
    "core/ReplaceTrueWithFalse",
    "core/ReplaceFalseWithTrue",
    "core/ReplaceUnaryOperator_Delete_USub",
    "core/ReplaceBinaryOperator_Add_Sub",
    "core/ReplaceBinaryOperator_Sub_Add",
    "core/ReplaceBinaryOperator_Mul_Div",
    "core/ReplaceBinaryOperator_Div_Mul",
    "core/ReplaceComparisonOperator_Lt_GtE",
    "core/ReplaceComparisonOperator_Gt_LtE",
    "core/ReplaceComparisonOperator_LtE_Gt",
    "core/ReplaceComparisonOperator_GtE_Lt",
    "core/ReplaceComparisonOperator_Eq_NotEq",
    "core/ReplaceComparisonOperator_NotEq_Eq",
    "core/ZeroIterationForLoop",
}
"""Operators whose faults a person might make; the others are variations that die the same way."""


@dataclass(frozen=True)
class Mutant:
    """One fault: in which module, where, and the module's text with it."""

    module: str
    place: str
    text: str


@dataclass(frozen=True)
class Fate:
    """What became of a mutant."""

    mutant: Mutant
    found: bool


def mutants_of(module: str) -> Iterator[Mutant]:
    """Every fault of a module, one at a time."""
    path = CORE / f"{module}.py"
    source = path.read_text()
    tree = get_ast_from_path(path)
    for name in sorted(set(operator_names()) & PLAIN):
        operator = get_operator(name)()
        found = sum(1 for node in walk(tree) for _ in operator.mutation_positions(node))
        for occurrence in range(found):
            text = mutate_code(source, get_operator(name)(), occurrence)
            if text is not None and text != source:
                yield Mutant(module, difference(source, text), text)


def walk(node: object) -> Iterator[object]:
    """A syntax tree's nodes, depth first."""
    yield node
    for child in getattr(node, "children", ()):
        yield from walk(child)


def difference(old: str, new: str) -> str:
    """The changed line, as it was and as it is."""
    lines = difflib.unified_diff(old.splitlines(), new.splitlines(), n=0, lineterm="")
    changed = [line for line in lines if line[:1] in "+-" and line[:3] not in ("+++", "---")]
    at = next(n for n, (a, b) in enumerate(zip(old.splitlines(), new.splitlines())) if a != b) + 1  # noqa: B905
    return f"{at}: " + "  =>  ".join(line[1:].strip() for line in changed)


def try_mutant(mutant: Mutant, place: Path) -> Fate:
    """Run a mutant's tests on a copy of the program that has it."""
    target = place / "src" / "oddkettle" / "core" / f"{mutant.module}.py"
    whole = target.read_text()
    target.write_text(mutant.text)
    # What was compiled of it before: by its time alone it might pass for this one.
    for old in target.parent.glob(f"__pycache__/{target.stem}.*"):
        old.unlink()
    plain = mutant.module.startswith("kernel/") and mutant.module != "kernel/ensemble"
    try:
        found = fails(place, (*TESTS[mutant.module], *WORKED), plain=plain)
        if plain and not found:
            # What the few plain tests let live is compiled and meets the laws.
            found = fails(place, LAWS, plain=False)
    finally:
        target.write_text(whole)
    return Fate(mutant, found)


def fails(place: Path, tests: tuple[str, ...], *, plain: bool) -> bool:
    """Whether any test fails there, or does not end; `plain` leaves the kernel uncompiled."""
    environment = os.environ | {
        "PYTHONPATH": f"{place / 'src'}{os.pathsep}{place}",
        "ODDKETTLE_TIER": "quick",
        "PYTHONDONTWRITEBYTECODE": "1",
    }
    if plain:
        environment["NUMBA_DISABLE_JIT"] = "1"
    command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", "--no-header"]
    try:
        done = subprocess.run(
            [*command, *tests],
            cwd=place,
            env=environment,
            capture_output=True,
            timeout=PATIENCE_S,
            check=False,
        )
    except subprocess.TimeoutExpired:
        return True
    if done.returncode >= 0 and done.returncode not in ENDED:
        raise RuntimeError(f"pytest ended with {done.returncode}: {done.stdout.decode()[-800:]}")
    return done.returncode != 0


def copy_of_all(folder: Path) -> Path:
    """The program and its tests, to be spoiled."""
    place = Path(tempfile.mkdtemp(dir=folder))
    for name in ("src", "tests", "examples"):
        shutil.copytree(ROOT / name, place / name, ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(ROOT / "pyproject.toml", place)
    # The runs keep nothing, so that a fault's file is compiled anew each time; the others are once.
    compileall.compile_dir(place / "src", quiet=2)
    return place


def main() -> int:
    """Try the mutants that are asked for."""
    asked = argparse.ArgumentParser()
    asked.add_argument("--share", type=float, default=1.0, help="which part of them, 0..1")
    asked.add_argument("--again", type=Path, help="those that survived, from what a run printed")
    asked.add_argument("--module", help="one module only, like kernel/bus")
    asked.add_argument("--seed", type=int, default=SEED, help="another random share")
    given = asked.parse_args()
    modules = [given.module] if given.module else list(TESTS)
    every = [mutant for module in modules for mutant in mutants_of(module)]
    if given.again:
        lines = given.again.read_text().splitlines()
        alive = {line.removeprefix("survives").strip() for line in lines}
        every = [mutant for mutant in every if f"{mutant.module}:{mutant.place}" in alive]
    chosen = random.Random(given.seed).sample(every, max(round(given.share * len(every)), 1))
    print(f"{len(chosen)} of {len(every)} mutants", flush=True)
    fates: list[Fate] = []
    with tempfile.TemporaryDirectory() as folder, ThreadPoolExecutor(2) as pool:
        free = [copy_of_all(Path(folder)) for _ in range(2)]

        def work(mutant: Mutant) -> Fate:
            place = free.pop()
            try:
                return try_mutant(mutant, place)
            finally:
                free.append(place)

        # A suite that fails on the program as it is would find everything.
        for tests in {*(TESTS[mutant.module] for mutant in chosen), LAWS, WORKED}:
            if fails(free[0], tests, plain=False):
                raise RuntimeError(f"these fail without any fault: {tests}")
        for fate in pool.map(work, chosen):
            fates.append(fate)
            if not fate.found:
                print(f"survives  {fate.mutant.module}:{fate.mutant.place}", flush=True)
    for module in modules:
        of = [fate.found for fate in fates if fate.mutant.module == module]
        if of:
            print(
                f"{module:22s} {sum(of):4d} of {len(of):4d} found, {100 * sum(of) / len(of):.0f} %"
            )
    share = sum(fate.found for fate in fates) / len(fates)
    print(f"{'all':22s} {100 * share:.1f} % of {len(fates)} found")
    return 0 if share >= ENOUGH else 1


if __name__ == "__main__":
    sys.exit(main())
