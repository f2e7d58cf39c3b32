"""Which tests run through a line of the program: measured, not listed by hand.

A line that runs when its module is imported (a constant, a default) runs in no test; it is asked of
the tests that run through what mentions its name.
"""

from __future__ import annotations

import ast
import os
import re
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cache, cached_property
from pathlib import Path

from coverage import CoverageData

SUITES = (
    "tests/core",
    "tests/physics",
    "tests/usecases",
    "tests/plan",
    "tests/text",
    "tests/formats",
    "tests/store",
    "tests/api",
)
TOOK = re.compile(r"^\s*([\d.]+)s call\s+(\S.*)$")
FAILED = re.compile(r"^FAILED (\S+::\S+)", re.MULTILINE)
DEPTH = 3
"""How many names away a constant may stand from the line that acts on it."""


@dataclass(frozen=True)
class Reach:
    """What a run of the day's tests has shown: who runs through which line, and for how long."""

    sources: Path
    covered: dict[Path, dict[int, set[str]]]
    seconds: dict[str, float]
    kept: dict[tuple[Path, int], set[str]] = field(default_factory=dict)

    @classmethod
    def measured(cls, place: Path) -> Reach:
        """Run the tests that need no browser once in `place`, a copy of the program.

        Raises:
            RuntimeError: a test fails there without any fault: it would find every one.

        """
        data = place / "reach.coverage"
        command = [sys.executable, "-m", "pytest", "-q", "-n", "2", "--durations", "0"]
        watched = ["--cov", "oddkettle", "--cov-context", "test", "--cov-report", ""]
        ran = subprocess.run(
            [*command, *watched, *SUITES],
            cwd=place,
            env=os.environ
            | {
                "PYTHONPATH": f"{place / 'src'}{os.pathsep}{place}",
                "ODDKETTLE_TIER": "test",
                "COVERAGE_FILE": str(data),
            },
            capture_output=True,
            text=True,
            check=False,
        )
        failed = FAILED.findall(ran.stdout)
        if ran.returncode and not (failed and _pass_alone(failed, place)):
            raise RuntimeError(
                f"the tests fail without any fault: {ran.stdout[-2000:]} {ran.stderr[-2000:]}"
            )
        took = filter(None, map(TOOK.match, ran.stdout.splitlines()))
        return cls(
            place / "src" / "oddkettle",
            _covered(data),
            {found[2]: float(found[1]) for found in took},
        )

    def tests_of(self, path: Path, line: int, seconds: float) -> list[str]:
        """The tests that run through a line, the quickest first, as many as take `seconds`."""
        tests = self._at(path, line) or self._through_names(path, line, DEPTH)
        if not tests:
            tests = {test for of in self.covered.get(path, {}).values() for test in of}
        chosen, left = [], seconds
        for test in sorted(tests, key=lambda test: (self.seconds.get(test, 0.0), test)):
            left -= self.seconds.get(test, 0.0)
            if left < 0.0:
                break
            chosen.append(test)
        return chosen

    def _at(self, path: Path, line: int) -> set[str]:
        """The tests that run through the statement of a line."""
        if (path, line) not in self.kept:
            self.kept[path, line] = self._looked_up(path, line)
        return self.kept[path, line]

    def _looked_up(self, path: Path, line: int) -> set[str]:
        by_line = self.covered.get(path, {})
        inner = _by_line(path).get(line, [])
        last = inner[-1] if inner else None
        at = range(last.lineno, _end_of_header(last) + 1) if last else range(line, line + 1)
        found = {test for n in at for test in by_line.get(n, ())}
        if not found and isinstance(last, ast.FunctionDef):
            body = range(last.body[0].lineno, (last.end_lineno or line) + 1)
            found = {test for n in body for test in by_line.get(n, ())}
        return found

    def _through_names(self, path: Path, line: int, depth: int) -> set[str]:
        """The tests that run through lines which mention what a line gives a name to."""
        found: set[str] = set()
        for name in _names_given(_by_line(path).get(line, [])):
            for other, at in self._mentions.get(name, ()):
                if (other, at) == (path, line):
                    continue
                found |= self._at(other, at)
                if depth > 1 and not self._at(other, at):
                    found |= self._through_names(other, at, depth - 1)
        return found

    @cached_property
    def _mentions(self) -> dict[str, list[tuple[Path, int]]]:
        """Where each name stands in the program."""
        where: dict[str, list[tuple[Path, int]]] = {}
        for path in self.sources.rglob("*.py"):
            for node in ast.walk(_tree(path)):
                name = _name_of(node)
                if name:
                    where.setdefault(name, []).append((path, node.lineno))  # type: ignore[attr-defined]
        return where


def _pass_alone(tests: list[str], place: Path) -> bool:
    """Whether tests that failed under all that load pass by themselves."""
    environment = os.environ | {
        "PYTHONPATH": f"{place / 'src'}{os.pathsep}{place}",
        "ODDKETTLE_TIER": "test",
    }
    command = [sys.executable, "-m", "pytest", "-q", *tests]
    return subprocess.run(command, cwd=place, env=environment, check=False).returncode == 0


@cache
def _tree(path: Path) -> ast.Module:
    return ast.parse(path.read_text())


def _name_of(node: ast.AST) -> str | None:
    """The name that a node mentions: of a variable, an attribute, an argument."""
    if isinstance(node, ast.Name):
        return node.id
    if isinstance(node, ast.Attribute):
        return node.attr
    return node.arg if isinstance(node, ast.keyword) else None


def _covered(data: Path) -> dict[Path, dict[int, set[str]]]:
    """File, line, and the tests that ran through it."""
    kept = CoverageData(str(data))
    kept.read()
    return {
        Path(name): {
            line: {context.split("|")[0] for context in contexts if context}
            for line, contexts in kept.contexts_by_lineno(name).items()
        }
        for name in kept.measured_files()
    }


@cache
def _by_line(path: Path) -> dict[int, list[ast.stmt]]:
    """The statements around each line of a file, the outermost first."""
    found: dict[int, list[ast.stmt]] = {}
    for node in ast.walk(_tree(path)):
        if isinstance(node, ast.stmt):
            for line in range(_first_line(node), (node.end_lineno or node.lineno) + 1):
                found.setdefault(line, []).append(node)
    return found


def _first_line(node: ast.stmt) -> int:
    decorators = getattr(node, "decorator_list", [])
    return min([node.lineno, *(decorator.lineno for decorator in decorators)])


def _end_of_header(node: ast.stmt) -> int:
    """The last line of a statement without the statements in it."""
    body = getattr(node, "body", None)
    if body:
        return max(node.lineno, body[0].lineno - 1)
    return node.end_lineno or node.lineno


def _names_given(statements: list[ast.stmt]) -> Iterator[str]:
    """What the statements around a line give a name to: constants, fields, classes."""
    for node in statements:
        if isinstance(node, ast.FunctionDef):
            return
        if isinstance(node, ast.ClassDef):
            yield node.name
        targets = node.targets if isinstance(node, ast.Assign) else [getattr(node, "target", None)]
        for target in targets:
            if isinstance(target, ast.Name):
                yield target.id
