"""Absorbed-glass-mat lead-acid, six cells in series, 100 Ah at the 20 h rate."""

from __future__ import annotations

from oddkettle.core.battery.chemistry import ChargeWindow, Chemistry, Life, Wells
from oddkettle.core.battery.lead_acid import (
    AGM_OCV,
    LEAD_FLOOR_MOHM,
    LEAD_SOURCES,
    lead_cold,
    lead_resistance,
)

AGM = Chemistry(
    key="agm",
    name="AGM lead-acid",
    place=2,
    words="Half of it is usable; the last fifth takes hours; it bears cold and needs no care.",
    written=r"agm|sealed\s+lead(?:[\s-]acid)?|sla|vrla|valve\s+regulated",
    lead=True,
    cells=6,
    nominal_v=12.0,
    ocv=AGM_OCV,
    resistance=lead_resistance(5.5),
    wells=Wells(share=0.489, rate_per_h=0.872, largest=1.068),
    cold=lead_cold(-15.0),
    life=Life(cycles_at_full=300.0, calendar_years=6.0),
    charge_limit_c=0.3,
    discharge_limit_c=1.0,
    alpha_per_h=1.0,
    coulombic_low=0.98,
    coulombic_full=0.9,
    self_discharge_month=0.025,
    absorption_v=14.4,
    float_v=13.6,
    never_above_v=14.8,
    compensation_v_per_k=-0.024,
    tail_c=0.015,
    absorption_hours=4.0,
    window=ChargeWindow(
        absorption_v=(14.4, 14.7),
        float_v=(13.5, 13.8),
        absorption_h=(2.0, 8.0),
        tail_c=(0.01, 0.02),
    ),
    peukert=1.12,
    cutoff_v=10.8,
    usable_share=0.50,
    kg_per_ah=0.3,
    wh_per_litre=96.0,
    euro_per_kwh=190.0,
    short_mohm=2.5,
    short_floor_mohm=LEAD_FLOOR_MOHM,
    store_level=(1.0, 1.0),
    sources=LEAD_SOURCES,
    full_within_days=7.0,
)
