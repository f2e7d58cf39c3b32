"""The one stepping loop. Compiled once, cached on disk, and used by every feature.

Each step solves the bus: sources push, loads pull, the bank takes the difference through its
resistance. Charge is the conserved quantity; `ledger.py` turns the series into sums.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

from oddkettle.core.bank import GRID_LOW, GRID_STEP, RECONNECT_HEAD, BankTables

Floats = NDArray[np.float64]
PER_STEP = 1.0 / GRID_STEP
BULK, ABSORPTION, FLOAT = 0, 1, 2
REBULK_DROP_V = 0.3
"""A charger in float starts again when the bus sags this far below float [judgement]."""
NEARLY_FULL = 0.99
"""Above this a charger counts as in absorption whatever holds it back [judgement]."""
UNLIMITED_W = 1e12
"""Offered power of a source that is limited by its current alone."""


class Sources(NamedTuple):
    """What every source offers, in the order in which they are let in.

    offer_w : (sources, steps) power at the charger's output [W]
    limit_a : (sources, steps) largest output current [A], 0 while it is off
    absorb_v, float_v, tail_a : (sources,) set points [V, V, A into the bank]
    absorb_steps : (sources,) steps after which absorption ends whatever the current
    """

    offer_w: Floats
    limit_a: Floats
    absorb_v: Floats
    float_v: Floats
    tail_a: Floats
    absorb_steps: Floats


class Point(NamedTuple):
    """The bank at the start of a step: open-circuit voltage [V] and resistances [ohm].

    give_ohm, take_ohm hold for the middle of a step (discharge, charge), hold_ohm for its end;
    accept_ohm is charge resistance alone; most_a is the largest current into the bank [A].
    """

    ocv: float
    give_ohm: float
    accept_ohm: float
    take_ohm: float
    hold_ohm: float
    most_a: float


class Track(NamedTuple):
    """What the loop writes. Step i runs from time i to i+1; states stand at its start.

    soc, lag : (steps + 1,) state of charge and its lag
    bus_v, load_a, into_bank_a, served : (steps,) mean over the step
    taken_a : (sources, steps) current taken from each source [A]
    stage : (sources, steps) BULK, ABSORPTION or FLOAT
    """

    soc: Floats
    lag: Floats
    bus_v: Floats
    load_a: Floats
    into_bank_a: Floats
    served: Floats
    taken_a: Floats
    stage: NDArray[np.int8]


@njit(cache=True, inline="always")
def table_at(table: Floats, state: float) -> float:
    """Straight-line value of an even table at `state` (GRID_LOW..1)."""
    x = (state - GRID_LOW) * PER_STEP
    k = int(x)
    value: float = table[k] + (x - k) * (table[k + 1] - table[k])
    return value


@njit(cache=True)
def solve_free(
    i: int, sources: Sources, demand_w: float, ocv: float, ohm: float, guess_v: float
) -> tuple[float, float, float]:
    """Bus voltage with every source let in whole: (volts, current-limited A, power-limited W).

    A source gives constant power below its current limit and constant current at it, so
    `V = ocv + ohm*(I + (W - demand)/V)`, whose larger root is the stable one. A negative
    discriminant means that the bank cannot carry the load at all: volts is then 0.
    """
    bus_v = guess_v
    amps = 0.0
    watts = 0.0
    for _ in range(3):
        amps = 0.0
        watts = 0.0
        for j in range(sources.limit_a.shape[0]):
            limit = sources.limit_a[j, i]
            if limit > 0.0:
                offer = sources.offer_w[j, i]
                if offer < limit * bus_v:
                    watts += offer
                else:
                    amps += limit
        a = ocv + ohm * amps
        d = a * a + 4.0 * ohm * (watts - demand_w)
        if d < 0.0:
            return 0.0, amps, watts
        new_v = 0.5 * (a + np.sqrt(d))
        settled = abs(new_v - bus_v) < 0.02
        bus_v = new_v
        if settled:
            break
    return bus_v, amps, watts


@njit(cache=True)
def take_in_order(
    i: int,
    sources: Sources,
    demand_w: float,
    point: Point,
    ohm: float,
    guess_v: float,
    stage: NDArray[np.int8],
    taken: Floats,
) -> float:
    """Let the sources in one after the other under the bank's acceptance; returns the bus V.

    Each may fill up to what its own set point lets the bank take, so a source with a lower
    setting stops first. Repeated until bus voltage and currents agree.
    """
    bus_v = guess_v
    for _ in range(8):
        load_a = demand_w / bus_v
        total = 0.0
        for j in range(sources.limit_a.shape[0]):
            taken[j] = 0.0
            limit = sources.limit_a[j, i]
            if limit > 0.0:
                set_v = sources.float_v[j] if stage[j] == FLOAT else sources.absorb_v[j]
                cap = min(point.most_a, (set_v - point.ocv) / point.hold_ohm)
                room = cap + load_a - total
                if room > 0.0:
                    taken[j] = min(sources.offer_w[j, i] / bus_v, limit, room)
                    total += taken[j]
        into = total - load_a
        # The bank may give as well as take here: in float it carries what the set point refuses.
        new_v = point.ocv + into * ohm
        if abs(new_v - bus_v) < 1e-9:
            break
        bus_v = new_v
    return bus_v


@njit(cache=True)
def advance_stage(
    i: int,
    sources: Sources,
    bus_v: float,
    into_a: float,
    held: bool,
    stage: NDArray[np.int8],
    waited: Floats,
) -> None:
    """Move each charger through bulk, absorption and float after a step."""
    for j in range(stage.shape[0]):
        if sources.limit_a[j, i] <= 0.0:
            stage[j] = BULK
            waited[j] = 0.0
        elif stage[j] == FLOAT:
            if bus_v < sources.float_v[j] - REBULK_DROP_V:
                stage[j] = BULK
                waited[j] = 0.0
        elif held:
            stage[j] = ABSORPTION
            waited[j] += 1.0
            if into_a < sources.tail_a[j] or waited[j] >= sources.absorb_steps[j]:
                stage[j] = FLOAT


@njit(cache=True)
def balance(
    i: int,
    sources: Sources,
    demand_w: float,
    point: Point,
    guess_v: float,
    stage: NDArray[np.int8],
    taken: Floats,
) -> tuple[float, float, float, bool]:
    """Solve one step's bus: (bus V, load A, into bank A, whether a set point holds it back).

    Bus V is 0 when the bank cannot carry the load at all. `taken` is written in place.
    """
    bus_v, amps, watts = solve_free(i, sources, demand_w, point.ocv, point.give_ohm, guess_v)
    if bus_v > point.ocv:
        bus_v, amps, watts = solve_free(i, sources, demand_w, point.ocv, point.take_ohm, bus_v)
    if bus_v <= 0.0:
        return 0.0, 0.0, 0.0, False
    free_a = amps + (watts - demand_w) / bus_v
    at_set = False
    for j in range(stage.shape[0]):
        if sources.limit_a[j, i] > 0.0:
            set_v = sources.float_v[j] if stage[j] == FLOAT else sources.absorb_v[j]
            at_set = at_set or free_a * point.hold_ohm > set_v - point.ocv
    if at_set or free_a > point.most_a:
        ohm = point.take_ohm if free_a > 0.0 else point.give_ohm
        bus_v = take_in_order(i, sources, demand_w, point, ohm, bus_v, stage, taken)
    else:
        for j in range(stage.shape[0]):
            limit = sources.limit_a[j, i]
            taken[j] = min(sources.offer_w[j, i] / bus_v, limit) if limit > 0.0 else 0.0
    load_a = demand_w / bus_v
    into = -load_a
    for j in range(stage.shape[0]):
        into += taken[j]
    return bus_v, load_a, into, at_set


@njit(cache=True)
def share_before_cutoff(
    bank: BankTables, step_h: float, point: Point, head: float, into: float
) -> float:
    """Share 0..1 of a discharging step up to the moment at which the bank cuts out.

    That is when the available well is empty or the voltage under load falls to the cut-off.
    """
    fit = 1.0
    fall = -into * (step_h / bank.capacity_ah + bank.lag_gain)
    if head - fall <= bank.lowest_head:
        fit = max(0.0, (head - bank.lowest_head) / fall)
    drift_ohm = point.hold_ohm - point.accept_ohm
    begin_v = point.ocv + into * (point.give_ohm - 0.5 * drift_ohm)
    end_v = begin_v + into * drift_ohm
    if end_v < bank.cutoff_v:
        part = 0.0
        if begin_v > bank.cutoff_v:
            part = (begin_v - bank.cutoff_v) / (begin_v - end_v)
        fit = min(fit, part)
    return fit


@njit(cache=True)
def operating_point(bank: BankTables, step_h: float, soc: float, head: float) -> Point:
    """The bank's voltage and resistances at a state, made ready for a step."""
    x = (head - GRID_LOW) * PER_STEP
    k = int(x)
    rise = bank.ocv_v[k + 1] - bank.ocv_v[k]
    # Half the step's drift of open-circuit voltage counts at mid-step, all of it at its end.
    drift_ohm = rise * PER_STEP * step_h / bank.capacity_ah
    accept_ohm = table_at(bank.charge_ohm, soc)
    return Point(
        ocv=bank.ocv_v[k] + (x - k) * rise,
        give_ohm=table_at(bank.discharge_ohm, head) + 0.5 * drift_ohm,
        accept_ohm=accept_ohm,
        take_ohm=accept_ohm + 0.5 * drift_ohm,
        hold_ohm=accept_ohm + drift_ohm,
        # Never past full within the step, whatever a charger is set to.
        most_a=min(bank.charge_limit_a, (1.0 - soc) * bank.capacity_ah / step_h),
    )


