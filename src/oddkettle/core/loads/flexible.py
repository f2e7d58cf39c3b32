"""Loads that run so long at a time of one's choosing: their runs on the grid."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.loads.overrides import share_between
from oddkettle.core.trip.grid import Grid, local_moment
from oddkettle.core.units.conversion import SECONDS_PER_MINUTE

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class LoadRun:
    """One run: `minutes` from `start_min` after local midnight of day `day` (0-based)."""

    day: int
    start_min: int
    minutes: int


def runs_share(runs: tuple[LoadRun, ...], grid: Grid) -> Floats:
    """(steps,) share 0..1 of each step that lies in one of the runs.

    A start that the clocks skip is taken an hour later; what lies past the grid is cut off.
    """
    share = np.zeros(grid.steps)
    for run in runs:
        day = grid.first_day + timedelta(days=run.day)
        from_s = int(local_moment(day, run.start_min, grid.zone).timestamp())
        share += share_between(grid, from_s, from_s + run.minutes * SECONDS_PER_MINUTE)
    return np.minimum(share, 1.0)
