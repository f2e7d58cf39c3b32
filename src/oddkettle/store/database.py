"""Opening the database file."""

from __future__ import annotations

from pathlib import Path

from peewee import SqliteDatabase

from oddkettle.store.migrations import migrate
from oddkettle.store.tables import database


def open_database(path: Path, now: str) -> SqliteDatabase:
    """Open (and bring up to date) the SQLite file at `path`.

    Write-ahead log with full synchronisation: an acknowledged save survives the process being
    killed and the machine losing power.
    """
    path.parent.mkdir(parents=True, exist_ok=True)
    db = SqliteDatabase(
        str(path),
        pragmas={
            "journal_mode": "wal",
            "synchronous": "full",
            "foreign_keys": 1,
            "busy_timeout": 5000,
        },
    )
    db.connect(reuse_if_open=True)
    migrate(db, now)
    database.initialize(db)
    return db
