"""Undo takes back what was done last, in the plan or in its log, as one history."""

from __future__ import annotations

from datetime import datetime

import pytest

from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.store.plans import NoStep
from oddkettle.text.render import render
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import (
    add_entry,
    delete_entry,
    list_entries,
    restore_entry,
    settle_entry,
)
from oddkettle.usecases.plans.plans import open_plan, redo, save_plan, undo

AT = datetime(2026, 6, 8, 21)


def reading(value: float, minute: int = 0) -> NewEntry:
    return NewEntry(at=AT.replace(minute=minute), kind="monitor_percent", value=value)


def renamed(plan_id: int, name: str) -> None:
    now = open_plan(plan_id)
    document: Plan = now.document.model_copy(update={"name": name})
    save_plan(plan_id, now.revision, document, f"called it {name}")


def told(plan_id: int) -> tuple[str, list[float]]:
    return open_plan(plan_id).document.name, [one.value for one in list_entries(plan_id)]


def test_edits_of_plan_and_log_are_taken_back_in_their_turn_and_done_again(plan_id: int) -> None:
    first = told(plan_id)
    states = [first]
    for step in (
        lambda: renamed(plan_id, "A"),
        lambda: add_entry(plan_id, reading(61)),
        lambda: add_entry(plan_id, reading(60, 5)),
        lambda: renamed(plan_id, "B"),
        lambda: delete_entry(plan_id, list_entries(plan_id)[0].id),
    ):
        step()
        states.append(told(plan_id))
    assert states[-1] == ("B", [60])
    for state in reversed(states[:-1]):
        assert open_plan(plan_id).can_undo
        undo(plan_id)
        assert told(plan_id) == state
    with pytest.raises(NoStep):
        undo(plan_id)
    for state in states[1:]:
        assert open_plan(plan_id).can_redo
        redo(plan_id)
        assert told(plan_id) == state
    with pytest.raises(NoStep):
        redo(plan_id)


def test_undo_says_what_it_takes_back(plan_id: int) -> None:
    renamed(plan_id, "A")
    add_entry(plan_id, reading(23))
    assert render(open_plan(plan_id).did) == "monitor says 23 %"
    undo(plan_id)
    assert open_plan(plan_id).did == "called it A"


def test_a_correction_and_what_was_said_of_a_reading_are_one_step_each(plan_id: int) -> None:
    entry = add_entry(plan_id, reading(64))
    corrected = add_entry(plan_id, reading(46), replaces=entry.id)
    assert corrected.was == "monitor says 64 %"
    settle_entry(plan_id, corrected.id, "right")
    undo(plan_id)
    (one,) = list_entries(plan_id)
    assert (one.value, one.detail.settled) == (46, None)
    undo(plan_id)
    (one,) = list_entries(plan_id)
    assert (one.value, one.was) == (64, "")


def test_what_was_undone_is_gone_once_something_else_was_done(plan_id: int) -> None:
    add_entry(plan_id, reading(64))
    undo(plan_id)
    add_entry(plan_id, reading(46))
    assert not open_plan(plan_id).can_redo
    undo(plan_id)
    redo(plan_id)
    assert told(plan_id)[1] == [46]
    undo(plan_id)
    renamed(plan_id, "C")
    assert not open_plan(plan_id).can_redo
    assert told(plan_id) == ("C", [])


def test_an_entry_sent_twice_is_one_step(plan_id: int) -> None:
    for _ in range(2):
        add_entry(plan_id, reading(64), sent_key="one-and-the-same")
    undo(plan_id)
    assert told(plan_id)[1] == []
    undone = open_plan(plan_id)
    assert not undone.can_undo


def test_what_was_put_back_goes_out_again_with_undo(plan_id: int) -> None:
    entry = add_entry(plan_id, reading(64)).id
    delete_entry(plan_id, entry)
    restore_entry(plan_id, entry)
    undo(plan_id)
    assert told(plan_id)[1] == []


@pytest.mark.parametrize("clock", ["2026-06-08T12:00:00+00:00"])
def test_nobody_has_read_what_is_still_ahead(
    plan_id: int, clock: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("oddkettle.usecases.field.log.checks.now_utc", lambda: clock)
    with pytest.raises(PlanRefused) as refusal:
        add_entry(plan_id, reading(64))
    complaint = refusal.value.complaints[0]
    assert complaint.where == "at"
    assert "ahead" in complaint.text
    drove = NewEntry(at=AT, kind="drove", until=AT.replace(hour=22))
    with pytest.raises(PlanRefused):
        add_entry(plan_id, drove)
    # That it will not be, and how the sky is said to be, may be told ahead.
    add_entry(plan_id, NewEntry(at=AT, kind="no_drive"))
    add_entry(plan_id, NewEntry(at=AT, kind="sky", sky="heavy"))
    # A minute of difference between two clocks is nothing.
    add_entry(plan_id, NewEntry(at=datetime(2026, 6, 8, 13, 2), kind="monitor_percent", value=64))


def test_a_counter_does_not_run_backwards(plan_id: int) -> None:
    add_entry(plan_id, NewEntry(at=AT, kind="counters", ah_in=56, since=datetime(2026, 6, 6)))
    with pytest.raises(PlanRefused) as refusal:
        add_entry(plan_id, NewEntry(at=AT.replace(hour=22), kind="counters", ah_in=12))
    complaint = refusal.value.complaints[0]
    assert complaint.where == "ah_in"
    assert "56" in complaint.limit
    # Set to zero in between, it may.
    zero = datetime(2026, 6, 8, 21, 30)
    add_entry(plan_id, NewEntry(at=AT.replace(hour=22), kind="counters", ah_in=12, since=zero))
    assert len(list_entries(plan_id)) == 2


@pytest.mark.parametrize(
    ("volts", "fits"), [(13.2, True), (10.0, True), (16.0, True), (26.4, False), (6.0, False)]
)
def test_a_voltage_is_one_that_the_battery_can_show(plan_id: int, volts: float, fits: bool) -> None:
    """Four lithium cells of 3.2 V: 7.7 to 16.6 V; 26.4 is another battery's."""
    new = NewEntry(at=AT, kind="rested_voltage", value=volts)
    if fits:
        assert add_entry(plan_id, new).value == volts
        return
    with pytest.raises(PlanRefused) as refusal:
        add_entry(plan_id, new)
    assert refusal.value.complaints[0].limit == "7.7 to 16.6 V"
