"""Alarms: what raises them, what does not; nothing is told twice, or by night for nought."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import date, datetime, timedelta
from pathlib import Path

import numpy as np
import pytest

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.plan import Plan
from oddkettle.store import samples
from oddkettle.text.render import render
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry
from oddkettle.usecases.field.track.tracked_trip import first_midnight, follow
from oddkettle.usecases.notifications.alarms import alarms, conditions
from oddkettle.usecases.notifications.alarms.alarms import Alarm, look, read
from oddkettle.usecases.plans.plans import create_plan
from oddkettle.usecases.simulate.run_cache import run_plan
from tests.conftest import example
from tests.usecases.conftest import percent


def kinds(found: list[Alarm]) -> list[str]:
    return [one.kind for one in found]


@pytest.fixture
def clock(monkeypatch: pytest.MonkeyPatch) -> Callable[[str], None]:
    """Sets the hour at which alarms are told."""

    def at(moment: str) -> None:
        monkeypatch.setattr(alarms, "now_utc", lambda: moment)

    at("2026-06-09T12:00:00+00:00")
    return at


def test_a_box_that_will_not_see_the_next_charge_is_told_of_with_hour_and_remedy(
    plan_id: int,
) -> None:
    percent(plan_id, 9, 22, 27)
    (alarm,) = look(plan_id)
    assert alarm.kind == "floor"
    text = render(alarm.text)
    assert text.startswith("It goes under your reserve of 20 % from about ")
    assert "before the next charge at " in text
    advice = render(alarm.remedy)
    assert re.search(r"^(Leave .* off tonight|Drive \d+ min by|Not enough: )", advice)
    # Counted by hand in the tracked futures, up to the hour of the charge that it names.
    here = follow(plan_id)
    hour, minute = map(int, text.split("next charge at ")[1][:5].split(":"))
    midnight = int(here.rest.grid.day_starts[4])
    until = midnight + round((hour * 60 + minute) / here.rest.grid.step_min)
    under = (here.rest.level[:, here.tracked.until : until + 1] < 0.2).any(axis=1).mean()
    assert f"in {10 * under:.0f} of 10 tries" in text


def test_what_becomes_urgent_is_another_thing_than_what_was_likely(store: Path, moth: Plan) -> None:
    """So that one who has seen the first is told of the second."""
    keys = []
    for level in (52, 40):
        plan_id = create_plan(moth).id
        percent(plan_id, 8, 22, level)
        (alarm,) = look(plan_id)
        keys.append((alarm.urgent, alarm.key))
    assert [urgent for urgent, _ in keys] == [False, True]
    assert keys[0][1] != keys[1][1]


@pytest.mark.parametrize("level", [75, 90])
def test_a_box_with_enough_raises_none(plan_id: int, level: int) -> None:
    percent(plan_id, 8, 22, level)
    assert look(plan_id) == []


def test_a_trip_that_has_not_begun_raises_none(plan_id: int) -> None:
    assert look(plan_id) == []


def test_the_same_thing_is_told_once_and_not_after_it_was_seen(
    plan_id: int, clock: Callable[[str], None]
) -> None:
    percent(plan_id, 9, 22, 25)
    (first,) = look(plan_id)
    (again,) = look(plan_id)
    assert again.key == first.key
    assert again.raised_at == first.raised_at
    assert first.tell
    (seen,) = read(plan_id, first.key)
    assert (seen.seen, seen.tell) == (True, False)
    assert not look(plan_id)[0].tell
    # A reading that shows enough ends it.
    add_entry(plan_id, NewEntry(at=datetime(2026, 6, 9, 22, 30), kind="full"))
    assert look(plan_id) == []


@pytest.mark.parametrize(
    ("moment", "told"),
    [
        ("2026-06-09T23:30:00+00:00", False),
        ("2026-06-10T03:00:00+00:00", False),
        ("2026-06-10T09:00:00+00:00", True),
    ],
)
def test_by_night_only_what_is_urgent_is_told(
    plan_id: int,
    clock: Callable[[str], None],
    moment: str,
    told: bool,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    clock(moment)
    percent(plan_id, 8, 12, 80)
    quiet = conditions.Found("silent:x", "silent", False, "The monitor is silent.", "Look.")
    loud = conditions.Found("fridge:x", "fridge", True, "The fridge runs.", "Look.")
    monkeypatch.setattr(alarms, "conditions", lambda _: [quiet, loud])
    assert {one.kind: one.tell for one in look(plan_id)} == {"silent": told, "fridge": True}


@pytest.mark.parametrize(("silent_s", "there"), [(None, False), (300.0, False), (900.0, True)])
def test_a_silent_monitor_is_told_of(
    plan_id: int, monkeypatch: pytest.MonkeyPatch, silent_s: float | None, there: bool
) -> None:
    percent(plan_id, 8, 12, 80)
    state = conditions.monitor_state(plan_id).model_copy(
        update={"address": "127.0.0.1:1", "silent_s": silent_s}
    )
    monkeypatch.setattr(conditions, "monitor_state", lambda _: state)
    found = look(plan_id)
    assert kinds(found) == (["silent"] if there else [])
    if there:
        assert "15 minutes" in found[0].text


@pytest.mark.parametrize(("times", "there"), [(1.0, False), (1.5, False), (2.3, True)])
def test_a_fridge_that_draws_twice_its_wont_is_told_of(
    store: Path, moth: Plan, times: float, there: bool
) -> None:
    """A monitor's samples over a night: what everything draws, with the cool box drawing more."""
    plan_id = create_plan(moth).id
    run = run_plan(moth)
    begin = first_midnight(moth) + timedelta(days=2, hours=22)
    first = int((begin - first_midnight(moth)).total_seconds() / 60 / run.grid.step_min)
    steps = int(6 * 60 / run.grid.step_min)
    span = slice(first, first + steps)
    assert run.taken_a[:, span].sum() == 0.0
    fridge = next(draw for draw in run.draws if draw.key == "coolbox").asked_w[span]
    rest = sum(draw.asked_w[span] for draw in run.draws) - fridge
    amps = -(rest + times * fridge) / run.track.bus_v[span]
    at_ms = (run.grid.starts_utc[span].astype(np.int64) * 1000).tolist()
    percent(plan_id, 8, 12, 90)
    samples.put(
        plan_id,
        [
            Sample(at, None, 13.2, float(a), None, None, None)
            for at, a in zip(at_ms, amps, strict=True)
        ],
    )
    found = [one for one in look(plan_id) if one.kind == "fridge"]
    assert bool(found) == there
    if there:
        assert f"{times:.1f} times what it usually does" in found[0].text


