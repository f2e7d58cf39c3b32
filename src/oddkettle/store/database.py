"""Opening the database file."""

from __future__ import annotations

from pathlib import Path

from peewee import SqliteDatabase

from oddkettle.store.migrations import migrate
from oddkettle.store.tables import database
from oddkettle.store.trouble import DATABASE_ERRORS, StoreTrouble, in_words


def open_database(path: Path, now: str) -> SqliteDatabase:
    """Open (and bring up to date) the SQLite file at `path`.

    Raises StoreTrouble for a file that cannot be used, StoreTooNew for a newer program's.

    Write-ahead log with full synchronisation: an acknowledged save survives the process being
    killed and the machine losing power.
    """
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise StoreTrouble(
            f"{path.parent} cannot be made ({error.strerror}). Point ODDKETTLE_DATA at a folder "
            "that you may write."
        ) from None
    db = SqliteDatabase(
        str(path),
        pragmas={
            "journal_mode": "wal",
            "synchronous": "full",
            "foreign_keys": 1,
            "busy_timeout": 5000,
            # Each thread has a connection, and each connection a cache of its own.
            "cache_size": -500,
        },
    )
    try:
        db.connect(reuse_if_open=True)
        _refuse_foreign(db, path)
        migrate(db, now)
    except DATABASE_ERRORS as error:
        db.close()
        raise StoreTrouble(in_words(error, path)) from None
    database.initialize(db)
    return db


def _refuse_foreign(db: SqliteDatabase, path: Path) -> None:
    """Leave another program's file alone. Raises StoreTrouble."""
    tables = set(db.get_tables())
    if tables and "migration" not in tables:
        raise StoreTrouble(
            f"{path} is another program's file (it holds {', '.join(sorted(tables)[:3])}). Point "
            "ODDKETTLE_DATA at another folder, or move that file away."
        )


def data_file() -> Path:
    """Where the open data file lies."""
    return Path(str(database.obj.database))
