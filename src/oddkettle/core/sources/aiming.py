"""How to lay a panel over the hours of one day: the best direction and tilt for each part of it."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.sources.panel import Panel, panel_w
from oddkettle.core.weather.clear_sky import Sky

Floats = NDArray[np.float64]
COMPASS_DEG = tuple(range(0, 360, 45))
TILTS_DEG = (0, 15, 30, 45, 60, 75)
"""As fine as a stand and a look at the sun can be."""


@dataclass(frozen=True)
class Aim:
    """The best way to lie from one step up to another: `wh` so, `lying_wh` as it lies by plan."""

    first: int
    last: int
    azimuth_deg: int
    tilt_deg: int
    wh: float
    lying_wh: float


def best_aims(
    panel: Panel, sky: Sky, air_c: Floats, works: Floats, parts: int, step_h: float
) -> tuple[Aim, ...]:
    """The best lie of a panel in each of `parts` equal parts of the hours in which it works.

    sky : of one day, by step; air_c : (steps,) [C]
    works : (steps,) share of the light that reaches it, 0 where it is away or dark
    """
    light = np.flatnonzero((sky.zenith_deg < 90.0) & (works > 0.0))
    if not len(light):
        return ()
    lying = panel_w(panel, sky, air_c) * works
    ways = [(azimuth, tilt) for tilt in TILTS_DEG for azimuth in (COMPASS_DEG if tilt else (180,))]
    given = np.array([_laid(panel, sky, air_c, *way) for way in ways]) * works
    found = []
    for part in np.array_split(light, parts):
        if not len(part):
            continue
        wh = given[:, part].sum(axis=1) * step_h
        azimuth, tilt = ways[int(np.argmax(wh))]
        lies = float(lying[part].sum()) * step_h
        found.append(
            Aim(int(part[0]), int(part[-1]) + 1, azimuth, tilt, max(float(wh.max()), lies), lies)
        )
    return tuple(found)


def _laid(panel: Panel, sky: Sky, air_c: Floats, azimuth: int, tilt: int) -> Floats:
    laid = replace(panel, mount="tilted", tilt_deg=float(tilt), azimuth_deg=float(azimuth))
    return panel_w(laid, sky, air_c)
