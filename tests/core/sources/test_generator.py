"""A small fuel generator: what it gives through a charger, burns, and where it must not stand."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddkettle.core.loads.demand import Window
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import Run, simulate
from oddkettle.core.sources.generator import Generator, fuel_l, fuel_l_h
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.trip.grid import Block
from tests.core.boxes import a_case, lamp
from tests.core.judgement.test_judgement import judged

RUNS = Block("generator", 0, 600, 0, 720)
CHARGER = MainsCharger("m", "Mains charger", 20.0, 0.9)
SMALL = Generator("g", "Generator", 900.0, idle_l_h=0.2, full_l_h=0.56, tank_l=2.0)


def box(
    *blocks: Block, one: Generator = SMALL, charger: MainsCharger = CHARGER, **more: object
) -> Case:
    return a_case(mains=(charger,), generator=(one,), blocks=blocks, soc0=0.2, **more)


def given_ah(run: Run, key: str) -> float:
    j = [source.key for source in run.sources].index(key)
    return float(run.taken_a[j].sum() * run.grid.step_h)


def test_it_gives_its_charger_s_current_for_as_long_as_it_runs() -> None:
    """20 A for two hours, and the charger's own mains gives nothing: there is none."""
    run = simulate(box(RUNS))
    assert given_ah(run, "g") == pytest.approx(40.0, abs=0.1)
    assert given_ah(run, "m") == 0.0
    ledger = keep_ledger(run)
    assert ledger.sources[[s.key for s in run.sources].index("g")].clipped.ah.sum() < 0.01


def test_it_gives_no_more_than_its_watts() -> None:
    """180 W by .9 are 162 W at the bus: some 12.5 A at 13 V."""
    run = simulate(box(RUNS, one=replace(SMALL, rated_w=180.0)))
    on = run.taken_a[1] > 0.0
    watts = run.taken_a[1][on] * run.track.bus_v[on]
    assert watts == pytest.approx(np.full(on.sum(), 162.0))


def test_where_there_is_mains_the_charger_is_plugged_in_there() -> None:
    run = simulate(box(RUNS, Block("hookup", 0, 600, 0, 660)))
    assert given_ah(run, "m") == pytest.approx(20.0, abs=0.1)
    assert given_ah(run, "g") == pytest.approx(20.0, abs=0.1)


def test_quiet_hours_silence_it_unless_its_owner_says_otherwise() -> None:
    quiet = (Window(600, 660),)
    assert given_ah(simulate(box(RUNS, quiet=quiet)), "g") == pytest.approx(20.0, abs=0.1)
    loud = replace(SMALL, noisy=False)
    assert given_ah(simulate(box(RUNS, quiet=quiet, one=loud)), "g") == pytest.approx(40.0, abs=0.1)


def test_what_it_burns_is_a_straight_line_from_idling_to_full_load() -> None:
    assert fuel_l_h(SMALL, np.array([0.0, 450.0, 900.0, 2000.0])) == pytest.approx(
        [0.2, 0.38, 0.56, 0.56]
    )


def test_two_hours_at_a_third_of_its_load_by_hand() -> None:
    """20 A at about 13.2 V and .9 are some 293 W of 900: .2 + .326 * .36 = .317 l/h."""
    run = simulate(box(RUNS))
    source = run.sources[1]
    burnt = fuel_l(SMALL, source, run.taken_a[1] * run.track.bus_v, run.grid.step_h)
    assert burnt == pytest.approx(2 * 0.317, abs=0.005)
    said = judged(box(RUNS))["generator-fuel"]
    assert [n.value for n in said.numbers] == pytest.approx([2.0, burnt, burnt / 2.0])


def test_idling_beside_a_full_battery_burns_nearly_nothing_but_the_idle_share() -> None:
    full = replace(box(RUNS), soc0=1.0)
    run = simulate(full)
    burnt = fuel_l(SMALL, run.sources[1], run.taken_a[1] * run.track.bus_v, run.grid.step_h)
    assert burnt == pytest.approx(0.4, abs=0.02)


@pytest.mark.parametrize(("stands", "said"), [("open", False), ("near", True), ("inside", True)])
def test_its_exhaust_is_a_danger_wherever_people_breathe_it(stands: str, said: bool) -> None:
    found = judged(box(RUNS, one=replace(SMALL, stands=stands)))  # type: ignore[arg-type]
    assert ("generator-indoors" in found) is said
    if said:
        assert found["generator-indoors"].severity == "danger"


@pytest.mark.parametrize(("rated_w", "said"), [(330.0, False), (300.0, True)])
def test_a_charger_that_asks_more_than_it_gives_is_a_fault(rated_w: float, said: bool) -> None:
    """20 A at 14.2 V and .9 are 315.6 W."""
    found = judged(box(RUNS, one=replace(SMALL, rated_w=rated_w)))
    assert ("generator-overloaded" in found) is said
    if said:
        assert found["generator-overloaded"].numbers[0].value == pytest.approx(315.6, abs=0.1)


def test_a_charger_that_is_told_to_take_less_is_no_fault() -> None:
    tame = replace(CHARGER, supply_w=250.0)
    assert "generator-overloaded" not in judged(
        box(RUNS, one=replace(SMALL, rated_w=300.0), charger=tame)
    )


@pytest.mark.parametrize(("feeds", "said"), [(None, False), ("m", False), ("other", True)])
def test_a_generator_without_a_charger_is_told(feeds: str | None, said: bool) -> None:
    case = box(RUNS, one=replace(SMALL, feeds=feeds))
    assert ("generator-feeds-nothing" in judged(case)) is said
    assert (given_ah(simulate(case), "g") == 0.0) is said


def test_one_that_never_runs_says_nothing() -> None:
    said = judged(box(appliances=(lamp(5.0),)))
    assert not [code for code in said if code.startswith("generator")]
