"""Fuses and breakers: standard sizes, families, and what each can break at which voltage."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.core.simulation.own_wiring import Family

LOAD_FACTOR = 1.25
"""A fuse is at least so much above the continuous current, or it ages and blows [textbook]."""
BLADE_A = (2.0, 3.0, 5.0, 7.5, 10.0, 15.0, 20.0, 25.0, 30.0, 40.0)
STRIP_A = (30.0, 40.0, 50.0, 60.0, 70.0, 80.0, 100.0, 125.0, 150.0, 200.0, 250.0)
TERMINAL_A = (30.0, 40.0, 50.0, 60.0, 70.0, 80.0, 100.0, 125.0, 150.0, 200.0, 250.0, 300.0)
CLASS_T_A = (
    60.0, 80.0, 100.0, 110.0, 125.0, 150.0, 175.0, 200.0, 225.0, 250.0, 300.0, 350.0, 400.0,
)  # fmt: skip
BREAKER_A = (5.0, 10.0, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 60.0, 80.0, 100.0, 150.0)
"""Standard sizes [standard series]."""
UNEVEN = 1.2
"""Batteries in parallel never share evenly: one carries so much of its share [judgement]."""


@dataclass(frozen=True)
class FuseKind:
    """A family: its sizes [A], and the largest current that it breaks safely [A] up to a voltage.

    `breaks` are pairs (volts, amps), the lowest voltage first; above the last it breaks nothing.
    """

    key: Family
    name: str
    sizes_a: tuple[float, ...]
    breaks: tuple[tuple[float, float], ...]
    source: str
    holder_a: float = 1e9
    """What its holder bears for hours, whatever the fuse in it [A]."""

    @property
    def rated_v(self) -> float:
        """Highest direct voltage at which it may be used."""
        return self.breaks[-1][0]

    def breaks_a(self, volts: float) -> float:
        """What it breaks where so many volts stand behind the fault [A]."""
        return next((amps for most_v, amps in self.breaks if volts <= most_v), 0.0)


CLASS_12_V, CLASS_24_V = 16.0, 32.0
"""A 12 V system charges at up to 15 V, a 24 V one at up to 30: what sheets call 14 and 32 V."""
FAMILIES: dict[Family, FuseKind] = {
    kind.key: kind
    for kind in (
        FuseKind("blade", "blade fuse", BLADE_A, ((CLASS_24_V, 1_000.0),),
                 "blade fuses break about 1 kA at 32 V, their holders bear 24 A for hours "
                 "[textbook]", holder_a=24.0),
        FuseKind("strip", "bolt-down strip fuse", STRIP_A, ((CLASS_24_V, 2_000.0),),
                 "strip fuses break 2 to 6 kA at 32 V by maker: the low end counts [textbook]"),
        FuseKind("terminal", "terminal fuse", TERMINAL_A,
                 ((CLASS_12_V, 10_000.0), (CLASS_24_V, 5_000.0), (58.0, 2_000.0)),
                 "marine terminal fuses break 10 kA at 14 V, 5 kA at 32 V, 2 kA at 58 V "
                 "[textbook]"),
        FuseKind("class_t", "class T fuse", CLASS_T_A, ((125.0, 20_000.0),),
                 "class T fuses break 20 kA to 125 V [textbook]"),
        FuseKind("breaker", "DC breaker", BREAKER_A, ((CLASS_12_V, 2_500.0), (125.0, 1_500.0)),
                 "small DC breakers break 2.5 to 5 kA at 14 V, less above: read the sheet "
                 "[judgement]"),
    )
}  # fmt: skip
BY_SIZE: tuple[Family, ...] = ("blade", "strip", "terminal", "class_t")
"""Fuses from the cheapest family to the one that breaks most."""


def least_size_a(continuous_a: float, family: Family) -> float | None:
    """Smallest standard size of a family for a continuous current.

    None above the largest, and above what its holder bears.
    """
    wanted = LOAD_FACTOR * continuous_a
    if continuous_a > FAMILIES[family].holder_a:
        return None
    return next((size for size in FAMILIES[family].sizes_a if size >= wanted - 1e-9), None)


def largest_within_a(ampacity_a: float, family: Family) -> float | None:
    """Largest standard size that a conductor allows, or None below the smallest."""
    sizes = [size for size in FAMILIES[family].sizes_a if size <= ampacity_a + 1e-9]
    return max(sizes, default=None)


def family_for(continuous_a: float, short_a: float, volts: float) -> Family | None:
    """The cheapest family with a size for the current that breaks `short_a` at `volts`."""
    for family in BY_SIZE:
        breaks = FAMILIES[family].breaks_a(volts)
        if breaks >= max(short_a, 1e-9) and least_size_a(continuous_a, family) is not None:
            return family
    return None


def largest_family(short_a: float, volts: float) -> Family | None:
    """The family that goes furthest among those that break a short of `short_a` at `volts`."""
    breaking = [family for family in BY_SIZE if FAMILIES[family].breaks_a(volts) >= short_a]
    return max(breaking, key=lambda family: FAMILIES[family].sizes_a[-1], default=None)


def post_fuse(
    bank_a: float, posts: int, short_a: float, volts: float
) -> tuple[Family | None, float | None]:
    """(family, size [A]) of the fuse at each battery of a bank in parallel; None where none.

    bank_a : what the whole bank carries for hours [A]; short_a : what a short sends through it [A]
    """
    if posts < 2:
        return None, None
    share_a = UNEVEN * bank_a / posts
    family = family_for(share_a, short_a, volts)
    return family, None if family is None else least_size_a(share_a, family)
