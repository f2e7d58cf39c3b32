"""Copper: sizes, resistance, what a conductor carries, and what it drops."""

from __future__ import annotations

from dataclasses import dataclass
from math import exp, log, sqrt

import numpy as np

from oddkettle.core.simulation.own_wiring import Series
from oddkettle.core.units.conversion import (
    AWG_NUMBERS,
    CABLE_SIZES_MM2,
    awg_area_mm2,
    awg_text,
)
from oddkettle.core.units.quantity import conductor

COPPER_PER_K = 0.00393
"""Growth of copper's resistance by the kelvin above 20 C [textbook]."""
REFERENCE_C = 20.0
AMPACITY_A: tuple[tuple[float, float], ...] = (
    (0.75, 10.0),
    (1.0, 15.0),
    (1.5, 20.0),
    (2.5, 30.0),
    (4.0, 40.0),
    (6.0, 53.0),
    (10.0, 75.0),
    (16.0, 100.0),
    (25.0, 140.0),
    (35.0, 170.0),
    (50.0, 210.0),
    (70.0, 265.0),
    (95.0, 320.0),
    (120.0, 370.0),
)
"""mm2 and amps of single copper conductors in free air at 30 C, insulation for 90 to 105 C: a
conservative table [textbook]. Local rules prevail."""
STRAND_OHM_KM: tuple[tuple[float, float], ...] = (
    (0.75, 26.0), (1.0, 19.5), (1.5, 13.3), (2.5, 7.98), (4.0, 4.95), (6.0, 3.30), (10.0, 1.91),
    (16.0, 1.21), (25.0, 0.780), (35.0, 0.554), (50.0, 0.386), (70.0, 0.272), (95.0, 0.206),
    (120.0, 0.161),
)  # fmt: skip
"""mm2 and ohm/km at 20 C of class 5 flexible copper, bare [IEC 60228]."""
AWG_OHM_KM = {
    18: 20.9, 16: 13.2, 14: 8.29, 12: 5.21, 10: 3.28, 8: 2.06, 6: 1.30, 4: 0.815, 2: 0.513,
    1: 0.406, 0: 0.323, -1: 0.256, -2: 0.203, -3: 0.161,
}  # fmt: skip
"""ohm/km at 20 C of solid copper of an AWG size [ASTM B258]."""
AWG_STRAND = 1.04
"""Fine strand over solid of the same size: 1.02 to 1.06 [textbook]."""
LEAST_MM2 = 1.0
"""Thinner singles break and are hard to crimp: only an appliance's own lead is [textbook]."""
BUNDLED_SHARE = 0.7
"""Of its free-air current that a conductor bears among four to six loaded ones [textbook]."""
ENGINE_BAY_SHARE = 0.85
"""And in an engine bay [textbook]."""
TABLE_C, INSULATION_C = 30.0, 90.0
CHARGING_DROP, OTHER_DROP = 0.03, 0.05
"""Most of the nominal voltage that a cable may lose at full current: for charging and for what
must run, and for the rest [textbook]."""


@dataclass(frozen=True)
class Size:
    """One size of a series, as it is ordered."""

    area_mm2: float
    text: str


def sizes_of(series: Series) -> tuple[Size, ...]:
    """The standard sizes of a series, thinnest first."""
    if series == "metric":
        return tuple(Size(area, conductor(area)) for area in CABLE_SIZES_MM2)
    return tuple(Size(awg_area_mm2(number), awg_text(number)) for number in AWG_NUMBERS)


def size_text(area_mm2: float, series: Series) -> str:
    """How a conductor is called; an area that is no standard size is given in mm2."""
    for size in sizes_of(series):
        if abs(size.area_mm2 - area_mm2) < 0.005 * area_mm2:
            return size.text
    return conductor(area_mm2)


def strand_ohm_m(area_mm2: float) -> float:
    """Resistance of one fine-stranded conductor at 20 C [ohm/m].

    That of its own size where it is one that is sold; else straight in logarithms between them.
    """
    for number, ohm_km in AWG_OHM_KM.items():
        if abs(awg_area_mm2(number) - area_mm2) < 0.005 * area_mm2:
            return AWG_STRAND * ohm_km / 1000.0
    areas, ohms = np.array(STRAND_OHM_KM).T
    if not areas[0] <= area_mm2 <= areas[-1]:
        edge = 0 if area_mm2 < areas[0] else -1
        return float(ohms[edge] * areas[edge] / area_mm2 / 1000.0)
    return exp(float(np.interp(log(area_mm2), np.log(areas), np.log(ohms)))) / 1000.0


def run_ohm(run_m: float, area_mm2: float, celsius: float = REFERENCE_C) -> float:
    """Resistance of a run there and back [ohm]; `run_m` is one way.

    celsius : the conductor's own temperature, -40 to 105
    """
    warmth = 1.0 + COPPER_PER_K * (celsius - REFERENCE_C)
    return 2.0 * run_m * strand_ohm_m(area_mm2) * warmth


def conductor_c(amps: float, bears_a: float, ambient_c: float) -> float:
    """How warm a conductor gets [C]: by the square of its load, and as its insulation at full."""
    load = min(amps / bears_a, 1.0) if bears_a > 0.0 else 1.0
    return ambient_c + max(INSULATION_C - ambient_c, 0.0) * load**2


def ambient_share(ambient_c: float) -> float:
    """What warm surroundings leave of the table: heat flows by the difference to 90 C.

    Valid from -40 to 85 C; cold earns nothing.
    """
    return min(sqrt(max(INSULATION_C - ambient_c, 0.0) / (INSULATION_C - TABLE_C)), 1.0)


def free_air_a(area_mm2: float) -> float:
    """Amps of the table, straight in logarithms between its sizes and beyond its ends."""
    areas, amps = np.array(AMPACITY_A).T
    if area_mm2 > areas[-1]:
        slope = log(amps[-1] / amps[-2]) / log(areas[-1] / areas[-2])
        return float(amps[-1] * (area_mm2 / areas[-1]) ** slope)
    if area_mm2 < areas[0]:
        # Thinner than the table: by the area, which is on the safe side.
        return float(amps[0] * area_mm2 / areas[0])
    # Rounded, so that a size of the table bears just what the table says.
    return round(exp(float(np.interp(log(area_mm2), np.log(areas), np.log(amps)))), 6)


def ampacity_a(
    area_mm2: float, *, bundled: bool = False, engine_bay: bool = False, ambient_c: float = TABLE_C
) -> float:
    """What a conductor bears where it lies [A]."""
    share = ambient_share(ambient_c)
    share *= BUNDLED_SHARE if bundled else 1.0
    share *= ENGINE_BAY_SHARE if engine_bay else 1.0
    return free_air_a(area_mm2) * share
