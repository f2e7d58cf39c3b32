"""What limits a box: every candidate change, by what it buys in odds and in level."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ValidationError

from oddkettle.core.chances import difference, quantiles
from oddkettle.core.ensemble import Ensemble
from oddkettle.plan import Plan
from oddkettle.plan.complaints import PlanRefused
from oddkettle.services.improve.candidates import Candidate, candidates_of
from oddkettle.services.odds import Band, ensemble_of
from oddkettle.services.remedies import with_edits


class Weighed(BaseModel):
    """One change, and what it buys over the same futures."""

    kind: Literal["change"] = "change"
    change: Candidate
    lasts_percent: float
    points: float
    """More futures in a hundred that last."""
    clear: bool
    """Whether that is more than the luck of so many futures."""
    lowest: Band
    low_points: float
    """By how much the worst of ten gains in lowest level [points]."""


class Weighing(BaseModel):
    """What comes first: the plan as it is, and how many changes will follow."""

    kind: Literal["base"] = "base"
    futures: int
    step_min: int
    changes: int
    lasts_percent: float
    lowest: Band
    tight_day: int


def lowest_band(ensemble: Ensemble) -> Band:
    """The middle eight of ten lowest levels [%]."""
    low, middle, high = quantiles(100 * ensemble.lowest)
    return Band(low=low, middle=middle, high=high)


def tightest_day(ensemble: Ensemble) -> int:
    """The day on which most futures go under; without any, the one whose worst is lowest."""
    daily: NDArray[np.float32] = ensemble.lowest_by_day
    under = (daily < ensemble.case.floor).mean(axis=0)
    return int(np.argmax(under)) if under.any() else int(np.argmin(np.quantile(daily, 0.1, axis=0)))


def weigh(plan: Plan) -> Iterator[Weighing | Weighed]:
    """The plan as it is, then each change as soon as it was run. Raises PlanRefused."""
    base = ensemble_of(plan, quick=True)
    tight = tightest_day(base)
    changes = candidates_of(plan, tight)
    yield Weighing(
        futures=base.futures.count,
        step_min=base.case.step_min,
        changes=len(changes),
        lasts_percent=100 * float(base.lasts.mean()),
        lowest=lowest_band(base),
        tight_day=tight,
    )
    for change in changes:
        try:
            tried = ensemble_of(with_edits(plan, change.edits), quick=True)
        except (PlanRefused, ValidationError):
            # A change that this box cannot have (a size past the document's bounds) is none.
            continue
        gained = difference(tried.lasts, base.lasts)
        band = lowest_band(tried)
        yield Weighed(
            change=change,
            lasts_percent=100 * float(tried.lasts.mean()),
            points=100 * gained.points,
            clear=gained.clear,
            lowest=band,
            low_points=band.low - lowest_band(base).low,
        )
