"""Trips whose truth is known: a hidden future is run, and read as people read."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.readings import Reading
from oddkettle.core.estimation.readings.counters import COUNTED_GAIN, COUNTED_SHARE
from oddkettle.core.estimation.readings.percent import (
    BIAS_A_ROOT_DAY,
    OFFSET_A,
    PERCENT_SD,
    SYNCED_SD,
    full_levels,
)
from oddkettle.core.estimation.readings.rested_voltage import RESTED_SD_V, VOLTS_BIAS_V
from oddkettle.core.estimation.tracker import Tracked
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.run import Run, simulate, trip_grid
from oddkettle.core.simulation.scenarios import draw_scenarios, scenario_of

Floats = NDArray[np.float64]
FINE_MIN = 5
HOURS = (7.0, 21.0)
MISSED_SHARE = 0.1


@dataclass(frozen=True)
class Hidden:
    """A truth and what was read of it. `run` is at finer steps than the tracker's."""

    run: Run
    readings: tuple[Reading, ...]
    end_s: int


def start_s(run: Run) -> int:
    return int(run.grid.starts_utc[0].astype(np.int64))


def hidden_trip(case: Case, seed: int, reads: tuple[str, ...]) -> Hidden:
    """A future that the tracker does not know, read twice a day by the `reads` in turn."""
    case = replace(case, step_min=FINE_MIN, doubt=replace(case.doubt, seed=100_000 + seed))
    scenarios = draw_scenarios(case, 1)
    run = simulate(case, scenario_of(case, trip_grid(case), scenarios, 0))
    rng = np.random.default_rng(seed)
    holds, synced = float(scenarios.capacity[0]), 0
    bias = case.soc0 - 1.0 + (1.0 - run.level[0]) * holds + PERCENT_SD * rng.standard_normal()
    offset_a, full_at = OFFSET_A * rng.standard_normal(), full_levels(rng, 1)[0]
    counts = 1.0 + COUNTED_GAIN * rng.standard_normal()
    off_v = VOLTS_BIAS_V * rng.standard_normal()
    begin, step_s = start_s(run), FINE_MIN * 60
    readings: list[Reading] = []
    counted_s, turn = begin, 0
    for day in range(case.days):
        for hour in HOURS:
            if rng.random() < MISSED_SHARE:
                continue
            at_s = begin + day * 86_400 + int(3600 * (hour + rng.uniform(-0.7, 0.7)))
            at = (at_s - begin) // step_s
            if at >= run.grid.steps:
                continue
            kind = reads[turn % len(reads)]
            turn += 1
            key = f"{day} {hour:g}"
            if kind == "percent":
                days = (at - synced) * FINE_MIN / (24 * 60)
                bias += BIAS_A_ROOT_DAY * days**0.5 * rng.standard_normal()
                bias += offset_a * days * 24.0 / case.bank.capacity_ah
                top = float(run.level[synced : at + 1].max(initial=0.0))
                bias = min(bias, (1.0 - top) * holds)
                if top > full_at:
                    bias = (1.0 - top) * holds + SYNCED_SD * rng.standard_normal()
                synced = at
                shown = min(1.0 - (1.0 - run.level[at]) * holds + bias, 1.0)
                value = shown + PERCENT_SD * rng.standard_normal()
                readings.append(Reading(key, at_s, "percent", float(np.clip(value, 0.0, 1.0))))
            elif kind == "counters":
                into = run.track.bank_a[(counted_s - begin) // step_s : at, 0] * FINE_MIN / 60
                gain = counts * (1.0 + COUNTED_SHARE * rng.standard_normal())
                stray = 0.5 * offset_a * (at_s - counted_s) / 3600.0
                for name, ah in (
                    ("ah_out", -into[into < 0].sum() - stray),
                    ("ah_in", into[into > 0].sum() + stray),
                ):
                    read = float(ah) * gain + 0.2 * rng.standard_normal()
                    readings.append(
                        Reading(f"{key} {name}", at_s, name, max(read, 0.0), since_s=counted_s)  # type: ignore[arg-type]
                    )
                counted_s = at_s
            else:
                head = run.track.soc[at, 0] - run.track.lag[at, 0]
                curve = run.world.tables[0].curves["ocv_v"]
                grid = -0.2 + 0.001 * np.arange(len(curve))
                volts = np.interp(head, grid, curve) + off_v + RESTED_SD_V * rng.standard_normal()
                readings.append(Reading(key, at_s, "rested_v", float(volts), rested_h=8.0))
    return Hidden(run, tuple(readings), begin + run.grid.steps * step_s)


def truth_on(hidden: Hidden, tracked: Tracked) -> Floats:
    """(until + 1,) true level at the tracker's moments."""
    every = tracked.grid.step_min // FINE_MIN
    return np.asarray(hidden.run.level[::every][: tracked.until + 1])
