"""Fuses and breakers: standard sizes, families, and what each family can break."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.core.own_wiring import Family

LOAD_FACTOR = 1.25
"""A fuse is at least so much above the continuous current, or it ages and blows [textbook]."""
BLADE_A = (2.0, 3.0, 5.0, 7.5, 10.0, 15.0, 20.0, 25.0, 30.0, 40.0)
BOLTED_A = (30.0, 40.0, 50.0, 60.0, 70.0, 80.0, 100.0, 125.0, 150.0, 200.0, 250.0)
"""Standard sizes [standard series]; 250 A is sold in the bolted families only."""
BREAKER_A = (5.0, 10.0, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 60.0, 80.0, 100.0, 150.0)


@dataclass(frozen=True)
class FuseKind:
    """A family: its sizes [A] and the largest current that it breaks safely [A]."""

    key: Family
    name: str
    sizes_a: tuple[float, ...]
    breaks_a: float
    source: str


FAMILIES: dict[Family, FuseKind] = {
    kind.key: kind
    for kind in (
        FuseKind(
            "blade", "blade fuse", BLADE_A, 1_000.0, "blade fuses break about 1 kA [textbook]"
        ),
        FuseKind(
            "strip",
            "bolt-down strip fuse",
            BOLTED_A,
            2_000.0,
            "strip fuses break 2 to 6 kA by maker: the low end counts [textbook]",
        ),
        FuseKind(
            "terminal",
            "terminal fuse",
            BOLTED_A,
            10_000.0,
            "marine terminal fuses break 10 kA [textbook]",
        ),
        FuseKind(
            "class_t", "class T fuse", BOLTED_A, 20_000.0, "class T fuses break 20 kA [textbook]"
        ),
        FuseKind(
            "breaker",
            "DC breaker",
            BREAKER_A,
            3_000.0,
            "small DC breakers break 3 kA or so: read the sheet [judgement]",
        ),
    )
}
BY_SIZE: tuple[Family, ...] = ("blade", "strip", "terminal", "class_t")
"""Fuses from the cheapest family to the one that breaks most."""


def least_size_a(continuous_a: float, family: Family) -> float | None:
    """Smallest standard size of a family for a continuous current, or None above the largest."""
    wanted = LOAD_FACTOR * continuous_a
    return next((size for size in FAMILIES[family].sizes_a if size >= wanted - 1e-9), None)


def largest_within_a(ampacity_a: float, family: Family) -> float | None:
    """Largest standard size that a conductor allows, or None below the smallest."""
    sizes = [size for size in FAMILIES[family].sizes_a if size <= ampacity_a + 1e-9]
    return max(sizes, default=None)


def family_for(continuous_a: float, short_a: float) -> Family | None:
    """The cheapest family with a size for the current that also breaks a short of `short_a`."""
    for family in BY_SIZE:
        if FAMILIES[family].breaks_a >= short_a and least_size_a(continuous_a, family) is not None:
            return family
    return None
