"""Entries that come from a file: as strict as those that are typed, whatever wrote the file."""

from __future__ import annotations

import unicodedata
from datetime import UTC, datetime, timedelta
from math import isfinite
from typing import Any

from pydantic import ValidationError

from oddkettle.core.trip.grid import zone_named
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused, refused
from oddkettle.usecases.field.log.entries import TICKED, Detail
from oddkettle.usecases.field.log.kinds import BY_KEY

LONGEST = {"note": 200, "written_by": 80}
REMEDY = "Export it again, or import the plan alone."


def stored_entry(plan: Plan, number: int, entry: dict[str, Any]) -> dict[str, Any]:
    """An entry of a file as the log keeps it. Raises PlanRefused with its line."""
    try:
        detail = Detail.model_validate_json(_text(entry, "detail"))
    except (ValidationError, ValueError):
        raise _refusal(number, "detail", entry.get("detail"), "an entry's detail as JSON") from None
    kind = entry.get("kind")
    if kind != TICKED and kind not in BY_KEY:
        raise _refusal(number, "kind", kind, f"one of {', '.join([*BY_KEY, TICKED])}")
    at = _moment(number, entry, "at_utc")
    if kind != TICKED:
        _on_trip(plan, number, at)
    return {
        "at_utc": at.isoformat(),
        "kind": kind,
        "value": _value(number, str(kind), entry.get("value")),
        "note": _words(number, entry, "note"),
        "written_at": _moment(number, entry, "written_at").isoformat(timespec="seconds"),
        "written_by": _words(number, entry, "written_by"),
        "detail": detail.model_dump_json(exclude_none=True),
    }


def _text(entry: dict[str, Any], field: str) -> str:
    text = entry.get(field)
    if not isinstance(text, str):
        raise ValueError(field)
    return text


def _words(number: int, entry: dict[str, Any], field: str) -> str:
    text = entry.get(field)
    most = LONGEST[field]
    if not isinstance(text, str) or len(text) > most:
        raise _refusal(number, field, text, f"text of at most {most} characters")
    if any(unicodedata.category(c) in {"Cc", "Cs"} for c in text):
        raise _refusal(number, field, ascii(text), "text without control characters")
    return text


def _moment(number: int, entry: dict[str, Any], field: str) -> datetime:
    try:
        at = datetime.fromisoformat(_text(entry, field))
    except ValueError:
        at = None
    if at is None or at.tzinfo is None:
        raise _refusal(number, field, entry.get(field), "a time with its offset from UTC")
    return at.astimezone(UTC)


def _on_trip(plan: Plan, number: int, at: datetime) -> None:
    zone = zone_named(plan.trip.site.timezone)
    first = datetime.combine(plan.trip.start, datetime.min.time(), tzinfo=zone)
    last = first + timedelta(days=len(plan.trip.days))
    if not first <= at < last:
        raise _refusal(number, "at_utc", at.isoformat(), f"{first.date()} to {last.date()}")


def _value(number: int, kind: str, value: object) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float) or not isfinite(value):
        raise _refusal(number, "value", value, "a number")
    asked = [] if kind == TICKED else [n for n in BY_KEY[kind].numbers if n.key == "value"]
    for bounds in asked:
        if not bounds.least <= value <= bounds.most:
            span = f"{bounds.least:g} to {bounds.most:g} {bounds.unit}"
            raise _refusal(number, "value", value, span)
    return float(value)


def _refusal(number: int, field: str, value: object, limit: str) -> PlanRefused:
    return refused(
        f"log, line {number}, {field}",
        str(value)[:80],
        limit,
        REMEDY,
        f"Entry {number} of the log cannot be read: its {field} is wrong.",
    )
