"""The database's history. Each migration is committed together with its own record."""

from __future__ import annotations

from collections.abc import Callable

from peewee import SqliteDatabase

Migration = Callable[[SqliteDatabase], None]


class StoreTooNew(RuntimeError):
    """The database was written by a newer program."""


def create_plans(db: SqliteDatabase) -> None:
    """Make plans and their append-only revisions.

    `head` is the current revision, `tip` where redo leads to: both walk along `parent`, and
    nothing is ever removed.
    """
    db.execute_sql(
        "CREATE TABLE plan (id INTEGER PRIMARY KEY AUTOINCREMENT, created_at TEXT NOT NULL, "
        "head_id INTEGER REFERENCES revision(id), tip_id INTEGER REFERENCES revision(id))"
    )
    db.execute_sql(
        "CREATE TABLE revision (id INTEGER PRIMARY KEY AUTOINCREMENT, "
        "plan_id INTEGER NOT NULL REFERENCES plan(id), "
        "parent_id INTEGER REFERENCES revision(id), "
        "saved_at TEXT NOT NULL, did TEXT NOT NULL, document TEXT NOT NULL)"
    )
    db.execute_sql("CREATE INDEX revision_plan ON revision(plan_id, id)")


def create_log(db: SqliteDatabase) -> None:
    """Make the log of readings. A deleted entry stays, with the time of its deletion."""
    db.execute_sql(
        "CREATE TABLE log_entry (id INTEGER PRIMARY KEY AUTOINCREMENT, "
        "plan_id INTEGER NOT NULL REFERENCES plan(id), at_utc TEXT NOT NULL, "
        "kind TEXT NOT NULL, value REAL NOT NULL, note TEXT NOT NULL, "
        "written_at TEXT NOT NULL, written_by TEXT NOT NULL, deleted_at TEXT)"
    )
    db.execute_sql("CREATE INDEX log_entry_plan ON log_entry(plan_id, at_utc)")


def create_forecasts(db: SqliteDatabase) -> None:
    """Make the forecasts that were taken, each as it came."""
    db.execute_sql(
        "CREATE TABLE forecast (id INTEGER PRIMARY KEY AUTOINCREMENT, "
        "plan_id INTEGER NOT NULL REFERENCES plan(id), fetched_at TEXT NOT NULL, "
        "body TEXT NOT NULL)"
    )
    db.execute_sql("CREATE INDEX forecast_plan ON forecast(plan_id, id)")


MIGRATIONS: tuple[Migration, ...] = (create_plans, create_log, create_forecasts)


def migrate(db: SqliteDatabase, applied_at: str) -> list[str]:
    """Bring the database up to date; returns the names of what was applied."""
    db.execute_sql(
        "CREATE TABLE IF NOT EXISTS migration "
        "(number INTEGER PRIMARY KEY, name TEXT NOT NULL, applied_at TEXT NOT NULL)"
    )
    (done,) = db.execute_sql("SELECT COALESCE(MAX(number), 0) FROM migration").fetchone()
    if done > len(MIGRATIONS):
        raise StoreTooNew(
            f"This database is at step {done}, and this program knows {len(MIGRATIONS)}. "
            "Start a newer Odd Kettle, or point ODDKETTLE_DATA at another folder."
        )
    applied = []
    for number, migration in enumerate(MIGRATIONS[done:], start=done + 1):
        with db.atomic("EXCLUSIVE"):
            migration(db)
            db.execute_sql(
                "INSERT INTO migration VALUES (?, ?, ?)",
                (number, migration.__name__, applied_at),
            )
        applied.append(migration.__name__)
    return applied
