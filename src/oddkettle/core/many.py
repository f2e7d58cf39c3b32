"""The stepping loop over many futures: the same compiled step, with the forcing laid inside.

What differs between futures is laid by compiled code too, because laying 200 futures as arrays
would take longer than running them: the arrays' offers come from a table by clearness, the loads
are scaled, the air follows each future's days. A future is run a day at a time, so that one that
has failed can end where nobody asks what comes after.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

from oddkettle.core import bank, layout
from oddkettle.core.kernel import run_steps
from oddkettle.core.weather.shapes import LEAST, MOST

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Singles = NDArray[np.float32]

LEVELS, LEVEL_STEP = 33, 0.05
"""Clearness 0 to 1.6, at which the arrays' offers are known."""
SD_STEP = 0.01
"""Spacing of the tables of wavering by clearness."""


class Box(NamedTuple):
    """A box laid on the grid, as far as it is the same in every future.

    curves, by_temperature, fixed, start, joined, offers, chargers, shed_below, settings : as the
        stepping loop takes them
    sun_rows, sun_by_amps, sun_rating, sun_per_k : (arrays,) row of each array among the sources,
        whether its current counts (PWM) and not its power, its controller's limit [A], growth of
        what it gives with a kelvin more than expected
    sun_table : (arrays, steps, LEVELS + 1) what it gives by clearness [W, or A by amps]
    sun_open : (arrays, steps) share of the step in which it may
    selector : empty, or 1 for the strongest and 0 for the first, then the rows it chooses among
    asked : (steps, levels, 3) what is asked whatever the future
    draw_asked : (draws, steps) what appliances ask as planned; draw_kind, draw_last (draws,) the
        column and the last level of shedding that it is in
    fridge : (draws,) row in fridge_per_k (fridges, steps), its growth a kelvin, or -1
    air_c, low_day, high_day, air_part, sky_day, slot : (steps,) the expected air, how it follows
        the days, the solar day and the column of the day shapes
    day_starts : (days + 1,)
    """

    curves: Floats
    by_temperature: Floats
    fixed: Floats
    start: Floats
    joined: Ints
    offers: Floats
    chargers: Floats
    shed_below: Floats
    settings: Floats
    nominal_v: float
    sun_rows: Ints
    sun_by_amps: Ints
    sun_rating: Floats
    sun_per_k: Floats
    sun_table: Floats
    sun_open: Floats
    selector: Ints
    asked: Floats
    draw_asked: Floats
    draw_kind: Ints
    draw_last: Ints
    fridge: Ints
    fridge_per_k: Floats
    air_c: Floats
    low_day: Ints
    high_day: Ints
    air_part: Floats
    sky_day: Ints
    slot: Ints
    day_starts: Ints


class Luck(NamedTuple):
    """What differs between futures.

    clearness, shape, low_c, high_c : (n, days); load : (n, draws); sun, capacity, soc0 : (n,)
    slow, quick : (shapes, steps a day); slow_sd, quick_sd : by clearness, SD_STEP apart
    """

    clearness: Floats
    shape: Ints
    low_c: Floats
    high_c: Floats
    load: Floats
    sun: Floats
    capacity: Floats
    soc0: Floats
    slow: Floats
    quick: Floats
    slow_sd: Floats
    quick_sd: Floats


class Standing(NamedTuple):
    """Where each future stands; the loop starts from it and leaves it at the end of its stretch.

    banks : (n, banks, 3) state of charge, lag and warmth; chargers : (n, sources, 13) their
        stages; switches : (n, 4)
    """

    banks: Floats
    chargers: Floats
    switches: Floats


class Found(NamedTuple):
    """What is kept of each future. The last three may be empty where nobody asks.

    level : (n, steps + 1), NaN after it was stopped
    dark, shed : (n, days) steps in which the box is cut out, or something is switched off by level
    counted : (n, 6) what a meter at the battery counts, added up (the layout's COUNTED names)
    gave, used : (n, days, sources) and (n, days, draws) charge given and used [Ah]
    """

    level: Singles
    dark: Floats
    shed: Floats
    counted: Floats
    gave: Floats
    used: Floats


