"""The one stepping loop. Compiled once, cached on disk, and used by every feature.

Each step solves the bus: sources push, loads pull, the bank takes the difference through its
resistance. Charge is the conserved quantity; `ledger.py` turns the series into sums.

Inside the loop everything lives in two plain arrays, `curves` (the bank) and `chargers` (one row
a source): tuples of arrays cost the compiled code a reference count at every touch, which made
the loop five times slower.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

from oddkettle.core.bank import (
    CHARGE_OHM,
    COULOMBIC,
    DISCHARGE_OHM,
    GRID_LOW,
    GRID_STEP,
    OCV_V,
    RECONNECT_HEAD,
    BankLimits,
    BankTables,
)

Floats = NDArray[np.float64]
PER_STEP = 1.0 / GRID_STEP
BULK, ABSORPTION, FLOAT = 0.0, 1.0, 2.0
REBULK_DROP_V = 0.3
"""A charger in float starts again when the bus sags this far below float [judgement]."""
SETTLED_V = 0.02
"""A bus voltage found within this of its guess leaves every source in the same mode."""
NEARLY_FULL = 0.99
"""Above this a charger counts as in absorption whatever holds it back [judgement]."""
UNLIMITED_W = 1e12
"""Offered power of a source that is limited by its current alone."""

# Columns of `chargers`: what is offered now, the settings, and the charger's own state.
OFFER_W, LIMIT_A, ABSORB_V, FLOAT_V, TAIL_A, ABSORB_STEPS, STAGE, WAITED, TAKEN_A = range(9)


class Sources(NamedTuple):
    """What every source offers, in the order in which they are let in.

    offer_w : (sources, steps) power at the charger's output [W]
    limit_a : (sources, steps) largest output current [A], 0 while it is off
    settings : (sources, 4) absorption V, float V, tail A into the bank, and the steps after
        which absorption ends whatever the current
    """

    offer_w: Floats
    limit_a: Floats
    settings: Floats


class Point(NamedTuple):
    """The bank at the start of a step: open-circuit voltage [V] and resistances [ohm].

    give_ohm, take_ohm hold for the middle of a step (discharge, charge), hold_ohm for its end;
    drift_ohm is what the open-circuit voltage moves in the step, per ampere; most_a is the
    largest current into the bank [A].
    """

    ocv: float
    give_ohm: float
    take_ohm: float
    hold_ohm: float
    drift_ohm: float
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
    stage: Floats


@njit(cache=True, error_model="numpy", forceinline=True)
def curve_at(curves: Floats, row: int, state: float) -> float:
    """Straight-line value of a row of an even table at `state` (GRID_LOW..1)."""
    x = (state - GRID_LOW) * PER_STEP
    k = int(x)
    value: float = curves[row, k] + (x - k) * (curves[row, k + 1] - curves[row, k])
    return value


@njit(cache=True, error_model="numpy", forceinline=True)
def operating_point(curves: Floats, limits: BankLimits, soc: float, head: float) -> Point:
    """The bank's voltage and resistances at a state, made ready for a step."""
    x = (head - GRID_LOW) * PER_STEP
    k = int(x)
    low = curves[OCV_V, k]
    rise = curves[OCV_V, k + 1] - low
    # Half the step's drift of open-circuit voltage counts at mid-step, all of it at its end.
    drift_ohm = rise * PER_STEP * limits.soc_per_a
    ohm = curves[DISCHARGE_OHM, k]
    give_ohm = ohm + (x - k) * (curves[DISCHARGE_OHM, k + 1] - ohm)
    accept_ohm = curve_at(curves, CHARGE_OHM, soc)
    return Point(
        ocv=low + (x - k) * rise,
        give_ohm=give_ohm + 0.5 * drift_ohm,
        take_ohm=accept_ohm + 0.5 * drift_ohm,
        hold_ohm=accept_ohm + drift_ohm,
        drift_ohm=drift_ohm,
        # Never past full within the step, whatever a charger is set to.
        most_a=min(limits.charge_limit_a, (1.0 - soc) * limits.fill_a),
    )


@njit(cache=True, error_model="numpy", forceinline=True)
def set_point_v(chargers: Floats, j: int) -> float:
    """The voltage that a charger holds in its present stage."""
    volts: float = chargers[j, FLOAT_V] if chargers[j, STAGE] == FLOAT else chargers[j, ABSORB_V]
    return volts


