"""Readings: their local time, their doubt, and the plan beside them."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path

import pytest

from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.text import render
from oddkettle.usecases.field.log.entries import Writer
from oddkettle.usecases.field.log.log import (
    NewEntry,
    add_entry,
    delete_entry,
    list_entries,
    restore_entry,
)
from oddkettle.usecases.plans.plans import create_plan
from oddkettle.usecases.simulate.run_cache import run_plan
from tests.conftest import example

PHONE = Writer("Iva's phone", 1)


def reading(at: datetime, value: float = 64.0, kind: str = "monitor_percent") -> NewEntry:
    return NewEntry(at=at, kind=kind, value=value)  # type: ignore[arg-type]


@pytest.fixture
def plan_id(store: Path, moth: Plan) -> int:
    return create_plan(moth).id


def test_local_time_is_that_of_the_trips_place(plan_id: int) -> None:
    entry = add_entry(plan_id, reading(datetime(2026, 6, 7, 6, 30)))
    assert entry.at_utc == "2026-06-07T05:30:00+00:00"
    assert entry.at_local == "2026-06-07T06:30+01:00"
    assert entry.step == 288 + 6.5 * 12


def test_an_aware_time_is_taken_as_it_is(plan_id: int) -> None:
    entry = add_entry(plan_id, reading(datetime(2026, 6, 7, 5, 30, tzinfo=UTC)))
    assert entry.at_local == "2026-06-07T06:30+01:00"


def test_the_planned_level_is_that_of_the_run(plan_id: int, moth: Plan) -> None:
    entry = add_entry(plan_id, reading(datetime(2026, 6, 8, 12, 0)))
    run = run_plan(moth)
    assert entry.planned_percent == pytest.approx(100 * run.track.soc[int(entry.step)])


def test_readings_come_by_their_time_and_not_by_when_they_were_written(plan_id: int) -> None:
    late = add_entry(plan_id, reading(datetime(2026, 6, 9, 8, 0)))
    early = add_entry(plan_id, reading(datetime(2026, 6, 7, 8, 0)))
    assert [entry.id for entry in list_entries(plan_id)] == [early.id, late.id]


def test_a_deleted_reading_comes_back_whole(plan_id: int) -> None:
    entry = add_entry(plan_id, reading(datetime(2026, 6, 9, 8, 0)))
    delete_entry(plan_id, entry.id)
    assert list_entries(plan_id) == []
    restore_entry(plan_id, entry.id)
    assert list_entries(plan_id) == [entry]


def test_voltage_on_flat_lithium_is_said_to_be_worth_little(plan_id: int) -> None:
    flat = add_entry(plan_id, reading(datetime(2026, 6, 9, 8, 0), 13.2, "rested_voltage"))
    steep = add_entry(plan_id, reading(datetime(2026, 6, 9, 9, 0), 12.0, "rested_voltage"))
    assert flat.high_percent - flat.low_percent > 20
    assert "too flat for more" in flat.worth
    assert steep.high_percent - steep.low_percent < 3
    assert "too flat" not in steep.worth


def test_a_reading_in_the_hour_that_the_clocks_skip_is_refused(store: Path) -> None:
    coast = create_plan(example("coast-weekend")).id
    with pytest.raises(PlanRefused) as caught:
        add_entry(coast, reading(datetime(2026, 3, 29, 2, 30)))
    (complaint,) = caught.value.complaints
    assert "02:30 does not exist on Sun 29" in render(complaint.text)
    assert render(complaint.remedy) == "Use 03:30."


@pytest.mark.parametrize("at", [datetime(2026, 6, 5, 23, 59), datetime(2026, 6, 15, 0, 0)])
def test_a_reading_outside_the_trip_is_refused_with_its_dates(plan_id: int, at: datetime) -> None:
    with pytest.raises(PlanRefused, match="outside the trip") as caught:
        add_entry(plan_id, reading(at))
    assert caught.value.complaints[0].limit == "Sat 6 Jun to Sun 14 Jun 2026"
    assert list_entries(plan_id) == []


def test_what_was_seen_at_the_ends_is_worth_its_own_range(plan_id: int) -> None:
    """Docs: "full" says 97 to 100 %, a box that cut out 0 to 6 %; a monitor is off by its bias."""
    at = datetime(2026, 6, 8, 12)
    full = add_entry(plan_id, NewEntry(at=at, kind="full"))
    assert (full.low_percent, full.mid_percent, full.high_percent) == (97.0, 100.0, 100.0)
    out = add_entry(plan_id, NewEntry(at=at, kind="cut_out"))
    assert (out.low_percent, out.mid_percent, out.high_percent) == (0.0, 2.0, 6.0)
    read = add_entry(plan_id, NewEntry(at=at, kind="monitor_percent", value=50))
    assert read.low_percent is not None
    assert read.high_percent is not None
    assert read.high_percent - read.low_percent == pytest.approx(6.0)


def test_what_is_sent_again_under_its_key_is_written_once(plan_id: int) -> None:
    new = NewEntry(at=datetime(2026, 6, 8, 8), kind="monitor_percent", value=48)
    first = add_entry(plan_id, new, PHONE, sent_key="abcdefgh-1")
    again = add_entry(plan_id, new, PHONE, sent_key="abcdefgh-1")
    assert again.id == first.id
    assert len(list_entries(plan_id)) == 1
    # Taken out meanwhile, it does not come back by being sent once more.
    delete_entry(plan_id, first.id)
    add_entry(plan_id, new, PHONE, sent_key="abcdefgh-1")
    assert list_entries(plan_id) == []
    add_entry(plan_id, new, PHONE, sent_key="abcdefgh-2")
    assert len(list_entries(plan_id)) == 1


def test_two_devices_that_contradict_each_other_are_told_so(plan_id: int) -> None:
    day = datetime(2026, 6, 9, 9)
    add_entry(plan_id, NewEntry(at=day, kind="no_drive"), PHONE)
    drove = NewEntry(at=day, kind="drove", until=datetime(2026, 6, 9, 10))
    told = add_entry(plan_id, drove, Writer("the desk", 2))
    assert told.against == "Iva's phone had noted: did not drive that day. Both stand in the log."
    # The same device may change its mind, and another day is another thing.
    assert add_entry(plan_id, drove, Writer("the desk", 2)).against != ""
    other = NewEntry(at=datetime(2026, 6, 10, 9), kind="drove", until=datetime(2026, 6, 10, 10))
    assert add_entry(plan_id, other, Writer("the desk", 2)).against == ""
    assert add_entry(plan_id, NewEntry(at=day, kind="full"), Writer("the desk", 2)).against == ""


def test_two_phones_of_one_name_are_two(plan_id: int) -> None:
    day = datetime(2026, 6, 9, 9)
    add_entry(plan_id, NewEntry(at=day, kind="no_drive"), Writer("Phone", 4))
    drove = NewEntry(at=day, kind="drove", until=datetime(2026, 6, 9, 10))
    assert add_entry(plan_id, drove, Writer("Phone", 5)).against.startswith("Phone had noted:")
    later = NewEntry(at=day, kind="no_drive", note="it rained")
    # The newest of another device counts, whatever it is called now.
    assert add_entry(plan_id, later, Writer("Phone", 4)).against.startswith(
        "Phone had noted: drove"
    )
