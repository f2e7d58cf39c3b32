"""What did not go as planned: appliances that ran, or did not, over a stretch of time."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.trip.grid import Grid
from oddkettle.core.units.conversion import SECONDS_PER_MINUTE

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class LoadOverride:
    """An appliance that ran (or did not) from one UTC second up to another, whatever the plan."""

    key: str
    runs: bool
    from_s: int
    until_s: int


def share_between(grid: Grid, from_s: int, until_s: int) -> Floats:
    """(steps,) share 0..1 of each step that lies between two UTC seconds."""
    step_s = grid.step_min * SECONDS_PER_MINUTE
    starts = grid.starts_utc.astype(np.int64)
    inside = np.minimum(starts + step_s, until_s) - np.maximum(starts, from_s)
    return np.asarray(np.clip(inside / step_s, 0.0, 1.0))


def as_it_ran(key: str, window: Floats, overrides: tuple[LoadOverride, ...], grid: Grid) -> Floats:
    """(steps,) an appliance's share of each step, with its overrides in the order given."""
    for departure in overrides:
        if departure.key == key:
            share = share_between(grid, departure.from_s, departure.until_s)
            window = np.maximum(window, share) if departure.runs else window * (1.0 - share)
    return window
