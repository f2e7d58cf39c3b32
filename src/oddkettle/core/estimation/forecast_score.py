"""Yesterday's forecasts held against what then came."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.tracker import Tracked

Floats = NDArray[np.float64]

LOW, MIDDLE, HIGH = 0.1, 0.5, 0.9
FEWEST_FOR_BIAS = 4
"""Days before a lean is spoken of [judgement]."""
LEAN_SHARE, LEAN_SIGMAS = 0.08, 2.0
"""A lean worth telling: so much of what was foreseen, and so many standard errors [judgement]."""


@dataclass(frozen=True)
class Foreseen:
    """What was foreseen of one thing, between which it should lie four times in five, and came."""

    low: float
    middle: float
    high: float
    came: float

    @property
    def inside(self) -> bool:
        """Whether it lay in the band, a thousandth give or take."""
        slack = 0.001 * max(abs(self.high), 1.0)
        return self.low - slack <= self.came <= self.high + slack


@dataclass(frozen=True)
class DayScore:
    """One finished day: the level at the next dawn (0..1), the day's sun and use [Ah]."""

    day: int
    level: Foreseen
    sun: Foreseen | None
    use: Foreseen


@dataclass(frozen=True)
class Lean:
    """Where foreseen and come differ day by day: the share, and its standard error."""

    share: float
    error: float
    days: int

    @property
    def told(self) -> bool:
        """Whether it is more than chance and more than little."""
        enough = self.days >= FEWEST_FOR_BIAS
        return enough and abs(self.share) > max(LEAN_SHARE, LEAN_SIGMAS * self.error)


def score_day(day: int, forecast: Tracked, hindsight: Tracked) -> DayScore:
    """Hold a forecast made at a day's dawn, tracked to the next, against what is known now.

    `forecast` was told nothing of the day; `hindsight` follows the same trip past its end.
    """
    level = hindsight.band[1, min(forecast.until, hindsight.until)]
    low, middle, high = (float(line[-1]) for line in forecast.band)
    sun = [source.key for source in forecast.case.sources if source.group == "sun"]
    return DayScore(
        day=day,
        level=Foreseen(low, middle, high, float(level)),
        sun=_foreseen(_summed(forecast, day, sun), _summed(hindsight, day, sun)) if sun else None,
        use=_foreseen(forecast.used[:, day].sum(axis=1), hindsight.used[:, day].sum(axis=1)),
    )


def lean_of(parts: list[Foreseen]) -> Lean:
    """How far what came lies off what was foreseen, as a share, over some days."""
    middles = np.array([part.middle for part in parts])
    came = np.array([part.came for part in parts])
    whole = float(middles.sum())
    if len(parts) < 2 or whole <= 0.0:
        return Lean(0.0, float("inf"), len(parts))
    off = came - middles
    error = float(off.std(ddof=1)) * len(parts) ** 0.5
    return Lean(float(off.sum()) / whole, error / whole, len(parts))


def _summed(tracked: Tracked, day: int, keys: list[str]) -> Floats:
    places = [tracked.source_keys.index(key) for key in keys if key in tracked.source_keys]
    return np.asarray(tracked.gave[:, day][:, places].sum(axis=1))


def _foreseen(foreseen: Floats, came: Floats) -> Foreseen:
    low, middle, high = np.quantile(foreseen, (LOW, MIDDLE, HIGH))
    return Foreseen(float(low), float(middle), float(high), float(np.median(came)))
