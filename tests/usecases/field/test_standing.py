"""One moment, one number: what every page, file and alarm says of now, tonight and the rest."""

from __future__ import annotations

import re
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np
import pytest

from oddkettle.text.render import render
from oddkettle.usecases.boxes.glance import glance_at
from oddkettle.usecases.exchange.calendar_file import calendar_of
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry
from oddkettle.usecases.field.track.standing import standing_at, standing_of
from oddkettle.usecases.field.track.today import today_of
from oddkettle.usecases.field.track.track_report import rest_of, track_plan
from oddkettle.usecases.field.track.tracked_trip import follow
from oddkettle.usecases.improve.onward import weigh_onward
from oddkettle.usecases.improve.weigh import Weighing
from oddkettle.usecases.notifications.alarms.alarms import look
from oddkettle.usecases.notifications.broker.publishing import values_of
from oddkettle.usecases.plans.plans import create_plan, open_plan
from tests.conftest import example
from tests.support.tiers import NIGHTLY, TIER

SAMPLES = ("moth-survey", "quarry-relay", "coast-weekend", "night-breather", "winter-caravan")
TRIPS = 20 if TIER == "nightly" else 6


def under_way(number: int) -> int:
    """A sample's trip on its second day or later, with what its owner noted by chance."""
    rng = np.random.default_rng(number)
    plan = example(SAMPLES[number % len(SAMPLES)])
    plan_id = create_plan(plan).id
    start = datetime.combine(plan.trip.start, datetime.min.time())
    day = int(rng.integers(1, len(plan.trip.days)))
    at = start + timedelta(days=day, hours=int(rng.integers(6, 23)))
    for back_h in (9, 0):
        value = round(float(rng.uniform(15, 95)))
        when = at - timedelta(hours=back_h)
        add_entry(plan_id, NewEntry(at=when, kind="monitor_percent", value=value))
    if number % 2:
        add_entry(plan_id, NewEntry(at=at + timedelta(hours=1), kind="no_drive"))
    return plan_id


def percents(text: str) -> list[float]:
    return [float(found) for found in re.findall(r"(\d+(?:\.\d+)?) %", text)]


@pytest.mark.parametrize("number", range(TRIPS))
def test_every_number_of_a_trip_under_way_is_that_of_its_standing(store: Path, number: int) -> None:
    plan_id = under_way(number)
    one = standing_of(plan_id)
    assert one.begun
    track, today, glance = track_plan(plan_id), today_of(plan_id), glance_at(plan_id)
    # The level now.
    assert track.level == today.level == one.level
    shown = {said.topic.rsplit("/", 1)[1]: said.payload for said in values_of("b", plan_id)}
    assert float(shown["level"]) == pytest.approx(one.level.middle, abs=0.05)
    assert float(shown["level-low"]) == pytest.approx(one.level.low, abs=0.05)
    told = one.level.high if track.question is not None else one.level.middle
    assert f"{told:.0f} %" in track.headline
    # Tonight.
    assert today.safe == one.safe == (shown["tonight-safe"] == "true")
    assert shown["tonight"] == render(today.headline)
    alarms = [alarm for alarm in look(plan_id) if alarm.kind == "floor"]
    if one.safe:
        assert "Tonight is safe" in render(today.headline)
    if one.tonight == "under":
        assert alarms
    # The rest: its chance, its lowest level, its words.
    assert track.rest == one.rest
    assert rest_of(plan_id, open_plan(plan_id).document) == one.rest
    assert today.rest == one.rest.headline == glance.headline
    assert shown["verdict"] == render(one.rest.headline)
    assert glance.lasts_percent == one.rest.lasts_percent
    weighing = next(line for line in weigh_onward(plan_id) if isinstance(line, Weighing))
    assert weighing.lasts_percent == pytest.approx(one.rest.lasts_percent)
    # Dawn as Today tells it is the band's own.
    for expected in today.expected:
        assert one.rest.lowest.low <= expected.level.middle + 1e-6


@NIGHTLY
@pytest.mark.parametrize("number", range(TRIPS))
def test_the_calendars_hour_is_that_of_the_rest(store: Path, number: int) -> None:
    plan_id = under_way(number)
    here = follow(plan_id)
    under = here.rest.level < here.case.fails_below
    often = float(under.any(axis=1).mean())
    _, file = calendar_of(plan_id)
    assert (b"Be back" in file) == (often >= 0.1)


def test_before_it_begins_the_plan_is_the_standing_and_says_so(plan_id: int) -> None:
    one, glance = standing_of(plan_id), glance_at(plan_id)
    assert not one.begun
    assert one.why_text == "The trip has not begun; this is the plan."
    assert glance.lasts_percent == one.rest.lasts_percent


def test_the_home_card_hears_of_the_log(plan_id: int) -> None:
    before = glance_at(plan_id).lasts_percent
    add_entry(plan_id, NewEntry(at=datetime(2026, 6, 8, 21), kind="monitor_percent", value=25))
    assert glance_at(plan_id).lasts_percent < before


def test_a_trip_that_is_over_says_so_everywhere(plan_id: int) -> None:
    last = datetime(2026, 6, 14, 23, 59)
    add_entry(plan_id, NewEntry(at=last, kind="monitor_percent", value=70))
    over = follow(plan_id, last)
    one = standing_at(over)
    today, track = today_of(plan_id, last), track_plan(plan_id, last)
    assert today.headline == today.rest == track.detail == one.rest.headline == "The trip is over."
    assert one.rest.detail == ""
    assert today.tonight == one.tonight == "over"


def test_the_last_night_is_safe_until_the_trip_ends(plan_id: int) -> None:
    add_entry(plan_id, NewEntry(at=datetime(2026, 6, 14, 20), kind="monitor_percent", value=90))
    assert "until the trip ends" in today_of(plan_id).headline
