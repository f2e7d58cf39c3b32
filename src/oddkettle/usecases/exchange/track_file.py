"""A GPX track as a trip's drives and stops: what was understood, and the edits that take it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from itertools import groupby

import numpy as np

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.trip.grid import local_moment, zone_named
from oddkettle.core.trip.track_legs import Leg, distances_km, legs_by_pace, legs_by_time
from oddkettle.core.units.quantity import clock
from oddkettle.core.values.copying import copied
from oddkettle.formats.gpx_track import Fix, read_gpx
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused, from_fault
from oddkettle.plan.quantities import LazyModel, clock_minutes
from oddkettle.plan.trip import BlockModel, Stop
from oddkettle.results.judgements import Edit
from oddkettle.text.words import day_words
from oddkettle.usecases.plans.places import nearest_town
from oddkettle.usecases.plans.plans import open_plan
from oddkettle.usecases.simulate.edits import edit, fresh_id

SAME_PLACE_KM = 10.0
"""The sun and the weather of two nights nearer than this are the same [judgement]."""
MAX_STOPS = 40


class TrackDrive(LazyModel):
    """One drive of the track, on a day of the trip."""

    day: int
    day_words: str
    start: str
    end: str
    km: float
    text: str


class TrackStop(LazyModel):
    """A place at which nights are spent."""

    name: str
    latitude: float
    longitude: float
    altitude_m: float
    days: list[int]


class TrackLook(LazyModel):
    """What was understood of a file; nothing of the plan is changed by it."""

    points: int
    km: float
    timed: bool
    """Whether its points have time stamps."""
    shifted: bool
    """Whether its days were moved, for they lie outside the trip."""
    drives: list[TrackDrive]
    stops: list[TrackStop]
    left_out: int
    """Drives past the trip's last day."""
    text: str
    edits: list[Edit]


@dataclass(frozen=True)
class Pace:
    """How a line without time stamps is driven."""

    kmh: float = 50.0
    start: str = "09:00"
    day: int = 0
    hours_a_day: float = 4.0


def look_at_track(plan_id: int, data: bytes, pace: Pace) -> TrackLook:
    """Read a GPX file for a plan's trip. Raises PlanRefused, NoSuchPlan."""
    plan = open_plan(plan_id).document
    try:
        lines = read_gpx(data)
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from None
    timed = all(fix.at is not None for line in lines for fix in line)
    fixes = _in_order(lines, timed=timed)
    km = distances_km(
        np.array([fix.latitude for fix in fixes]), np.array([fix.longitude for fix in fixes])
    )
    legs = _legs(plan, fixes, km, pace, timed=timed)
    shift, shifted = _shift(plan, legs) if timed else (timedelta(), False)
    blocks, left_out = _blocks(plan, legs, shift)
    stops, at = _stops(plan, fixes, legs, shift)
    return TrackLook(
        points=len(fixes),
        km=round(float(km.sum()), 1),
        timed=timed,
        shifted=shifted,
        drives=[_drive(plan, block, leg) for block, leg in blocks],
        stops=[
            copied(TrackStop, stop, days=[day for day, key in at.items() if key == stop.id])
            for stop in stops
        ],
        left_out=left_out,
        text=_text(float(km.sum()), len(blocks), len(stops), left_out, shifted=shifted),
        edits=_edits(plan, [block for block, _ in blocks], stops, at),
    )


def _in_order(lines: list[list[Fix]], *, timed: bool) -> list[Fix]:
    fixes = [fix for line in lines for fix in line]
    if not timed:
        return fixes
    ordered = sorted(fixes, key=lambda fix: fix.at or datetime.min.replace(tzinfo=UTC))
    # Two receivers, or a track twice in the file: of each moment one point.
    return [next(same) for _, same in groupby(ordered, key=lambda fix: fix.at)]


def _legs(plan: Plan, fixes: list[Fix], km: np.ndarray, pace: Pace, *, timed: bool) -> list[Leg]:
    if timed:
        seconds = np.array([fix.at.timestamp() for fix in fixes if fix.at is not None])
        return legs_by_time(seconds, km)
    zone = zone_named(plan.trip.site.timezone)
    begin = local_moment(
        plan.trip.start + timedelta(days=pace.day), clock_minutes(pace.start), zone
    )
    return legs_by_pace(km, pace.kmh, begin.timestamp(), 86400.0, pace.hours_a_day)


def _local(plan: Plan, second: float, shift: timedelta) -> datetime:
    zone = zone_named(plan.trip.site.timezone)
    return datetime.fromtimestamp(second, UTC).astimezone(zone) + shift


def _shift(plan: Plan, legs: list[Leg]) -> tuple[timedelta, bool]:
    """Whole days that bring the track's first day to the trip's, where none of it lies on it."""
    if not legs:
        return timedelta(), False
    days = [_local(plan, leg.from_s, timedelta()).date() for leg in legs]
    last = plan.trip.start + timedelta(days=len(plan.trip.days) - 1)
    if any(plan.trip.start <= day <= last for day in days):
        return timedelta(), False
    return timedelta(days=(plan.trip.start - days[0]).days), True


def _day(plan: Plan, at: date) -> int:
    return (at - plan.trip.start).days


