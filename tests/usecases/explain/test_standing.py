"""How it is known where the battery stands: the sum closes, and every reading says its part."""

from __future__ import annotations

import re
from datetime import datetime

import pytest

from oddkettle.core.estimation.readings import full, net_current, percent
from oddkettle.core.units.quantity import clock
from oddkettle.plan import Plan
from oddkettle.results.sums import Sum
from oddkettle.text import render
from oddkettle.usecases.explain.standing import SHOWN, standing_sum
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry
from oddkettle.usecases.field.track.score import score_trip
from oddkettle.usecases.field.track.track_report import track_plan


def number(text: str) -> float:
    found = re.search(r"[−+]?\d+(\.\d+)?", render(text))
    assert found, text
    return float(found.group().replace("−", "-"))


def closing(found: Sum) -> tuple[float, float]:
    """(what the lines with a sign come to, what is written at their end), in points."""
    end = next(n for n, line in enumerate(found.lines) if line.sign == "=")
    parts = [
        -number(line.value) if line.sign == "-" else number(line.value)
        for line in found.lines[:end]
    ]
    return sum(parts), number(found.lines[end].value)


def test_start_model_and_readings_come_to_the_level_on_the_page(logged: int) -> None:
    found, track = standing_sum(logged), track_plan(logged)
    made, written = closing(found)
    assert made == pytest.approx(written, abs=0.21)
    assert written == pytest.approx(track.level.middle, abs=0.06)
    total = next(line for line in found.lines if line.sign == "=")
    assert total.note == f"between {track.level.low:.0f} and {track.level.high:.0f}"


def test_the_last_readings_are_told_the_newest_first(logged: int) -> None:
    found, track = standing_sum(logged), track_plan(logged)
    told = [
        line for line in found.lines if line.note.startswith(("Used", "Taken", "Set", "Believed"))
    ]
    assert len(told) == min(SHOWN, track.readings)
    assert told[0].text.startswith(f"Mon 8 {clock(340)}, rested voltage 13.15 V")
    assert [line.note for line in told] == [mark.text for mark in track.marks[::-1][:SHOWN]]
    assert found.lines[-1].text == f"{track.readings - SHOWN} earlier"


def test_without_a_reading_the_plan_alone_is_the_sum(plan_id: int, moth: Plan) -> None:
    found = standing_sum(plan_id)
    assert closing(found)[0] == pytest.approx(closing(found)[1], abs=0.11)
    moved = next(line for line in found.lines if line.text == "Moved by 0 readings")
    assert number(moved.value) == 0.0
    (doubt,) = found.constants
    assert number(doubt.value) == moth.assumptions.start_doubt_percent


def test_a_reading_that_is_open_is_told_and_the_sum_still_closes(logged: int) -> None:
    at = datetime(2026, 6, 8, 6)
    add_entry(logged, NewEntry(at=at, kind="monitor_percent", value=3))
    after = standing_sum(logged, datetime(2026, 6, 8, 7))
    odd = next(line for line in after.lines if "monitor's percent 3 %" in line.text)
    assert odd.value == "not used yet"
    assert odd.note.startswith("Not used yet:")
    assert closing(after)[0] == pytest.approx(closing(after)[1], abs=0.2)


def test_an_earlier_moment_knows_only_what_was_read_by_then(logged: int) -> None:
    early = standing_sum(logged, datetime(2026, 6, 6, 12))
    late = standing_sum(logged)
    assert not any("Sun 7" in line.text or "Mon 8" in line.text for line in early.lines)
    assert any("Sun 7" in line.text for line in late.lines)


@pytest.mark.parametrize(
    ("new", "text", "holds"),
    [
        ({"kind": "monitor_percent", "value": 96}, "A monitor's zero", percent.USUAL_OFF * 100),
        ({"kind": "full", "value": 0}, "Where a full battery stands", full.FULL_AT * 100),
        ({"kind": "net_amps", "value": -2}, "A glance at the current", net_current.NET_SD_A),
    ],
)
def test_each_kind_of_reading_says_how_far_it_may_be_off(
    plan_id: int, new: dict[str, object], text: str, holds: float
) -> None:
    add_entry(plan_id, NewEntry(at=datetime(2026, 6, 6, 11), **new))  # type: ignore[arg-type]
    constants = {c.text: c for c in standing_sum(plan_id).constants}
    assert number(constants[text].value) == pytest.approx(holds)
    assert "[judgement]" in constants[text].source


def test_the_reader_sees_how_forecasts_of_this_trip_came_out(logged: int) -> None:
    score = score_trip(logged)
    assert score.of > 0
    (own,) = (line for line in standing_sum(logged).lines if "mornings" in line.text)
    assert own.value == f"{score.inside} of {score.of}"
