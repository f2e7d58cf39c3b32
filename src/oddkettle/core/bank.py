"""A bank of equal batteries in series and parallel, made ready for the stepping loop."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.chemistry import CHEMISTRIES, Chemistry
from oddkettle.core.fault import PlanFault
from oddkettle.core.temperature import Housing
from oddkettle.core.units import CLASS_V, HOURS_PER_MONTH, ZERO_C_IN_K, ohms_from_milliohms

Floats = NDArray[np.float64]

GRID_LOW = -0.2
GRID_STEP = 0.001
"""The tables are laid on one even grid of state of charge so that a look-up is one multiply.
Every knot of every chemistry falls on it, so nothing is lost between knots."""
COLD_LOW_C, COLD_HIGH_C = -40.0, 80.0
"""Span of the temperature tables; beyond it the end rows hold."""
ROWS_PER_K = 10
RECONNECT_HEAD = 0.03
"""After a low-voltage cut-off the loads come back 3 points above empty [judgement]."""
GAS_CONSTANT = 8.314
REFERENCE_C = 25.0
SELF_DISCHARGE_DOUBLING_K = 10.0


@dataclass(frozen=True)
class Bank:
    """Batteries as bought and how they are joined.

    `battery_ah` is the label's rated capacity (20 h rate for lead) of one battery and
    `battery_v` its class (6, 12 or 24 V); `system_v` is the voltage the box runs at. `cells`
    in series in one battery; None is the chemistry's usual number. `link_mohm` is what cables
    and bars between batteries and bus add [mOhm, whole bank]. `share` is what ageing has left
    of the rated capacity (above 0).
    """

    chemistry: Chemistry
    battery_ah: float
    battery_v: float = 12.0
    series: int = 1
    parallel: int = 1
    system_v: float = 12.0
    cells: int | None = None
    link_mohm: float = 0.0
    housing: Housing = Housing()
    share: float = 1.0

    @property
    def capacity_ah(self) -> float:
        """Rated capacity of the bank at the system's voltage [Ah]."""
        return self.battery_ah * self.parallel

    @property
    def cells_in_series(self) -> float:
        """Cells between the bank's two ends."""
        usual = self.chemistry.cells * self.battery_v / CLASS_V
        return (usual if self.cells is None else self.cells) * self.series

    @property
    def volts_scale(self) -> float:
        """The bank's voltages over those of the chemistry's data."""
        return self.cells_in_series / self.chemistry.cells

    @property
    def nominal_v(self) -> float:
        """Nominal voltage of the bank [V]."""
        return self.chemistry.nominal_v * self.volts_scale

    @property
    def nominal_wh(self) -> float:
        """Rated energy [Wh]: capacity at nominal voltage."""
        return self.capacity_ah * self.nominal_v

    @property
    def mass_kg(self) -> float:
        """Mass of the batteries by the chemistry's typical kg/Ah [kg]."""
        return self.chemistry.kg_per_ah * self.capacity_ah * self.volts_scale

    def usable_ah(self, floor: float) -> float:
        """Charge between full and `floor` (0..1) [Ah]."""
        return self.capacity_ah * (1.0 - floor)


# Columns of `BankTables.curves`, by state of charge.
OCV_V, CELL_OHM, ACCEPT_OHM, COULOMBIC = range(4)
# Columns of `BankTables.by_temperature`, by tenths of a kelvin.
OHM_FACTOR, ACCEPT_FACTOR, EMPTY_HEAD, LEAK = range(4)
# Places in `BankTables.fixed`.
(
    CAPACITY_AH,
    SOC_PER_A,
    FILL_A,
    CHARGE_LIMIT_A,
    BARRED_C,
    GENTLE_C,
    GENTLE_A,
    CUTOFF_V,
    LAG_DECAY,
    LAG_GAIN,
    LEAD_OHM,
    HEAT_DECAY,
    K_PER_W,
    OFFSET_K,
) = range(14)


