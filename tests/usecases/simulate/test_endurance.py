"""Stages, time full, autonomy, cold and wear, as the result document tells them."""

from __future__ import annotations

import pytest

from oddkettle.plan import Plan
from oddkettle.results.run import RunReport
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import example


def report(name: str) -> RunReport:
    return report_plan(example(name))


@pytest.fixture(scope="module")
def demo() -> RunReport:
    return report("moth-survey")


def test_a_chargers_stages_add_up_to_the_hours_it_was_on(demo: RunReport) -> None:
    chargers = {charger.key: charger for charger in demo.endurance.chargers}
    dcdc, mains = chargers["dcdc"], chargers["mains"]
    assert dcdc.bulk_h + dcdc.absorption_h + dcdc.float_h == pytest.approx(8.25, abs=0.2)
    assert mains.bulk_h + mains.absorption_h + mains.float_h == pytest.approx(9.0, abs=0.2)


def test_autonomy_is_told_every_three_hours_and_follows_the_level(demo: RunReport) -> None:
    marks = demo.endurance.autonomy
    assert [mark.step for mark in marks[:3]] == [0, 36, 72]
    assert demo.series is not None
    floor = 20.0
    for mark in marks:
        level = demo.series.level_percent[mark.step]
        assert (mark.hours == 0.0) == (level < floor)
    shortest = demo.endurance.shortest_autonomy
    assert shortest is not None
    assert shortest.hours == min(mark.hours or 0.0 for mark in marks if mark.hours is not None)


def test_autonomy_is_left_out_while_dragging(moth: Plan) -> None:
    quick = report_plan(moth, advice=False)
    assert quick.endurance.autonomy == []
    assert quick.verdict.lowest_percent == report_plan(moth).verdict.lowest_percent


def test_a_box_that_is_charged_at_the_end_was_last_full_then(demo: RunReport) -> None:
    assert demo.endurance.last_full_at is not None
    assert demo.endurance.last_full_at.startswith("2026-06-14")


def test_pads_spare_a_box_the_frost_and_are_counted() -> None:
    warm = report("winter-caravan")
    assert warm.endurance.heater.wh > 0.0
    heater = next(draw for draw in warm.total.draws if draw.key == "heater")
    assert heater.used.wh == pytest.approx(warm.endurance.heater.wh)
    plan = example("winter-caravan")
    bare = plan.model_copy(update={"box": plan.box.model_copy(update={"heater": None})})
    cold = report_plan(bare)
    assert cold.endurance.locked_h > warm.endurance.locked_h
    assert cold.bank.lowest_c < warm.bank.lowest_c + 0.01


def test_wear_grows_with_the_trip_and_a_year_is_a_year() -> None:
    hut = report("gauging-hut").endurance.ageing
    # 240 days of six years.
    assert hut.calendar_share_percent == pytest.approx(100 * 240 / (6 * 365.25), rel=0.01)
    assert hut.full_cycles > 0.0


def test_days_tell_the_airs_and_the_batterys_temperatures(demo: RunReport) -> None:
    friday = demo.days[6]
    assert friday.air_low_c == pytest.approx(5.0, abs=0.2)
    assert friday.air_high_c == pytest.approx(12.0, abs=0.2)
    assert friday.air_low_c < friday.battery_low_c < friday.battery_high_c < 40.0


def test_a_standby_box_answers_for_the_worst_moment_of_an_outage() -> None:
    canal = report("canal-standby")
    shortest = canal.endurance.shortest_autonomy
    assert shortest is not None
    assert shortest.hours is not None
    outage = canal.endurance.outage
    assert outage is not None
    assert outage.middle_h is not None
    # The worst of ten is shorter than the expected one, which is near the middle one.
    assert outage.worst_h < 0.9 * shortest.hours
    assert outage.middle_h == pytest.approx(shortest.hours, rel=0.1)
    assert f"lasts {outage.worst_h:.0f} h in nine outages of ten" in canal.verdict.headline


def test_an_outage_longer_than_the_trip_is_told_as_one_case() -> None:
    plan = example("canal-standby")
    blocks = [block for block in plan.trip.blocks if (block.end_day or block.day) < 3]
    trip = plan.trip.model_copy(update={"days": plan.trip.days[:3], "blocks": blocks})
    short = report_plan(plan.model_copy(update={"trip": trip}))
    assert short.endurance.outage is None
    shortest = short.endurance.shortest_autonomy
    assert shortest is not None
    assert f"lasts about {shortest.hours:.0f} h" in short.verdict.headline
    assert "in expected weather" in short.verdict.detail


def test_the_same_trip_by_four_schools_is_told_apart() -> None:
    """One limit clips, a selector keeps away, a fridge on the vehicle spares the box."""
    totals = {
        name: report(f"quarry-{name}").total
        for name in ("separate", "combined", "selector", "relay")
    }

    def over(name: str, flow: str) -> float:
        return sum(getattr(source, flow).ah for source in totals[name].sources)

    assert over("combined", "clipped") > over("separate", "clipped")
    assert over("selector", "barred") > 1.0
    assert over("separate", "barred") == 0.0
    moved = sum(draw.moved.ah for draw in totals["relay"].draws)
    assert moved > 5.0
