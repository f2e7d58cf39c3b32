"""Copies of everything: made while a server writes, checked, brought back, thinned by their age."""

from __future__ import annotations

import sqlite3
import threading
from collections.abc import Iterator
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from typer.testing import CliRunner

from oddkettle.cli import app
from oddkettle.plan import Plan
from oddkettle.store.file.backup import (
    STAMP,
    bring_back,
    copy_to,
    health_of,
    keep_copies,
    kept_by_age,
)
from oddkettle.store.file.database import open_database
from oddkettle.store.file.tables import RevisionRow, database
from oddkettle.store.file.trouble import StoreTrouble, trouble_from
from oddkettle.store.thinning import clock_is_sound
from oddkettle.usecases.plans.plans import create_plan, open_plan, save_plan, titles
from tests.conftest import NOW
from tests.support.serving import free_port

AT = datetime(2026, 6, 8, 12)


@pytest.fixture
def data(tmp_path: Path, moth: Plan) -> Iterator[Path]:
    """A data file with one plan, open as a server has it."""
    path = tmp_path / "oddkettle.sqlite3"
    db = open_database(path, NOW)
    create_plan(moth)
    yield path
    db.close()


def names_in(path: Path) -> list[str]:
    with closing(sqlite3.connect(path)) as db:
        return [row[0] for row in db.execute("SELECT did FROM revision ORDER BY id")]


def test_a_copy_made_while_it_is_written_is_whole(data: Path, tmp_path: Path) -> None:
    """Twenty saves on one side, copies on the other: each copy holds a beginning of them."""
    plan = open_plan(titles()[0].id)
    done = threading.Event()

    def write() -> None:
        database.connect(reuse_if_open=True)
        revision = plan.revision
        for n in range(20):
            named = plan.document.model_copy(update={"name": f"Name {n}"})
            revision = save_plan(plan.id, revision, named, f"save {n}").revision
        database.close()
        done.set()

    writer = threading.Thread(target=write)
    writer.start()
    seen = []
    while not done.is_set() or not seen:
        copy = tmp_path / "copy.sqlite3"
        copy_to(data, copy)
        assert health_of(copy).troubles == ()
        seen.append(names_in(copy))
    writer.join()
    whole = names_in(data)
    assert len(whole) == 21
    assert all(names == whole[: len(names)] for names in seen)


def test_a_copy_brought_back_is_what_was_copied_and_the_replaced_one_is_kept(
    data: Path, tmp_path: Path, moth: Plan
) -> None:
    copy = tmp_path / "elsewhere" / "copy.sqlite3"
    copy_to(data, copy)
    create_plan(moth.model_copy(update={"name": "Later"}))
    database.close()
    kept = bring_back(copy, data, AT)
    assert kept is not None
    assert (health_of(kept).plans, health_of(data).plans) == (2, 1)
    database.connect()
    assert [title.name for title in titles()] == [moth.name]


def test_what_is_in_use_is_not_replaced(data: Path, tmp_path: Path) -> None:
    copy = tmp_path / "copy.sqlite3"
    copy_to(data, copy)
    before = data.read_bytes()
    with pytest.raises(StoreTrouble, match="End the running"):
        bring_back(copy, data, AT)
    assert data.read_bytes() == before


def test_a_copy_that_is_not_whole_is_not_brought_back(data: Path, tmp_path: Path) -> None:
    copy = tmp_path / "copy.sqlite3"
    copy_to(data, copy)
    bytes_ = bytearray(copy.read_bytes())
    middle = len(bytes_) // 2
    bytes_[middle : middle + 4096] = b"\xa5" * 4096
    copy.write_bytes(bytes_)
    database.close()
    before = health_of(data)
    with pytest.raises(StoreTrouble):
        bring_back(copy, data, AT)
    assert health_of(data) == before


@pytest.mark.parametrize(
    ("made_by", "says"),
    [
        (lambda p: p.write_bytes(b"not a database" * 100), "is no data file of Odd Kettle"),
        (lambda p: sqlite3.connect(p).execute("CREATE TABLE cats (name)"), "another program's"),
        (lambda p: p.mkdir(), "cannot be opened"),
    ],
)
def test_a_file_that_cannot_be_used_is_told_in_a_sentence(
    tmp_path: Path, made_by: object, says: str
) -> None:
    path = tmp_path / "oddkettle.sqlite3"
    made_by(path)  # type: ignore[operator]
    with pytest.raises(StoreTrouble, match=says):
        open_database(path, NOW)
    own = {"ODDKETTLE_DATA": str(tmp_path), "ODDKETTLE_PORT": str(free_port())}
    told = CliRunner().invoke(app, ["serve"], env=own)
    assert told.exit_code == 2
    assert says in told.output


@pytest.mark.parametrize(
    ("said", "means"),
    [
        ("database or disk is full", "Free some space"),
        ("database is locked", "Close it and try again"),
        ("attempt to write a readonly database", "may only be read"),
        ("database disk image is malformed", "is damaged"),
        ("disk I/O error", "does not answer as it should"),
        ("something new", "does not answer: something new"),
    ],
)
def test_each_trouble_has_its_words(said: str, means: str) -> None:
    assert means in str(trouble_from(sqlite3.OperationalError(said), Path("data.sqlite3")))


