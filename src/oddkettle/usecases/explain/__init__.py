"""How every figure was made: one service, one answer for each."""

from __future__ import annotations

from collections.abc import Callable

from oddkettle.core.simulation.run import Run
from oddkettle.plan import Plan
from oddkettle.results.run import Period, RunReport, Sky
from oddkettle.results.sums import Constant, Sum, SumLine
from oddkettle.text.words import moment
from oddkettle.usecases.explain import bank, flows, use
from oddkettle.usecases.explain.odds import odds_sum
from oddkettle.usecases.simulate.missing import NoSuchFigure
from oddkettle.usecases.simulate.run_cache import ensemble_of, run_plan
from oddkettle.usecases.simulate.run_report import report_run

OVER: dict[str, Callable[[Run, Period, str], Sum]] = {
    "ledger": flows.ledger_sum,
    "taken": flows.taken_sum,
    "used": flows.used_sum,
    "net": flows.net_sum,
    "stored": flows.stored_sum,
    "lost": flows.lost_sum,
}
"""Figures of a day or the trip."""
WHOLE: dict[str, Callable[[Run, RunReport], Sum | None]] = {
    "use": use.use_sum,
    "peak": use.peak_sum,
    "night": use.night_sum,
    "standby": use.standby_sum,
    "usable": bank.usable_sum,
    "charge-limit": bank.charge_limit_sum,
    "mass": bank.mass_sum,
    "ageing": bank.ageing_sum,
    "alone": bank.alone_sum,
}
"""Figures of the plan as a whole."""
OF_ONE: dict[str, Callable[[Run, Period, str, str], Sum | None]] = {
    "source": flows.source_sum,
    "draw": flows.draw_sum,
}
"""Figures of one part over a day or the trip."""


def explain(plan: Plan, figure: str, day: int | None = None, sky: Sky = "expected") -> Sum:
    """How a figure was made, over a day or, without one, the trip, under one of the skies.

    `figure` is a name of `OVER` or `WHOLE`, "lowest", "odds", "guess", or "source:", "draw:" or
    "appliance:" and an id. Raises PlanRefused and NoSuchFigure.
    """
    run = run_plan(plan, sky)
    if day is not None and not 0 <= day < run.case.days:
        raise NoSuchFigure(f"The trip has no day {day}; its days are 0 to {run.case.days - 1}.")
    first, last = flows.span_of(run, day)
    at = moment(run, first)
    when = "whole trip" if day is None else f"{at:%a} {at.day}"
    found = _explain(plan, run, figure, (first, last), when, day)
    if found is None:
        raise NoSuchFigure(f"There is no figure called {figure!r}.")
    return found


def _explain(
    plan: Plan, run: Run, figure: str, span: tuple[int, int], when: str, day: int | None
) -> Sum | None:
    kind, _, key = figure.partition(":")
    if kind == "odds":
        return odds_sum(ensemble_of(plan), day, when)
    if kind == "lowest":
        return flows.lowest_sum(run, *span, when)
    if kind in OVER or kind in OF_ONE:
        period = flows.ledger_of(run, *span)
        return (
            OVER[kind](run, period, when) if kind in OVER else OF_ONE[kind](run, period, key, when)
        )
    report = report_run(plan, run, series=False, advice=kind == "alone")
    if kind == "appliance":
        return use.appliance_sum(run, report, key)
    if kind == "guess":
        return use.guess_sum(run, report, plan)
    return WHOLE[kind](run, report) if kind in WHOLE else None


__all__ = ["OF_ONE", "OVER", "WHOLE", "Constant", "Sum", "SumLine", "explain"]
