"""Lines of the parts list, and what they add up to."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.core.construction.parts.catalogue import Article


@dataclass(frozen=True)
class Known:
    """What its owner knows of a part: price [euro] and weight [kg] of one, its size [mm]."""

    part: str
    owned: bool = False
    euro: float | None = None
    kg: float | None = None
    length_mm: float | None = None
    width_mm: float | None = None
    height_mm: float | None = None


@dataclass(frozen=True)
class Line:
    """A line of the parts list; prices are of all of it [euro], the weight too [kg]."""

    article: Article
    owned: bool
    euro_low: float
    euro_high: float
    kg: float
    price_known: bool
    weight_known: bool
    size_known: bool


@dataclass(frozen=True)
class Totals:
    """Sums of a list: to buy, and as if nothing were owned [euro]; all of it [kg].

    `carried_kg` leaves out panels and what stays in the vehicle.
    """

    buy_low: float
    buy_high: float
    all_low: float
    all_high: float
    kg: float
    carried_kg: float


@dataclass(frozen=True)
class BuiltOf:
    """What a list depends on besides run and circuits.

    `empty_kg` the empty box [kg]; `waste` share of cable bought beyond need, 0..1; `apart` where
    the battery has a box of its own; `shelves` how many the layout stands on; `vents` how many
    are low, and as many high.
    """

    material: str = "wood"
    empty_kg: float = 0.0
    waste: float = 0.0
    apart: bool = False
    shelves: int = 0
    vents: int = 0


def totals_of(lines: tuple[Line, ...]) -> Totals:
    """What a list comes to."""
    buy = [line for line in lines if not line.owned]
    return Totals(
        buy_low=sum(line.euro_low for line in buy),
        buy_high=sum(line.euro_high for line in buy),
        all_low=sum(line.euro_low for line in lines),
        all_high=sum(line.euro_high for line in lines),
        kg=sum(line.kg for line in lines),
        carried_kg=sum(line.kg for line in lines if line.article.inside),
    )
