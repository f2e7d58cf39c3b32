"""What a run takes from the battery's life: rainflow-counted cycles and the calendar."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.chemistry import Chemistry
from oddkettle.core.units.conversion import DAYS_PER_YEAR, HOURS_PER_DAY

Floats = NDArray[np.float64]
MIN_DEPTH = 0.005
"""Ripples shallower than half a point are left out: they are the fridge's, not a cycle."""


@dataclass(frozen=True)
class Ageing:
    """Equivalent full cycles, the deepest cycle (0..1), and shares of life used (0..1).

    `life` is the larger of the two shares: the wear that leads.
    """

    full_cycles: float
    deepest: float
    cycle_share: float
    calendar_share: float

    @property
    def life(self) -> float:
        """Share of the battery's life that the trip takes."""
        return max(self.cycle_share, self.calendar_share)


def age(chemistry: Chemistry, soc: Floats, step_h: float) -> Ageing:
    """Count cycles by rainflow (ASTM E1049) and add them up by Miner's rule.

    soc : (n,) state of charge. A cycle of depth D costs `1/N(D)` of life, with
    `N(D) = cycles_at_full * D**-exponent`; shallow cycles cost less than their share.
    """
    # The package takes a fifth of a second to import: only where it is used.
    import rainflow

    full_cycles = cycle_share = deepest = 0.0
    life = chemistry.life
    for depth, _, count, _, _ in rainflow.extract_cycles(turning_points(soc)):
        if depth < MIN_DEPTH:
            continue
        full_cycles += count * depth
        deepest = min(max(deepest, depth), 1.0)
        cycle_share += count * depth**life.exponent / life.cycles_at_full
    years = (len(soc) - 1) * step_h / HOURS_PER_DAY / DAYS_PER_YEAR
    return Ageing(full_cycles, deepest, cycle_share, years / life.calendar_years)


def turning_points(soc: Floats) -> list[float]:
    """The series' ends and its reversals, which are all that rainflow looks at."""
    moves = np.diff(soc)
    keep = np.flatnonzero(moves != 0.0)
    turns = keep[1:][np.sign(moves[keep[1:]]) != np.sign(moves[keep[:-1]])]
    points = [float(soc[0]), *(float(soc[t]) for t in turns), float(soc[-1])]
    if len(points) == 2:
        # The package finds no half cycle between two points alone.
        points.insert(1, sum(points) / 2.0)
    return points
