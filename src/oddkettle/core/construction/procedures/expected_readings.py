"""What the meter should show: readings of the model at named points and states."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, timedelta

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.bank import (
    Bank,
    acceptance_ohm,
    cell_ohm,
    charge_ohm,
    open_circuit_v,
    resistance_factor,
)
from oddkettle.core.construction.wiring.circuits import Circuit
from oddkettle.core.simulation.run import Run, simulate
from oddkettle.core.sources.panel import STC_C
from oddkettle.core.sources.solar import SunInput
from oddkettle.core.units.conversion import MINUTES_PER_DAY, ohms_from_milliohms
from oddkettle.core.weather.clear_sky import trip_sky
from oddkettle.core.weather.daylight import daylight

Floats = NDArray[np.float64]

METER_V = 0.05
"""How far off a plain hand-held meter may be at 12 V [V, judgement]."""
NOON_MIN = 60
"""Readings "at noon" are of the two hours about the sun's highest stand."""
CLEAR = 1.0
"""Clearness of a cloudless day."""
OF_TEN_LOW, OF_TEN_HIGH = 0.1, 0.9
FIVE_MINUTES_H = 1.0 / 12.0
STRAY_A, STRAY_SHARE = 0.05, 0.2
"""What a meter and a guess may add to a standing drain [A, share of it, judgement]."""
WARM_C = 50.0
"""A panel's cells in full sun [textbook]."""


@dataclass(frozen=True)
class Span:
    """A reading lies between these."""

    low: float
    high: float
    unit: str

    @property
    def text(self) -> str:
        """As it is read off a meter."""
        if self.unit == "%":
            low, high = f"{self.low:.0f}", f"{self.high:.0f}"
        elif self.unit == "V":
            low, high = f"{self.low:.1f}", f"{self.high:.1f}"
        else:
            digits = 0 if self.high >= 20 else 1
            low, high = f"{self.low:.{digits}f}", f"{self.high:.{digits}f}"
        return f"{low} {self.unit}" if low == high else f"{low} to {high} {self.unit}"


def rested_v(bank: Bank, level: float) -> float:
    """Rested voltage of a bank at a level 0..1 [V]."""
    at = open_circuit_v(bank.chemistry, np.array([level]))[0]
    return float(at) * bank.volts_scale


def bank_ohm(bank: Bank, level: float, celsius: float = 25.0, *, charging: bool = False) -> float:
    """Resistance between a bank's posts at a level 0..1, leads included [ohm]."""
    scale = bank.volts_scale * 100.0 / bank.capacity_ah
    law = charge_ohm if charging else cell_ohm
    cells = float(law(bank.chemistry, np.array([level]))[0]) * scale
    cells *= float(resistance_factor(bank.chemistry, celsius))
    leads = ohms_from_milliohms(bank.chemistry.resistance.leads_mohm) * scale
    return cells + leads + ohms_from_milliohms(bank.link_mohm)


def loaded_v(bank: Bank, level: float, into_a: float, celsius: float = 25.0) -> float:
    """Voltage at the bar with a current into the bank (negative while it gives) [V]."""
    return rested_v(bank, level) + into_a * bank_ohm(bank, level, celsius, charging=into_a > 0.0)


def accept_ohm(bank: Bank, level: float) -> float:
    """Resistance that absorption meets at a level 0..1 [ohm]: much of it with lead."""
    scale = bank.volts_scale * 100.0 / bank.capacity_ah
    return float(acceptance_ohm(bank.chemistry, np.array([level]), FIVE_MINUTES_H)[0]) * scale


def charging_bank_v(bank: Bank, level: float, into_a: float, celsius: float = 25.0) -> float:
    """Voltage at the bar while so much has flowed in for minutes [V].

    A lead battery's voltage rises far more by its acceptance than by its resistance.
    """
    ohm = max(bank_ohm(bank, level, celsius), accept_ohm(bank, level))
    return rested_v(bank, level) + into_a * ohm


def accepts_a(bank: Bank, level: float, charger_v: float) -> float:
    """What a bank takes at a level 0..1 from a charger that holds a voltage [A]."""
    ohm = max(bank_ohm(bank, level), accept_ohm(bank, level))
    return max(charger_v - rested_v(bank, level), 0.0) / ohm


def volts_about(volts: float) -> Span:
    """A voltage as a plain meter shows it."""
    return Span(volts - METER_V, volts + METER_V, "V")


