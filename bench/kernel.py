"""The stepping loop against a bare loop of the same length, in one process.

The bare loop does an open-circuit look-up and two divisions a step: the least that any battery
model must do. Ratios are of interleaved repeats, so a drifting machine cancels out; the best of
each is printed too, because a busy neighbour slows the wide loop and leaves the narrow one alone.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
from numba import njit

from oddkettle.core.battery.temperature import Heater
from oddkettle.core.kernel.constants import GRID_LOW, GRID_STEP
from oddkettle.core.kernel.loop import run_steps
from oddkettle.core.simulation import kernel_inputs as drive
from oddkettle.core.simulation.case import Case, SecondBank
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import World, build_world, run_world, simulate
from oddkettle.formats.plan_json import parse_plan
from oddkettle.plan.case import case_from_plan

PLANS = Path(__file__).resolve().parents[1] / "examples" / "plans"
REPEATS = 61
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


def lasting(case: Case, days: int, **changes: object) -> Case:
    """The case over so many days, its skies and temperatures repeated."""
    turns = -(-days // case.days)

    def over(values: tuple[float, ...]) -> tuple[float, ...]:
        return (values * turns)[:days]

    return replace(
        case,
        clearness=over(case.clearness),
        low_c=over(case.low_c),
        high_c=over(case.high_c),
        **changes,  # type: ignore[arg-type]
    )


def all_on(case: Case) -> Case:
    """Everything at once: a second bank, heater pads, shedding, three sources, frost at night."""
    cold = tuple(low - 9.0 for low in case.low_c)
    return replace(
        case,
        low_c=cold,
        second=SecondBank(replace(case.bank, battery_ah=60.0, link_mohm=8.0), 0.7, always=True),
        heater=Heater(20.0),
        shed={"first": 0.5, "wanted": 0.3},
    )


def paired(world: World, case: Case) -> tuple[float, float, float, float]:
    """(bare median, loop median, bare best, loop best) [ms], turn about."""
    curve = np.ascontiguousarray(world.tables[0].curves["ocv_v"])
    demand = np.ascontiguousarray(world.demand.asked["power_w"][:, 0])
    capacity = float(world.tables[0].bank["capacity_ah"])
    out = np.empty(len(demand))
    bare(curve, demand, capacity, out)
    run_world(case, world)
    times = []
    for _ in range(REPEATS):
        begin = time.perf_counter()
        bare(curve, demand, capacity, out)
        middle = time.perf_counter()
        run_world(case, world)
        times.append((middle - begin, time.perf_counter() - middle))
    table = 1e3 * np.array(times)
    return (*np.median(table, axis=0), *table.min(axis=0))  # type: ignore[return-value]


def steps_alone(world: World, case: Case) -> Callable[[], object]:
    """The compiled steps of a world, on room that is there already."""
    told: list[tuple[object, ...]] = []

    def listen(*arguments: object) -> None:
        told.append(arguments)
        run_steps(*arguments)

    drive.run_steps = listen  # type: ignore[attr-defined]
    try:
        run_world(case, world)
    finally:
        drive.run_steps = run_steps  # type: ignore[attr-defined]
    return lambda: run_steps(*told[0])


def median_ms(work: Callable[[], object]) -> float:
    times = []
    for _ in range(REPEATS):
        begin = time.perf_counter()
        work()
        times.append(time.perf_counter() - begin)
    return 1e3 * float(np.median(times))


def main() -> None:
    demo = lasting(case_from_plan(parse_plan((PLANS / "moth-survey.json").read_bytes())), DAYS)
    print(f"{DAYS} days at {demo.step_min} min, {DAYS * 288} steps; ratios to the bare kernel")
    for name, case in (("the demo box", demo), ("everything switched on", all_on(demo))):
        world = build_world(case)
        bare_ms, loop_ms, bare_best, loop_best = paired(world, case)
        print(
            f"  loop, {name:24s} {loop_ms:7.3f} ms  median {loop_ms / bare_ms:5.1f} x bare"
            f"   best {loop_best / bare_best:5.1f} x"
        )
        alone = median_ms(steps_alone(world, case))
        print(f"    its steps alone              {alone:7.3f} ms  {alone / bare_ms:12.1f} x")
        whole, ledger = median_ms(lambda c=case: simulate(c)), simulate(case)
        print(f"    whole run, sun kept          {whole:7.3f} ms  {whole / bare_ms:12.1f} x")
        ledger = median_ms(lambda r=ledger: keep_ledger(r))
        print(f"    its ledger                   {ledger:7.3f} ms  {ledger / bare_ms:12.1f} x")
    print("cost by length, the demo box")
    lengths, costs = (7, 14, 28, 56, 112), []
    for days in lengths:
        case = lasting(demo, days, blocks=())
        world = build_world(case)
        costs.append(median_ms(lambda w=world, c=case: run_world(c, w)))
        print(f"  {days:4d} days {costs[-1]:8.3f} ms")
    exponent = np.polyfit(np.log(lengths), np.log(costs), 1)[0]
    print(f"  exponent of cost in steps {exponent:.2f}")
    year = lasting(demo, 365, blocks=(), step_min=15)
    simulate(year)
    begin = time.perf_counter()
    simulate(year)
    took_ms = 1e3 * (time.perf_counter() - begin)
    print(f"365 days at 15 min, whole run with its sun kept {took_ms:.0f} ms")
    hut = case_from_plan(parse_plan((PLANS / "gauging-hut.json").read_bytes()))
    lows = {}
    for step_min in (5, 15, 30, 60):
        lows[step_min] = 100 * simulate(replace(hut, step_min=step_min)).level.min()
    text = ", ".join(f"{step} min {low:.2f} %" for step, low in lows.items())
    print(f"lowest level of the gauging hut over 240 days, by step: {text}")


if __name__ == "__main__":
    main()
