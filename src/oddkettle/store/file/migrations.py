"""The database's history. Each migration is committed together with its own record."""

from __future__ import annotations

import json
import secrets
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


def deepen_log(db: SqliteDatabase) -> None:
    """Let an entry say more than one number, and name the entry that it corrects."""
    db.execute_sql("ALTER TABLE log_entry ADD COLUMN detail TEXT NOT NULL DEFAULT '{}'")
    db.execute_sql("ALTER TABLE log_entry ADD COLUMN replaces INTEGER REFERENCES log_entry(id)")


def create_samples(db: SqliteDatabase) -> None:
    """Make a monitor's samples, their sums by the quarter of an hour, and the monitor's address.

    One sample a plan and moment: the same one sent twice is stored once.
    """
    db.execute_sql(
        "CREATE TABLE sample (plan_id INTEGER NOT NULL REFERENCES plan(id), "
        "at_ms INTEGER NOT NULL, seq INTEGER, volts REAL, amps REAL, percent REAL, "
        "ah_in REAL, ah_out REAL, PRIMARY KEY (plan_id, at_ms)) WITHOUT ROWID"
    )
    db.execute_sql(
        "CREATE TABLE sample_quarter (plan_id INTEGER NOT NULL, quarter INTEGER NOT NULL, "
        "count INTEGER NOT NULL, last_ms INTEGER NOT NULL, "
        "volts_least REAL, volts_most REAL, volts_sum REAL, volts_count INTEGER, "
        "amps_least REAL, amps_most REAL, amps_sum REAL, amps_count INTEGER, "
        "percent_least REAL, percent_most REAL, percent_sum REAL, percent_count INTEGER, "
        "percent REAL, ah_in REAL, ah_out REAL, PRIMARY KEY (plan_id, quarter)) WITHOUT ROWID"
    )
    db.execute_sql(
        "CREATE TABLE monitor (plan_id INTEGER PRIMARY KEY REFERENCES plan(id), "
        "address TEXT NOT NULL, since TEXT NOT NULL)"
    )


def part_boxes(db: SqliteDatabase) -> None:
    """Make boxes, which outlive their trips, with every state that each was in.

    A plan that is there already becomes a trip of a box of its own. Plans can be put away or
    deleted; a deleted one stays, with the time of its deletion.
    """
    db.execute_sql(
        "CREATE TABLE box (id INTEGER PRIMARY KEY AUTOINCREMENT, key TEXT NOT NULL UNIQUE, "
        "name TEXT NOT NULL, created_at TEXT NOT NULL, head_id INTEGER REFERENCES box_state(id))"
    )
    db.execute_sql(
        "CREATE TABLE box_state (id INTEGER PRIMARY KEY AUTOINCREMENT, "
        "box_id INTEGER NOT NULL REFERENCES box(id), plan_id INTEGER NOT NULL REFERENCES plan(id), "
        "saved_at TEXT NOT NULL, document TEXT NOT NULL)"
    )
    db.execute_sql("ALTER TABLE plan ADD COLUMN box_id INTEGER REFERENCES box(id)")
    db.execute_sql("ALTER TABLE plan ADD COLUMN archived_at TEXT")
    db.execute_sql("ALTER TABLE plan ADD COLUMN deleted_at TEXT")
    db.execute_sql("ALTER TABLE revision ADD COLUMN box_state_id INTEGER REFERENCES box_state(id)")
    db.execute_sql("CREATE INDEX plan_box ON plan(box_id)")
    rows = db.execute_sql(
        "SELECT plan.id, plan.created_at, revision.document FROM plan "
        "JOIN revision ON revision.id = plan.head_id"
    ).fetchall()
    for plan_id, created_at, text in rows:
        document = json.loads(text)
        # The two parts of a plan that belong to its box.
        state = json.dumps({part: document.get(part, {}) for part in ("box", "build")})
        db.execute_sql(
            "INSERT INTO box (id, key, name, created_at) VALUES (?, ?, ?, ?)",
            (plan_id, secrets.token_hex(6), str(document.get("name", "My box")), created_at),
        )
        db.execute_sql(
            "INSERT INTO box_state (id, box_id, plan_id, saved_at, document) "
            "VALUES (?, ?, ?, ?, ?)",
            (plan_id, plan_id, plan_id, created_at, state),
        )
        db.execute_sql("UPDATE box SET head_id = ? WHERE id = ?", (plan_id, plan_id))
        db.execute_sql("UPDATE plan SET box_id = ? WHERE id = ?", (plan_id, plan_id))
        db.execute_sql("UPDATE revision SET box_state_id = ? WHERE plan_id = ?", (plan_id, plan_id))


