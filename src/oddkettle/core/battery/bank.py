"""A bank of equal batteries in series and parallel, made ready for the stepping loop."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.battery.chemistry import Chemistry
from oddkettle.core.battery.temperature import Housing
from oddkettle.core.kernel.constants import (
    COLD_HIGH_C,
    COLD_LOW_C,
    GRID_LOW,
    GRID_STEP,
    REFERENCE_C,
    ROWS_PER_K,
)
from oddkettle.core.kernel.records import BANK, CURVE_KNOT, TEMPERATURE_ROW, Records, lay
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.units.conversion import (
    CLASS_V,
    HOURS_PER_MONTH,
    ZERO_C_IN_K,
    ohms_from_milliohms,
)

Floats = NDArray[np.float64]

GAS_CONSTANT = 8.314
SELF_DISCHARGE_DOUBLING_K = 10.0


@dataclass(frozen=True)
class Bank:
    """Batteries as bought and how they are joined.

    `battery_ah` is the label's rated capacity (20 h rate for lead) of one battery and
    `battery_v` its class (6, 12 or 24 V); `system_v` is the voltage the box runs at. `cells`
    in series in one battery; None is the chemistry's usual number. `link_mohm` is what cables
    and bars between batteries and bus add [mOhm, whole bank]. `share` is what ageing has left
    of the rated capacity (above 0); `acceptance` is how fast it takes absorption over what its
    chemistry says.
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
    acceptance: float = 1.0

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


class BankTables(NamedTuple):
    """A bank frozen for one step length.

    curves : (n,) of CURVE_KNOT on the even grid of state of charge
    by_temperature : (m,) of TEMPERATURE_ROW by tenths of a kelvin
    bank : () of BANK, the single numbers
    """

    curves: Records
    by_temperature: Records
    bank: Records


def chemistry_named(key: str, where: tuple[str | int, ...] = ("box", "battery")) -> Chemistry:
    """The chemistry with this key, or a fault that lists what there is."""
    try:
        return CHEMISTRIES[key]
    except KeyError:
        known = ", ".join(CHEMISTRIES)
        raise PlanError(
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
    raise PlanError(
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
    raise PlanError(
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


def charge_ohm(chemistry: Chemistry, state: Floats) -> Floats:
    """What charge meets besides the leads [ohm, 100 Ah at 12 V class, 25 C]; as `cell_ohm`."""
    inside = np.clip(state, 0.0, 1.0)
    return np.asarray(ohms_from_milliohms(1.0) * chemistry.charging.cells_mohm(inside))


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


def temperature_table(chemistry: Chemistry, step_h: float) -> Records:
    """(m,) of TEMPERATURE_ROW by tenths of a kelvin."""
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
    return lay(
        TEMPERATURE_ROW,
        ohm_factor=resistance_factor(chemistry, celsius),
        accept_factor=accepts,
        empty_head=empty,
        leak=leak,
    )


def bank_tables(bank: Bank, step_h: float) -> BankTables:
    """Freeze `bank` for steps of `step_h` hours (1/60 to 1)."""
    chemistry, wells, cold = bank.chemistry, bank.chemistry.wells, bank.chemistry.cold
    state = state_grid()
    capacity = bank.capacity_ah
    ohm_scale = bank.volts_scale * 100.0 / capacity
    share, rate = wells.share, wells.rate_per_h
    decay = float(np.exp(-rate * step_h))
    curves = lay(
        CURVE_KNOT,
        ocv_v=open_circuit_v(chemistry, state) * bank.volts_scale,
        cell_ohm=cell_ohm(chemistry, state) * ohm_scale,
        charge_ohm=charge_ohm(chemistry, state) * ohm_scale,
        accept_ohm=acceptance_ohm(chemistry, state, step_h) * ohm_scale,
        coulombic=coulombic_efficiency(chemistry, state),
    )
    leads = ohms_from_milliohms(chemistry.resistance.leads_mohm) * ohm_scale
    holds_ah = capacity * bank.share
    heat_decay, k_per_w = bank.housing.constants(bank.mass_kg, step_h)
    numbers = lay(
        BANK,
        capacity_ah=holds_ah,
        soc_per_a=step_h / holds_ah,
        fill_a=holds_ah / step_h,
        charge_limit_a=chemistry.charge_limit_c * capacity,
        barred_c=cold.barred_below_c,
        gentle_c=cold.gentle_below_c,
        gentle_a=cold.gentle_c * capacity,
        cutoff_v=chemistry.cutoff_v * bank.volts_scale,
        lag_decay=decay,
        lag_gain=(1.0 - share) / (share * rate) * (1.0 - decay) / holds_ah,
        lead_ohm=leads + ohms_from_milliohms(bank.link_mohm),
        accept_scale=1.0 / bank.acceptance,
        heat_decay=heat_decay,
        k_per_w=k_per_w,
        offset_k=bank.housing.offset_k,
    )
    return BankTables(curves, temperature_table(chemistry, step_h), numbers)
