"""How light wavers within a day: clouds that come and go about the day's mean.

Clearness within a day is the day's own plus a slow part (hours) and a quick one (minutes), each
as large as days of that clearness show [fitted]. The parts are drawn once, as a bank of day
shapes; a scenario picks one a day.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.kernel.constants import MAX_CLEARNESS, MIN_CLEARNESS
from oddkettle.core.trip.grid import Grid, Site
from oddkettle.core.units.conversion import MINUTES_PER_DAY, SECONDS_PER_MINUTE
from oddkettle.core.values.cache import cached
from oddkettle.core.weather.weather_generator import SHAPES

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

SLOW_HOURLY, QUICK = 0.7, 0.6
"""Persistence of the slow part by the hour, of the quick one by five minutes. With the slow part's
size it makes half-days as uneven as real ones: the morning's share of a day's light strays by 11.2
and 9.4 points at clearness .45 and .65, where measured series have 10.8 and 9.7 [fitted]."""
FINE_MIN = 5
SLOTS = MINUTES_PER_DAY // FINE_MIN
SLOW_AT = (0.0, 0.1, 0.25, 0.35, 0.45, 0.55, 0.65, 0.75, 0.85, 0.95, 1.05, 1.2)
SLOW_SD = (0.026, 0.078, 0.117, 0.208, 0.247, 0.254, 0.286, 0.273, 0.221, 0.13, 0.091, 0.078)
QUICK_AT = (0.0, 0.2, 0.37, 0.61, 0.78, 0.91, 1.04, 1.2)
QUICK_SD = (0.02, 0.05, 0.12, 0.21, 0.20, 0.17, 0.11, 0.06)
SECONDS_PER_DEGREE = 240
SECONDS_PER_DAY = MINUTES_PER_DAY * SECONDS_PER_MINUTE
SHAPE_SEED = 512


@cached
def _raw_shapes() -> tuple[Floats, Floats]:
    """(slow, quick), each (SHAPES, SLOTS) of unit variance, from midnight by the sun."""
    rng = np.random.default_rng(SHAPE_SEED)
    parts = []
    for keeps in (SLOW_HOURLY ** (FINE_MIN / 60.0), QUICK):
        noise = rng.standard_normal((SHAPES, SLOTS))
        noise[:, 1:] *= (1.0 - keeps**2) ** 0.5
        for slot in range(1, SLOTS):
            noise[:, slot] += keeps * noise[:, slot - 1]
        parts.append(noise)
    return parts[0], parts[1]


def solar_seconds(grid: Grid, site: Site) -> Ints:
    """(steps,) seconds of local mean solar time at the middle of each step."""
    middle = grid.starts_utc.astype(np.int64) + SECONDS_PER_MINUTE * grid.step_min // 2
    return np.asarray(middle + round(site.longitude * SECONDS_PER_DEGREE), np.int64)


def solar_days(grid: Grid, site: Site) -> Ints:
    """(steps,) which day of the trip the sun of a step belongs to, 0-based.

    Solar days are counted from the one whose noon falls on the first local day. A step before
    the first or after the last belongs to the nearest.
    """
    day = solar_seconds(grid, site) // SECONDS_PER_DAY
    noon = day[(grid.day_starts[0] + grid.day_starts[1]) // 2]
    return np.asarray(np.clip(day - noon, 0, len(grid.day_starts) - 2), np.int64)


def day_shapes(grid: Grid, site: Site, clear_ghi: Floats) -> tuple[Floats, Floats, Ints]:
    """(slow, quick, slot): shapes of this grid's steps, and where each step stands in its day.

    slow, quick : (SHAPES, steps a day); slot : (steps,) column of each step. The mean over a day,
    weighted by the clear sky's light, is taken out of each: else the wavering would add a tenth
    to a day's energy.
    """
    wide = grid.step_min
    count = max(MINUTES_PER_DAY // wide, 1)
    slot = solar_seconds(grid, site) % SECONDS_PER_DAY // (SECONDS_PER_MINUTE * wide)
    slot = np.asarray(np.minimum(slot, count - 1), np.int64)
    weight = np.bincount(slot, weights=clear_ghi, minlength=count)
    weight = np.asarray(weight / max(float(weight.sum()), 1e-12), np.float64)
    edges = np.linspace(0.0, SLOTS, count + 1)
    parts: list[Floats] = []
    whole = np.floor(edges).astype(np.int64)
    part, after = edges - whole, np.minimum(whole + 1, SLOTS)
    for raw in _raw_shapes():
        # The mean over a step, whatever its length, from the running sum.
        running = np.concatenate([np.zeros((SHAPES, 1)), np.cumsum(raw, axis=1)], axis=1)
        at = running[:, whole] + part * (running[:, after] - running[:, whole])
        mean = np.diff(at, axis=1) / np.diff(edges)
        parts.append(np.ascontiguousarray(mean - (mean @ weight)[:, None]))
    return parts[0], parts[1], slot


def wavering(daily: Floats, shape: Ints, day: Ints, parts: tuple[Floats, Floats, Ints]) -> Floats:
    """(steps,) clearness within the days of one scenario.

    daily, shape : (days,) its clearness and shapes; day : (steps,) day of each step
    """
    slow, quick, slot = parts
    k, which = daily[day], shape[day]
    moved = k + np.interp(k, SLOW_AT, SLOW_SD) * slow[which, slot]
    moved += np.interp(k, QUICK_AT, QUICK_SD) * quick[which, slot]
    return np.asarray(np.clip(moved, MIN_CLEARNESS, MAX_CLEARNESS))