def create_shelf(db: SqliteDatabase) -> None:
    """Make one's own things, kept once for every plan; a deleted one stays, with the time."""
    db.execute_sql(
        "CREATE TABLE kept_thing (id INTEGER PRIMARY KEY AUTOINCREMENT, kind TEXT NOT NULL, "
        "name TEXT NOT NULL, euro REAL, note TEXT NOT NULL, document TEXT NOT NULL, "
        "kept_at TEXT NOT NULL, deleted_at TEXT)"
    )


def create_devices(db: SqliteDatabase) -> None:
    """Make the devices that were let in from the network; one sent away stays, with the time."""
    db.execute_sql(
        "CREATE TABLE device (id INTEGER PRIMARY KEY AUTOINCREMENT, key TEXT NOT NULL UNIQUE, "
        "name TEXT NOT NULL, role TEXT NOT NULL, paired_at TEXT NOT NULL, seen_at TEXT NOT NULL, "
        "revoked_at TEXT)"
    )


def name_revisions(db: SqliteDatabase) -> None:
    """Let a saved state have a name, under which it stays when others are thinned."""
    db.execute_sql("ALTER TABLE revision ADD COLUMN name TEXT")


def key_entries(db: SqliteDatabase) -> None:
    """Let an entry carry the key under which it was sent, so that it is written once."""
    db.execute_sql("ALTER TABLE log_entry ADD COLUMN sent_key TEXT")
    db.execute_sql("CREATE UNIQUE INDEX log_entry_sent ON log_entry(plan_id, sent_key)")


def create_alarms(db: SqliteDatabase) -> None:
    """Make the alarms: one row a thing that is told of, so that nothing is told twice."""
    db.execute_sql(
        "CREATE TABLE alarm (id INTEGER PRIMARY KEY AUTOINCREMENT, "
        "plan_id INTEGER NOT NULL REFERENCES plan(id), key TEXT NOT NULL, kind TEXT NOT NULL, "
        "urgent INTEGER NOT NULL, text TEXT NOT NULL, remedy TEXT NOT NULL, "
        "raised_at TEXT NOT NULL, told_at TEXT, seen_at TEXT, ended_at TEXT, "
        "UNIQUE (plan_id, key))"
    )


def create_brokers(db: SqliteDatabase) -> None:
    """Make the brokers: where a plan's samples come from and its level goes to, where one is."""
    db.execute_sql(
        "CREATE TABLE broker (plan_id INTEGER PRIMARY KEY REFERENCES plan(id), "
        "settings TEXT NOT NULL, since TEXT NOT NULL)"
    )


def name_data_file(db: SqliteDatabase) -> None:
    """Give the data file a name of its own, by which a broker tells installations apart."""
    db.execute_sql("CREATE TABLE data_file (id TEXT NOT NULL)")
    db.execute_sql("INSERT INTO data_file VALUES (lower(hex(randomblob(6))))")


def key_trips(db: SqliteDatabase) -> None:
    """Give each plan a key of its own, which no other data file has, and each entry its device.

    A note that was kept out of reach says by the key where it belongs.
    """
    db.execute_sql("ALTER TABLE plan ADD COLUMN key TEXT")
    db.execute_sql("UPDATE plan SET key = lower(hex(randomblob(8)))")
    db.execute_sql("ALTER TABLE log_entry ADD COLUMN device INTEGER")


def create_log_steps(db: SqliteDatabase) -> None:
    """Make the steps of the log, so that undo takes them back in their turn.

    `head` is the plan's revision that was current: it may be thinned away, so it is a number alone.
    """
    db.execute_sql(
        "CREATE TABLE log_step (id INTEGER PRIMARY KEY AUTOINCREMENT, "
        "plan_id INTEGER NOT NULL REFERENCES plan(id), head INTEGER NOT NULL, "
        "did TEXT NOT NULL, added INTEGER, removed INTEGER, undone INTEGER NOT NULL DEFAULT 0)"
    )
    db.execute_sql("CREATE INDEX log_step_plan ON log_step(plan_id, head)")


MIGRATIONS: tuple[Migration, ...] = (
    create_plans,
    create_log,
    create_forecasts,
    deepen_log,
    create_samples,
    part_boxes,
    create_shelf,
    create_devices,
    name_revisions,
    key_entries,
    create_alarms,
    create_brokers,
    name_data_file,
    key_trips,
    create_log_steps,
)


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
