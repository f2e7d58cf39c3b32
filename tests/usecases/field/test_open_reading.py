"""A reading that does not fit is asked about where it was typed, and what is said of it counts."""

from __future__ import annotations

from datetime import datetime
from typing import Any

import pytest

from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.store.log import NoSuchEntry
from oddkettle.text.render import render
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import (
    add_entry,
    delete_entry,
    list_entries,
    settle_entry,
    withdrawn_entries,
)
from oddkettle.usecases.field.track.today import TodayReport, today_of
from oddkettle.usecases.field.track.track_report import track_plan
from tests.usecases.conftest import percent


def evening(plan_id: int, odd: float = 23) -> int:
    """92 % at nine in the evening, and another reading half an hour later; its number."""
    percent(plan_id, 8, 21, 92)
    at = datetime(2026, 6, 8, 21, 30)
    return add_entry(plan_id, NewEntry(at=at, kind="monitor_percent", value=odd)).id


def again(plan_id: int, value: float, minute: int = 33) -> TodayReport:
    at = datetime(2026, 6, 8, 21, minute)
    add_entry(plan_id, NewEntry(at=at, kind="monitor_percent", value=value))
    return today_of(plan_id)


def test_both_numbers_are_told_and_every_answer_is_offered(plan_id: int) -> None:
    entry = evening(plan_id)
    today = today_of(plan_id)
    assert today.question is not None
    assert today.question.entry == entry
    assert "23 % was read" in today.question.text
    assert [one.what for one in today.question.choices] == [
        "again", "right", "reset", "smaller", "withdraw",
    ]  # fmt: skip
    assert track_plan(plan_id).question == today.question
    # The band holds both, and the headline carries the worse.
    assert today.level.low < 30
    assert today.level.high > 80
    assert not today.safe
    assert "safe" not in render(today.headline)
    assert today.became is not None
    assert (today.became.entry, today.became.state) == (entry, "aside")


@pytest.mark.parametrize(("value", "low", "high"), [(22, 10, 30), (24, 12, 32)])
def test_a_second_one_that_agrees_is_believed_however_near(
    plan_id: int, value: float, low: float, high: float
) -> None:
    evening(plan_id)
    after = again(plan_id, value)
    assert after.question is None
    assert low < after.level.middle < high


def test_a_second_one_that_fits_the_estimate_gives_the_first_up_and_says_so(plan_id: int) -> None:
    entry = evening(plan_id)
    after = again(plan_id, 91)
    assert after.question is None
    assert after.safe
    assert after.level.low > 80
    mark = next(one for one in track_plan(plan_id).marks if one.entry == entry)
    assert mark.text.startswith("Not used: ")
    assert mark.text.endswith("what was read since fits that.")


@pytest.mark.parametrize(
    ("what", "low", "high"), [("right", 10, 30), ("smaller", 0, 30), ("reset", 80, 100)]
)
def test_what_is_said_of_it_settles_it(plan_id: int, what: Any, low: float, high: float) -> None:
    entry = evening(plan_id)
    said = settle_entry(plan_id, entry, what)
    today = today_of(plan_id)
    assert today.question is None
    assert low <= today.level.middle <= high
    # It stays in the log with its time and value, and with what it was before.
    assert (said.value, said.replaces) == (23, entry)
    assert [one.value for one in list_entries(plan_id)] == [92, 23]


def test_taken_back_it_is_as_if_it_had_not_been_typed(plan_id: int) -> None:
    percent(plan_id, 8, 21, 92)
    before = today_of(plan_id, datetime(2026, 6, 8, 21, 30)).level
    entry = add_entry(
        plan_id, NewEntry(at=datetime(2026, 6, 8, 21, 30), kind="monitor_percent", value=23)
    ).id
    delete_entry(plan_id, entry)
    assert today_of(plan_id, datetime(2026, 6, 8, 21, 30)).level == before
    assert [one.id for one in withdrawn_entries(plan_id)] == [entry]


def test_only_what_fits_a_kind_may_be_said_of_it(plan_id: int) -> None:
    at = datetime(2026, 6, 8, 21)
    volts = add_entry(plan_id, NewEntry(at=at, kind="rested_voltage", value=13.2)).id
    full = add_entry(plan_id, NewEntry(at=at, kind="full")).id
    sky = add_entry(plan_id, NewEntry(at=at, kind="sky", sky="heavy")).id
    for entry in (volts, full, sky):
        with pytest.raises(PlanRefused) as refusal:
            settle_entry(plan_id, entry, "reset")
        assert refusal.value.complaints[0].remedy
    with pytest.raises(NoSuchEntry):
        settle_entry(plan_id, 999, "right")


def test_logging_what_was_foreseen_moves_next_to_nothing(plan_id: int) -> None:
    """The reading that the plan itself would show: the level stays within a point and a half."""
    at = datetime(2026, 6, 7, 7)
    planned = track_plan(plan_id, at).level.middle
    add_entry(plan_id, NewEntry(at=at, kind="monitor_percent", value=round(planned)))
    assert track_plan(plan_id, at).level.middle == pytest.approx(planned, abs=1.5)
