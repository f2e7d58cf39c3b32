"""The average day, against sums done by hand: night share, peak, standby, spread, day kinds."""

from __future__ import annotations

from typing import Any

import pytest

from oddkettle.plan import Plan
from oddkettle.results.run import UseReport
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import example


def thing(key: str, watts: float, *hours: tuple[str, str], **more: Any) -> dict[str, Any]:
    return {
        "id": key,
        "name": key,
        "power_w": watts,
        "supply": "12v",
        "hours": [{"start": start, "end": end} for start, end in hours],
        "figure": "measured",
        **more,
    }


def use_of(*things: dict[str, Any], kinds: tuple[str, ...] = ()) -> UseReport:
    document = example("moth-survey").model_dump(mode="json")
    document["use"]["appliances"] = list(things)
    document["box"]["inverter"] = {"rating_w": 300, "idle_w": 6, "efficiency_percent": 90}
    for sun in document["box"]["sun"]:
        sun["controller"]["own_w"] = 0
    for day, kind in zip(document["trip"]["days"], kinds, strict=False):
        day["kind"] = kind
    return report_plan(Plan.model_validate(document), advice=False).use


def a_day_wh(use: UseReport, key: str) -> float:
    return next(draw.a_day.wh for draw in use.draws if draw.key == key)


def test_watts_times_hours_times_duty() -> None:
    use = use_of(thing("lamp", 10, ("20:00", "23:30"), duty_percent=40))
    assert a_day_wh(use, "lamp") == pytest.approx(10 * 3.5 * 0.4)
    assert use.a_day.ah == pytest.approx(use.a_day.wh / use.bus_v)


def test_usb_and_inverter_cost_what_they_lose() -> None:
    use = use_of(
        thing("phone", 8, ("19:00", "21:00"), supply="usb"),
        thing("drill", 90, ("10:00", "10:30"), supply="inverter"),
    )
    assert a_day_wh(use, "phone") == pytest.approx(16 / 0.88)
    assert a_day_wh(use, "drill") == pytest.approx(45 / 0.9)
    assert a_day_wh(use, "inverter-idle") == pytest.approx(6 / 2)


def test_midnight_is_night_and_noon_is_not() -> None:
    dark = use_of(thing("lamp", 10, ("23:00", "02:00")))
    light = use_of(thing("fan", 10, ("11:00", "14:00")))
    both = use_of(thing("lamp", 10, ("23:00", "02:00")), thing("fan", 30, ("11:00", "12:00")))
    assert dark.night_percent == pytest.approx(100)
    assert light.night_percent == pytest.approx(0)
    assert both.night_percent == pytest.approx(50)


def test_the_peak_is_what_runs_at_once() -> None:
    use = use_of(
        thing("kettle", 140, ("07:00", "07:20")),
        thing("lamp", 10, ("06:30", "08:00")),
        thing("pump", 60, ("12:00", "12:30")),
    )
    assert use.peak_a == pytest.approx(150 / use.bus_v)
    assert 7 * 60 <= use.peak_min < 7 * 60 + 20


def test_a_compressor_counts_with_its_whole_power_at_the_peak() -> None:
    use = use_of(thing("box", 45, ("00:00", "24:00"), duty_percent=30))
    assert use.peak_a == pytest.approx(45 / use.bus_v)


def test_standby_is_what_waits_out_of_its_hours() -> None:
    use = use_of(
        thing("radio", 5, ("18:00", "22:00"), standby_w=0.5),
        thing("drill", 90, ("10:00", "11:00"), supply="inverter"),
    )
    by_key = {part.key: part.a_day.wh for part in use.standby}
    assert by_key["radio"] == pytest.approx(0.5 * 20)
    assert by_key["inverter-idle"] == pytest.approx(6)
    assert use.standby_a_day.wh == pytest.approx(sum(by_key.values()))


def test_nothing_waits_in_a_box_without_standby() -> None:
    assert use_of(thing("lamp", 10, ("20:00", "22:00"))).standby == []


def test_two_guesses_are_doubtful_like_the_sides_of_a_right_angle() -> None:
    use = use_of(
        thing("a", 30, ("20:00", "21:00"), figure="guess", spread_percent=10),
        thing("b", 40, ("20:00", "21:00"), figure="guess", spread_percent=10),
        thing("c", 90, ("20:00", "21:00")),
    )
    assert use.spread.wh == pytest.approx(5.0)
    assert use.guess_percent == pytest.approx(100 * 70 / 160)


def test_the_average_day_is_taken_over_days_of_every_kind() -> None:
    lamp = thing("lamp", 9, ("20:00", "21:00"), drive_hours=[], rest_hours=None)
    use = use_of(lamp, kinds=("drive", "rest", "drive", *["site"] * 6))
    assert a_day_wh(use, "lamp") == pytest.approx(9 * 7 / 9)


def test_profiles_add_up_to_the_day() -> None:
    use = report_plan(example("moth-survey"), advice=False).use
    for draw in use.draws:
        mean_a = sum(draw.profile_a) / len(draw.profile_a)
        assert mean_a * 24 == pytest.approx(draw.a_day.ah, abs=0.02)


def test_use_and_trip_show_the_same_charge_for_the_same_day(document: dict[str, Any]) -> None:
    """The average of the Trip page's days is the Use page's day, thing by thing, pads too."""
    document["box"]["heater"] = {"power_w": 20, "on_below_c": 12, "off_above_c": 16}
    document["trip"]["days"] = document["trip"]["days"][:2]
    document["trip"]["blocks"] = []
    document["trip"]["start_percent"] = 100
    report = report_plan(Plan.model_validate(document), advice=False)
    days = len(report.days)
    by_use = {draw.key: draw.a_day for draw in report.use.draws}
    assert by_use["heater"].ah > 0.5
    for draw in report.total.draws:
        assert by_use[draw.key].ah == pytest.approx(draw.used.ah / days, rel=1e-6)
        assert by_use[draw.key].wh == pytest.approx(draw.used.wh / days, rel=1e-6)


def test_the_pads_night_is_told_from_noon_to_noon(document: dict[str, Any]) -> None:
    """Two cold nights fall on three calendar days: the dearest is more than any calendar day's
    evening, and no more than the pads can take in a night."""
    document["box"]["heater"] = {"power_w": 20, "on_below_c": 12, "off_above_c": 16}
    report = report_plan(Plan.model_validate(document), advice=False)
    night = report.endurance.heater_night
    assert night is not None
    whole = report.endurance.heater.wh
    nights = len(report.days) + 1
    assert whole / nights <= night.wh <= min(20 * 24, whole)
