"""The first sentence that anybody reads, held by hand on boxes whose trip is plain arithmetic."""

from __future__ import annotations

import re
from typing import Any

import pytest

from oddkettle.plan import Plan
from oddkettle.text.render import render
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import example


def plain(
    load_w: float,
    hours: tuple[str, str] = ("20:00", "22:00"),
    *,
    soc: float = 80,
    floor: int = 20,
    days: int = 3,
    capacity_ah: float = 100,
    **change: Any,
) -> Plan:
    """Lithium, nothing that charges it, one constant load, mild days."""
    document = example("moth-survey").model_dump(mode="json")
    trip, box = document["trip"], document["box"]
    trip |= {"days": trip["days"][:days], "blocks": [], "floor_percent": floor}
    trip["start_percent"] = soc
    box["battery"]["capacity_ah"] = capacity_ah
    box |= {"sun": [], "vehicle": [], "mains": [], "inverter": None, "order": []}
    document["use"] = {
        "appliances": [
            {
                "id": "load",
                "name": "Lamp",
                "power_w": load_w,
                "supply": "12v",
                "hours": [{"start": hours[0], "end": hours[1]}],
            }
        ]
    }
    document["assumptions"]["scenarios"] = 20
    document["build"] = {}
    for key, value in change.items():
        document["use"][key] = value
    return Plan.model_validate(document)


def told(plan: Plan) -> tuple[Any, str, str]:
    report = report_plan(plan, series=False, advice=False, odds="none")
    verdict = report.verdict
    return verdict, render(verdict.headline), render(verdict.detail)


def test_a_box_with_plenty_lasts_and_its_lowest_is_the_end() -> None:
    """30 W for two hours: 4.6 Ah a night of 100."""
    verdict, headline, detail = told(plain(30))
    assert verdict.lasts
    assert headline == "Your box lasts all three days."
    assert detail.startswith("As planned its lowest point is ")
    assert verdict.below_floor_min == 0
    assert verdict.first_below_at is None


def test_it_goes_under_the_reserve_on_the_night_that_arithmetic_says() -> None:
    """105 W for three hours at some 13 V are 24 Ah a night, and a little for the monitor: 80, 55,
    30, and on the third night under 20 %, but not empty."""
    verdict, headline, detail = told(plain(105, ("20:00", "23:00")))
    assert not verdict.lasts
    assert re.match(r"It goes under your reserve on Mon 8", headline), headline
    assert "your reserve is 20 %" in detail
    assert verdict.first_below_at is not None
    assert verdict.first_below_at.startswith("2026-06-08T2")
    assert verdict.lowest_day == 2


def test_it_cuts_out_where_more_is_asked_than_it_holds() -> None:
    verdict, headline, detail = told(plain(300, ("18:00", "23:00"), days=2))
    assert not verdict.lasts
    assert headline.startswith("The battery cuts out on Sat 6")
    assert "appliances go without" in detail


def test_it_is_close_within_ten_points_of_the_reserve_and_not_beyond() -> None:
    """Two nights of 60 W for 3 hours: some 28 Ah, 80 % down to about 52."""
    for floor, close in ((45, True), (30, False)):
        verdict, headline, _ = told(plain(60, ("20:00", "23:00"), floor=floor, days=2))
        assert verdict.lasts
        assert headline.endswith("but only just.") == close, (floor, headline)


def test_a_trip_that_begins_at_its_reserve_has_nothing_to_spend() -> None:
    verdict, headline, detail = told(plain(20, soc=20))
    assert headline == "It begins at your reserve, with nothing to spend."
    assert "At the start it holds 20 %" in detail
    assert not verdict.lasts


def test_it_lasts_by_switching_off_what_goes_first() -> None:
    plan = plain(100, ("18:00", "23:00"), shedding={"wanted_percent": 40}, days=2)
    verdict, headline, detail = told(plan)
    assert headline.endswith("by switching things off."), headline
    assert "what goes first is off at times" in detail
    assert verdict.lasts


@pytest.mark.parametrize("days", [2, 3])
def test_days_under_the_reserve_are_counted_in_minutes(days: int) -> None:
    """From the moment it goes under to the trip's end, for nothing charges it."""
    verdict, _, _ = told(plain(125, ("20:00", "23:00"), soc=45, days=days))
    assert verdict.first_below_at is not None
    first = verdict.first_below_at
    minutes = (days * 1440) - (
        (int(first[8:10]) - 6) * 1440 + int(first[11:13]) * 60 + int(first[14:16])
    )
    assert abs(verdict.below_floor_min - minutes) <= 5
