"""Li-ion (NMC) cells, four in series, 100 Ah, with management system and leads.

Packs of three cells in a 12 V box run from 9 to 12.6 V, of four from 12 to 16.8 V: say how many.
"""

from __future__ import annotations

from oddkettle.core.battery.chemistry import (
    ChargeWindow,
    Chemistry,
    Cold,
    Life,
    Resistance,
    Source,
    Wells,
)
from oddkettle.core.battery.lithium import LITHIUM_FIRE
from oddkettle.core.units.quantity import celsius, kelvin

CELLS = 4
CELL_OCV = (3.00, 3.45, 3.56, 3.61, 3.66, 3.72, 3.80, 3.89, 3.98, 4.08, 4.20)
"""Rested voltage of one cell by tenths of charge [V, textbook]."""

NMC = Chemistry(
    key="nmc",
    name="Li-ion (NMC)",
    place=5,
    words="Lightest; most of it is usable; fewer cycles, and harder on fire safety than LiFePO4.",
    written=r"li(?:thium)?[\s-]?ion(?:\s+nmc)?|nmc",
    lead=False,
    cells=CELLS,
    nominal_v=3.7 * CELLS,
    ocv=tuple((tenth / 10, CELLS * volts) for tenth, volts in enumerate(CELL_OCV)),
    resistance=Resistance(base_mohm=3.4, swell=6.0, reach=0.08, leads_mohm=4.0),
    charge_resistance=Resistance(base_mohm=3.6, swell=0.6, reach=0.2, leads_mohm=4.0),
    wells=Wells(),
    cold=Cold(barred_below_c=0.0, gentle_below_c=5.0, gentle_c=0.1),
    life=Life(cycles_at_full=800.0, calendar_years=8.0),
    charge_limit_c=0.5,
    discharge_limit_c=1.0,
    alpha_per_h=20.0,
    coulombic_low=0.995,
    coulombic_full=0.995,
    self_discharge_month=0.025,
    absorption_v=4.15 * CELLS,
    float_v=4.05 * CELLS,
    never_above_v=4.2 * CELLS,
    compensation_v_per_k=0.0,
    tail_c=0.03,
    absorption_hours=4.0,
    window=ChargeWindow(
        absorption_v=(4.10 * CELLS, 4.17 * CELLS),
        float_v=(3.95 * CELLS, 4.05 * CELLS),
        absorption_h=(0.5, 4.0),
        tail_c=(0.02, 0.05),
    ),
    peukert=1.01,
    cutoff_v=3.0 * CELLS,
    usable_share=0.90,
    kg_per_ah=0.08,
    wh_per_litre=150.0,
    euro_per_kwh=520.0,
    short_mohm=1.5,
    short_floor_mohm=1.0,
    store_level=(0.4, 0.6),
    sources={
        "short_mohm": Source(
            "textbook",
            "a charged lithium battery, its management system closed: on the low side; "
            "never under 1 mOhm: such packs are many small cells on strips of nickel [judgement]",
        ),
        "ocv": Source("textbook", "rested curve by the cell"),
        "resistance": Source("judgement", "level as LiFePO4; rises only close to empty"),
        "charge_resistance": Source("judgement", "shape as LiFePO4's"),
        "cold": Source(
            "textbook", f"no charge below freezing, a tenth of capacity below {celsius(5)}"
        ),
        "life": Source("judgement", "typical datasheet cycles by depth"),
        "charge_limit_c": Source("textbook", "common datasheet ceiling of half the capacity"),
        "alpha_per_h": Source("judgement", "as LiFePO4"),
        "coulombic": Source("textbook", "charge comes back almost whole"),
        "self_discharge_month": Source("textbook", f"at {celsius(25)}, doubling each {kelvin(10)}"),
        "absorption_v": Source("judgement", "4.15 V a cell: a little below the limit, for life"),
        "window": Source("textbook", "4.10 to 4.17 V a cell: a little below the limit, for life"),
        "peukert": Source("textbook", "its capacity at 100 hours and at one"),
        "tail_c": Source("textbook", "0.02 to 0.05 C ends absorption"),
        "cutoff_v": Source("textbook", "3.0 V a cell"),
        "usable_share": Source("textbook", "a tenth kept back for life and for doubt"),
        "kg_per_ah": Source("judgement", "typical of what is sold; read the label"),
    },
    cautions=(LITHIUM_FIRE,),
)
