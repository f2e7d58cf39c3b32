"""Put small faults into the program, one at a time, and see whether some test finds each.

The faults are those of cosmic-ray's operators: a number that is another, a comparison or a sign
turned round, a condition denied. Each is put into a copy of the program, and the tests of its
module run on it until the first fails, before them those that were seen to run through its line
(`scripts/reach.py`). Kernel modules run uncompiled, or each would compile anew.

    python -m scripts.mutants                   all of them: hours
    python -m scripts.mutants --share 0.05       a random twentieth, the same one every time
    python -m scripts.mutants --share 0.05 --seed 2    another twentieth
    python -m scripts.mutants --count 200 --room rest    so many, of every room but the core
    python -m scripts.mutants --module core/simulation/ledger    one module
    python -m scripts.mutants --again OUT        those that survived before

Prints a table and the survivors; ends with 1 when fewer than 85 in 100 are found.
"""

from __future__ import annotations

import argparse
import difflib
import multiprocessing
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

import pytest
from cosmic_ray.ast import get_ast_from_path
from cosmic_ray.mutating import mutate_code
from cosmic_ray.plugins import get_operator, operator_names
from scripts.mutant_tests import KERNEL_TESTS, LAID, LAWS, TESTS, WORKED
from scripts.reach import Reach

ROOT = Path(__file__).resolve().parents[1]
SOURCES_AT = ROOT / "src" / "oddkettle"
ROOMS = ("core", "plan", "usecases", "store", "text", "formats", "api")
"""In which faults are sought. What talks to the outside (links, standins, command line) is tested
through it, in processes of its own, where no fault can be followed."""
ENOUGH = 0.85
PATIENCE_S = 400
"""Thrice what the longest of these runs takes on a busy machine with two cores: what does not end
by then is held up by its fault."""
REACHED_S = 40.0
"""So long may the tests take, all together, that run through a fault's line."""
ENDED = (0, 1, 2, 4)
"""All pass; some fail; a fault that cannot even be imported (2, or 4 when it keeps a test from
being found). Below nought it took Python with it. Any other is no answer."""
PYTEST = ("-x", "-q", "-p", "no:cacheprovider", "--no-header")
FORKS = multiprocessing.get_context("forkserver")
FORKS.set_forkserver_preload(["numba", "scipy", "pandas", "pydantic", "hypothesis", "pytest"])
"""Each fault gets a process of its own, but the libraries are loaded only once."""
SEED = 20261128
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

    @property
    def line(self) -> int:
        """Where it stands in the module."""
        return int(self.place.split(":")[0])


@dataclass(frozen=True)
class Fate:
    """What became of a mutant."""

    mutant: Mutant
    found: bool


@dataclass(frozen=True)
class Spot:
    """Where an operator can put a fault: the text with it is made only when it is tried."""

    module: str
    operator: str
    occurrence: int

    def mutant(self) -> Mutant | None:
        """The fault, or nothing where it leaves the text as it was."""
        source = (SOURCES_AT / f"{self.module}.py").read_text()
        text = mutate_code(source, get_operator(self.operator)(), self.occurrence)
        if text is None or text == source:
            return None
        return Mutant(self.module, difference(source, text), text)


def spots_of(module: str) -> Iterator[Spot]:
    """Everywhere that one of the operators fits in a module."""
    tree = get_ast_from_path(SOURCES_AT / f"{module}.py")
    for name in sorted(set(operator_names()) & PLAIN):
        operator = get_operator(name)()
        found = sum(1 for node in walk(tree) for _ in operator.mutation_positions(node))
        yield from (Spot(module, name, occurrence) for occurrence in range(found))


def modules_of(room: str) -> list[str]:
    """Every module of a room in which something is decided."""
    rooms = {"all": ROOMS, "core": ("core",), "rest": ROOMS[1:]}[room]
    found = [path for one in rooms for path in sorted((SOURCES_AT / one).rglob("*.py"))]
    return [
        str(path.relative_to(SOURCES_AT).with_suffix(""))
        for path in found
        if path.name != "__init__.py"
    ]


