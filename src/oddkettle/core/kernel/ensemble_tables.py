"""What an ensemble's loop takes and gives: tables with a row a scenario."""

from __future__ import annotations

from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.kernel.records import Records

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Singles = NDArray[np.float32]


class EnsembleInputs(NamedTuple):
    """A box laid on the grid, as far as it is the same in every scenario.

    curves, by_temperature, banks, start, joined, offers, chargers, shed_below, settings : as the
        stepping loop takes them; settings is a record of BOX
    sun_rows, sun_by_amps, sun_rating, sun_per_k : (arrays,) row of each array among the sources,
        whether its current counts (PWM) and not its power, its controller's limit [A], growth of
        what it gives with a kelvin more than expected
    sun_table : (arrays, steps, LEVELS + 1) what it gives by clearness [W, or A by amps]
    sun_open : (arrays, steps) share of the step in which it may
    lit_steps : (n,) the steps in which any of them gives something
    selector : empty, or 1 for the strongest and 0 for the first, then the rows it chooses among
    asked : (steps, levels) of ASK, what is asked whatever the scenario
    draw_asked : (draws, steps) what appliances ask as planned; draw_kind, draw_last (draws,) ASK_W,
        ASK_A or ASK_S, and the last level of shedding that it is in
    draw_output : (draws,) 1 for those on a controller's load output
    draw_steps, draw_ends : the steps in which each asks anything, one after another, and
        (draws + 1,) where each one's begin and end among them
    fridge : (draws,) row in fridge_per_k (fridges, steps), its growth a kelvin, or -1
    air_c, low_day, high_day, air_part, sky_day, slot : (steps,) the expected air, how it follows
        the days, the solar day and the column of the day shapes
    day_starts : (days + 1,)
    """

    curves: Records
    by_temperature: Records
    banks: Records
    start: Records
    joined: Ints
    offers: Records
    chargers: Records
    shed_below: Floats
    settings: Any
    nominal_v: float
    sun_rows: Ints
    sun_by_amps: Ints
    sun_rating: Floats
    sun_per_k: Floats
    sun_table: Floats
    sun_open: Floats
    lit_steps: Ints
    selector: Ints
    asked: Records
    draw_asked: Floats
    draw_kind: Ints
    draw_last: Ints
    draw_output: Ints
    draw_steps: Ints
    draw_ends: Ints
    fridge: Ints
    fridge_per_k: Floats
    air_c: Floats
    low_day: Ints
    high_day: Ints
    air_part: Floats
    sky_day: Ints
    slot: Ints
    day_starts: Ints


class ScenarioDraws(NamedTuple):
    """What differs between scenarios.

    clearness, shape, low_c, high_c : (n, days); load : (n, draws)
    sun, capacity, acceptance, soc0 : (n,)
    given : (n, days, sources) what each gives on a day over what was planned; the sun's is 1
    slow, quick : (shapes, steps a day); slow_sd, quick_sd : by clearness, SD_STEP apart
    """

    clearness: Floats
    shape: Ints
    low_c: Floats
    high_c: Floats
    load: Floats
    sun: Floats
    capacity: Floats
    acceptance: Floats
    soc0: Floats
    given: Floats
    slow: Floats
    quick: Floats
    slow_sd: Floats
    quick_sd: Floats


class EnsembleState(NamedTuple):
    """Where each scenario stands; the loop starts from it and leaves it at the end of its stretch.

    banks : (n, banks) of BANK_STATE; chargers : (n, sources) of CHARGER; switches : (n,) of
        SWITCHES
    """

    banks: Records
    chargers: Records
    switches: Records


class EnsembleOutputs(NamedTuple):
    """What is kept of each scenario. The last three may be empty where nobody asks.

    level : (n, steps + 1), NaN after it was stopped
    dark, shed : (n, days) steps in which the box is cut out, or something is switched off by level
    counted : (n,) of COUNTED, what a meter at the battery counts, added up
    gave, used : (n, days, sources) and (n, days, draws) charge given and used [Ah]
    """

    level: Singles
    dark: Floats
    shed: Floats
    counted: Records
    gave: Floats
    used: Floats
