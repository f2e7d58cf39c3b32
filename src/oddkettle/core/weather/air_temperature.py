"""The air's temperature over a day, from each day's low and high."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.trip.grid import Grid
from oddkettle.core.units.conversion import HOURS_PER_DAY, SECONDS_PER_HOUR, SECONDS_PER_MINUTE

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

DAILY_SHAPE = (
    0.23, 0.20, 0.17, 0.14, 0.13, 0.15, 0.23, 0.35, 0.49, 0.64, 0.76, 0.84,
    0.90, 0.93, 0.91, 0.86, 0.78, 0.66, 0.55, 0.47, 0.41, 0.34, 0.29, 0.26,
)  # fmt: skip
"""Where the temperature stands between low and high by solar hour, 0 to 23 [fitted on 21 measured
weather series]; lowest at 4 o'clock, highest at 13."""
SHAPE_LOW, SHAPE_SPAN = 0.13, 0.80
LOW_HOUR, HIGH_HOUR = 4.0, 13.0
DEGREES_PER_HOUR = 15.0


@dataclass(frozen=True)
class AirCurve:
    """How each step's temperature follows from the days' lows and highs; all (steps,).

    low_day, high_day : the days whose low and high it lies between
    part : where it stands between them, 0 at the low and 1 at the high
    """

    low_day: Ints
    high_day: Ints
    part: Floats

    def between(self, lows_c: Floats, highs_c: Floats) -> Floats:
        """(steps,) temperature [C] for one low and one high a day."""
        low, high = lows_c[self.low_day], highs_c[self.high_day]
        return np.asarray(low + (high - low) * self.part)


def air_curve(grid: Grid, longitude: Floats | float) -> AirCurve:
    """The curve of a grid at a longitude, or at one for each step.

    The day's low is met at 4 o'clock by the sun and its high at 13; between them the curve runs
    from the one to the next, whatever day that is.
    """
    seconds = grid.starts_utc.astype(np.int64) + SECONDS_PER_MINUTE * grid.step_min / 2
    solar_h = seconds / SECONDS_PER_HOUR + longitude / DEGREES_PER_HOUR
    shape = np.interp(solar_h % HOURS_PER_DAY, np.arange(25), [*DAILY_SHAPE, DAILY_SHAPE[0]])
    first_noon = (grid.day_starts[0] + grid.day_starts[1]) // 2
    first = np.floor(solar_h[first_noon] / HOURS_PER_DAY)
    last = len(grid.day_starts) - 2
    low_day = np.floor((solar_h - HIGH_HOUR) / HOURS_PER_DAY) + 1 - first
    high_day = np.floor((solar_h - LOW_HOUR) / HOURS_PER_DAY) - first
    return AirCurve(
        np.clip(low_day, 0, last).astype(np.int64),
        np.clip(high_day, 0, last).astype(np.int64),
        np.asarray((shape - SHAPE_LOW) / SHAPE_SPAN),
    )


def air_temperature(
    grid: Grid, longitude: Floats | float, lows_c: tuple[float, ...], highs_c: tuple[float, ...]
) -> Floats:
    """(steps,) air temperature at the middle of each step [C].

    `lows_c` and `highs_c` have one value a day, or a single one for all.
    """
    days = len(grid.day_starts) - 1
    lows, highs = np.asarray(lows_c, np.float64), np.asarray(highs_c, np.float64)
    return air_curve(grid, longitude).between(
        np.broadcast_to(lows, days), np.broadcast_to(highs, days)
    )
