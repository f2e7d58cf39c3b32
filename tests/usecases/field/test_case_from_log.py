"""The plan as it was carried out: what the log says goes before what was planned."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from oddkettle.core.trip.blocks import BlockKind
from oddkettle.core.trip.grid import Block
from oddkettle.core.weather.weather_generator import SEEN_HOLDS, holds
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.store.log import Entry
from oddkettle.usecases.field.log.entries import Detail
from oddkettle.usecases.field.track.case_from_log import case_from_log, readings_of, without
from oddkettle.usecases.field.track.tracked_trip import first_midnight

LONDON_H = 1
"""Hours that the trip's clock is ahead of UTC."""
END = datetime(2026, 6, 15, tzinfo=UTC)


def utc(day: int, hour: float) -> datetime:
    """A moment by the trip's clock, day 0 the first."""
    return datetime(2026, 6, 6, tzinfo=UTC) + timedelta(days=day, hours=hour - LONDON_H)


def entry(n: int, at: datetime, kind: str, value: float = 0.0, **detail: object) -> Entry:
    said = Detail.model_validate(detail).model_dump_json(exclude_none=True)
    return Entry(n, at.isoformat(), kind, value, "", "", "by hand", said)


def spans(plan: Plan, kind: BlockKind, *entries: Entry, now: datetime = END) -> list[tuple]:
    """(day, start, end day, end) in minutes of the blocks of a kind, as they were."""
    blocks = case_from_log(plan, list(entries), now).blocks
    return sorted((b.day, b.start_min, b.end_day, b.end_min) for b in blocks if b.kind == kind)


def test_an_empty_log_leaves_the_plan(moth: Plan) -> None:
    assert case_from_log(moth, [], END) == case_from_plan(moth)


def test_a_drive_takes_the_place_of_the_days_planned_ones(moth: Plan) -> None:
    planned = spans(moth, "drive")
    drove = entry(1, utc(3, 14), "drove", until=utc(3, 15.5))
    assert (3, 570, 3, 645) in planned
    assert spans(moth, "drive", drove) == sorted(
        [span for span in planned if span[0] != 3] + [(3, 840, 3, 930)]
    )


def test_two_drives_of_a_day_are_both_driven(moth: Plan) -> None:
    found = spans(
        moth,
        "drive",
        entry(1, utc(3, 8), "drove", until=utc(3, 9)),
        entry(2, utc(3, 14), "drove", until=utc(3, 15)),
    )
    assert [span for span in found if span[0] == 3] == [(3, 480, 3, 540), (3, 840, 3, 900)]


def test_a_drive_this_morning_leaves_the_one_planned_for_the_evening(moth: Plan) -> None:
    """Day 6 has a drive from 10:00 on; now it is nine."""
    drove = entry(1, utc(6, 7), "drove", until=utc(6, 8))
    found = spans(moth, "drive", drove, now=utc(6, 9))
    assert [span for span in found if span[0] == 6] == [(6, 420, 6, 480), (6, 600, 6, 690)]


def test_a_day_without_a_drive_has_none(moth: Plan) -> None:
    found = spans(moth, "drive", entry(1, utc(3, 12), "no_drive"))
    assert [span for span in found if span[0] == 3] == []
    assert len(found) == len(spans(moth, "drive")) - 1


def test_a_night_on_mains_passes_midnight(moth: Plan) -> None:
    found = spans(moth, "hookup", entry(1, utc(4, 20), "hooked_up", until=utc(5, 7)))
    assert (4, 1200, 5, 420) in found


def test_a_panel_put_away_leaves_the_time_on_both_sides(moth: Plan) -> None:
    found = spans(moth, "panel_out", entry(1, utc(1, 11), "panel_in", until=utc(1, 12)))
    assert [span for span in found if span[0] == 1] == [(1, 540, 1, 660), (1, 720, 1, 1020)]


@pytest.mark.parametrize(
    ("cut", "left"),
    [
        ((0, 100), [(600, 700)]),
        ((0, 600), [(600, 700)]),
        ((0, 650), [(650, 700)]),
        ((650, 2000), [(600, 650)]),
        ((620, 640), [(600, 620), (640, 700)]),
        ((600, 700), []),
        ((700, 900), [(600, 700)]),
    ],
)
def test_cutting_leaves_what_lies_outside(cut: tuple, left: list) -> None:
    other = Block("hookup", 0, 600, 0, 700)
    kept = without((Block("drive", 0, 600, 0, 700), other), "drive", *cut)
    assert [(b.start_min, b.end_min) for b in kept if b.kind == "drive"] == left
    assert other in kept


