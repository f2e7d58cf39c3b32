"""How the running program stands: its data, what runs by itself, its copies, its room."""

from __future__ import annotations

import shutil
from typing import Literal

from oddkettle import __version__
from oddkettle.core.values.copying import copied
from oddkettle.plan.quantities import LazyModel
from oddkettle.store.file.database import data_file, step_of_database
from oddkettle.store.file.trouble import StoreTrouble
from oddkettle.usecases.process.failures import standings
from oddkettle.usecases.service.copies import newest_copy

LITTLE_BYTES = 50_000_000


class PartHealth(LazyModel):
    """How one thing that runs by itself stands."""

    name: str
    title: str
    """What it does, for a reader."""
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
    newest_copy_at: str | None
    """When it was made, UTC."""
    free_bytes: int


def health_now() -> HealthReport:
    """How it stands now; never raises for what is wrong."""
    parts = [
        copied(
            PartHealth,
            one,
            name=name,
            title=_title(name),
        )
        for name, one in sorted(standings().items())
    ]
    step, database = None, "ok"
    try:
        step = step_of_database()
    except StoreTrouble as error:
        database = str(error)
    copy = newest_copy(data_file())
    free = shutil.disk_usage(data_file().parent).free
    well = database == "ok" and all(part.well for part in parts) and free > LITTLE_BYTES
    return HealthReport(
        version=__version__,
        status="well" if well else "troubled",
        database=database,
        step=step,
        parts=parts,
        newest_copy=copy and copy[0],
        newest_copy_at=copy and copy[1].isoformat(),
        free_bytes=free,
    )


TITLES = {
    "watch": "Looks at the trips that are under way",
    "watch of plan": "Looks at the trip of plan {}",
    "keeper": "Keeps copies of your data",
    "broker of plan": "Talks to the broker of plan {}",
    "monitors": "Listens to monitors",
    "brokers": "Calls the brokers",
    "first runs": "Makes the first answers ready",
}


def _title(name: str) -> str:
    """What a part does, with the number of its plan where it has one."""
    part, _, number = name.rpartition(" ")
    known = TITLES.get(name) or TITLES.get(part)
    return known.format(number) if known else name
