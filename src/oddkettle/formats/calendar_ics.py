"""Calendar files (iCalendar, RFC 5545): what a trip has in it out, entries of a calendar in."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

from oddkettle import __version__
from oddkettle.core.foundation.errors import PlanError

MOST_EVENTS = 5_000


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


def read_calendar(data: bytes, zone: ZoneInfo) -> ReadCalendar:
    """A calendar file's entries with a time; floating times are in `zone`. Raises PlanError."""
    from icalendar import Calendar

    try:
        calendars = Calendar.from_ical(data, multiple=True)
        events = [event for calendar in calendars for event in calendar.walk("VEVENT")]
    except (ValueError, KeyError, IndexError, TypeError, AttributeError) as error:
        raise _refused(f"It cannot be read as a calendar ({str(error)[:80]}).") from None
    if not events:
        raise _refused("It has no entries.")
    if len(events) > MOST_EVENTS:
        raise _refused(f"It has more than {MOST_EVENTS:,} entries.")
    found: list[Happening] = []
    all_day = again = 0
    for n, event in enumerate(events):
        try:
            start, end = _value(event, "dtstart"), _value(event, "dtend")
            length = _value(event, "duration")
        except (ValueError, TypeError, AttributeError):
            continue
        if not isinstance(start, datetime):
            all_day += isinstance(start, date)
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
