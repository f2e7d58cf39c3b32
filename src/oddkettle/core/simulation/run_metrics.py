"""What a run means for its owner: lowest level, time to the floor, what holds each source back."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.bank import Bank, open_circuit_v
from oddkettle.core.kernel.records import (
    ABSORPTION,
    BANK_STATE,
    BULK,
    FLOAT,
    SECOND,
    Records,
    lay,
)
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.kernel_inputs import Track, drive, no_sources
from oddkettle.core.simulation.run import Run, simulate
from oddkettle.core.trip.grid import Block
from oddkettle.core.units.conversion import HOURS_PER_DAY, MINUTES_PER_DAY

Floats = NDArray[np.float64]

MEND_STEP_MIN = 5
LONGEST_MEND_MIN = 240
MEND_DAYS = 31
"""No mending drive is looked for on longer trips: nobody drives there."""
MORNING_MIN = 10 * 60
RESTED_READING_V, OWN_CURVE_READING_V = 0.05, 0.03
"""How far a hand-held meter, a battery not quite at rest and a typical curve may be out, and with a
curve of the battery's own [V at 12 V class, judgement]."""


@dataclass(frozen=True)
class Low:
    """The lowest level of a stretch: share 0..1 and the step at whose start it stands."""

    soc: float
    step: int


def lowest(run: Run, first: int = 0, last: int | None = None) -> Low:
    """Lowest level from step `first` up to and with the start of step `last`."""
    part = run.level[first : None if last is None else last + 1]
    step = int(np.argmin(part))
    return Low(max(float(part[step]), 0.0), first + step)


def keeps_reserve(run: Run) -> bool:
    """Whether the level never falls under what the trip must keep."""
    return bool((run.level[:-1] >= run.case.fails_below).all())


def hours_to_floor(run: Run) -> Floats:
    """(steps,) hours along the plan until the level first stands under the floor.

    0 where it already does; infinite where it does not happen before the end.
    """
    under = run.level[:-1] < run.case.fails_below
    index = np.where(under, np.arange(len(under)), np.iinfo(np.int64).max)
    next_under = np.minimum.accumulate(index[::-1])[::-1].astype(np.float64)
    ahead = (next_under - np.arange(len(under))) * run.grid.step_h
    return np.where(ahead > len(under) * run.grid.step_h, np.inf, ahead)


@dataclass(frozen=True)
class Mend:
    """The shortest extra drive that keeps the plan above its floor."""

    block: Block
    minutes: int
    lowest: Low


def shortest_drive(run: Run) -> Mend | None:
    """Search for the shortest extra drive on the day before the level first falls short.

    Earlier days are tried when that day cannot mend it. None when the plan holds, when there
    is no DC-DC charger, or when no drive of up to four hours helps.
    """
    case = run.case
    under = np.flatnonzero(run.level[:-1] < case.fails_below)
    if not case.vehicle or len(under) == 0 or case.days > MEND_DAYS:
        return None
    breach_day = int(np.searchsorted(run.grid.day_starts, under[0], side="right")) - 1
    for day in range(breach_day - 1, -1, -1):
        found = _drive_on(case, day)
        if found is not None:
            return found
    return None


def _drive_on(case: Case, day: int) -> Mend | None:
    """The shortest drive on one day that holds the floor, by halving."""
    ends = [b.end_min for b in case.blocks if b.kind == "drive" and b.end_day == day]
    start = max([MORNING_MIN, *ends])
    most = min(LONGEST_MEND_MIN, MINUTES_PER_DAY - start) // MEND_STEP_MIN

    def attempt(units: int) -> Mend | None:
        minutes = units * MEND_STEP_MIN
        block = Block("drive", day, start, day, start + minutes)
        tried = simulate(replace(case, blocks=(*case.blocks, block)))
        low = lowest(tried)
        return Mend(block, minutes, low) if low.soc >= case.fails_below else None

    best = attempt(most) if most > 0 else None
    if best is None:
        return None
    fails, works = 0, most
    while works - fails > 1:
        middle = (fails + works) // 2
        found = attempt(middle)
        if found is None:
            fails = middle
        else:
            best, works = found, middle
    return best


@dataclass(frozen=True)
class LevelRange:
    """What a reading says of the level: between `low` and `high`, 0..1, `mid` at its face."""

    low: float
    mid: float
    high: float


