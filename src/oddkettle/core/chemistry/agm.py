"""Absorbed-glass-mat lead-acid, six cells in series, 100 Ah at the 20 h rate."""

from oddkettle.core.chemistry.data import Chemistry, Resistance, Source, Wells

AGM = Chemistry(
    key="agm",
    name="AGM lead-acid",
    nominal_v=12.0,
    ocv=(
        (0.0, 11.60),
        (0.1, 11.81),
        (0.2, 11.98),
        (0.3, 12.13),
        (0.4, 12.26),
        (0.5, 12.38),
        (0.6, 12.50),
        (0.7, 12.61),
        (0.8, 12.71),
        (0.9, 12.80),
        (1.0, 12.90),
    ),
    # The fitted shape is scaled so that half full gives the textbook 5.5 mOhm.
    resistance=Resistance(
        base_mohm=2.7, hyperbola_mohm=2.8, offset=0.075, scale=5.5 / (2.7 + 2.8 / 0.575)
    ),
    wells=Wells(share=0.48, rate_per_h=0.91, largest=1.07),
    charge_limit_c=0.3,
    alpha_per_h=1.0,
    coulombic_low=0.98,
    coulombic_full=0.90,
    absorption_v=14.4,
    float_v=13.6,
    never_above_v=14.8,
    tail_c=0.015,
    absorption_hours=4.0,
    cutoff_v=10.8,
    usable_share=0.50,
    sources={
        "ocv": Source("textbook", "rested curve, six cells"),
        "resistance": Source("fitted", "shape fitted, level from textbook values"),
        "wells": Source("fitted", "to the textbook capacity table from 100 h to 1 h"),
        "charge_limit_c": Source("textbook", "common datasheet ceiling"),
        "alpha_per_h": Source("judgement", "no trustworthy public reference for acceptance"),
        "coulombic": Source("judgement", "98 % to four fifths full, then falling to 90 %"),
        "absorption_v": Source("textbook", "2.40 V a cell"),
        "tail_c": Source("textbook", "0.01 to 0.02 C, or four hours, ends absorption"),
        "cutoff_v": Source("textbook", "1.8 V a cell under load"),
        "usable_share": Source("textbook", "half kept back: deeper cycles wear lead quickly"),
    },
)
