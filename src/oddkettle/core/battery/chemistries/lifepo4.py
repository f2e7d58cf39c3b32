"""LiFePO4, four cells in series, 100 Ah, with its management system and leads."""

from oddkettle.core.battery.chemistry import Chemistry, Cold, Life, Resistance, Source, Wells
from oddkettle.core.battery.lithium import LITHIUM_FIRE, LITHIUM_FLOOR_MOHM
from oddkettle.core.units.quantity import celsius, kelvin

LIFEPO4 = Chemistry(
    key="lifepo4",
    name="LiFePO4",
    place=1,
    words="Most of it is usable and it fills fast; no charge below freezing without heat.",
    lead=False,
    cells=4,
    nominal_v=12.8,
    # Dense knots at both ends: a plain 5 % grid doubles the error there.
    ocv=(
        (0.00, 10.00),
        (0.02, 11.40),
        (0.05, 12.00),
        (0.10, 12.50),
        (0.20, 12.85),
        (0.30, 13.00),
        (0.40, 13.08),
        (0.50, 13.13),
        (0.60, 13.18),
        (0.70, 13.22),
        (0.80, 13.26),
        (0.90, 13.31),
        (0.95, 13.33),
        (0.98, 13.38),
        (1.00, 13.60),
    ),
    resistance=Resistance(base_mohm=3.4, swell=17.0, reach=0.12, leads_mohm=4.0),
    charge_resistance=Resistance(base_mohm=4.0, swell=0.6, reach=0.2, leads_mohm=4.0),
    wells=Wells(),
    # Content in the cold falls by itself: the resistance that grows meets the cut-off sooner.
    cold=Cold(barred_below_c=0.0, gentle_below_c=5.0, gentle_c=0.1),
    life=Life(cycles_at_full=2800.0, calendar_years=12.0),
    charge_limit_c=0.5,
    discharge_limit_c=1.0,
    alpha_per_h=20.0,
    coulombic_low=0.995,
    coulombic_full=0.995,
    self_discharge_month=0.025,
    absorption_v=14.2,
    float_v=13.5,
    never_above_v=14.6,
    compensation_v_per_k=0.0,
    tail_c=0.03,
    absorption_hours=4.0,
    cutoff_v=10.8,
    usable_share=0.90,
    kg_per_ah=0.12,
    wh_per_litre=102.0,
    euro_per_kwh=330.0,
    short_mohm=1.5,
    short_floor_mohm=LITHIUM_FLOOR_MOHM,
    store_level=(0.4, 0.6),
    sources={
        "short_mohm": Source(
            "textbook",
            "a charged lithium battery, its management system closed: on the low side; "
            "never under .8 mOhm, for cells of 280 Ah alone have .17 to .25 each [makers' sheets]",
        ),
        "ocv": Source("textbook", "generic rested curve, four cells"),
        "resistance": Source("fitted", "shape from an electrochemical cell model; leads judged"),
        "charge_resistance": Source("fitted", "charges at C/5 and C/2 of an electrochemical model"),
        "cold": Source(
            "textbook", f"no charge below freezing, a tenth of capacity below {celsius(5)}"
        ),
        "life": Source("judgement", "cycles by depth from datasheets; twelve years on the shelf"),
        "charge_limit_c": Source("textbook", "common datasheet ceiling of half the capacity"),
        "alpha_per_h": Source("measured", "no limit seen below 99 % in a reference simulation"),
        "coulombic": Source("textbook", "charge comes back almost whole"),
        "self_discharge_month": Source("textbook", f"at {celsius(25)}, doubling each {kelvin(10)}"),
        "absorption_v": Source("textbook", "3.55 V a cell"),
        "tail_c": Source("textbook", "0.02 to 0.05 C ends absorption"),
        "cutoff_v": Source("textbook", "2.7 V a cell under load"),
        "usable_share": Source("textbook", "a tenth kept back for life and for doubt"),
        "kg_per_ah": Source("judgement", "typical of what is sold; read the label"),
    },
    cautions=(LITHIUM_FIRE,),
)
