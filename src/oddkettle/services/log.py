"""Readings from the field, and what they say of the level."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from oddkettle.core.outlook import level_from_rested_v
from oddkettle.core.trip import zone_named
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.complaints import Complaint, PlanRefused
from oddkettle.services.clock import now_utc
from oddkettle.services.plans import open_plan
from oddkettle.services.skies import run_plan
from oddkettle.services.words import moment
from oddkettle.store import log as store
from oddkettle.store.log import Entry

Kind = Literal["monitor_percent", "rested_voltage"]
MONITOR_READING_PERCENT = 3.0
"""How far a counting monitor is commonly out between full charges [judgement]."""
LIMITS: dict[Kind, tuple[float, float, str]] = {
    "monitor_percent": (0.0, 100.0, "%"),
    "rested_voltage": (5.0, 32.0, "V"),
}


class NewEntry(BaseModel):
    """A reading as it is typed: `at` is local time at the trip's place, like 2026-06-08T21:30."""

    at: datetime
    kind: Kind
    value: float = Field(allow_inf_nan=False)
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)] = ""


class LogEntry(BaseModel):
    """A reading with what it says of the level, and what the plan said."""

    id: int
    at_utc: str
    at_local: str
    step: float
    """Place on the plan's grid, fractional; outside 0..steps when off the trip."""
    kind: Kind
    value: float
    note: str
    written_at: str
    written_by: str
    low_percent: float
    mid_percent: float
    high_percent: float
    planned_percent: float | None
    worth: str
    """How much this reading is worth, in words."""


def add_entry(plan_id: int, new: NewEntry, written_by: str = "by hand") -> LogEntry:
    """Write a reading. Raises PlanRefused when it cannot be."""
    plan = open_plan(plan_id).document
    low, high, unit = LIMITS[new.kind]
    if not low <= new.value <= high:
        raise PlanRefused(
            [
                Complaint(
                    where="value",
                    value=f"{new.value:g}",
                    limit=f"{low:g} to {high:g} {unit}",
                    remedy=f"Enter {low:g} to {high:g} {unit}.",
                    says=f"{new.value:g} {unit} is not a reading this box can show.",
                )
            ]
        )
    at = _moment(plan, new.at)
    entry = store.add(plan_id, at.isoformat(), new.kind, new.value, new.note, now_utc(), written_by)
    return _read(plan, [entry])[0]


def list_entries(plan_id: int) -> list[LogEntry]:
    """All readings of a plan, by time."""
    return _read(open_plan(plan_id).document, store.entries(plan_id))


def delete_entry(plan_id: int, entry_id: int) -> None:
    """Take a reading out; `restore_entry` puts it back."""
    store.delete(plan_id, entry_id, now_utc())


def restore_entry(plan_id: int, entry_id: int) -> None:
    """Put a deleted reading back."""
    store.restore(plan_id, entry_id)


def _moment(plan: Plan, at: datetime) -> datetime:
    """UTC of a reading's time, which must lie on the trip, give or take a day."""
    zone = zone_named(plan.trip.site.timezone)
    first = datetime.combine(plan.trip.start, datetime.min.time(), tzinfo=zone)
    last = first + timedelta(days=len(plan.trip.days))
    local = at if at.tzinfo else at.replace(tzinfo=zone)
    back = local.astimezone(UTC).astimezone(zone)
    if not at.tzinfo and back.replace(tzinfo=None) != at:
        says = f"{at:%H:%M} does not exist on {at:%a} {at.day}: the clocks go forward over it."
        raise _bad_time(at, f"before the change, or from {back:%H:%M}", f"Use {back:%H:%M}.", says)
    if not first <= local < last:
        ends = last - timedelta(minutes=1)
        span = f"{first:%a} {first.day} {first:%b} to {ends:%a} {ends.day} {ends:%b %Y}"
        raise _bad_time(at, span, f"Enter a time from {span}.", "This lies outside the trip.")
    return local.astimezone(UTC)


def _bad_time(at: datetime, limit: str, remedy: str, says: str) -> PlanRefused:
    value = at.isoformat(timespec="minutes")
    return PlanRefused([Complaint(where="at", value=value, limit=limit, remedy=remedy, says=says)])


def _read(plan: Plan, entries: list[Entry]) -> list[LogEntry]:
    if not entries:
        return []
    run = run_plan(plan)
    zone = run.grid.zone
    read = []
    for entry in entries:
        at = datetime.fromisoformat(entry.at_utc)
        local = at.astimezone(zone)
        since = at - moment(run, 0)
        step = since.total_seconds() / (60 * run.grid.step_min)
        on_trip = 0 <= step < run.grid.steps
        planned = max(100 * float(run.level[int(step)]), 0.0) if on_trip else None
        low, mid, high, worth = _level(plan, entry)
        read.append(
            LogEntry(
                id=entry.id,
                at_utc=entry.at_utc,
                at_local=local.isoformat(timespec="minutes"),
                step=step,
                kind=entry.kind,  # type: ignore[arg-type]
                value=entry.value,
                note=entry.note,
                written_at=entry.written_at,
                written_by=entry.written_by,
                low_percent=low,
                mid_percent=mid,
                high_percent=high,
                planned_percent=planned,
                worth=worth,
            )
        )
    return read


def _level(plan: Plan, entry: Entry) -> tuple[float, float, float, str]:
    """(low, mid, high, worth) of one reading, in percent."""
    if entry.kind == "monitor_percent":
        low = max(entry.value - MONITOR_READING_PERCENT, 0.0)
        high = min(entry.value + MONITOR_READING_PERCENT, 100.0)
        return low, entry.value, high, "A counter drifts; a full charge sets it right."
    span = level_from_rested_v(case_from_plan(plan).bank, entry.value)
    width = 100 * (span.high - span.low)
    worth = (
        f"Rested voltage is worth {100 * span.low:.0f} to {100 * span.high:.0f} % here, "
        "after some hours with nothing in or out."
    )
    if width > 15:
        worth += " The curve is too flat for more."
    return 100 * span.low, 100 * span.mid, 100 * span.high, worth
