"""A trip as a calendar file, and a calendar's entries as a trip's drives."""

from __future__ import annotations

from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.trip.blocks import DONE, BlockKind
from oddkettle.core.trip.grid import local_moment, zone_named
from oddkettle.core.units.quantity import clock
from oddkettle.formats.calendar_ics import Happening, read_calendar, write_calendar
from oddkettle.plan import Plan
from oddkettle.plan.flexible import runs_of
from oddkettle.plan.plan_errors import PlanRefused, from_fault
from oddkettle.plan.quantities import LazyModel, clock_minutes
from oddkettle.plan.trip import BlockModel, SiteModel, Stop
from oddkettle.results.judgements import Edit
from oddkettle.text import USUAL, render
from oddkettle.text.words import day_words
from oddkettle.usecases.build.work import report_build
from oddkettle.usecases.field.track.standing import scenarios_ahead
from oddkettle.usecases.field.track.tracked_trip import follow
from oddkettle.usecases.plans.plans import open_plan
from oddkettle.usecases.process.clock import now_utc
from oddkettle.usecases.simulate.edits import edit, fresh_id

ELSE_KIND: BlockKind = "drive"
"""What an entry is that does not say."""
AT_RISK = 0.1
"""Be back before the reserve is broken in so many trips."""
LISTS = ("leaving", "home")
EVENING, MORNING = "18:00", "08:00"


class CalendarEntry(LazyModel):
    """One entry that lies on the trip."""

    summary: str
    kind: BlockKind
    day: int
    text: str


class CalendarLook(LazyModel):
    """What was understood of a calendar file; nothing of the plan is changed by it."""

    entries: list[CalendarEntry]
    outside: int
    all_day: int
    again: int
    text: str
    edits: list[Edit]


def calendar_of(plan_id: int) -> tuple[str, bytes]:
    """(name, file): drives, mains, panels, uses, checklists, and by when to be back."""
    plan = open_plan(plan_id).document
    zone = zone_named(plan.trip.site.timezone)
    stem = plan.box.key or f"plan-{plan_id}"
    found = [
        Happening(
            uid=f"{stem}-{block.id}@oddkettle",
            summary=DONE[block.kind],
            start=_moment(plan, block.day, block.start, zone),
            end=_moment(
                plan, block.day if block.end_day is None else block.end_day, block.end, zone
            ),
            kind=block.kind.upper(),
        )
        for block in plan.trip.blocks
        if block.kind in DONE
    ]
    found += _uses(plan, stem, zone)
    found += _lists(plan, stem, zone)
    back = _be_back(plan_id, zone)
    if back is not None:
        found.append(
            Happening(
                uid=f"{stem}-back@oddkettle",
                summary="Be back, or charge the box",
                start=back - timedelta(hours=1),
                end=back,
                kind="BE BACK BY",
                text=f"From {render(clock(back), USUAL)} on it goes under the reserve of "
                f"{plan.trip.floor_percent:g} % in one of 10 tries or more, as planned.",
            )
        )
    stamp = datetime.fromisoformat(now_utc())
    return plan.name, write_calendar(plan.name, found, stamp)


def _moment(plan: Plan, day: int, at: str, zone: ZoneInfo) -> datetime:
    return local_moment(plan.trip.start + timedelta(days=day), clock_minutes(at), zone)


def _uses(plan: Plan, stem: str, zone: ZoneInfo) -> list[Happening]:
    found = []
    for n, appliance in enumerate(plan.use.appliances):
        for run in (runs_of(plan, appliance, n) or ()) if appliance.on else ():
            start = local_moment(plan.trip.start + timedelta(days=run.day), run.start_min, zone)
            found.append(
                Happening(
                    uid=f"{stem}-{appliance.id}-{run.day}@oddkettle",
                    summary=appliance.name,
                    start=start,
                    end=start + timedelta(minutes=run.minutes),
                    kind="USE",
                )
            )
    return found


def _lists(plan: Plan, stem: str, zone: ZoneInfo) -> list[Happening]:
    """The checks of leaving and of coming home, as things to do."""
    last = len(plan.trip.days) - 1
    due = {
        "leaving": _moment(plan, 0, EVENING, zone) - timedelta(days=1),
        "home": _moment(plan, last, EVENING, zone),
    }
    return [
        Happening(
            uid=f"{stem}-list-{one.key}@oddkettle",
            summary=f"{one.title}: the box's checks",
            start=due[one.key],
            end=None,
            text=render("\n".join(f"- {check.text}" for check in one.checks), USUAL),
            todo=True,
        )
        for one in report_build(plan).checklists
        if one.key in LISTS
    ]


