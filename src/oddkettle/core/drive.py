"""Hands one future to the stepping loop and names what comes back."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from oddkettle.core import layout
from oddkettle.core.bank import GRID_LOW, OCV_V, BankTables
from oddkettle.core.kernel import PER_STEP, run_steps

Floats = NDArray[np.float64]
UNLIMITED_W = 1e12
"""Offered power of a source that is limited by its current alone."""


class Sources(NamedTuple):
    """What every source offers, in the order in which they are let in; relays come first.

    offers : (steps, sources, 3) power at the charger's output [W], largest output current [A]
        (0 while it is off), and a relay's source voltage [V]
    settings : (sources, 7) a relay's feed conductance [S] (0 for chargers), absorption V,
        float V, tail A into the bank, steps after which absorption ends whatever the current,
        V/K of temperature compensation, and 1 when it shares `shared_a` with others
    shared_a : most that the sharing sources give together [A]
    """

    offers: Floats
    settings: Floats
    shared_a: float = 1e12


class Demand(NamedTuple):
    """What is asked of the bus and when it is switched off.

    asked : (steps, levels, 3) power [W], current [A] and conductance [S] that are left when the
        first 0, 1, 2 ... groups of loads are off; the last level is what is never shed
    shed_below : (levels - 1,) state of charge below which each group goes, falling
    heater : (3,) heater power [W], on below and off above [C]
    """

    asked: Floats
    shed_below: Floats
    heater: tuple[float, float, float] = (0.0, 4.0, 8.0)


class Track(NamedTuple):
    """What the loop writes. Step i runs from time i to i+1; states stand at its start.

    soc, lag, warmth_c : (steps + 1, banks) state of charge, its lag, battery temperature [C]
    bank_a, leak : (steps, banks) current into each bank [A], state of charge lost by itself
    bus_v, load_a, into_bank_a, served, heater_w : (steps,) means over the step
    shed : (steps,) how many groups of loads were off
    taken_a, stage : (steps, sources) current taken [A]; BULK, ABSORPTION or FLOAT
    """

    soc: Floats
    lag: Floats
    warmth_c: Floats
    bank_a: Floats
    leak: Floats
    bus_v: Floats
    load_a: Floats
    into_bank_a: Floats
    served: Floats
    shed: Floats
    heater_w: Floats
    taken_a: Floats
    stage: Floats


def drive(
    banks: tuple[BankTables, ...],
    sources: Sources,
    demand: Demand,
    start: Floats,
    air_c: Floats,
    joined: NDArray[np.int64] | None = None,
) -> Track:
    """Run every step of one future and return its series.

    banks : one or two frozen banks of the same step length, the box's own first
    start : (banks, 3) state of charge 0..1, lag and temperature [C] at the beginning
    air_c : (steps,) air temperature outside [C]
    joined : (steps,) how many of the banks hang on the bus; None is all of them
    """
    steps, count = sources.offers.shape[0], len(sources.settings)
    chargers = np.zeros((count, layout.SET_V + 1))
    chargers[:, layout.SETTINGS] = sources.settings
    state = np.array(start, np.float64)
    said = np.empty((steps, 6))
    states = np.empty((steps + 1, len(banks), 3))
    flows = np.empty((steps, len(banks), 2))
    taken = np.empty((steps, count, 2))
    switches = np.zeros(4)
    switches[layout.BUS_V] = rested_v(banks[0], state[0])
    run_steps(
        np.stack([bank.curves for bank in banks]),
        np.stack([bank.by_temperature for bank in banks]),
        np.stack([bank.fixed for bank in banks]),
        state,
        np.full(steps, len(banks)) if joined is None else joined,
        sources.offers,
        chargers,
        demand.asked,
        demand.shed_below,
        np.array([*demand.heater, sources.shared_a]),
        switches,
        air_c,
        said,
        states,
        flows,
        taken,
    )
    return Track(
        soc=states[:, :, layout.SOC],
        lag=states[:, :, layout.LAG],
        warmth_c=states[:, :, layout.WARMTH_C],
        bank_a=flows[:, :, 0],
        leak=flows[:, :, 1],
        bus_v=said[:, layout.SAID_V],
        load_a=said[:, layout.SAID_LOAD_A],
        into_bank_a=said[:, layout.SAID_INTO_A],
        served=said[:, layout.SAID_SERVED],
        shed=said[:, layout.SAID_SHED],
        heater_w=said[:, layout.SAID_HEATER_W],
        taken_a=taken[:, :, 0],
        stage=taken[:, :, 1],
    )


def rested_v(bank: BankTables, state: Floats) -> float:
    """Rested voltage of a bank at its state [V]: where the search for the bus begins."""
    at = (state[layout.SOC] - state[layout.LAG] - GRID_LOW) * PER_STEP
    return float(np.interp(at, np.arange(len(bank.curves)), bank.curves[:, OCV_V]))
