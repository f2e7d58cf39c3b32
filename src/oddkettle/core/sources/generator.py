"""A small fuel generator: it feeds a mains charger of the box, within its watts.

What it burns follows a straight line from idling to full load (Willans' line), which small
engines at a fixed speed follow within some percent.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.messages.caution import Caution
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.mains import MainsCharger, mains_on
from oddkettle.core.sources.source_series import (
    UNLIMITED_W,
    Knob,
    SourceContext,
    SourceKind,
    SourceSeries,
)

Floats = NDArray[np.float64]

FUEL_EURO_H = (0.4, 1.5)
"""Fuel for an hour of a small one, from a quarter of its load to nearly all [judgement]."""

KIND = SourceKind(
    key="generator",
    place=4,
    name="Generator",
    hours_of="running",
    how_made=(
        "While it runs and there is no mains, its charger could give its rating, within the "
        "generator's watts."
    ),
    spare="not needed",
    idle="No run of the generator on this trip that a mains charger could use.",
    passes="the generator passes",
    block="generator",
    through="mains",
    design="mains_a",
    fumes=True,
    knob=Knob(
        "Run the generator",
        "generator",
        "The box has no generator.",
        (60, 120),
        bother=1,
        euro_h=FUEL_EURO_H,
    ),
    cautions=(
        Caution(
            "generator",
            "Exhaust kills without a smell",
            "Carbon monoxide: never run a generator inside, under an awning, or near a door, a "
            "window or a vent. Well away in the open, its exhaust pointing off; an alarm for it "
            "where people sleep. Refuel it cold. Your local code comes first.",
            "public health guidance on portable generators [textbook]",
        ),
    ),
)


@dataclass(frozen=True)
class Generator:
    """`rated_w` for hours [W]; `idle_l_h` and `full_l_h` are what it burns unloaded and at that.

    `feeds` names the mains charger that is plugged into it, the first one when None. While there
    is mains, the charger is plugged in there and the generator has nothing to do. `noisy` ones
    are off in quiet hours; `noise_db` is told at 7 m [dB(A)].
    """

    key: str
    name: str
    rated_w: float
    feeds: str | None = None
    idle_l_h: float = 0.18
    full_l_h: float = 0.55
    tank_l: float = 2.1
    noise_db: float = 58.0
    noisy: bool = True
    stands: Literal["open", "near", "inside"] = "open"
    profile: Profile | None = None

    @property
    def group(self) -> str:
        """The kind's key."""
        return KIND.key

    def forcing(self, context: SourceContext) -> SourceSeries:
        """What its charger could give while it runs and there is no mains."""
        charger = charger_of(self, context.sources)
        none = np.zeros(context.grid.steps)
        if charger is None:
            return SourceSeries(
                kind=KIND.key,
                key=self.key,
                name=self.name,
                efficiency=1.0,
                rating_a=0.0,
                could_w=none,
                could_a=none,
                offer_w=none,
                limit_a=none,
                on=none,
                barred=none,
                raw_w=none,
                wire_w=none,
                source_v=none,
            )
        shares = context.shares
        mains = mains_on(shares["hookup"], shares["outage"], standby=context.standby)
        on = np.minimum(shares["generator"], 1.0 - mains)
        supply_w = self.rated_w if charger.supply_w is None else min(self.rated_w, charger.supply_w)
        return SourceSeries(
            kind=KIND.key,
            key=self.key,
            name=self.name,
            efficiency=charger.efficiency,
            rating_a=charger.limit_a,
            could_w=np.full(context.grid.steps, UNLIMITED_W),
            could_a=charger.limit_a * on,
            offer_w=supply_w * charger.efficiency * on,
            limit_a=charger.limit_a * on,
            on=on,
            barred=none,
            raw_w=none,
            wire_w=none,
            source_v=none,
            noisy=self.noisy or charger.noisy,
            profile=charger.profile,
        )


def charger_of(generator: Generator, sources: tuple[object, ...]) -> MainsCharger | None:
    """The mains charger that a generator feeds; None when the box has no such one."""
    chargers = [source for source in sources if isinstance(source, MainsCharger)]
    if generator.feeds is not None:
        chargers = [charger for charger in chargers if charger.key == generator.feeds]
    return chargers[0] if chargers else None


def fuel_l_h(generator: Generator, load_w: Floats | float) -> Floats:
    """What it burns while it runs [l/h] at an electric load of 0 to `rated_w` [W].

    Willans' line: fuel flow is linear in load at constant speed (Heywood, Internal Combustion
    Engine Fundamentals, 1988, section 13.5).
    """
    share = np.clip(np.asarray(load_w, np.float64) / generator.rated_w, 0.0, 1.0)
    return np.asarray(generator.idle_l_h + share * (generator.full_l_h - generator.idle_l_h))


def fuel_l(generator: Generator, series: SourceSeries, taken_w: Floats, step_h: float) -> float:
    """What it burns over a trip [l]: idling too while it runs and little is taken.

    taken_w : (steps,) power that reached the bus through its charger [W]
    """
    runs = series.on * (1.0 - series.barred)
    # The load is spread over the part of the step in which it runs.
    load_w = np.divide(
        taken_w / series.efficiency, runs, out=np.zeros_like(taken_w), where=runs > 0.0
    )
    return float((fuel_l_h(generator, load_w) * runs).sum() * step_h)
