"""Flooded deep-cycle lead-acid, six cells in series, 100 Ah at the 20 h rate. It gases."""

from __future__ import annotations

from oddkettle.core.battery.chemistry import ChargeWindow, Chemistry, Life, Wells
from oddkettle.core.battery.lead_acid import (
    AGM_OCV,
    LEAD_FLOOR_MOHM,
    LEAD_SOURCES,
    lead_cold,
    lead_resistance,
)
from oddkettle.core.messages.caution import Caution

GAS = Caution(
    "gas",
    "Vented cells give off hydrogen",
    "Charge them only where air moves freely to the outside, away from sparks. Acid burns: "
    "eye protection, water and baking soda at hand.",
    "hydrogen explodes from 4 % in air [textbook]",
)

FLOODED = Chemistry(
    key="flooded",
    name="Flooded lead-acid",
    place=4,
    words="Half of it is usable; cheap and heavy; gives off gas: only where air moves freely.",
    written=r"flooded|wet|calcium|lead[\s-]acid",
    lead=True,
    cells=6,
    nominal_v=12.0,
    ocv=tuple((s, v - 0.10 - 0.10 * s) for s, v in AGM_OCV),
    resistance=lead_resistance(7.0),
    wells=Wells(share=0.392, rate_per_h=0.849, largest=1.101),
    cold=lead_cold(-10.0, content_per_k=0.010),
    life=Life(cycles_at_full=450.0, calendar_years=5.0),
    charge_limit_c=0.15,
    discharge_limit_c=1.0,
    alpha_per_h=0.5,
    coulombic_low=0.96,
    coulombic_full=0.75,
    self_discharge_month=0.05,
    absorption_v=14.6,
    float_v=13.4,
    never_above_v=15.0,
    compensation_v_per_k=-0.03,
    tail_c=0.015,
    absorption_hours=4.0,
    window=ChargeWindow(
        absorption_v=(14.4, 14.8),
        float_v=(13.2, 13.5),
        absorption_h=(2.0, 8.0),
        tail_c=(0.01, 0.02),
    ),
    peukert=1.18,
    cutoff_v=10.8,
    usable_share=0.50,
    kg_per_ah=0.28,
    wh_per_litre=88.0,
    euro_per_kwh=120.0,
    short_mohm=4.0,
    short_floor_mohm=LEAD_FLOOR_MOHM,
    store_level=(1.0, 1.0),
    sources=LEAD_SOURCES,
    full_within_days=5.0,
    vented=True,
    cautions=(GAS,),
)
