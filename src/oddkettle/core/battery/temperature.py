"""How warm the battery is: its housing lags the air, and pads may heat it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

BARE_LAG_H, INSULATED_LAG_H = 4.0, 12.0
"""Time constant of a battery bare and of one boxed and insulated [h, judgement]."""
HEAT_CAPACITY_J_KG_K = 1000.0
"""Of batteries, lead or lithium, about 1 kJ/(kg K) [textbook]."""


@dataclass(frozen=True)
class Housing:
    """What stands around the battery.

    `lag_h` is the time constant to the air [h, > 0]; `offset_k` what the place is warmer than
    outside (a lived-in van); `extra_kg` of other mass that warms with it.
    """

    lag_h: float = BARE_LAG_H
    offset_k: float = 0.0
    extra_kg: float = 0.0

    def constants(self, battery_kg: float, step_h: float) -> tuple[float, float]:
        """(decay over a step, thermal resistance [K/W]): tau over heat capacity."""
        heat_capacity = (battery_kg + self.extra_kg) * HEAT_CAPACITY_J_KG_K
        return float(np.exp(-step_h / self.lag_h)), self.lag_h * 3600.0 / heat_capacity


@dataclass(frozen=True)
class Heater:
    """Pads on the box's own energy, with a thermostat on the battery [W, C]."""

    power_w: float
    on_below_c: float = 4.0
    off_above_c: float = 8.0
