"""Sleeps, and wakes for some seconds."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.loads.pattern import Running
from oddkettle.core.units.conversion import SECONDS_PER_DAY

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Logger:
    """Sleeps at `sleep_w`; wakes `events_a_day` times for `seconds` at the appliance's power."""

    sleep_w: float
    events_a_day: float
    seconds: float

    @property
    def awake_share(self) -> float:
        """Share of the time in which it is awake."""
        return min(self.events_a_day * self.seconds / SECONDS_PER_DAY, 1.0)

    def power_in(self, running: Running) -> tuple[Floats, float]:
        """The mean of sleep and waking."""
        awake = self.awake_share
        mean_w = awake * running.power_w + (1.0 - awake) * self.sleep_w
        return running.window * mean_w, running.power_w

    def per_kelvin(self, duty: float, air_c: Floats) -> None:
        """Warmth is nothing to it."""
