"""Copper: sizes, resistance, what a conductor carries, and what it drops."""

from __future__ import annotations

from dataclasses import dataclass
from math import exp, log, sqrt

import numpy as np

from oddkettle.core.own_wiring import Series
from oddkettle.core.quantity import conductor
from oddkettle.core.units import (
    AWG_NUMBERS,
    CABLE_SIZES_MM2,
    COPPER_OHM_MM2_M,
    awg_area_mm2,
    awg_text,
)

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


def run_ohm(run_m: float, area_mm2: float, celsius: float = REFERENCE_C) -> float:
    """Resistance of a run there and back [ohm]; `run_m` is one way.

    celsius : the conductor's own temperature, -40 to 105
    """
    warmth = 1.0 + COPPER_PER_K * (celsius - REFERENCE_C)
    return 2.0 * run_m * COPPER_OHM_MM2_M * warmth / area_mm2


def drop_v(amps: float, run_m: float, area_mm2: float) -> float:
    """Voltage lost in a run, there and back, at 20 C [V]."""
    return amps * run_ohm(run_m, area_mm2)


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
