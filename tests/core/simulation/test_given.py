"""Drives and hook-ups stray: by hand, and alike in the loop of many and in a run of one."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import run_ensemble
from oddkettle.core.simulation.given import given_by_day
from oddkettle.core.simulation.run import simulate, trip_grid
from oddkettle.core.simulation.scenarios import draw_scenarios, panel_sd, scenario_of
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Panel
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block, shares_of_steps
from tests.core.boxes import a_case, lamp

COUNT = 4000
WIDE = Controller(20.0, 0.96)


def shares(case: Case, kind: str, count: int = COUNT) -> np.ndarray:
    grid = trip_grid(case)
    found = given_by_day(case, grid, shares_of_steps(grid, case.blocks), count)
    return found[kind]  # type: ignore[index]


def drive(minutes: int, day: int = 0) -> Block:
    return Block("drive", day, 600, day, 600 + minutes)


def test_a_drive_strays_a_quarter_of_an_hour_and_a_short_one_less() -> None:
    """Of two hours an eighth, of twenty minutes no more than two fifths; the mean as planned."""
    long, short = (shares(a_case(blocks=(drive(m),)), "drive")[:, 0] for m in (120, 20))
    assert long.std() == pytest.approx(0.125, abs=0.01)
    assert short.std() == pytest.approx(0.4, abs=0.03)
    assert long.mean() == pytest.approx(1.0, abs=0.01)
    assert short.min() >= 0.0


def test_of_twenty_posts_one_is_dead() -> None:
    hooked = (Block("hookup", 0, 0, 0, 840),)
    given = shares(a_case(blocks=hooked), "hookup")[:, 0]
    assert (given == 0.0).mean() == pytest.approx(0.05, abs=0.01)


def test_what_is_not_planned_does_not_stray() -> None:
    case = a_case(blocks=(drive(60, day=1),), clearness=(0.7, 0.7, 0.7))
    given = shares(case, "drive", 50)
    assert np.all(given[:, [0, 2]] == 1.0)
    assert given[:, 1].std() > 0.1


@pytest.mark.parametrize(
    "source",
    [DcDc("d", "DC-DC", 20.0, 0.92), Relay("r", "Relay"), Relay("r", "Relay", forced=True)],
)
def test_one_of_many_scenarios_is_the_same_by_itself(source: DcDc | Relay) -> None:
    case = a_case(
        vehicle=(source,), blocks=(drive(90),), soc0=0.4, appliances=(lamp(20.0),), sun=()
    )
    ensemble = run_ensemble(case, 8)
    scenarios = draw_scenarios(case, 8)
    for i in (0, 3, 7):
        alone = simulate(case, scenario_of(case, trip_grid(case), scenarios, i))
        assert np.abs(ensemble.level[i] - alone.level).max() < 2e-3


def test_every_variant_of_a_box_has_the_same_drives() -> None:
    small, large = (
        a_case(vehicle=(DcDc("d", "DC-DC", amps, 0.92),), blocks=(drive(60),))
        for amps in (10.0, 40.0)
    )
    assert np.array_equal(shares(small, "drive", 100), shares(large, "drive", 100))


def test_a_box_that_hangs_on_one_drive_is_less_sure_than_it_was() -> None:
    """Its day's use is about what an hour brings: the drive decides."""
    case = a_case(
        mains=(MainsCharger("m", "Mains", 10.0, 0.9),),
        blocks=(Block("hookup", 0, 600, 0, 840),),
        soc0=0.6,
        floor=0.2,
        appliances=(lamp(30.0),),
    )
    sure = replace(case, blocks=(Block("hookup", 0, 600, 0, 900),))
    ends = run_ensemble(case, 200).level[:, -1]
    assert ends.std() > 0.02
    assert run_ensemble(sure, 200).level[:, -1].mean() > ends.mean()


def test_a_folding_panel_lies_less_surely_than_a_fixed_one() -> None:
    """5 % of labels and dirt for both; 10 % more of how it is put out: the root of both squares."""
    fixed, folding = (
        a_case(sun=(SunInput("s", "Sun", (Panel(100.0, "flat", 0.0, 180.0, portable),), WIDE),))
        for portable in (False, True)
    )
    assert panel_sd(fixed) == pytest.approx(0.05)
    assert panel_sd(folding) == pytest.approx(0.1118, abs=1e-4)
    assert draw_scenarios(folding, 1000).sun.std() == pytest.approx(0.112, abs=0.01)
