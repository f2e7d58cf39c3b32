"""Which figure of a label belongs to which name.

Labels put the name first ("Voc 21.8 V"), last ("21.8 V Voc"), above in a table, or on a line of its
own. Within a clause the reading that joins more figures to names is taken, the name first where
both join as many; one name may head several figures ("Output: 14.4 V, 20 A").
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from oddkettle.formats.labels.figures import Figure, figures_of
from oddkettle.formats.labels.kind import LabelKind, Name

APART = re.compile(r"\n|;|\||,|\(|\)|\t|\s/\s|\.(?=\s|$)|\s(?:and|und|et)\s", re.IGNORECASE)
ENDS = {"\n", ";"}
CONDITION = re.compile(r"(?:\bat|@|\bbei|\bà)\s*$", re.IGNORECASE)


@dataclass
class Item:
    """A name or a figure of the text, between `start` and `end`."""

    start: int
    end: int
    name: Name | None = None
    figure: Figure | None = None


@dataclass
class Clause:
    """What stands between two commas or brackets; `opened` by a bracket."""

    items: list[Item] = field(default_factory=list)
    opened: bool = False

    @property
    def names(self) -> list[Item]:
        """Its names."""
        return [item for item in self.items if item.name is not None]

    @property
    def figures(self) -> list[Item]:
        """Its figures."""
        return [item for item in self.items if item.figure is not None]


@dataclass
class Pair:
    """A figure and the name that it belongs to; None where it stands alone."""

    figure: Figure
    name: Name | None
    condition: bool = False
    """It says under which condition another one holds."""


def pairs_of(text: str, kind: LabelKind) -> list[Pair]:
    """Every figure of a label with its name, in the order of the text."""
    pairs: dict[int, Pair] = {}
    waiting: list[Name] = []
    for line in _lines(text, kind):
        names = [item.name for clause in line for item in clause.names if item.name]
        figures = [item for clause in line for item in clause.figures]
        if names and not figures:
            waiting = names
            continue
        if figures and not names and waiting:
            _by_order(waiting, figures, pairs)
            waiting = []
            continue
        waiting = []
        _pair_line(line, text, pairs)
    return [pairs[start] for start in sorted(pairs)]


def _pair_line(line: list[Clause], text: str, pairs: dict[int, Pair]) -> None:
    heading: Name | None = None
    headed: set[str] = set()
    before: Pair | None = None
    for clause in line:
        joined = _joined(clause)
        for item in clause.figures:
            figure = item.figure
            assert figure is not None
            name = joined.get(item.start)
            condition = name is None and bool(CONDITION.search(text[: item.start]))
            free = heading is not None and figure.unit in heading.fields.keys() - headed
            if name is None and not condition and free and not clause.names:
                name = heading
            if name is not None and name is heading:
                headed.add(figure.unit)
            before = pairs[item.start] = Pair(figure, name, condition)
        if clause.opened and clause.names and not clause.figures and before and not before.name:
            said = clause.names[0].name
            if said and before.figure.unit in said.fields:
                before.name = said
        if clause.names and not clause.opened:
            heading = clause.names[-1].name
            headed = {
                item.figure.unit
                for item in clause.figures
                if item.figure and joined.get(item.start) is heading
            }


def _by_order(names: list[Name], figures: list[Item], pairs: dict[int, Pair]) -> None:
    """A table: the values stand in the order of the names above them."""
    left = list(names)
    for item in figures:
        assert item.figure is not None
        place = next((n for n, name in enumerate(left) if item.figure.unit in name.fields), None)
        name = None if place is None else left[place]
        if place is not None:
            left = left[place + 1 :]
        pairs[item.start] = Pair(item.figure, name)


def _joined(clause: Clause) -> dict[int, Name]:
    """The name of each figure, by where it starts: the name first or last, as joins more."""
    first = _names_first(clause.items)
    last = _names_first(clause.items[::-1], nearest=True)
    return last if len(last) > len(first) else first


def _names_first(items: list[Item], *, nearest: bool = False) -> dict[int, Name]:
    found: dict[int, Name] = {}
    name: Name | None = None
    had: set[str] = set()
    for item in items:
        if item.name is not None:
            name, had = item.name, set()
        elif item.figure is not None and name is not None:
            unit = item.figure.unit
            if unit in name.fields and unit not in had:
                found[item.start] = name
                had = {*had, unit}
            elif nearest:
                name = None
    return found


def _lines(text: str, kind: LabelKind) -> list[list[Clause]]:
    """The text in lines of clauses."""
    figures = {figure.start: figure for figure in figures_of(text)}
    lines: list[list[Clause]] = [[Clause()]]
    at = 0
    while at < len(text):
        figure = figures.get(at)
        inside = at > 0 and text[at - 1].isalpha() and text[at].isalpha()
        named = None if inside else kind.name_at(text, at)
        if named is not None and (figure is None or named[1] > figure.end):
            lines[-1][-1].items.append(Item(at, named[1], name=named[0]))
            at = max(named[1], at + 1)
            continue
        if figure is not None:
            lines[-1][-1].items.append(Item(at, figure.end, figure=figure))
            at = figure.end
            continue
        apart = APART.match(text, at)
        if apart is not None:
            if apart.group() in ENDS:
                lines.append([Clause()])
            else:
                lines[-1].append(Clause(opened=apart.group() == "("))
            at = max(apart.end(), at + 1)
            continue
        at += 1
    return [line for line in lines if any(clause.items for clause in line)]
