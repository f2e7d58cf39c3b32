"""Older databases are brought up to date with everything in them."""

from __future__ import annotations

from pathlib import Path

import pytest
from peewee import SqliteDatabase

from oddkettle.plan import Plan
from oddkettle.store.file import migrations
from oddkettle.store.file.database import open_database
from oddkettle.store.file.migrations import MIGRATIONS, StoreTooNew, migrate
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry, list_entries
from oddkettle.usecases.field.track.track_report import track_plan
from tests.conftest import NOW

BEFORE_THE_LOG_DEEPENED = 3


def at_step(path: Path, step: int, monkeypatch: pytest.MonkeyPatch) -> SqliteDatabase:
    """A database as it was after so many migrations."""
    with monkeypatch.context() as old:
        old.setattr(migrations, "MIGRATIONS", MIGRATIONS[:step])
        db = SqliteDatabase(str(path))
        migrate(db, NOW)
    return db


def test_a_log_of_plain_readings_is_read_tracked_and_written_on(
    tmp_path: Path, moth: Plan, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "old.sqlite3"
    db = at_step(path, BEFORE_THE_LOG_DEEPENED, monkeypatch)
    document = moth.model_dump_json(exclude_none=True)
    db.execute_sql("INSERT INTO plan VALUES (1, ?, NULL, NULL)", (NOW,))
    db.execute_sql("INSERT INTO revision VALUES (1, 1, NULL, ?, 'created', ?)", (NOW, document))
    db.execute_sql("UPDATE plan SET head_id = 1, tip_id = 1")
    db.execute_sql(
        "INSERT INTO log_entry VALUES (1, 1, '2026-06-07T06:00:00+00:00', 'monitor_percent', "
        "60.0, 'cold', ?, 'by hand', NULL)",
        (NOW,),
    )
    db.close()
    opened = open_database(path, NOW)
    (old,) = list_entries(1)
    assert (old.value, old.note, old.replaces) == (60.0, "cold", None)
    assert track_plan(1).readings == 1
    new = NewEntry(at=old.at_local, kind="monitor_percent", value=58)
    assert add_entry(1, new, replaces=old.id).replaces == old.id
    opened.close()


@pytest.mark.parametrize("step", range(len(MIGRATIONS) + 1))
def test_every_older_step_leads_to_the_same_tables(
    step: int, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def tables(db: SqliteDatabase) -> list[tuple]:
        query = "SELECT name, sql FROM sqlite_master WHERE sql NOT NULL ORDER BY name"
        return db.execute_sql(query).fetchall()

    old = at_step(tmp_path / "old.sqlite3", step, monkeypatch)
    assert migrate(old, NOW) == [migration.__name__ for migration in MIGRATIONS[step:]]
    assert tables(old) == tables(at_step(tmp_path / "new.sqlite3", len(MIGRATIONS), monkeypatch))


def test_a_newer_database_is_left_alone(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    db = at_step(tmp_path / "new.sqlite3", len(MIGRATIONS), monkeypatch)
    db.execute_sql("INSERT INTO migration VALUES (?, 'to come', ?)", (len(MIGRATIONS) + 1, NOW))
    with pytest.raises(StoreTooNew, match="Start a newer Odd Kettle"):
        migrate(db, NOW)
