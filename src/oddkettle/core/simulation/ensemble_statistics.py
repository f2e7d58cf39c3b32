"""What many scenarios say: shares of them, bands, and whether two shares really differ."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.simulation.ensemble import Ensemble

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]

BAND = (0.1, 0.5, 0.9)
"""The band holds the middle 80 % of scenarios."""
MIDDLE_80 = 1.2816
"""Half the width of the middle 80 % of a normal distribution, in its spreads: probit(0.9)."""
CLEAR_SIGMAS = 2.0
"""A difference of fewer standard errors is called noise."""
FEWEST_CHANGED = 4
"""And so is one that rests on fewer scenarios than this."""


@dataclass(frozen=True)
class Share:
    """A share of scenarios, 0..1, with the standard error that their number leaves."""

    share: float
    error: float


@dataclass(frozen=True)
class Difference:
    """How much more often one variant lasts than another under the same skies.

    `gained` and `lost` count the scenarios that only the first, or only the second, comes through.
    """

    points: float
    gained: int
    lost: int
    clear: bool


def share_of(holds: Bools) -> Share:
    """Share of scenarios in which something holds; with none or all the error is that of one more.

    The error is that of a share of `n + 2` with one added on each side, which does not claim
    certainty from a few hundred scenarios [Agresti and Coull].
    """
    share = float(holds.mean())
    return Share(share, share_error(share, len(holds)))


def share_error(share: float, count: int) -> float:
    """Standard error of a share 0..1 of `count`, one added on each side [Agresti and Coull]."""
    middle = (share * count + 1.0) / (count + 2.0)
    return float((middle * (1.0 - middle) / (count + 2.0)) ** 0.5)


def difference(first: Bools, second: Bools) -> Difference:
    """Compare two variants scenario by scenario; those alike say nothing [McNemar]."""
    gained, lost = int((first & ~second).sum()), int((second & ~first).sum())
    changed = gained + lost
    clear = changed >= FEWEST_CHANGED and abs(gained - lost) >= CLEAR_SIGMAS * changed**0.5
    return Difference((gained - lost) / len(first), gained, lost, clear)


def band(ensemble: Ensemble, every: int = 1) -> Floats:
    """(3, points) low, middle and high of the level at every so many steps, 0..1."""
    level = np.sort(ensemble.level[:, ::every], axis=0)
    last = len(level) - 1
    return np.asarray([level[round(share * last)] for share in BAND], np.float64)


def quantiles(values: NDArray[np.floating]) -> tuple[float, float, float]:
    """(low, middle, high) of one number a scenario, at the ranks of the band."""
    ordered = np.sort(values)
    low, middle, high = (float(ordered[round(share * (len(ordered) - 1))]) for share in BAND)
    return low, middle, high


def of_ten(ensemble: Ensemble) -> dict[str, int]:
    """Which scenario stands for the worst, the middling and the best of ten, by lowest level."""
    order = ensemble.by_rank()
    last = len(order) - 1
    at = {"worst": 0.05, "middling": 0.5, "best": 0.95}
    return {name: int(order[round(share * last)]) for name, share in at.items()}


def hours_short(ensemble: Ensemble) -> tuple[float, float]:
    """Hours cut out, and hours under the reserve, in the mean of all scenarios.

    They tell variants apart where no scenario lasts. What is not known (NaN) is not short.
    """
    under = ensemble.under[:, :-1].sum(axis=1).mean()
    return float(ensemble.dark_h.sum(axis=1).mean()), float(under) * ensemble.grid.step_h
