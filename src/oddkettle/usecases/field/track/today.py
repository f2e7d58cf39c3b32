"""Today: the few things to do from now to dawn, what each is worth, and where that leads."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import Literal

from oddkettle.core.simulation.run import Run
from oddkettle.core.units.quantity import clock
from oddkettle.plan.quantities import LazyModel
from oddkettle.plan.trip import SkyKey
from oddkettle.results.odds import Band, OddsReport
from oddkettle.store.log import Entry
from oddkettle.text.words import day_words
from oddkettle.usecases.field.log.log import detail_of, text_of_entry
from oddkettle.usecases.field.samples.samples import sampled_at
from oddkettle.usecases.field.track.day_things import DayThing, moment_of, things_of
from oddkettle.usecases.field.track.open_reading import OpenReading, both_numbers, question_of
from oddkettle.usecases.field.track.tonight import (
    DAWN_MIN,
    MAX_UNDER,
    SMALL_HOURS,
    Answer,
    Tonight,
    tonight,
)
from oddkettle.usecases.field.track.track_report import Mark, marks_of, report_whereabouts
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip, first_midnight, follow
from oddkettle.usecases.simulate.run_cache import run_plan

EVENING_MIN = 22 * 60
DAYS_AHEAD = 7


class Expected(LazyModel):
    """The level at a moment ahead."""

    at: datetime
    name: str
    level: Band


class LastRead(LazyModel):
    """The reading on which the level rests: the newest that was used."""

    at: datetime
    text: str


class Course(LazyModel):
    """The level from now to the next dawn; point i stands `i * step_min` after `begins`."""

    begins: datetime
    step_min: int
    level: list[Band]


class DayAhead(LazyModel):
    """A later day: its things, and the level at the dawn after it."""

    date: date
    day: str
    things: list[DayThing]
    dawn: Expected | None


class TodayReport(LazyModel):
    """The day, from now to dawn."""

    now: datetime
    day: str
    day_index: int
    """Which day of the trip it is, from 0."""
    sky: SkyKey | None
    """What was last said of this day's sky in the log; None where nothing was."""
    level: Band
    headline: str
    question: OpenReading | None
    """What is asked about a reading that did not fit, until it is settled."""
    became: Mark | None
    """What became of the reading that was entered last."""
    tonight: Answer
    """What is said of the coming night."""
    safe: bool
    """Whether it stays above the reserve from now to the end of the coming night, in all but the
    worst trip of ten, with no reading unsettled."""
    things: list[DayThing]
    yesterday: list[DayThing]
    """What yesterday had and nobody ticked."""
    expected: list[Expected]
    course: Course | None
    """How the level goes until the last of these; None where the trip ends before."""
    read: LastRead | None
    """None before the first reading that was used."""
    rest: str
    ahead: list[DayAhead]
    """The days that follow, for whoever is out of reach by then."""
    last_percent: float | None
    """The monitor's percent as it was last read."""
    last_volts: float | None
    last_ah_in: float | None
    """The counters as they were last read."""
    last_ah_out: float | None


def today_of(plan_id: int, at: datetime | None = None) -> TodayReport:
    """The day of a trip that is under way. Raises PlanRefused, NoSuchPlan."""
    here = follow(plan_id, at)
    track = report_whereabouts(here)
    plan = here.plan
    zone = first_midnight(plan).tzinfo
    local = here.now.astimezone(zone)
    run = run_plan(plan)
    things = things_of(here, run, here.day, local)
    before = things_of(here, run, here.day - 1, local) if here.day > 0 else []
    expected = _expected(here, track.rest, local)
    night = tonight(here)
    return TodayReport(
        now=local,
        day=day_words(local),
        day_index=here.day,
        sky=_sky(here, local),
        level=track.level,
        headline=_headline(night, here),
        tonight=night.answer,
        safe=night.safe,
        question=question_of(here),
        became=_became(here),
        things=things,
        yesterday=[thing for thing in before if thing.state == "to_tick"],
        expected=expected,
        course=_course(here, track.rest, local, expected),
        read=_read(here, local),
        rest=track.rest.headline,
        ahead=_ahead(here, run, track.rest, local),
        last_percent=_last(here.entries, "monitor_percent"),
        last_volts=_last(here.entries, "rested_voltage", "loaded_voltage"),
        last_ah_in=_counted(here.entries, "ah_in"),
        last_ah_out=_counted(here.entries, "ah_out"),
    )


