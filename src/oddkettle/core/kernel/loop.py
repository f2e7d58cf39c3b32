"""The one stepping loop. Compiled once, kept on disk, and used by every feature.

A step readies the banks at their state and temperature, decides what is switched on, finds the
bus voltage, and moves the state on. Everything is a function of the bus voltage: what sources
and loads leave over must equal what the banks take at it. Newton's method finds it, in one turn
on most steps, because the last voltage is a good guess. Charge is the conserved quantity; the
ledger turns the series into sums.

Each concern is a function of its own that the compiler puts in line (`forceinline`): the machine
code is that of one long loop.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.kernel.arithmetic import heater_share
from oddkettle.core.kernel.bank_step import most_into_a, move_bank, ready_bank
from oddkettle.core.kernel.bus import settle_bus
from oddkettle.core.kernel.compiler import bare, inlined
from oddkettle.core.kernel.constants import RECONNECT_HEAD
from oddkettle.core.kernel.records import Records
from oddkettle.core.kernel.source_step import line_up, move_stage

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

RESTORE_SOC = 0.05
"""A load that was switched off by level comes back 5 points above it [judgement]."""


@inlined
def groups_off(shed: int, level: float, shed_below: Floats) -> int:
    """How many groups of loads are off at a level, when `shed` were before."""
    while shed < len(shed_below) and level < shed_below[shed]:
        shed += 1
    while shed > 0 and level > shed_below[shed - 1] + RESTORE_SOC:
        shed -= 1
    return shed


@inlined
def output_off(box: Any, switches: Any) -> int:
    """1 while a controller's load output is off: from its low voltage up to its reconnection.

    It goes by the bus voltage of the step before.
    """
    if box.output_off_v <= 0.0:
        switches.output_off = 0.0
    elif switches.bus_v < box.output_off_v:
        switches.output_off = 1.0
    elif switches.bus_v > box.output_on_v:
        switches.output_off = 0.0
    return int(switches.output_off)


@inlined
def pads_w(box: Any, bank: Any, celsius: float, air_c: float, switches: Any) -> float:
    """What the heater pads take in this step [W], by their thermostat."""
    if box.heater_w <= 0.0:
        return 0.0
    if celsius >= box.heat_until_c:
        switches.heating = 0.0
    elif celsius < box.heat_below_c:
        switches.heating = 1.0
    if switches.heating <= 0.0:
        return 0.0
    return box.heater_w * heater_share(
        celsius,
        box.heat_until_c,
        air_c + bank.offset_k,
        bank.heat_decay,
        box.heater_w * bank.k_per_w * (1.0 - bank.heat_decay),
    )


@bare
def run_steps(
    curves: Records,
    by_temperature: Records,
    banks: Records,
    states: Records,
    joined: Ints,
    offers: Records,
    chargers: Records,
    asked: Records,
    shed_below: Floats,
    box: Any,
    switches: Any,
    air_c: Floats,
    steps_out: Records,
    states_out: Records,
    flows_out: Records,
    taken_out: Records,
    points: Records,
    active: Ints,
) -> None:
    """Run every step; shapes and units as `run.drive` tells, records as `records` names them.

    states, chargers and switches are moved on in place. Where there is a load output, `asked` has
    its levels twice: with what hangs on it, and without.
    """
    levels = len(shed_below) + 1
    for i in range(len(asked)):
        on_bus = joined[i]
        held = capacity = most = room_head = 0.0
        for b in range(len(states)):
            states_out[i, b] = states[b]
            ready_bank(b, curves, by_temperature, banks[b], states[b], points[b])
            if b < on_bus:
                most += most_into_a(banks[b], states[b])
                held += states[b].soc * banks[b].capacity_ah
                capacity += banks[b].capacity_ah
                room_head = max(room_head, points[b].head - points[b].empty)
        level = held / capacity

        if switches.cut > 0.0 and room_head > RECONNECT_HEAD:
            switches.cut = 0.0
        shed = groups_off(int(switches.shed), level, shed_below)
        switches.shed = shed
        column = shed + levels * output_off(box, switches)
        heat_w = pads_w(box, banks[0], states[0].temperature_c, air_c[i], switches)
        count = line_up(i, offers, chargers, points, on_bus, most, states[0].temperature_c, active)
        volts, drawn, into, served = settle_bus(
            i,
            offers,
            chargers,
            active,
            count,
            points,
            banks,
            on_bus,
            asked[i, column].power_w + heat_w,
            asked[i, column].current_a,
            asked[i, column].conductance_s,
            box.shared_a,
            switches,
        )

        heat_w *= served
        for b in range(len(states)):
            move_bank(banks[b], states[b], points[b], heat_w if b == 0 else 0.0, air_c[i])
            flows_out[i, b].bank_a = points[b].into_a
            flows_out[i, b].leak = points[b].leak_soc
            charging = points[b].into_a > 0.0
            flows_out[i, b].met_ohm = points[b].take_ohm if charging else points[b].ohm
        for a in range(count):
            if chargers[active[a]].feed_s == 0.0:
                move_stage(chargers[active[a]], volts, level, into)
        switches.bus_v = volts
        steps_out[i].bus_v = volts
        steps_out[i].load_a = drawn
        steps_out[i].into_bank_a = into
        steps_out[i].served = served
        steps_out[i].shed = shed
        steps_out[i].output_off = switches.output_off
        steps_out[i].heater_w = heat_w
        for j in range(len(chargers)):
            taken_out[i, j].taken_a = chargers[j].taken_a
            taken_out[i, j].stage = chargers[j].stage
    for b in range(len(states)):
        states_out[len(asked), b] = states[b]
