"""Today: the few things to do from now to dawn, what each is worth, and where that leads."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import Literal, cast

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.readings import READING_KINDS, Reading, Taken
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.trip.blocks import DONE, BlockKind
from oddkettle.core.units.conversion import MINUTES_PER_DAY
from oddkettle.core.units.quantity import clock
from oddkettle.plan import Plan
from oddkettle.plan.flexible import hours_on, runs_of
from oddkettle.plan.quantities import LazyModel, clock_minutes
from oddkettle.plan.trip import BlockModel
from oddkettle.plan.use import ApplianceModel
from oddkettle.results.odds import Band, OddsReport
from oddkettle.results.run import Amount
from oddkettle.store.log import Entry
from oddkettle.text.words import day_words
from oddkettle.usecases.field.log.entries import BY_HAND, EntryKind
from oddkettle.usecases.field.log.kinds import LOG_KINDS
from oddkettle.usecases.field.log.log import detail_of
from oddkettle.usecases.field.track.tonight import DAWN_MIN, SMALL_HOURS, Tonight, tonight
from oddkettle.usecases.field.track.track_report import report_whereabouts
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip, first_midnight, follow
from oddkettle.usecases.simulate.run_cache import run_plan

State = Literal["ahead", "now", "to_tick", "did", "did_not"]
EVENING_MIN = 22 * 60
DAYS_AHEAD = 7
MIN_USE, MAX_USES, LONGEST_USE_MIN = 0.03, 3, 12 * 60
"""Uses that are told of: at least so much of the capacity, so many, and none that runs all day
[judgement]."""


class DayThing(LazyModel):
    """One thing to do, and how it went."""

    key: str
    kind: BlockKind | Literal["use"]
    """A block of the day, or something that runs at a time of one's choosing."""
    appliance: str | None = None
    """Which one runs, where it is that."""
    text: str
    at: datetime
    until: datetime
    """Local times."""
    worth: Amount
    """What it brings by the plan."""
    worth_text: str
    state: State
    by: str
    """Which device said so; empty for this machine itself."""
    did: EntryKind
    """The kind of log entry that says it was done."""
    did_not: EntryKind | None
    """The kind that says it was not."""


class Expected(LazyModel):
    """The level at a moment ahead."""

    at: datetime
    name: str
    level: Band


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
    level: Band
    headline: str
    safe: bool
    """Whether it stays above the reserve from now to the end of the coming night, in all but the
    worst trip of ten, with no reading unsettled."""
    things: list[DayThing]
    yesterday: list[DayThing]
    """What yesterday had and nobody ticked."""
    expected: list[Expected]
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
    things = _things(here, run, here.day, local)
    before = _things(here, run, here.day - 1, local) if here.day > 0 else []
    expected = _expected(here, track.rest, local)
    night = tonight(here)
    return TodayReport(
        now=local,
        day=day_words(local),
        level=track.level,
        headline=_headline(night, plan.trip.floor_percent, expected),
        safe=night.safe,
        things=things,
        yesterday=[thing for thing in before if thing.state == "to_tick"],
        expected=expected,
        rest=track.rest.headline,
        ahead=_ahead(here, run, track.rest, local),
        last_percent=_last(here.entries, "monitor_percent"),
        last_volts=_last(here.entries, "rested_voltage", "loaded_voltage"),
        last_ah_in=_counted(here.entries, "ah_in"),
        last_ah_out=_counted(here.entries, "ah_out"),
    )


def _headline(night: Tonight, floor: float, expected: list[Expected]) -> str:
    if night.stretch is None:
        return "The trip is over."
    lowest, reserve = night.stretch.lowest, f"your reserve of {floor:.0f} %"
    ahead = ""
    if expected:
        when = "At dawn" if expected[-1].name == "at dawn" else "By ten in the evening"
        ahead = f" {when} about {expected[-1].level.middle:.0f} %."
    if night.answer == "under":
        falls = night.stretch.falls_at
        if night.stretch.stands_under:
            return f"Not safe: it is under {reserve} now.{ahead}"
        at = "" if falls is None else f" at about {clock(falls)}"
        return f"Tonight is not safe: it goes under {reserve}{at}.{ahead}"
    if night.unsettled is not None:
        return f"Tonight is not settled: {_odd(*night.unsettled)} Read it again.{ahead}"
    if night.answer == "tight":
        return (
            f"Tonight is tight: it may go under {reserve}, down to {lowest.low:.0f} % in the worst "
            f"trip of ten.{ahead}"
        )
    return f"Tonight is safe: above {lowest.low:.0f} % until dawn in nine trips of ten.{ahead}"


def _odd(reading: Reading, taken: Taken) -> str:
    """A reading that nothing explains yet, with what was expected in its place."""
    low, high = taken.expected
    kind = READING_KINDS[reading.kind]
    if kind.unit == "%":
        said = "" if kind.anchor else f"{100 * reading.value:.0f} % was read, "
        return f"{said}{100 * max(low, 0.0):.0f} to {100 * high:.0f} % was expected."
    low_said, high_said, read = (f"{one:.{kind.digits}f}" for one in (low, high, reading.value))
    return f"{read} {kind.unit} was read, {low_said} to {high_said} was expected."


def _things(here: TrackedTrip, run: Run, day: int, local: datetime) -> list[DayThing]:
    blocks = [b for b in here.plan.trip.blocks if b.day == day and b.kind in DONE]
    found = [_thing(here, run, block, local) for block in blocks]
    found += _uses(here, run, day, local)
    return sorted(found, key=lambda thing: thing.at)


