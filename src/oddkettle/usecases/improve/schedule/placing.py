"""Where flexible loads may go: one way of placing all their runs, by what the hours are worth."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.simulation.ledger import source_parts
from oddkettle.core.simulation.run import Run
from oddkettle.core.trip.grid import clock_text
from oddkettle.core.units.conversion import MINUTES_PER_DAY
from oddkettle.plan import Plan
from oddkettle.plan.flexible import Chance, chances, last_day, runs_of
from oddkettle.plan.quantities import clock_minutes
from oddkettle.plan.use import ApplianceModel, Flexible, FlexibleRun
from oddkettle.usecases.simulate.run_cache import run_plan

Floats = NDArray[np.float64]
Way = Literal["spare", "early", "late"]
WAYS: tuple[Way, ...] = ("spare", "late", "early")
"""How runs are placed: where power is spilled and sources run; late in their hours; early."""
SLOT_MIN = 15
"""Runs begin on the quarters of an hour."""
DIRECT_SHARE = 0.08
"""What a watt straight from a source saves over one that goes through the battery [judgement]:
lithium gives back 92 to 96 % of the energy, lead less."""
Moment = tuple[int, int]


@dataclass(frozen=True)
class Spare:
    """What a trip has to spare, by quarters of an hour from the first midnight; all (quarters,).

    spilled_w : what sources could still have given when the battery took no more [W]
    source_w : what they gave [W]
    """

    spilled_w: Floats
    source_w: Floats


def spare_of(plan: Plan) -> Spare:
    """What is to spare with no flexible load on, in the mean of an expected and a bright trip."""
    without = with_runs(plan, {a.id: None for a in flexible_ones(plan)})
    found = [_spare_in(run_plan(without, sky)) for sky in ("expected", "best")]
    return Spare(
        np.mean([one.spilled_w for one in found], axis=0),
        np.mean([one.source_w for one in found], axis=0),
    )


def _spare_in(run: Run) -> Spare:
    volts = run.track.bus_v
    spilled = np.zeros(run.grid.steps)
    for j in range(len(run.sources)):
        spilled += np.maximum(source_parts(run, j).spilled, 0.0) * volts
    taken = np.maximum(run.taken_a, 0.0).sum(axis=0) * volts
    return Spare(_by_quarter(run, spilled), _by_quarter(run, taken))


def _by_quarter(run: Run, series: Floats) -> Floats:
    """A series on the quarters of every day's wall clock: each quarter of the step it lies in."""
    quarters = MINUTES_PER_DAY // SLOT_MIN
    starts, found = run.grid.day_starts, np.zeros(run.grid.days * quarters)
    for day in range(run.grid.days):
        of_day = series[starts[day] : starts[day + 1]]
        at = np.arange(quarters) * SLOT_MIN // run.grid.step_min
        if SLOT_MIN % run.grid.step_min == 0:
            per = SLOT_MIN // run.grid.step_min
            whole = np.concatenate([of_day, np.repeat(of_day[-1:], quarters * per)])
            means = whole[: quarters * per].reshape(quarters, per).mean(axis=1)
        else:
            means = of_day[np.minimum(at, len(of_day) - 1)]
        found[day * quarters : (day + 1) * quarters] = means
    return found


def flexible_ones(plan: Plan) -> list[ApplianceModel]:
    """The flexible loads that are on, the largest first: it is the hardest to place."""
    found = [a for a in plan.use.appliances if a.on and a.flexible is not None]
    return sorted(found, key=lambda a: -a.power_w * a.duty_percent * _flexible(a).minutes)


def _flexible(appliance: ApplianceModel) -> Flexible:
    assert appliance.flexible is not None
    return appliance.flexible


def with_runs(plan: Plan, runs: dict[str, list[FlexibleRun] | None]) -> Plan:
    """The plan with other runs for some flexible loads; those given None are off."""

    def one(a: ApplianceModel) -> ApplianceModel:
        if a.id not in runs:
            return a
        its = runs[a.id]
        if its is None:
            return a.model_copy(update={"on": False})
        flexible = _flexible(a).model_copy(update={"runs": its})
        return a.model_copy(update={"flexible": flexible})

    appliances = [one(appliance) for appliance in plan.use.appliances]
    use = plan.use.model_copy(update={"appliances": appliances})
    return plan.model_copy(update={"use": use})