def _be_back(plan_id: int, zone: ZoneInfo) -> datetime | None:
    """When the reserve has been broken in one of ten tries; None where it never is."""
    ensemble = scenarios_ahead(follow(plan_id))
    # What has gone is told of nothing.
    under = np.maximum.accumulate(ensemble.under, axis=1).mean(axis=0)
    late = np.flatnonzero(under >= AT_RISK)
    if not len(late):
        return None
    step = min(int(late[0]), ensemble.grid.steps - 1)
    second = int(ensemble.grid.starts_utc[step].astype(np.int64))
    return datetime.fromtimestamp(second, zone)


def look_at_calendar(plan_id: int, data: bytes) -> CalendarLook:
    """Read a calendar file for a plan's trip. Raises PlanRefused, NoSuchPlan."""
    plan = open_plan(plan_id).document
    zone = zone_named(plan.trip.site.timezone)
    try:
        read = read_calendar(data, zone)
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from None
    taken = [block.id for block in plan.trip.blocks]
    blocks: list[BlockModel] = []
    entries: list[CalendarEntry] = []
    outside = 0
    stands = {_named(block) for block in plan.trip.blocks}
    for happening in read.happenings:
        if happening.kind in {"USE", "BE BACK BY"}:
            continue
        block = _block(plan, happening, fresh_id("cal", taken))
        if block is None:
            outside += 1
            continue
        if _named(block) in stands:
            continue
        stands.add(_named(block))
        taken.append(block.id)
        blocks.append(block)
        day = datetime.combine(plan.trip.start, datetime.min.time()) + timedelta(days=block.day)
        span = f"{clock(clock_minutes(block.start))} to {clock(clock_minutes(block.end))}"
        entries.append(
            CalendarEntry(
                summary=happening.summary,
                kind=block.kind,
                day=block.day,
                text=f"{day_words(day)}, {span}: {happening.summary} ({DONE[block.kind].lower()})",
            )
        )
    every = [*plan.trip.blocks, *blocks]
    return CalendarLook(
        entries=entries,
        outside=outside,
        all_day=read.all_day,
        again=read.again,
        text=_text(len(entries), outside, read.all_day, read.again),
        edits=[edit("trip", "blocks", to=[b.model_dump(mode="json") for b in every])]
        if blocks
        else [],
    )


def _named(block: BlockModel) -> tuple[str, int, str, int, str]:
    end_day = block.day if block.end_day is None else block.end_day
    return block.kind, block.day, block.start, end_day, block.end


def _block(plan: Plan, happening: Happening, key: str) -> BlockModel | None:
    """An entry as a block of the trip, cut to its days; None outside of them."""
    assert happening.end is not None
    first = (happening.start.date() - plan.trip.start).days
    last = (happening.end.date() - plan.trip.start).days
    days = len(plan.trip.days)
    start, end = f"{happening.start:%H:%M}", f"{happening.end:%H:%M}"
    if end == "00:00":
        last, end = last - 1, "24:00"
    if last < 0 or first >= days:
        return None
    if first < 0:
        first, start = 0, "00:00"
    if last >= days:
        last, end = days - 1, "24:00"
    if (last, end) <= (first, start):
        return None
    named = happening.kind.lower()
    kind = next((kind for kind in DONE if kind == named), ELSE_KIND)
    return BlockModel(
        id=key, kind=kind, day=first, start=start, end_day=None if last == first else last, end=end
    )


def _text(entries: int, outside: int, all_day: int, again: int) -> str:
    if entries == 0:
        text = "Nothing in it is new for the days of this trip."
    else:
        text = "One entry lies" if entries == 1 else f"{entries} entries lie"
        text += " on this trip. What does not say otherwise is taken as a drive."
    if outside:
        text += f" {outside} of them lie outside the trip."
    if all_day:
        text += f" {all_day} last all day and are left out: a drive needs hours."
    if again:
        text += f" {again} come again by a rule: only the first time is taken."
    return text


def stops_of(plan_id: int) -> tuple[str, dict[str, object]]:
    """(name, GeoJSON): the trip's places with the days that are spent at each (RFC 7946)."""
    plan = open_plan(plan_id).document
    trip = plan.trip
    places: list[tuple[str | None, SiteModel | Stop]] = [
        (None, trip.site),
        *((stop.id, stop) for stop in trip.stops),
    ]
    known = {stop.id for stop in trip.stops}
    features = [
        {
            "type": "Feature",
            "geometry": {
                "type": "Point",
                "coordinates": [place.longitude, place.latitude, place.altitude_m],
            },
            "properties": {
                "name": place.name,
                "days": [
                    (trip.start + timedelta(days=n)).isoformat()
                    for n, day in enumerate(trip.days)
                    if (day.stop if day.stop in known else None) == key
                ],
            },
        }
        for key, place in places
    ]
    return plan.name, {"type": "FeatureCollection", "features": features}
