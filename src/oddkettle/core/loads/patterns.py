"""How an appliance runs within its hours: a fridge's cycles, bursts, a radio's duty, a logger."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.units import SECONDS_PER_DAY

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Fridge:
    """A compressor box: its duty follows the air.

    Set to `set_c`; the appliance's duty holds at `reference_c` outside. `warmer_k` is what its
    place is warmer than the air, `lid` what openings and warm goods add (share), `cycle_min` how
    long one on-and-off takes.
    """

    set_c: float = 4.0
    reference_c: float = 25.0
    warmer_k: float = 0.0
    lid: float = 0.0
    cycle_min: float = 40.0


@dataclass(frozen=True)
class Radio:
    """`receive_w` while listening; the appliance's power while sending, a `transmit` share."""

    receive_w: float
    transmit: float


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


Pattern = Fridge | Radio | Bursts | Logger


def fridge_duty(fridge: Fridge, duty_ref: float, air_c: Floats) -> Floats:
    """(steps,) share of the time in which the compressor runs, 0..1.

    In proportion to how much warmer its place is than its inside [textbook].
    """
    span = fridge.reference_c - fridge.set_c
    duty = duty_ref * (air_c + fridge.warmer_k - fridge.set_c) / span
    return np.clip(duty * (1.0 + fridge.lid), 0.0, 1.0)


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