def place(plan: Plan, spare: Spare, ways: dict[str, Way], after: Moment) -> Plan:
    """The plan with every free run placed, each load in its way.

    What one run takes of the spare power is no longer there for the next. Runs that begin before
    `after`, and those that their user fixed, stay.
    """
    left = spare.spilled_w.copy()
    placed: dict[str, list[FlexibleRun] | None] = {}
    for appliance in flexible_ones(plan):
        score = _scorer(appliance, ways[appliance.id], left, spare.source_w)
        runs = _runs(plan, appliance, score, after)
        for run in runs:
            span = _slots(run.day, clock_minutes(run.start), _flexible(appliance).minutes)
            left[span] = np.maximum(left[span] - _watts(appliance), 0.0)
        placed[appliance.id] = runs
    return with_runs(plan, placed)


Score = Callable[[int, int], tuple[float, ...]]
"""What a start is worth, by its day and minute: the larger the better."""


def _scorer(appliance: ApplianceModel, way: Way, left: Floats, source_w: Floats) -> Score:
    watts, minutes = _watts(appliance), _flexible(appliance).minutes

    def score(day: int, start: int) -> tuple[float, ...]:
        moment = float(day * MINUTES_PER_DAY + start)
        if way == "early":
            return (-moment,)
        if way == "late":
            return (moment,)
        span = _slots(day, start, minutes)
        caught = float(np.minimum(left[span], watts).sum())
        direct = float(np.minimum(source_w[span], watts).sum())
        # Of what is worth the same the later: the level stays up for longer.
        return round(caught + DIRECT_SHARE * direct, 1), moment

    return score


def _watts(appliance: ApplianceModel) -> float:
    return appliance.power_w * appliance.duty_percent / 100


def _slots(day: int, start: int, minutes: int) -> slice:
    first = (day * MINUTES_PER_DAY + start) // SLOT_MIN
    return slice(first, first + max(1, round(minutes / SLOT_MIN)))


def _runs(plan: Plan, appliance: ApplianceModel, score: Score, after: Moment) -> list[FlexibleRun]:
    flexible = _flexible(appliance)
    fixed = [run for run in flexible.runs if run.fixed]
    own = {run.day for run in fixed}
    # What has begun stays, whether it was placed or ran as soon as it might.
    place = plan.use.appliances.index(appliance)
    begun = [
        _run(run.day, run.start_min)
        for run in runs_of(plan, appliance, place) or ()
        if (run.day, run.start_min) < after and run.day not in own
    ]
    kept = [*fixed, *begun]
    if flexible.each == "trip":
        if kept:
            return kept
        days = range(last_day(plan, flexible) + 1)
        starts = [(d, s) for d in days for s in _starts(plan, appliance, d, after)]
        best = max(starts, key=lambda at: score(*at), default=None)
        return [] if best is None else [_run(*best)]
    taken = {run.day for run in kept}
    for day in range(len(plan.trip.days)):
        starts = [(day, s) for s in _starts(plan, appliance, day, after)]
        if day not in taken and starts and (day, MINUTES_PER_DAY) > after:
            kept.append(_run(*max(starts, key=lambda at: score(*at))))
    return sorted(kept, key=lambda run: run.day)


def _run(day: int, start: int) -> FlexibleRun:
    return FlexibleRun(day=day, start=clock_text(start))


def _starts(plan: Plan, appliance: ApplianceModel, day: int, after: Moment) -> list[int]:
    """The minutes at which a run may begin on a day; those that hold all of it, where there are."""
    minutes = _flexible(appliance).minutes
    earliest = after[1] if day == after[0] else 0 if day > after[0] else MINUTES_PER_DAY
    allowed = [
        (max(a, earliest), b) for a, b in chances(plan, appliance, day) if b > max(a, earliest)
    ]
    return [
        start
        for chance in allowed
        for start in _quarters(chance, minutes)
        if start < MINUTES_PER_DAY
    ]


def _quarters(chance: Chance, minutes: int) -> list[int]:
    first, last = chance[0], chance[1] - minutes
    if last < first:
        return []
    grid = range(-(-first // SLOT_MIN) * SLOT_MIN, last + 1, SLOT_MIN)
    return sorted({first, *grid})
