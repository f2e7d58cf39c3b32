"""The one stepping loop. Compiled once, cached on disk, and used by every feature.

A step readies the banks at their state and temperature, decides what is switched on, finds the
bus voltage, and moves the state on. Everything is a function of the bus voltage: what sources
and loads leave over must equal what the banks take at it. Newton's method finds it, in one turn
on most steps, because the last voltage is a good guess. Charge is the conserved quantity;
`ledger.py` turns the series into sums.

The loop is one long function on purpose. Handing arrays to a helper costs the compiled code an
atomic reference count each way; split into helpers the same loop took four times as long. What
is pure arithmetic stands in small functions of its own (`pieces.py`), which cost nothing.
"""

from __future__ import annotations

import numpy as np
from numba import njit
from numpy.typing import NDArray

from oddkettle.core import bank, layout
from oddkettle.core.pieces import heater_share, line, most_charge_a, part_above, warmth_row

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

PER_STEP = 1.0 / bank.GRID_STEP
MOST_TURNS = 40
NEAR_V = 0.02
"""After a move smaller than this the currents are read once more and the search ends: Newton's
next move would be below a hundredth of a millivolt."""
LEAST_STIFFNESS_S, LONGEST_MOVE = 1e-3, 0.4
COLLAPSE_SHARE = 0.6
"""A bus that falls under this share of the rested voltage cannot be carried at all: no load on
it would work, and a constant power has no solution much below."""
RELAY_SET_V = 1e9
"""A relay is no charger: what its wire lets through comes before all others."""
REBULK_DROP_V = 0.3
"""A charger in float starts again when the bus sags this far below float [judgement]."""
NEARLY_FULL = 0.99
"""Above this a charger counts as in absorption whatever holds it back [judgement]."""
RESTORE_SOC = 0.05
"""A load that was switched off by level comes back 5 points above it [judgement]."""


