"""How long a box stands without any source, over the scenarios of its plan."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.kernel.ensemble import empty_outputs, initial_state
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import lay_inputs, run_stretch
from oddkettle.core.simulation.scenarios import draw_scenarios

Floats = NDArray[np.float64]
COUNT = 200
"""Scenarios: the worst of ten is then good to two in a hundred of them."""
EMPTY = 1e-3
"""A level at which nothing is left to give; a reserve of nought is met there."""


def outage_hours(case: Case, step: int, count: int = COUNT) -> Floats:
    """Hours from the start of `step` until the reserve is met when no source gives anything.

    (count,) one a scenario: each has come to that step as planned, with its own weather, loads and
    battery. Infinite where the trip ends first. Raises PlanError for a plan that cannot be.
    """
    box, drawn, grid = lay_inputs(case, draw_scenarios(case, count))
    found, standing = empty_outputs(box, count), initial_state(box, drawn)
    run_stretch(box, drawn, standing, found, (0, step))
    nothing = box._replace(
        offers=np.zeros_like(box.offers),
        sun_table=np.zeros_like(box.sun_table),
        lit_steps=np.zeros(0, np.int64),
    )
    run_stretch(nothing, drawn, standing, found, (step, grid.steps))
    level = found.level[:, step:]
    floor = max(case.fails_below, EMPTY)
    gone = level < floor
    first = gone.argmax(axis=1)
    before = np.maximum(first - 1, 0)
    rows = np.arange(count)
    fall = level[rows, before] - level[rows, first]
    part = np.where(fall > 0.0, (level[rows, before] - floor) / np.maximum(fall, 1e-12), 0.0)
    hours = (before + np.clip(part, 0.0, 1.0)) * grid.step_h
    return np.where(gone.any(axis=1), np.where(first == 0, 0.0, hours), np.inf)
