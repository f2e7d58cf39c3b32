"""Where a note belongs: to one data file and one trip of it, whatever their numbers are."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime
from pathlib import Path

import pytest

from oddkettle.plan import Plan
from oddkettle.store.file.backup import bring_back, copy_to
from oddkettle.store.file.database import open_database
from oddkettle.store.file.identity import ElsewhereNote, belongs_here, data_id
from oddkettle.store.file.tables import database
from oddkettle.usecases.plans.plans import OpenPlan, create_plan, open_plan
from tests.conftest import NOW

AT = datetime(2026, 6, 8, 12)


@pytest.fixture
def data(tmp_path: Path) -> Iterator[Path]:
    path = tmp_path / "oddkettle.sqlite3"
    db = open_database(path, NOW)
    yield path
    db.close()


@pytest.fixture
def plan(data: Path, moth: Plan) -> OpenPlan:
    return create_plan(moth)


def test_a_note_that_names_this_file_and_trip_belongs_here(plan: OpenPlan) -> None:
    belongs_here(plan.id, plan.data_file, plan.trip_key)
    # An entry that is typed on a page of another program names neither.
    belongs_here(plan.id, None, None)


def test_a_note_of_another_trip_or_file_does_not(plan: OpenPlan, moth: Plan) -> None:
    other = create_plan(moth)
    assert other.trip_key != plan.trip_key
    with pytest.raises(ElsewhereNote, match="another trip"):
        belongs_here(other.id, plan.data_file, plan.trip_key)
    with pytest.raises(ElsewhereNote, match="another data file"):
        belongs_here(plan.id, "0" * 12, plan.trip_key)


def test_a_name_stays_over_starts_and_saves(data: Path, plan: OpenPlan) -> None:
    named = data_id()
    open_database(data, NOW)
    assert (data_id(), open_plan(plan.id).trip_key) == (named, plan.trip_key)


def test_what_is_brought_back_has_another_name(data: Path, plan: OpenPlan, tmp_path: Path) -> None:
    copy = tmp_path / "copy.sqlite3"
    copy_to(data, copy)
    database.close()
    bring_back(copy, data, AT)
    db = open_database(data, NOW)
    assert data_id() != plan.data_file
    with pytest.raises(ElsewhereNote):
        belongs_here(plan.id, plan.data_file, plan.trip_key)
    # The copy itself is left as it was.
    db.close()
    assert open_database(copy, NOW)
    assert data_id() == plan.data_file