def lay_standing(box: Box, luck: Luck) -> Standing:
    """Where the futures stand when the trip begins."""
    count = len(luck.soc0)
    state = np.repeat(box.start[None], count, axis=0)
    state[:, 0, layout.SOC] = luck.soc0
    low = luck.low_c[:, box.low_day[0]]
    air_c = low + (luck.high_c[:, box.high_day[0]] - low) * box.air_part[0]
    for b in range(state.shape[1]):
        state[:, b, layout.WARMTH_C] = air_c + box.fixed[b, bank.OFFSET_K]
    switches = np.zeros((count, 4))
    at = ((luck.soc0 - bank.GRID_LOW) / bank.GRID_STEP).astype(np.int64)
    switches[:, layout.BUS_V] = box.curves[0, at, 0]
    return Standing(state, np.repeat(box.chargers[None], count, axis=0), switches)


def nothing_found(box: Box, count: int, *, counts: bool = False) -> Found:
    """Room for what `count` futures will be found to do; `counts` for a meter and its sums too."""
    steps, days = box.asked.shape[0], len(box.day_starts) - 1
    few = count if counts else 0
    return Found(
        np.full((count, steps + 1), np.nan, np.float32),
        np.zeros((count, days)),
        np.zeros((count, days)),
        np.zeros((few, len(layout.COUNTED))),
        np.zeros((few, days, box.chargers.shape[0])),
        np.zeros((few, days, box.draw_asked.shape[0])),
    )


