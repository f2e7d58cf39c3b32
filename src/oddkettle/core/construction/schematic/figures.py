"""What a sheet of the drawing is made of: plain shapes, so that screen, SVG and PDF draw the same.

Lengths are millimetres on the page, y downwards. Positives are drawn solid, negatives hollow,
signals dotted and mains as a chain: grey print tells them apart.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from itertools import pairwise
from typing import Literal

Ink = Literal["sun", "vehicle", "mains", "use", "level", "negative", "danger", "ink"]
Kind = Literal[
    "box", "fuse", "breaker", "switch", "shunt", "battery", "bar", "dot", "number", "plug",
    "earth", "frame", "stud",
]  # fmt: skip
Sign = Literal["+", "-", "signal", "ac"]
Anchor = Literal["start", "middle", "end"]
Point = tuple[float, float]

WIDTH, HEIGHT = 250.0, 178.0
"""Room on an A4 or Letter page lying down, at full size."""
SMALL, INSIDE, LINE, TITLE = 2.9, 3.1, 3.7, 4.4
"""Sizes of letters: beside wires, inside boxes, from line to line, and of the heading."""
HOP, BAR_HOP = 1.3, 2.3
"""Radius of the bow where a line leaps over another, and over a bar."""


@dataclass(frozen=True)
class Hop:
    """A bow of a horizontal line over something that it does not join."""

    x: float
    y: float
    r: float


@dataclass(frozen=True)
class Wire:
    """A conductor along some points; what is of one `net` is joined where it meets."""

    points: tuple[Point, ...]
    ink: Ink
    sign: Sign
    net: str
    circuit: int | None = None
    hops: tuple[Hop, ...] = ()


@dataclass(frozen=True)
class Shape:
    """A symbol in its rectangle, with lines of text inside; a bar has a net, as wires have."""

    kind: Kind
    x: float
    y: float
    w: float
    h: float
    ink: Ink
    circuit: int | None = None
    lines: tuple[str, ...] = ()
    net: str = ""


@dataclass(frozen=True)
class Label:
    """Text whose baseline begins, stands about, or ends at a point."""

    x: float
    y: float
    text: str
    size: float = SMALL
    anchor: Anchor = "start"
    circuit: int | None = None
    bold: bool = False


@dataclass
class Sheet:
    """One sheet; it grows while it is laid out and never changes after that."""

    title: str
    width: float = WIDTH
    height: float = HEIGHT
    wires: list[Wire] = field(default_factory=list)
    shapes: list[Shape] = field(default_factory=list)
    labels: list[Label] = field(default_factory=list)

    def hop(self) -> None:
        """Let every horizontal line leap over what it crosses and does not join."""
        self.wires = [replace(wire, hops=_hops(wire, self)) for wire in self.wires]


def _hops(wire: Wire, sheet: Sheet) -> tuple[Hop, ...]:
    found = []
    for (x0, y0), (x1, y1) in pairwise(wire.points):
        if y0 != y1:
            continue
        low, high = min(x0, x1), max(x0, x1)
        for other in sheet.wires:
            if other.net == wire.net:
                continue
            for (u0, v0), (u1, v1) in pairwise(other.points):
                upright = u0 == u1 and min(v0, v1) < y0 < max(v0, v1)
                if upright and low < u0 < high:
                    found.append(Hop(u0, y0, HOP))
        for bar in sheet.shapes:
            middle = bar.x + bar.w / 2
            if bar.kind != "bar" or bar.net == wire.net or bar.w > bar.h:
                continue
            if bar.y < y0 < bar.y + bar.h and low < middle < high:
                found.append(Hop(middle, y0, BAR_HOP))
    return tuple(found)
