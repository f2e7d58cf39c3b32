"""The only home of conversion factors. Sign convention: current into the bank is positive."""

from __future__ import annotations

MINUTES_PER_DAY = 24 * 60
SECONDS_PER_MINUTE = 60
SECONDS_PER_HOUR = 3600
HOURS_PER_DAY = 24.0
CLASS_V = 12.0
"""Battery data in `chemistry/` are stated for a 12 V class battery of 100 Ah."""


def amps_from_watts(power_w: float, bus_v: float) -> float:
    """Current [A] that carries `power_w` [W] at `bus_v` [V, > 0]."""
    return power_w / bus_v


def watts_from_amps(current_a: float, bus_v: float) -> float:
    """Power [W] of `current_a` [A] at `bus_v` [V]."""
    return current_a * bus_v


def hours_from_minutes(minutes: float) -> float:
    """Hours from minutes."""
    return minutes / 60.0


def ohms_from_milliohms(resistance_mohm: float) -> float:
    """Ohms from milliohms."""
    return resistance_mohm / 1000.0
