"""What a run says beyond its level: hours of stages, nights of pads, marks of time alone."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import Run
from oddkettle.core.simulation.run_metrics import autonomy_h
from oddkettle.plan import Plan
from oddkettle.results.run import Endurance
from oddkettle.usecases.simulate.endurance import MAX_MARKS, report_endurance
from oddkettle.usecases.simulate.run_cache import run_plan
from tests.conftest import example


def told_of(plan: Plan, *, autonomy: bool = False) -> tuple[Run, Endurance]:
    run = run_plan(plan)
    ledger = keep_ledger(run, np.array([0, run.grid.steps]))
    return run, report_endurance(run, ledger, autonomy=autonomy)


def test_marks_stand_three_hours_apart_and_the_shortest_is_told() -> None:
    run, told = told_of(example("moth-survey"), autonomy=True)
    every = round(3.0 / run.grid.step_h)
    assert [mark.step for mark in told.autonomy] == list(range(0, run.grid.steps, every))
    assert len(told.autonomy) <= MAX_MARKS
    for mark in told.autonomy[::20]:
        hours = autonomy_h(run, mark.step)
        assert mark.hours == (pytest.approx(hours) if np.isfinite(hours) else None)
    ended = [mark.hours for mark in told.autonomy if mark.hours is not None]
    assert told.shortest_autonomy is not None
    assert told.shortest_autonomy.hours == min(ended)


def test_a_long_trip_has_no_more_than_eighty_and_dragging_none() -> None:
    plan = example("gauging-hut")
    run, told = told_of(plan, autonomy=True)
    assert len(told.autonomy) <= MAX_MARKS
    assert told.autonomy[1].step * run.grid.step_h > 3.0
    assert told_of(plan)[1].autonomy == []
    assert told_of(plan)[1].shortest_autonomy is None


def test_the_stages_of_a_charger_are_the_hours_in_which_it_gives() -> None:
    run, told = told_of(example("canal-standby"))
    for charger, source in zip(told.chargers, run.sources, strict=True):
        assert charger.key == source.key
        on_h = float(np.count_nonzero(source.on > 0)) * run.grid.step_h
        stages = charger.bulk_h + charger.absorption_h + charger.float_h
        assert 0.0 < stages <= on_h + run.grid.step_h
    assert any(charger.float_h > 0 for charger in told.chargers)


def test_pads_are_told_by_their_dearest_night_from_noon_to_noon() -> None:
    run, told = told_of(example("winter-caravan"))
    watts, grid = run.track.heater_w, run.grid
    assert watts.any(), "a week of frost without pads shows nothing"
    # By hand: each noon begins another night.
    nights: dict[int, float] = {}
    night = 0
    for step in range(grid.steps):
        if step and grid.clock_min[step] >= 720 > grid.clock_min[step - 1]:
            night += 1
        nights[night] = nights.get(night, 0.0) + float(watts[step]) * grid.step_h
    assert told.heater_night is not None
    assert told.heater_night.wh == pytest.approx(max(nights.values()))
    assert told.heater.wh == pytest.approx(sum(nights.values()), rel=0.01)
    assert told.heater_night.ah == pytest.approx(told.heater_night.wh / 13.2, rel=0.06)


def test_where_no_pads_run_no_night_is_told() -> None:
    _, told = told_of(example("moth-survey"))
    assert told.heater_night is None
    assert told.heater.wh == 0.0


@pytest.mark.parametrize("frost_c", [-8, 12])
def test_hours_in_which_cold_bars_charging_are_counted(frost_c: int) -> None:
    document: dict[str, Any] = example("winter-caravan").model_dump(mode="json")
    document["box"]["heater"] = None
    for day in document["trip"]["days"]:
        day["low_c"], day["high_c"] = frost_c - 2, frost_c
    run, told = told_of(Plan.model_validate(document))
    assert (told.locked_h > 0) == (frost_c < 0)
    assert told.locked_h <= run.grid.steps * run.grid.step_h
