"""Mains chargers, on while there is a hook-up, or always but for outages when standing by."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.sources.charge_profile import Profile

Floats = NDArray[np.float64]


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


def mains_on(hookup: Floats, outage: Floats, *, standby: bool) -> Floats:
    """(steps,) share of each step in which the mains is there."""
    there = np.ones_like(hookup) if standby else hookup
    return np.asarray(there * (1.0 - outage))
