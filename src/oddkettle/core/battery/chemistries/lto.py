"""Lithium titanate (LTO), five cells in series, 100 Ah, with management system and leads.

The titanate anode works 1.55 V above lithium: less energy a kilogram, and no plating, so that it
takes charge in hard frost and lasts many thousand cycles. Five cells run from 9.5 to 13.5 V.
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
from oddkettle.core.battery.lithium import LITHIUM_FLOOR_MOHM
from oddkettle.core.messages.caution import Caution
from oddkettle.core.units.quantity import celsius, kelvin

CELLS = 5
CELL_OCV = (1.90, 2.12, 2.18, 2.22, 2.26, 2.30, 2.34, 2.38, 2.43, 2.50, 2.65)
"""Rested voltage of one cell against a manganese or nickel cathode, by tenths of charge [V]."""

GREAT_CURRENTS = Caution(
    "lithium-titanate",
    "Titanate gives great currents",
    "It burns less readily than other lithium, and a short circuit is fiercer: a fuse at the post "
    "that can break it, a management system, never above 2.8 V a cell.",
    "cell datasheets [textbook]",
)

LTO = Chemistry(
    key="lto",
    name="Lithium titanate",
    place=6,
    words="Charges fast and in hard frost, and outlasts the rest; heavy, expensive, low voltage.",
    written=r"lto|(?:lithium\s+)?titanate",
    lead=False,
    cells=CELLS,
    nominal_v=2.3 * CELLS,
    ocv=tuple((tenth / 10, round(CELLS * volts, 3)) for tenth, volts in enumerate(CELL_OCV)),
    resistance=Resistance(
        base_mohm=1.8, swell=4.0, reach=0.08, leads_mohm=4.0, activation_j_mol=20_000.0
    ),
    charge_resistance=Resistance(
        base_mohm=1.9, swell=0.6, reach=0.2, leads_mohm=4.0, activation_j_mol=20_000.0
    ),
    wells=Wells(),
    cold=Cold(barred_below_c=-30.0, gentle_below_c=-20.0, gentle_c=0.5),
    life=Life(cycles_at_full=12_000.0, calendar_years=20.0),
    charge_limit_c=2.0,
    discharge_limit_c=4.0,
    alpha_per_h=20.0,
    coulombic_low=0.995,
    coulombic_full=0.995,
    self_discharge_month=0.03,
    absorption_v=2.70 * CELLS,
    float_v=2.60 * CELLS,
    never_above_v=2.80 * CELLS,
    compensation_v_per_k=0.0,
    tail_c=0.03,
    absorption_hours=2.0,
    window=ChargeWindow(
        absorption_v=(2.65 * CELLS, 2.75 * CELLS),
        float_v=(2.50 * CELLS, 2.62 * CELLS),
        absorption_h=(0.5, 4.0),
        tail_c=(0.02, 0.05),
    ),
    peukert=1.01,
    cutoff_v=1.90 * CELLS,
    usable_share=0.90,
    kg_per_ah=0.20,
    wh_per_litre=85.0,
    euro_per_kwh=780.0,
    short_mohm=1.5,
    short_floor_mohm=LITHIUM_FLOOR_MOHM,
    store_level=(0.4, 0.6),
    cautions=(GREAT_CURRENTS,),
    sources={
        "short_mohm": Source(
            "textbook",
            "a charged lithium battery, its management system closed: on the low side; "
            "never under .8 mOhm, for cells of 280 Ah alone have .17 to .25 each [makers' sheets]",
        ),
        "ocv": Source("textbook", "typical rested curve of a titanate cell, 2.3 V half full"),
        "charge_resistance": Source("judgement", "shape as LiFePO4's"),
        "resistance": Source("judgement", "cells about half of LiFePO4's; leads as LiFePO4"),
        "cold": Source(
            "textbook", f"no lithium plating: datasheets allow charge to {celsius(-30)}"
        ),
        "life": Source("textbook", "10,000 to 20,000 cycles in datasheets; years are a judgement"),
        "charge_limit_c": Source("judgement", "cells bear 5 C and more; leads and fuses do not"),
        "alpha_per_h": Source("judgement", "as LiFePO4"),
        "coulombic": Source("textbook", "charge comes back almost whole"),
        "self_discharge_month": Source("textbook", f"at {celsius(25)}, doubling each {kelvin(10)}"),
        "absorption_v": Source("textbook", "2.70 V a cell"),
        "window": Source("textbook", "2.65 to 2.75 V a cell"),
        "peukert": Source("textbook", "its capacity at 100 hours and at one"),
        "tail_c": Source("textbook", "0.02 to 0.05 C ends absorption"),
        "cutoff_v": Source("judgement", "1.9 V a cell: below it 12 V appliances let go anyway"),
        "usable_share": Source("textbook", "a tenth kept back for life and for doubt"),
        "kg_per_ah": Source("judgement", "typical of what is sold; read the label"),
    },
)