class BankTables(NamedTuple):
    """A bank frozen for one step length.

    curves : (n, 4) float64 on the even grid of state of charge: OCV_V [V], CELL_OHM and
        ACCEPT_OHM [ohm at 25 C], COULOMBIC (0..1)
    by_temperature : (m, 4) by tenths of a kelvin: OHM_FACTOR and ACCEPT_FACTOR (1 at 25 C),
        EMPTY_HEAD (the head at which nothing more comes out), LEAK (state of charge lost in a step)
    fixed : (14,) the single numbers: SOC_PER_A is the change of state of charge by 1 A over a
        step, FILL_A the current that fills an empty bank in one step, LAG_DECAY and LAG_GAIN
        the slow well's, HEAT_DECAY and K_PER_W the housing's
    """

    curves: Floats
    by_temperature: Floats
    fixed: Floats


def chemistry_named(key: str, where: tuple[str | int, ...] = ("box", "battery")) -> Chemistry:
    """The chemistry with this key, or a fault that lists what there is."""
    try:
        return CHEMISTRIES[key]
    except KeyError:
        known = ", ".join(CHEMISTRIES)
        raise PlanFault(
            f"There is no battery chemistry called {key!r}.",
            where=(*where, "chemistry"),
            value=key,
            limit=f"one of {known}",
            remedy=f"Choose one of {known}.",
        ) from None


def check_bank(bank: Bank, where: tuple[str | int, ...] = ("box", "battery")) -> None:
    """Refuse a bank whose batteries or cells do not add up to the system's voltage."""
    if bank.cells is not None:
        _check_cells(bank, where)
        return
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
        where=(*where, "series"),
        value=bank.series,
        limit=f"{bank.system_v:g} V in all",
        remedy=remedy,
    )


