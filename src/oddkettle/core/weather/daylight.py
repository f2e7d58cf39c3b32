"""Sunrise and sunset from the real sun, for each day of a grid."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oddkettle.core.trip.grid import Grid
from oddkettle.core.weather.clear_sky import Sky

SET_ZENITH_DEG = 90.27
"""Apparent zenith of the sun's centre when its upper edge touches the horizon: half its
diameter below; refraction is already in the apparent angle."""


@dataclass(frozen=True)
class Daylight:
    """Fractional steps of sunrise and sunset counted from the day's start.

    None for both with `up` telling midnight sun from polar night.
    """

    rise: float | None
    set: float | None
    up: bool


def daylight(sky: Sky, grid: Grid) -> tuple[Daylight, ...]:
    """One Daylight a day."""
    days = []
    for first, last in zip(grid.day_starts[:-1], grid.day_starts[1:], strict=True):
        above = SET_ZENITH_DEG - sky.zenith_deg[first:last]
        up = above > 0.0
        change = np.flatnonzero(up[1:] != up[:-1])
        rise = next((_crossing(above, int(k)) for k in change if up[k + 1]), None)
        down = next((_crossing(above, int(k)) for k in change[::-1] if up[k]), None)
        days.append(Daylight(rise, down, bool(up[len(up) // 2])))
    return tuple(days)


def _crossing(above: np.ndarray, k: int) -> float:
    """Where the straight line between middles k and k+1 passes nought."""
    return k + 0.5 + float(above[k] / (above[k] - above[k + 1]))
