"""How an appliance runs within its hours: what every pattern tells, and real on-and-off cycles."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.trip.grid import Grid
from oddkettle.core.units.conversion import HOURS_PER_DAY

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Running:
    """What surrounds an appliance that runs by a pattern.

    power_w : its power [W]; duty : the share that its owner told, 0..1
    window : (steps,) share of each step in which its hours are open
    air_c : (steps,) air temperature [C]
    place : where it stands in the list, so that two of a kind do not start together
    """

    power_w: float
    duty: float
    window: Floats
    air_c: Floats
    grid: Grid
    place: int

    @property
    def days(self) -> float:
        """How long the trip is."""
        return self.grid.steps * self.grid.step_h / HOURS_PER_DAY


class Pattern(Protocol):
    """How an appliance runs in its hours: one class a kind, in a file of its own."""

    def power_in(self, running: Running) -> tuple[Floats, float]:
        """(mean power while its hours are open, by step; power while it really runs) [W]."""

    def per_kelvin(self, duty: float, air_c: Floats) -> Floats | None:
        """(steps,) how much more it draws a kelvin, as a share; None where warmth is nothing to it.

        What is kept of the trip's scenarios: each has an air of its own.
        """


def on_share(duty: Floats, cycle_min: float, step_min: int, shift_min: float = 0.0) -> Floats:
    """(steps,) share of each step that falls in real on-blocks of a cycling appliance.

    Each cycle begins with its on-block, as long as the duty at that moment asks; means over
    whole cycles are those of the duty, and peaks are real.
    """
    steps = len(duty)
    edges = np.arange(steps + 1) * float(step_min) + shift_min
    cycles = int(np.ceil(edges[-1] / cycle_min)) + 1
    begins = np.arange(cycles) * cycle_min
    at = np.clip(((begins - shift_min) / step_min).astype(int), 0, steps - 1)
    on_min = duty[at] * cycle_min
    before = np.concatenate([[0.0], np.cumsum(on_min)])
    whole = np.minimum((edges / cycle_min).astype(int), cycles - 1)
    run = before[whole] + np.minimum(edges - begins[whole], on_min[whole])
    return np.asarray(np.diff(run) / step_min)
