"""What is enough, and what helps, from where the battery stands on a trip under way."""

from __future__ import annotations

import pytest

from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.usecases.field.track.track_report import track_plan
from oddkettle.usecases.improve.onward import mend_onward, seek_onward, weigh_onward
from oddkettle.usecases.improve.seek import Goal
from oddkettle.usecases.improve.weigh import Weighed, Weighing
from tests.usecases.conftest import percent, sought_of


def test_more_driving_from_here_makes_the_rest_surer(logged: int) -> None:
    lines = list(seek_onward(logged, Goal(knob="drive", sure_percent=60)))
    sought = sought_of(lines)
    assert sought.value is not None
    assert sought.lasts_percent >= 60
    tried = {line.value: line.lasts_percent for line in lines if line.kind == "tried"}
    assert tried[0] == pytest.approx(track_plan(logged).rest.lasts_percent, abs=3)
    assert sought.try_it is not None
    for block in sought.try_it.edits[0].value:
        if block["id"].startswith("m"):
            assert block["day"] >= 2


def test_a_drive_today_does_not_begin_before_now(plan_id: int) -> None:
    percent(plan_id, 8, 15, 50)
    made = sought_of(list(seek_onward(plan_id, Goal(knob="drive", day=2, sure_percent=99))))
    assert made.try_it is not None
    (start,) = [b["start"] for b in made.try_it.edits[0].value if b["id"].startswith("m")]
    assert start >= "15:00"


def test_what_can_be_done_on_the_way_is_weighed_from_where_it_stands(logged: int) -> None:
    base, *changes = weigh_onward(logged)
    assert isinstance(base, Weighing)
    assert base.lasts_percent == pytest.approx(track_plan(logged).rest.lasts_percent, abs=3)
    found = {line.change.key: line for line in changes if isinstance(line, Weighed)}
    assert len(found) == base.changes
    # Nothing for which a shop is needed, and nothing that lies in the past.
    assert not [key for key in found if key.startswith(("battery", "panel", "dcdc", "controller"))]
    assert all(line.change.euro is None or "mains" in line.change.text for line in found.values())
    assert found["drive:60"].points >= found["drive:30"].points >= 0
    assert found["without:trap"].points > 0
    assert base.tight_day >= 2


def test_weighing_and_seeking_agree_on_a_drive(logged: int) -> None:
    base, *changes = weigh_onward(logged)
    assert isinstance(base, Weighing)
    hour = next(c for c in changes if isinstance(c, Weighed) and c.change.key == "drive:60")
    goal = Goal(knob="drive", day=base.tight_day - 1, sure_percent=50)
    sought = sought_of(list(seek_onward(logged, goal)))
    # Nothing at all is found where even the longest drive does not do it.
    enough = sought.value is not None and sought.value <= 60
    assert enough == (hour.lasts_percent >= 50)


def test_late_in_the_day_a_weighed_drive_begins_after_now(plan_id: int) -> None:
    percent(plan_id, 11, 17, 30)
    percent(plan_id, 11, 18, 29)
    drives = [
        c.change
        for c in weigh_onward(plan_id)
        if isinstance(c, Weighed) and c.change.key.startswith("drive")
    ]
    assert drives
    for drive in drives:
        (block,) = [b for b in drive.edits[0].value if b["id"].startswith("m")]
        assert (block["day"], block["start"]) >= (5, "18:00")


@pytest.mark.parametrize(
    ("goal", "text"),
    [
        (Goal(knob="drive", day=0), "Day 1 is over"),
        (Goal(knob="battery"), "neither the panel nor the battery"),
        (Goal(knob="panel"), "neither the panel nor the battery"),
    ],
)
def test_what_can_no_longer_be_changed_is_refused(logged: int, goal: Goal, text: str) -> None:
    with pytest.raises(PlanRefused, match=text):
        list(seek_onward(logged, goal))


def test_where_one_drive_cannot_mend_the_rest_a_daily_one_is_offered(logged: int) -> None:
    goal = Goal(knob="drive", day=5, sure_percent=80)
    assert sought_of(list(seek_onward(logged, goal))).value is None
    offered = mend_onward(logged)
    assert offered is not None
    assert offered.value is not None
    assert "every day" in offered.text
    assert offered.lasts_percent >= 80


def test_where_one_drive_is_enough_it_lies_before_the_tight_day(plan_id: int) -> None:
    percent(plan_id, 12, 20, 70)
    percent(plan_id, 12, 21, 70)
    offered = mend_onward(plan_id)
    assert offered is not None
    assert offered.value is not None
    assert "on Sat 13" in offered.text or "every day" in offered.text


def test_where_the_rest_is_likely_already_nothing_is_offered(plan_id: int) -> None:
    percent(plan_id, 13, 20, 80)
    percent(plan_id, 13, 21, 80)
    assert mend_onward(plan_id) is None


def test_nothing_is_offered_before_the_trip(plan_id: int) -> None:
    assert mend_onward(plan_id) is None
