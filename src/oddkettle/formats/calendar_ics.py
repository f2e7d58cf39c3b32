"""Calendar files (iCalendar, RFC 5545): what a trip has in it out, entries of a calendar in."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

from oddkettle import __version__
from oddkettle.core.messages.errors import PlanError
from oddkettle.plan.quantities import FIRST_YEAR, LAST_YEAR

MAX_EVENTS = 5_000
MAX_LINES, LONGEST_LINE, MAX_DEPTH = 60_000, 20_000, 6
"""A dozen lines an entry; a zone's description is three deep."""


@dataclass(frozen=True)
class Happening:
    """One entry: what, from when until when, of what kind. A `todo` has no end."""

    uid: str
    summary: str
    start: datetime
    end: datetime | None
    kind: str = ""
    text: str = ""
    todo: bool = False


@dataclass(frozen=True)
class ReadCalendar:
    """A calendar's entries, and how many were left out for lasting all day or coming again."""

    happenings: list[Happening]
    all_day: int
    again: int


def write_calendar(name: str, happenings: list[Happening], stamp: datetime) -> bytes:
    """A calendar file that every calendar reads: local times with their zones described."""
    from icalendar import Calendar, Event, Todo

    calendar = Calendar()
    calendar.add("prodid", f"-//Odd Kettle//Odd Kettle {__version__}//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    for one in happenings:
        item = Todo() if one.todo else Event()
        item.add("uid", one.uid)
        item.add("dtstamp", stamp.astimezone(UTC))
        item.add("summary", one.summary)
        item.add("due" if one.todo else "dtstart", one.start)
        if one.end is not None:
            item.add("dtend", one.end)
        if one.kind:
            item.add("categories", [one.kind])
        if one.text:
            item.add("description", one.text)
        calendar.add_component(item)
    calendar.add_missing_timezones()
    return bytes(calendar.to_ical())


def _check_bounds(data: bytes) -> None:
    """Count lines and components before any is built of them. Raises PlanError."""
    if data.count(b"\n") > MAX_LINES:
        raise _refused(f"It has more than {MAX_LINES:,} lines.")
    depth = deepest = begun = 0
    for line in data.splitlines():
        word = line[:6].upper()
        if word == b"BEGIN:":
            depth, begun = depth + 1, begun + 1
            deepest = max(deepest, depth)
        elif line[:4].upper() == b"END:":
            depth -= 1
        if len(line) > LONGEST_LINE:
            raise _refused(f"A line of it is longer than {LONGEST_LINE:,} characters.")
    if deepest > MAX_DEPTH:
        raise _refused(f"Its components are nested more than {MAX_DEPTH} deep.")
    if begun > 3 * MAX_EVENTS:
        raise _refused(f"It has more than {3 * MAX_EVENTS:,} components.")


def read_calendar(data: bytes, zone: ZoneInfo) -> ReadCalendar:
    """A calendar file's entries with a time; floating times are in `zone`. Raises PlanError."""
    from icalendar import Calendar

    _check_bounds(data)
    try:
        calendars = Calendar.from_ical(data, multiple=True)
        events = [event for calendar in calendars for event in calendar.walk("VEVENT")]
    except (
        ValueError,
        KeyError,
        IndexError,
        TypeError,
        AttributeError,
        OverflowError,
        RecursionError,
        OSError,
    ) as error:
        raise _refused(f"It cannot be read as a calendar ({str(error)[:80]}).") from None
    if not events:
        raise _refused("It has no entries.")
    if len(events) > MAX_EVENTS:
        raise _refused(f"It has more than {MAX_EVENTS:,} entries.")
    found: list[Happening] = []
    all_day = again = 0
    for n, event in enumerate(events):
        try:
            start, end = _value(event, "dtstart"), _value(event, "dtend")
            length = _value(event, "duration")
        except (ValueError, TypeError, AttributeError, OSError, OverflowError):
            continue
        if not isinstance(start, datetime):
            all_day += isinstance(start, date)
            continue
        if not FIRST_YEAR <= start.year <= LAST_YEAR:
            # No trip is there, and an offset would carry it past the calendar's ends.
            continue
        if "RRULE" in event:
            again += 1
        if not isinstance(end, datetime):
            end = start + length if isinstance(length, timedelta) else None
        if end is None or end <= start:
            continue
        found.append(
            Happening(
                uid=str(event.get("uid", f"entry-{n}"))[:200],
                summary=" ".join(str(event.get("summary", "an entry")).split())[:80],
                start=_aware(start, zone),
                end=_aware(end, zone),
                kind=_kind(event),
            )
        )
    return ReadCalendar(sorted(found, key=lambda one: one.start), all_day, again)


def _value(event: object, name: str) -> object:
    got = event.get(name)  # type: ignore[attr-defined]
    return None if got is None else got.dt


def _kind(event: object) -> str:
    categories = event.get("categories")  # type: ignore[attr-defined]
    cats = getattr(categories, "cats", None) or []
    return str(cats[0]) if cats else ""


def _aware(at: datetime, zone: ZoneInfo) -> datetime:
    return at.replace(tzinfo=zone) if at.tzinfo is None else at.astimezone(zone)


def _refused(text: str) -> PlanError:
    return PlanError(
        text,
        where=("file",),
        value="this file",
        limit="a calendar file (.ics) with entries that have a time",
        remedy="Export the calendar as iCalendar, and bring that.",
    )
