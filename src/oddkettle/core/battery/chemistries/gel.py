"""Gelled lead-acid, six cells in series, 100 Ah at the 20 h rate.

Gassing ruins it: the never-above voltage is close to absorption.
"""

from __future__ import annotations

from oddkettle.core.battery.chemistry import ChargeWindow, Chemistry, Life, Wells
from oddkettle.core.battery.lead_acid import (
    AGM_OCV,
    LEAD_FLOOR_MOHM,
    LEAD_SOURCES,
    lead_cold,
    lead_resistance,
)

GEL = Chemistry(
    key="gel",
    name="Gel lead-acid",
    place=3,
    words="Half of it is usable; calm and long-lived on float; ruined by charging above 14.2 V.",
    written=r"gel",
    lead=True,
    cells=6,
    nominal_v=12.0,
    ocv=tuple((s, v - 0.03) for s, v in AGM_OCV),
    resistance=lead_resistance(7.0),
    wells=Wells(share=0.456, rate_per_h=0.758, largest=1.090),
    cold=lead_cold(-15.0),
    life=Life(cycles_at_full=450.0, calendar_years=8.0),
    charge_limit_c=0.2,
    discharge_limit_c=1.0,
    alpha_per_h=0.7,
    coulombic_low=0.98,
    coulombic_full=0.9,
    self_discharge_month=0.02,
    absorption_v=14.1,
    float_v=13.7,
    never_above_v=14.2,
    compensation_v_per_k=-0.024,
    tail_c=0.015,
    absorption_hours=4.0,
    window=ChargeWindow(
        absorption_v=(14.0, 14.2),
        float_v=(13.5, 13.8),
        absorption_h=(2.0, 8.0),
        tail_c=(0.01, 0.02),
    ),
    peukert=1.14,
    cutoff_v=10.8,
    usable_share=0.50,
    kg_per_ah=0.31,
    wh_per_litre=94.0,
    euro_per_kwh=240.0,
    short_mohm=4.0,
    short_floor_mohm=LEAD_FLOOR_MOHM,
    store_level=(1.0, 1.0),
    sources=LEAD_SOURCES,
    full_within_days=7.0,
)
