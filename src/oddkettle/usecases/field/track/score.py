"""How the app's own forecasts came out on this trip, day by day."""

from __future__ import annotations

from datetime import datetime, timedelta

from oddkettle.core.estimation.forecast_score import (
    DayForecast,
    DayScore,
    Foreseen,
    Lean,
    forecast_of,
    lean_of,
    score_day,
)
from oddkettle.core.estimation.readings import Reading
from oddkettle.core.estimation.tracker import track
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.units.quantity import charge
from oddkettle.core.values.cache import CACHE
from oddkettle.plan.plan_errors import PlanRefused, from_fault
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.odds import Band
from oddkettle.text.words import day_words
from oddkettle.usecases.field.track.case_from_log import case_from_log
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip, first_midnight, follow

DAWN_H = 6
MAX_DAYS = 30
"""The last month is looked at: each day is a track of its own."""
FORECAST_PARTICLES = 300
"""Enough for a band of four in five."""


class ScoredPart(LazyModel):
    """What was foreseen of one thing, and what came."""

    band: Band
    came: float
    inside: bool


class ScoredDay(LazyModel):
    """One finished day, as its own dawn foresaw it."""

    day: int
    name: str
    level: ScoredPart
    sun: ScoredPart | None
    use: ScoredPart


class Score(LazyModel):
    """The forecasts of a trip against what came. `inside` of `of` mornings lay in their band."""

    days: list[ScoredDay]
    inside: int
    of: int
    text: str
    leans: list[str]


def score_trip(plan_id: int, at: datetime | None = None) -> Score:
    """Score each finished day's forecast of a plan's trip. Raises PlanRefused."""
    here = follow(plan_id, at)
    if not here.begun:
        return _written(here, [])
    try:
        found = [_scored(here, day) for day in _finished(here)]
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from None
    return _written(here, found)


def _finished(here: TrackedTrip) -> list[int]:
    """Days whose next dawn has passed and after whose own dawn something was read."""
    begin = first_midnight(here.plan)
    days = []
    for day in range(here.case.days - 1):
        dawn, next_dawn = (begin + timedelta(days=d, hours=DAWN_H) for d in (day, day + 1))
        read = any(dawn.timestamp() < r.at_s for r in here.readings)
        if next_dawn <= here.now and read:
            days.append(day)
    return days[-MAX_DAYS:]


def _scored(here: TrackedTrip, day: int) -> DayScore:
    begin = first_midnight(here.plan)
    dawn = begin + timedelta(days=day, hours=DAWN_H)
    next_dawn = dawn + timedelta(days=1)
    known = [e for e in here.entries if datetime.fromisoformat(e.at_utc) <= dawn]
    case = case_from_log(here.plan, known, dawn)
    read = _before(here.readings, dawn.timestamp())
    key = ("forecast", repr(case), read, day)

    def make() -> DayForecast:
        to_dawn = track(case, read, int(next_dawn.timestamp()), FORECAST_PARTICLES)
        return forecast_of(day, to_dawn)

    return score_day(CACHE.ask(key, make), here.tracked)


def _before(readings: tuple[Reading, ...], at_s: float) -> tuple[Reading, ...]:
    return tuple(r for r in readings if r.at_s <= at_s)


def _written(here: TrackedTrip, found: list[DayScore]) -> Score:
    inside = sum(one.level.inside for one in found)
    return Score(
        days=[
            ScoredDay(
                day=one.day,
                name=day_words(
                    first_midnight(here.plan) + timedelta(days=one.day), len(here.plan.trip.days)
                ),
                level=_part(one.level, 100.0),
                sun=None if one.sun is None else _part(one.sun),
                use=_part(one.use),
            )
            for one in found
        ],
        inside=inside,
        of=len(found),
        text=_text(inside, len(found)),
        leans=_leans(here, found),
    )


def _part(part: Foreseen, times: float = 1.0) -> ScoredPart:
    return ScoredPart(
        band=Band(
            low=times * part.spread.low,
            middle=times * part.spread.middle,
            high=times * part.spread.high,
        ),
        came=times * part.came,
        inside=part.inside,
    )


def _text(inside: int, of: int) -> str:
    if of == 0:
        return "No forecast has come due yet: it takes a whole day with a reading after its dawn."
    noun = "morning" if of == 1 else "mornings"
    return (
        f"Of {of} {noun}, {inside} lay in the band that the day before foresaw. "
        "Four in five are what it promises."
    )


def _leans(here: TrackedTrip, found: list[DayScore]) -> list[str]:
    sun = lean_of([one.sun for one in found if one.sun is not None])
    use = lean_of([one.use for one in found])
    said = []
    if sun.told:
        said.append(
            f"The sun brought {_way(sun)} than was foreseen, over {sun.days} days. Look at shade, "
            "dirt and the panel's watts; what the readings say of it can be taken over below."
        )
    if use.told:
        middle = sum(one.use.came for one in found) / len(found)
        amount = charge(middle, middle * here.case.bank.nominal_v)
        said.append(
            f"The box used {_way(use)} than was foreseen, {amount} a day, over {use.days} days. "
            "What the readings say of the appliances can be taken over below."
        )
    return said


def _way(lean: Lean) -> str:
    return f"{100 * abs(lean.share):.0f} % {'more' if lean.share > 0 else 'less'}"