@njit(cache=True)
def step(
    i: int,
    step_h: float,
    bank: BankTables,
    sources: Sources,
    demand_w: float,
    soc: float,
    lag: float,
    cut: bool,
    guess_v: float,
    stage: NDArray[np.int8],
    waited: Floats,
    taken: Floats,
) -> tuple[float, float, bool, float, float, float, float]:
    """One step: returns (soc, lag, cut, bus V, load A, into bank A, share of demand served).

    `stage`, `waited` and `taken` are (sources,) and are written in place.
    """
    head = soc - lag
    if cut and head > RECONNECT_HEAD:
        cut = False
    served = 0.0 if cut else 1.0
    point = operating_point(bank, step_h, soc, head)
    bus_v, load_a, into, held = balance(i, sources, demand_w * served, point, guess_v, stage, taken)
    if served > 0.0 and demand_w > 0.0 and (into < 0.0 or bus_v <= 0.0):
        fit = 0.0
        if bus_v > 0.0:
            fit = share_before_cutoff(bank, step_h, point, head, into)
        if fit < 1.0:
            # Serve the part of the step before it trips, as a mean over the whole step.
            served = fit
            cut = True
            bus_v, load_a, into, held = balance(
                i, sources, demand_w * served, point, point.ocv, stage, taken
            )
    if into > 0.0:
        soc = min(1.0, soc + table_at(bank.coulombic, soc) * into * step_h / bank.capacity_ah)
        lag = lag * bank.lag_decay
    else:
        soc = soc + into * step_h / bank.capacity_ah
        lag = lag * bank.lag_decay - into * bank.lag_gain
    advance_stage(i, sources, bus_v, into, held or soc > NEARLY_FULL, stage, waited)
    return soc, lag, cut, bus_v, load_a, into, served


