"""Runs of some minutes, spread over the hours."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.loads.pattern import Running, on_share

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Bursts:
    """So many runs a day of so many minutes, spread over the hours."""

    times_a_day: float
    minutes: float

    def share_of(self, open_h_a_day: float) -> float:
        """Share of its open hours in which it runs."""
        if open_h_a_day <= 0.0:
            return 0.0
        return min(self.times_a_day * self.minutes / (60.0 * open_h_a_day), 1.0)

    def power_in(self, running: Running) -> tuple[Floats, float]:
        """Whole runs, evenly spread."""
        open_h = float(running.window.sum()) * running.grid.step_h / running.days
        share = np.full(running.grid.steps, self.share_of(open_h))
        open_min = float(running.window.sum()) * running.grid.step_min / running.days
        cycle_min = max(open_min / max(self.times_a_day, 1e-9), 1.0)
        on = on_share(share, cycle_min, running.grid.step_min)
        return running.window * on * running.power_w, running.power_w

    def per_kelvin(self, duty: float, air_c: Floats) -> None:
        """Warmth is nothing to it."""
