"""The box at one moment of a run."""

from __future__ import annotations

import numpy as np

from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.plan import Plan
from oddkettle.results.run import InstantReport, Sky
from oddkettle.text.words import moment
from oddkettle.usecases.simulate.missing import NoSuchStep
from oddkettle.usecases.simulate.run_cache import run_plan
from oddkettle.usecases.simulate.run_report import period_of


def report_instant(plan: Plan, step: int, sky: Sky = "expected") -> InstantReport:
    """Currents and powers of one step. Raises PlanRefused and NoSuchStep."""
    run = run_plan(plan, sky)
    if not 0 <= step < run.grid.steps:
        raise NoSuchStep(f"The run has no step {step}; its steps are 0 to {run.grid.steps - 1}.")
    ledger = keep_ledger(run, np.array([step, step + 1]))
    per_h = 1.0 / run.grid.step_h
    period = period_of(run, ledger, lambda values: float(values[0]) * per_h)
    second = 100 * float(run.track.soc[step, 1]) if run.case.second else None
    return InstantReport(
        **period,
        step=step,
        at=moment(run, step).isoformat(),
        level_percent=max(100 * float(run.level[step]), 0.0),
        second_percent=second,
        volts=float(run.track.bus_v[step]),
        battery_c=float(run.track.battery_c[step, 0]),
    )
