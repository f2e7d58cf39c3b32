"""A plan's case, run and scenarios, each made once: every page's figures come from the same ones.

They are kept by the digest of the plan's document and the sky, so what the preview ran is what its
sums, instants, judgements and the Build page read. How the box is built changes no run (a test
holds that): it is left out of the digest, and the case that is handed out is always the plan's own.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import replace
from typing import TypeVar, get_args

from oddkettle.core.kernel.compiler import cache_root
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import Ensemble, run_ensemble
from oddkettle.core.simulation.ensemble_statistics import of_ten
from oddkettle.core.simulation.run import Run, World, build_world, run_world, simulate, trip_grid
from oddkettle.core.simulation.scenarios import draw_scenarios, scenario_of
from oddkettle.core.values.cache import CACHE
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.plan_errors import PlanRefused, from_fault
from oddkettle.results.run import Sky
from oddkettle.store.table_shelf import TableShelf

SKIES: tuple[Sky, ...] = get_args(Sky)
QUICK_STEP_MIN, DRAG_STEP_MIN = 15, 30
"""For many variants a third of the steps, and while something is dragged a sixth. On the demo trip
2 and 4 futures in 100 more last then than at 5 min (`bench/futures.py` prints it)."""
T = TypeVar("T")


def keep_on_disk() -> None:
    """Keep tables of sun and light in the user's cache folder too."""
    CACHE.shelf = TableShelf(cache_root() / "tables")


def plan_digest(plan: Plan) -> str:
    """What names a plan as far as its run goes."""
    return _digest(plan.model_dump_json(exclude={"build"}))


def _digest(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()


def case_of(plan: Plan) -> Case:
    """A plan's case, made once. Raises PlanRefused."""
    return _cached(("case", _digest(plan.model_dump_json())), lambda: case_from_plan(plan))


def run_plan(plan: Plan, sky: Sky = "expected") -> Run:
    """A plan's run in the expected future, or in one that stands for its tenth of them.

    Raises PlanRefused where parts contradict each other.
    """
    digest = plan_digest(plan)
    run = _cached(
        ("run", digest, sky),
        lambda: (
            run_world(*_world(plan, digest)) if sky == "expected" else _of_ten(plan, digest, sky)
        ),
    )
    own = case_of(plan)
    built = replace(run.case, wiring=own.wiring, surroundings=own.surroundings)
    return replace(run, case=built)


def ensemble_of(
    plan: Plan, count: int | None = None, *, quick: bool = False, drag: bool = False
) -> Ensemble:
    """A plan's scenarios, run: as many as it asks for; `quick` and `drag` at coarser steps.

    Raises PlanRefused, also for a number that cannot be.
    """
    scenarios = plan.assumptions.scenarios if count is None else count
    step_min = DRAG_STEP_MIN if drag else QUICK_STEP_MIN if quick else 0
    return _ensemble(plan, plan_digest(plan), scenarios, step_min)


def _ensemble(plan: Plan, digest: str, scenarios: int, step_min: int = 0) -> Ensemble:
    def run() -> Ensemble:
        case, world = _world(plan, digest, step_min)
        return run_ensemble(case, scenarios, world=world)

    return _cached(("ensemble", digest, scenarios, step_min), run)


def _world(plan: Plan, digest: str, step_min: int = 0) -> tuple[Case, World]:
    """A plan's case at no finer steps than these, with its forcing laid."""

    def lay() -> tuple[Case, World]:
        case = case_of(plan)
        if step_min > case.step_min:
            case = replace(case, step_min=step_min)
        return case, build_world(case)

    return _cached(("world", digest, step_min), lay)


def _of_ten(plan: Plan, digest: str, sky: Sky) -> Run:
    case, _ = _world(plan, digest)
    count = plan.assumptions.scenarios
    i = of_ten(_ensemble(plan, digest, count))[sky]
    scenarios = draw_scenarios(case, count)
    skies = scenarios.skies
    its_own = replace(
        case,
        clearness=tuple(skies.clearness[i].tolist()),
        low_c=tuple(skies.low_c[i].tolist()),
        high_c=tuple(skies.high_c[i].tolist()),
    )
    return simulate(its_own, scenario_of(case, trip_grid(case), scenarios, i))


def _cached(key: tuple[object, ...], make: Callable[[], T]) -> T:
    try:
        return CACHE.ask(key, make)
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from None
