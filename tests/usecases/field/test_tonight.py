"""Tonight is safe only where it was never under the reserve till dawn, and nothing is unsettled."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from pathlib import Path
from types import SimpleNamespace
from typing import Any, cast

import numpy as np
import pytest

from oddkettle.plan import Plan
from oddkettle.text.render import render
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry
from oddkettle.usecases.field.track.today import today_of
from oddkettle.usecases.field.track.tonight import Tonight, level_until, tonight, unsettled
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip, follow, rest_with
from oddkettle.usecases.notifications.alarms.alarms import look
from oddkettle.usecases.plans.plans import create_plan
from tests.usecases.conftest import percent


@pytest.fixture
def here(store: Path, moth: Plan) -> TrackedTrip:
    """The fourth evening at ten, with a reading of 60 %."""
    plan_id = create_plan(moth).id
    percent(plan_id, 9, 22, 60)
    return follow(plan_id)


def with_levels(here: TrackedTrip, scenarios: list[tuple[float, float]]) -> TrackedTrip:
    """The same trip, whose scenarios go evenly from one level now to another at dawn and on."""
    begin, steps = here.tracked.until, here.rest.grid.steps
    level = np.full((len(scenarios), steps + 1), np.nan)
    dawn = begin + round(8 * 60 / here.rest.grid.step_min)
    for row, (first, last) in enumerate(scenarios):
        level[row, begin : dawn + 1] = np.linspace(first, last, dawn + 1 - begin)
        # By day it is charged to the brim: that must not make the night safe.
        level[row, dawn + 1 :] = 1.0
    moved = replace(here)
    object.__setattr__(moved, "rest", replace(here.rest, level=level))
    return moved


def answer(here: TrackedTrip, scenarios: list[tuple[float, float]]) -> Tonight:
    return tonight(with_levels(here, scenarios))


def test_the_worst_of_ten_may_go_under_and_no_more(here: TrackedTrip) -> None:
    sound, bad = (0.6, 0.3), (0.6, 0.15)
    assert answer(here, [sound] * 10).answer == "safe"
    assert answer(here, [sound] * 9 + [bad]).answer == "safe"
    assert answer(here, [sound] * 8 + [bad] * 2).answer == "tight"
    assert answer(here, [sound] * 4 + [bad] * 6).answer == "under"


def test_a_battery_at_one_percent_is_never_safe_whatever_comes_after(here: TrackedTrip) -> None:
    found = answer(here, [(0.01, 0.01)] * 10)
    assert (found.answer, found.safe) == ("under", False)
    assert found.stretch is not None
    assert found.stretch.stands_under
    # Not even where it has climbed above the reserve by dawn.
    assert not answer(here, [(0.01, 0.5)] * 10).safe


def test_it_counts_when_and_how_low_by_hand(here: TrackedTrip) -> None:
    """From 60 to 10 % in eight hours: under 20 % after 6.4 of them, at 4:24 in the morning."""
    trip = with_levels(here, [(0.6, 0.1)] * 10)
    dawn = trip.tracked.until + round(8 * 60 / trip.rest.grid.step_min)
    found = level_until(trip, dawn)
    assert found.share_under == 1.0
    assert found.falls_at is not None
    minutes = found.falls_at.hour * 60 + found.falls_at.minute
    assert abs(minutes - (4 * 60 + 24)) <= trip.rest.grid.step_min
    assert found.lowest.middle == pytest.approx(10.0)
    # Up to midnight it is at 47.5 %.
    early = level_until(trip, trip.tracked.until + round(2 * 60 / trip.rest.grid.step_min))
    assert (early.share_under, early.falls_at) == (0.0, None)
    assert early.lowest.middle == pytest.approx(47.5)


def test_what_is_read_and_not_believed_leaves_the_night_unsettled(store: Path, moth: Plan) -> None:
    """A monitor's 23 % beside an estimate far above it: never "Tonight is safe"."""
    plan_id = create_plan(moth).id
    percent(plan_id, 8, 21, 92)
    before = today_of(plan_id)
    assert before.safe
    add_entry(plan_id, NewEntry(at=datetime(2026, 6, 8, 21, 30), kind="monitor_percent", value=23))
    after = today_of(plan_id)
    assert unsettled(follow(plan_id)) is not None
    assert not after.safe
    headline = render(after.headline)
    assert "23 % was read" in headline
    assert "safe" not in headline
    # A second one that agrees settles it, and the night is what it says.
    add_entry(plan_id, NewEntry(at=datetime(2026, 6, 8, 22, 0), kind="monitor_percent", value=23))
    assert unsettled(follow(plan_id)) is None
    assert not today_of(plan_id).safe


