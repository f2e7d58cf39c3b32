"""The data file's own name: a random one, made once, so that two installations are told apart."""

from __future__ import annotations

import sqlite3

from oddkettle.store.file.tables import PlanRow, database


class ElsewhereNote(RuntimeError):
    """A note that was written for another data file, or for another trip of it."""


def data_id() -> str:
    """Twelve hexadecimal digits, the same for as long as the data file lives."""
    (found,) = database.execute_sql("SELECT id FROM data_file").fetchone()
    return str(found)


def belongs_here(plan_id: int, data_file: str | None, trip_key: str | None) -> None:
    """Raise ElsewhereNote for a note that names another data file or trip than this one.

    Numbers of plans are the same in every data file: by them alone a note that was kept while
    the server was away would land in whatever trip stands under that number now.
    """
    if data_file is not None and data_file != data_id():
        raise ElsewhereNote(
            "It was written for another data file than the one that is open here. Start Odd "
            "Kettle with that one to send it, or note it anew."
        )
    if trip_key is None:
        return
    row = PlanRow.get_or_none(PlanRow.id == plan_id)
    if row is not None and row.key != trip_key:
        raise ElsewhereNote(
            "It was written for another trip than the one that has this number now. Save it again "
            "on the trip that it belongs to."
        )


def name_anew(db: sqlite3.Connection) -> None:
    """Give a data file another name: what was written for the one it replaces stays out of it."""
    has_name = db.execute("SELECT 1 FROM sqlite_master WHERE name = 'data_file'").fetchone()
    if has_name:
        db.execute("UPDATE data_file SET id = lower(hex(randomblob(6)))")
        db.commit()