@njit(cache=True, error_model="numpy")
def run_steps(  # noqa: PLR0912, PLR0915 - see the module's docstring
    curves: Floats,
    by_temperature: Floats,
    fixed: Floats,
    state: Floats,
    joined: Ints,
    offers: Floats,
    chargers: Floats,
    asked: Floats,
    shed_below: Floats,
    settings: Floats,
    switches: Floats,
    air: Floats,
    said: Floats,
    states: Floats,
    flows: Floats,
    taken_out: Floats,
) -> None:
    """Run every step on bare arrays; shapes and units are told in `layout.py` and by `drive`."""
    banks, sources, sheds = state.shape[0], chargers.shape[0], shed_below.shape[0]
    points = np.zeros((banks, layout.KEPT + 1))
    active = np.zeros(sources, np.int64)
    for i in range(asked.shape[0]):
        on_bus = joined[i]
        # --- Each bank at its state and temperature: voltages, conductances and limits.
        held = capacity = most = room_head = 0.0
        for b in range(banks):
            soc, lag, warmth = state[b, layout.SOC], state[b, layout.LAG], state[b, layout.WARMTH_C]
            for c in range(3):
                states[i, b, c] = state[b, c]
            m = warmth_row(warmth)
            head = soc - lag
            x = (head - bank.GRID_LOW) * PER_STEP
            k = int(x)
            x -= k
            rise = curves[b, k + 1, bank.OCV_V] - curves[b, k, bank.OCV_V]
            rest = curves[b, k, bank.OCV_V] + x * rise
            rise *= PER_STEP
            ohm = fixed[b, bank.LEAD_OHM] + by_temperature[b, m, bank.OHM_FACTOR] * line(
                curves[b, k, bank.CELL_OHM], curves[b, k + 1, bank.CELL_OHM], x
            )
            y = (soc - bank.GRID_LOW) * PER_STEP
            n = int(y)
            y -= n
            take_ohm = max(
                ohm,
                by_temperature[b, m, bank.ACCEPT_FACTOR]
                * line(curves[b, n, bank.ACCEPT_OHM], curves[b, n + 1, bank.ACCEPT_OHM], y),
            )
            # Within the step the rested voltage drifts with charge and recovers with the lag.
            up = rise * fixed[b, bank.SOC_PER_A]
            down = up + rise * fixed[b, bank.LAG_GAIN]
            recovers = rise * lag * (1.0 - fixed[b, bank.LAG_DECAY])
            points[b, layout.REST_V] = rest + 0.5 * recovers
            points[b, layout.GIVE_S] = 1.0 / (ohm + 0.5 * down)
            points[b, layout.TAKE_S] = 1.0 / (take_ohm + 0.5 * up)
            points[b, layout.HOLD_OHM] = take_ohm + up
            points[b, layout.HOLD_GIVE_OHM] = ohm + down
            points[b, layout.HOLD_V] = rest + recovers
            points[b, layout.DRIFT_OHM] = down
            points[b, layout.OHM] = ohm
            points[b, layout.HEAD] = head
            points[b, layout.EMPTY] = by_temperature[b, m, bank.EMPTY_HEAD]
            leak = by_temperature[b, m, bank.LEAK]
            points[b, layout.LEAK_SOC] = leak if soc > leak else 0.0
            points[b, layout.KEPT] = line(
                curves[b, n, bank.COULOMBIC], curves[b, n + 1, bank.COULOMBIC], y
            )
            points[b, layout.INTO_A] = points[b, layout.PINNED_A] = 0.0
            if b < on_bus:
                # Never past full within the step, whatever a charger is set to.
                most += max(
                    min(
                        fixed[b, bank.CHARGE_LIMIT_A],
                        (1.0 - soc) * fixed[b, bank.FILL_A],
                        most_charge_a(
                            warmth,
                            fixed[b, bank.BARRED_C],
                            fixed[b, bank.GENTLE_C],
                            fixed[b, bank.GENTLE_A],
                        ),
                    ),
                    0.0,
                )
                held += soc * fixed[b, bank.CAPACITY_AH]
                capacity += fixed[b, bank.CAPACITY_AH]
                room_head = max(room_head, head - points[b, layout.EMPTY])
        level = held / capacity

        # --- What is switched on: cut-off, groups shed by level, heater pads.
        if switches[layout.CUT] > 0.0 and room_head > bank.RECONNECT_HEAD:
            switches[layout.CUT] = 0.0
        shed = int(switches[layout.SHED])
        while shed < sheds and level < shed_below[shed]:
            shed += 1
        while shed > 0 and level > shed_below[shed - 1] + RESTORE_SOC:
            shed -= 1
        switches[layout.SHED] = shed
        heat_w = 0.0
        if settings[layout.HEATER_W] > 0.0:
            warmth = state[0, layout.WARMTH_C]
            if warmth >= settings[layout.HEAT_UNTIL_C]:
                switches[layout.HEATING] = 0.0
            elif warmth < settings[layout.HEAT_BELOW_C]:
                switches[layout.HEATING] = 1.0
            if switches[layout.HEATING] > 0.0:
                heat_w = settings[layout.HEATER_W] * heater_share(
                    warmth,
                    settings[layout.HEAT_UNTIL_C],
                    air[i] + fixed[0, bank.OFFSET_K],
                    fixed[0, bank.HEAT_DECAY],
                    settings[layout.HEATER_W]
                    * fixed[0, bank.K_PER_W]
                    * (1.0 - fixed[0, bank.HEAT_DECAY]),
                )
        served = 1.0 if switches[layout.CUT] == 0.0 else 0.0
        whole_w = asked[i, shed, layout.ASK_W] + heat_w
        whole_a, whole_s = asked[i, shed, layout.ASK_A], asked[i, shed, layout.ASK_S]

        # --- The sources that are on, and what each one's set point lets into the banks.
        count = 0
        for j in range(sources):
            if offers[i, j, layout.LIMIT_A] <= 0.0:
                chargers[j, layout.TAKEN_A] = chargers[j, layout.WAITED] = 0.0
                chargers[j, layout.STAGE] = layout.BULK
                continue
            chargers[j, layout.CAP_A] = most
            chargers[j, layout.SET_V] = RELAY_SET_V
            if chargers[j, layout.FEED_S] == 0.0:
                volts = (
                    chargers[j, layout.FLOAT_V]
                    if chargers[j, layout.STAGE] == layout.FLOAT
                    else chargers[j, layout.ABSORB_V]
                ) + chargers[j, layout.COMP_V_PER_K] * (
                    state[0, layout.WARMTH_C] - bank.REFERENCE_C
                )
                chargers[j, layout.SET_V] = volts
                lifted = 0.0
                for b in range(on_bus):
                    lift = volts - points[b, layout.HOLD_V]
                    lifted += lift / (
                        points[b, layout.HOLD_OHM]
                        if lift > 0.0
                        else points[b, layout.HOLD_GIVE_OHM]
                    )
                chargers[j, layout.CAP_A] = min(most, lifted)
            # Who holds a higher voltage keeps those below it from giving; equals go by order.
            place = count
            while (
                place > 0 and chargers[active[place - 1], layout.SET_V] < chargers[j, layout.SET_V]
            ):
                active[place] = active[place - 1]
                place -= 1
            active[place] = j
            count += 1

        # --- The bus. Solved again when a bank of two runs empty, or the box cuts out, within it.
        volts = max(switches[layout.BUS_V], 0.9 * points[0, layout.REST_V])
        drawn = into = total = 0.0
        pinned_before = cut_before = False
        while True:
            settled = False
            low_v, high_v = 0.0, 1e9
            for turn in range(MOST_TURNS):
                per_v = 1.0 / volts
                load_w, load_s = whole_w * served, whole_s * served
                drawn = load_w * per_v + whole_a * served + load_s * volts
                d_drawn = load_s - load_w * per_v * per_v
                total = d_total = 0.0
                shared = settings[layout.SHARED_A]
                for a in range(count):
                    j = active[a]
                    limit = offers[i, j, layout.LIMIT_A]
                    if chargers[j, layout.FEED_S] > 0.0:
                        taken = (offers[i, j, layout.EMF_V] - volts) * chargers[j, layout.FEED_S]
                        slope = -chargers[j, layout.FEED_S]
                        # Only a relay that is forced closed lets current back out, and only
                        # until the box cuts out.
                        open_back = offers[i, j, layout.OFFER_W] > 0.0 and served == 1.0
                        least = -limit if open_back else 0.0
                        if taken < least:
                            taken, slope = least, 0.0
                    else:
                        taken = offers[i, j, layout.OFFER_W] * per_v
                        slope = -taken * per_v
                    if taken > limit:
                        taken, slope = limit, 0.0
                    if chargers[j, layout.SHARED] > 0.0:
                        if taken > shared:
                            taken, slope = shared, 0.0
                        shared -= taken
                    room = chargers[j, layout.CAP_A] + drawn - total
                    chargers[j, layout.HELD] = 0.0
                    if taken > room:
                        chargers[j, layout.HELD] = 1.0
                        if chargers[j, layout.SHARED] > 0.0:
                            shared += taken - max(room, 0.0)
                        taken, slope = max(room, 0.0), d_drawn - d_total if room > 0.0 else 0.0
                    total += taken
                    d_total += slope
                    chargers[j, layout.TAKEN_A] = taken
                into = total - drawn
                if settled or turn == MOST_TURNS - 1:
                    break
                bank_a = siemens = 0.0
                for b in range(on_bus):
                    if points[b, layout.PINNED_A] < 0.0:
                        bank_a += points[b, layout.PINNED_A]
                    else:
                        lift = volts - points[b, layout.REST_V]
                        s = points[b, layout.TAKE_S] if lift > 0.0 else points[b, layout.GIVE_S]
                        bank_a += lift * s
                        siemens += s
                # A constant power may outrun what a nearly full bank takes less: then go far; a
                # kink stops the move, or the bus collapses.
                stiffness = max(siemens + d_drawn - d_total, LEAST_STIFFNESS_S)
                furthest = LONGEST_MOVE * volts
                move = min(max((into - bank_a) / stiffness, -furthest), furthest)
                if move > 0.0:
                    low_v = volts
                else:
                    high_v = volts
                target = volts + move
                # Two kinks may pass the ball to each other: halving the bracket ends that.
                if target >= high_v if move > 0.0 else target <= low_v:
                    target = 0.5 * (low_v + high_v)
                settled = abs(target - volts) < NEAR_V
                # A bank takes far less than it gives when nearly full: stop at that kink.
                for b in range(on_bus):
                    rest = points[b, layout.REST_V]
                    if (volts <= rest) != (target <= rest):
                        settled = False
                        if volts != rest:
                            target = rest if volts > rest else rest + 1e-9
                volts = target
                if not volts > COLLAPSE_SHARE * points[0, layout.REST_V]:
                    volts = 0.0
                    break
            if volts <= 0.0 and cut_before and served > 0.0:
                # Not even that part can be carried: nothing is.
                served, volts, pinned_before = 0.0, points[0, layout.REST_V], False
                points[:, layout.PINNED_A] = 0.0
                continue
            # Currents of the banks; what the search left over is shared by conductance, so that
            # charge closes to the last digit.
            if on_bus == 1:
                points[0, layout.INTO_A] = into
            else:
                left, siemens = into, 0.0
                for b in range(on_bus):
                    lift = volts - points[b, layout.REST_V]
                    s = points[b, layout.TAKE_S] if lift > 0.0 else points[b, layout.GIVE_S]
                    points[b, layout.INTO_A] = lift * s
                    if points[b, layout.PINNED_A] < 0.0:
                        points[b, layout.INTO_A] = points[b, layout.PINNED_A]
                        s = 0.0
                    left -= points[b, layout.INTO_A]
                    siemens += s
                for b in range(on_bus):
                    if points[b, layout.PINNED_A] == 0.0:
                        s = (
                            points[b, layout.TAKE_S]
                            if volts > points[b, layout.REST_V]
                            else points[b, layout.GIVE_S]
                        )
                        points[b, layout.INTO_A] += left * s / siemens
            # One bank may run empty into the other, whatever comes in from outside.
            short = 0
            for b in range(on_bus if on_bus > 1 and volts > 0.0 and not pinned_before else 0):
                fall = fixed[b, bank.SOC_PER_A] + fixed[b, bank.LAG_GAIN]
                room = max(points[b, layout.HEAD] - points[b, layout.EMPTY], 0.0)
                if -points[b, layout.INTO_A] * fall > room:
                    points[b, layout.PINNED_A] = min(-room / fall, -1e-12)
                    short += 1
            if 0 < short < on_bus:
                pinned_before = True
                continue
            for b in range(on_bus if short == on_bus else 0):
                points[b, layout.PINNED_A] = 0.0
            if served == 0.0 or cut_before or (into >= 0.0 and volts > 0.0):
                break
            fit = 0.0
            if volts > 0.0:
                drift = siemens = cutoff = 0.0
                lasts = 1.0
                for b in range(on_bus):
                    amps = -points[b, layout.INTO_A]
                    cutoff = max(cutoff, fixed[b, bank.CUTOFF_V])
                    if amps <= 0.0:
                        continue
                    fall = amps * (fixed[b, bank.SOC_PER_A] + fixed[b, bank.LAG_GAIN])
                    room = max(points[b, layout.HEAD] - points[b, layout.EMPTY], 0.0)
                    lasts = min(lasts, room / fall)
                    drift += amps * points[b, layout.DRIFT_OHM] * points[b, layout.GIVE_S]
                    siemens += points[b, layout.GIVE_S]
                drift /= max(siemens, 1e-12)
                fit = min(lasts, part_above(volts + 0.5 * drift, volts - 0.5 * drift, cutoff))
            if fit >= 1.0 or (whole_w + whole_a + whole_s <= 0.0 and total >= 0.0):
                break
            # Serve the part of the step before it trips, as a mean over the whole step. What a bank
            # ran empty into went with it: it is free again, or it would be pressed into the other.
            served, cut_before, switches[layout.CUT] = fit, True, 1.0
            points[:, layout.PINNED_A], pinned_before = 0.0, False
            volts = points[0, layout.REST_V]

        # --- Charge, lag and temperature move on; so do the chargers' stages.
        heat_w *= served
        for b in range(banks):
            amps = points[b, layout.INTO_A]
            charge = amps * fixed[b, bank.SOC_PER_A]
            lag = state[b, layout.LAG] * fixed[b, bank.LAG_DECAY]
            if amps > 0.0:
                charge *= points[b, layout.KEPT]
            else:
                lag -= amps * fixed[b, bank.LAG_GAIN]
            state[b, layout.SOC] = min(
                1.0, state[b, layout.SOC] + charge - points[b, layout.LEAK_SOC]
            )
            state[b, layout.LAG] = lag
            warms_w = amps * amps * points[b, layout.OHM] + (heat_w if b == 0 else 0.0)
            rest = air[i] + fixed[b, bank.OFFSET_K] + warms_w * fixed[b, bank.K_PER_W]
            state[b, layout.WARMTH_C] = (
                rest + (state[b, layout.WARMTH_C] - rest) * fixed[b, bank.HEAT_DECAY]
            )
            flows[i, b, 0] = amps
            flows[i, b, 1] = points[b, layout.LEAK_SOC]
        for a in range(count):
            j = active[a]
            if chargers[j, layout.FEED_S] > 0.0:
                continue
            if chargers[j, layout.STAGE] == layout.FLOAT:
                if volts < chargers[j, layout.FLOAT_V] - REBULK_DROP_V:
                    chargers[j, layout.STAGE] = layout.BULK
                    chargers[j, layout.WAITED] = 0.0
            elif chargers[j, layout.HELD] > 0.0 or level > NEARLY_FULL:
                chargers[j, layout.STAGE] = layout.ABSORPTION
                chargers[j, layout.WAITED] += 1.0
                if (
                    into < chargers[j, layout.TAIL_A]
                    or chargers[j, layout.WAITED] >= chargers[j, layout.ABSORB_STEPS]
                ):
                    chargers[j, layout.STAGE] = layout.FLOAT
        switches[layout.BUS_V] = volts
        said[i, layout.SAID_V] = volts
        said[i, layout.SAID_LOAD_A] = drawn
        said[i, layout.SAID_INTO_A] = into
        said[i, layout.SAID_SERVED] = served
        said[i, layout.SAID_SHED] = shed
        said[i, layout.SAID_HEATER_W] = heat_w
        for j in range(sources):
            taken_out[i, j, 0] = chargers[j, layout.TAKEN_A]
            taken_out[i, j, 1] = chargers[j, layout.STAGE]
    for b in range(banks):
        for c in range(3):
            states[asked.shape[0], b, c] = state[b, c]
