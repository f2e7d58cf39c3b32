"""What there is to do on a day of a trip, what each thing is worth, and how it went."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

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
from oddkettle.results.run import Amount
from oddkettle.store.log import Entry
from oddkettle.usecases.field.log.entries import BY_HAND, EntryKind
from oddkettle.usecases.field.log.kinds import LOG_KINDS
from oddkettle.usecases.field.log.log import detail_of
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip, first_midnight

State = Literal["ahead", "now", "to_tick", "did", "part", "changed", "did_not"]
MIN_USE, MAX_USES, LONGEST_USE_MIN = 0.03, 3, 12 * 60
"""Uses that are told of: at least so much of the capacity, so many, and none that runs all day
[judgement]."""
SAME = timedelta(minutes=5)
"""A thing that went so near to its planned hours went as planned."""


class BlockTold(LazyModel):
    """A block of the plan, and how it went by the log."""

    key: str
    at: datetime
    until: datetime
    """Local times, as planned."""
    state: State
    went: str
    """Its hours as they were, where they were other than planned; empty where not."""
    by: str
    """Which device said so; empty for this machine itself."""
    entries: list[int]
    """The entries of the log that say so: taken out, it is open again."""
    did: EntryKind
    """The kind of log entry that says it was done."""
    did_not: EntryKind | None
    """The kind that says it was not."""


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
    went: str
    """Its hours as they were, where they were other than planned; empty where not."""
    entries: list[int]
    """The entries of the log that say so: taken out, it is open again."""
    by: str
    """Which device said so; empty for this machine itself."""
    did: EntryKind
    """The kind of log entry that says it was done."""
    did_not: EntryKind | None
    """The kind that says it was not."""


def things_of(here: TrackedTrip, run: Run, day: int, local: datetime) -> list[DayThing]:
    """What there is to do on a local day of the trip, by time, as known at the moment `local`."""
    blocks = [b for b in here.plan.trip.blocks if b.day == day and b.kind in DONE]
    found = [_thing(here, run, block, local) for block in blocks]
    found += _uses(here, run, day, local)
    return sorted(found, key=lambda thing: thing.at)


def _thing(here: TrackedTrip, run: Run, block: BlockModel, local: datetime) -> DayThing:
    told = _told(here.plan, here.entries, block, local)
    begin, end = told.at, told.until
    worth = _worth(run, block.kind, begin, end)
    return DayThing(
        key=block.id,
        kind=block.kind,
        text=f"{DONE[block.kind]}, {clock(begin)} to {clock(end)}",
        at=begin,
        until=end,
        worth=worth,
        worth_text=f"brings about {worth}" if worth.ah >= 0.1 else "brings next to nothing",
        state=told.state,
        by=told.by,
        went=told.went,
        entries=told.entries,
        did=told.did,
        did_not=told.did_not,
    )


def blocks_told(here: TrackedTrip, local: datetime) -> list[BlockTold]:
    """How every block of the trip that can be ticked stands at the moment `local`."""
    blocks = [block for block in here.plan.trip.blocks if block.kind in DONE]
    kinds = {kind.key for kind in LOG_KINDS if kind.block is not None}
    entries = tuple(entry for entry in here.entries if entry.kind in kinds)
    return [_told(here.plan, entries, block, local) for block in blocks]


def _told(plan: Plan, entries: tuple[Entry, ...], block: BlockModel, local: datetime) -> BlockTold:
    begin = moment_of(plan, block.day, clock_minutes(block.start))
    last_day = block.day if block.end_day is None else block.end_day
    end = moment_of(plan, last_day, clock_minutes(block.end))
    did = next(k.key for k in LOG_KINDS if k.block == block.kind and k.adds)
    did_not = next((k.key for k in LOG_KINDS if k.block == block.kind and not k.adds), None)
    how = _how(entries, (begin, end), (did, did_not), local)
    return BlockTold(
        key=block.id,
        at=begin,
        until=end,
        state=how.state,
        went=how.went,
        by=how.by,
        entries=list(how.entries),
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
    begin, end = (moment_of(here.plan, day, minute) for minute in span)
    takes = _takes(run, appliance.id, begin, end)
    kinds = ("ran", "skipped")
    how = _how(here.entries, (begin, end), kinds, local, appliance=appliance.id)
    return DayThing(
        key=f"{appliance.id}-{day}-{span[0]}",
        kind="use",
        appliance=appliance.id,
        text=f"{appliance.name}, {clock(begin)} to {clock(end)}",
        at=begin,
        until=end,
        worth=takes,
        worth_text=f"takes about {takes}",
        state=how.state,
        by=how.by,
        went=how.went,
        entries=list(how.entries),
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


class How(NamedTuple):
    """How a thing went: by which device and entries that is known, and its hours as they were."""

    state: State
    by: str = ""
    entries: tuple[int, ...] = ()
    went: str = ""


def _how(
    entries: tuple[Entry, ...],
    planned: tuple[datetime, datetime],
    kinds: tuple[str, str | None],
    local: datetime,
    *,
    appliance: str | None = None,
) -> How:
    """How a thing went that was planned between two moments; `kinds` say that it did or did not."""
    begin, end = planned
    said: dict[str, list[Entry]] = {}
    for entry in entries:
        at = datetime.fromisoformat(entry.at_utc).astimezone(begin.tzinfo)
        # A use is told of by its own hours: there may be two a day, and one may pass midnight.
        if not (begin <= at < end if appliance is not None else at.date() == begin.date()):
            continue
        if entry.kind in kinds and (appliance is None or detail_of(entry).appliance == appliance):
            said.setdefault(entry.kind, []).append(entry)
    if not said:
        if local >= end:
            return How("to_tick")
        return How("now" if local >= begin else "ahead")
    did, did_not = (said.get(kind or "", []) for kind in kinds)
    last = (did or did_not)[-1]
    numbers = tuple(entry.id for entry in (*did, *did_not))
    by = "" if last.written_by == BY_HAND else last.written_by
    at = datetime.fromisoformat(last.at_utc).astimezone(begin.tzinfo)
    until = detail_of(last).until
    ends = None if until is None else until.astimezone(begin.tzinfo)
    if did:
        state = "did" if ends is None else _as_planned(planned, (at, ends))
        went = "" if state == "did" or ends is None else f"{clock(at)} to {clock(ends)}"
        return How(state, by, numbers, went)
    # A use that went off later than it began was done in part.
    if appliance is not None and at > begin + SAME:
        return How("part", by, numbers, f"until {clock(at)}")
    return How("did_not", by, numbers)


def _as_planned(planned: tuple[datetime, datetime], went: tuple[datetime, datetime]) -> State:
    """Whether hours are those that were planned, a part of them, or others."""
    if all(abs(a - b) <= SAME for a, b in zip(planned, went, strict=True)):
        return "did"
    inside = went[0] >= planned[0] - SAME and went[1] <= planned[1] + SAME
    return "part" if inside else "changed"


def moment_of(plan: Plan, day: int, minute: int) -> datetime:
    """Local time of a minute of a day of the trip; minutes past midnight run into the next."""
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
