"""The bus within one step: the voltage at which what comes and goes agrees with what banks take."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.kernel.arithmetic import part_above
from oddkettle.core.kernel.compiler import inlined
from oddkettle.core.kernel.records import Records
from oddkettle.core.kernel.source_step import sources_at

MAX_TURNS = 40
NEAR_V = 0.02
"""After a move smaller than this the currents are read once more and the search ends: Newton's
next move would be below a hundredth of a millivolt, but where a kink lay within the last one."""
KINK_S = 0.05
"""A source whose slope has changed by more has met a limit on the way: the search goes on."""
NARROW_V = 1e-4
"""Two kinks that have come this close are one: the search ends between them."""
MIN_STIFFNESS_S, LONGEST_MOVE = 1e-3, 0.4
COLLAPSE_SHARE = 0.6
"""A bus that falls under this share of the rested voltage cannot be carried at all: no load on
it would work, and a constant power has no solution much below."""


@inlined
def find_voltage(
    volts: float,
    i: int,
    offers: Records,
    chargers: Records,
    active: NDArray[np.int64],
    count: int,
    shared_a: float,
    points: Records,
    on_bus: int,
    load_w: float,
    load_a: float,
    load_s: float,
    served: float,
) -> tuple[float, float, float, float]:
    """(bus voltage, loads' current, current into the banks, sources' current).

    Newton's method from `volts` on; a voltage of 0 is a bus that collapses.
    """
    drawn = into = total = slope = 0.0
    settled = False
    low_v, high_v = 0.0, 1e9
    for turn in range(MAX_TURNS):
        per_v = 1.0 / volts
        drawn = load_w * per_v + load_a + load_s * volts
        d_drawn = load_s - load_w * per_v * per_v
        total, d_total = sources_at(
            volts, i, offers, chargers, active, count, shared_a, drawn, d_drawn, served
        )
        into = total - drawn
        if (settled and abs(d_total - slope) < KINK_S) or turn == MAX_TURNS - 1:
            break
        slope = d_total
        bank_a = siemens = 0.0
        for b in range(on_bus):
            if points[b].pinned_a < 0.0:
                bank_a += points[b].pinned_a
            else:
                lift = volts - points[b].rest_v
                s = points[b].take_s if lift > 0.0 else points[b].give_s
                bank_a += lift * s
                siemens += s
        # A constant power may outrun what a nearly full bank takes less: then go far; a kink
        # stops the move, or the bus collapses.
        stiffness = max(siemens + d_drawn - d_total, MIN_STIFFNESS_S)
        furthest = LONGEST_MOVE * volts
        move = min(max((into - bank_a) / stiffness, -furthest), furthest)
        if move > 0.0:
            low_v = volts
        else:
            high_v = volts
        target = volts + move
        settled = abs(move) < NEAR_V
        # Two kinks may pass the ball to each other: halving the bracket ends that.
        if target >= high_v if move > 0.0 else target <= low_v:
            target = 0.5 * (low_v + high_v)
            settled = high_v - low_v < NARROW_V
        # A bank takes far less than it gives when nearly full: stop at that kink.
        for b in range(on_bus):
            rest = points[b].rest_v
            if (volts <= rest) != (target <= rest):
                settled = False
                if volts != rest:
                    target = rest if volts > rest else rest + 1e-9
        volts = target
        if not volts > COLLAPSE_SHARE * points[0].rest_v:
            volts = 0.0
            break
    return volts, drawn, into, total


@inlined
def share_out(volts: float, into: float, points: Records, on_bus: int) -> None:
    """Each bank's current; what the search left over goes by conductance, so that charge closes."""
    if on_bus == 1:
        points[0].into_a = into
        return
    left, siemens = into, 0.0
    for b in range(on_bus):
        lift = volts - points[b].rest_v
        s = points[b].take_s if lift > 0.0 else points[b].give_s
        points[b].into_a = lift * s
        if points[b].pinned_a < 0.0:
            points[b].into_a = points[b].pinned_a
            s = 0.0
        left -= points[b].into_a
        siemens += s
    for b in range(on_bus):
        if points[b].pinned_a == 0.0:
            s = points[b].take_s if volts > points[b].rest_v else points[b].give_s
            points[b].into_a += left * s / siemens


