"""The data file's own name: a random one, made once, so that two installations are told apart."""

from __future__ import annotations

from oddkettle.store.tables import database


def data_id() -> str:
    """Twelve hexadecimal digits, the same for as long as the data file lives."""
    (found,) = database.execute_sql("SELECT id FROM data_file").fetchone()
    return str(found)