def rested_span(bank: Bank, low: float, high: float) -> Span:
    """Rested voltage of a bank whose level lies between two [V]."""
    return Span(rested_v(bank, low) - METER_V, rested_v(bank, high) + METER_V, "V")


def under_a_clear_sky(run: Run) -> Run:
    """The same trip with every day clear; the run itself where it has no panels."""
    case = run.case
    if not case.sun:
        return run
    return simulate(replace(case, clearness=(CLEAR,) * case.days))


def noon_amps(clear: Run, key: str) -> Span | None:
    """What a solar source gives about noon of a clear day, eight days in ten of the trip [A].

    clear : the run under a clear sky. None without such a source.
    """
    run = clear
    rows = [j for j, source in enumerate(run.sources) if source.key == key]
    if not rows:
        return None
    source, volts = run.sources[rows[0]], np.maximum(run.track.bus_v, 1e-9)
    able = np.minimum(np.minimum(source.could_w / volts, source.could_a), source.rating_a)
    light = daylight(trip_sky(run.case.sites, run.grid), run.grid)
    found = []
    for day, first in enumerate(run.grid.day_starts[:-1]):
        rise, sets = light[day].rise, light[day].set
        half_day = MINUTES_PER_DAY / 2 / run.grid.step_min
        middle = first + (half_day if rise is None or sets is None else (rise + sets) / 2)
        begin = int(middle - NOON_MIN / run.grid.step_min)
        end = max(int(middle + NOON_MIN / run.grid.step_min), begin + 1)
        found.append(float(able[begin:end].mean()))
    # A folding panel that stays in its bag says nothing of the days on which it is out.
    out = [amps for amps in found if amps > 0.0] or [0.0]
    low, high = np.quantile(out, [OF_TEN_LOW, OF_TEN_HIGH])
    return Span(float(low), float(high), "A")


def clock_levels(run: Run, minute: int) -> list[tuple[date, float]]:
    """The planned level at a time of day, by day [%]."""
    steps = run.grid.day_starts[:-1] + minute // run.grid.step_min
    levels = 100.0 * np.maximum(run.level[np.minimum(steps, run.grid.steps)], 0.0)
    first = run.case.first_day
    return [(first + timedelta(days=n), float(level)) for n, level in enumerate(levels)]


def standing_a(run: Run) -> float:
    """What is never off: standby of appliances, controllers, converter, inverter left on [A]."""
    standby_w = {a.key: a.standby_w for a in run.case.appliances}
    watts = 0.0
    for draw in run.draws:
        if draw.key in standby_w:
            watts += standby_w[draw.key] / draw.plug_share
        else:
            watts += float(draw.asked_w.min(initial=np.inf))
    return watts / run.case.bank.nominal_v


def resting_draw(run: Run) -> Span:
    """What flows out while nothing is switched on [A]: standby alone, and what a meter adds."""
    draw = standing_a(run)
    return Span(0.0, (1.0 + STRAY_SHARE) * draw + STRAY_A, "A")


def panel_open_v(array: SunInput) -> Span:
    """Open-circuit voltage at the end of the panels' lead in sun, hot to cool [V]."""
    found = []
    for panel in array.panels:
        plate = panel.plate
        found += [
            plate.voc_v * (1.0 + plate.voc_per_k * (cells_c - STC_C))
            for cells_c in (WARM_C + 10.0, STC_C - 10.0)
        ]
    if array.at_battery and any(p.own_regulator for p in array.panels):
        return Span(13.5, 14.6, "V")
    return Span(0.95 * array.series * min(found), array.series * max(found), "V")


def charger_volts(run: Run, level: float, amps: float, celsius: float = 25.0) -> Span:
    """Voltage at the bar while a source charges at so many amps, as a meter shows it [V]."""
    bank = run.case.bank
    top = run.case.profile.absorption_v * bank.system_v / 12.0
    return volts_about(min(charging_bank_v(bank, level, amps, celsius), top))


def charger_amps(run: Run, level: float, amps: float) -> Span:
    """What a sound charger of so many amps gives into the bank at a level 0..1 [A]."""
    top = run.case.profile.absorption_v * run.case.bank.system_v / 12.0
    takes = min(amps, accepts_a(run.case.bank, level, top))
    return Span(0.9 * takes, takes, "A")


def drop_expected(circuit: Circuit) -> Span:
    """Voltage across a circuit's two conductors at its full current [V]: up to warm copper."""
    return Span(0.0, 1.2 * circuit.drop_v + 0.02, "V")
