"""Flexible loads: when each may run, and when it does."""

from __future__ import annotations

from oddkettle.core.loads.flexible import LoadRun
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.units.conversion import MINUTES_PER_DAY
from oddkettle.plan.document import Plan
from oddkettle.plan.quantities import clock_minutes
from oddkettle.plan.trip import Trip
from oddkettle.plan.use import ApplianceModel, Flexible, FlexibleRun, Hours

Chance = tuple[int, int]
"""A stretch of a day, minutes after its midnight; it may pass the next one."""


def chances(plan: Plan, appliance: ApplianceModel, day: int) -> list[Chance]:
    """The stretches of a day in which a flexible load may run, in order of time.

    Its hours on such a day, while the box is in use, without quiet hours where it is noisy; and
    of those the drives, where it is to run while the engine does and there is one.
    """
    allowed = hours_on(plan.trip, appliance, day)
    allowed = _overlaps(allowed, [_in_use(plan.trip, day)])
    if appliance.noisy:
        for quiet in _quiet(plan, day):
            allowed = _without(allowed, quiet)
    flexible = appliance.flexible
    if flexible is not None and flexible.while_driving:
        drives = [
            (clock_minutes(b.start), clock_minutes(b.end))
            for b in plan.trip.blocks
            if b.kind == "drive" and b.day == day and b.end_day in (None, day)
        ]
        allowed = _overlaps(allowed, drives) or allowed
    return sorted(chance for chance in allowed if chance[1] > chance[0])


def runs_of(plan: Plan, appliance: ApplianceModel, n: int) -> tuple[LoadRun, ...] | None:
    """When a flexible load runs over the trip; None for one that is not flexible.

    `n` is its place in the list. Raises PlanError where it has less room than it needs.
    """
    flexible = appliance.flexible
    if flexible is None:
        return None
    _check_room(appliance, flexible, n)
    given = {run.day: run for run in flexible.runs if run.day < len(plan.trip.days)}
    if flexible.each == "trip":
        return _once(plan, appliance, flexible, given)
    days = range(len(plan.trip.days))
    found = (_run_on(plan, appliance, flexible, day, given.get(day)) for day in days)
    return tuple(run for run in found if run is not None)


def last_day(plan: Plan, flexible: Flexible) -> int:
    """The day by which one that runs once must be done."""
    last = len(plan.trip.days) - 1
    return last if flexible.by_day is None else min(flexible.by_day, last)


def _once(
    plan: Plan, appliance: ApplianceModel, flexible: Flexible, given: dict[int, FlexibleRun]
) -> tuple[LoadRun, ...]:
    until = last_day(plan, flexible)
    days = [day for day in sorted(given) if day <= until or given[day].fixed]
    for day in (*days, *range(until + 1)):
        run = _run_on(plan, appliance, flexible, day, given.get(day))
        if run is not None:
            return (run,)
    return ()


def _run_on(
    plan: Plan, appliance: ApplianceModel, flexible: Flexible, day: int, given: FlexibleRun | None
) -> LoadRun | None:
    """The run of a day: as given where that may be, else as early as it may."""
    allowed = chances(plan, appliance, day)
    if given is not None:
        start = clock_minutes(given.start)
        if given.fixed or any(a <= start and start + flexible.minutes <= b for a, b in allowed):
            return LoadRun(day, start, flexible.minutes)
    if not allowed:
        return None
    roomy = [chance for chance in allowed if chance[1] - chance[0] >= flexible.minutes]
    first, last = roomy[0] if roomy else max(allowed, key=lambda chance: chance[1] - chance[0])
    if flexible.while_driving:
        # A drive may be shorter than the run: it goes on after it.
        return LoadRun(day, first, flexible.minutes)
    return LoadRun(day, first, min(flexible.minutes, last - first))


def _check_room(appliance: ApplianceModel, flexible: Flexible, n: int) -> None:
    # Whoever says that a load must run and may run at any time has said so of both: only a mark
    # for health stands against it. Stored plans hold such loads.
    if appliance.medical:
        raise PlanError(
            f"{appliance.name} is for somebody's health: no schedule may move it.",
            where=("use", "appliances", n, "flexible"),
            value="at any time",
            limit="all its hours",
            remedy="Let it run all its hours, or take the mark away.",
        )
    longest = max(end - start for start, end in map(_stretch, appliance.hours))
    if longest < flexible.minutes:
        raise PlanError(
            f"{appliance.name} is to run {flexible.minutes} min in one go, but its hours are "
            f"{longest} min long.",
            where=("use", "appliances", n, "flexible", "minutes"),
            value=flexible.minutes,
            limit=f"at most {longest} min",
            remedy=f"Let it run {longest} min, or give it longer hours.",
        )
    taken: set[int] = set()
    for run in flexible.runs:
        if run.day in taken and flexible.each == "day":
            raise PlanError(
                f"{appliance.name} runs twice on day {run.day + 1}.",
                where=("use", "appliances", n, "flexible", "runs"),
                value=run.start,
                limit="one run a day",
                remedy="Take one of them out.",
            )
        taken.add(run.day)


def hours_on(trip: Trip, appliance: ApplianceModel, day: int) -> list[Chance]:
    """An appliance's hours on a day of the trip; they may pass its midnight."""
    own = {"drive": appliance.drive_hours, "rest": appliance.rest_hours}.get(trip.days[day].kind)
    return [_stretch(hours) for hours in (appliance.hours if own is None else own)]


def _stretch(hours: Hours) -> Chance:
    start, end = clock_minutes(hours.start) % MINUTES_PER_DAY, clock_minutes(hours.end)
    return start, end if end > start else end + MINUTES_PER_DAY


def _in_use(trip: Trip, day: int) -> Chance:
    last = len(trip.days) - 1
    begins = clock_minutes(trip.begins) if day == 0 else 0
    ends = clock_minutes(trip.ends) if day == last else 2 * MINUTES_PER_DAY
    return begins, ends


def _quiet(plan: Plan, day: int) -> list[Chance]:
    found = []
    for hours in plan.use.quiet_hours:
        start, end = _stretch(hours)
        found += [(start + shift, end + shift) for shift in (-MINUTES_PER_DAY, 0, MINUTES_PER_DAY)]
    for block in plan.trip.blocks:
        if block.kind == "quiet":
            end_day = block.day if block.end_day is None else block.end_day
            start = (block.day - day) * MINUTES_PER_DAY + clock_minutes(block.start)
            found.append((start, (end_day - day) * MINUTES_PER_DAY + clock_minutes(block.end)))
    return found


def _overlaps(some: list[Chance], others: list[Chance]) -> list[Chance]:
    both = ((max(a, c), min(b, d)) for a, b in some for c, d in others)
    return [chance for chance in both if chance[1] > chance[0]]


def _without(some: list[Chance], cut: Chance) -> list[Chance]:
    parts = [part for a, b in some for part in ((a, min(b, cut[0])), (max(a, cut[1]), b))]
    return [part for part in parts if part[1] > part[0]]
