"""Copies of everything that is kept: made, checked, brought back, thinned by their age."""

from __future__ import annotations

import shutil
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

from oddkettle.store.file import backup
from oddkettle.store.file.backup import Health
from oddkettle.store.file.database import data_file
from oddkettle.store.thinning import clock_is_sound, thin_revisions

STEM = "oddkettle"
SENDING = ".sending-"
"""Begins the name of a folder whose copy is on its way out."""
LONGEST_SENDING_S = 3600.0
"""A folder that is older was left behind [judgement]."""


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None, microsecond=0)


def copies_of(data: Path) -> Path:
    """The folder beside a data file in which copies are kept."""
    return data.parent / "copies"


def copy_name() -> str:
    """What a copy of now is called."""
    return f"{STEM}-{_now().strftime(backup.STAMP)}.sqlite3"


def back_up(data: Path, target: Path | None = None) -> Path:
    """A whole copy, also while a server writes. Raises StoreTrouble."""
    target = copies_of(data) / copy_name() if target is None else target
    backup.copy_to(data, target)
    return target


@contextmanager
def copy_to_send() -> Iterator[Path]:
    """A copy of the open data file for as long as it is sent. Raises StoreTrouble.

    It lies beside the data, where there is room for it; a folder of the system may be memory.
    """
    with tempfile.TemporaryDirectory(prefix=SENDING, dir=data_file().parent) as folder:
        made = Path(folder) / copy_name()
        backup.copy_to(data_file(), made)
        yield made


def sweep(data: Path) -> None:
    """Take away copies that were on their way out when the program was killed."""
    long_ago = time.time() - LONGEST_SENDING_S
    for left in data.parent.glob(f"{SENDING}*"):
        if left.stat().st_mtime < long_ago:
            shutil.rmtree(left, ignore_errors=True)


def bring_back(copy: Path, data: Path) -> Path | None:
    """Put a copy in the data file's place; where the replaced one is. Raises StoreTrouble."""
    return backup.bring_back(copy, data, _now())


def look_through(data: Path) -> Health:
    """Whether a data file is whole, and what it holds. Raises StoreTrouble."""
    return backup.health_of(data)


def keep_copies(data: Path) -> Path | None:
    """The copy of today where it is missing; older ones are thinned. Raises StoreTrouble.

    Old revisions of the open data file are thinned after that, when a copy has them all.
    """
    made = backup.keep_copies(data, copies_of(data), _now())
    sweep(data)
    now = datetime.now(UTC)
    if clock_is_sound(now):
        thin_revisions(now)
    return made


def newest_copy(data: Path) -> tuple[str, datetime] | None:
    """(name, moment in UTC) of the newest copy that was kept by itself, if there is one."""
    moments = backup.own_moments(copies_of(data))
    if not moments:
        return None
    newest = max(moments)
    return backup.own_name(newest), newest.replace(tzinfo=UTC)
