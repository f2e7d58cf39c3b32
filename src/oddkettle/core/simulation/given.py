"""What is done on the way strays: a drive is shorter or longer, a post of the site is dead."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.simulation.case import Case
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.trip.blocks import BLOCKS, MAX_STRAY_SHARE, STRAYS_H, BlockKind
from oddkettle.core.trip.grid import Grid
from oddkettle.core.weather.weather_generator import normals, uniforms

Floats = NDArray[np.float64]

KINDS: tuple[BlockKind, ...] = tuple(
    kind.block for kind in SOURCE_KINDS.values() if kind.block is not None
)
"""Blocks in which something charges."""


def given_by_day(
    case: Case, grid: Grid, shares: dict[BlockKind, Floats], count: int
) -> dict[BlockKind, Floats]:
    """(count, days) what each day's blocks of a kind give, over what was planned; about 1.

    The same seed gives every variant of a box the same drives. Spreads: `STRAYS_H` either way, at
    most `MAX_STRAY_SHARE` of the day's blocks, and the share that is not done at all (`BlockFacts`)
    [judgement]. A box that stands by has no such blocks.
    """
    found: dict[BlockKind, Floats] = {}
    for kind in KINDS:
        hours = np.add.reduceat(shares[kind], grid.day_starts[:-1]) * grid.step_h
        days = np.flatnonzero(hours > 0.0)
        if days.size == 0:
            continue
        share = np.ones((count, len(hours)))
        for day in days.tolist():
            sd = min(STRAYS_H / float(hours[day]), MAX_STRAY_SHARE)
            strays = 1.0 + sd * normals(case.doubt.seed, f"{kind} strays", count, day)
            done = uniforms(case.doubt.seed, f"{kind} done", count, day) >= BLOCKS[kind].fails
            share[:, day] = done * np.clip(strays, 0.0, 1.0 + 2.0 * MAX_STRAY_SHARE)
        found[kind] = share
    return found
