"""Today: what is to be done until dawn, what it is worth, how it went."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np
import pytest

from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.store.file.database import open_database
from oddkettle.text import render
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry
from oddkettle.usecases.field.track.today import today_of
from oddkettle.usecases.field.track.tonight import tonight
from oddkettle.usecases.field.track.track_report import track_plan
from oddkettle.usecases.field.track.tracked_trip import follow
from oddkettle.usecases.plans.plans import create_plan, open_plan
from oddkettle.usecases.service.demo import ENTRIES
from oddkettle.usecases.simulate.run_cache import run_plan
from tests.conftest import NOW, example

DRIVING_DAY = datetime(2026, 6, 9, 5, 30)
AFTERNOON = datetime(2026, 6, 9, 14, 0)


@pytest.fixture(scope="module", autouse=True)
def log(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Path]:
    """The moth plan with its log, in a store for all."""
    path = tmp_path_factory.mktemp("today") / "box.sqlite3"
    db = open_database(path, NOW)
    create_plan(example("moth-survey"))
    for new in ENTRIES["moth-survey"]:
        add_entry(1, new)
    yield path
    db.close()


def test_the_days_drive_is_listed_with_what_it_brings() -> None:
    today = today_of(1, DRIVING_DAY)
    (drive,) = [thing for thing in today.things if thing.kind == "drive"]
    assert render(drive.text) == "Drive, 09:30 to 10:45"
    assert (drive.state, drive.did, drive.did_not) == ("ahead", "drove", "no_drive")
    run = run_plan(open_plan(1).document)
    ledger = keep_ledger(run)
    row = next(j for j, source in enumerate(run.sources) if source.kind == "vehicle")
    # It is the only drive of that day: its worth is the day's.
    assert drive.worth.ah == pytest.approx(float(ledger.sources[row].taken.ah[3]), rel=1e-6)


def test_a_thing_goes_from_ahead_to_now_to_a_question() -> None:
    states = [
        next(t.state for t in today_of(1, at).things if t.kind == "drive")
        for at in (DRIVING_DAY, datetime(2026, 6, 9, 10, 0), AFTERNOON)
    ]
    assert states == ["ahead", "now", "to_tick"]


def test_tonight_and_dawn_are_those_of_the_tracked_rest() -> None:
    today = today_of(1, DRIVING_DAY)
    assert [one.name for one in today.expected] == ["tonight", "at dawn"]
    band = track_plan(1, DRIVING_DAY).rest.band
    for one in today.expected:
        hours = (one.at.replace(tzinfo=None) - datetime(2026, 6, 6)).total_seconds() / 3600
        place = round(hours * 60 / band.step_min)
        assert one.level.middle == pytest.approx(max(band.middle[place], 0))
        assert one.level.low <= one.level.middle <= one.level.high
    assert today.safe == (tonight(follow(1, DRIVING_DAY)).answer == "safe")
    assert today.last_percent == 81
    assert (today.last_ah_in, today.last_ah_out) == (56.0, 70.8)


def test_the_way_to_dawn_begins_where_it_stands_and_ends_where_dawn_is_expected() -> None:
    today = today_of(1, AFTERNOON)
    course = today.course
    assert course is not None
    first, last = course.level[0], course.level[-1]
    # The first point is the nearest mark of the band: half an hour of use moves little.
    assert first.middle == pytest.approx(today.level.middle, abs=3)
    assert last == today.expected[-1].level
    ends = course.begins + timedelta(minutes=course.step_min * (len(course.level) - 1))
    assert abs(ends - today.expected[-1].at) < timedelta(minutes=course.step_min)
    assert all(0.0 <= one.low <= one.middle <= one.high <= 100.5 for one in course.level)


def test_the_level_names_the_reading_it_rests_on() -> None:
    read = today_of(1, AFTERNOON).read
    before = [one for one in ENTRIES["moth-survey"] if one.at <= AFTERNOON]
    newest = max(one.at for one in before if one.kind in ("monitor_percent", "rested_voltage"))
    assert read is not None
    assert read.at.replace(tzinfo=None) >= newest
    assert read.at.replace(tzinfo=None) <= AFTERNOON
    assert "%" in render(read.text) or "V" in render(read.text) or "Ah" in render(read.text)


def test_what_is_ticked_is_done_and_yesterday_asks_no_more() -> None:
    before = today_of(1, datetime(2026, 6, 8, 6, 0))
    assert [render(thing.text) for thing in before.yesterday] == [
        "Folding panel out, 09:00 to 17:00"
    ]
    out = NewEntry(at=datetime(2026, 6, 7, 9), kind="panel_out", until=datetime(2026, 6, 7, 15))
    add_entry(1, out)
    after = today_of(1, datetime(2026, 6, 8, 6, 0))
    assert after.yesterday == []
    assert np.isfinite(after.level.middle)


def test_before_the_small_hours_end_dawn_is_this_mornings() -> None:
    early = today_of(1, datetime(2026, 6, 9, 2, 0))
    dawn = next(one for one in early.expected if one.name == "at dawn")
    assert (dawn.at.day, dawn.at.hour) == (9, 6)
