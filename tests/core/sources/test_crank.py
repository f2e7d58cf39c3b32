"""A hand crank: what somebody turns comes in, and it is known wherever sources are told of."""

from __future__ import annotations

import pytest

from oddkettle.core.planning.sizing import Design, lay_search, own_design, sized
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.crank import Crank
from oddkettle.core.trip.blocks import DONE
from oddkettle.core.trip.grid import Block
from tests.core.boxes import a_case, lamp

CRANK = Crank("c", "Crank", power_w=30.0, efficiency=0.6, limit_a=5.0)
TURNED = (Block("crank", 0, 8 * 60, 0, 9 * 60), Block("crank", 0, 17 * 60, 0, 17 * 60 + 30))


def test_an_hour_and_a_half_at_30_w_and_60_percent_brings_27_wh() -> None:
    run = simulate(a_case(crank=(CRANK,), blocks=TURNED, soc0=0.5))
    brought = float((run.taken_a[0] * run.track.bus_v).sum() * run.grid.step_h)
    assert brought == pytest.approx(30.0 * 0.6 * 1.5, rel=0.01)


def test_nobody_turns_it_outside_of_its_hours_nor_past_its_limit() -> None:
    run = simulate(a_case(crank=(CRANK,), blocks=(), soc0=0.5))
    assert float(run.taken_a.sum()) == 0.0
    strong = Crank("c", "Crank", power_w=300.0, efficiency=0.9, limit_a=5.0)
    run = simulate(a_case(crank=(strong,), blocks=TURNED, soc0=0.2))
    assert float(run.taken_a.max()) == pytest.approx(5.0, abs=0.01)


def test_a_search_for_sizes_leaves_it_as_it_is() -> None:
    case = a_case(crank=(CRANK,), blocks=TURNED, soc0=0.5, appliances=(lamp(10.0),))
    search = lay_search(case, 4)
    own = own_design(case)
    larger = sized(search, Design(own.panel_w, 2 * own.battery_ah, own.dcdc_a, own.mains_a))
    assert (larger.offers["limit_a"] == search.box.offers["limit_a"]).all()


def test_a_day_and_a_calendar_say_what_one_does() -> None:
    assert DONE["crank"] == "Turn the crank"
