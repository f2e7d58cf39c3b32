"""Many scenarios: what they cost beside the bare loop and the plain step, and how true they are.

Costs are ratios within one run. Calibration sets the generator against the three weather years
that ship with pvlib: the share of real stretches of 1, 3 and 7 days whose light lies inside the
middle 80 % of the scenarios.
"""

from __future__ import annotations

import resource
import time
from collections.abc import Callable
from dataclasses import replace
from datetime import date
from itertools import count as numbers
from pathlib import Path

import numpy as np
import pvlib
from bench.kernel import bare, lasting

from oddkettle.core.kernel.ensemble import empty_outputs, initial_state, run_scenarios
from oddkettle.core.simulation.ensemble import lay_inputs, run_drawn, run_ensemble
from oddkettle.core.simulation.run import build_world, run_world
from oddkettle.core.simulation.scenarios import draw_scenarios
from oddkettle.core.weather.calibration import coverage
from oddkettle.formats.plan_json import parse_plan
from oddkettle.formats.weather_file import read_weather
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.usecases.improve.sizes import search_sizes
from oddkettle.usecases.improve.weigh import weigh
from oddkettle.usecases.simulate.odds import odds_in_motion, odds_of

PLANS = Path(__file__).resolve().parents[1] / "examples" / "plans"
YEARS = Path(pvlib.__file__).parent / "data"
DAYS, FUTURES = 14, 1000


def best_s(work: Callable[[], object], turns: int = 3) -> float:
    times = []
    for _ in range(turns):
        begin = time.perf_counter()
        work()
        times.append(time.perf_counter() - begin)
    return min(times)


def cost() -> None:
    """1,000 scenarios, beside the bare loop and the same step run 1,000 times on one core."""
    plan = parse_plan((PLANS / "moth-survey.json").read_bytes())
    case = lasting(case_from_plan(plan), DAYS)
    days = (case.prospects * 2)[:DAYS]
    case = replace(case, prospects=days, day_kinds=(case.day_kinds * 2)[:DAYS])
    world = build_world(case)
    curve = np.ascontiguousarray(world.tables[0].curves["ocv_v"])
    demand = np.ascontiguousarray(world.demand.asked["power_w"][:, 0])
    capacity, out = float(world.tables[0].bank["capacity_ah"]), np.empty(len(demand))
    bare(curve, demand, capacity, out)
    run_ensemble(case, 10)
    bare_s = FUTURES * best_s(lambda: bare(curve, demand, capacity, out), 200)
    step_s = FUTURES * best_s(lambda: run_world(case, world), 60)
    whole_s = best_s(lambda: run_ensemble(case, FUTURES))
    box, luck, grid = lay_inputs(case, draw_scenarios(case, FUTURES))
    alone = (box, luck, initial_state(box, luck), empty_outputs(box, FUTURES))
    one_s = best_s(lambda: run_scenarios(np.arange(FUTURES), *alone, 0, grid.steps, -1.0))
    print(f"{FUTURES} scenarios x {DAYS} days x 5 min on all cores: {whole_s:.2f} s")
    print(f"  {whole_s / step_s:.2f} x the compiled step run as often on one core")
    print(f"  {whole_s / bare_s:.1f} x the bare loop run as often on one core")
    print(f"  on one core, laid already: {one_s:.2f} s, {one_s / step_s:.2f} x the step alone")
    sizes = (125, 250, 500, 1000)
    costs = []
    for count in sizes:
        scenarios = draw_scenarios(case, count)
        box, luck, grid = lay_inputs(case, scenarios)
        costs.append(best_s(lambda b=box, k=luck, g=grid: run_drawn(b, k, g.step_h)))
    print(f"  exponent in scenarios {np.polyfit(np.log(sizes), np.log(costs), 1)[0]:.2f}")
    lengths, costs = (7, 14, 28), []
    for length in lengths:
        longer = lasting(case, length, blocks=())
        longer = replace(longer, prospects=(days * 2)[:length], day_kinds=())
        scenarios = draw_scenarios(longer, 200)
        box, luck, grid = lay_inputs(longer, scenarios)
        costs.append(best_s(lambda b=box, k=luck, g=grid: run_drawn(b, k, g.step_h)))
    print(f"  exponent in days {np.polyfit(np.log(lengths), np.log(costs), 1)[0]:.2f}")


def questions() -> None:
    """The questions that the pages ask, on the demo plan."""
    plan = parse_plan((PLANS / "moth-survey.json").read_bytes())
    names = numbers()

    def anew() -> Plan:
        """The plan by another name: nothing of its runs is kept, only the sun."""
        return plan.model_copy(update={"name": f"Question {next(names)}"})

    odds_of(plan), odds_of(plan, 40, quick=True)
    quick_s = best_s(lambda: odds_in_motion(anew(), 40))
    print(f"odds while dragging, 40 scenarios at 30 min   {quick_s:.3f} s")
    print(f"odds at rest, 200 scenarios at 5 min          {best_s(lambda: odds_of(anew())):.3f} s")
    changes = len(list(weigh(plan))) - 1
    weigh_s = best_s(lambda: list(weigh(anew())))
    print(f"what limits it, {changes} changes x 200 scenarios   {weigh_s:.2f} s")
    search_s = best_s(lambda: list(search_sizes(plan)))
    print(f"size search, 2,016 designs                  {search_s:.2f} s")
    case = case_from_plan(plan)
    lows = {}
    for step in (5, 15, 30, 60):
        ran = run_ensemble(replace(case, step_min=step), 200)
        lows[step] = (100 * ran.lasts.mean(), *np.quantile(100 * ran.lowest, (0.1, 0.5, 0.9)))
    for step, (lasts, *rest) in lows.items():
        low = ", ".join(f"{r:.1f}" for r in rest)
        print(f"  steps of {step:2d} min: lasts {lasts:.0f} %, lowest of 1, 5, 9 in ten {low} %")
    print(f"memory at most {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB")


def calibration() -> None:
    """Real stretches inside the middle 80 % of the scenarios."""
    for name in ("12839.tm2", "723170TYA.CSV", "703165TY.csv"):
        record = read_weather((YEARS / name).read_bytes(), name)
        found = coverage(record, (1, 3, 7), 400, date(2025, 1, 1))
        text = ", ".join(f"{days} d {share:.2f}" for days, share in found.items())
        print(f"share of real light inside the 80 % band, {name:14s} {text}")


if __name__ == "__main__":
    cost()
    questions()
    calibration()
