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
    return table[k] + (x - k) * (table[k + 1] - table[k])


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
    ocv: float,
    ohm: float,
    hold_ohm: float,
    most_a: float,
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
                cap = min(most_a, (set_v - ocv) / hold_ohm)
                room = cap + load_a - total
                if room > 0.0:
                    taken[j] = min(min(sources.offer_w[j, i] / bus_v, limit), room)
                    total += taken[j]
        into = total - load_a
        # The bank may give as well as take here: in float it carries what the set point refuses.
        new_v = ocv + into * ohm
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

    x = (head - GRID_LOW) * PER_STEP
    k = int(x)
    rise = bank.ocv_v[k + 1] - bank.ocv_v[k]
    ocv = bank.ocv_v[k] + (x - k) * rise
    drift_ohm = rise * PER_STEP * step_h / bank.capacity_ah
    give_ohm = table_at(bank.discharge_ohm, head) + 0.5 * drift_ohm
    accept_ohm = table_at(bank.charge_ohm, min(soc, 1.0))
    take_ohm = accept_ohm + 0.5 * drift_ohm
    hold_ohm = accept_ohm + drift_ohm
    # Never past full within the step, whatever a charger is set to.
    most_a = min(bank.charge_limit_a, (1.0 - soc) * bank.capacity_ah / step_h)

    for attempt in range(2):
        want_w = demand_w * served
        bus_v, amps, watts = solve_free(i, sources, want_w, ocv, give_ohm, guess_v)
        if bus_v > ocv:
            bus_v, amps, watts = solve_free(i, sources, want_w, ocv, take_ohm, bus_v)
        held = False
        if bus_v > 0.0:
            load_a = want_w / bus_v
            into = amps + watts / bus_v - load_a
            held = into > most_a
            at_set = False
            for j in range(stage.shape[0]):
                if sources.limit_a[j, i] > 0.0:
                    set_v = sources.float_v[j] if stage[j] == FLOAT else sources.absorb_v[j]
                    if into * hold_ohm > set_v - ocv:
                        at_set = True
            if held or at_set:
                held = at_set or soc > 0.99
                ohm = take_ohm if into > 0.0 else give_ohm
                bus_v = take_in_order(
                    i, sources, want_w, ocv, ohm, hold_ohm, most_a, bus_v, stage, taken
                )
                load_a = want_w / bus_v
                into = -load_a
                for j in range(stage.shape[0]):
                    into += taken[j]
            else:
                for j in range(stage.shape[0]):
                    taken[j] = 0.0
                    limit = sources.limit_a[j, i]
                    if limit > 0.0:
                        taken[j] = min(sources.offer_w[j, i] / bus_v, limit)
                into = -load_a
                for j in range(stage.shape[0]):
                    into += taken[j]
        if attempt == 1 or want_w == 0.0:
            break
        # Low-voltage cut-off: serve the part of the step up to the moment it trips.
        fit = 1.0
        if bus_v <= 0.0:
            fit = 0.0
        elif into < 0.0:
            fall = -into * step_h / bank.capacity_ah + bank.lag_gain * -into
            if head - fall <= bank.lowest_head:
                fit = max(0.0, (head - bank.lowest_head) / fall)
            begin_v = ocv + into * (give_ohm - 0.5 * drift_ohm)
            end_v = begin_v + into * drift_ohm
            if end_v < bank.cutoff_v:
                part = 0.0
                if begin_v > bank.cutoff_v:
                    part = (begin_v - bank.cutoff_v) / (begin_v - end_v)
                fit = min(fit, part)
        if fit >= 1.0:
            break
        served = fit
        cut = True

    if into > 0.0:
        soc = min(1.0, soc + table_at(bank.coulombic, soc) * into * step_h / bank.capacity_ah)
        lag = lag * bank.lag_decay
    else:
        soc = soc + into * step_h / bank.capacity_ah
        lag = lag * bank.lag_decay - into * bank.lag_gain
    advance_stage(i, sources, bus_v, into, held, stage, waited)
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
