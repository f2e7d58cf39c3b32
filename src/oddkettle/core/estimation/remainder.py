"""The rest of a trip from where its battery stands, in many scenarios."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.posterior import PosteriorSample
from oddkettle.core.kernel.ensemble import empty_outputs
from oddkettle.core.kernel.ensemble_tables import EnsembleInputs, EnsembleState
from oddkettle.core.kernel.records import CHARGER_SETTINGS
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import Ensemble, lay_inputs, run_stretch
from oddkettle.core.simulation.scenarios import Scenarios, draw_scenarios, prospects_of
from oddkettle.core.values.cache import cached
from oddkettle.core.weather.weather_generator import Skies, SkyTrip, draw_day

Floats = NDArray[np.float64]


def run_rest(case: Case, here: PosteriorSample, count: int) -> Ensemble:
    """The rest of the trip from `here` on, in `count` scenarios, for a variant of the case.

    The level is NaN before. The same standpoint gives the same skies to every variant of the
    rest; a variant is laid at the standpoint's own steps. Raises PlanError.
    """
    # What its battery holds was open for the tracker: every variant meets the same skies.
    case = replace(case, doubt=replace(case.doubt, worn=here.doubt.worn))
    rows = rows_of(here, count)
    scenarios = scenarios_from(case, here, rows)
    box, drawn, grid = lay_inputs(case, scenarios)
    found = empty_outputs(box, count)
    run_stretch(box, drawn, _standing(box, here, rows), found, (here.step, grid.steps))
    found.level[:, : here.step] = np.nan
    if here.step == grid.steps:
        found.level[:, -1] = here.state.banks["soc"][rows, 0]
    step_h = grid.step_h
    return Ensemble(case, grid, scenarios, found.level, found.dark * step_h, found.shed * step_h)


def scenarios_from(case: Case, here: PosteriorSample, rows: NDArray[np.int64]) -> Scenarios:
    """The scenarios that begin where these particles stand; days that have begun stay theirs."""
    drawn = draw_scenarios(case, len(rows))
    trip = SkyTrip(case.first_day, case.site.latitude, prospects_of(case), case.doubt)
    known = {key: here.drawn.load[rows, n] for n, key in enumerate(here.keys)}
    return replace(
        drawn,
        skies=_skies_from(here, trip, len(rows)),
        load={key: known.get(key, own) for key, own in drawn.load.items()},
        sun=here.drawn.sun[rows],
        capacity=here.drawn.capacity[rows],
        acceptance=here.drawn.acceptance[rows],
    )


def rows_of(here: PosteriorSample, count: int) -> NDArray[np.int64]:
    """(count,) particles that stand for all of them, evenly."""
    return np.floor((np.arange(count) + 0.5) * len(here.drawn.soc0) / count).astype(np.int64)


@cached
def _skies_from(here: PosteriorSample, trip: SkyTrip, count: int) -> Skies:
    """The particles' skies, and from here on new ones; kept, for every variant meets the same."""
    rows, drawn = rows_of(here, count), here.drawn
    parts: dict[str, NDArray[Any]] = {
        "clearness": drawn.clearness[rows],
        "low_c": drawn.low_c[rows],
        "high_c": drawn.high_c[rows],
        "shape": drawn.shape[rows],
    }
    chain = here.chain.of(rows)
    for day in range(here.sky_day + 1, len(trip.prospects)):
        sky, chain = draw_day(trip, chain, day, " from here")
        for name, part in parts.items():
            part[:, day] = getattr(sky, name)
    return Skies(**parts)


def _standing(box: EnsembleInputs, here: PosteriorSample, rows: NDArray[np.int64]) -> EnsembleState:
    """Where the particles stand; a variant with other chargers begins with them in bulk."""
    kept = here.state.chargers[rows]
    if kept.shape[1:] == box.chargers.shape:
        for setting in CHARGER_SETTINGS:
            kept[setting] = box.chargers[setting]
    else:
        kept = np.repeat(box.chargers[None], len(rows), axis=0)
    switches = here.state.switches[rows]
    switches["shed"] = np.minimum(switches["shed"], len(box.shed_below))
    return EnsembleState(here.state.banks[rows], kept, switches)
