"""What an alarm advises is followed: then it is silent."""

from __future__ import annotations

import re
from datetime import datetime, timedelta
from pathlib import Path

import pytest

from oddkettle.plan import Plan
from oddkettle.text.render import render
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry
from oddkettle.usecases.field.track.tonight import tonight
from oddkettle.usecases.field.track.tracked_trip import first_midnight, follow
from oddkettle.usecases.notifications.alarms.alarms import look
from oddkettle.usecases.plans.plans import create_plan, open_plan, save_plan
from tests.usecases.conftest import percent


def advice_at(moth: Plan, level: float) -> tuple[int, str]:
    plan_id = create_plan(moth).id
    percent(plan_id, 8, 20, level)
    (alarm,) = [one for one in look(plan_id) if one.kind == "floor"]
    return plan_id, render(alarm.remedy)


@pytest.mark.parametrize("level", [60, 58, 56])
def test_what_is_left_off_is_enough(store: Path, moth: Plan, level: float) -> None:
    plan_id, advice = advice_at(moth, level)
    found = re.match(r"Leave (.+) off tonight \(saves .+?\)( or|\.)", advice)
    assert found, advice
    plan = open_plan(plan_id).document
    key = next(one.id for one in plan.use.appliances if one.name == found.group(1))
    here = follow(plan_id)
    until = tonight(here).until.replace(tzinfo=None)
    now = here.now.astimezone(first_midnight(plan).tzinfo).replace(tzinfo=None)
    off = NewEntry(at=now + timedelta(minutes=1), kind="skipped", appliance=key, until=until)
    add_entry(plan_id, off)
    assert tonight(follow(plan_id)).safe


@pytest.mark.parametrize("level", [58, 46, 40, 34])
def test_the_drive_is_enough(store: Path, moth: Plan, level: float) -> None:
    plan_id, advice = advice_at(moth, level)
    found = re.search(r"[Dd]rive (\d+) min by (\d\d):(\d\d)\.$", advice)
    assert found, advice
    minutes, hour, minute = map(int, found.groups())
    ends = datetime(2026, 6, 8, hour, minute)
    assert ends > datetime(2026, 6, 8, 20) + timedelta(minutes=minutes)
    now = open_plan(plan_id)
    document = now.document.model_dump(mode="json")
    begins = ends - timedelta(minutes=minutes)
    document["trip"]["blocks"].append(
        {"id": "advised", "kind": "drive", "day": 2, "start": f"{begins:%H:%M}",
         "end": f"{ends:%H:%M}"}
    )  # fmt: skip
    save_plan(plan_id, now.revision, Plan.model_validate(document), "drove as advised")
    assert tonight(follow(plan_id)).stretch.share_under <= 0.12  # type: ignore[union-attr]


def test_what_is_not_enough_says_so(store: Path, moth: Plan) -> None:
    """At 2 % neither what may be left off nor three hours of driving brings it above in time."""
    _, advice = advice_at(moth, 2)
    assert advice.startswith("Not enough: to leave ")
    assert "or a drive of up to 180 min. Charge it from mains" in advice


def test_an_alarm_says_from_when_to_when(store: Path, moth: Plan) -> None:
    plan_id = create_plan(moth).id
    percent(plan_id, 8, 22, 40)
    (alarm,) = [one for one in look(plan_id) if one.kind == "floor"]
    text = render(alarm.text)
    found = re.search(r"from about (\d\d):\d\d to (\d\d):\d\d", text)
    assert found, text
    here = follow(plan_id)
    stretch = tonight(here).stretch
    assert stretch is not None
    assert stretch.falls_at is not None
    assert stretch.falls_at.hour == int(found.group(1))
    # It is light by then, and the panel charges it.
    assert 6 <= int(found.group(2)) <= 13
