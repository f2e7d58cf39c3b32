"""How the running program stands: its data, what runs by itself, its copies, its room."""

from __future__ import annotations

import shutil
from pathlib import Path
from typing import Literal

from oddkettle import __version__
from oddkettle.plan.lazy import LazyModel
from oddkettle.store.database import data_file, step_of_database
from oddkettle.store.trouble import StoreTrouble
from oddkettle.usecases.copies import copies_of
from oddkettle.usecases.failures import standings

LITTLE_BYTES = 50_000_000


class PartHealth(LazyModel):
    """How one thing that runs by itself stands."""

    name: str
    well: bool
    well_at: str | None
    """When it last did its work, UTC; None before the first time."""
    failed_at: str | None
    reason: str | None


class HealthReport(LazyModel):
    """How the program stands."""

    version: str
    status: Literal["well", "troubled"]
    database: str
    """"ok", or what is wrong."""
    step: int | None
    parts: list[PartHealth]
    newest_copy: str | None
    """File name of the newest copy that was kept by itself."""
    free_bytes: int


def health_now() -> HealthReport:
    """How it stands now; never raises for what is wrong."""
    parts = [
        PartHealth(
            name=name, well=one.well, well_at=one.well_at, failed_at=one.failed_at,
            reason=one.reason,
        )
        for name, one in sorted(standings().items())
    ]  # fmt: skip
    step, database = None, "ok"
    try:
        step = step_of_database()
    except StoreTrouble as error:
        database = str(error)
    free = shutil.disk_usage(data_file().parent).free
    well = database == "ok" and all(part.well for part in parts) and free > LITTLE_BYTES
    return HealthReport(
        version=__version__,
        status="well" if well else "troubled",
        database=database,
        step=step,
        parts=parts,
        newest_copy=_newest_copy(copies_of(data_file())),
        free_bytes=free,
    )


def _newest_copy(folder: Path) -> str | None:
    kept = sorted(path.name for path in folder.glob("auto-*.sqlite3"))
    return kept[-1] if kept else None