@inlined
def pin_emptying(points: Records, banks: Records, on_bus: int) -> int:
    """Hold banks that would run empty to what they have left; how many they are."""
    short = 0
    for b in range(on_bus):
        fall = banks[b].soc_per_a + banks[b].lag_gain
        room = max(points[b].head - points[b].empty, 0.0)
        if -points[b].into_a * fall > room:
            points[b].pinned_a = min(-room / fall, -1e-12)
            short += 1
    return short


@inlined
def let_go(points: Records) -> None:
    """Free all banks from what was pinned."""
    for b in range(len(points)):
        points[b].pinned_a = 0.0


@inlined
def part_carried(volts: float, points: Records, banks: Records, on_bus: int) -> float:
    """Share of the step for which the banks carry what is asked, 0..1."""
    if not volts > 0.0:
        return 0.0
    drift = siemens = cutoff = 0.0
    lasts = 1.0
    for b in range(on_bus):
        amps = -points[b].into_a
        cutoff = max(cutoff, banks[b].cutoff_v)
        if amps <= 0.0:
            continue
        fall = amps * (banks[b].soc_per_a + banks[b].lag_gain)
        room = max(points[b].head - points[b].empty, 0.0)
        lasts = min(lasts, room / fall)
        drift += amps * points[b].drift_ohm * points[b].give_s
        siemens += points[b].give_s
    drift /= max(siemens, 1e-12)
    return min(lasts, part_above(volts + 0.5 * drift, volts - 0.5 * drift, cutoff))


@inlined
def settle_bus(
    i: int,
    offers: Records,
    chargers: Records,
    active: NDArray[np.int64],
    count: int,
    points: Records,
    banks: Records,
    on_bus: int,
    whole_w: float,
    whole_a: float,
    whole_s: float,
    shared_a: float,
    switches: Any,
) -> tuple[float, float, float, float]:
    """(bus voltage, loads' current, current into the banks, share of the step that is served).

    Solved again when a bank of two runs empty, or the box cuts out, within the step.
    """
    served = 1.0 if switches.cut == 0.0 else 0.0
    volts = max(switches.bus_v, 0.9 * points[0].rest_v)
    drawn = into = 0.0
    pinned_before = cut_before = False
    while True:
        volts, drawn, into, total = find_voltage(
            volts,
            i,
            offers,
            chargers,
            active,
            count,
            shared_a,
            points,
            on_bus,
            whole_w * served,
            whole_a * served,
            whole_s * served,
            served,
        )
        if volts <= 0.0 and cut_before and served > 0.0:
            # Not even that part can be carried: nothing is.
            served, volts, pinned_before = 0.0, points[0].rest_v, False
            let_go(points)
            continue
        share_out(volts, into, points, on_bus)
        # One bank may run empty into the other, whatever comes in from outside.
        if on_bus > 1 and volts > 0.0 and not pinned_before:
            short = pin_emptying(points, banks, on_bus)
            if 0 < short < on_bus:
                pinned_before = True
                continue
            if short == on_bus:
                let_go(points)
        if served == 0.0 or cut_before or (into >= 0.0 and volts > 0.0):
            break
        fit = part_carried(volts, points, banks, on_bus)
        if fit >= 1.0 or (whole_w + whole_a + whole_s <= 0.0 and total >= 0.0):
            break
        # Serve the part of the step before it trips, as a mean over the whole step. What a bank
        # ran empty into went with it: it is free again, or it would be pressed into the other.
        served, cut_before, switches.cut = fit, True, 1.0
        let_go(points)
        pinned_before = False
        volts = points[0].rest_v
    return volts, drawn, into, served
