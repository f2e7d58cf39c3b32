"""What the label of one kind of part may say: its names, its fields, what must agree."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Literal

from oddkettle.formats.labels.figures import Figure

Take = Literal["high", "low", "middle"]
Value = float | str


@dataclass(frozen=True)
class Goes:
    """A field that a figure goes into: its text on the sheet, unit, what is taken of a range."""

    text: str
    unit: str = ""
    take: Take = "high"
    makes: str = ""
    """The field that is worked out of it, where it is none itself."""


@dataclass(frozen=True)
class Name:
    """How labels call a figure: a pattern, and the field that a figure of each unit goes into.

    None where it goes nowhere, which `means` explains. Of two names of one field that of the
    higher `rank` counts.
    """

    pattern: str
    fields: Mapping[str, str | None]
    means: str = ""
    rank: int = 0


@dataclass(frozen=True)
class Note:
    """What does not agree on a label, and the field that it is about."""

    field: str
    text: str


@dataclass
class Found:
    """What a label said: values by field, those that are wanting, and what does not agree."""

    values: dict[str, Value] = field(default_factory=dict)
    missing: list[str] = field(default_factory=list)
    notes: list[Note] = field(default_factory=list)
    figures: dict[str, Figure] = field(default_factory=dict)
    """Where the value of a field stood."""
    text: str = ""

    def number(self, name: str) -> float | None:
        """The value of a field that is a number; None where the label has none."""
        value = self.values.get(name)
        return value if isinstance(value, float) else None

    def drop(self, name: str, text: str) -> None:
        """Take a value out again, and say why."""
        self.values.pop(name, None)
        self.notes.append(Note(name, text))


@dataclass(frozen=True)
class LabelKind:
    """A kind of part.

    Its `names` (the longest that fits counts), what a figure without a name is by its unit
    (`bare`), words that tell a value (`words`), and `finish`, which works out the rest.
    `tells` are words by which such a label is known, `sure` those that only it has. Of
    fields that belong `together` none counts where one does not agree.
    """

    key: str
    text: str
    fields: Mapping[str, Goes]
    names: tuple[Name, ...]
    bare: Mapping[str, str]
    finish: Callable[[Found], None]
    tells: str
    words: tuple[tuple[str, str, str], ...] = ()
    sure: str = r"(?!)"
    together: frozenset[str] = frozenset()

    def name_at(self, text: str, at: int) -> tuple[Name, int] | None:
        """The name that begins there, and where it ends: the longest."""
        best: tuple[Name, int] | None = None
        for name, pattern in self._patterns():
            found = pattern.match(text, at)
            if found and (best is None or found.end() > best[1]):
                best = (name, found.end())
        return best

    def _patterns(self) -> list[tuple[Name, re.Pattern[str]]]:
        return [(name, _compiled(name.pattern)) for name in self.names]


_COMPILED: dict[str, re.Pattern[str]] = {}


def _compiled(pattern: str) -> re.Pattern[str]:
    if pattern not in _COMPILED:
        spaced = pattern.replace(" ", r"[\s._-]*")
        _COMPILED[pattern] = re.compile(rf"(?:{spaced})(?![a-zäöüé])", re.IGNORECASE)
    return _COMPILED[pattern]
