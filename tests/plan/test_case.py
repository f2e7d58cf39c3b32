"""From the document to the core: what stands for what is not said."""

from __future__ import annotations

from typing import Any

import pytest

from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.relay import Relay
from oddkettle.core.weather.world_climate import at_place
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from tests.plan.test_document import put


def case(document: dict[str, Any], **changes: object) -> Case:
    for path, value in changes.items():
        document = put(document, path.replace("__", "."), value)
    return case_from_plan(Plan.model_validate(document))


def test_a_day_that_says_its_own_wins_over_assumptions_and_they_over_the_climate(
    document: dict[str, Any],
) -> None:
    days = [{"sky": "clear", "low_c": -3}, {"sky": "usual"}, {"sky": "usual", "high_c": 30}]
    bare = {"trip__days": days, "trip__blocks": []}
    climate = case(document, **bare, assumptions={"climate": "temperate_maritime"})
    assert climate.clearness[0] == 1.02
    # Early June: between May's and June's month means.
    assert 0.67 < climate.clearness[1] < 0.69
    assert climate.low_c[0] == -3.0
    assert 5.0 < climate.low_c[1] < 12.0
    assert climate.high_c[2] == 30.0
    assumed = case(
        document,
        **bare,
        assumptions={"climate": "temperate_maritime", "usual_clearness": 0.5, "low_c": 2},
    )
    assert assumed.clearness[1] == 0.5
    assert assumed.low_c == (-3.0, 2.0, 2.0)
    here = case(document, **bare, assumptions={"climate": "place"})
    table = at_place(here.site.latitude, here.site.longitude).climate
    assert min(table.clearness[4:6]) <= here.clearness[1] <= max(table.clearness[4:6])
    assert here.doubt.place == pytest.approx(table.doubt)
    assert here.doubt.place < climate.doubt.place
    nothing = case(document, **bare, assumptions={})
    assert nothing.clearness[1] == 0.68
    assert (nothing.low_c[1], nothing.high_c[1]) == (10.0, 18.0)


@pytest.mark.parametrize(
    ("days", "step"), [(1, 5), (31, 5), (32, 15), (120, 15), (121, 60), (400, 60)]
)
def test_steps_grow_with_the_trip_unless_told(
    document: dict[str, Any], days: int, step: int
) -> None:
    trip = {"trip__days": [{"sky": "usual"}] * days, "trip__blocks": []}
    assert case(document, **trip, assumptions={}).step_min == step
    assert case(document, **trip, assumptions={"step_min": 10}).step_min == 10


def test_a_ready_made_units_watt_hours_are_its_battery(document: dict[str, Any]) -> None:
    """1000 Wh at 12.8 V are 78.1 Ah, all of which must go in; 90 % of them come out."""
    unit = case(document, box__unit={"capacity_wh": 1000, "usable_percent": 90})
    assert unit.bank.capacity_ah == pytest.approx(1000 / 12.8)
    assert unit.unit is not None
    assert unit.unit.dc_efficiency == 0.92
    assert unit.usable_ah == pytest.approx(0.9 * 1000 / 12.8 * (1 - unit.floor))


def test_nmc_charges_at_its_cells_own_voltage(document: dict[str, Any]) -> None:
    battery = {"chemistry": "nmc", "capacity_ah": 40, "cells": 3}
    three = case(document, box__battery=battery)
    assert three.profile.absorption_v == pytest.approx(3 * 4.15)
    four = case(document, box__battery={**battery, "cells": 4})
    assert four.profile.absorption_v == pytest.approx(4 * 4.15)
    assert simulate(three).track.bus_v.max() < 12.6 + 0.01


def test_a_panel_by_watts_alone_suits_the_box_it_is_on(document: dict[str, Any]) -> None:
    box = {"system_v": 24, "battery": {"chemistry": "agm", "capacity_ah": 100, "series": 2}}
    sun = document["box"]["sun"]
    big = case(document, box={**document["box"], **box, "sun": sun, "vehicle": []})
    assert big.sun[0].panels[0].plate.vmp_v == 36.0
    assert simulate(big).taken_a[0].max() > 1.0
    small = case(document)
    assert small.sun[0].panels[0].plate.vmp_v == 18.0


def test_a_socket_is_fused_whether_or_not_it_says_so(document: dict[str, Any]) -> None:
    vehicle = {"id": "v", "name": "Socket", "kind": "socket", "limit_a": 30}
    socket = case(document, box__vehicle=[vehicle]).vehicle[0]
    assert isinstance(socket, DcDc)
    assert socket.fuse_a == 10.0
    other = case(document, box__vehicle=[{**vehicle, "fuse_a": 15}]).vehicle[0]
    assert other.fuse_a == 15.0
    relay = case(document, box__vehicle=[{**vehicle, "kind": "relay"}]).vehicle[0]
    assert isinstance(relay, Relay)


def test_a_second_bank_keeps_its_own_chemistry_and_lead(document: dict[str, Any]) -> None:
    second = {
        "battery": {"chemistry": "gel", "capacity_ah": 60},
        "start_percent": 70,
        "link_mohm": 15,
        "always": True,
    }
    both = case(document, box__second=second)
    assert both.second is not None
    assert both.second.bank.chemistry.key == "gel"
    assert both.second.bank.link_mohm == 15.0
    track = simulate(both).track
    assert track.soc.shape[1] == 2
    assert track.soc[0, 1] == 0.7


def test_shedding_and_quiet_hours_reach_the_core(document: dict[str, Any]) -> None:
    use = {
        **document["use"],
        "shedding": {"first_percent": 40},
        "quiet_hours": [{"start": "22:00", "end": "06:00"}],
    }
    told = case(document, use=use)
    assert told.shed == {"first": 0.4}
    assert (told.quiet[0].start_min, told.quiet[0].end_min) == (1320, 360)


def test_each_stop_has_the_climate_of_its_own_place(document: dict[str, Any]) -> None:
    desert = {"id": "d", "name": "Desert", "latitude": 23, "longitude": 5, "altitude_m": 900}
    trip = {
        "trip__stops": [desert],
        "trip__days": [{"sky": "usual"}, {"sky": "usual", "stop": "d"}],
        "trip__blocks": [],
    }
    by_place = case(document, **trip, assumptions={"climate": "place"})
    assert by_place.clearness[1] > by_place.clearness[0] + 0.1
    assert by_place.high_c[1] > by_place.high_c[0] + 10.0
    by_kind = case(document, **trip, assumptions={"climate": "temperate_maritime"})
    assert by_kind.clearness[0] == by_kind.clearness[1]
