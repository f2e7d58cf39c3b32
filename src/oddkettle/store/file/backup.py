"""Copies of the data file: made while it is in use, checked before they are brought back."""

from __future__ import annotations

import os
import sqlite3
from contextlib import closing
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from oddkettle.store.file.identity import name_anew
from oddkettle.store.file.migrations import MIGRATIONS
from oddkettle.store.file.trouble import StoreTrouble, trouble_from

DAILY, WEEKLY, MONTHLY = 7, 4, 12
"""Copies kept by themselves: one of each of the last days, weeks and months [judgement]."""
STAMP = "%Y-%m-%dT%H%M%S"
AGAIN = timedelta(hours=20)
"""The next copy of each day is made so long after the last one."""
AHEAD = timedelta(hours=1)
"""A copy this far ahead of the clock was made while it was wrong."""


@dataclass(frozen=True)
class Health:
    """What a data file holds and whether it is whole.

    `step` is how far it was brought up to date; `troubles` are empty for a whole file.
    """

    path: Path
    bytes: int
    step: int
    plans: int
    revisions: int
    entries: int
    samples: int
    troubles: tuple[str, ...]


def copy_to(source: Path, target: Path) -> None:
    """A consistent copy of a data file, also while a server writes it. Raises StoreTrouble.

    It appears under its name only when it is whole.
    """
    if not source.is_file():
        raise StoreTrouble(f"There is no data file at {source}: nothing was copied.")
    part = target.with_name(f"{target.name}.part")
    try:
        target.parent.mkdir(parents=True, exist_ok=True)
        with (
            closing(sqlite3.connect(f"{source.absolute().as_uri()}?mode=ro", uri=True)) as whole,
            closing(sqlite3.connect(part)) as copy,
        ):
            whole.backup(copy, pages=1000)
            copy.execute("PRAGMA journal_mode = DELETE")
        os.replace(part, target)
    except sqlite3.Error as error:
        part.unlink(missing_ok=True)
        raise trouble_from(error, source) from None
    except OSError as error:
        part.unlink(missing_ok=True)
        raise StoreTrouble(f"{target} cannot be written: {error.strerror}.") from None


def health_of(path: Path) -> Health:
    """Look through a data file. Raises StoreTrouble for what is none."""
    if not path.is_file():
        raise StoreTrouble(f"There is no data file at {path}.")
    try:
        with closing(sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True)) as db:
            tables = {row[0] for row in db.execute("SELECT name FROM sqlite_master")}
            if "migration" not in tables:
                raise StoreTrouble(f"{path} is no data file of Odd Kettle.")
            troubles = [row[0] for row in db.execute("PRAGMA integrity_check")]
            astray = db.execute("PRAGMA foreign_key_check").fetchall()
            (step,) = db.execute("SELECT MAX(number) FROM migration").fetchone()
            if step is None:
                raise StoreTrouble(f"{path} holds nothing: no step of its making is written in it.")
            counts = [
                db.execute(f"SELECT COUNT(*) FROM {table}").fetchone()[0] if table in tables else 0
                for table in ("plan", "revision", "log_entry", "sample")
            ]
    except sqlite3.Error as error:
        raise trouble_from(error, path) from None
    said = [] if troubles == ["ok"] else troubles
    if astray:
        said.append(f"{len(astray)} rows belong to nothing")
    if step > len(MIGRATIONS):
        said.append(f"it was written by a newer Odd Kettle (step {step} of {len(MIGRATIONS)})")
    plans, revisions, entries, samples = counts
    return Health(path, path.stat().st_size, step, plans, revisions, entries, samples, tuple(said))


def bring_back(copy: Path, into: Path, now: datetime) -> Path | None:
    """Put a copy in the data file's place; returns where the replaced one is kept.

    The copy is looked through first. Raises StoreTrouble for one that is not whole, and where a
    server has the data file open.
    """
    health = health_of(copy)
    if health.troubles:
        raise StoreTrouble(f"{copy} is not whole: {health.troubles[0]}. Nothing was changed.")
    kept = None
    if into.is_file():
        _refuse_in_use(into)
        kept = into.parent / "copies" / f"replaced-{now.strftime(STAMP)}.sqlite3"
        copy_to(into, kept)
    arriving = into.with_name(f"{into.name}.arriving")
    copy_to(copy, arriving)
    # A note kept on a phone for the replaced one must not land in this one.
    with closing(sqlite3.connect(arriving)) as db:
        name_anew(db)
    for tail in ("-wal", "-shm"):
        into.with_name(into.name + tail).unlink(missing_ok=True)
    os.replace(arriving, into)
    return kept


def _refuse_in_use(path: Path) -> None:
    try:
        with closing(sqlite3.connect(path, timeout=0.5, isolation_level=None)) as db:
            # Leaving the write-ahead log wants the file for itself alone.
            (mode,) = db.execute("PRAGMA journal_mode = DELETE").fetchone()
            if mode != "delete":
                raise sqlite3.OperationalError("database is locked")
            db.execute("PRAGMA journal_mode = WAL")
    except sqlite3.Error as error:
        raise StoreTrouble(
            f"{trouble_from(error, path)} End the running `oddkettle serve` first."
        ) from None


def keep_copies(path: Path, folder: Path, now: datetime) -> Path | None:
    """A copy of today, where there is none yet; older ones are thinned by their age.

    Copies that a person made or that a restoration kept are left alone. Returns the new copy.
    """
    made = None
    newest = max((one for one in own_moments(folder) if one <= now + AHEAD), default=None)
    if path.is_file() and (newest is None or now - newest >= AGAIN):
        made = folder / own_name(now)
        copy_to(path, made)
    # A clock that ran ahead left copies of a day that has not come: they crowd out no other.
    keep = kept_by_age([one for one in own_moments(folder) if one <= now + AHEAD])
    ahead = sorted(one for one in own_moments(folder) if one > now + AHEAD)
    keep |= set(ahead[-1:])
    for moment in own_moments(folder):
        if moment not in keep:
            (folder / own_name(moment)).unlink(missing_ok=True)
    return made


def kept_by_age(moments: list[datetime]) -> set[datetime]:
    """Of copies made at these times the newest of each of the last days, weeks and months."""
    kept: set[datetime] = set()
    for many, period in (
        (DAILY, lambda m: (m.year, m.month, m.day)),
        (WEEKLY, lambda m: tuple(m.isocalendar())[:2]),
        (MONTHLY, lambda m: (m.year, m.month)),
    ):
        newest: dict[tuple[int, ...], datetime] = {}
        for moment in sorted(moments):
            newest[period(moment)] = moment
        kept |= set(sorted(newest.values())[-many:])
    return kept


def own_name(moment: datetime) -> str:
    """What a copy of this moment is called that is kept by itself."""
    return f"auto-{moment.strftime(STAMP)}.sqlite3"


def own_moments(folder: Path) -> list[datetime]:
    """When each copy was made that was kept by itself, UTC."""
    found = []
    for file in folder.glob("auto-*.sqlite3"):
        try:
            found.append(datetime.strptime(file.stem.removeprefix("auto-"), STAMP))
        except ValueError:
            continue
    return found
