"""Nine people's sentences: a day's use by hand, within a tenth, and whether it can last at all."""

from __future__ import annotations

from datetime import date

import pytest

from oddkettle.core.units.conversion import HOURS_PER_DAY
from oddkettle.usecases.onboarding.answers import begin_at, tell
from oddkettle.usecases.onboarding.grammar.read import read_sentence
from oddkettle.usecases.simulate.run_report import report_plan

JUNE = date(2026, 6, 1)
USB, MAINS = 0.88, 0.88
"""What a USB converter and an inverter pass on [textbook]."""
PEOPLE = {
    # 40 W a third of 24 h; 8 W for 3 h; two phones of 8 W for 2 h through USB.
    "camper": (
        "100 Ah AGM, 120 W folding panel, cool box 40 W running a third of the time, "
        "lights 8 W 3 h, 2 phones, 3 nights in August",
        40 * 24 / 3 + 8 * 3 + 2 * 8 * 2 / USB,
    ),
    # 45 W a third of 24 h; 60 W for 3 h through an inverter.
    "overlander": (
        "120 Ah LiFePO4, 25 A dc-dc, 160 W roof panel, cool box 45 W a third of the time, "
        "laptop 60 W 3 h, 12 nights, drives every third day",
        45 * 24 / 3 + 60 * 3 / MAINS,
    ),
    # 12 V outlets pass 92 %, of what the label says 90 % comes out; 5 W for itself, all day.
    "unit": (
        "700 Wh power station, 12 V socket, lights 8 W 4 h, fan 12 W 8 h, 5 nights",
        (8 * 4 + 12 * 8) / 0.92 / 0.9 + 5 * 24 / 0.9,
    ),
    # 50 W a quarter of 9 h, 5 W while it listens.
    "radio": (
        "100 Ah LiFePO4, mains before leaving, radio 50 W sending a quarter of 9 hours, 2 nights",
        50 * 9 / 4 + 5 * 9 * 3 / 4,
    ),
    "breathing": ("100 Ah lithium, cpap 45 W from 22 to 6, two nights, no sun", 45 * 8),
    "standby": (
        "80 Ah flooded on a staged charger, router 10 W all day, lights 15 W 5 h, "
        "how long in an outage",
        10 * 24 + 15 * 5,
    ),
    "logger": ("9 Ah AGM, 6 W panel, logger 1.5 Wh a day, left alone 12 months at 54 N", 1.5),
    # The pads beneath it come on top, as cold as it is.
    "winter": (
        "100 Ah LiFePO4, -10 C nights, diesel heater 30 W 10 h, lights 8 W 5 h, "
        "4 nights in January",
        30 * 10 + 8 * 5,
    ),
    "builder": (
        "I run a laptop 60 W 3 h, lights 10 W 4 h, fridge 30 Ah a day for 3 nights, "
        "which box do I need?",
        60 * 3 / MAINS + 10 * 4 + 30 * 12.5,
    ),
}


@pytest.mark.parametrize("who", PEOPLE)
def test_a_days_use_is_what_a_careful_person_sums_up(who: str) -> None:
    typed, by_hand_wh = PEOPLE[who]
    reading = read_sentence(typed, begin_at("UTC", JUNE), JUNE)
    assert reading.left == []
    report = report_plan(tell(reading.sentence).plan, advice=False)
    assert report.use.a_day.wh == pytest.approx(by_hand_wh, rel=0.1)


def test_how_long_an_outage_is_bridged_is_content_over_use() -> None:
    typed, by_hand_wh = PEOPLE["standby"]
    reading = read_sentence(typed, begin_at("UTC", JUNE), JUNE)
    report = report_plan(tell(reading.sentence).plan, odds="full")
    hours = float(report.headline.split(" h ")[0].split()[-1])
    # 80 Ah of 12 V, a tenth gone with the years, down to the half that is kept in reserve.
    by_hand_h = 80 * 12 * 0.9 * 0.5 / by_hand_wh * HOURS_PER_DAY
    assert 0.7 * by_hand_h <= hours <= 1.1 * by_hand_h


@pytest.mark.parametrize("place", ["Oslo", "Alice Springs", "Nairobi", "Tuscany"])
@pytest.mark.parametrize("month", ["January", "April", "July", "October"])
def test_a_fridge_that_runs_a_third_of_the_time_does_so_wherever_it_was_said(
    place: str, month: str
) -> None:
    typed = f"100 Ah lithium, fridge 45 W a third of the time, 4 nights in {month} near {place}"
    reading = read_sentence(typed, begin_at("UTC", JUNE), JUNE)
    report = report_plan(tell(reading.sentence).plan, advice=False)
    assert report.use.a_day.wh == pytest.approx(45 * 24 / 3, rel=0.25)
