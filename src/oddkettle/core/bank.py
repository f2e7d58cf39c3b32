"""A bank of equal batteries in series and parallel, made ready for the stepping loop."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.chemistry import CHEMISTRIES, Chemistry
from oddkettle.core.fault import PlanFault
from oddkettle.core.units import CLASS_V, ohms_from_milliohms

Floats = NDArray[np.float64]

GRID_LOW = -0.2
GRID_STEP = 0.001
"""The tables are laid on one even grid of state of charge so that a look-up is one multiply.
Every knot of every chemistry falls on it, so nothing is lost between knots."""
RECONNECT_HEAD = 0.03
"""After a low-voltage cut-off the loads come back 3 points above empty [judgement]."""
SYSTEM_VOLTAGES = (12.0, 24.0)


@dataclass(frozen=True)
class Bank:
    """Batteries as bought and how they are joined.

    `battery_ah` is the label's rated capacity (20 h rate for lead) of one battery and
    `battery_v` its class (6, 12 or 24 V); `system_v` is the voltage the box runs at.
    """

    chemistry: Chemistry
    battery_ah: float
    battery_v: float = 12.0
    series: int = 1
    parallel: int = 1
    system_v: float = 12.0

    @property
    def capacity_ah(self) -> float:
        """Rated capacity of the bank at the system's voltage [Ah]."""
        return self.battery_ah * self.parallel

    @property
    def nominal_v(self) -> float:
        """Nominal voltage of the bank [V]."""
        return self.chemistry.nominal_v * self.system_v / CLASS_V

    @property
    def nominal_wh(self) -> float:
        """Rated energy [Wh]: capacity at nominal voltage."""
        return self.capacity_ah * self.nominal_v

    def usable_ah(self, floor: float) -> float:
        """Charge between full and `floor` (0..1) [Ah]."""
        return self.capacity_ah * (1.0 - floor)


# Rows of `BankTables.curves`.
OCV_V, DISCHARGE_OHM, CHARGE_OHM, COULOMBIC = range(4)


class BankLimits(NamedTuple):
    """The bank's single numbers for one step length.

    soc_per_a is the change of state of charge by 1 A over a step, fill_a the current that
    fills an empty bank in one step; lag_decay and lag_gain are the slow well's constants.
    """

    capacity_ah: float
    soc_per_a: float
    fill_a: float
    charge_limit_a: float
    cutoff_v: float
    lowest_head: float
    lag_decay: float
    lag_gain: float


class BankTables(NamedTuple):
    """A bank frozen for one step length.

    curves : (4, n) float64 on the even grid, rows OCV_V [V], DISCHARGE_OHM, CHARGE_OHM [ohm]
        and COULOMBIC (0..1)
    """

    curves: Floats
    limits: BankLimits


def chemistry_named(key: str) -> Chemistry:
    """The chemistry with this key, or a fault that lists what there is."""
    try:
        return CHEMISTRIES[key]
    except KeyError:
        known = ", ".join(CHEMISTRIES)
        raise PlanFault(
            f"There is no battery chemistry called {key!r}.",
            where=("box", "battery", "chemistry"),
            value=key,
            limit=f"one of {known}",
            remedy=f"Choose one of {known}.",
        ) from None


def check_bank(bank: Bank) -> None:
    """Refuse a bank whose batteries do not add up to the system's voltage."""
    made_v = bank.series * bank.battery_v
    if made_v == bank.system_v:
        return
    word = "one" if bank.series == 1 else str(bank.series)
    noun = "battery" if bank.series == 1 else "batteries"
    if made_v > bank.system_v and bank.series > 1:
        remedy = f"Wire them in parallel, or set the box to {made_v:g} V."
    else:
        wants = bank.system_v / bank.battery_v
        remedy = (
            f"Put {wants:g} in series, or set the box to {made_v:g} V."
            if wants == int(wants) and wants > 1
            else f"Choose {bank.system_v:g} V batteries."
        )
    raise PlanFault(
        f"{word.capitalize()} {bank.battery_v:g} V {noun} in series "
        f"{'makes' if bank.series == 1 else 'make'} {made_v:g} V, "
        f"but this box runs at {bank.system_v:g} V.",
        where=("box", "battery", "series"),
        value=bank.series,
        limit=f"{bank.system_v:g} V in all",
        remedy=remedy,
    )


