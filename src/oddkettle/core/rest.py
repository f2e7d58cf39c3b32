"""The rest of a trip from where its battery stands, in many futures."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.case import Case
from oddkettle.core.ensemble import Ensemble, drive_stretch, lay_box
from oddkettle.core.future import Futures, draw_futures, prospects_of
from oddkettle.core.kept import kept
from oddkettle.core.kernel.ensemble import Box, Standing, nothing_found
from oddkettle.core.kernel.records import CHARGER_SETTINGS
from oddkettle.core.particles import Standpoint
from oddkettle.core.weather.futures import Skies, SkyTrip, draw_day

Floats = NDArray[np.float64]


def run_rest(case: Case, here: Standpoint, count: int) -> Ensemble:
    """The rest of the trip from `here` on, in `count` futures, for a variant of the case.

    The level is NaN before. The same standpoint gives the same skies to every variant of the
    rest; a variant is laid at the standpoint's own steps. Raises PlanFault.
    """
    rows = rows_of(here, count)
    futures = futures_from(case, here, rows)
    box, luck, grid = lay_box(case, futures)
    found = nothing_found(box, count)
    drive_stretch(box, luck, _standing(box, here, rows), found, (here.step, grid.steps))
    found.level[:, : here.step] = np.nan
    if here.step == grid.steps:
        found.level[:, -1] = here.standing.banks["soc"][rows, 0]
    step_h = grid.step_h
    return Ensemble(case, grid, futures, found.level, found.dark * step_h, found.shed * step_h)


def futures_from(case: Case, here: Standpoint, rows: NDArray[np.int64]) -> Futures:
    """The futures that begin where these particles stand; days that have begun stay theirs."""
    drawn = draw_futures(case, len(rows))
    trip = SkyTrip(case.first_day, case.site.latitude, prospects_of(case), case.doubt)
    known = {key: here.luck.load[rows, n] for n, key in enumerate(here.keys)}
    return replace(
        drawn,
        skies=_skies_from(here, trip, len(rows)),
        load={key: known.get(key, own) for key, own in drawn.load.items()},
        sun=here.luck.sun[rows],
        capacity=here.luck.capacity[rows],
    )


def rows_of(here: Standpoint, count: int) -> NDArray[np.int64]:
    """(count,) particles that stand for all of them, evenly."""
    return np.floor((np.arange(count) + 0.5) * len(here.luck.soc0) / count).astype(np.int64)


@kept
def _skies_from(here: Standpoint, trip: SkyTrip, count: int) -> Skies:
    """The particles' skies, and from here on new ones; kept, for every variant meets the same."""
    rows, luck = rows_of(here, count), here.luck
    parts: dict[str, NDArray[Any]] = {
        "clearness": luck.clearness[rows],
        "low_c": luck.low_c[rows],
        "high_c": luck.high_c[rows],
        "shape": luck.shape[rows],
    }
    chain = here.chain.of(rows)
    for day in range(here.sky_day + 1, len(trip.prospects)):
        sky, chain = draw_day(trip, chain, day, " from here")
        for name, part in parts.items():
            part[:, day] = getattr(sky, name)
    return Skies(**parts)


def _standing(box: Box, here: Standpoint, rows: NDArray[np.int64]) -> Standing:
    """Where the particles stand; a variant with other chargers begins with them in bulk."""
    kept = here.standing.chargers[rows]
    if kept.shape[1:] == box.chargers.shape:
        for setting in CHARGER_SETTINGS:
            kept[setting] = box.chargers[setting]
    else:
        kept = np.repeat(box.chargers[None], len(rows), axis=0)
    switches = here.standing.switches[rows]
    switches["shed"] = np.minimum(switches["shed"], len(box.shed_below))
    return Standing(here.standing.banks[rows], kept, switches)
