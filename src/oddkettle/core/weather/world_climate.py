"""The climate of any place on land, from a packaged table of the world.

Made by `scripts/make_world_climate.py`, where the sources stand: month means of clearness on cells
of 3 degrees, of the day's lowest and highest temperature on cells of 1 degree, each with its own
doubt. Against places that took no part in it the year's clearness misses by .06 (on an island
smaller than a cell by .3) and a month's temperatures by 2 to 2.5 K, where the presets missed by
.10 (months) and 5 K.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.weather.climate import MONTHS, Climate

Floats = NDArray[np.float64]

TABLE = "world_climate.npz"
CLEARNESS_STEP, DOUBT_STEP, SETTLED_STEP = 0.01, 0.001, 0.05
HEIGHT_STEP_M, TEMPERATURE_OFFSET_C = 25.0, 80.0
LIGHT_CELL, LIGHT_SOUTH, LIGHT_SHAPE = 3.0, -57.0, (44, 120)
WARMTH_CELL, WARMTH_SOUTH, WARMTH_SHAPE = 1.0, -89.5, (180, 360)
WEST = -180.0
KM_PER_DEGREE = 111.2
FAR_KM = 150.0
"""Beyond this the nearest cell is another place, and that is said."""
DOUBT_PER_FAR, MAX_DOUBT = 0.02, 0.15
WARMTH_DOUBT_K, WARMTH_PER_FAR_K, MAX_WARMTH_DOUBT_K = 2.5, 0.5, 6.0
"""A place's own warmth about the table's: 2 to 2.5 K against places held out, single years
among them; each 150 km to the nearest cell add to it [fitted; judgement for the distance]."""


@dataclass(frozen=True)
class PlaceClimate:
    """What the table says of a place, and how far away the cells are that say it [km]."""

    climate: Climate
    away_km: float


def blended(grid: Floats, latitude: float, longitude: float, cell: float, south: float) -> Floats:
    """A grid's value between the four cells about a place, of which only known ones count.

    grid : (lat from the south, lon from 180 west, ...), NaN where nothing is known. Cells are
    `cell` degrees wide, the first row's middle lies at `south`. Falls back on the nearest known.
    """
    first_east = WEST if cell > 1.0 else WEST + cell / 2.0
    row, column = (latitude - south) / cell, (longitude - first_east) / cell
    total: Floats = np.zeros(grid.shape[2:])
    weight: Floats = np.zeros(grid.shape[2:])
    for i in (int(np.floor(row)), int(np.floor(row)) + 1):
        for j in (int(np.floor(column)), int(np.floor(column)) + 1):
            share = (1.0 - abs(row - i)) * (1.0 - abs(column - j))
            if share < 1e-6 or not 0 <= i < len(grid):
                continue
            value = grid[i, j % grid.shape[1]]
            known = np.isfinite(value)
            total = total + np.where(known, value, 0.0) * share
            weight = weight + known * share
    if np.any(weight > 0.0):
        return np.asarray(
            np.divide(total, weight, out=np.full_like(total, np.nan), where=weight > 0)
        )
    return np.asarray(grid[nearest(grid, latitude, longitude, cell, south)[0]])


def nearest(
    grid: Floats, latitude: float, longitude: float, cell: float, south: float
) -> tuple[tuple[int, int], float]:
    """The known cell that is nearest to a place, and how far away its middle is [km]."""
    flat = grid.reshape(*grid.shape[:2], -1)
    rows, columns = np.nonzero(np.isfinite(flat).any(axis=-1))
    first_east = WEST if cell > 1.0 else WEST + cell / 2.0
    up = south + cell * rows - latitude
    east = (first_east + cell * columns - longitude + 180.0) % 360.0 - 180.0
    away = np.hypot(up, east * np.cos(np.radians(latitude)))
    best = int(away.argmin())
    return (int(rows[best]), int(columns[best])), float(away[best] * KM_PER_DEGREE)


@dataclass(frozen=True)
class _World:
    """The table laid out. Light (44, 120, ...), warmth (180, 360, ...), both from the south."""

    clearness: Floats
    doubt: Floats
    settled: Floats
    low_c: Floats
    swing_k: Floats
    height_m: Floats


@lru_cache(maxsize=1)
def _world() -> _World:
    with files(__package__).joinpath(TABLE).open("rb") as file, np.load(file) as table:
        land = _mask(table["land"], LIGHT_SHAPE)
        known = _mask(table["known"], WARMTH_SHAPE)

        def light(values: Floats) -> Floats:
            return _laid(land, values)

        def warmth(values: Floats) -> Floats:
            return _laid(known, values)[::-1]

        return _World(
            clearness=light(_months(table["clearness"]) * CLEARNESS_STEP),
            doubt=light(table["doubt"] * DOUBT_STEP),
            settled=light(table["settled"] * SETTLED_STEP),
            low_c=warmth(_months(table["low"]) - TEMPERATURE_OFFSET_C),
            swing_k=warmth(_months(table["swing"])),
            height_m=warmth(table["height"] * HEIGHT_STEP_M),
        )


def _mask(bits: NDArray[np.uint8], shape: tuple[int, int]) -> NDArray[np.bool_]:
    return np.unpackbits(bits, count=shape[0] * shape[1]).astype(bool).reshape(shape)


def _months(steps: NDArray[np.uint8]) -> Floats:
    """(cells, 12) from each month's difference from the one before."""
    return np.cumsum(steps, axis=0, dtype=np.uint8).T.astype(np.float64)


def _laid(where: NDArray[np.bool_], values: Floats) -> Floats:
    grid = np.full((*where.shape, *values.shape[1:]), np.nan)
    grid[where] = values
    return grid


@lru_cache(maxsize=256)
def at_place(latitude: float, longitude: float) -> PlaceClimate:
    """The climate at coordinates; at sea that of the nearest land, with more doubt.

    latitude -90..90, longitude -180..180 [degrees]. Months are January to December of the place
    itself. Source: see the module.
    """
    world = _world()
    lit = (latitude, longitude, LIGHT_CELL, LIGHT_SOUTH)
    warm = (latitude, longitude, WARMTH_CELL, WARMTH_SOUTH)
    away = max(
        nearest(world.doubt, *lit)[1] - KM_PER_DEGREE * LIGHT_CELL,
        nearest(world.height_m, *warm)[1] - KM_PER_DEGREE * WARMTH_CELL,
        0.0,
    )
    far = away / FAR_KM
    low, swing = blended(world.low_c, *warm), blended(world.swing_k, *warm)
    clearness = blended(world.clearness, *lit)
    doubt = float(blended(world.doubt, *lit)) + DOUBT_PER_FAR * far
    return PlaceClimate(
        climate=Climate(
            key="place",
            text="this place",
            clearness=tuple(float(clearness[m]) for m in range(MONTHS)),
            low_c=tuple(float(low[m]) for m in range(MONTHS)),
            high_c=tuple(float(low[m] + swing[m]) for m in range(MONTHS)),
            settled=float(blended(world.settled, *lit)),
            height_m=float(blended(world.height_m, *warm)),
            seasons=False,
            doubt=min(doubt, MAX_DOUBT),
            warmth_doubt_k=min(WARMTH_DOUBT_K + WARMTH_PER_FAR_K * far, MAX_WARMTH_DOUBT_K),
        ),
        away_km=away,
    )
