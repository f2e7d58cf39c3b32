"""A battery's curve as people have it: two columns, typed or out of a spreadsheet.

Commas, semicolons, tabs or blanks part the columns; a decimal comma is read where something else
parts them. A first line without figures names the columns. Lines with # are left out.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from oddkettle.core.messages.errors import PlanError

MAX_ROWS = 5000
FEWEST_ROWS = 1
WHERE = ("curve",)
VOLTS_NAMES = re.compile(r"volt|spannung|tension|^\s*v\b|\(v\)|\[v\]|_v$", re.IGNORECASE)
HOURS_NAMES = re.compile(r"\bah\b|amp.?h|\(ah\)|\[ah\]|_ah$|drawn|capacity", re.IGNORECASE)


@dataclass(frozen=True)
class Columns:
    """Two columns as read: what stands for the level, and volts, in the order they came.

    `drawn` tells whether the first is the charge drawn [Ah] by its name; None where nothing
    names it.
    """

    level: tuple[float, ...]
    volts: tuple[float, ...]
    drawn: bool | None


def parse_curve(text: str, nominal_v: float) -> Columns:
    """Two columns out of `text`; `nominal_v` tells volts from percent where no name does.

    Raises PlanError for a line that is no pair of numbers, for too many, and for none.
    """
    lines = [line.strip() for line in text.replace("\ufeff", "").splitlines()]
    numbered = [(n, line) for n, line in enumerate(lines, 1) if line and not line.startswith("#")]
    if len(numbered) > MAX_ROWS:
        raise _refused(
            f"The curve has {len(numbered):,} lines.",
            len(numbered),
            f"at most {MAX_ROWS:,}",
            "Thin it out: a hundred points are plenty.",
        )
    names: list[str] = []
    rows: list[tuple[float, float]] = []
    for place, (number, line) in enumerate(numbered):
        cells = _cells(line)
        pair = _pair(cells)
        if pair is not None:
            rows.append(pair)
        elif place == 0 and len(cells) >= 2:
            names = cells[:2]
        else:
            raise _refused(
                f"Line {number} of the curve is not two numbers: {line[:60]}",
                line[:60],
                "a level and volts on each line",
                "Write a line like 50 13.12, or put # before it.",
            )
    if len(rows) < FEWEST_ROWS:
        raise _refused("The curve has no points.", 0, "at least one point", "Type 50 13.12.")
    first, second = zip(*rows, strict=True)
    swapped = _volts_first(names, first, second, nominal_v)
    level, volts = (second, first) if swapped else (first, second)
    named = names[1 if swapped else 0] if names else ""
    return Columns(level, volts, bool(HOURS_NAMES.search(named)) if named else None)


def _cells(line: str) -> list[str]:
    for mark in (";", "\t"):
        if mark in line:
            return [cell.strip().replace(",", ".") for cell in line.split(mark) if cell.strip()]
    if "," in line and " " in line.strip() and re.search(r"\d,\d+\s+\d", line):
        return line.replace(",", ".").split()
    if "," in line:
        return [cell.strip() for cell in line.split(",") if cell.strip()]
    return line.split()


def _pair(cells: list[str]) -> tuple[float, float] | None:
    if len(cells) < 2:
        return None
    try:
        first, second = (float(cell.rstrip("%VvAh ")) for cell in cells[:2])
    except ValueError:
        return None
    return (first, second) if abs(first) < 1e6 and abs(second) < 1e6 else None


def _volts_first(
    names: list[str], first: tuple[float, ...], second: tuple[float, ...], nominal_v: float
) -> bool:
    if len(names) == 2:
        named = [bool(VOLTS_NAMES.search(name)) for name in names]
        if named[0] != named[1]:
            return named[0]

    def unlike(values: tuple[float, ...]) -> float:
        middle = sorted(values)[len(values) // 2]
        return abs(middle - nominal_v)

    return unlike(first) < unlike(second)


def _refused(text: str, value: object, limit: str, remedy: str) -> PlanError:
    return PlanError(text, where=WHERE, value=str(value), limit=limit, remedy=remedy)
