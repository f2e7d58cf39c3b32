"""Bodies as they stand in a box: where, how far apart, what clashes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from oddkettle.core.construction.enclosure.bodies import Body

HEAT_GAP_MM = 30.0
"""Between what gets hot and a battery, whose life halves by each 10 K [judgement]."""
Code = Literal["outside", "overlap", "close", "heat", "high", "above", "missing"]


@dataclass(frozen=True)
class Standing:
    """A body in its place; `pinned` where the user put it there."""

    body: Body
    x_mm: float
    y_mm: float
    z_mm: float = 0.0
    turned: bool = False
    pinned: bool = False

    @property
    def span(self) -> tuple[tuple[float, float], tuple[float, float], tuple[float, float]]:
        """From and to along x, y and z [mm]."""
        along, across = self.body.length_mm, self.body.width_mm
        if self.turned:
            along, across = across, along
        return (
            (self.x_mm, self.x_mm + along),
            (self.y_mm, self.y_mm + across),
            (self.z_mm, self.z_mm + self.body.height_mm),
        )


@dataclass(frozen=True)
class Clash:
    """What does not go: which bodies, by how much [mm], and what would do."""

    code: Code
    bodies: tuple[str, ...]
    by_mm: float
    text: str
    remedy: str


@dataclass(frozen=True)
class Fit:
    """Where everything stands and what is wrong with it.

    `centre_mm` is the centre of mass from the inner corner; `kg` all that is carried.
    """

    standing: tuple[Standing, ...]
    clashes: tuple[Clash, ...]
    kg: float
    centre_mm: tuple[float, float, float]
    verdict: str
    lift: str


def gap_mm(a: Body, b: Body) -> float:
    """Room that two bodies want between them: the larger need of both, more for heat."""
    apart = max(a.clear_mm, b.clear_mm)
    if (a.hot and b.low) or (b.hot and a.low):
        return max(apart, HEAT_GAP_MM)
    return apart


def overlap(a: tuple[float, float], b: tuple[float, float]) -> float:
    """By how much two spans lie over each other; below nought is a gap."""
    return min(a[1], b[1]) - max(a[0], b[0])


def apart_mm(a: Standing, b: Standing) -> float:
    """Free room between two bodies beside or above each other [mm]; negative where they overlap."""
    return max(-overlap(i, j) for i, j in zip(a.span, b.span, strict=True))
