"""The labels of the corpus: a text, the kind of part, and what should be read.

Each begins with `=== what it is like`; below `--- kind` stand `field value`, `? field` for what is
wanting and `! field` for what must be told not to agree.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from pathlib import Path

CORPUS = Path(__file__).parent / "corpus"
ROUNDED = 0.02
"""Labels round; what is worked out may differ by so much."""


@dataclass
class Wanted:
    """One label, and what a careful reader makes of it."""

    title: str
    text: str
    kind: str
    values: dict[str, float | str] = field(default_factory=dict)
    missing: set[str] = field(default_factory=set)
    disputed: set[str] = field(default_factory=set)


def labels() -> list[Wanted]:
    """All of them."""
    return [
        _wanted(block)
        for path in sorted(CORPUS.glob("*.txt"))
        for block in re.split(r"^=== ", path.read_text("utf-8"), flags=re.MULTILINE)[1:]
    ]


def _wanted(block: str) -> Wanted:
    title, rest = block.split("\n", 1)
    text, said = rest.split("\n--- ", 1)
    kind, *lines = said.strip().split("\n")
    found = Wanted(title, text, kind)
    for line in lines:
        name, value = line.split(" ", 1)
        if name == "?":
            found.missing.add(value)
        elif name == "!":
            found.disputed.add(value)
        else:
            found.values[name] = float(value) if re.fullmatch(r"-?[\d.]+", value) else value
    return found


def wrong(got: dict[str, float | str], wanted: dict[str, float | str]) -> set[str]:
    """Fields that were read with another value than stands there, or that nobody printed."""
    return {name for name, value in got.items() if not _same(value, wanted.get(name))}


def _same(a: float | str, b: float | str | None) -> bool:
    if isinstance(a, str) or not isinstance(b, float):
        return a == b
    return abs(a - b) <= max(ROUNDED * abs(b), 0.006)
