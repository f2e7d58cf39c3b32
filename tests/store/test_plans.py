"""Revisions: appended, stepped through, never overwritten."""

from __future__ import annotations

import sqlite3
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest

from oddkettle.store import log, plans
from oddkettle.store.file.database import open_database
from oddkettle.store.file.migrations import MIGRATIONS, StoreTooNew
from oddkettle.store.file.tables import database
from oddkettle.store.plans import BoxPart
from oddkettle.store.thinning import ALL_FOR, DAILY_FOR, thin_revisions
from tests.conftest import NOW

BOX = BoxPart("kettle", "My box", "{}")


@pytest.fixture
def three(store: Path) -> list[int]:
    """A plan saved as A, B, C; its revision numbers."""
    first = plans.create("A", "created", NOW, BOX)
    second = plans.save(first.plan_id, first.revision, "B", "made B", NOW, BOX)
    third = plans.save(first.plan_id, second.revision, "C", "made C", NOW, BOX)
    return [first.revision, second.revision, third.revision]


def test_undo_and_redo_walk_between_revisions(three: list[int]) -> None:
    assert plans.undo(1).document == "B"
    assert plans.undo(1).document == "A"
    assert not plans.load(1).can_undo
    assert plans.redo(1).document == "B"
    assert plans.redo(1).document == "C"
    assert not plans.load(1).can_redo


def test_undo_and_redo_survive_a_restart(three: list[int], store: Path) -> None:
    plans.undo(1)
    open_database(store, NOW)
    again = plans.load(1)
    assert (again.document, again.can_undo, again.can_redo) == ("B", True, True)
    assert plans.redo(1).document == "C"


def test_a_save_after_undo_starts_a_branch_and_loses_nothing(three: list[int]) -> None:
    back = plans.undo(1)
    plans.save(1, back.revision, "D", "made D", NOW, BOX)
    assert not plans.load(1).can_redo
    notes = plans.history(1)
    assert [note.did for note in notes] == ["made D", "made C", "made B", "created"]
    assert notes[0].parent == back.revision
    assert plans.undo(1).document == "B"


def test_a_stale_save_is_refused_and_changes_nothing(three: list[int]) -> None:
    with pytest.raises(plans.StaleRevision) as caught:
        plans.save(1, three[0], "X", "late", NOW, BOX)
    assert caught.value.current.revision == three[2]
    assert plans.load(1).document == "C"
    assert len(plans.history(1)) == 3


def test_saving_the_same_document_adds_no_revision(three: list[int]) -> None:
    assert plans.save(1, three[2], "C", "again", NOW, BOX).revision == three[2]


def test_steps_that_do_not_exist_are_refused(three: list[int]) -> None:
    with pytest.raises(plans.NoStep, match="nothing to redo"):
        plans.redo(1)
    plans.undo(1)
    plans.undo(1)
    with pytest.raises(plans.NoStep, match="nothing to undo"):
        plans.undo(1)
    with pytest.raises(plans.NoSuchPlan):
        plans.undo(7)


def test_every_migration_is_recorded_once(store: Path) -> None:
    open_database(store, NOW)
    rows = sqlite3.connect(store).execute("SELECT number, name FROM migration").fetchall()
    assert rows == [(n, step.__name__) for n, step in enumerate(MIGRATIONS, start=1)]