def room_of(module: str) -> str:
    """The room of a module: of the core, the room within it."""
    parts = module.split("/")
    return "/".join(parts[:2]) if parts[0] == "core" else parts[0]


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


def try_mutant(mutant: Mutant, place: Path, reach: Reach) -> Fate:
    """Run a mutant's tests on a copy of the program that has it."""
    target = place / "src" / "oddkettle" / f"{mutant.module}.py"
    whole = target.read_text()
    forget(target)
    target.write_text(mutant.text)
    tests = (*TESTS.get(mutant.module, ()), *WORKED)
    try:
        if mutant.module == "core/kernel/ensemble":
            found = fails_plain(place, LAID) or fails(place, tests)
        elif mutant.module.startswith("core/kernel/"):
            # What the few plain tests let live is compiled and meets the laws. Who runs through
            # compiled lines is not seen.
            found = fails_plain(place, tests) or fails(place, LAWS)
        else:
            at = reach.sources / f"{mutant.module}.py"
            reaching = reach.tests_of(at, mutant.line, REACHED_S)
            asked = (*reaching, *(tests if mutant.module.startswith("core/") else ()))
            # What runs in a thread of a server is not seen by its context: ask the folder that
            # mirrors the module's too.
            asked = tuple(dict.fromkeys((*asked, *mirrored(mutant.module))))
            found = bool(asked) and fails(place, asked)
    finally:
        target.write_text(whole)
        forget(target)
    return Fate(mutant, found)


def mirrored(module: str) -> tuple[str, ...]:
    """The tests that stand where a module's own should: the nearest folder that mirrors it."""
    folder = Path("tests") / module
    while not (ROOT / folder).is_dir():
        folder = folder.parent
    return tuple(str(path.relative_to(ROOT)) for path in sorted((ROOT / folder).glob("test_*.py")))


def forget(target: Path) -> None:
    """Drop what was compiled of a file: by its time alone it might pass for another text of it."""
    for old in target.parent.glob(f"__pycache__/{target.stem}.*"):
        old.unlink()


def fails(place: Path, tests: tuple[str, ...]) -> bool:
    """Whether any test fails there, or the program cannot be imported, or does not end."""
    child = FORKS.Process(target=_run, args=(str(place), tests))
    child.start()
    child.join(PATIENCE_S)
    if child.exitcode is None:
        child.kill()
        child.join()
        print(f"does not end in {PATIENCE_S} s, and counts as found", flush=True)
        return True
    return _told(child.exitcode, tests)


def _run(place: str, tests: tuple[str, ...]) -> None:
    """The tests, in a process that has the libraries loaded and the program not."""
    os.chdir(place)
    os.environ["ODDKETTLE_TIER"] = "test"
    sys.path = [f"{place}/src", place, *(one for one in sys.path if one not in ("", str(ROOT)))]
    with Path(os.devnull).open("w") as nowhere:
        os.dup2(nowhere.fileno(), 1)
        os.dup2(nowhere.fileno(), 2)
    os._exit(int(pytest.main([*PYTEST, *tests])))


def fails_plain(place: Path, tests: tuple[str, ...]) -> bool:
    """Whether any test fails with the kernel uncompiled: that must be said before all is loaded."""
    environment = os.environ | {
        "PYTHONPATH": f"{place / 'src'}{os.pathsep}{place}",
        "ODDKETTLE_TIER": "test",
        "NUMBA_DISABLE_JIT": "1",
    }
    command = [sys.executable, "-m", "pytest", *PYTEST, *tests]
    try:
        done = subprocess.run(
            command,
            cwd=place,
            env=environment,
            capture_output=True,
            timeout=PATIENCE_S,
            check=False,
        )
    except subprocess.TimeoutExpired:
        print(f"does not end in {PATIENCE_S} s, and counts as found", flush=True)
        return True
    return _told(done.returncode, tests)