def _blocks(
    plan: Plan, legs: list[Leg], shift: timedelta
) -> tuple[list[tuple[BlockModel, Leg]], int]:
    found: list[tuple[BlockModel, Leg]] = []
    left_out = 0
    taken = [block.id for block in plan.trip.blocks]
    last = len(plan.trip.days) - 1
    for leg in legs:
        start, end = _local(plan, leg.from_s, shift), _local(plan, leg.until_s, shift)
        day, end_day = _day(plan, start.date()), _day(plan, end.date())
        if not 0 <= day <= last:
            left_out += 1
            continue
        key = fresh_id("track", taken)
        taken.append(key)
        ends = f"{end:%H:%M}"
        if end_day > last:
            end_day, ends = last, "24:00"
        if (end_day, ends) <= (day, f"{start:%H:%M}"):
            continue
        block = BlockModel(
            id=key,
            kind="drive",
            day=day,
            start=f"{start:%H:%M}",
            end_day=None if end_day == day else end_day,
            end=ends,
        )
        found.append((block, leg))
    return found, left_out


def _drive(plan: Plan, block: BlockModel, leg: Leg) -> TrackDrive:
    words = day_words(
        datetime.combine(plan.trip.start, datetime.min.time()) + timedelta(days=block.day)
    )
    span = f"{clock(clock_minutes(block.start))} to {clock(clock_minutes(block.end))}"
    return TrackDrive(
        day=block.day,
        day_words=words,
        start=block.start,
        end=block.end,
        km=round(leg.km, 1),
        text=f"{words}, {span}: {leg.km:.0f} km",
    )


def _stops(
    plan: Plan, fixes: list[Fix], legs: list[Leg], shift: timedelta
) -> tuple[list[Stop], dict[int, str | None]]:
    """Where each day ends, as stops of the trip; None is the trip's own place."""
    at: dict[int, str | None] = {}
    if not legs:
        return [], at
    stops: list[Stop] = []
    taken = [stop.id for stop in plan.trip.stops]
    ends = [(_day(plan, _local(plan, leg.until_s, shift).date()), fixes[leg.last]) for leg in legs]
    first_day = ends[0][0]
    for day in range(max(first_day, 0), len(plan.trip.days)):
        fix = [where for on, where in ends if on <= day][-1]
        at[day] = _known(plan, stops, fix)
        if at[day] == "":
            key = fresh_id("track-stop", taken)
            taken.append(key)
            stops.append(_stop(key, fix, len(stops) + 1))
            at[day] = key
        if len(stops) >= MAX_STOPS - len(plan.trip.stops):
            break
    return stops, at


def _known(plan: Plan, stops: list[Stop], fix: Fix) -> str | None:
    """The stop that this is near to; None the trip's own place, "" none of them."""
    if _km(plan.trip.site.latitude, plan.trip.site.longitude, fix) < SAME_PLACE_KM:
        return None
    near = ((_km(stop.latitude, stop.longitude, fix), stop.id) for stop in stops)
    return next((key for km, key in near if km < SAME_PLACE_KM), "")


def _km(latitude: float, longitude: float, fix: Fix) -> float:
    return float(
        distances_km(np.array([latitude, fix.latitude]), np.array([longitude, fix.longitude]))[0]
    )


def _stop(key: str, fix: Fix, n: int) -> Stop:
    town = nearest_town(fix.latitude, fix.longitude)
    return Stop(
        id=key,
        name=f"Near {town.name}" if town is not None else f"Stop {n}",
        latitude=round(fix.latitude, 4),
        longitude=round(fix.longitude, 4),
        altitude_m=0 if fix.height_m is None else round(min(max(fix.height_m, -430), 6000)),
    )


def _edits(
    plan: Plan, blocks: list[BlockModel], stops: list[Stop], at: dict[int, str | None]
) -> list[Edit]:
    """The track's drives in place of those that stood on its days, its stops on its days."""
    if not blocks:
        return []
    days = {block.day for block in blocks}
    kept = [b for b in plan.trip.blocks if not (b.kind == "drive" and b.day in days)]
    told = [
        day.model_copy(update={"stop": at[n]}) if n in at else day
        for n, day in enumerate(plan.trip.days)
    ]
    return [
        edit("trip", "blocks", to=[b.model_dump(mode="json") for b in (*kept, *blocks)]),
        edit("trip", "stops", to=[s.model_dump(mode="json") for s in (*plan.trip.stops, *stops)]),
        edit("trip", "days", to=[d.model_dump(mode="json") for d in told]),
    ]


def _text(km: float, drives: int, stops: int, left_out: int, *, shifted: bool) -> str:
    if not drives:
        return f"{km:.0f} km were read, and no drive of them lies on this trip."
    parts = [f"{km:.0f} km were read as {drives} drive{'s' * (drives > 1)}"]
    if stops:
        parts.append(f" with {stops} other place{'s' * (stops > 1)} to stay at")
    text = "".join(parts) + "."
    if shifted:
        text += " Its dates lie outside the trip, so its first day is taken as the trip's."
    if left_out:
        past = "One drive" if left_out == 1 else f"{left_out} drives"
        text += f" {past} past the last day left out."
    return text