def test_today_and_the_alarms_do_not_contradict_each_other(store: Path, moth: Plan) -> None:
    """Where tonight goes under in a quarter of trips there is an alarm, and no word of safety."""
    for level in (95, 60, 35, 22, 5):
        plan_id = create_plan(moth).id
        percent(plan_id, 8, 22, level)
        night = tonight(follow(plan_id))
        today, raised = today_of(plan_id), look(plan_id)
        assert today.safe == night.safe
        assert night.stretch is not None
        if night.stretch.share_under >= 0.25:
            assert [one.kind for one in raised] == ["floor"], level
            assert "Tonight is safe" not in render(today.headline)
        if raised and "reserve" in raised[0].text and "although" in render(raised[0].text):
            assert not today.safe


def test_a_trip_that_is_over_has_no_night(here: TrackedTrip) -> None:
    grid = here.rest.grid
    ended = SimpleNamespace(
        **{name: getattr(here, name) for name in ("plan", "now", "day", "case", "rest")},
        tracked=SimpleNamespace(until=grid.steps, taken=()),
    )
    found = tonight(cast("Any", ended))
    assert (found.answer, found.safe) == ("over", False)


def test_a_drive_that_will_not_be_is_taken_out_of_the_rest_at_once(here: TrackedTrip) -> None:
    """As if it were taken out of the plan: the same scenarios, levels and moment."""
    day, block = 6, next(b for b in here.plan.trip.blocks if b.day == 6 and b.kind == "drive")
    blocks = [b for b in here.plan.trip.blocks if b != block]
    trip = here.plan.trip.model_copy(update={"blocks": blocks})
    without = rest_with(here, here.plan.model_copy(update={"trip": trip}))
    assert without.lasts.mean() < here.rest.lasts.mean()
    said = NewEntry(at=datetime(2026, 6, 6 + day, 10), kind="no_drive")
    add_entry(here.plan_id, said)
    after = follow(here.plan_id)
    assert after.now == here.now
    assert np.allclose(after.rest.level, without.level, equal_nan=True)
    # Every page asks the same rest: variants are laid beside it without that drive too.
    again = rest_with(after, after.plan)
    assert np.allclose(again.level, after.rest.level, equal_nan=True)


def test_an_appliance_that_will_not_run_is_off_at_once_and_now_stays(here: TrackedTrip) -> None:
    """As "Not today" on its row says it, hours before: the charge stays in the battery."""
    laptop = next(a for a in here.plan.use.appliances if a.id == "laptop")
    begins = datetime(2026, 6, 10, int(laptop.hours[0].start[:2]), 30)
    said = NewEntry(
        at=begins, until=begins.replace(hour=begins.hour + 1), kind="skipped", appliance=laptop.id
    )
    add_entry(here.plan_id, said)
    after = follow(here.plan_id)
    assert after.now == here.now
    # At the end both are full, to single-precision numbers.
    ends = (np.nanmean(one.rest.level[:, -1]) for one in (after, here))
    assert next(ends) >= next(ends) - 1e-4
    step = after.rest.grid.steps * 5 // 9
    assert np.nanmean(after.rest.level[:, step]) > np.nanmean(here.rest.level[:, step])
