"""A label's text into the fields of one kind of part."""

from __future__ import annotations

import re
from dataclasses import dataclass

from oddkettle.formats.labels.battery import BATTERY
from oddkettle.formats.labels.chargers import CONTROLLER, DCDC, INVERTER, MAINS
from oddkettle.formats.labels.figures import Figure, with_units_behind
from oddkettle.formats.labels.kind import Found, LabelKind, Note, Value
from oddkettle.formats.labels.pairing import Pair, pairs_of
from oddkettle.formats.labels.panel import PANEL
from oddkettle.formats.labels.uses import APPLIANCE, UNIT

KINDS = {
    kind.key: kind for kind in (UNIT, DCDC, CONTROLLER, INVERTER, PANEL, BATTERY, MAINS, APPLIANCE)
}
"""By key; of two that fit a text alike the first is meant."""
MAX_TEXT = 6000
LIKELY, SURE = 2, 3
"""So many names of one kind tell it without any other word."""


@dataclass(frozen=True)
class Line:
    """One figure or word of a label: as it was printed, where it goes, what was taken of it."""

    typed: str
    field: str | None
    goes: str
    value: Value | None
    unit: str
    means: str


@dataclass(frozen=True)
class Label:
    """What a label says, of which kind of part."""

    kind: LabelKind
    lines: tuple[Line, ...]
    values: dict[str, Value]
    missing: tuple[str, ...]
    notes: tuple[Note, ...]

    @property
    def agreed(self) -> dict[str, Value]:
        """The values that may be taken over: which of two that disagree is wrong, nobody knows."""
        disputed = {note.field for note in self.notes}
        if disputed & self.kind.together:
            disputed |= self.kind.together
        return {name: value for name, value in self.values.items() if name not in disputed}


def kind_of(text: str) -> LabelKind | None:
    """Which part a text is about; None where nothing tells."""
    plain = with_units_behind(text[:MAX_TEXT])
    best: tuple[float, LabelKind] | None = None
    for kind in KINDS.values():
        told = len(
            {found.group().lower() for found in re.finditer(kind.tells, plain, re.IGNORECASE)}
        )
        named = len({p.name.pattern for p in pairs_of(plain, kind) if p.name})
        told += SURE * bool(re.search(kind.sure, plain, re.IGNORECASE))
        score = 2.0 * told + named if told or named >= SURE else 0.0
        if score > 0 and (best is None or score > best[0]):
            best = (score, kind)
    if best:
        return best[1]
    units = {pair.figure.unit for pair in pairs_of(plain, APPLIANCE)}
    return APPLIANCE if len(units & {"V", "A", "W"}) >= 2 else None


def looks_like_one(text: str) -> bool:
    """Whether a text is more likely a label than a sentence: names that only labels use."""
    plain = with_units_behind(text[:MAX_TEXT])
    return any(
        len({p.name.pattern for p in pairs_of(plain, kind) if p.name}) >= LIKELY
        for kind in KINDS.values()
    )


def read_label(text: str, kind: LabelKind) -> Label:
    """Every figure of a text with the field that it goes into."""
    plain = with_units_behind(text[:MAX_TEXT])
    found = Found(text=plain)
    pairs = pairs_of(plain, kind)
    taken = _taken(pairs, kind)
    lines: list[Line] = []
    for pair in pairs:
        field = taken.get(pair.figure.start)
        if field is not None:
            found.figures[field] = pair.figure
            found.values[field] = _value(pair.figure, kind, field)
    for field, value, pattern in kind.words:
        if field not in found.values and re.search(pattern, plain, re.IGNORECASE):
            found.values[field] = value
            typed = re.search(pattern, plain, re.IGNORECASE)
            assert typed is not None
            lines.append(Line(typed.group(), field, kind.fields[field].text, value, "", ""))
    kind.finish(found)
    lines = [*lines, *(_line(pair, taken, kind, found) for pair in pairs)]
    return Label(kind, tuple(lines), found.values, tuple(found.missing), tuple(found.notes))


def _taken(pairs: list[Pair], kind: LabelKind) -> dict[int, str]:
    """The field of each figure that counts, by where it starts."""
    ranks: dict[str, tuple[int, int]] = {}
    named = [(p, p.name.fields.get(p.figure.unit), p.name.rank) for p in pairs if p.name]
    bare = [(p, kind.bare.get(p.figure.unit), -1) for p in pairs if not p.name and not p.condition]
    for pair, field, rank in (*named, *bare):
        if field is None:
            continue
        before = ranks.get(field)
        if before is None or rank > before[0]:
            ranks[field] = (rank, pair.figure.start)
    return {start: field for field, (_, start) in ranks.items()}


def _value(figure: Figure, kind: LabelKind, field: str) -> float:
    take = kind.fields[field].take
    value = {"high": figure.high, "low": figure.low, "middle": figure.middle}[take]
    return float(round(value, 4))


def _line(pair: Pair, taken: dict[int, str], kind: LabelKind, found: Found) -> Line:
    field = taken.get(pair.figure.start)
    if field is None:
        means = "the condition of another figure" if pair.condition else ""
        if pair.name and pair.figure.unit in pair.name.fields:
            again = pair.name.fields[pair.figure.unit] is not None
            means = "said once more, or for another condition" if again else pair.name.means
        return Line(pair.figure.typed, None, "", None, "", means)
    goes = kind.fields[field]
    # A value that does not hold was taken out again: the figure is shown as it was printed.
    value = found.values.get(goes.makes or field, _value(pair.figure, kind, field))
    return Line(pair.figure.typed, field, goes.text, value, goes.unit, "")
