"""Ready-made units: what comes out of their label, their inputs' own limits, and what is said."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.judgement import Judgement, judge
from oddkettle.core.loads.demand import Inverter, Window
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import run_ensemble
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.coupling import ReadyMade
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Panel
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.sources.unit_input import through_input
from oddkettle.core.trip.grid import Block
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from tests.core.boxes import a_case, lamp

UNIT = ReadyMade(dc_efficiency=1.0, standby_w=0.0, usable=0.8)
HOOKUP = (Block("hookup", 0, 0, 0, 1440),)


def of_unit(unit: ReadyMade = UNIT, wh: float = 1280.0, **more: Any) -> Case:
    return a_case(unit=unit, bank=Bank(LIFEPO4, wh / 12.8), floor=0.0, **more)


def judged(case: Case) -> dict[str, Judgement]:
    run = simulate(case)
    return {judgement.code: judgement for judgement in judge(run, keep_ledger(run))}


def test_what_is_lost_inside_is_lost_on_the_way_out() -> None:
    """1280 Wh of which 80 % come out run 100 W for about ten hours, and the ledger says why."""
    run = simulate(of_unit(appliances=(lamp(100.0),), soc0=1.0))
    ledger = keep_ledger(run)
    used = float(ledger.draws[0].used.wh.sum())
    lost = float(ledger.draws[0].conversion_wh.sum())
    dark_from = int(np.argmax(run.track.served < 1.0)) * run.grid.step_h
    assert lost == pytest.approx(0.2 * used)
    # A lithium cell under so small a load stands a little above its nominal voltage.
    assert dark_from == pytest.approx(0.8 * 1280 / 100, rel=0.06)


def test_all_of_the_label_must_go_in_to_fill_it() -> None:
    """The same charge fills a unit from empty, whatever share of it comes out again."""
    charger = (MainsCharger("m", "Mains", 10.0, 0.9),)
    taken = []
    for usable in (1.0, 0.7):
        case = of_unit(
            replace(UNIT, usable=usable), mains=charger, blocks=HOOKUP, soc0=0.0, wh=640.0
        )
        taken.append(float(simulate(case).taken_a.sum()) / 12.0)
    assert taken[0] == pytest.approx(taken[1])
    assert taken[0] == pytest.approx(640 / 12.8, rel=0.03)


@pytest.mark.parametrize(("limit_w", "bears_v"), [(60.0, None), (None, 30.0), (400.0, 48.0)])
def test_an_input_holds_panels_to_its_watts_and_volts(
    limit_w: float | None, bears_v: float | None
) -> None:
    array = SunInput(
        "s",
        "Sun",
        (Panel(100.0, "flat", 0.0, 180.0, False),),
        Controller(20.0, 1.0, input_limit_w=90.0),
    )
    held = through_input(array, limit_w, bears_v, 12.0)
    assert isinstance(held, SunInput)
    assert held.controller.input_limit_w == min(90.0, limit_w or 90.0)
    assert held.controller.input_limit_v == bears_v


def test_an_input_of_watts_holds_a_mains_charger_by_what_it_draws() -> None:
    charger = MainsCharger("m", "Mains", 30.0, 0.9)
    held = through_input(charger, 100.0, None, 12.0)
    case = of_unit(mains=(held,), blocks=HOOKUP, soc0=0.2)
    run = simulate(case)
    drawn = run.taken_a[0] * run.track.bus_v / 0.9
    assert float(drawn.max()) == pytest.approx(100.0, rel=0.01)


def unit_plan(document: dict[str, Any], inputs: list[dict[str, Any]]) -> Case:
    document["box"]["unit"] = {"capacity_wh": 1000, "inputs": inputs}
    return case_from_plan(Plan.model_validate(document))


def test_of_two_sources_on_one_input_the_stronger_is_plugged_in(document: dict[str, Any]) -> None:
    keys = [s["id"] for group in ("sun", "vehicle") for s in document["box"][group]]
    apart = simulate(unit_plan(document, []))
    shared = unit_plan(document, [{"name": "DC input", "members": keys[:2]}])
    run = simulate(shared)
    rows = [j for j, source in enumerate(run.sources) if source.key in keys[:2]]
    assert int((apart.taken_a[rows] > 0.0).sum(axis=0).max()) == 2
    assert int((run.taken_a[rows] > 0.0).sum(axis=0).max()) == 1
    # The scenarios take turns as the single run does.
    ensemble = run_ensemble(replace(shared, doubt=replace(shared.doubt)), 4)
    assert ensemble.level.shape[0] == 4
    assert run_ensemble(unit_plan(document, []), 4).level.sum() >= ensemble.level.sum()


@pytest.mark.parametrize(
    ("inputs", "said"),
    [
        ([{"name": "A", "members": ["moon"]}], "is no source"),
        ([{"name": "A", "members": ["K"]}, {"name": "B", "members": ["K"]}], "plugged in twice"),
    ],
)
def test_inputs_that_cannot_be_are_refused(
    document: dict[str, Any], inputs: list[dict[str, Any]], said: str
) -> None:
    key = document["box"]["sun"][0]["id"]
    for one in inputs:
        one["members"] = [key if member == "K" else member for member in one["members"]]
    with pytest.raises(PlanError, match=said) as caught:
        unit_plan(document, inputs)
    assert caught.value.where[:3] == ("box", "unit", "inputs")


BUILT = {
    "over-deep",
    "charge-too-hard",
    "discharge-over-limit",
    "inverter-current",
    "profile-mismatch",
    "vent-missing",
    "air-missing",
}


def test_a_units_inside_is_not_judged_as_if_it_were_built() -> None:
    """The same figures as a box of one's own raise what a unit's makers have seen to."""
    things = {
        "appliances": (lamp(900.0, 18.0, 19.0),),
        "inverter": Inverter(2000.0, 10.0, 0.9),
        "mains": (MainsCharger("m", "Mains", 60.0, 0.9),),
        "blocks": (Block("hookup", 0, 0, 0, 300),),
        "soc0": 0.3,
    }
    built = judged(a_case(bank=Bank(LIFEPO4, 50.0), floor=0.0, **things))
    ready = judged(of_unit(wh=640.0, **things))
    assert {"charge-too-hard", "discharge-over-limit", "inverter-current"} <= set(built)
    assert not BUILT & set(ready)


def test_what_is_said_of_a_label_is_what_comes_out() -> None:
    """Of 1000 Wh with a fifth kept back, 90 % come out: 720 Wh; by 12 V outlets 92 % of that."""
    unit = ReadyMade(dc_efficiency=0.92, standby_w=0.0, usable=0.9)
    said = judged(a_case(unit=unit, bank=Bank(LIFEPO4, 1000 / 12.8), floor=0.2))
    judgement = said["usable-not-nameplate"]
    assert {n.name: round(n.value) for n in judgement.numbers} == {"label": 1000, "comes out": 720}
    assert "662 Wh" in judgement.means


@pytest.mark.parametrize(("outlets_w", "speaks"), [(119.0, True), (121.0, False), (None, False)])
def test_outlets_that_give_less_than_runs_at_once(outlets_w: float | None, speaks: bool) -> None:
    unit = replace(UNIT, dc_output_w=outlets_w)
    said = judged(of_unit(unit, appliances=(lamp(120.0, 20.0, 21.0),), soc0=0.9))
    assert ("unit-outlets-over" in said) is speaks


@pytest.mark.parametrize(("takes_w", "speaks"), [(150.0, True), (450.0, False)])
def test_inputs_that_take_less_than_is_offered(takes_w: float, speaks: bool) -> None:
    roof = SunInput("s", "Sun", (Panel(400.0, "flat", 0.0, 180.0, False),), Controller(40.0, 0.96))
    said = judged(of_unit(replace(UNIT, input_w=takes_w), sun=(roof,), soc0=0.2, wh=4000.0))
    assert ("unit-input-over" in said) is speaks


@pytest.mark.parametrize(("wh", "speaks"), [(1000.0, False), (3000.0, True)])
def test_only_a_large_unit_is_too_heavy_for_one(wh: float, speaks: bool) -> None:
    assert ("heavy-lift" in judged(of_unit(wh=wh))) is speaks


def test_a_units_own_draw_is_told_where_it_runs_for_nothing() -> None:
    """7 W day and night beside a lamp of 10 W for three hours: 168 Wh of 205.5.

    The lamp's 30 Wh cost the cells 37.5: a fifth is lost on the way out.
    """
    evening = replace(lamp(10.0), windows=(Window(19 * 60, 22 * 60),))
    unit = replace(UNIT, standby_w=7.0)
    said = judged(of_unit(unit, appliances=(evening,)))["unit-own-draw"]
    assert "82 % of all use" in said.text
    off = replace(unit, off_unused=True)
    assert "unit-own-draw" not in judged(of_unit(off, appliances=(evening,)))
    # Beside a fridge of 60 W that runs all day nothing is to be had.
    assert "unit-own-draw" not in judged(of_unit(unit, appliances=(lamp(60.0),)))
