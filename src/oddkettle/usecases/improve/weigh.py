"""What limits a box: every candidate change, by what it buys in odds and in level."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import ValidationError

from oddkettle.core.simulation.ensemble import Ensemble
from oddkettle.core.simulation.ensemble_statistics import difference, hours_short, quantiles
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.odds import Band
from oddkettle.results.sums import Sum
from oddkettle.usecases.explain.odds import change_sum, odds_sum
from oddkettle.usecases.improve.candidate import Candidate
from oddkettle.usecases.improve.candidates import candidates_of
from oddkettle.usecases.improve.removals import removals_of
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_cache import ensemble_of


class Shortfall(LazyModel):
    """How far from enough a plan is, in the mean of its scenarios.

    It still tells changes apart where no scenario lasts and every one runs flat.
    """

    dark_h: float
    """Hours cut out."""
    under_h: float
    """Hours under the reserve."""
    first_day: int | None
    """The day on which half of those that fail have gone under; None where none does."""


class Weighed(LazyModel):
    """One change, and what it buys over the same scenarios."""

    kind: Literal["change"] = "change"
    change: Candidate
    lasts_percent: float
    points: float
    """More scenarios in a hundred that last."""
    clear: bool
    """Whether that is more than the luck of so many scenarios."""
    lowest: Band
    low_points: float
    """By how much the worst of ten gains in lowest level [points]."""
    short: Shortfall
    """What is still missing with it."""
    less_dark_h: float
    less_under_h: float
    """So many hours less cut out, and under the reserve, in the mean of all scenarios."""
    sum: Sum
    """How its odds were made."""


class Weighing(LazyModel):
    """What comes first: the plan as it is, and how many changes will follow."""

    kind: Literal["base"] = "base"
    scenarios: int
    step_min: int
    changes: int
    lasts_percent: float
    enough: bool
    """Whether nothing is needed: what follows is what could be spared."""
    lowest: Band
    tight_day: int
    short: Shortfall
    sum: Sum


def lowest_band(ensemble: Ensemble) -> Band:
    """The middle eight of ten lowest levels [%]."""
    low, middle, high = quantiles(100 * np.maximum(ensemble.lowest, 0.0))
    return Band(low=low, middle=middle, high=high)


def shortfall(ensemble: Ensemble) -> Shortfall:
    """Hours dark and under the reserve, and the day on which it begins."""
    dark_h, under_h = hours_short(ensemble)
    daily = ensemble.under_by_day
    failing = daily.any(axis=1)
    first = np.argmax(daily[failing], axis=1)
    return Shortfall(
        dark_h=dark_h,
        under_h=under_h,
        first_day=int(np.median(first)) if failing.any() else None,
    )


def tightest_day(ensemble: Ensemble) -> int:
    """The day on which most scenarios go under; without any, the one whose worst is lowest."""
    # Days that are over, on a trip under way, are not known (NaN): they tighten nothing.
    daily: NDArray[np.float32] = np.nan_to_num(ensemble.lowest_by_day, nan=1.0)
    under = ensemble.under_by_day.mean(axis=0)
    return int(np.argmax(under)) if under.any() else int(np.argmin(np.quantile(daily, 0.1, axis=0)))


def weigh(plan: Plan) -> Iterator[Weighing | Weighed]:
    """The plan as it is, then each change as soon as it was run. Raises PlanRefused."""
    return weigh_by(plan, _whole, lambda tight: _changes(plan, tight))


ENOUGH = 0.99
"""A box that lasts so often needs nothing more [judgement]."""


def _changes(plan: Plan, tight_day: int) -> list[Candidate]:
    """What may help; of a box that lasts anyway what it could do without."""
    if float(_whole(plan).lasts.mean()) >= ENOUGH:
        return removals_of(plan)
    return candidates_of(plan, tight_day)


def _whole(variant: Plan) -> Ensemble:
    return ensemble_of(variant, quick=True)


def weigh_by(
    plan: Plan, run: Callable[[Plan], Ensemble], changes_at: Callable[[int], list[Candidate]]
) -> Iterator[Weighing | Weighed]:
    """Weigh what `changes_at` offers for the tightest day.

    `run` lets every variant meet the same scenarios. Raises PlanRefused.
    """
    base = run(plan)
    tight = tightest_day(base)
    changes = changes_at(tight)
    missing = shortfall(base)
    yield Weighing(
        scenarios=base.scenarios.count,
        step_min=base.case.step_min,
        changes=len(changes),
        lasts_percent=100 * float(base.lasts.mean()),
        enough=float(base.lasts.mean()) >= ENOUGH and all(change.saves for change in changes),
        lowest=lowest_band(base),
        tight_day=tight,
        short=missing,
        sum=odds_sum(base, None, "as it is"),
    )
    for change in changes:
        try:
            tried = run(with_edits(plan, change.edits))
        except (PlanRefused, ValidationError):
            # A change that this box cannot have (a size past the document's bounds) is none.
            continue
        gained = difference(tried.lasts, base.lasts)
        band = lowest_band(tried)
        short = shortfall(tried)
        yield Weighed(
            change=change,
            lasts_percent=100 * float(tried.lasts.mean()),
            points=100 * gained.points,
            clear=gained.clear,
            lowest=band,
            low_points=band.low - lowest_band(base).low,
            short=short,
            less_dark_h=missing.dark_h - short.dark_h,
            less_under_h=missing.under_h - short.under_h,
            sum=change_sum(change.text, tried, base, gained),
        )
