"""The schedule: the hours of flexible loads at which they cost least, held against what stands.

Ways of placing are tried load by load over the same scenarios, and what comes of it is taken only
where it is no worse in all of them: a schedule never makes odds worse.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, time, timedelta

import numpy as np

from oddkettle.core.simulation.ensemble import Ensemble
from oddkettle.core.simulation.ensemble_statistics import hours_short, quantiles
from oddkettle.core.trip.grid import clock_text
from oddkettle.core.units.conversion import MINUTES_PER_DAY
from oddkettle.plan import Plan
from oddkettle.plan.flexible import runs_of
from oddkettle.plan.quantities import LazyModel, clock_minutes
from oddkettle.results.judgements import Edit
from oddkettle.results.run import Amount
from oddkettle.text.words import day_words, duration_words
from oddkettle.usecases.improve.schedule.placing import (
    SLOT_MIN,
    WAYS,
    Moment,
    Spare,
    Way,
    flexible_ones,
    place,
    spare_of,
)
from oddkettle.usecases.simulate.edits import edit
from oddkettle.usecases.simulate.run_cache import ensemble_of, run_plan

COARSE = 48
"""Scenarios of a first look."""
EVENING_MIN = 17 * 60
ENOUGH_AH = 0.05
"""Less than this is no gain."""
DARK_WEIGHT = 4.0
"""An hour cut out counts as so many under the reserve [judgement]."""
MAX_LINES = 60
"""Runs that are told of; the edits hold all."""

Run = Callable[[Plan, int | None], Ensemble]


class Placed(LazyModel):
    """One run at its new time."""

    appliance: str
    name: str
    day: int
    day_words: str
    start: str
    end: str
    was: str | None
    """When it ran before, where that is another time."""
    why: str


class Scheduled(LazyModel):
    """What was found, and what it is worth."""

    runs: list[Placed]
    moved: int
    """Runs that are at another time than before."""
    gained: Amount
    """By how much more the battery holds at the end of the trip as expected."""
    before_percent: float
    after_percent: float
    """Trips of a hundred that last, over the same ones."""
    low_points: float
    """By how much the worst of ten gains in lowest level [points]."""
    edits: list[Edit]
    """Empty where what stands is as good as anything that was found."""
    text: str


@dataclass(frozen=True)
class _Score:
    """How well a plan does; the larger the better, field by field.

    Rounded to what is worth a change: a hundredth of an hour short, a tenth of a point of level.
    """

    lasts: float
    missing: float
    low: float
    end: float

    @property
    def rank(self) -> tuple[float, ...]:
        return (
            round(self.lasts, 6),
            -round(self.missing, 2),
            round(self.low, 3),
            round(self.end, 3),
        )


def schedule(plan: Plan) -> Scheduled:
    """The hours of a whole trip's flexible loads. Raises PlanRefused."""
    return schedule_by(plan, _whole, (0, 0))


def _whole(plan: Plan, count: int | None) -> Ensemble:
    return ensemble_of(plan) if count is None else ensemble_of(plan, count, drag=True)


def schedule_by(plan: Plan, run: Run, after: Moment) -> Scheduled:
    """Search with what `run` gives for a variant and a number of scenarios; None is all of them.

    Runs that begin before `after` stay.
    """
    spare = spare_of(plan)
    loads = flexible_ones(plan)
    ways: dict[str, Way] = {load.id: "spare" for load in loads}
    best, best_rank = plan, _score(run(plan, COARSE)).rank
    for load in loads:
        for way in WAYS:
            tried = {**ways, load.id: way}
            variant = place(plan, spare, tried, after)
            rank = _score(run(variant, COARSE)).rank
            if rank > best_rank:
                best, best_rank, ways = variant, rank, tried
    return _answer(plan, best, run, spare)


def placer(plan: Plan, after: Moment) -> Callable[[Plan], Plan]:
    """What puts flexible loads where this plan has power to spare, not held against anything.

    What is to spare is looked at once: a search asks this of hundreds of variants.
    """
    spare = spare_of(plan)

    def put(variant: Plan) -> Plan:
        return place(variant, spare, {a.id: "spare" for a in flexible_ones(variant)}, after)

    return put


def _score(ensemble: Ensemble) -> _Score:
    dark_h, under_h = hours_short(ensemble)
    return _Score(
        lasts=float(ensemble.lasts.mean()),
        missing=under_h + DARK_WEIGHT * dark_h,
        low=float(quantiles(ensemble.lowest)[0]),
        end=float(ensemble.level[:, -1].mean()),
    )


