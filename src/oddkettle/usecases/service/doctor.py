"""A look through one's data and, where one runs, at the program: what is there, what is wrong."""

from __future__ import annotations

import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path

from oddkettle import __version__
from oddkettle.core.values.copying import copied
from oddkettle.formats.plan_json import parse_plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.quantities import LazyModel
from oddkettle.store.file.backup import health_of
from oddkettle.usecases.service.copies import copies_of
from oddkettle.usecases.service.health import HealthReport

STUCK = timedelta(minutes=15)
"""A watch that has not looked for so long is stuck, unless it was told to look more seldom."""
COPY_AGE = timedelta(days=3)


class DoctorReport(LazyModel):
    """What is kept, and what is wrong with it."""

    version: str
    path: str
    bytes: int
    step: int
    plans: int
    revisions: int
    entries: int
    samples: int
    copies: int
    free_bytes: int
    running: bool
    """Whether a server answers at the port of the settings."""
    troubles: list[str]
    """What wants to be put right; the file itself may be whole."""
    whole: bool
    """Whether the data file itself is whole."""


def look_at(data: Path, running: HealthReport | None) -> DoctorReport:
    """Look through a data file; `running` is what a server said of itself. Raises StoreTrouble."""
    health = health_of(data)
    copies = sorted(copies_of(data).glob("*.sqlite3"))
    troubles = [
        *health.troubles,
        *_unreadable(data),
        *_missing_copies(data, copies),
        *_sharing(data),
        *(_of_server(running) if running is not None else ()),
    ]
    return copied(
        DoctorReport,
        health,
        version=__version__,
        path=str(data),
        copies=len(copies),
        free_bytes=shutil.disk_usage(data.parent).free,
        running=running is not None,
        troubles=troubles,
        whole=not health.troubles,
    )


def _unreadable(data: Path) -> Iterator[str]:
    """Plans whose newest state this program cannot read."""
    with closing(sqlite3.connect(f"{data.absolute().as_uri()}?mode=ro", uri=True)) as db:
        rows = db.execute(
            "SELECT plan.id, revision.document FROM plan "
            "JOIN revision ON revision.id = plan.head_id WHERE plan.deleted_at IS NULL"
        ).fetchall()
    for number, document in rows:
        try:
            parse_plan(document.encode())
        except PlanRefused as refused:
            first = refused.complaints[0]
            yield f"plan {number} cannot be read: {first.where}: {first.text}"


def _missing_copies(data: Path, copies: list[Path]) -> Iterator[str]:
    now = datetime.now(UTC).timestamp()
    own = [path.stat().st_mtime for path in copies if path.name.startswith("auto-")]
    first_s = data.stat().st_ctime
    if own and now - max(own) > COPY_AGE.total_seconds():
        days = (now - max(own)) / 86400
        yield f"the newest copy is {days:.0f} days old: is `oddkettle serve` run?"
    if not own and now - first_s > COPY_AGE.total_seconds():
        yield "no copy was ever kept by itself: is `oddkettle serve` run?"


def _sharing(data: Path) -> Iterator[str]:
    key = data.parent / "sharing.key"
    if key.is_file() and key.stat().st_size == 0:
        yield f"{key} is empty: it is made anew at the next start, and devices are let in anew"


def _of_server(running: HealthReport) -> Iterator[str]:
    if running.database != "ok":
        yield f"the running program cannot use its data file: {running.database}"
    for part in running.parts:
        if not part.well:
            yield f"{part.name} failed at {part.failed_at}: {part.reason}"
        elif part.name == "watch" and part.well_at is not None:
            age = datetime.now(UTC) - datetime.fromisoformat(part.well_at)
            if age > STUCK:
                yield f"the watch over the trips has not looked since {part.well_at}"