def level_from_rested_v(bank: Bank, volts: float) -> LevelRange:
    """The levels at which a rested bank could show this voltage, give or take the reading.

    On LiFePO4 the curve is flat between 30 and 90 %, so the range there is wide; that is the
    truth about such a reading, not a fault of the function.
    """
    state = np.linspace(0.0, 1.0, 1001)
    own = bank.chemistry.sources["ocv"].mark == "datasheet"
    off_by = OWN_CURVE_READING_V if own else RESTED_READING_V
    rested = open_circuit_v(bank.chemistry, state)
    at = volts / bank.volts_scale
    low, mid, high = (float(np.interp(at + off, rested, state)) for off in (-off_by, 0.0, off_by))
    return LevelRange(low, mid, high)


LONGEST_AUTONOMY_DAYS = 60


def autonomy_h(run: Run, step: int) -> float:
    """Hours from the start of `step` until the floor when no source gives anything [h].

    The loads go on as planned; past the end of the trip its last day repeats. Infinite when the
    level stands for 60 days. Found by the same loop as the run itself, a day at a time.
    """
    grid, track, case = run.grid, run.track, run.case
    day = int(HOURS_PER_DAY / grid.step_h)
    asked, air = run.world.demand.asked, run.world.air_c
    nothing = no_sources(day)
    state = _state_at(track, step)
    for turn in range(LONGEST_AUTONOMY_DAYS):
        at = step + turn * day + np.arange(day)
        at = np.where(at < grid.steps, at, grid.steps - day + (at - grid.steps) % day)
        at = np.clip(at, 0, grid.steps - 1)
        demand = run.world.demand._replace(asked=asked[at])
        on = drive(run.world.tables, nothing, demand, state, air[at], run.world.joined[at])
        gone = (on.soc[1:, 0] < case.fails_below) | (on.served < 1.0)
        if gone.any():
            first = int(np.argmax(gone))
            return (
                turn * HOURS_PER_DAY
                + _fraction(on.soc[:, 0], first, case.fails_below) * grid.step_h
            )
        state = _state_at(on, -1)
    return float("inf")


def _state_at(track: Track, step: int) -> Records:
    """(banks,) of BANK_STATE as they stood at a step of a track."""
    return lay(
        BANK_STATE,
        soc=track.soc[step],
        lag=track.lag[step],
        temperature_c=track.battery_c[step],
    )


def _fraction(soc: Floats, step: int, floor: float) -> float:
    """Fractional step at which a falling level passes the floor within `step`."""
    fall = soc[step] - soc[step + 1]
    if fall <= 0.0 or soc[step] <= floor:
        return float(step)
    return step + min(float((soc[step] - floor) / fall), 1.0)


def full_steps(run: Run) -> NDArray[np.int64]:
    """Steps at whose start the bank was full: 99 %, or a charger gone to float above 95 %."""
    floating = (run.stage == FLOAT).any(axis=0) & (run.level[:-1] > NEARLY_FULL_FLOAT)
    return np.flatnonzero(floating | (run.level[:-1] >= FULL))


def last_full(run: Run) -> int | None:
    """The last step at whose start the bank was full, or None."""
    full = full_steps(run)
    return int(full[-1]) if len(full) else None


FULL, NEARLY_FULL_FLOAT = 0.99, 0.95
"""Full is 99 %, or a charger gone to float above 95 % [judgement]."""


STAGES = (BULK, ABSORPTION, FLOAT, SECOND)


def stage_hours(run: Run, j: int) -> tuple[float, float, float]:
    """Hours in which source `j` was in bulk, absorption and float while it was on [h].

    A second absorption counts as absorption.
    """
    on = run.sources[j].on * (1.0 - run.sources[j].barred) * (run.sources[j].limit_a > 0.0)
    hours = [float(on[run.stage[j] == stage].sum() * run.grid.step_h) for stage in STAGES]
    return hours[0], hours[1] + hours[3], hours[2]


CLEARLY_LESS = 0.99


def starved_steps(run: Run, j: int) -> NDArray[np.bool_]:
    """(steps,) whether source `j` is on and its feed or supply passes less than its rating."""
    source = run.sources[j]
    passes = source.offer_w / np.maximum(run.track.bus_v, 1e-9)
    return np.asarray((passes < CLEARLY_LESS * source.could_a) & (source.on > 0.0))


def locked_steps(run: Run) -> NDArray[np.bool_]:
    """(steps,) whether a source offers while the cold bars charging."""
    offers = np.zeros(run.grid.steps, bool)
    for source in run.sources:
        offers |= source.limit_a > 0.0
    barred_c = run.case.bank.chemistry.cold.barred_below_c
    return np.asarray(offers & (run.track.battery_c[:-1, 0] < barred_c))
