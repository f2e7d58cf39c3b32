"""The step's pure arithmetic: scalars in, a scalar out."""

from __future__ import annotations

from oddkettle.core.kernel.compiler import inlined
from oddkettle.core.kernel.constants import COLD_HIGH_C, COLD_LOW_C, ROWS_PER_K


@inlined
def line(low: float, high: float, part: float) -> float:
    """Straight-line value between two knots."""
    return low + part * (high - low)


@inlined
def temperature_row(celsius: float) -> int:
    """Nearest row of the temperature tables: off by a twentieth of a kelvin at most."""
    return int((min(max(celsius, COLD_LOW_C), COLD_HIGH_C) - COLD_LOW_C) * ROWS_PER_K + 0.5)


@inlined
def max_charge_a(celsius: float, barred_c: float, gentle_c: float, gentle_a: float) -> float:
    """What the cold lets into a bank [A]: nothing when barred, little when gentle."""
    if celsius < barred_c:
        return 0.0
    return gentle_a if celsius < gentle_c else 1e12


@inlined
def heater_share(
    celsius: float, until_c: float, rest_c: float, decay: float, gain_k: float
) -> float:
    """Share of a step for which the pads run so as not to pass their upper mark."""
    free = rest_c + (celsius - rest_c) * decay
    return min(max((until_c - free) / gain_k, 0.0), 1.0)


@inlined
def part_above(begin_v: float, end_v: float, cutoff_v: float) -> float:
    """Share of a step before a falling voltage meets the cut-off."""
    if end_v >= cutoff_v:
        return 1.0
    return (begin_v - cutoff_v) / (begin_v - end_v) if begin_v > cutoff_v else 0.0
