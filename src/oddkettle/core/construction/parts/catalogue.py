"""Typical sizes, weights and prices of plain parts, by their rating.

All figures are [judgement]: of plain parts of no particular maker in 2026. They say whether a box
is about right; the part's own sheet and price go before them.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import pi, sqrt
from typing import Literal

from oddkettle.core.battery.bank import Bank
from oddkettle.core.construction.parts import prices
from oddkettle.core.construction.parts.prices import Tag

Group = Literal[
    "battery", "charging", "panels", "use", "protection", "cable", "terminals", "enclosure"
]
SOURCE = prices.SOURCE
SHAPE = (1.0, 0.52, 0.67)
"""Length, width and height of a usual battery case, by its length."""
PRICE_LOW, PRICE_HIGH = 0.7, 1.4
"""A guessed price lies between these parts of the typical one."""
SHEATH_MM, STRAND_SHARE = 1.6, 1.15
BEND_DIAMETERS = 4.0
"""Tightest bend of a flexible single conductor, in its diameters [textbook]."""


@dataclass(frozen=True)
class Bulk:
    """Outer size [mm]."""

    length_mm: float
    width_mm: float
    height_mm: float


@dataclass(frozen=True)
class Article:
    """One kind of thing to buy: how many, and what one costs [euro] and weighs [kg].

    `unit` is "m" for what is sold by length. `bulk` is its size where it stands in the box;
    `clear_mm` and `above_mm` the room it wants beside and above; `hot` ones want air; `low` ones
    stand on the floor. `lacks` says why nothing that one can buy suits; such a line counts nothing.
    """

    key: str
    name: str
    group: Group
    count: float
    euro: float
    kg: float
    unit: str = ""
    bulk: Bulk | None = None
    clear_mm: float = 5.0
    above_mm: float = 10.0
    hot: bool = False
    low: bool = False
    inside: bool = True
    lacks: str = ""


def cable_diameter_mm(area_mm2: float) -> float:
    """Over the insulation of a flexible single conductor [mm]."""
    return STRAND_SHARE * sqrt(4.0 * area_mm2 / pi) + SHEATH_MM


def bend_mm(area_mm2: float) -> float:
    """Inner radius of its tightest bend [mm]."""
    return BEND_DIAMETERS * cable_diameter_mm(area_mm2)


def battery_bulk(bank: Bank) -> Bulk:
    """Size of one battery of a bank, by the energy on its label."""
    wh = bank.battery_ah * bank.nominal_v / bank.series
    litres = wh / bank.chemistry.wh_per_litre
    length = (litres * 1e6 / (SHAPE[1] * SHAPE[2])) ** (1.0 / 3.0)
    return _rounded(*(share * length for share in SHAPE))


def _rounded(*sides: float) -> Bulk:
    return Bulk(*(5.0 * round(side / 5.0) for side in sides))


def tracking_bulk(amps: float) -> Bulk:
    """A tracking controller."""
    return _rounded(110 + 2.2 * amps, 85 + 1.2 * amps, 42 + 0.6 * amps)


def pwm_bulk(amps: float) -> Bulk:
    """A PWM controller."""
    return _rounded(110 + 1.5 * amps, 70 + amps, 32 + 0.3 * amps)


def dcdc_bulk(amps: float) -> Bulk:
    """A DC-DC charger."""
    return _rounded(110 + 2.6 * amps, 85 + 1.2 * amps, 45 + 0.5 * amps)


def converter_bulk(amps: float) -> Bulk:
    """A step-down converter."""
    return _rounded(75 + 2.0 * amps, 65 + 0.8 * amps, 35 + 0.5 * amps)


def mains_bulk(amps: float) -> Bulk:
    """A mains charger."""
    return _rounded(130 + 4.0 * amps, 80 + 2.0 * amps, 48 + 0.9 * amps)


def inverter_bulk(watts: float) -> Bulk:
    """An inverter."""
    return _rounded(165 + 0.117 * watts, 105 + 0.06 * watts, 58 + 0.026 * watts)


RELAY_BULK = Bulk(70.0, 50.0, 50.0)
SHUNT_BULK = Bulk(120.0, 60.0, 50.0)
MAIN_FUSE_BULK = Bulk(80.0, 45.0, 45.0)
BARS_BULK = Bulk(150.0, 60.0, 45.0)
BLOCK_WAYS = (6, 8, 12, 20)

MONITOR, SHUNT_KG = 75.0, 0.25
VOLTMETER, VOLTMETER_KG = 12.0, 0.05
RCD, RCD_KG, MAINS_OUTLET, MAINS_OUTLET_KG = 35.0, 0.2, 9.0, 0.1
FUSE_EURO = {"blade": 0.6, "strip": 4.0, "terminal": 16.0, "class_t": 45.0, "breaker": 18.0}
FUSE_KG = {"blade": 0.003, "strip": 0.02, "terminal": 0.04, "class_t": 0.12, "breaker": 0.08}
HOLDER_EURO = {"blade": 0.0, "strip": 9.0, "terminal": 14.0, "class_t": 25.0, "breaker": 0.0}
ISOLATOR_TAG = Tag(12.0, 0.1, 0.15, 0.001)
"""By amps."""
BLOCK_TAG = Tag(10.0, 2.0, 0.1, 0.02)
"""A fuse block by its ways."""
BARS_EURO, BARS_KG = 22.0, 0.3
LUG_EURO_PER_MM2, LUG_KG_PER_MM2 = 0.06, 0.0007
IN_LINE_EURO = 4.0
BOOT_EURO, BOOT_KG = 1.5, 0.01
LINK_EURO, LINK_KG = 9.0, 0.15
CLAMP_EURO, CLAMP_KG = 0.3, 0.003
LABEL_EURO = 0.1
CRIMP_EURO, CRIMP_KG = 0.25, 0.002
SHRINK_EURO_M, SHRINK_KG_M = 2.5, 0.02
STRING_FUSE_EURO, STRING_FUSE_KG = 9.0, 0.04
CABLE_FIXED_EURO_M = 0.4
SHELF_EURO, SHELF_KG = 8.0, 0.6
BATTERY_BOX_EURO, BATTERY_BOX_KG = 30.0, 2.0
VENT_EURO, VENT_KG = 3.0, 0.02
STRAP_EURO, STRAP_KG = 9.0, 0.3
OTHER_KG = 8.0
"""Chargers, cables and small parts of a usual box, for what its straps hold."""
ENCLOSURE_EURO = {"wood": 40.0, "plastic": 70.0, "metal": 110.0}