@njit(cache=True, nogil=True, error_model="numpy")
def run_futures(  # noqa: PLR0912, PLR0915 - one pass; handing arrays on costs compiled code dear
    which: Ints,
    box: Box,
    luck: Luck,
    standing: Standing,
    found: Found,
    begin: int,
    end: int,
    stop_below: float,
) -> None:
    """Run the futures named in `which` from step `begin` up to `end`.

    One whose level falls under `stop_below` ends that day.
    """
    sun_rows = box.sun_rows
    sun_table = box.sun_table
    sun_open = box.sun_open
    selector = box.selector
    fridge = box.fridge
    low_day = box.low_day
    high_day = box.high_day
    air_part = box.air_part
    sky_day = box.sky_day
    slot = box.slot
    day_starts = box.day_starts
    offers = box.offers
    chargers = box.chargers
    draw_asked = box.draw_asked
    steps, sources, banks = box.asked.shape[0], chargers.shape[0], box.start.shape[0]
    days = day_starts.shape[0] - 1
    draws = draw_asked.shape[0]
    my_offers = np.empty_like(offers)
    my_offers[begin:end] = offers[begin:end]
    my_asked = np.empty_like(box.asked)
    my_draws = np.empty_like(draw_asked)
    my_air = np.empty(steps)
    my_fixed = np.empty_like(box.fixed)
    said = np.empty((steps, 6))
    states = np.empty((steps + 1, banks, 3))
    flows = np.empty((steps, banks, 2))
    taken = np.empty((steps, sources, 2))
    counts = found.counted.shape[0] > 0
    step_h = box.fixed[0, bank.CAPACITY_AH] * box.fixed[0, bank.SOC_PER_A]
    for f in which:
        # --- The air, and what each array gives in it.
        for i in range(begin, end):
            low = luck.low_c[f, low_day[i]]
            my_air[i] = low + (luck.high_c[f, high_day[i]] - low) * air_part[i]
        for i in range(begin, end):
            k = luck.clearness[f, sky_day[i]]
            c = min(int(k / SD_STEP + 0.5), luck.slow_sd.shape[0] - 1)
            at = luck.shape[f, sky_day[i]]
            k += (
                luck.slow_sd[c] * luck.slow[at, slot[i]]
                + luck.quick_sd[c] * luck.quick[at, slot[i]]
            )
            k = min(max(k, LEAST), MOST) / LEVEL_STEP
            n = int(k)
            k -= n
            for a in range(sun_rows.shape[0]):
                j = sun_rows[a]
                low = sun_table[a, i, n]
                gives = (low + k * (sun_table[a, i, n + 1] - low)) * luck.sun[f]
                gives *= 1.0 + box.sun_per_k[a] * (my_air[i] - box.air_c[i])
                if box.sun_by_amps[a] > 0:
                    my_offers[i, j, layout.LIMIT_A] = (
                        min(gives, box.sun_rating[a]) * (sun_open[a, i])
                    )
                else:
                    my_offers[i, j, layout.OFFER_W] = gives * sun_open[a, i]
                    my_offers[i, j, layout.LIMIT_A] = (
                        box.sun_rating[a] * sun_open[a, i] if gives > 0.0 else 0.0
                    )
        if selector.shape[0] > 0:
            for i in range(begin, end):
                best, chosen = 0.0, -1
                for j in selector[1:]:
                    full = offers[i, j, layout.LIMIT_A]
                    for a in range(sun_rows.shape[0]):
                        if sun_rows[a] == j:
                            full = my_offers[i, j, layout.LIMIT_A]
                    watts = min(my_offers[i, j, layout.OFFER_W], full * box.nominal_v)
                    if watts > 0.0 and (watts > best if selector[0] > 0 else chosen < 0):
                        best, chosen = watts, j
                    my_offers[i, j, layout.LIMIT_A] = full
                for j in selector[1:]:
                    if j != chosen:
                        my_offers[i, j, layout.LIMIT_A] = 0.0
        # --- What is asked: every appliance with its own luck, fridges with the warmth.
        my_asked[begin:end] = box.asked[begin:end]
        for a in range(draws):
            factor, kind = luck.load[f, a], box.draw_kind[a]
            for i in range(begin, end):
                amount = draw_asked[a, i] * factor
                if fridge[a] >= 0 and amount > 0.0:
                    warmer = my_air[i] - box.air_c[i]
                    amount *= max(1.0 + box.fridge_per_k[fridge[a], i] * warmer, 0.0)
                my_draws[a, i] = amount
                for n in range(box.draw_last[a] + 1):
                    my_asked[i, n, kind] += amount
        # --- The banks.
        my_fixed[:] = box.fixed
        for b in range(banks):
            my_fixed[b, bank.CAPACITY_AH] *= luck.capacity[f]
            my_fixed[b, bank.FILL_A] *= luck.capacity[f]
            my_fixed[b, bank.SOC_PER_A] /= luck.capacity[f]
            my_fixed[b, bank.LAG_GAIN] /= luck.capacity[f]
        state = standing.banks[f]
        mine = standing.chargers[f]
        switches = standing.switches[f]
        # --- Day by day through the loop.
        for d in range(days):
            first, last = max(day_starts[d], begin), min(day_starts[d + 1], end)
            if first >= last:
                continue
            run_steps(
                box.curves,
                box.by_temperature,
                my_fixed,
                state,
                box.joined[first:last],
                my_offers[first:last],
                mine,
                my_asked[first:last],
                box.shed_below,
                box.settings,
                switches,
                my_air[first:last],
                said[first:last],
                states[first : last + 1],
                flows[first:last],
                taken[first:last],
            )
            lowest = 2.0
            for i in range(first, last):
                found.level[f, i] = states[i, 0, layout.SOC]
                lowest = min(lowest, states[i, 0, layout.SOC])
                found.dark[f, d] += 1.0 - said[i, layout.SAID_SERVED]
                found.shed[f, d] += said[i, layout.SAID_SHED] > 0.0
            found.level[f, last] = states[last, 0, layout.SOC]
            if counts:
                for i in range(first, last):
                    into, volts = said[i, layout.SAID_INTO_A], said[i, layout.SAID_V]
                    if into > 0.0:
                        found.counted[f, layout.AH_IN] += into * step_h
                        found.counted[f, layout.WH_IN] += into * volts * step_h
                    else:
                        found.counted[f, layout.AH_OUT] -= into * step_h
                        found.counted[f, layout.WH_OUT] -= into * volts * step_h
                    for j in range(sources):
                        found.gave[f, d, j] += taken[i, j, 0] * step_h
                    for a in range(draws):
                        if said[i, layout.SAID_SHED] <= box.draw_last[a] and volts > 0.0:
                            amps = my_draws[a, i] * said[i, layout.SAID_SERVED]
                            if box.draw_kind[a] == layout.ASK_W:
                                amps /= volts
                            elif box.draw_kind[a] == layout.ASK_S:
                                amps *= volts
                            found.used[f, d, a] += amps * step_h
                found.counted[f, layout.NOW_A] = said[last - 1, layout.SAID_INTO_A]
                found.counted[f, layout.NOW_LOAD_A] = said[last - 1, layout.SAID_LOAD_A]
            if lowest < stop_below:
                for i in range(last + 1, steps + 1):
                    found.level[f, i] = np.nan
                break