def state_grid() -> Floats:
    """The even grid of state of charge that all tables stand on, (n,)."""
    count = round((1.0 - GRID_LOW) / GRID_STEP) + 2
    return np.asarray(GRID_LOW + GRID_STEP * np.arange(count), np.float64)


def open_circuit_v(chemistry: Chemistry, state: Floats) -> Floats:
    """Rested voltage [V, 12 V class] at states of charge; carried on straight below empty."""
    at, volts = np.array(chemistry.ocv).T
    inside = np.interp(state, at, volts)
    slope = (volts[1] - volts[0]) / (at[1] - at[0])
    return np.asarray(np.where(state < at[0], volts[0] + slope * (state - at[0]), inside))


def resistance_ohm(chemistry: Chemistry, state: Floats) -> Floats:
    """Discharge resistance [ohm] of 100 Ah at 12 V class; held at its empty value below 0."""
    shape = chemistry.resistance
    s = np.clip(state, 0.0, 1.0)
    mohm = (
        shape.base_mohm * (1.0 + shape.swell * np.exp(-s / shape.reach))
        + shape.hyperbola_mohm / (s + shape.offset)
    ) * shape.scale + shape.leads_mohm
    return np.asarray(ohms_from_milliohms(1.0) * mohm)


def coulombic_efficiency(chemistry: Chemistry, state: Floats) -> Floats:
    """Share of charge that stays: flat to 80 % full, then a straight line to full."""
    past = np.clip((state - 0.8) / 0.2, 0.0, 1.0)
    span = chemistry.coulombic_full - chemistry.coulombic_low
    return np.asarray(chemistry.coulombic_low + past * span, np.float64)


def acceptance_ohm(chemistry: Chemistry, state: Floats, step_h: float) -> Floats:
    """The resistance that absorption meets [ohm, 100 Ah at 12 V class].

    Alpha-limited acceptance passes `(1 - exp(-alpha dt))/dt * (1 - s) * C` amps when the
    charger holds the chemistry's own absorption voltage; stated as a resistance it also says
    what a lower charging voltage passes, and the two limits meet.
    """
    # Close to full the room goes to nothing; a ten-thousandth keeps the division finite.
    room = np.maximum(1.0 - np.clip(state, 0.0, 1.0), 1e-4)
    passes_a = (1.0 - np.exp(-chemistry.alpha_per_h * step_h)) / step_h * room * 100.0
    headroom_v = chemistry.absorption_v - open_circuit_v(chemistry, state)
    return np.asarray(headroom_v / passes_a, np.float64)


def bank_tables(bank: Bank, step_h: float) -> BankTables:
    """Freeze `bank` for steps of `step_h` hours (1/60 to 1)."""
    check_bank(bank)
    chemistry, wells = bank.chemistry, bank.chemistry.wells
    state = state_grid()
    volts_scale = bank.system_v / CLASS_V
    ohm_scale = volts_scale * 100.0 / bank.capacity_ah
    resistance = resistance_ohm(chemistry, state)
    accepting = np.maximum(resistance, acceptance_ohm(chemistry, state, step_h))
    share, rate = wells.share, wells.rate_per_h
    decay = float(np.exp(-rate * step_h))
    lag_gain = (1.0 - share) / (share * rate) * (1.0 - decay) / bank.capacity_ah
    curves = np.stack(
        [
            open_circuit_v(chemistry, state) * volts_scale,
            resistance * ohm_scale,
            accepting * ohm_scale,
            coulombic_efficiency(chemistry, state),
        ]
    )
    limits = BankLimits(
        capacity_ah=bank.capacity_ah,
        soc_per_a=step_h / bank.capacity_ah,
        fill_a=bank.capacity_ah / step_h,
        charge_limit_a=chemistry.charge_limit_c * bank.capacity_ah,
        cutoff_v=chemistry.cutoff_v * volts_scale,
        lowest_head=-(wells.largest - 1.0),
        lag_decay=decay,
        lag_gain=lag_gain,
    )
    return BankTables(curves, limits)
