"""Revisions: appended, stepped through, never overwritten."""

from __future__ import annotations

import sqlite3
from pathlib import Path

import pytest

from oddkettle.store import log, plans
from oddkettle.store.database import open_database
from oddkettle.store.migrations import MIGRATIONS, StoreTooNew
from oddkettle.store.plans import BoxPart
from oddkettle.store.tables import database
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
        older.setattr("oddkettle.store.migrations.MIGRATIONS", MIGRATIONS[:1])
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
