"""Machine code is never older than what it was made of."""

from __future__ import annotations

import ast
import json
import os
import shutil
import subprocess
import sys
import time
from pathlib import Path

import pytest

from oddkettle.core.kernel import compiler
from tests.conftest import EXAMPLES
from tests.support.tiers import NIGHTLY, OF_THE_KERNEL

ANSWERS = Path(__file__).with_name("kernel_answers.py")
PACKAGE = compiler.KERNEL.parents[1]
KERNEL = compiler.KERNEL
OUTSIDE = {"__future__", "numpy", "numba", "typing"}

CHANGES = {
    "constants.py": ("PER_STEP = 1.0 / GRID_STEP", "PER_STEP = 0.9 / GRID_STEP"),
    "records.py": ("SECOND = 0.0, 1.0, 2.0, 3.0", "SECOND = 0.0, 1.0, 1.0, 3.0"),
    "arithmetic.py": ("return low + part * (high - low)", "return low"),
    "bank_step.py": ("charge = amps * bank.soc_per_a", "charge = 0.9 * amps * bank.soc_per_a"),
    "source_step.py": (
        "taken = offers[i, j].power_w * per_v",
        "taken = 0.9 * offers[i, j].power_w * per_v",
    ),
    "bus.py": ("drawn = load_w * per_v", "drawn = 1.1 * load_w * per_v"),
    "loop.py": ("asked[i, column].power_w", "1.1 * asked[i, column].power_w"),
    "ensemble.py": ("amount = box.draw_asked[a, i]", "amount = 1.1 * box.draw_asked[a, i]"),
}
"""A change of each file that no answer can miss; the last is of scenarios alone."""
OF_FUTURES_ALONE = ("ensemble.py",)


def answers(source: Path, cache: Path | None, order: str) -> str:
    """What a process of its own says that runs the program in `source`."""
    environment = os.environ | {"PYTHONPATH": str(source)}
    if cache is not None:
        environment["ODDKETTLE_CACHE"] = str(cache)
    command = [sys.executable, str(ANSWERS), str(EXAMPLES), order]
    done = subprocess.run(
        command, env=environment, cwd=source, capture_output=True, check=True, text=True
    )
    return done.stdout


def test_the_kernel_imports_nothing_that_its_digest_does_not_see() -> None:
    for path in KERNEL.glob("*.py"):
        if path.name in ("compiler.py", "__init__.py"):
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            names = [a.name for a in node.names] if isinstance(node, ast.Import) else []
            names += [node.module or ""] if isinstance(node, ast.ImportFrom) else []
            for name in names:
                top = name.split(".")[0]
                assert top in OUTSIDE or name.startswith("oddkettle.core.kernel."), (path, name)


def test_every_compiled_function_lives_in_the_kernel() -> None:
    outside = [
        path
        for path in PACKAGE.rglob("*.py")
        if KERNEL not in path.parents and "numba" in path.read_text()
    ]
    assert outside == []


def test_a_change_of_any_kernel_file_is_another_digest(tmp_path: Path) -> None:
    copy = Path(shutil.copytree(KERNEL, tmp_path / "kernel"))
    assert compiler.digest(copy) == compiler.digest()
    files = sorted(path.name for path in copy.glob("*.py"))
    assert set(CHANGES) | {"compiler.py", "ensemble_tables.py", "__init__.py"} == set(files)
    for name in files:
        text = (copy / name).read_text()
        (copy / name).write_text(text + "\n")
        assert compiler.digest(copy) != compiler.digest()
        (copy / name).write_text(text)
    (copy / "more.py").write_text("")
    assert compiler.digest(copy) != compiler.digest()