def test_copies_are_thinned_by_their_age() -> None:
    """A copy a day for two years: the last week, some weeks, and a year of months."""
    days = [AT - timedelta(days=n) for n in range(730)]
    kept = kept_by_age(days)
    assert set(days[:7]) <= kept
    assert 7 + 2 + 10 <= len(kept) <= 7 + 4 + 12
    assert min(kept) >= AT - timedelta(days=366)
    # Thinning again takes nothing more.
    assert kept_by_age(sorted(kept)) == kept


def test_a_day_has_one_copy_and_others_files_are_left_alone(data: Path, tmp_path: Path) -> None:
    folder = tmp_path / "copies"
    first = keep_copies(data, folder, AT)
    assert first is not None
    assert keep_copies(data, folder, AT + timedelta(hours=3)) is None
    own = folder / "replaced-by-hand.sqlite3"
    own.write_bytes(b"mine")
    for n in range(1, 60):
        assert keep_copies(data, folder, AT + timedelta(days=n)) is not None
    assert own.read_bytes() == b"mine"
    autos = sorted(folder.glob("auto-*.sqlite3"))
    assert len(autos) <= 7 + 4 + 3
    assert autos[-1].name == f"auto-{(AT + timedelta(days=59)).strftime(STAMP)}.sqlite3"
    assert not list(folder.glob("*.part"))


def test_the_commands_copy_bring_back_and_look(data: Path, tmp_path: Path) -> None:
    env = {"ODDKETTLE_DATA": str(tmp_path)}
    out = tmp_path / "mine.sqlite3"
    run = CliRunner()
    assert "bytes" in run.invoke(app, ["backup", str(out)], env=env).output
    looked = run.invoke(app, ["doctor"], env=env)
    assert looked.exit_code == 0
    assert "1 plans" in looked.output
    assert "It is whole." in looked.output
    database.close()
    assert "is your data now" in run.invoke(app, ["restore", str(out)], env=env).output
    assert len(list((tmp_path / "copies").glob("replaced-*"))) == 1
    nowhere = run.invoke(app, ["restore", "nowhere.sqlite3"], env=env)
    assert nowhere.exit_code == 2
    assert "There is no data file at" in nowhere.output


def test_a_clock_that_runs_ten_years_ahead_and_back_stops_no_copies(
    data: Path, tmp_path: Path
) -> None:
    folder = tmp_path / "copies"
    assert keep_copies(data, folder, AT) is not None
    ahead = AT + timedelta(days=3650)
    wrong = keep_copies(data, folder, ahead)
    assert wrong is not None
    # Back again: each day has its copy as before, and those of the right days stay.
    for n in range(1, 4):
        made = keep_copies(data, folder, AT + timedelta(days=n))
        assert made is not None
        assert made.is_file()
    days = {path.name[5:15] for path in folder.glob("auto-*.sqlite3") if path != wrong}
    assert days == {f"2026-06-{8 + n:02d}" for n in range(4)}


def test_a_clock_that_jumps_takes_no_states_out(data: Path) -> None:
    """Saves of a week, then a clock ten years ahead, with a save of that day: nothing may go."""
    plan = open_plan(titles()[0].id)
    revision = plan.revision
    for n in range(6):
        named = plan.document.model_copy(update={"name": f"Name {n}"})
        revision = save_plan(plan.id, revision, named, f"save {n}").revision
    today = datetime.now(UTC)
    assert clock_is_sound(today)
    assert not clock_is_sound(today + timedelta(days=3650))
    ahead = (today + timedelta(days=3650)).isoformat()
    RevisionRow.update(saved_at=ahead).where(RevisionRow.id == revision).execute()
    assert not clock_is_sound(today + timedelta(days=3650))
    assert not clock_is_sound(today)


def test_a_file_without_a_step_of_its_making_is_refused(tmp_path: Path) -> None:
    empty = tmp_path / "copy.sqlite3"
    with closing(sqlite3.connect(empty)) as db:
        db.execute("CREATE TABLE migration (number INTEGER, name TEXT, applied_at TEXT)")
    into = tmp_path / "oddkettle.sqlite3"
    with pytest.raises(StoreTrouble, match="holds nothing"):
        bring_back(empty, into, AT)
    assert not into.exists()


def test_a_copy_from_before_data_files_had_names_is_brought_back(
    data: Path, tmp_path: Path
) -> None:
    copy = tmp_path / "copy.sqlite3"
    copy_to(data, copy)
    database.close()
    with closing(sqlite3.connect(copy)) as db:
        db.execute("DROP TABLE data_file")
        db.execute("DROP TABLE log_step")
        db.execute("DELETE FROM migration WHERE number > 12")
        db.execute("ALTER TABLE plan DROP COLUMN key")
        db.execute("ALTER TABLE log_entry DROP COLUMN device")
        db.commit()
    bring_back(copy, data, AT)
    db = open_database(data, NOW)
    assert len(titles()) == 1
    assert open_plan(titles()[0].id).trip_key
    db.close()
