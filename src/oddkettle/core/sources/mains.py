"""Mains chargers, on while there is a hook-up, or always but for outages when standing by."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.messages.caution import Caution
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.source_series import (
    UNLIMITED_W,
    SourceContext,
    SourceKind,
    SourceSeries,
)

Floats = NDArray[np.float64]

KIND = SourceKind(
    key="mains",
    place=3,
    name="Mains",
    hours_of="hook-ups",
    how_made="Its rating while the mains is there, until the battery slows it.",
    spare="not needed",
    idle="No hook-up on this trip, so it never starts.",
    block="hookup",
    design="mains_a",
    cautions=(
        Caution(
            "mains",
            "Mains kills",
            "Mains wiring, inlets and protective devices are for licensed people under your local "
            "code. Keep the charger dry and in free air.",
            "electrical codes everywhere [textbook]",
            ("inverter",),
        ),
    ),
)


@dataclass(frozen=True)
class MainsCharger:
    """`limit_a` is its rated output current [A]; `efficiency` 0..1, .85 to .92 is usual.

    `supply_w` is what the hook-up's breaker leaves for it [W]. A trickle charger is one with a
    small limit and a single voltage.
    """

    key: str
    name: str
    limit_a: float
    efficiency: float
    supply_w: float | None = None
    profile: Profile | None = None
    noisy: bool = False

    @property
    def group(self) -> str:
        """The kind's key."""
        return KIND.key

    def forcing(self, context: SourceContext) -> SourceSeries:
        """What it could give over the trip."""
        return mains_series(self, context)


def mains_on(hookup: Floats, outage: Floats, *, standby: bool) -> Floats:
    """(steps,) share of each step in which the mains is there."""
    there = np.ones_like(hookup) if standby else hookup
    return np.asarray(there * (1.0 - outage))


def mains_series(charger: MainsCharger, context: SourceContext) -> SourceSeries:
    """What a mains charger could give while there is mains."""
    shares = context.shares
    there = mains_on(shares["hookup"], shares["outage"], standby=context.standby)
    none = np.zeros_like(there)
    supply = UNLIMITED_W if charger.supply_w is None else charger.supply_w * charger.efficiency
    return SourceSeries(
        kind=KIND.key,
        key=charger.key,
        name=charger.name,
        efficiency=charger.efficiency,
        rating_a=charger.limit_a,
        could_w=np.full_like(there, UNLIMITED_W),
        could_a=charger.limit_a * there,
        offer_w=np.full_like(there, UNLIMITED_W) if supply == UNLIMITED_W else supply * there,
        limit_a=charger.limit_a * there,
        on=there,
        barred=none,
        raw_w=none,
        wire_w=none,
        source_v=none,
        noisy=charger.noisy,
        profile=charger.profile,
    )
