"""Entries of a file are taken as strictly as typed ones, and a bad one is told by its line."""

from __future__ import annotations

from typing import Any

import pytest

from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.usecases.field.log.entries import TICKED
from oddkettle.usecases.field.log.stored import stored_entry


def entry(**change: Any) -> dict[str, Any]:
    return {
        "at_utc": "2026-06-08T20:00:00+00:00",
        "kind": "monitor_percent",
        "value": 58.0,
        "note": "by torch",
        "written_at": "2026-06-08T20:01:00+02:00",
        "written_by": "by hand",
        "detail": "{}",
    } | change


def test_a_sound_entry_is_kept_as_it_is_with_its_times_in_utc(moth: Plan) -> None:
    kept = stored_entry(moth, 3, entry())
    assert kept == entry(written_at="2026-06-08T18:01:00+00:00")


@pytest.mark.parametrize(
    ("field", "value", "limit"),
    [
        ("value", 100.5, "0 to 100 %"),
        ("value", -0.5, "0 to 100 %"),
        ("value", True, "a number"),
        ("value", "58", "a number"),
        ("value", float("inf"), "a number"),
        ("kind", "guessed", "one of"),
        ("detail", "{broken", "JSON"),
        ("detail", None, "JSON"),
        ("at_utc", "2026-06-08T20:00:00", "offset"),
        ("at_utc", "yesterday", "offset"),
        ("at_utc", "2026-06-05T22:59:59+00:00", "2026-06-06"),
        ("at_utc", "2026-06-14T23:00:00+00:00", "2026-06-15"),
        ("written_at", 5, "offset"),
        ("note", "x" * 201, "200"),
        ("note", None, "text"),
        ("note", "a\x07b", "control"),
        ("written_by", "x" * 81, "80"),
    ],
)
def test_what_cannot_be_is_refused_with_its_line_and_limit(
    moth: Plan, field: str, value: object, limit: str
) -> None:
    with pytest.raises(PlanRefused) as refused:
        stored_entry(moth, 7, entry(**{field: value}))
    (complaint,) = refused.value.complaints
    assert complaint.where == f"log, line 7, {field}"
    assert limit in complaint.limit
    assert complaint.remedy


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("value", 0.0),
        ("value", 100),
        ("at_utc", "2026-06-05T23:00:00+00:00"),
        ("at_utc", "2026-06-14T22:59:59+00:00"),
        ("note", "x" * 200),
        ("written_by", "x" * 80),
    ],
)
def test_the_limits_themselves_are_taken(moth: Plan, field: str, value: object) -> None:
    """The trip lasts nine days from midnight in London, an hour before that in UTC."""
    assert stored_entry(moth, 1, entry(**{field: value}))["kind"] == "monitor_percent"


def test_a_tick_may_lie_before_the_trip_and_holds_no_figure_of_a_kind(moth: Plan) -> None:
    kept = stored_entry(moth, 1, entry(kind=TICKED, at_utc="2026-01-01T00:00:00+00:00", value=0))
    assert kept["kind"] == TICKED