def test_a_change_of_a_switch_of_the_compiler_is_another_digest(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    before = compiler.digest()
    monkeypatch.setenv("NUMBA_OPT", "1")
    assert compiler.digest() != before


LITTLE = {
    "__init__.py": "",
    "constants.py": "GAIN = 2.0\n",
    "arithmetic.py": """
from little.constants import GAIN
from little.compiler import inlined

@inlined
def gained(level):
    return GAIN * level + 1.0
""",
    "loop.py": """
from little.arithmetic import gained
from little.compiler import compiled

@compiled
def single(level):
    return gained(level)
""",
    "ensemble.py": """
from little.compiler import compiled
from little.loop import single

@compiled
def ensemble(level):
    return single(level) + single(level + 1.0)
""",
    "__main__.py": """
import sys
from little.ensemble import ensemble
from little.loop import single

found = {}
for run in (single, ensemble) if sys.argv[1] == "single first" else (ensemble, single):
    found[run.__name__] = run(3.0)
print(found["single"], found["ensemble"], sum(single.stats.cache_hits.values()))
""",
}
"""A kernel of four lines: compiled in a second, kept by the same compiler.py as the real one."""


@OF_THE_KERNEL
@pytest.mark.parametrize(
    ("name", "old", "new", "single", "ensemble"),
    [
        ("constants.py", "2.0", "5.0", 16.0, 37.0),
        ("arithmetic.py", "+ 1.0", "- 1.0", 5.0, 12.0),
    ],
)
def test_a_little_kernel_follows_a_change_of_what_it_reads(
    name: str, old: str, new: str, single: float, ensemble: float, tmp_path: Path
) -> None:
    """What comes out is worked by hand; the real kernel does the same below, by night."""
    little = tmp_path / "little"
    little.mkdir()
    for file, text in LITTLE.items():
        (little / file).write_text(text)
    shutil.copy(KERNEL / "compiler.py", little)

    def answer(order: str) -> list[float]:
        done = subprocess.run(
            [sys.executable, "-m", "little", order],
            env=os.environ | {"ODDKETTLE_CACHE": str(tmp_path / "cache")},
            cwd=tmp_path,
            capture_output=True,
            check=True,
            text=True,
        )
        return [float(number) for number in done.stdout.split()]

    assert answer("single first") == [7.0, 16.0, 0]
    text = (little / name).read_text()
    assert text.count(old) == 1
    (little / name).write_text(text.replace(old, new))
    assert answer("ensemble first") == [single, ensemble, 0]
    # The second run finds code there, and it is the right one.
    assert answer("single first") == [single, ensemble, 1]


@pytest.mark.parametrize("name", CHANGES)
def test_what_the_night_changes_is_there_to_be_changed(name: str) -> None:
    assert (KERNEL / name).read_text().count(CHANGES[name][0]) == 1


@NIGHTLY
@pytest.mark.parametrize("name", CHANGES)
def test_single_runs_and_futures_follow_a_change_in_both_orders(name: str, tmp_path: Path) -> None:
    """A copy is changed and run with a cache of its own; the second run finds code there."""
    copy = tmp_path / "src"
    shutil.copytree(PACKAGE, copy / "oddkettle")
    path = copy / "oddkettle" / "core" / "kernel" / name
    old, new = CHANGES[name]
    text = path.read_text()
    before = [
        json.loads(line) for line in answers(PACKAGE.parent, None, "single first").splitlines()
    ]
    path.write_text(text.replace(old, new))
    after = answers(copy, tmp_path / "cache", "single first")
    assert answers(copy, tmp_path / "cache", "ensemble first") == after
    for was, now in zip(before, map(json.loads, after.splitlines()), strict=True):
        assert now["ensemble"] != was["ensemble"]
        assert (now["single"] == was["single"]) == (name in OF_FUTURES_ALONE)


def test_a_folder_that_cannot_be_written_is_said_and_another_is_used(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    """A file stands where the folder would be: not even root can make one there."""
    (tmp_path / "cache").write_text("")
    monkeypatch.setenv("ODDKETTLE_CACHE", str(tmp_path / "cache"))
    folder = compiler.choose_folder()
    assert folder.is_dir()
    assert tmp_path not in folder.parents
    assert "every start compiles anew" in caplog.text
    assert "ODDKETTLE_CACHE" in caplog.text


def test_that_it_compiles_is_said_once(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    monkeypatch.setenv("ODDKETTLE_CACHE", str(tmp_path))
    folder = compiler.choose_folder()
    assert "once, about half a minute" in caplog.text
    caplog.clear()
    (folder / "some").mkdir()
    (folder / "some" / "loop.run_steps.nbi").write_bytes(b"")
    assert compiler.choose_folder() == folder
    assert caplog.text == ""


def test_old_folders_go_but_not_those_of_today(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("ODDKETTLE_CACHE", str(tmp_path))
    for n in range(6):
        old = tmp_path / "compiled" / f"old{n}"
        old.mkdir(parents=True)
        days = 0 if n == 0 else n + 1
        os.utime(old, (time.time() - 86_400 * days,) * 2)
    folder = compiler.choose_folder()
    assert {p.name for p in (tmp_path / "compiled").iterdir()} == {folder.name, "old0", "old1"}
