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
class Spread:
    """What was foreseen of one thing: four times in five it should lie between `low` and `high`."""

    low: float
    middle: float
    high: float


@dataclass(frozen=True)
class Foreseen:
    """What was foreseen of one thing, and what came."""

    spread: Spread
    came: float

    @property
    def inside(self) -> bool:
        """Whether it lay in the band, a thousandth give or take."""
        slack = 0.001 * max(abs(self.spread.high), 1.0)
        return self.spread.low - slack <= self.came <= self.spread.high + slack


@dataclass(frozen=True)
class DayForecast:
    """What a day's own dawn foresaw: the level at the next (step `until`), its sun and use [Ah]."""

    day: int
    until: int
    level: Spread
    sun: Spread | None
    use: Spread


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


def forecast_of(day: int, tracked: Tracked) -> DayForecast:
    """A forecast made at a day's dawn: a trip tracked to the next one, told nothing of the day."""
    low, middle, high = (float(line[-1]) for line in tracked.band)
    sun = _sun_of(tracked, day)
    return DayForecast(
        day=day,
        until=tracked.until,
        level=Spread(low, middle, high),
        sun=None if sun is None else _spread(sun),
        use=_spread(tracked.used[:, day].sum(axis=1)),
    )


def score_day(forecast: DayForecast, hindsight: Tracked) -> DayScore:
    """Hold a forecast against what is known now of the same trip, followed past that day's end."""
    day = forecast.day
    level = hindsight.band[1, min(forecast.until, hindsight.until)]
    sun = _sun_of(hindsight, day)
    had = forecast.sun
    return DayScore(
        day=day,
        level=Foreseen(forecast.level, float(level)),
        sun=None if had is None or sun is None else Foreseen(had, float(np.median(sun))),
        use=Foreseen(forecast.use, float(np.median(hindsight.used[:, day].sum(axis=1)))),
    )


def lean_of(parts: list[Foreseen]) -> Lean:
    """How far what came lies off what was foreseen, as a share, over some days."""
    middles = np.array([part.spread.middle for part in parts])
    came = np.array([part.came for part in parts])
    whole = float(middles.sum())
    if len(parts) < 2 or whole <= 0.0:
        return Lean(0.0, float("inf"), len(parts))
    off = came - middles
    error = float(off.std(ddof=1)) * len(parts) ** 0.5
    return Lean(float(off.sum()) / whole, error / whole, len(parts))


def _sun_of(tracked: Tracked, day: int) -> Floats | None:
    """(particles,) what the sun gave on a day [Ah]; None where the box has no panel."""
    suns = {source.key for source in tracked.case.sources if source.group == "sun"}
    places = [place for place, key in enumerate(tracked.source_keys) if key in suns]
    if not places:
        return None
    return np.asarray(tracked.gave[:, day][:, places].sum(axis=1))


def _spread(values: Floats) -> Spread:
    return Spread(*(float(v) for v in np.quantile(values, (LOW, MIDDLE, HIGH))))