@njit(cache=True)
def drive(
    step_h: float, bank: BankTables, sources: Sources, demand_w: Floats, soc0: float, track: Track
) -> None:
    """Run every step of one future from `soc0` (0..1), writing into `track`."""
    count = demand_w.shape[0]
    stage = np.zeros(sources.limit_a.shape[0], np.int8)
    waited = np.zeros(sources.limit_a.shape[0])
    taken = np.zeros(sources.limit_a.shape[0])
    soc = soc0
    lag = 0.0
    cut = False
    bus_v = table_at(bank.ocv_v, soc0)
    for i in range(count):
        track.soc[i] = soc
        track.lag[i] = lag
        soc, lag, cut, bus_v, load_a, into_a, served = step(
            i, step_h, bank, sources, demand_w[i], soc, lag, cut, bus_v, stage, waited, taken
        )
        track.bus_v[i] = bus_v
        track.load_a[i] = load_a
        track.into_bank_a[i] = into_a
        track.served[i] = served
        for j in range(stage.shape[0]):
            track.taken_a[j, i] = taken[j]
            track.stage[j, i] = stage[j]
    track.soc[count] = soc
    track.lag[count] = lag


def empty_track(sources: int, steps: int) -> Track:
    """Room for one run's series."""
    return Track(
        soc=np.empty(steps + 1),
        lag=np.empty(steps + 1),
        bus_v=np.empty(steps),
        load_a=np.empty(steps),
        into_bank_a=np.empty(steps),
        served=np.empty(steps),
        taken_a=np.empty((sources, steps)),
        stage=np.empty((sources, steps), np.int8),
    )
