"""Opening the database file."""

from __future__ import annotations

from contextlib import suppress
from datetime import datetime
from pathlib import Path

from peewee import SqliteDatabase

from oddkettle.store.file.backup import STAMP, copy_to
from oddkettle.store.file.migrations import MIGRATIONS, migrate
from oddkettle.store.file.tables import database
from oddkettle.store.file.trouble import DATABASE_ERRORS, StoreTrouble, trouble_from


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
        _copy_before_a_step(db, path, now)
        migrate(db, now)
    except DATABASE_ERRORS as error:
        db.close()
        raise trouble_from(error, path) from None
    # A file of an older program may be open to others of the machine; where the system has no such
    # rights, or it is somebody else's file, it stays as it is.
    with suppress(OSError):
        path.chmod(0o600)
    database.initialize(db)
    return db


def _copy_before_a_step(db: SqliteDatabase, path: Path, now: str) -> None:
    """A copy of a file of an older program, before it is brought up to date. Raises StoreTrouble.

    It stands beside those of each day and is never taken out by itself.
    """
    if "migration" not in db.get_tables():
        return
    (done,) = db.execute_sql("SELECT COALESCE(MAX(number), 0) FROM migration").fetchone()
    if not 0 < done < len(MIGRATIONS):
        return
    stamp = datetime.fromisoformat(now).strftime(STAMP)
    target = path.parent / "copies" / f"before-step-{done + 1}-{stamp}.sqlite3"
    if not list(target.parent.glob(f"before-step-{done + 1}-*.sqlite3")):
        copy_to(path, target)


def _refuse_foreign(db: SqliteDatabase, path: Path) -> None:
    """Leave another program's file alone. Raises StoreTrouble."""
    tables = set(db.get_tables())
    if tables and "migration" not in tables:
        raise StoreTrouble(
            f"{path} is another program's file (it holds {', '.join(sorted(tables)[:3])}). Point "
            "ODDKETTLE_DATA at another folder, or move that file away."
        )


def finish() -> bool:
    """Bring everything from the write-ahead log into the one file; whether all of it is there.

    Another thread that reads just now holds a part of it back: it is asked again then.
    """
    if database.obj is None:
        return True
    try:
        busy, _, _ = database.execute_sql("PRAGMA wal_checkpoint(TRUNCATE)").fetchone()
    except DATABASE_ERRORS:
        return False
    return not busy


def step_of_database() -> int:
    """How far the open data file was brought up to date. Raises StoreTrouble."""
    try:
        (step,) = database.execute_sql("SELECT MAX(number) FROM migration").fetchone()
    except DATABASE_ERRORS as error:
        raise trouble_from(error, data_file()) from None
    return int(step)


def data_file() -> Path:
    """Where the open data file lies."""
    return Path(str(database.obj.database))
