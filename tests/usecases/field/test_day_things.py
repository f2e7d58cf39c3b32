"""A thing of the day is seen as what it was, and is open again once that is taken back."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

import pytest

from oddkettle.text.render import render
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry, delete_entry
from oddkettle.usecases.field.track.day_things import DayThing
from oddkettle.usecases.field.track.today import today_of
from oddkettle.usecases.plans.plans import create_plan
from tests.usecases.conftest import percent
from tests.usecases.improve.test_hints import driving_at

NOON = datetime(2026, 6, 9, 12)


@pytest.fixture
def drives(store: Path) -> int:
    """A plan with a drive from 9:00 to 10:15 on Tuesday 9, at noon of that day."""
    plan_id = create_plan(driving_at("09:00", "10:15")).id
    percent(plan_id, 9, 6, 60)
    return plan_id


def drive_of(plan_id: int, at: datetime = NOON) -> DayThing:
    return next(thing for thing in today_of(plan_id, at).things if thing.kind == "drive")


@pytest.mark.parametrize(
    ("begin", "end", "state", "went"),
    [
        ((9, 0), (10, 15), "did", ""),
        ((9, 3), (10, 12), "did", ""),
        ((9, 0), (9, 30), "part", "09:00 to 09:30"),
        ((9, 0), (11, 30), "changed", "09:00 to 11:30"),
        ((7, 0), (8, 15), "changed", "07:00 to 08:15"),
    ],
)
def test_hours_as_they_were_make_it_done_partly_done_or_changed(
    drives: int, begin: tuple[int, int], end: tuple[int, int], state: str, went: str
) -> None:
    at, until = datetime(2026, 6, 9, *begin), datetime(2026, 6, 9, *end)
    add_entry(drives, NewEntry(at=at, kind="drove", until=until))
    found = drive_of(drives)
    assert (found.state, render(found.went)) == (state, went)


def test_said_and_taken_back_it_is_open_again_and_the_level_as_before(drives: int) -> None:
    before = today_of(drives, NOON)
    assert drive_of(drives).state == "to_tick"
    add_entry(drives, NewEntry(at=datetime(2026, 6, 9, 9), kind="no_drive"))
    skipped = drive_of(drives)
    assert skipped.state == "did_not"
    assert today_of(drives, NOON).level.middle < before.level.middle - 5
    (entry,) = skipped.entries
    delete_entry(drives, entry)
    assert drive_of(drives).state == "to_tick"
    assert today_of(drives, NOON).level == before.level


def test_a_dull_day_gives_less_and_as_usual_takes_it_back(store: Path, drives: int) -> None:
    morning = datetime(2026, 6, 9, 7)

    def dawn() -> float:
        return today_of(drives, morning).expected[-1].level.middle

    usual = dawn()
    for sky, minute in (("heavy", 0), ("usual", 1)):
        at = morning.replace(minute=minute)
        add_entry(drives, NewEntry(at=at, kind="sky", sky=sky))  # type: ignore[arg-type]
        if sky == "heavy":
            assert today_of(drives, morning).sky == "heavy"
            assert dawn() < usual - 3
    assert dawn() == pytest.approx(usual, abs=0.5)
