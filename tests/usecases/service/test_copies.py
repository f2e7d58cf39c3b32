"""Copies of everything, as the program makes, names and finds them."""

from __future__ import annotations

import os
import time
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest

from oddkettle.plan import Plan
from oddkettle.store.file.backup import health_of
from oddkettle.store.file.database import open_database
from oddkettle.store.file.tables import database
from oddkettle.usecases.plans.plans import create_plan, open_plan, titles
from oddkettle.usecases.service import copies
from tests.conftest import NOW

AT = datetime(2026, 6, 8, 12)


@pytest.fixture
def data(tmp_path: Path, moth: Plan, monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    path = tmp_path / "oddkettle.sqlite3"
    db = open_database(path, NOW)
    create_plan(moth)
    monkeypatch.setattr(copies, "_now", lambda: AT)
    yield path
    db.close()


def test_a_copy_is_named_by_its_moment_and_lies_beside_the_data(data: Path) -> None:
    made = copies.back_up(data)
    assert made == data.parent / "copies" / "oddkettle-2026-06-08T120000.sqlite3"
    assert copies.look_through(made).plans == 1
    elsewhere = data.parent / "stick" / "mine.sqlite3"
    assert copies.back_up(data, elsewhere) == elsewhere
    assert health_of(elsewhere).troubles == ()


def test_the_newest_copy_is_one_that_was_kept_by_itself(
    data: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert copies.newest_copy(data) is None
    copies.back_up(data)
    assert copies.newest_copy(data) is None, "a copy that a person made is his own"
    kept = copies.keep_copies(data)
    assert kept is not None
    newest = copies.newest_copy(data)
    assert newest == (kept.name, AT.replace(tzinfo=UTC))
    # Twenty hours make a day's next one due; a moment less does not.
    for hours, made in ((19.9, False), (20.1, True)):
        later = AT + timedelta(hours=hours)
        monkeypatch.setattr(copies, "_now", lambda later=later: later)
        assert (copies.keep_copies(data) is not None) == made
    assert copies.newest_copy(data) == (
        "auto-2026-06-09T080600.sqlite3",
        datetime(2026, 6, 9, 8, 6, tzinfo=UTC),
    )


def test_a_copy_that_is_sent_is_there_for_as_long_as_it_is_sent(data: Path) -> None:
    with copies.copy_to_send() as copy:
        assert health_of(copy).plans == 1
        assert copy.parent.parent == data.parent
        held = copy
    assert not held.exists()
    assert [path.name for path in data.parent.iterdir() if path.is_dir()] == []


def test_a_copy_brought_back_is_the_data_and_what_it_replaced_is_kept(data: Path) -> None:
    copy = copies.back_up(data)
    create_plan(open_plan(titles()[0].id).document)
    assert len(titles()) == 2
    database.close()
    kept = copies.bring_back(copy, data)
    assert kept is not None
    assert (health_of(data).plans, health_of(kept).plans) == (1, 2)


def test_what_a_killed_program_was_sending_is_taken_away_and_what_is_being_sent_is_not(
    data: Path,
) -> None:
    left = data.parent / f"{copies.SENDING}left"
    left.mkdir()
    (left / "copy.sqlite3").write_bytes(b"half")
    long_ago = time.time() - 2 * copies.LONGEST_SENDING_S
    os.utime(left, (long_ago, long_ago))
    with copies.copy_to_send() as copy:
        copies.keep_copies(data)
        assert copy.exists()
    assert not left.exists()