def test_a_database_of_one_migration_is_brought_up_to_date(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "old.sqlite3"
    with monkeypatch.context() as older:
        older.setattr("oddkettle.store.file.migrations.MIGRATIONS", MIGRATIONS[:1])
        open_database(path, NOW)
        database.execute_sql("INSERT INTO plan VALUES (1, ?, NULL, NULL)", (NOW,))
        document = '{"name": "A"}'
        database.execute_sql(
            "INSERT INTO revision VALUES (1, 1, NULL, ?, 'created', ?)", (NOW, document)
        )
        database.execute_sql("UPDATE plan SET head_id = 1, tip_id = 1")
    open_database(path, NOW)
    assert plans.load(1).document == document
    assert plans.load(1).box_name == "A"
    log.add(1, NOW, "monitor_percent", 64.0, "", NOW, "test")
    assert len(log.entries(1)) == 1


def test_a_database_from_a_newer_program_is_left_alone(store: Path) -> None:
    with sqlite3.connect(store) as raw:
        raw.execute("INSERT INTO migration VALUES (99, 'from_the_future', 'then')")
    with pytest.raises(StoreTooNew, match="step 99"):
        open_database(store, NOW)


def test_a_deleted_reading_can_be_put_back(store: Path) -> None:
    plans.create("A", "created", NOW, BOX)
    entry = log.add(1, NOW, "monitor_percent", 64.0, "dusk", NOW, "by hand")
    log.delete(1, entry.id, NOW)
    assert log.entries(1) == []
    with pytest.raises(log.NoSuchEntry):
        log.delete(1, entry.id, NOW)
    log.restore(1, entry.id)
    assert log.entries(1) == [entry]


def test_a_year_of_daily_use_is_thinned_by_age_and_undo_walks_on(store: Path) -> None:
    """Two saves a day of a plan of 10 kB, thinned as a start does it."""
    now = datetime(2026, 1, 1, 8, tzinfo=UTC)
    filler = "x" * 10_000
    stored = plans.create(f"0 {filler}", "created", now.isoformat(), BOX)
    named = 0
    for day in range(365):
        with database.atomic():
            for n in range(2):
                at = (now + timedelta(days=day, minutes=n)).isoformat()
                document = f"{day}.{n} {filler}"
                stored = plans.save(1, stored.revision, document, f"save {n}", at, BOX)
        if day == 3:
            named = stored.revision - 1
            plans.name_revision(1, named, "before the winter")
        if day % 10 == 9:
            thin_revisions(now + timedelta(days=day, hours=1))
    end = now + timedelta(days=365)
    thin_revisions(end)
    notes = plans.history(1)
    age = {note.revision: end - datetime.fromisoformat(note.saved_at) for note in notes}
    last_week = [one for one in age.values() if one <= ALL_FOR]
    assert len(last_week) == 7 * 2
    days = [one for one in age.values() if ALL_FOR < one <= DAILY_FOR]
    assert len(days) == 53
    weeks = [one for one in age.values() if one > DAILY_FOR]
    # 305 days, the week in which it begins, the first revision and the named one.
    assert 44 <= len(weeks) <= 47
    assert plans.document_of(1, named).startswith("3.0 ")
    # Of a tenth of the saves of a busy user, a tenth of what a year may take.
    assert store.stat().st_size < 10e6
    # Nothing hangs in the air: undo walks to the first revision, redo all the way back.
    steps = 0
    while plans.load(1).can_undo:
        plans.undo(1)
        steps += 1
    assert plans.load(1).did == "created"
    assert steps == len(notes) - 1
    while plans.load(1).can_redo:
        plans.redo(1)
    assert plans.load(1).document == stored.document


def test_what_is_current_and_what_redo_leads_to_stays_however_old(three: list[int]) -> None:
    plans.undo(1)
    assert thin_revisions(datetime.fromisoformat(NOW) + timedelta(days=900)) == 0
    assert plans.redo(1).document == "C"
    assert thin_revisions(datetime.fromisoformat(NOW) + timedelta(days=900)) == 1
    assert [note.did for note in plans.history(1)] == ["made C", "created"]
    assert plans.undo(1).document == "A"


def test_a_name_can_be_taken_off_and_belongs_to_a_revision_that_is_there(three: list[int]) -> None:
    plans.name_revision(1, three[1], "the good one")
    late = datetime.fromisoformat(NOW) + timedelta(days=900)
    assert thin_revisions(late) == 0
    plans.name_revision(1, three[1], None)
    assert thin_revisions(late) == 1
    with pytest.raises(plans.NoSuchPlan):
        plans.name_revision(1, three[1], "gone")