def _check_cells(bank: Bank, where: tuple[str | int, ...]) -> None:
    """Cells in series must come within a sixth of a volt class: 3 or 4 NMC cells make 12 V."""
    per_cell_v = bank.chemistry.nominal_v / bank.chemistry.cells
    made_v = bank.cells_in_series * per_cell_v
    least, most = 0.85 * bank.system_v, 1.25 * bank.system_v
    if least <= made_v <= most:
        return
    fewest, largest = int(np.ceil(least / per_cell_v)), int(most / per_cell_v)
    raise PlanFault(
        f"{bank.cells_in_series:g} {bank.chemistry.name} cells in series make {made_v:.1f} V, "
        f"but this box runs at {bank.system_v:g} V.",
        where=(*where, "cells"),
        value=bank.cells,
        limit=f"{fewest} to {largest} cells in series in all",
        remedy=f"Use {largest} cells in series, or set the box to another voltage.",
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


def cell_ohm(chemistry: Chemistry, state: Floats) -> Floats:
    """Resistance without leads [ohm, 100 Ah at 12 V class, 25 C]; as at empty below 0."""
    inside = np.clip(state, 0.0, 1.0)
    return np.asarray(ohms_from_milliohms(1.0) * chemistry.resistance.cells_mohm(inside))


def resistance_factor(chemistry: Chemistry, celsius: Floats | float) -> Floats:
    """Growth of the cells' resistance with cold: Arrhenius, 1 at 25 C."""
    kelvin = np.asarray(celsius, np.float64) + ZERO_C_IN_K
    energy = chemistry.resistance.activation_j_mol / GAS_CONSTANT
    return np.asarray(np.exp(energy * (1.0 / kelvin - 1.0 / (REFERENCE_C + ZERO_C_IN_K))))


def content_share(chemistry: Chemistry, celsius: Floats | float) -> Floats:
    """Share of the rated capacity that can be had at a temperature, for lead below 1 in cold."""
    cold = chemistry.cold
    over = np.asarray(celsius, np.float64) - REFERENCE_C
    slope = np.where(over < 0.0, cold.content_per_k, cold.content_gain_per_k)
    return np.clip(1.0 + slope * over, 0.1, cold.content_most)


def alpha_factor(chemistry: Chemistry, celsius: Floats | float) -> Floats:
    """Acceptance over that at 25 C."""
    cold = chemistry.cold
    over = np.asarray(celsius, np.float64) - REFERENCE_C
    return np.minimum(2.0 ** (over / cold.acceptance_halving_k), cold.acceptance_most)


def coulombic_efficiency(chemistry: Chemistry, state: Floats) -> Floats:
    """Share of charge that stays: flat to 80 % full, then a straight line to full."""
    past = np.clip((state - 0.8) / 0.2, 0.0, 1.0)
    span = chemistry.coulombic_full - chemistry.coulombic_low
    return np.asarray(chemistry.coulombic_low + past * span, np.float64)


def acceptance_ohm(chemistry: Chemistry, state: Floats, step_h: float) -> Floats:
    """The resistance that absorption meets [ohm, 100 Ah at 12 V class, 25 C].

    Alpha-limited acceptance passes `(1 - exp(-alpha dt))/dt * (1 - s) * C` amps when the
    charger holds the chemistry's own absorption voltage; stated as a resistance it also says
    what a lower charging voltage passes, and the two limits meet.
    """
    # Close to full the room goes to nothing; a ten-thousandth keeps the division finite.
    room = np.maximum(1.0 - np.clip(state, 0.0, 1.0), 1e-4)
    passes_a = -np.expm1(-chemistry.alpha_per_h * step_h) / step_h * room * 100.0
    headroom_v = np.maximum(chemistry.absorption_v - open_circuit_v(chemistry, state), 0.0)
    return np.asarray(headroom_v / passes_a, np.float64)


def temperature_table(chemistry: Chemistry, step_h: float) -> Floats:
    """(m, 4): OHM_FACTOR, ACCEPT_FACTOR, EMPTY_HEAD and LEAK by tenths of a kelvin."""
    rows = round((COLD_HIGH_C - COLD_LOW_C) * ROWS_PER_K) + 1
    celsius = np.linspace(COLD_LOW_C, COLD_HIGH_C, rows)
    alpha = chemistry.alpha_per_h
    accepts = np.expm1(-alpha * step_h) / np.expm1(
        -alpha * alpha_factor(chemistry, celsius) * step_h
    )
    # Content that the cold locks in stays in the battery: it raises the level of "empty".
    empty = (1.0 - content_share(chemistry, celsius)) - (chemistry.wells.largest - 1.0)
    empty = np.maximum(empty, GRID_LOW + 2 * GRID_STEP)
    leak = (
        chemistry.self_discharge_month
        / HOURS_PER_MONTH
        * step_h
        * 2.0 ** ((celsius - REFERENCE_C) / SELF_DISCHARGE_DOUBLING_K)
    )
    return np.stack([resistance_factor(chemistry, celsius), accepts, empty, leak], axis=1)


def bank_tables(bank: Bank, step_h: float) -> BankTables:
    """Freeze `bank` for steps of `step_h` hours (1/60 to 1)."""
    chemistry, wells, cold = bank.chemistry, bank.chemistry.wells, bank.chemistry.cold
    state = state_grid()
    capacity = bank.capacity_ah
    ohm_scale = bank.volts_scale * 100.0 / capacity
    share, rate = wells.share, wells.rate_per_h
    decay = float(np.exp(-rate * step_h))
    curves = np.stack(
        [
            open_circuit_v(chemistry, state) * bank.volts_scale,
            cell_ohm(chemistry, state) * ohm_scale,
            acceptance_ohm(chemistry, state, step_h) * ohm_scale,
            coulombic_efficiency(chemistry, state),
        ],
        axis=1,
    )
    leads = ohms_from_milliohms(chemistry.resistance.leads_mohm) * ohm_scale
    holds_ah = capacity * bank.share
    heat_decay, k_per_w = bank.housing.constants(bank.mass_kg, step_h)
    fixed = np.array(
        [
            holds_ah,
            step_h / holds_ah,
            holds_ah / step_h,
            chemistry.charge_limit_c * capacity,
            cold.barred_below_c,
            cold.gentle_below_c,
            cold.gentle_c * capacity,
            chemistry.cutoff_v * bank.volts_scale,
            decay,
            (1.0 - share) / (share * rate) * (1.0 - decay) / holds_ah,
            leads + ohms_from_milliohms(bank.link_mohm),
            heat_decay,
            k_per_w,
            bank.housing.offset_k,
        ]
    )
    return BankTables(curves, temperature_table(chemistry, step_h), fixed)
