"""A maker's own figures in place of the generic ones."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from oddkettle.core.battery.chemistry import Chemistry, Cold, Life, Resistance, Source

MID_STATE = 0.5
QUOTED_DEPTH = 0.8
"""Depth of discharge at which datasheets quote their cycles [textbook]."""


SHORT_SHARE = 0.5
"""Of what a sheet tells at half charge a dead short may meet so little: sheets give a bound
[judgement]."""


@dataclass(frozen=True)
class Datasheet:
    """What a sheet tells of one battery; None where it is silent.

    `internal_mohm` at half charge and 25 C; currents in A; `rested_v` pairs of state of charge
    0..1 and volts of one battery; `cycles` to 80 % capacity at 80 % depth.
    """

    internal_mohm: float | None = None
    charge_limit_a: float | None = None
    discharge_limit_a: float | None = None
    coulombic: float | None = None
    self_discharge_month: float | None = None
    cutoff_v: float | None = None
    no_charge_below_c: float | None = None
    cycles: float | None = None
    years: float | None = None
    weight_kg: float | None = None
    rested_v: tuple[tuple[float, float], ...] | None = None


def with_datasheet(
    chemistry: Chemistry, sheet: Datasheet, battery_ah: float, volts_scale: float
) -> Chemistry:
    """The chemistry with the sheet's figures, each marked so.

    `volts_scale` is one battery's voltage over the chemistry's data (2 for a 24 V battery).
    """
    found: dict[str, object] = {}
    if sheet.internal_mohm is not None:
        per_100_ah = sheet.internal_mohm * battery_ah / 100.0 / volts_scale
        factor = per_100_ah / _mid_mohm(chemistry.resistance)
        found["resistance"] = _rescaled(chemistry.resistance, factor)
        if chemistry.charge_resistance is not None:
            found["charge_resistance"] = _rescaled(chemistry.charge_resistance, factor)
        found["short_mohm"] = SHORT_SHARE * per_100_ah
    if sheet.charge_limit_a is not None:
        found["charge_limit_c"] = sheet.charge_limit_a / battery_ah
    if sheet.discharge_limit_a is not None:
        found["discharge_limit_c"] = sheet.discharge_limit_a / battery_ah
    if sheet.coulombic is not None:
        found["coulombic_low"] = found["coulombic_full"] = sheet.coulombic
    if sheet.self_discharge_month is not None:
        found["self_discharge_month"] = sheet.self_discharge_month
    if sheet.cutoff_v is not None:
        found["cutoff_v"] = sheet.cutoff_v / volts_scale
    if sheet.rested_v is not None:
        found["ocv"] = tuple((s, v / volts_scale) for s, v in sheet.rested_v)
    if sheet.weight_kg is not None:
        found["kg_per_ah"] = sheet.weight_kg / battery_ah / volts_scale
    cold, life = _cold(chemistry.cold, sheet), _life(chemistry.life, sheet)
    marks = {name: Source("datasheet", "from the maker's sheet") for name in found}
    return replace(
        chemistry,
        cold=cold,
        life=life,
        sources={**chemistry.sources, **marks},
        **found,  # type: ignore[arg-type]
    )


def _mid_mohm(shape: Resistance) -> float:
    """The whole battery's at half charge, leads included."""
    return float(shape.cells_mohm(np.array(MID_STATE))) + shape.leads_mohm


def _rescaled(shape: Resistance, factor: float) -> Resistance:
    """The generic shape over charge, moved to the sheet's value at half charge.

    A sheet's figure is the whole battery's: cells and leads keep their generic shares of it, so
    that the rise near empty and in the cold stays.
    """
    return replace(shape, scale=shape.scale * factor, leads_mohm=shape.leads_mohm * factor)


def _cold(cold: Cold, sheet: Datasheet) -> Cold:
    if sheet.no_charge_below_c is None:
        return cold
    barred = sheet.no_charge_below_c
    gentle = barred + (cold.gentle_below_c - cold.barred_below_c)
    return replace(cold, barred_below_c=barred, gentle_below_c=gentle)


def _life(life: Life, sheet: Datasheet) -> Life:
    if sheet.cycles is not None:
        life = replace(life, cycles_at_full=sheet.cycles * QUOTED_DEPTH**life.exponent)
    if sheet.years is not None:
        life = replace(life, calendar_years=sheet.years)
    return life