def _thing(here: TrackedTrip, run: Run, block: BlockModel, local: datetime) -> DayThing:
    begin = _moment(here.plan, block.day, clock_minutes(block.start))
    last_day = block.day if block.end_day is None else block.end_day
    end = _moment(here.plan, last_day, clock_minutes(block.end))
    worth = _worth(run, block.kind, begin, end)
    did = next(k.key for k in LOG_KINDS if k.block == block.kind and k.adds)
    did_not = next((k.key for k in LOG_KINDS if k.block == block.kind and not k.adds), None)
    state, by = _state(here.entries, begin, end, did, did_not, local)
    return DayThing(
        key=block.id,
        kind=block.kind,
        text=f"{DONE[block.kind]}, {clock(begin)} to {clock(end)}",
        at=begin,
        until=end,
        worth=worth,
        worth_text=f"brings about {worth}" if worth.ah >= 0.1 else "brings next to nothing",
        state=state,
        by=by,
        did=did,
        did_not=did_not,
    )


def _uses(here: TrackedTrip, run: Run, day: int, local: datetime) -> list[DayThing]:
    """What runs on a day: at a time that was chosen for it, and the largest of the others."""
    chosen: list[DayThing] = []
    usual: list[DayThing] = []
    for n, appliance in enumerate(here.plan.use.appliances):
        if not appliance.on:
            continue
        if appliance.flexible is not None:
            for one in runs_of(here.plan, appliance, n) or ():
                if one.day == day:
                    span = (one.start_min, one.start_min + one.minutes)
                    chosen.append(_use(here, run, appliance, day, span, local))
        elif appliance.pattern is None:
            spans = hours_on(here.plan.trip, appliance, day)
            usual += [
                _use(here, run, appliance, day, span, local)
                for span in spans
                if span[1] - span[0] <= LONGEST_USE_MIN
            ]
    least_ah = MIN_USE * here.case.bank.capacity_ah
    # What runs as on every day is told of while it is ahead, and nobody is asked about it after.
    ahead = [one for one in usual if one.worth.ah >= least_ah and one.state != "to_tick"]
    largest = sorted(ahead, key=lambda one: -one.worth.ah)[:MAX_USES]
    return [*chosen, *largest]


def _use(
    here: TrackedTrip,
    run: Run,
    appliance: ApplianceModel,
    day: int,
    span: tuple[int, int],
    local: datetime,
) -> DayThing:
    begin, end = (_moment(here.plan, day, minute) for minute in span)
    takes = _takes(run, appliance.id, begin, end)
    state, by = _state(here.entries, begin, end, "ran", "skipped", local, appliance=appliance.id)
    return DayThing(
        key=f"{appliance.id}-{day}-{span[0]}",
        kind="use",
        appliance=appliance.id,
        text=f"{appliance.name}, {clock(begin)} to {clock(end)}",
        at=begin,
        until=end,
        worth=takes,
        worth_text=f"takes about {takes}",
        state=state,
        by=by,
        did="ran",
        did_not="skipped",
    )


def _takes(run: Run, key: str, begin: datetime, end: datetime) -> Amount:
    """What an appliance draws between two moments, as planned."""
    inside = _between(run, begin, end)
    volts = run.track.bus_v[inside]
    asked = sum(draw.asked_w[inside] for draw in run.draws if draw.key == key)
    wh = float(np.sum(asked)) * run.grid.step_h
    return Amount(ah=wh / float(volts.mean()) if len(volts) else 0.0, wh=wh)


def _between(run: Run, begin: datetime, end: datetime) -> NDArray[np.bool_]:
    start_s = run.grid.starts_utc.astype(np.int64)
    return np.asarray((start_s >= begin.timestamp()) & (start_s < end.timestamp()))


def _state(
    entries: tuple[Entry, ...],
    begin: datetime,
    end: datetime,
    did: str,
    did_not: str | None,
    local: datetime,
    *,
    appliance: str | None = None,
) -> tuple[State, str]:
    """How it went, and which device said so."""
    on_day: dict[str, str] = {}
    for entry in entries:
        at = datetime.fromisoformat(entry.at_utc).astimezone(begin.tzinfo)
        # A use is told of by its own hours: there may be two a day, and one may pass midnight.
        if not (begin <= at < end if appliance is not None else at.date() == begin.date()):
            continue
        if appliance is not None and detail_of(entry).appliance != appliance:
            continue
        # A use that went off later than it began was done in part.
        in_part = appliance is not None and entry.kind == did_not and at > begin
        on_day[did if in_part else entry.kind] = entry.written_by
    for kind, state in ((did, "did"), (did_not, "did_not")):
        if kind in on_day:
            by = on_day[kind]
            return cast("State", state), "" if by == BY_HAND else by
    if local >= end:
        return "to_tick", ""
    return ("now" if local >= begin else "ahead"), ""


def _moment(plan: Plan, day: int, minute: int) -> datetime:
    midnight = first_midnight(plan) + timedelta(days=day)
    whole, rest = divmod(minute, MINUTES_PER_DAY)
    local = midnight + timedelta(days=whole)
    return local.replace(hour=rest // 60, minute=rest % 60)


def _worth(run: Run, kind: BlockKind, begin: datetime, end: datetime) -> Amount:
    """What sources that work in such blocks put in between two moments, as planned."""
    sources = {key for key, one in SOURCE_KINDS.items() if one.block == kind}
    if kind == "panel_out":
        sources = {"sun"}
    inside = _between(run, begin, end)
    ah = wh = 0.0
    for source, amps in zip(run.sources, run.taken_a, strict=True):
        if source.kind in sources:
            ah += float(amps[inside].sum()) * run.grid.step_h
            wh += float((amps * run.track.bus_v)[inside].sum()) * run.grid.step_h
    return Amount(ah=ah, wh=wh)


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
    at = _moment(here.plan, day, minute)
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
        things = _things(here, run, day, local)
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