def _told(code: int, tests: tuple[str, ...]) -> bool:
    if code >= 0 and code not in ENDED:
        raise RuntimeError(f"pytest ended with {code}: {tests}")
    return code != 0


def copy_of_all(folder: Path) -> Path:
    """The program and its tests, to be spoiled."""
    place = Path(tempfile.mkdtemp(dir=folder))
    for name in ("src", "tests", "examples", "docs", "scripts", "bench"):
        shutil.copytree(ROOT / name, place / name, ignore=shutil.ignore_patterns("__pycache__"))
    for name in ("pyproject.toml", "requirements.lock", "README.md", "CONTRIBUTING.md"):
        shutil.copy(ROOT / name, place)
    return place


def main() -> int:
    """Try the mutants that are asked for."""
    options = argparse.ArgumentParser()
    options.add_argument("--share", type=float, default=1.0, help="which part of them, 0..1")
    options.add_argument("--again", type=Path, help="those that survived, from what a run printed")
    options.add_argument("--module", help="one module only, like kernel/bus")
    options.add_argument("--count", type=int, help="how many, in place of a share")
    options.add_argument("--room", choices=["all", "core", "rest"], default="all")
    options.add_argument("--seed", type=int, default=SEED, help="another random share")
    given = options.parse_args()
    modules = [given.module] if given.module else modules_of(given.room)
    every = [spot for module in modules for spot in spots_of(module)]
    count = given.count or max(round(given.share * len(every)), 1)
    spots = random.Random(given.seed).sample(every, min(count, len(every)))
    chosen = [mutant for spot in spots if (mutant := spot.mutant())]
    if given.again:
        lines = given.again.read_text().splitlines()
        alive = {line.removeprefix("survives").strip() for line in lines}
        chosen = [mutant for mutant in chosen if f"{mutant.module}:{mutant.place}" in alive]
    print(f"{len(chosen)} of {len(every)} mutants", flush=True)
    fates: list[Fate] = []
    with tempfile.TemporaryDirectory() as folder, ThreadPoolExecutor(2) as pool:
        reach = Reach.measured(copy_of_all(Path(folder)))
        free = [copy_of_all(Path(folder)) for _ in range(2)]

        # A suite that fails on the program as it is would find everything.
        asked = {test for mutant in chosen for test in TESTS.get(mutant.module, ())}
        kernel = any(mutant.module.startswith("core/kernel/") for mutant in chosen)
        if kernel and fails_plain(free[0], (*KERNEL_TESTS, *LAID)):
            raise RuntimeError("tests of the kernel fail without any fault")
        if asked and fails(free[0], (*sorted(asked), *LAWS)):
            raise RuntimeError("tests fail without any fault")

        def work(mutant: Mutant) -> Fate:
            place = free.pop()
            try:
                return try_mutant(mutant, place, reach)
            finally:
                free.append(place)

        for fate in pool.map(work, chosen):
            fates.append(fate)
            if not fate.found:
                print(f"survives  {fate.mutant.module}:{fate.mutant.place}", flush=True)
            if len(fates) % 25 == 0:
                alive = sum(not fate.found for fate in fates)
                print(f"{len(fates)} tried, {alive} live", flush=True)
    for room in sorted({room_of(fate.mutant.module) for fate in fates}):
        of = [fate.found for fate in fates if room_of(fate.mutant.module) == room]
        print(f"{room:22s} {sum(of):4d} of {len(of):4d} found, {100 * sum(of) / len(of):.0f} %")
    share = sum(fate.found for fate in fates) / len(fates)
    print(f"{'all':22s} {100 * share:.1f} % of {len(fates)} found")
    return 0 if share >= ENOUGH else 1


if __name__ == "__main__":
    sys.exit(main())
