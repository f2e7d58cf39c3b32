"""A plan's run under the expected sky, or under one that stands for many."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal, get_args

from oddkettle.core.chances import of_ten
from oddkettle.core.ensemble import run_ensemble
from oddkettle.core.fault import PlanFault
from oddkettle.core.future import draw_futures, future_of
from oddkettle.core.run import Run, simulate, trip_grid
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.complaints import PlanRefused, from_fault

Sky = Literal["expected", "worst", "middling", "best"]
SKIES: tuple[Sky, ...] = get_args(Sky)


def run_plan(plan: Plan, sky: Sky = "expected") -> Run:
    """A plan's run in the expected future, or in one that stands for its tenth of them.

    Raises PlanRefused where parts contradict each other.
    """
    try:
        case = case_from_plan(plan)
        if sky == "expected":
            return simulate(case)
        count = plan.assumptions.futures
        i = of_ten(run_ensemble(case, count))[sky]
        futures = draw_futures(case, count)
        skies = futures.skies
        its_own = replace(
            case,
            clearness=tuple(skies.clearness[i].tolist()),
            low_c=tuple(skies.low_c[i].tolist()),
            high_c=tuple(skies.high_c[i].tolist()),
        )
        return simulate(its_own, future_of(case, trip_grid(case), futures, i))
    except PlanFault as fault:
        raise PlanRefused([from_fault(fault)]) from None
