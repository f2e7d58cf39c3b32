"""How long a box stands without sources: scenario by scenario, as runs one at a time find it."""

from __future__ import annotations

import numpy as np
import pytest

from oddkettle.core.simulation.outage import outage_hours
from oddkettle.core.simulation.run import simulate, trip_grid
from oddkettle.core.simulation.run_metrics import autonomy_h
from oddkettle.core.simulation.scenarios import draw_scenarios, scenario_of
from oddkettle.plan.case import case_from_plan
from tests.conftest import example

FEW = 6


@pytest.mark.parametrize(("name", "step"), [("canal-standby", 500), ("coast-weekend", 10)])
def test_hours_are_those_of_each_scenario_run_by_itself(name: str, step: int) -> None:
    """The two ways share the step and nothing of how scenarios are laid."""
    case = case_from_plan(example(name))
    grid, scenarios = trip_grid(case), draw_scenarios(case, FEW)
    alone = [
        autonomy_h(simulate(case, scenario_of(case, grid, scenarios, i)), step) for i in range(FEW)
    ]
    assert outage_hours(case, step, FEW) == pytest.approx(np.array(alone), abs=0.3)
    assert np.ptp(alone) > 5.0


def test_what_the_trip_does_not_show_is_not_told() -> None:
    case = case_from_plan(example("canal-standby"))
    grid = trip_grid(case)
    late = grid.steps - round(2.0 / grid.step_h)
    assert np.all(np.isinf(outage_hours(case, late, FEW)))
