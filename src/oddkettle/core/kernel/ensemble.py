"""The stepping loop over many scenarios: the same compiled step, with the forcing laid inside.

What differs between scenarios is laid by compiled code too, because laying 200 of them as arrays
would take longer than running them: the arrays' offers come from a table by clearness, the loads
are scaled, the air follows each scenario's days. One is run a day at a time, so that one that has
failed can end where nobody asks what comes after.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.kernel.compiler import compiled, inlined
from oddkettle.core.kernel.constants import (
    GRID_LOW,
    GRID_STEP,
    LEVEL_STEP,
    MAX_CLEARNESS,
    MIN_CLEARNESS,
    SD_STEP,
)
from oddkettle.core.kernel.ensemble_tables import (
    EnsembleInputs,
    EnsembleOutputs,
    EnsembleState,
    ScenarioDraws,
)
from oddkettle.core.kernel.loop import run_steps
from oddkettle.core.kernel.records import (
    ASK_A,
    ASK_W,
    BANK_STATE,
    COUNTED,
    FLOW,
    OPERATING_POINT,
    STEP,
    SWITCHES,
    TAKEN,
    Records,
)

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Singles = NDArray[np.float32]


def initial_state(box: EnsembleInputs, drawn: ScenarioDraws) -> EnsembleState:
    """Where the scenarios stand when the trip begins."""
    count = len(drawn.soc0)
    state = np.repeat(box.start[None], count, axis=0)
    state["soc"][:, 0] = drawn.soc0
    low = drawn.low_c[:, box.low_day[0]]
    air_c = low + (drawn.high_c[:, box.high_day[0]] - low) * box.air_part[0]
    state["temperature_c"] = air_c[:, None] + box.banks["offset_k"]
    switches = np.zeros(count, SWITCHES)
    at = ((drawn.soc0 - GRID_LOW) / GRID_STEP).astype(np.int64)
    switches["bus_v"] = box.curves["ocv_v"][0, at]
    return EnsembleState(state, np.repeat(box.chargers[None], count, axis=0), switches)


def empty_outputs(box: EnsembleInputs, count: int, *, counts: bool = False) -> EnsembleOutputs:
    """Room for what `count` scenarios will do; `counts` for a meter and its sums too."""
    steps, days = len(box.asked), len(box.day_starts) - 1
    few = count if counts else 0
    return EnsembleOutputs(
        np.full((count, steps + 1), np.nan, np.float32),
        np.zeros((count, days)),
        np.zeros((count, days)),
        np.zeros(few, COUNTED),
        np.zeros((few, days, len(box.chargers))),
        np.zeros((few, days, len(box.draw_asked))),
    )


@inlined
def lay_air(
    f: int, begin: int, end: int, box: EnsembleInputs, drawn: ScenarioDraws, air_c: Floats
) -> None:
    """The air of scenario `f` [C]: each day's low and high, on the day's own curve."""
    for i in range(begin, end):
        low = drawn.low_c[f, box.low_day[i]]
        air_c[i] = low + (drawn.high_c[f, box.high_day[i]] - low) * box.air_part[i]


@inlined
def lay_sun(
    f: int,
    begin: int,
    end: int,
    box: EnsembleInputs,
    drawn: ScenarioDraws,
    air_c: Floats,
    offers: Records,
) -> None:
    """What each array offers in scenario `f`, by its clearness and its air, while there is light.

    A step's clearness is its day's, and how light wavers within the day.
    """
    sun_rows, sun_table, sun_open = box.sun_rows, box.sun_table, box.sun_open
    day, at = -1, 0
    usual = slow_sd = quick_sd = 0.0
    for i in box.lit_steps:
        if i < begin or i >= end:
            continue
        if box.sky_day[i] != day:
            day = box.sky_day[i]
            usual, at = drawn.clearness[f, day], drawn.shape[f, day]
            c = min(int(usual / SD_STEP + 0.5), len(drawn.slow_sd) - 1)
            slow_sd, quick_sd = drawn.slow_sd[c], drawn.quick_sd[c]
        k = usual + (
            slow_sd * drawn.slow[at, box.slot[i]] + quick_sd * drawn.quick[at, box.slot[i]]
        )
        k = min(max(k, MIN_CLEARNESS), MAX_CLEARNESS) / LEVEL_STEP
        n = int(k)
        k -= n
        for a in range(len(sun_rows)):
            j = sun_rows[a]
            low = sun_table[a, i, n]
            gives = (low + k * (sun_table[a, i, n + 1] - low)) * drawn.sun[f]
            gives *= 1.0 + box.sun_per_k[a] * (air_c[i] - box.air_c[i])
            if box.sun_by_amps[a] > 0:
                offers[i, j].limit_a = min(gives, box.sun_rating[a]) * sun_open[a, i]
            else:
                offers[i, j].power_w = gives * sun_open[a, i]
                offers[i, j].limit_a = box.sun_rating[a] * sun_open[a, i] if gives > 0.0 else 0.0


@inlined
def lay_night(begin: int, end: int, box: EnsembleInputs, offers: Records) -> None:
    """No array offers anything, until `lay_sun` says otherwise of the steps with light."""
    for a in range(len(box.sun_rows)):
        j = box.sun_rows[a]
        for i in range(begin, end):
            offers[i, j].limit_a = 0.0
            if box.sun_by_amps[a] == 0:
                offers[i, j].power_w = 0.0


@inlined
def lay_given(
    f: int, begin: int, end: int, box: EnsembleInputs, drawn: ScenarioDraws, offers: Records
) -> None:
    """What drives, hook-ups and the like give in scenario `f`: so much of what was planned."""
    for j in range(len(box.chargers)):
        of_sun = False
        for a in range(len(box.sun_rows)):
            of_sun = of_sun or box.sun_rows[a] == j
        if of_sun:
            continue
        for d in range(len(box.day_starts) - 1):
            share = drawn.given[f, d, j]
            for i in range(max(box.day_starts[d], begin), min(box.day_starts[d + 1], end)):
                offers[i, j].limit_a = box.offers[i, j].limit_a * share
                # A relay's power is a mark that it is held closed.
                if box.chargers[j].feed_s == 0.0:
                    offers[i, j].power_w = box.offers[i, j].power_w * share


@inlined
def turn_selector(begin: int, end: int, box: EnsembleInputs, offers: Records) -> None:
    """A selector lets one source in: the strongest, or the first that gives."""
    selector = box.selector
    for i in range(begin, end):
        best, chosen = 0.0, -1
        for j in selector[1:]:
            full = offers[i, j].limit_a
            watts = min(offers[i, j].power_w, full * box.nominal_v)
            if watts > 0.0 and (watts > best if selector[0] > 0 else chosen < 0):
                best, chosen = watts, j
        for j in selector[1:]:
            if j != chosen:
                offers[i, j].limit_a = 0.0


@inlined
def lay_demand(
    f: int,
    begin: int,
    end: int,
    box: EnsembleInputs,
    drawn: ScenarioDraws,
    air_c: Floats,
    asked: Records,
    draws: Floats,
) -> None:
    """What is asked in scenario `f`: every appliance by its own draw, fridges with the warmth."""
    asked[begin:end] = box.asked[begin:end]
    levels = len(box.shed_below) + 1
    twice = box.asked.shape[1] > levels
    for a in range(len(box.draw_asked)):
        factor, kind, fridge = drawn.load[f, a], box.draw_kind[a], box.fridge[a]
        for at in range(box.draw_ends[a], box.draw_ends[a + 1]):
            i = box.draw_steps[at]
            if i < begin or i >= end:
                continue
            amount = box.draw_asked[a, i] * factor
            if fridge >= 0 and amount > 0.0:
                warmer = air_c[i] - box.air_c[i]
                amount *= max(1.0 + box.fridge_per_k[fridge, i] * warmer, 0.0)
            draws[a, i] = amount
            # Once where the load output is on; once more where it is off, unless it hangs there.
            for half in range(2 if twice and box.draw_output[a] == 0 else 1):
                for n in range(half * levels, half * levels + box.draw_last[a] + 1):
                    if kind == ASK_W:
                        asked[i, n].power_w += amount
                    elif kind == ASK_A:
                        asked[i, n].current_a += amount
                    else:
                        asked[i, n].conductance_s += amount


@inlined
def lay_banks(f: int, box: EnsembleInputs, drawn: ScenarioDraws, banks: Records) -> None:
    """The banks of scenario `f`, with the capacity and acceptance that they have in it."""
    for b in range(len(banks)):
        banks[b] = box.banks[b]
        banks[b].capacity_ah *= drawn.capacity[f]
        banks[b].fill_a *= drawn.capacity[f]
        banks[b].soc_per_a /= drawn.capacity[f]
        banks[b].lag_gain /= drawn.capacity[f]
        banks[b].accept_scale /= drawn.acceptance[f]


@inlined
def count_day(
    f: int,
    d: int,
    first: int,
    last: int,
    box: EnsembleInputs,
    step_h: float,
    steps: Records,
    taken: Records,
    draws: Floats,
    found: EnsembleOutputs,
) -> None:
    """Add a day to what a meter at the battery counts, and to what each thing gave or used."""
    for i in range(first, last):
        into, volts = steps[i].into_bank_a, steps[i].bus_v
        if into > 0.0:
            found.counted[f].ah_in += into * step_h
            found.counted[f].wh_in += into * volts * step_h
        else:
            found.counted[f].ah_out -= into * step_h
            found.counted[f].wh_out -= into * volts * step_h
        found.counted[f].gross_out += steps[i].load_a * step_h
        found.counted[f].gross_in += max(steps[i].load_a + into, 0.0) * step_h
        for j in range(taken.shape[1]):
            found.gave[f, d, j] += taken[i, j].taken_a * step_h
        for a in range(len(draws)):
            cut = steps[i].output_off > 0.0 and box.draw_output[a] > 0
            if steps[i].shed <= box.draw_last[a] and volts > 0.0 and not cut:
                amps = draws[a, i] * steps[i].served
                if box.draw_kind[a] == ASK_W:
                    amps /= volts
                elif box.draw_kind[a] != ASK_A:
                    amps *= volts
                found.used[f, d, a] += amps * step_h
    found.counted[f].now_a = steps[last - 1].into_bank_a
    found.counted[f].now_load_a = steps[last - 1].load_a


@compiled
def run_scenarios(
    which: Ints,
    box: EnsembleInputs,
    drawn: ScenarioDraws,
    standing: EnsembleState,
    found: EnsembleOutputs,
    begin: int,
    end: int,
    stop_below: float,
) -> None:
    """Run the scenarios named in `which` from step `begin` up to `end`.

    One whose level falls under `stop_below` ends that day.
    """
    steps, sources, banks = len(box.asked), len(box.chargers), len(box.start)
    day_starts = box.day_starts
    my_offers = np.empty_like(box.offers)
    my_offers[begin:end] = box.offers[begin:end]
    lay_night(begin, end, box, my_offers)
    my_asked = np.empty_like(box.asked)
    my_draws = np.zeros_like(box.draw_asked)
    my_air = np.empty(steps)
    my_banks = np.empty_like(box.banks)
    told = np.empty(steps, STEP)
    states = np.empty((steps + 1, banks), BANK_STATE)
    flows = np.empty((steps, banks), FLOW)
    taken = np.empty((steps, sources), TAKEN)
    points, active = np.zeros(banks, OPERATING_POINT), np.zeros(sources, np.int64)
    counts = len(found.counted) > 0
    step_h = box.banks[0].capacity_ah * box.banks[0].soc_per_a
    for f in which:
        lay_air(f, begin, end, box, drawn, my_air)
        lay_sun(f, begin, end, box, drawn, my_air, my_offers)
        lay_given(f, begin, end, box, drawn, my_offers)
        if len(box.selector) > 0:
            turn_selector(begin, end, box, my_offers)
        lay_demand(f, begin, end, box, drawn, my_air, my_asked, my_draws)
        lay_banks(f, box, drawn, my_banks)
        # Day by day through the loop, so that a scenario may end early.
        for d in range(len(day_starts) - 1):
            first, last = max(day_starts[d], begin), min(day_starts[d + 1], end)
            if first >= last:
                continue
            run_steps(
                box.curves,
                box.by_temperature,
                my_banks,
                standing.banks[f],
                box.joined[first:last],
                my_offers[first:last],
                standing.chargers[f],
                my_asked[first:last],
                box.shed_below,
                box.settings,
                standing.switches[f],
                my_air[first:last],
                told[first:last],
                states[first : last + 1],
                flows[first:last],
                taken[first:last],
                points,
                active,
            )
            lowest = 2.0
            for i in range(first, last):
                found.level[f, i] = states[i, 0].soc
                lowest = min(lowest, states[i, 0].soc)
                found.dark[f, d] += 1.0 - told[i].served
                found.shed[f, d] += told[i].shed > 0.0 or told[i].output_off > 0.0
            found.level[f, last] = states[last, 0].soc
            if counts:
                count_day(f, d, first, last, box, step_h, told, taken, my_draws, found)
            if lowest < stop_below:
                for i in range(last + 1, steps + 1):
                    found.level[f, i] = np.nan
                break
