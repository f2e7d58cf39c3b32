"""A plan's trip followed up to now: gathered once, kept for whoever asks next."""

from __future__ import annotations

import threading
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from functools import cached_property
from typing import Literal

from oddkettle.core.estimation.particle_filter import PARTICLES
from oddkettle.core.estimation.readings import Reading
from oddkettle.core.estimation.remainder import run_rest
from oddkettle.core.estimation.tracker import Tracked, Trail, track
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import Ensemble
from oddkettle.core.trip.grid import zone_named
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused, from_fault
from oddkettle.store import log, samples
from oddkettle.store.log import Entry
from oddkettle.usecases.field.log.entries import TICKED
from oddkettle.usecases.field.log.kinds import BY_KEY, LOG_KINDS
from oddkettle.usecases.field.samples.samples import readings_of_samples
from oddkettle.usecases.field.track.case_from_log import case_from_log, readings_of
from oddkettle.usecases.plans.plans import open_plan
from oddkettle.usecases.process.clock import now_utc

Why = Literal["chosen", "clock", "last", "start"]
MAX_KEPT = 4
UNBEGUN = 20
"""Particles and scenarios of a trip of which nothing is known yet: its plan says all of it."""


@dataclass(frozen=True)
class TrackedTrip:
    """A trip followed up to a moment. `why` says how that moment was found."""

    plan: Plan
    entries: tuple[Entry, ...]
    case: Case
    readings: tuple[Reading, ...]
    now: datetime
    why: Why
    tracked: Tracked
    plan_id: int

    @property
    def begun(self) -> bool:
        """Whether it is under way: by the log or the clock, not by its plan alone."""
        return self.why != "start"

    @property
    def day(self) -> int:
        """The local day that is under way."""
        zone = zone_named(self.plan.trip.site.timezone)
        day = (self.now.astimezone(zone).date() - self.plan.trip.start).days
        return min(max(day, 0), self.case.days - 1)

    @property
    def over(self) -> bool:
        """Whether its end has come."""
        return self.tracked.until >= self.tracked.grid.steps

    @property
    def days_left(self) -> int | None:
        """Days that are left with this one, 0 when it is over; None before it has begun."""
        if not self.begun:
            return None
        return 0 if self.over else self.case.days - self.day

    @cached_property
    def rest(self) -> Ensemble:
        """The rest of the trip, in as many scenarios as the plan asks for."""
        count = self.plan.assumptions.scenarios if self.begun else UNBEGUN
        return run_rest(self.tracked.case, self.tracked.here, count)


def rest_with(here: TrackedTrip, variant: Plan, count: int | None = None) -> Ensemble:
    """The rest of a trip with a variant of its plan, under the scenarios of every other.

    Raises PlanError for a plan that cannot be.
    """
    case = case_from_log(variant, list(here.entries), here.now)
    return run_rest(
        replace(case, step_min=here.tracked.case.step_min),
        here.tracked.here,
        here.plan.assumptions.scenarios if count is None else count,
    )


def first_midnight(plan: Plan) -> datetime:
    """When a plan's trip begins, in its own zone."""
    zone = zone_named(plan.trip.site.timezone)
    return datetime.combine(plan.trip.start, datetime.min.time(), tzinfo=zone)


def follow(plan_id: int, chosen: datetime | None = None) -> TrackedTrip:
    """Follow a plan's trip up to now, or to a moment that is `chosen`. Raises PlanRefused."""
    plan = open_plan(plan_id).document
    # Ticks of checklists tell nothing of the trip.
    entries = [entry for entry in log.entries(plan_id) if entry.kind != TICKED]
    newest = samples.newest(plan_id)
    now, why = now_of(plan, entries, None if newest is None else newest.at_ms, chosen)
    begin = first_midnight(plan)
    quarters = samples.quarters(plan_id)
    readings = (*readings_of(entries, begin), *readings_of_samples(quarters))
    at_s = int(now.timestamp())
    readings = tuple(r for r in readings if begin.timestamp() <= r.at_s <= at_s)
    try:
        # What was said of what is ahead counts as well: a drive that will not be is none.
        case = case_from_log(plan, entries, now)
        # All of a case that can change is in the plan, in what was said, and in how far it cleared
        # the plan.
        done = [(e.kind, e.at_utc, e.detail) for e in entries if e.kind not in _READ]
        key = f"{plan.model_dump_json()} {done} {case.blocks}"
        count = UNBEGUN if why == "start" else PARTICLES
        tracked = _track(plan_id, key, case, readings, (at_s, count))
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from None
    return TrackedTrip(plan, tuple(entries), case, readings, now, why, tracked, plan_id)


_READ = {kind.key for kind in LOG_KINDS if kind.group == "read"}


def only_takes_out(entry: Entry) -> bool:
    """Whether it says that something is not; that may be ahead, so it does not tell the time."""
    kind = BY_KEY.get(entry.kind)
    return kind is not None and not kind.adds


def now_of(
    plan: Plan,
    entries: list[Entry],
    newest_ms: int | None = None,
    chosen: datetime | None = None,
) -> tuple[datetime, Why]:
    """The moment up to which a trip is followed.

    The clock while the trip is under way; otherwise the last thing that is known of it.
    """
    begin = first_midnight(plan)
    end = begin + timedelta(days=len(plan.trip.days))
    if chosen is not None:
        at = chosen if chosen.tzinfo else chosen.replace(tzinfo=begin.tzinfo)
        return min(max(at, begin), end), "chosen"
    clock = datetime.fromisoformat(now_utc())
    if begin <= clock < end:
        return clock, "clock"
    known = [datetime.fromisoformat(entry.at_utc) for entry in entries if not only_takes_out(entry)]
    if newest_ms is not None:
        known.append(datetime.fromtimestamp(newest_ms / 1000, UTC))
    known = [at for at in known if begin <= at <= end]
    return (max(known), "last") if known else (begin, "start")


_trails: dict[int, tuple[str, Trail]] = {}
_found: dict[tuple[str, tuple[Reading, ...], tuple[int, int]], Tracked] = {}
_one_at_a_time = threading.Lock()


def _track(
    plan_id: int,
    key: str,
    case: Case,
    readings: tuple[Reading, ...],
    wanted: tuple[int, int],
) -> Tracked:
    """Follow up to a second with so many particles (`wanted`), or take what was found before.

    One at a time: a page asks for several things that rest on the same track.
    """
    asked = (key, readings, wanted)
    with _one_at_a_time:
        if asked in _found:
            return _found[asked]
        kept = _trails.get(plan_id)
        key = f"{wanted[1]} {key}"
        if kept is None or kept[0] != key:
            kept = (key, Trail())
            _trails[plan_id] = kept
            while len(_trails) > MAX_KEPT:
                _trails.pop(next(iter(_trails)))
        found = track(case, readings, *wanted, trail=kept[1])
        _found[asked] = found
        while len(_found) > MAX_KEPT:
            _found.pop(next(iter(_found)))
        return found
