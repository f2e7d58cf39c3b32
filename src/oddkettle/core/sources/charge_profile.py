"""The voltages that a charger holds."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Profile:
    """Charging set points [V at 12 V class, or of the bank as `volts_scale` tells].

    Absorption ends when the battery takes less than `tail_c` capacities an hour or after
    `absorption_hours`; None is the chemistry's own. `compensated` chargers follow the battery's
    temperature by the chemistry's V/K. One that `equalises` goes far above absorption at times.
    After the first absorption some hold `second_v` for `second_hours`; some charge anew after
    `refresh_days` of float (0: neither).
    """

    absorption_v: float
    float_v: float
    tail_c: float | None = None
    absorption_hours: float | None = None
    compensated: bool = False
    equalises: bool = False
    second_v: float | None = None
    second_hours: float = 0.0
    refresh_days: float = 0.0

    @property
    def one_voltage(self) -> bool:
        """Whether it holds a single voltage, as trickle chargers do."""
        return self.absorption_v == self.float_v