def test_what_was_left_off_and_what_ran_besides_become_departures(moth: Plan) -> None:
    case = case_from_log(
        moth,
        [
            entry(1, utc(2, 20), "skipped", appliance="laptop", until=utc(2, 23)),
            entry(2, utc(3, 1), "ran", appliance="trap", until=utc(3, 6)),
        ],
        END,
    )
    off, on = case.overrides
    assert (off.key, off.runs, off.until_s - off.from_s) == ("laptop", False, 3 * 3600)
    assert (on.key, on.runs, on.until_s - on.from_s) == ("trap", True, 5 * 3600)


def test_a_sky_that_was_seen_is_nearly_sure(moth: Plan) -> None:
    case = case_from_log(moth, [entry(1, utc(2, 12), "sky", sky="heavy")], END)
    told = case.prospects[2]
    assert told.word is not None
    assert (told.word.key, told.ahead) == ("heavy", 0)
    assert holds(told.ahead) == SEEN_HOLDS > holds(1)
    assert case.clearness[2] == told.word.mean
    assert case.prospects[3] == case_from_plan(moth).prospects[3]


def readings(moth: Plan, *entries: Entry) -> list[tuple]:
    found = readings_of(list(entries), first_midnight(moth))
    return [(r.kind, round(r.value, 6), r.at_s - (r.since_s or r.at_s)) for r in found]


def test_percent_becomes_a_share_and_the_rest_of_a_voltage_is_kept(moth: Plan) -> None:
    one = entry(1, utc(1, 7), "monitor_percent", 61.5)
    two = entry(2, utc(1, 8), "rested_voltage", 13.15, rested_h=2.0)
    found = readings_of([two, one], first_midnight(moth))
    assert [(r.key, r.kind, r.value) for r in found] == [
        ("1", "percent", 0.615),
        ("2", "rested_v", 13.15),
    ]
    assert found[1].rested_h == 2.0


def test_counters_count_from_zero_or_from_the_reading_before(moth: Plan) -> None:
    hour = 3600
    zero = entry(1, utc(1, 7), "counters", ah_in=20, ah_out=50, since=utc(0, 0))
    then = entry(2, utc(1, 19), "counters", ah_in=26.5, ah_out=61)
    assert readings(moth, zero, then) == [
        ("ah_in", 20, 31 * hour),
        ("ah_out", 50, 31 * hour),
        ("ah_in", 6.5, 12 * hour),
        ("ah_out", 11, 12 * hour),
    ]


def test_the_first_counters_without_a_zero_only_mark_where_they_stand(moth: Plan) -> None:
    one = entry(1, utc(1, 7), "counters", wh_out=800)
    two = entry(2, utc(2, 7), "counters", wh_out=1400)
    assert readings(moth, one) == []
    assert readings(moth, one, two) == [("wh_out", 600, 24 * 3600)]


def test_counters_that_stand_lower_were_reset_and_begin_anew(moth: Plan) -> None:
    rows = [entry(n, utc(n, 7), "counters", ah_out=ah) for n, ah in enumerate((50, 8, 20), 1)]
    assert readings(moth, *rows) == [("ah_out", 12, 24 * 3600)]


def test_a_drive_that_will_not_be_is_none_and_what_was_driven_today_stays(moth: Plan) -> None:
    """Day 6 has a drive from 10:00 on; at nine it is said that it will not be."""
    drove = entry(1, utc(6, 7), "drove", until=utc(6, 8))
    not_today = entry(2, utc(6, 10), "no_drive")
    found = spans(moth, "drive", drove, not_today, now=utc(6, 9))
    assert [span for span in found if span[0] == 6] == [(6, 420, 6, 480)]


def test_no_drive_on_a_day_ahead_leaves_the_days_before_it(moth: Plan) -> None:
    planned = spans(moth, "drive")
    found = spans(moth, "drive", entry(1, utc(6, 10), "no_drive"), now=utc(2, 9))
    assert found == [span for span in planned if span[0] != 6]
