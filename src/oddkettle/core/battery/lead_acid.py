"""What the lead-acid kinds share: the textbook's marks, and the shapes that were fitted once."""

from __future__ import annotations

from oddkettle.core.battery.chemistry import Cold, Resistance, Source
from oddkettle.core.units.quantity import celsius, kelvin

AGM_OCV: tuple[tuple[float, float], ...] = (
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
)
"""Rested curve of six AGM cells [textbook]; the other kinds are stated against it."""


def lead_resistance(mid_mohm: float) -> Resistance:
    """The fitted shape, scaled so that half full gives `mid_mohm` [mOhm per 100 Ah].

    The activation energy is that of the acid's conductivity, about half of lithium's
    [judgement].
    """
    return Resistance(
        base_mohm=2.7,
        hyperbola_mohm=2.8,
        offset=0.075,
        scale=mid_mohm / (2.7 + 2.8 / 0.575),
        activation_j_mol=15_000.0,
    )


def lead_cold(barred_below_c: float, content_per_k: float = 0.008) -> Cold:
    """What cold does to lead: less content, slower acceptance, no charge when it may be frozen."""
    return Cold(
        barred_below_c=barred_below_c,
        gentle_below_c=barred_below_c,
        gentle_c=0.0,
        content_per_k=content_per_k,
        content_gain_per_k=0.003,
        content_most=1.05,
        acceptance_halving_k=15.0,
        acceptance_most=1.3,
    )


LEAD_FLOOR_MOHM = 1.0
"""What cells and links leave of a dead short in the largest lead batteries [mOhm for 12 V]."""

LEAD_SOURCES: dict[str, Source] = {
    "ocv": Source("textbook", "rested curve, six cells"),
    "resistance": Source("fitted", "shape fitted, level from textbook values"),
    "wells": Source("fitted", "least worst error over the textbook capacities from 100 h to 1 h"),
    "cold": Source("textbook", "content by kelvin; acceptance by kelvin is a judgement"),
    "life": Source("textbook", "cycles by depth; calendar life is a judgement"),
    "charge_limit_c": Source("textbook", "common datasheet ceiling"),
    "short_mohm": Source(
        "textbook",
        "a charged one, the strongest of its kind: on the low side; never under 1 mOhm, for the "
        "largest 12 V ones have 2 to 3, and six cells of 400 Ah .3 to .5 each [makers' sheets]",
    ),
    "alpha_per_h": Source("judgement", "no trustworthy public reference for acceptance"),
    "coulombic": Source("judgement", "98 % to four fifths full, then falling"),
    "self_discharge_month": Source("textbook", f"at {celsius(25)}, doubling each {kelvin(10)}"),
    "absorption_v": Source("textbook", "by the cell, for six cells"),
    "window": Source("textbook", f"makers' sheets of the kind, at {celsius(25)}"),
    "peukert": Source("textbook", "its capacity at 20 hours and at 5"),
    "tail_c": Source("textbook", "0.01 to 0.02 C, or four hours, ends absorption"),
    "cutoff_v": Source("textbook", "1.8 V a cell under load"),
    "usable_share": Source("textbook", "half kept back: deeper cycles wear lead quickly"),
    "kg_per_ah": Source("judgement", "typical of what is sold; read the label"),
}
