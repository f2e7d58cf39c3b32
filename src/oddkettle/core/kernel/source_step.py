"""Sources within one step: which are on and in what order, what each gives, and their stages."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.kernel.compiler import inlined
from oddkettle.core.kernel.constants import REFERENCE_C
from oddkettle.core.kernel.records import ABSORPTION, BULK, FLOAT, SECOND, Records

RELAY_SET_V = 1e9
"""A relay is no charger: what its wire lets through comes before all others."""
REBULK_DROP_V = 0.3
"""A charger in float starts again when the bus sags this far below float [judgement]."""
NEARLY_FULL = 0.99
"""Above this a charger counts as in absorption whatever holds it back [judgement]."""


@inlined
def stage_v(charger: Any) -> float:
    """The voltage that a charger holds in its stage [V]."""
    volts: float = charger.absorb_v
    if charger.stage == FLOAT:
        volts = charger.float_v
    elif charger.stage == SECOND:
        volts = charger.second_v
    return volts


@inlined
def line_up(
    i: int,
    offers: Records,
    chargers: Records,
    points: Records,
    on_bus: int,
    most_a: float,
    celsius: float,
    active: NDArray[np.int64],
) -> int:
    """Name the sources that are on, highest set point first; how many they are.

    Each is told what its set point lets into the banks: `cap_a`.
    """
    count = 0
    for j in range(len(chargers)):
        if offers[i, j].limit_a <= 0.0:
            chargers[j].taken_a = chargers[j].waited = 0.0
            chargers[j].stage = BULK
            continue
        chargers[j].cap_a = most_a
        chargers[j].set_v = RELAY_SET_V
        if chargers[j].feed_s == 0.0:
            volts = stage_v(chargers[j]) + chargers[j].comp_v_per_k * (celsius - REFERENCE_C)
            chargers[j].set_v = volts
            lifted = 0.0
            for b in range(on_bus):
                lift = volts - points[b].hold_v
                lifted += lift / (points[b].hold_ohm if lift > 0.0 else points[b].hold_give_ohm)
            chargers[j].cap_a = min(most_a, lifted)
        # Who holds a higher voltage keeps those below it from giving; equals go by order.
        place = count
        while place > 0 and chargers[active[place - 1]].set_v < chargers[j].set_v:
            active[place] = active[place - 1]
            place -= 1
        active[place] = j
        count += 1
    return count


@inlined
def sources_at(
    volts: float,
    i: int,
    offers: Records,
    chargers: Records,
    active: NDArray[np.int64],
    count: int,
    shared_a: float,
    drawn: float,
    d_drawn: float,
    served: float,
) -> tuple[float, float]:
    """(current, its slope by volt) of all sources at a bus voltage [A, S].

    `drawn` and `d_drawn` are the loads'; what a source gives goes into its `taken_a`.
    """
    per_v = 1.0 / volts
    total = d_total = 0.0
    shared = shared_a
    for a in range(count):
        j = active[a]
        limit = offers[i, j].limit_a
        if chargers[j].feed_s > 0.0:
            taken = (offers[i, j].emf_v - volts) * chargers[j].feed_s
            slope = -chargers[j].feed_s
            # Only a relay that is forced closed lets current back out, and only until the box
            # cuts out.
            open_back = offers[i, j].power_w > 0.0 and served == 1.0
            least = -limit if open_back else 0.0
            if taken < least:
                taken, slope = least, 0.0
        else:
            taken = offers[i, j].power_w * per_v
            slope = -taken * per_v
        if taken > limit:
            taken, slope = limit, 0.0
        if chargers[j].shared > 0.0:
            if taken > shared:
                taken, slope = shared, 0.0
            shared -= taken
        room = chargers[j].cap_a + drawn - total
        chargers[j].held = 0.0
        if taken > room:
            chargers[j].held = 1.0
            if chargers[j].shared > 0.0:
                shared += taken - max(room, 0.0)
            taken, slope = max(room, 0.0), d_drawn - d_total if room > 0.0 else 0.0
        total += taken
        d_total += slope
        chargers[j].taken_a = taken
    return total, d_total


@inlined
def move_stage(charger: Any, volts: float, level: float, into: float) -> None:
    """A charger's stage after a step at `volts`, with `into` amperes going into the banks."""
    if charger.stage == FLOAT:
        charger.waited += 1.0
        tired = 0.0 < charger.refresh_steps <= charger.waited
        if tired or volts < charger.float_v - REBULK_DROP_V:
            charger.stage = BULK
            charger.waited = 0.0
    elif charger.stage == SECOND:
        charger.waited += 1.0
        if charger.waited >= charger.second_steps:
            charger.stage = FLOAT
            charger.waited = 0.0
    elif charger.held > 0.0 or level > NEARLY_FULL:
        charger.stage = ABSORPTION
        charger.waited += 1.0
        if into < charger.tail_a or charger.waited >= charger.absorb_steps:
            charger.stage = SECOND if charger.second_steps > 0.0 else FLOAT
            charger.waited = 0.0
