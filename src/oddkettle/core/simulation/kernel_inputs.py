"""Hands one scenario to the stepping loop and names what comes back."""

from __future__ import annotations

from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.bank import BankTables
from oddkettle.core.kernel.constants import GRID_LOW, PER_STEP
from oddkettle.core.kernel.loop import run_steps
from oddkettle.core.kernel.records import (
    BANK_STATE,
    BOX,
    CHARGER,
    FLOW,
    OFFER,
    OPERATING_POINT,
    STEP,
    SWITCHES,
    TAKEN,
    Records,
    lay,
)

Floats = NDArray[np.float64]


class Sources(NamedTuple):
    """What every source offers, in the order in which they are let in; relays come first.

    offers : (steps, sources) of OFFER
    chargers : (sources,) of CHARGER, their settings; their own state is nil
    shared_a : most that the sharing sources give together [A]
    """

    offers: Records
    chargers: Records
    shared_a: float = 1e12


def no_sources(steps: int) -> Sources:
    """A box that nothing charges."""
    return Sources(np.zeros((steps, 0), OFFER), np.zeros(0, CHARGER))


class Demand(NamedTuple):
    """What is asked of the bus and when it is switched off.

    asked : (steps, levels) of ASK, what is left when the first 0, 1, 2 ... groups of loads are
        off; the last level is what is never shed
    shed_below : (levels - 1,) state of charge below which each group goes, falling
    heater : (3,) heater power [W], on below and off above [C]
    output : (2,) volts at which a controller's load output goes off and comes back [V], nought
        where there is none; with one `asked` has its levels twice, as `stack_demand` tells
    """

    asked: Records
    shed_below: Floats
    heater: tuple[float, float, float] = (0.0, 4.0, 8.0)
    output: tuple[float, float] = (0.0, 0.0)


class Track(NamedTuple):
    """What the loop writes. Step i runs from time i to i+1; states stand at its start.

    soc, lag, battery_c : (steps + 1, banks) state of charge, its lag, battery temperature [C]
    bank_a, leak, met_ohm : (steps, banks) current into each bank [A], state of charge lost by
        itself, resistance that the current met [ohm], acceptance included while charging
    bus_v, load_a, into_bank_a, served, heater_w : (steps,) means over the step
    shed, output_off : (steps,) how many groups of loads were off, and whether the load output was
    taken_a, stage : (steps, sources) current taken [A]; BULK, ABSORPTION or FLOAT
    """

    soc: Floats
    lag: Floats
    battery_c: Floats
    bank_a: Floats
    leak: Floats
    met_ohm: Floats
    bus_v: Floats
    load_a: Floats
    into_bank_a: Floats
    served: Floats
    shed: Floats
    output_off: Floats
    heater_w: Floats
    taken_a: Floats
    stage: Floats


def drive(
    banks: tuple[BankTables, ...],
    sources: Sources,
    demand: Demand,
    start: Records,
    air_c: Floats,
    joined: NDArray[np.int64] | None = None,
) -> Track:
    """Run every step of one scenario and return its series.

    banks : one or two frozen banks of the same step length, the box's own first
    start : (banks,) of BANK_STATE at the beginning
    air_c : (steps,) air temperature outside [C]
    joined : (steps,) how many of the banks hang on the bus; None is all of them
    """
    steps = sources.offers.shape[0]
    told = np.empty(steps, STEP)
    states = np.empty((steps + 1, len(banks)), BANK_STATE)
    flows = np.empty((steps, len(banks)), FLOW)
    taken = np.empty((steps, len(sources.chargers)), TAKEN)
    run_steps(
        *stacked(banks),
        start.copy(),
        np.full(steps, len(banks)) if joined is None else joined,
        sources.offers,
        sources.chargers.copy(),
        demand.asked,
        demand.shed_below,
        box_record(demand, sources.shared_a),
        lay(SWITCHES, bus_v=np.array([rested_v(banks[0], start[0])]))[0],
        air_c,
        told,
        states,
        flows,
        taken,
        np.zeros(len(banks), OPERATING_POINT),
        np.zeros(len(sources.chargers), np.int64),
    )
    return Track(
        soc=states["soc"],
        lag=states["lag"],
        battery_c=states["temperature_c"],
        bank_a=flows["bank_a"],
        leak=flows["leak"],
        met_ohm=flows["met_ohm"],
        bus_v=told["bus_v"],
        load_a=told["load_a"],
        into_bank_a=told["into_bank_a"],
        served=told["served"],
        shed=told["shed"],
        output_off=told["output_off"],
        heater_w=told["heater_w"],
        taken_a=taken["taken_a"],
        stage=taken["stage"],
    )


def stacked(banks: tuple[BankTables, ...]) -> tuple[Records, Records, Records]:
    """(curves, by_temperature, banks) of all banks, as the loop takes them."""
    if len(banks) == 1:
        # A view: copying records costs as much as a day of steps.
        only = banks[0]
        return only.curves[None], only.by_temperature[None], only.bank[None]
    return (
        np.stack([bank.curves for bank in banks]),
        np.stack([bank.by_temperature for bank in banks]),
        np.stack([bank.bank for bank in banks]),
    )


def box_record(demand: Demand, shared_a: float) -> Any:
    """The box's settings as the loop takes them: one record of BOX."""
    return np.array([(*demand.heater, shared_a, *demand.output)], BOX)[0]


def rested_v(bank: BankTables, state: Any) -> float:
    """Rested voltage of a bank at its state (a record) [V]: where the search begins."""
    at = (state["soc"] - state["lag"] - GRID_LOW) * PER_STEP
    return float(np.interp(at, np.arange(len(bank.curves)), bank.curves["ocv_v"]))
