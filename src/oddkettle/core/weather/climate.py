"""Typical skies and temperatures by month: general climatology, for a first guess.

Month means of clearness (share of a clear day's light) and of the day's lowest and highest
temperature, January to December, northern calendar. Good to about .09 in clearness and 3 to 5 K
[textbook, judgement]; a weather file of the place beats them.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

import numpy as np

LAPSE_K_PER_M = 0.0065
MID_MONTH_DAY = 15
MONTHS = 12


@dataclass(frozen=True)
class Climate:
    """Twelve month means.

    `height_m` is where the temperatures hold; `settled` is how settled the weather is (5 settled,
    3 normal, 1.7 changeable). `doubt` and `warmth_doubt_k` are how far a place's own mean clearness
    and warmth [K] may lie from these, by the standard deviation.
    """

    key: str
    text: str
    clearness: tuple[float, ...]
    low_c: tuple[float, ...]
    high_c: tuple[float, ...]
    settled: float = 3.0
    height_m: float = 0.0
    seasons: bool = True
    doubt: float = 0.09
    warmth_doubt_k: float = 3.5


@dataclass(frozen=True)
class Typical:
    """What a climate says of one day."""

    clearness: float
    low_c: float
    high_c: float


def month_mean(values: tuple[float, ...], day: date, shift_months: int = 0) -> float:
    """Straight line between mid-months, round the year."""
    at = (day.month - 1) + (day.day - MID_MONTH_DAY) / 30.4 + shift_months
    return float(np.interp(at % MONTHS, np.arange(MONTHS + 1), [*values, values[0]]))


def typical_day(climate: Climate, day: date, latitude: float, altitude_m: float) -> Typical:
    """Month means at a date and place; south of the equator the seasons swap."""
    shift = 6 if latitude < 0.0 and climate.seasons else 0
    colder = LAPSE_K_PER_M * (altitude_m - climate.height_m)
    return Typical(
        clearness=month_mean(climate.clearness, day, shift),
        low_c=month_mean(climate.low_c, day, shift) - colder,
        high_c=month_mean(climate.high_c, day, shift) - colder,
    )


CLIMATES: dict[str, Climate] = {
    climate.key: climate
    for climate in (
        Climate(
            key="hot_dry_interior",
            text="hot, dry interior",
            clearness=(0.86, 0.87, 0.88, 0.89, 0.90, 0.91, 0.88, 0.88, 0.90, 0.90, 0.87, 0.85),
            low_c=(4, 6, 10, 14, 19, 23, 25, 24, 21, 15, 9, 5),
            high_c=(18, 21, 25, 30, 35, 39, 40, 39, 36, 30, 24, 19),
            settled=3.0,
        ),
        Climate(
            key="mediterranean",
            text="Mediterranean kind",
            clearness=(0.74, 0.76, 0.79, 0.80, 0.86, 0.90, 0.95, 0.94, 0.88, 0.80, 0.74, 0.71),
            low_c=(5, 6, 8, 10, 13, 17, 19, 19, 17, 13, 9, 6),
            high_c=(15, 16, 19, 21, 25, 30, 34, 34, 30, 25, 19, 16),
            settled=3.0,
        ),
        Climate(
            key="temperate_maritime",
            text="temperate, by the sea",
            clearness=(0.56, 0.60, 0.64, 0.66, 0.68, 0.68, 0.69, 0.69, 0.68, 0.62, 0.57, 0.54),
            low_c=(2, 2, 3, 5, 8, 11, 13, 13, 11, 8, 5, 3),
            high_c=(7, 8, 11, 14, 17, 20, 22, 22, 19, 15, 11, 8),
            settled=3.0,
        ),
        Climate(
            key="high_latitude_coast",
            text="far north or south, by the sea",
            clearness=(0.58, 0.58, 0.59, 0.58, 0.57, 0.56, 0.57, 0.56, 0.58, 0.59, 0.58, 0.57),
            low_c=(-3, -3, -2, 0, 4, 7, 9, 9, 7, 3, 0, -2),
            high_c=(2, 2, 3, 6, 9, 12, 14, 14, 12, 8, 5, 3),
            settled=3.0,
        ),
        Climate(
            key="humid_subtropical",
            text="humid subtropics",
            clearness=(0.73, 0.73, 0.76, 0.77, 0.77, 0.76, 0.77, 0.77, 0.76, 0.78, 0.75, 0.73),
            low_c=(1, 2, 6, 10, 15, 19, 21, 21, 17, 11, 6, 2),
            high_c=(11, 13, 17, 22, 26, 30, 31, 31, 28, 22, 17, 12),
            settled=3.0,
        ),
        Climate(
            key="cool_continental",
            text="cool continental",
            clearness=(0.64, 0.69, 0.73, 0.73, 0.74, 0.77, 0.79, 0.79, 0.76, 0.70, 0.62, 0.59),
            low_c=(-7, -6, -2, 4, 9, 14, 17, 16, 12, 6, 1, -4),
            high_c=(1, 3, 8, 15, 20, 25, 28, 27, 22, 15, 8, 3),
            settled=2.0,
        ),
        Climate(
            key="dry_highland",
            text="dry highland",
            clearness=(0.76, 0.78, 0.79, 0.79, 0.79, 0.84, 0.83, 0.82, 0.85, 0.82, 0.77, 0.75),
            low_c=(-10, -8, -4, -1, 4, 9, 13, 12, 7, 0, -6, -10),
            high_c=(2, 4, 9, 14, 20, 27, 31, 29, 24, 16, 8, 2),
            settled=4.0,
            height_m=2000.0,
        ),
        Climate(
            key="alpine",
            text="high mountains",
            clearness=(0.72, 0.74, 0.74, 0.70, 0.68, 0.72, 0.76, 0.75, 0.75, 0.76, 0.72, 0.70),
            low_c=(-8, -8, -5, -2, 3, 6, 8, 8, 5, 1, -4, -7),
            high_c=(0, 1, 4, 8, 13, 17, 20, 19, 16, 11, 5, 1),
            settled=2.0,
            height_m=1500.0,
        ),
        Climate(
            key="monsoon_tropics",
            text="monsoon tropics",
            clearness=(0.88, 0.89, 0.88, 0.85, 0.81, 0.67, 0.58, 0.59, 0.69, 0.79, 0.84, 0.87),
            low_c=(16, 18, 22, 25, 26, 26, 25, 24, 24, 22, 19, 16),
            high_c=(29, 31, 35, 37, 37, 34, 31, 30, 31, 32, 31, 29),
            settled=3.0,
        ),
        Climate(
            key="equatorial_wet",
            text="wet equator",
            clearness=(0.69, 0.69, 0.69, 0.69, 0.69, 0.70, 0.71, 0.71, 0.70, 0.69, 0.68, 0.67),
            low_c=(23, 23, 23, 23, 23, 23, 23, 23, 23, 23, 23, 23),
            high_c=(31, 31, 31, 31, 31, 31, 31, 31, 31, 31, 31, 31),
            settled=4.0,
            seasons=False,
        ),
        Climate(
            key="subarctic_interior",
            text="subarctic interior",
            clearness=(0.74, 0.80, 0.85, 0.83, 0.78, 0.74, 0.71, 0.70, 0.70, 0.69, 0.71, 0.72),
            low_c=(-25, -23, -17, -6, 4, 10, 12, 9, 3, -7, -19, -23),
            high_c=(-16, -11, -3, 7, 16, 22, 22, 19, 12, 0, -10, -14),
            settled=2.5,
        ),
    )
}