@njit(cache=True, error_model="numpy", forceinline=True)
def solve_free(
    chargers: Floats, demand_w: float, point: Point, guess_v: float
) -> tuple[float, float]:
    """Bus voltage with every source let in whole, and the resistance that it goes through.

    A source gives constant power below its current limit and constant current at it, so
    `V = ocv + ohm*(I + (W - demand)/V)`, whose larger root is the stable one. Which of the two
    holds is read at the last voltage and looked at again when that has moved. A negative
    discriminant means that the bank cannot carry the load at all: volts is then 0.
    """
    bus_v = guess_v
    ohm = point.give_ohm
    for _ in range(4):
        amps = 0.0
        watts = -demand_w
        for j in range(chargers.shape[0]):
            offer = chargers[j, OFFER_W]
            limit = chargers[j, LIMIT_A]
            if offer < limit * bus_v:
                watts += offer
            else:
                amps += limit
        ohm = point.take_ohm if amps * bus_v + watts > 0.0 else point.give_ohm
        a = point.ocv + ohm * amps
        d = a * a + 4.0 * ohm * watts
        if d < 0.0:
            return 0.0, ohm
        new_v = 0.5 * (a + np.sqrt(d))
        settled = abs(new_v - bus_v) < SETTLED_V
        bus_v = new_v
        if settled:
            break
    return bus_v, ohm


@njit(cache=True, error_model="numpy")
def take_in_order(
    chargers: Floats, demand_w: float, point: Point, ohm: float, guess_v: float
) -> float:
    """Let the sources in one after the other under the bank's acceptance; returns the bus V.

    Each may fill up to what its own set point lets the bank take, so a source with a lower
    setting stops first. Repeated until bus voltage and currents agree. In float the bank may
    give as well as take: it carries what the set point refuses.
    """
    bus_v = guess_v
    for _ in range(8):
        load_a = demand_w / bus_v
        total = 0.0
        for j in range(chargers.shape[0]):
            taken = 0.0
            limit = chargers[j, LIMIT_A]
            if limit > 0.0:
                cap = min(point.most_a, (set_point_v(chargers, j) - point.ocv) / point.hold_ohm)
                room = cap + load_a - total
                if room > 0.0:
                    taken = min(chargers[j, OFFER_W] / bus_v, limit, room)
                    total += taken
            chargers[j, TAKEN_A] = taken
        new_v = point.ocv + (total - load_a) * ohm
        if abs(new_v - bus_v) < 1e-9:
            break
        bus_v = new_v
    return bus_v


@njit(cache=True, error_model="numpy", forceinline=True)
def balance(
    chargers: Floats, demand_w: float, point: Point, guess_v: float
) -> tuple[float, float, float, bool]:
    """Solve one step's bus: (bus V, load A, into bank A, whether a set point holds it back).

    Bus V is 0 when the bank cannot carry the load at all. TAKEN_A is written in place.
    """
    bus_v, ohm = solve_free(chargers, demand_w, point, guess_v)
    if bus_v <= 0.0:
        return 0.0, 0.0, 0.0, False
    # Compared as voltages over `ohm`, to spare divisions: into = (bus_v - ocv)/ohm.
    lift_v = bus_v - point.ocv
    at_set = False
    for j in range(chargers.shape[0]):
        if chargers[j, LIMIT_A] > 0.0:
            headroom_v = set_point_v(chargers, j) - point.ocv
            at_set = at_set or lift_v * point.hold_ohm > headroom_v * ohm
    if at_set or lift_v > point.most_a * ohm:
        bus_v = take_in_order(chargers, demand_w, point, ohm, bus_v)
        load_a = demand_w / bus_v
    else:
        per_v = 1.0 / bus_v
        load_a = demand_w * per_v
        for j in range(chargers.shape[0]):
            limit = chargers[j, LIMIT_A]
            taken = chargers[j, OFFER_W] * per_v
            chargers[j, TAKEN_A] = min(taken, limit)
    into = -load_a
    for j in range(chargers.shape[0]):
        into += chargers[j, TAKEN_A]
    return bus_v, load_a, into, at_set


@njit(cache=True, error_model="numpy")
def share_before_cutoff(limits: BankLimits, point: Point, head: float, into: float) -> float:
    """Share 0..1 of a discharging step up to the moment at which the bank cuts out.

    That is when the available well is empty or the voltage under load falls to the cut-off.
    """
    fit = 1.0
    fall = -into * (limits.soc_per_a + limits.lag_gain)
    if head - fall <= limits.lowest_head:
        fit = max(0.0, (head - limits.lowest_head) / fall)
    begin_v = point.ocv + into * (point.give_ohm - 0.5 * point.drift_ohm)
    end_v = begin_v + into * point.drift_ohm
    if end_v < limits.cutoff_v:
        part = 0.0
        if begin_v > limits.cutoff_v:
            part = (begin_v - limits.cutoff_v) / (begin_v - end_v)
        fit = min(fit, part)
    return fit


