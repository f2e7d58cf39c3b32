"""The checks on a plan, as `oddkettle check` prints them."""

from __future__ import annotations

from oddkettle.core.judgement import Judgement, judge
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.plan import Plan
from oddkettle.usecases.simulate.run_cache import ensemble_of, run_plan


def judge_plan(plan: Plan) -> tuple[Judgement, ...]:
    """Every judgement of a plan, the gravest first. Raises PlanRefused."""
    run = run_plan(plan)
    dark = ensemble_of(plan).dark_h.sum(axis=1) > 0.0
    return judge(run, keep_ledger(run), float(dark.mean()))
