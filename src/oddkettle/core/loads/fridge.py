"""A compressor box: its duty follows the air."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.loads.pattern import Running, on_share

Floats = NDArray[np.float64]


FRIDGE_WORDS = (
    "cool box", "coolbox", "cooler", "fridge", "compressor box", "freezer", "refrigerator",
)  # fmt: skip
"""What such a thing is called, as it is typed."""


@dataclass(frozen=True)
class Fridge:
    """A compressor box: its duty follows the air.

    Set to `set_c`; the appliance's duty is what it runs at `reference_c` outside and `duty_set_c`
    inside, whatever it is set to now. `warmer_k` is what its place is warmer than the air, `lid`
    what openings and warm goods add (share), `cycle_min` how long one on-and-off takes. A heated
    place is never colder than `room_c`; None where it follows the air.
    """

    set_c: float = 4.0
    reference_c: float = 25.0
    warmer_k: float = 0.0
    lid: float = 0.0
    cycle_min: float = 40.0
    duty_set_c: float = 4.0
    room_c: float | None = None

    def growth(self, air_c: Floats | float) -> Floats:
        """How often it runs at `air_c`, over how often as its duty was told.

        In proportion to how much warmer its place is than its inside, as heat flows through a
        wall [Fourier; textbook].
        """
        place_c = np.asarray(air_c + self.warmer_k, np.float64)
        if self.room_c is not None:
            place_c = np.maximum(place_c, self.room_c)
        lift = place_c - self.set_c
        return np.asarray(lift / (self.reference_c - self.duty_set_c) * (1.0 + self.lid))

    def duty_at(self, duty: float, air_c: Floats) -> Floats:
        """(steps,) share of the time in which the compressor runs, 0..1."""
        return np.clip(duty * self.growth(air_c), 0.0, 1.0)

    def power_in(self, running: Running) -> tuple[Floats, float]:
        """Whole cycles, as long as the air of the moment asks."""
        duty = self.duty_at(running.duty, running.air_c)
        # Two fridges do not start together: each begins its cycle elsewhere.
        on = on_share(duty, self.cycle_min, running.grid.step_min, shift_min=7 * running.place)
        return running.window * on * running.power_w, running.power_w

    def per_kelvin(self, duty: float, air_c: Floats) -> Floats:
        """(steps,) growth of its duty a kelvin, over its duty."""
        now = self.duty_at(duty, air_c)
        more = self.duty_at(duty, air_c + 1.0) - now
        return np.divide(more, now, out=np.zeros_like(now), where=now > 0.0)
