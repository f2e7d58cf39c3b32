"""The stepping loop against a bare loop of the same length, in one process.

The bare loop does an open-circuit look-up and two divisions a step: the least that any battery
model must do. Ratios are medians of interleaved repeats, so a drifting machine cancels out.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
from numba import njit

from oddkettle.core import kernel
from oddkettle.core.bank import GRID_LOW, GRID_STEP, OCV_V, bank_tables
from oddkettle.core.ledger import keep_books
from oddkettle.core.run import simulate
from oddkettle.formats.plan_json import parse_plan
from oddkettle.plan.case import case_from_plan

PLAN = Path(__file__).resolve().parents[1] / "examples" / "plans" / "moth-survey.json"
REPEATS = 41
DAYS = 14


@njit(cache=True)
def bare(ocv_v: np.ndarray, demand_w: np.ndarray, capacity: float, out: np.ndarray) -> None:
    """State of charge falls by the load's current at open-circuit voltage: nothing else."""
    soc = 0.9
    for i in range(demand_w.shape[0]):
        x = (soc - GRID_LOW) / GRID_STEP
        k = int(x)
        volts = ocv_v[k] + (x - k) * (ocv_v[k + 1] - ocv_v[k])
        soc -= demand_w[i] / volts * (1.0 / 12.0) / capacity
        soc = max(soc, 0.1)
        out[i] = soc


def median_ms(work: Callable[[], object]) -> float:
    times = []
    for _ in range(REPEATS):
        begin = time.perf_counter()
        work()
        times.append(time.perf_counter() - begin)
    return 1e3 * float(np.median(times))


def main() -> None:
    case = case_from_plan(parse_plan(PLAN.read_bytes()))
    skies = (case.clearness * 2)[:DAYS]
    case = replace(case, clearness=skies)
    run = simulate(case)
    tables = bank_tables(case.bank, run.grid.step_h)
    demand = run.asked_w.sum(axis=0)
    out = np.empty(run.grid.steps)

    def loop() -> None:
        kernel.drive(tables, run.offers, demand, case.soc0)

    def base() -> None:
        bare(tables.curves[OCV_V], demand, tables.limits.capacity_ah, out)

    loop()
    base()
    pairs = [(median_ms(base), median_ms(loop)) for _ in range(5)]
    bare_ms, loop_ms = (float(np.median(column)) for column in zip(*pairs, strict=True))
    rows = {
        "bare kernel": bare_ms,
        "stepping loop": loop_ms,
        "whole run (grid, sun kept, loop)": median_ms(lambda: simulate(case)),
        "its ledger": median_ms(lambda: keep_books(run)),
    }
    print(f"{DAYS} days at {run.grid.step_min} min, {run.grid.steps} steps, medians")
    for name, ms in rows.items():
        print(f"  {name:34s} {ms:8.3f} ms  {ms / bare_ms:6.1f} x bare")


if __name__ == "__main__":
    main()