def _headline(night: Tonight, here: TrackedTrip) -> str:
    if night.stretch is None:
        return "The trip is over."
    reserve = f"your reserve of {here.plan.trip.floor_percent:.0f} %"
    lowest = night.stretch.lowest
    if night.answer == "under":
        falls = night.stretch.falls_at
        if night.stretch.stands_under:
            return f"Not safe: it is below {reserve} now."
        at = "" if falls is None else f" at about {clock(falls)}"
        return f"Tonight is not safe: it drops below {reserve}{at}."
    if night.unsettled is not None:
        read, foreseen = both_numbers(*night.unsettled)
        falls = night.stretch.falls_at
        worse = ""
        if falls is not None and night.stretch.share_under > MAX_UNDER:
            worse = (
                f" If the lower is right, it is below {reserve} now."
                if night.stretch.share_now > MAX_UNDER
                else f" If the lower is right, it drops below {reserve} at about {clock(falls)}."
            )
        return f"Tonight is not settled: {read} was read, {foreseen} was expected.{worse}"
    if night.answer == "tight":
        low = f"{lowest.low:.0f} %"
        return f"Tonight is tight: it may drop below {reserve}, to {low} in 1 of 10 tries."
    end = first_midnight(here.plan) + timedelta(days=here.case.days)
    ends = "the trip ends" if night.until >= end else "dawn"
    return f"Tonight is safe: above {lowest.low:.0f} % until {ends}, in 9 of 10 tries."


def _course(
    here: TrackedTrip, rest: OddsReport, local: datetime, expected: list[Expected]
) -> Course | None:
    if not expected:
        return None
    band, begin = rest.band, first_midnight(here.plan)
    from_min = (local - begin).total_seconds() / 60
    to_min = (expected[-1].at - begin).total_seconds() / 60
    first, last = round(from_min / band.step_min), round(to_min / band.step_min)
    return Course(
        begins=begin + timedelta(minutes=first * band.step_min),
        step_min=band.step_min,
        level=[
            Band(low=max(low, 0.0), middle=max(middle, 0.0), high=max(high, 0.0))
            for low, middle, high in zip(
                band.low[first : last + 1],
                band.middle[first : last + 1],
                band.high[first : last + 1],
                strict=True,
            )
        ],
    )


def _read(here: TrackedTrip, local: datetime) -> LastRead | None:
    """The newest reading that was used: an entry of the log, or a sample of the monitor's own."""
    newest = next((taken for taken in reversed(here.tracked.taken) if taken.used), None)
    if newest is None:
        return None
    sampled = sampled_at(newest.key)
    if sampled is not None:
        return LastRead(at=datetime.fromtimestamp(sampled, local.tzinfo), text="your monitor, live")
    number, _, _ = newest.key.partition(" ")
    entry = next((one for one in here.entries if str(one.id) == number), None)
    if entry is None:
        return None
    at = datetime.fromisoformat(entry.at_utc).astimezone(local.tzinfo)
    return LastRead(at=at, text=text_of_entry(here.plan, entry))


def _became(here: TrackedTrip) -> Mark | None:
    """What became of the reading that was entered last, by whichever device."""
    by_entry = {mark.entry: mark for mark in marks_of(here.tracked) if mark.entry is not None}
    return by_entry[max(by_entry)] if by_entry else None


def _sky(here: TrackedTrip, local: datetime) -> SkyKey | None:
    """What was last said of the sky of this day."""
    said = [
        detail_of(entry).sky
        for entry in here.entries
        if entry.kind == "sky"
        and datetime.fromisoformat(entry.at_utc).astimezone(local.tzinfo).date() == local.date()
    ]
    return said[-1] if said else None


def _expected(here: TrackedTrip, rest: OddsReport, local: datetime) -> list[Expected]:
    """The level this evening, where that is still ahead, and at the next dawn."""
    dawn_day = here.day + (0 if local.hour < SMALL_HOURS else 1)
    both = (
        _level_at(here, rest, "tonight", here.day, EVENING_MIN, local),
        _level_at(here, rest, "at dawn", dawn_day, DAWN_MIN, local),
    )
    return sorted((one for one in both if one is not None), key=lambda one: one.at)


def _level_at(
    here: TrackedTrip, rest: OddsReport, name: str, day: int, minute: int, local: datetime
) -> Expected | None:
    """The level at a moment of the trip that is still ahead; None for any other."""
    band = rest.band
    at = moment_of(here.plan, day, minute)
    place = round((at - first_midnight(here.plan)).total_seconds() / 60 / band.step_min)
    if at <= local or place >= len(band.middle):
        return None
    level = Band(
        low=max(band.low[place], 0.0),
        middle=max(band.middle[place], 0.0),
        high=max(band.high[place], 0.0),
    )
    return Expected(at=at, name=name, level=level)


def _ahead(here: TrackedTrip, run: Run, rest: OddsReport, local: datetime) -> list[DayAhead]:
    found = []
    last = min(here.case.days, here.day + 1 + DAYS_AHEAD)
    for day in range(here.day + 1, last):
        midnight = first_midnight(here.plan) + timedelta(days=day)
        dawn = _level_at(here, rest, "at dawn", day + 1, DAWN_MIN, local)
        things = things_of(here, run, day, local)
        found.append(
            DayAhead(date=midnight.date(), day=day_words(midnight), things=things, dawn=dawn)
        )
    return found


def _last(entries: tuple[Entry, ...], *kinds: str) -> float | None:
    values = [entry.value for entry in entries if entry.kind in kinds]
    return values[-1] if values else None


def _counted(entries: tuple[Entry, ...], part: Literal["ah_in", "ah_out"]) -> float | None:
    stood = [getattr(detail_of(entry), part) for entry in entries if entry.kind == "counters"]
    return next((value for value in reversed(stood) if value is not None), None)
