"""A battery's own rested curve, from a table, a few points, or a steady discharge."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.bank import cell_ohm, open_circuit_v
from oddkettle.core.battery.chemistry import Chemistry
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.units.conversion import ohms_from_milliohms

Floats = NDArray[np.float64]

MAX_POINTS = 101
LARGEST_FALL_V = 0.02
"""Of a rested voltage with rising level [12 V class]: more is no battery, less is the meter."""
MIN_RISE_V = 2e-4
FARTHEST_V = 1.5
"""Off the chemistry's own curve [12 V class]: another chemistry, or another number of cells."""
WHERE = ("curve",)


def rested_from_points(
    chemistry: Chemistry, level: Floats, volts: Floats, volts_scale: float = 1.0
) -> Floats:
    """(n, 2) a whole rested curve through measured points: level 0..1 and volts, 12 V class.

    Between and beyond the points the generic curve of the chemistry is carried along, moved by
    what the points differ from it. level : (m,) 0..1, volts : (m,) [V, 12 V class], any order.
    `volts_scale` is one battery's voltage over that class: what is refused is told in its volts.
    Raises PlanError where they fall with rising level, or lie far off the chemistry's curve.
    """
    at, where = np.unique(level, return_inverse=True)
    measured = np.bincount(where, weights=volts) / np.bincount(where)
    for (low, low_v), (high, high_v) in pairwise(zip(at, measured, strict=True)):
        if high_v < low_v - LARGEST_FALL_V:
            raise PlanError(
                f"The curve falls from {low_v * volts_scale:.2f} V at {100 * low:.0f} % to "
                f"{high_v * volts_scale:.2f} V at {100 * high:.0f} %.",
                where=WHERE,
                value=round(float(high_v * volts_scale), 3),
                limit=f"at least {low_v * volts_scale:.2f} V",
                remedy="A fuller battery stands higher at rest: put the columns right.",
            )
    off = measured - open_circuit_v(chemistry, at)
    worst = int(np.abs(off).argmax())
    if abs(off[worst]) > FARTHEST_V:
        told, usual = (
            float(v * volts_scale) for v in (measured[worst], measured[worst] - off[worst])
        )
        raise PlanError(
            f"{told:.2f} V at {100 * at[worst]:.0f} % is not a rested {chemistry.name} battery of "
            f"this voltage: that stands at {usual:.2f} V.",
            where=WHERE,
            value=round(told, 2),
            limit=f"within {FARTHEST_V * volts_scale:g} V of the typical curve",
            remedy="Choose its chemistry and its volts first, or look at the columns.",
        )
    knots = np.union1d(np.array([s for s, _ in chemistry.ocv]), at)
    if len(knots) > MAX_POINTS:
        knots = np.linspace(0.0, 1.0, MAX_POINTS)
    curve = open_circuit_v(chemistry, knots) + np.interp(knots, at, off)
    rising = np.maximum.accumulate(curve) + MIN_RISE_V * np.arange(len(knots))
    return np.stack([knots, rising], axis=1)


def rested_from_discharge(
    chemistry: Chemistry, drawn_ah: Floats, volts: Floats, amps: float, battery_ah: float
) -> tuple[Floats, Floats]:
    """(level, rested volts) of a discharge at steady `amps` from full, at 25 C; 12 V class.

    What the resistance of the chemistry takes at that current is put back. drawn_ah, volts :
    (n,) [Ah, V]; what is drawn beyond the label is left out. Raises PlanError where that is all,
    and for lead, whose voltage under load hangs on how long the load has run.
    """
    if chemistry.lead:
        raise PlanError(
            f"A discharge of {chemistry.name} does not tell how it stands at rest.",
            where=WHERE,
            value=chemistry.name,
            limit="lithium batteries",
            remedy="Type rested voltages instead: let it rest some hours at each level.",
        )
    level = 1.0 - drawn_ah / battery_ah
    inside = (level >= 0.0) & (level <= 1.0)
    if not inside.any():
        raise PlanError(
            f"All of the curve was drawn beyond the label: {drawn_ah.min():g} Ah and more.",
            where=WHERE,
            value=float(drawn_ah.min()),
            limit=f"0 to {battery_ah:g} Ah since full",
            remedy="Give the charge that was drawn since it was full, or its true label.",
        )
    whole = cell_ohm(chemistry, level[inside]) + ohms_from_milliohms(
        chemistry.resistance.leads_mohm
    )
    return level[inside], volts[inside] + amps * whole * 100.0 / battery_ah
