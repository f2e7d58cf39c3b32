"""How well a hidden level is tracked, beside dead reckoning, and how long that takes."""

from __future__ import annotations

import sys
import time
from dataclasses import replace

import numpy as np
from tests.conftest import example
from tests.core.estimation.hidden import Hidden, hidden_trip, truth_on

from oddkettle.core.estimation.tracker import PARTICLES, Trail, track
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.run import simulate
from oddkettle.plan.case import case_from_plan

READS = {
    "monitor percent": ("percent",),
    "percent, counters": ("percent", "counters"),
    "counters alone": ("counters",),
    "rested voltage": ("rested_v",),
}


def follow(case: Case, hidden: Hidden, count: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    tracked = track(case, hidden.readings, hidden.end_s, count)
    truth = truth_on(hidden, tracked)
    planned = simulate(replace(case, step_min=tracked.grid.step_min)).level[: len(truth)]
    inside = (truth >= tracked.band[0] - 1e-9) & (truth <= tracked.band[2] + 1e-9)
    return tracked.band[1] - truth, inside, reckoned(hidden, tracked.grid.step_min, planned) - truth


def reckoned(hidden: Hidden, step_min: int, planned: np.ndarray) -> np.ndarray:
    """Dead reckoning: the last percent read, and the plan's own change since."""
    level = planned.copy()
    begin = int(hidden.run.grid.starts_utc[0].astype(np.int64))
    for reading in hidden.readings:
        if reading.kind == "percent":
            at = min(round((reading.at_s - begin) / (60 * step_min)), len(level) - 1)
            level[at:] = np.clip(planned[at:] + reading.value - planned[at], 0.0, 1.0)
    return level


def main(trips: int = 200) -> None:
    for name in ("moth-survey", "coast-weekend", "workboat"):
        try:
            case = case_from_plan(example(name))
        except FileNotFoundError:
            continue
        for said, reads in READS.items():
            off, hits, plain = [], [], []
            for seed in range(trips):
                hidden = hidden_trip(case, seed, reads)
                error, inside, dead = follow(case, hidden, PARTICLES)
                # From the first reading on: before it there is nothing to track with.
                first = 4 * 7
                off.append(error[first:])
                hits.append(inside[first:])
                plain.append(dead[first:])
            rmse = [100 * float(np.sqrt(np.mean(np.concatenate(e) ** 2))) for e in (off, plain)]
            print(
                f"{name:14s} {said:17s} RMSE {rmse[0]:5.2f} points, dead reckoning {rmse[1]:5.2f}; "
                f"80 % band holds {100 * np.mean(np.concatenate(hits)):.0f} %"
            )
    case = case_from_plan(example("moth-survey"))
    hidden = hidden_trip(case, 1, ("percent",))
    for label, trail in (("from the start", None), ("one reading more", Trail())):
        if trail is not None:
            track(case, hidden.readings[:-1], hidden.end_s, trail=trail)
        begin = time.perf_counter()
        track(case, hidden.readings, hidden.end_s, trail=trail)
        print(
            f"{PARTICLES} particles, {case.days} days, {label}: "
            f"{1000 * (time.perf_counter() - begin):.0f} ms"
        )


if __name__ == "__main__":
    main(*(int(argument) for argument in sys.argv[1:]))