def test_frost_at_dawn_is_told_of_where_no_pads_keep_the_battery_warm(store: Path) -> None:
    warm = example("winter-caravan")
    frosty = [day.model_copy(update={"low_c": -15, "high_c": -8}) for day in warm.trip.days]
    warm = warm.model_copy(update={"trip": warm.trip.model_copy(update={"days": frosty})})
    cold = warm.model_copy(update={"box": warm.box.model_copy(update={"heater": None})})
    told = []
    for plan in (cold, warm):
        assert (plan.box.heater is None) == (plan is cold)
        plan_id = create_plan(plan).id
        at = datetime.combine(plan.trip.start, datetime.min.time()) + timedelta(days=3, hours=4)
        add_entry(plan_id, NewEntry(at=at, kind="monitor_percent", value=70))
        told.append([render(one.text) for one in look(plan_id) if one.kind == "frost"])
    assert len(told[0]) == 1
    assert "colder than 0 °C" in told[0][0]
    assert told[1] == []


def test_frost_is_told_of_a_day_ahead_and_no_earlier(store: Path) -> None:
    """One frosty spell in mild days: told as soon as half an Ah of it lies within 24 hours."""
    plan = example("winter-caravan")
    days = [
        day.model_copy(
            update={"low_c": -18, "high_c": -9} if n >= 4 else {"low_c": 8, "high_c": 14}
        )
        for n, day in enumerate(plan.trip.days)
    ]
    plan = plan.model_copy(
        update={
            "trip": plan.trip.model_copy(update={"days": days}),
            "box": plan.box.model_copy(update={"heater": None}),
        }
    )
    run = run_plan(plan)
    hour = round(1 / run.grid.step_h)
    edges = np.arange(0, run.grid.steps + 1, hour)
    ledger = keep_ledger(run, edges)
    frozen = np.sum([flow.frozen.ah for flow in ledger.sources], axis=0)
    first = int(np.flatnonzero(np.cumsum(frozen) >= 0.5)[0])
    assert first > 4 * 24
    for before_h, there in ((30, False), (20, True), (13, True)):
        plan_id = create_plan(plan).id
        begin = datetime.combine(plan.trip.start, datetime.min.time())
        at = begin + timedelta(hours=first + 1 - before_h)
        add_entry(plan_id, NewEntry(at=at, kind="monitor_percent", value=70))
        assert ("frost" in kinds(look(plan_id))) == there, before_h


def test_only_trips_that_are_now_are_watched(
    store: Path, moth: Plan, clock: Callable[[str], None]
) -> None:
    then = moth.model_copy(
        update={"trip": moth.trip.model_copy(update={"start": date(2031, 6, 6)})}
    )
    now, later = create_plan(moth).id, create_plan(then).id
    clock("2026-06-05T22:59:00+00:00")
    assert alarms._under_way() == []
    # An hour ahead of UTC: its first midnight.
    clock("2026-06-05T23:00:00+00:00")
    assert alarms._under_way() == [now]
    clock("2031-06-08T12:00:00+00:00")
    assert alarms._under_way() == [later]
    clock("2026-06-14T23:00:00+00:00")
    assert alarms._under_way() == []
