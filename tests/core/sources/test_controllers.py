"""Chargers with two absorptions and a refresh; a controller's load output and its switch."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from typing import Any

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.estimation.tracker import track
from oddkettle.core.kernel.records import ABSORPTION, BULK, FLOAT, SECOND
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.case import Case, LoadOutput
from oddkettle.core.simulation.ensemble import run_ensemble
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import Run, simulate, trip_grid
from oddkettle.core.simulation.run_metrics import stage_hours
from oddkettle.core.simulation.scenarios import draw_scenarios, scenario_of
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.trip.grid import Block
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from tests.core.boxes import a_case, lamp


def plugged(profile: Profile, days: int = 1, **more: Any) -> Run:
    """A lead battery at 50 % on a mains charger of its own voltages, day and night."""
    charger = MainsCharger("m", "Mains", 15.0, 0.9, profile=profile)
    blocks = (Block("hookup", 0, 0, days - 1, 1440),)
    return simulate(
        a_case(
            bank=Bank(AGM, 100.0),
            mains=(charger,),
            blocks=blocks,
            clearness=(0.98,) * days,
            soc0=0.5,
            **more,
        )
    )


def stages(run: Run) -> list[tuple[float, float]]:
    """Each stage in turn with its hours."""
    series = run.stage[0]
    edges = np.flatnonzero(np.diff(series)) + 1
    bounds = [0, *edges, len(series)]
    return [(float(series[a]), (b - a) * run.grid.step_h) for a, b in pairwise(bounds)]


def test_a_second_absorption_follows_the_first_for_its_hours() -> None:
    """14.4 V, then two hours at 14.1 V, then float at 13.5 V."""
    run = plugged(Profile(14.4, 13.5, second_v=14.1, second_hours=2.0))
    found = stages(run)
    assert [stage for stage, _ in found] == [BULK, ABSORPTION, SECOND, FLOAT]
    assert found[2][1] == pytest.approx(2.0)
    second = run.track.bus_v[run.stage[0] == SECOND]
    # The stage is told at a step's end: its first step still stands on its way down.
    assert float(second[-1]) == pytest.approx(14.1, abs=0.02)
    assert float(run.track.bus_v[-1]) == pytest.approx(13.5, abs=0.02)
    plain = plugged(Profile(14.4, 13.5))
    assert [stage for stage, _ in stages(plain)] == [BULK, ABSORPTION, FLOAT]
    bulk, absorbs, floats = stage_hours(run, 0)
    assert absorbs == pytest.approx(stage_hours(plain, 0)[1] + 2.0)
    assert bulk + absorbs + floats == pytest.approx(24.0)


@pytest.mark.parametrize("days", [0.0, 2.0, 3.5])
def test_a_maintenance_cycle_comes_after_its_days_of_float(days: float) -> None:
    run = plugged(Profile(14.4, 13.5, refresh_days=days), days=10)
    floats = [hours for stage, hours in stages(run) if stage == FLOAT]
    if not days:
        assert len(floats) == 1
        return
    # All but the last, which the trip's end cuts off, are as long as it says.
    assert len(floats) >= 2
    assert floats[:-1] == pytest.approx([24 * days] * (len(floats) - 1), abs=0.1)


def on_output(off_v: float = 12.3, on_v: float = 12.7, **more: Any) -> Case:
    """A lamp of 30 W on a load output and one of 6 W at the bar, for two days on AGM."""
    lamps = (replace(lamp(30.0), key="out"), replace(lamp(6.0), key="bar"))
    output = LoadOutput("s", 10.0, off_v, on_v, ("out",))
    given: dict[str, Any] = {
        "bank": Bank(AGM, 100.0),
        "appliances": lamps,
        "load_output": output,
        "floor": 0.0,
        "clearness": (0.9, 0.9),
        "soc0": 0.9,
    }
    return a_case(**{**given, **more})


def test_a_load_output_goes_off_at_its_volts_and_stays_off() -> None:
    run = simulate(on_output())
    off = run.track.output_off > 0.0
    first = int(np.argmax(off))
    assert 0 < first < run.grid.steps
    # It went by the volts of the step before, and nothing brings it back.
    assert run.track.bus_v[first - 1] < 12.3 <= run.track.bus_v[first - 2]
    assert off[first:].all()
    ledger = keep_ledger(run)
    by_key = {draw.key: flow for draw, flow in zip(run.draws, ledger.draws, strict=True)}
    denied_h = float(off.sum()) * run.grid.step_h
    assert float(by_key["out"].unmet.wh.sum()) == pytest.approx(30.0 * denied_h)
    assert float(by_key["out"].used.wh.sum()) == pytest.approx(30.0 * (48.0 - denied_h))
    assert float(by_key["bar"].unmet.wh.sum()) == 0.0
    # What the bank gave is what the ledger say was used: the cut load takes nothing.
    assert run.track.load_a[first] * run.track.bus_v[first] == pytest.approx(6.0, rel=1e-3)


def test_it_comes_back_above_its_upper_volts_only() -> None:
    charger = MainsCharger("m", "Mains", 15.0, 0.9)
    run = simulate(on_output(mains=(charger,), blocks=(Block("hookup", 1, 720, 1, 1440),)))
    off = run.track.output_off > 0.0
    back = int(np.flatnonzero(off)[-1]) + 1
    assert back < run.grid.steps
    assert run.track.bus_v[back - 1] > 12.7
    assert run.track.bus_v[np.flatnonzero(off)[:-1]].max() <= 12.7


def test_what_an_output_was_off_for_is_not_counted_as_used() -> None:
    """30 W at some 12.4 V while it was on, by the run of its own; nothing after."""
    case = on_output()
    alone = simulate(case)
    on = alone.track.output_off == 0.0
    amp_hours = float((30.0 / alone.track.bus_v[on]).sum()) * alone.grid.step_h
    assert 0.2 < on.mean() < 0.8
    starts = trip_grid(case).starts_utc.astype(np.int64)
    tracked = track(case, (), int(starts[0]) + 2 * 86_400)
    used = tracked.used[:, :, tracked.draw_keys.index("out")].sum(axis=1)
    assert float(np.median(used)) == pytest.approx(amp_hours, rel=0.1)


def test_without_a_load_output_nothing_of_this_is_asked() -> None:
    run = simulate(on_output(load_output=None))
    assert not run.track.output_off.any()
    assert run.world.demand.asked.shape[1] == 1


def test_scenarios_switch_it_as_single_runs_do() -> None:
    case = on_output(shed={"first": 0.4})
    ensemble = run_ensemble(case, 6)
    scenarios = draw_scenarios(case, 6)
    for n in range(6):
        alone = simulate(case, scenario_of(case, ensemble.grid, scenarios, n))
        assert ensemble.level[n] == pytest.approx(alone.level, abs=1e-6)
        off_h = float((alone.track.output_off > 0.0).sum()) * alone.grid.step_h
        assert float(ensemble.shed_h[n].sum()) == pytest.approx(off_h)


def with_output(document: dict[str, Any], **output: Any) -> dict[str, Any]:
    document["box"]["sun"][0]["controller"]["load_output"] = output
    return document


def test_a_plan_hangs_only_what_can_hang_there(document: dict[str, Any]) -> None:
    things = document["use"]["appliances"]
    twelve = next(a["id"] for a in things if a["supply"] == "12v")
    other = next(a["id"] for a in things if a["supply"] != "12v")
    case = case_from_plan(
        Plan.model_validate(with_output(document, appliances=[twelve, other, "gone", twelve]))
    )
    assert case.load_output is not None
    assert case.load_output.appliances == (twelve,)
    assert (case.load_output.off_v, case.load_output.on_v) == (11.4, 12.6)


def test_a_switch_without_a_gap_is_refused(document: dict[str, Any]) -> None:
    plan = Plan.model_validate(with_output(document, off_v=12.0, on_v=12.0))
    with pytest.raises(PlanError, match="chatter") as caught:
        case_from_plan(plan)
    assert caught.value.limit == "above 12 V"
