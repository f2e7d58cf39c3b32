"""The only home of conversion factors. Sign convention: current into the bank is positive."""

from __future__ import annotations

from math import pi

MINUTES_PER_DAY = 24 * 60
SECONDS_PER_MINUTE = 60
SECONDS_PER_HOUR = 3600
SECONDS_PER_DAY = 86_400
HOURS_PER_DAY = 24.0
DAYS_PER_YEAR = 365.25
HOURS_PER_MONTH = HOURS_PER_DAY * DAYS_PER_YEAR / 12.0
CLASS_V = 12.0
"""Battery data in `chemistry/` are stated for a 12 V class battery of 100 Ah."""
ZERO_C_IN_K = 273.15
COPPER_OHM_MM2_M = 0.0172
"""Resistivity of copper at 20 C [textbook]."""

CABLE_SIZES_MM2 = (0.75, 1.0, 1.5, 2.5, 4.0, 6.0, 10.0, 16.0, 25.0, 35.0, 50.0, 70.0, 95.0, 120.0)
"""Metric conductor sizes [standard series]."""
AWG_NUMBERS = (18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0, -1, -2, -3)
"""AWG sizes on sale, thinnest first; 0 is written 1/0, -3 is 4/0."""


def ohms_from_milliohms(resistance_mohm: float) -> float:
    """Ohms from milliohms."""
    return resistance_mohm / 1000.0


def cable_ohm(length_m: float, area_mm2: float) -> float:
    """Resistance [ohm] of a copper run of `length_m`, there and back, at 20 C."""
    return 2.0 * length_m * COPPER_OHM_MM2_M / area_mm2


def awg_area_mm2(number: int) -> float:
    """Copper area of an AWG number [mm2]: `d = 0.127 mm * 92^((36 - n)/39)` [standard]."""
    diameter_mm: float = 0.127 * 92.0 ** ((36 - number) / 39)
    return pi * diameter_mm**2 / 4.0


def awg_text(number: int) -> str:
    """An AWG number as it is written: 10 AWG, 1/0 AWG."""
    return f"{number} AWG" if number > 0 else f"{1 - number}/0 AWG"