@njit(cache=True, error_model="numpy", forceinline=True)
def advance_stages(chargers: Floats, bus_v: float, into_a: float, held: bool) -> None:
    """Move each charger through bulk, absorption and float after a step."""
    for j in range(chargers.shape[0]):
        if chargers[j, LIMIT_A] <= 0.0:
            chargers[j, STAGE] = BULK
            chargers[j, WAITED] = 0.0
        elif chargers[j, STAGE] == FLOAT:
            if bus_v < chargers[j, FLOAT_V] - REBULK_DROP_V:
                chargers[j, STAGE] = BULK
                chargers[j, WAITED] = 0.0
        elif held:
            chargers[j, STAGE] = ABSORPTION
            chargers[j, WAITED] += 1.0
            if into_a < chargers[j, TAIL_A] or chargers[j, WAITED] >= chargers[j, ABSORB_STEPS]:
                chargers[j, STAGE] = FLOAT


@njit(cache=True, error_model="numpy", forceinline=True)
def step(
    curves: Floats,
    limits: BankLimits,
    chargers: Floats,
    demand_w: float,
    soc: float,
    lag: float,
    cut: bool,
    guess_v: float,
) -> tuple[float, float, bool, float, float, float, float]:
    """One step: returns (soc, lag, cut, bus V, load A, into bank A, share of demand served).

    `chargers` is (sources, 9) and is written in place.
    """
    head = soc - lag
    if cut and head > RECONNECT_HEAD:
        cut = False
    served = 0.0 if cut else 1.0
    point = operating_point(curves, limits, soc, head)
    bus_v, load_a, into, held = balance(chargers, demand_w * served, point, guess_v)
    if served > 0.0 and demand_w > 0.0 and (into < 0.0 or bus_v <= 0.0):
        fit = 0.0
        if bus_v > 0.0:
            fit = share_before_cutoff(limits, point, head, into)
        if fit < 1.0:
            # Serve the part of the step before it trips, as a mean over the whole step.
            served = fit
            cut = True
            bus_v, load_a, into, held = balance(chargers, demand_w * served, point, point.ocv)
    charge = into * limits.soc_per_a
    lag = lag * limits.lag_decay
    if into > 0.0:
        soc = min(1.0, soc + curve_at(curves, COULOMBIC, soc) * charge)
    else:
        soc = soc + charge
        lag -= into * limits.lag_gain
    advance_stages(chargers, bus_v, into, held or soc > NEARLY_FULL)
    return soc, lag, cut, bus_v, load_a, into, served


@njit(cache=True, error_model="numpy")
def run_steps(
    curves: Floats,
    limits: BankLimits,
    offer_w: Floats,
    limit_a: Floats,
    chargers: Floats,
    demand_w: Floats,
    soc0: float,
    states: Floats,
    means: Floats,
    taken_a: Floats,
    stages: Floats,
) -> None:
    """The loop itself, on bare arrays; see `drive`."""
    soc, lag, cut = soc0, 0.0, False
    bus_v = curve_at(curves, OCV_V, soc0)
    for i in range(demand_w.shape[0]):
        states[0, i] = soc
        states[1, i] = lag
        for j in range(chargers.shape[0]):
            chargers[j, OFFER_W] = offer_w[j, i]
            chargers[j, LIMIT_A] = limit_a[j, i]
        soc, lag, cut, bus_v, load_a, into_a, served = step(
            curves, limits, chargers, demand_w[i], soc, lag, cut, bus_v
        )
        means[0, i] = bus_v
        means[1, i] = load_a
        means[2, i] = into_a
        means[3, i] = served
        for j in range(chargers.shape[0]):
            taken_a[j, i] = chargers[j, TAKEN_A]
            stages[j, i] = chargers[j, STAGE]
    states[0, demand_w.shape[0]] = soc
    states[1, demand_w.shape[0]] = lag


def drive(bank: BankTables, sources: Sources, demand_w: Floats, soc0: float) -> Track:
    """Run every step of one future from `soc0` (0..1) and return its series.

    `demand_w` is (steps,) power asked of the bus [W]; `bank` knows the length of a step.
    """
    count, steps = sources.limit_a.shape
    chargers = np.zeros((count, 9))
    chargers[:, ABSORB_V : ABSORB_STEPS + 1] = sources.settings
    states = np.empty((2, steps + 1))
    means = np.empty((4, steps))
    taken_a = np.empty((count, steps))
    stages = np.empty((count, steps))
    run_steps(
        bank.curves,
        bank.limits,
        sources.offer_w,
        sources.limit_a,
        chargers,
        demand_w,
        soc0,
        states,
        means,
        taken_a,
        stages,
    )
    return Track(states[0], states[1], means[0], means[1], means[2], means[3], taken_a, stages)
