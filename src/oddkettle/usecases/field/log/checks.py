"""What an entry cannot be: another time, another voltage, counters that run backwards."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from oddkettle.core.trip.grid import zone_named
from oddkettle.core.units.quantity import clock
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.plan_errors import PlanRefused, refused
from oddkettle.usecases.field.log.entries import LONGEST_SPAN_H, Detail, NewEntry
from oddkettle.usecases.field.log.kinds import BY_KEY
from oddkettle.usecases.process.clock import now_utc

VOLTS_SHOWN = (0.6, 1.3)
"""A battery shows between these shares of its nominal voltage, empty and charging [judgement]."""
AHEAD = timedelta(minutes=5)
"""Clocks differ by so much."""


def end_of(plan: Plan, at: datetime, until: datetime) -> datetime:
    """UTC of the end of what began at `at`. Raises PlanRefused for one before it, or too late."""
    zone = zone_named(plan.trip.site.timezone)
    end = (until if until.tzinfo else until.replace(tzinfo=zone)).astimezone(UTC)
    if not timedelta(0) < end - at <= timedelta(hours=LONGEST_SPAN_H):
        raise refused(
            "until",
            f"{until:%a} {clock(until)}",
            f"after its start, within {LONGEST_SPAN_H:g} h",
            "Set a later end, or correct its start.",
            f"It cannot end at {clock(until)} on {until:%a} {until.day}.",
        )
    return end


def moment_on_trip(plan: Plan, at: datetime, where: str) -> datetime:
    """UTC of a local time, which must lie on the trip."""
    zone = zone_named(plan.trip.site.timezone)
    first = datetime.combine(plan.trip.start, datetime.min.time(), tzinfo=zone)
    last = first + timedelta(days=len(plan.trip.days))
    local = at if at.tzinfo else at.replace(tzinfo=zone)
    back = local.astimezone(UTC).astimezone(zone)
    if not at.tzinfo and back.replace(tzinfo=None) != at:
        text = f"{clock(at)} does not exist on {at:%a} {at.day}: the clocks go forward over it."
        limit = f"before the change, or from {clock(back)}"
        raise _bad_time(where, at, limit, f"Use {clock(back)}.", text)
    if not first <= local < last:
        ends = last - timedelta(minutes=1)
        span = f"{first:%a} {first.day} {first:%b} to {ends:%a} {ends.day} {ends:%b %Y}"
        text = "This lies outside the trip."
        raise _bad_time(where, at, span, f"Enter a time from {span}.", text)
    return local.astimezone(UTC)


def check_time(plan: Plan, new: NewEntry, at: datetime) -> None:
    """Nobody has read or done what is still ahead; that something will not be may be said."""
    kind = BY_KEY[new.kind]
    now = datetime.fromisoformat(now_utc())
    if kind.group == "saw" or not kind.adds or at <= now + AHEAD:
        return
    zone = zone_named(plan.trip.site.timezone)
    first = datetime.combine(plan.trip.start, datetime.min.time(), tzinfo=zone)
    if not first <= now < first + timedelta(days=len(plan.trip.days)):
        # No clock says where a trip stands that is planned ahead or long over.
        return
    local, here = at.astimezone(zone), now.astimezone(zone)
    raise _bad_time(
        "at",
        local.replace(tzinfo=None),
        f"up to now, {here:%a} {here.day} {clock(here)}",
        "Enter it when it has happened.",
        f"{local:%a} {local.day} {clock(local)} is still ahead.",
    )


def check_volts(plan: Plan, new: NewEntry) -> None:
    """A voltage is one that the plan's battery can show. Raises PlanRefused."""
    numbers = BY_KEY[new.kind].numbers
    if new.value is None or not any(n.key == "value" and n.unit == "V" for n in numbers):
        return
    nominal = case_from_plan(plan).bank.nominal_v
    least, most = (round(share * nominal, 1) for share in VOLTS_SHOWN)
    if not least <= new.value <= most:
        raise refused(
            "value",
            f"{new.value:g}",
            f"{least:g} to {most:g} V",
            "Read it at the battery's own posts; how batteries are joined stands on the Box page.",
            f"{new.value:g} V is no voltage of a battery of {nominal:g} V.",
        )


def check_counters(
    plan: Plan, new: NewEntry, at: datetime, read: list[tuple[datetime, Detail]]
) -> None:
    """Counters only run on, unless they were set to zero in between. Raises PlanRefused."""
    zone = zone_named(plan.trip.site.timezone)
    for part in BY_KEY[new.kind].counters:
        stands: float | None = getattr(new, part)
        counted = [(when, d) for when, d in read if getattr(d, part) is not None]
        earlier = [(when, d) for when, d in counted if when <= at]
        if stands is None or not earlier or new.since is not None:
            continue
        when, last = earlier[-1]
        stood: float = getattr(last, part)
        if stands < stood:
            local = when.astimezone(zone)
            raise refused(
                part,
                f"{stands:g}",
                f"at least {stood:g}, as it stood on {local:%a} {local.day} at {clock(local)}",
                "Read it again, or say when the counters were set to zero.",
                f"{stands:g} is less than the counter showed before: it cannot run backwards.",
            )


def _bad_time(where: str, at: datetime, limit: str, remedy: str, text: str) -> PlanRefused:
    return refused(where, at.isoformat(timespec="minutes"), limit, remedy, text)