def _answer(plan: Plan, best: Plan, run: Run, spare: Spare) -> Scheduled:
    before = _score(run(plan, None))
    after = before if best is plan else _score(run(best, None))
    gained = _gained(plan, best)
    if after.rank <= before.rank:
        best, after, gained = plan, before, Amount(ah=0.0, wh=0.0)
    runs = _placed(plan, best, spare)
    moved = sum(one.was is not None for one in runs)
    return Scheduled(
        runs=runs[:MAX_LINES],
        moved=moved,
        gained=gained,
        before_percent=100 * before.lasts,
        after_percent=100 * after.lasts,
        low_points=100 * (after.low - before.low),
        edits=_edits(best) if moved else [],
        text=_text(plan, moved, gained, before, after),
    )


def _gained(plan: Plan, best: Plan) -> Amount:
    """How much more the battery holds at the end, as expected, with such runs."""
    was, now = run_plan(plan), run_plan(best)
    ah = float(now.level[-1] - was.level[-1]) * float(now.world.tables[0].bank["capacity_ah"])
    return Amount(ah=ah, wh=ah * now.case.bank.nominal_v)


def _text(plan: Plan, moved: int, gained: Amount, before: _Score, after: _Score) -> str:
    if not flexible_ones(plan):
        return "Nothing here may run at any time. Let something: open it and say how long it runs."
    if not moved:
        return "What stands is as good as anything that was found."
    what = "One run is" if moved == 1 else f"{moved} runs are"
    lasts = f"{100 * after.lasts:.0f} times of 100"
    if after.lasts > before.lasts:
        return f"{what} at a better time. It lasts {lasts} instead of {100 * before.lasts:.0f}."
    return f"{what} at a better time. It lasts {lasts}, as before. {_gain(gained, before, after)}"


def _gain(gained: Amount, before: _Score, after: _Score) -> str:
    """What is better where the odds are the same."""
    if (less := before.missing - after.missing) >= 0.01:
        return f"It is {duration_words(less)} less under your reserve, in the mean of all trips."
    if (points := 100 * (after.low - before.low)) >= 0.1:
        return f"In a dull trip its lowest level is {points:.1f} points higher."
    if gained.ah >= ENOUGH_AH:
        return f"At its end the battery holds about {gained} more."
    return "A little less goes through the battery."


def _edits(plan: Plan) -> list[Edit]:
    return [
        edit("use", "appliances", n, "flexible", to=a.flexible.model_dump(mode="json"))
        for n, a in enumerate(plan.use.appliances)
        if a.flexible is not None
    ]


def _placed(plan: Plan, best: Plan, spare: Spare) -> list[Placed]:
    midnight, found = datetime.combine(plan.trip.start, time()), []
    for n, (old, new) in enumerate(zip(plan.use.appliances, best.use.appliances, strict=True)):
        if not new.on or new.flexible is None:
            continue
        was = {run.day: run.start_min for run in runs_of(plan, old, n) or ()}
        for run in runs_of(best, new, n) or ():
            before = was.get(run.day)
            watts = new.power_w * new.duty_percent / 100
            found.append(
                Placed(
                    appliance=new.id,
                    name=new.name,
                    day=run.day,
                    day_words=day_words(midnight + timedelta(days=run.day)),
                    start=clock_text(run.start_min),
                    end=clock_text((run.start_min + run.minutes) % MINUTES_PER_DAY),
                    was=_was(new.flexible.each, before, run.start_min, was),
                    why=_why(best, run.day, run.start_min, run.minutes, watts, spare),
                )
            )
    return sorted(found, key=lambda one: (one.day, one.start))


def _was(each: str, before: int | None, start: int, was: dict[int, int]) -> str | None:
    if before == start:
        return None
    if before is not None:
        return clock_text(before)
    return f"day {next(iter(was)) + 1}" if each == "trip" and was else "not at all"


def _why(plan: Plan, day: int, start: int, minutes: int, watts: float, spare: Spare) -> str:
    """What speaks for such a time."""
    first = (day * MINUTES_PER_DAY + start) // SLOT_MIN
    span = slice(first, first + max(1, round(minutes / SLOT_MIN)))
    spilled, source = spare.spilled_w[span], spare.source_w[span]
    if len(spilled) and np.minimum(spilled, watts).sum() >= 0.5 * watts * len(spilled):
        return "when more comes in than the battery takes"
    drives = [
        (clock_minutes(b.start), clock_minutes(b.end))
        for b in plan.trip.blocks
        if b.kind == "drive" and b.day == day
    ]
    if any(start < until and begin < start + minutes for begin, until in drives):
        return "while the engine runs"
    share = float(np.minimum(source, watts).mean()) / watts if len(source) else 0.0
    if share >= 0.5:
        return "straight from what comes in"
    if share >= 0.1:
        return "in part straight from what comes in"
    return "late, so that the level stays up for longer" if start >= EVENING_MIN else "at any hour"
