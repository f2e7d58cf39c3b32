"""Where the battery stands, in a camper's words: now, what was read, and the rest of the trip."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.readings import READING_KINDS, Taken
from oddkettle.core.estimation.readings.percent import FULL_SEEN
from oddkettle.core.estimation.remainder import run_rest
from oddkettle.core.estimation.tracker import Tracked
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.ensemble import Ensemble
from oddkettle.core.simulation.ensemble_statistics import MIDDLE_80, band, quantiles
from oddkettle.core.trip.grid import zone_named
from oddkettle.core.units.quantity import clock
from oddkettle.plan import Plan
from oddkettle.plan.document import step_minutes
from oddkettle.plan.plan_errors import PlanRefused, from_fault
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.odds import Band, BandSeries, OddsReport
from oddkettle.text.words import day_words, duration_words
from oddkettle.usecases.field.track.calibration import Learned, learn
from oddkettle.usecases.field.track.case_from_log import case_from_log
from oddkettle.usecases.field.track.day_things import BlockTold, blocks_told
from oddkettle.usecases.field.track.open_reading import OpenReading, question_of
from oddkettle.usecases.field.track.suspicion import suspicions
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip, Why, first_midnight, follow
from oddkettle.usecases.simulate.odds import report_odds

Floats = NDArray[np.float64]
QUICK_SCENARIOS = 40
LITTLE_POINTS = 0.3
"""What is too little to be spoken of."""
SURE_SHARE, RARE_SHARE = 0.9, 0.1
WHY: dict[str, str] = {
    "chosen": "As of the moment that you chose.",
    "clock": "As of now.",
    "last": "As of the last thing that is known of the trip.",
    "start": "The trip has not begun; this is the plan.",
}


class Mark(LazyModel):
    """What became of one entry's reading."""

    entry: int | None
    """The entry's number; None for a monitor's own samples."""
    state: Literal["used", "anchor", "aside", "late"]
    """What is open stands aside until it is settled."""
    text: str


class Ahead(LazyModel):
    """How long until something happens, over the scenarios."""

    percent: float
    """In how many of them it happens at all before the trip ends."""
    hours: Band | None
    """Over those in which it does; None in fewer than one in ten."""


class TrackReport(LazyModel):
    """Where the battery stands, and how sure that is."""

    now: str
    """Local time."""
    now_step: float
    """Place on the plan's own grid, fractional."""
    why: Why
    why_text: str
    begun: bool
    headline: str
    detail: str
    level: Band
    planned_percent: float
    readings: int
    aside: int
    marks: list[Mark]
    to_floor: Ahead
    to_full: Ahead
    learned: list[Learned]
    question: OpenReading | None
    """What is asked about a reading that did not fit, until it is settled."""
    suspicions: list[str]
    """Which assumption must be wrong, where readings and model do not agree."""
    blocks: list[BlockTold]
    """How each drive, hook-up and panel of the plan went; none before the trip begins."""
    rest: OddsReport
    """The rest of the trip; its band runs from the trip's start, tracked up to now."""


def track_plan(plan_id: int, at: datetime | None = None) -> TrackReport:
    """Follow a trip up to now, or to a local time, and look on from there. Raises PlanRefused."""
    return report_whereabouts(follow(plan_id, at))


def rest_of(plan_id: int, document: Plan, *, quick: bool = False) -> OddsReport:
    """The rest of a variant of the plan, from where the saved one's battery stands.

    `quick` takes few scenarios, for a plan that is just being dragged. Raises PlanRefused.
    """
    here = follow(plan_id)
    try:
        case = case_from_log(document, list(here.entries), here.now)
        case = replace(case, step_min=here.tracked.case.step_min)
        if case.days != here.case.days or case.first_day != here.case.first_day:
            # Other days are another trip: only the saved one has a standpoint.
            return report_whereabouts(here).rest
        rest = run_rest(case, here.tracked.here, QUICK_SCENARIOS if quick else _scenarios(document))
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from None
    odds = report_odds(rest, left=here.days_left)
    return _with_the_past(odds, here.tracked, rest, here.day)


def _scenarios(document: Plan) -> int:
    return document.assumptions.scenarios


def report_whereabouts(here: TrackedTrip) -> TrackReport:
    """Write a trip's whereabouts down."""
    tracked, rest, plan = here.tracked, here.rest, here.plan
    low, middle, high = (100 * float(line[-1]) for line in tracked.band)
    zone = zone_named(plan.trip.site.timezone)
    local = here.now.astimezone(zone)
    begun = here.begun
    odds = report_odds_from(here)
    floor = plan.trip.floor_percent
    to_floor = _ahead(rest, rest.under, tracked.until)
    to_full = _ahead(rest, rest.level > FULL_SEEN, tracked.until)
    aside = [taken for taken in tracked.taken if not taken.used]
    step_s = 60 * step_minutes(plan)
    learned = learn(plan, tracked)
    return TrackReport(
        now=local.isoformat(timespec="minutes"),
        now_step=(here.now - first_midnight(plan)).total_seconds() / step_s,
        why=here.why,
        why_text=WHY[here.why],
        begun=begun,
        headline=_headline((low, middle, high), open_reading=tracked.open_share > 0.0),
        detail=_detail(here, to_floor, to_full, floor, local),
        level=Band(low=low, middle=middle, high=high),
        planned_percent=_planned(here),
        readings=len(tracked.taken),
        aside=len(aside),
        marks=marks_of(tracked),
        to_floor=to_floor,
        to_full=to_full,
        learned=learned,
        question=question_of(here),
        suspicions=suspicions(tracked, learned),
        blocks=blocks_told(here, local) if begun else [],
        rest=odds,
    )


def report_odds_from(here: TrackedTrip) -> OddsReport:
    """The odds of the rest of a trip, with what was tracked in the days before."""
    odds = report_odds(here.rest, left=here.days_left)
    return _with_the_past(odds, here.tracked, here.rest, here.day)


def _planned(here: TrackedTrip) -> float:
    from oddkettle.usecases.simulate.run_cache import run_plan

    run = run_plan(here.plan)
    step = (here.now - first_midnight(here.plan)).total_seconds() / (60 * run.grid.step_min)
    return max(100 * float(run.level[min(max(round(step), 0), run.grid.steps)]), 0.0)


def _headline(level: tuple[float, float, float], *, open_reading: bool) -> str:
    low, middle, high = level
    if open_reading:
        # Its middle lies between two explanations, where it stands in neither.
        return f"It stands between {low:.0f} and {high:.0f} %: a reading is not settled."
    if high - low < 3.0:
        return f"It stands at {middle:.0f} %."
    return f"About {middle:.0f} % now: between {low:.0f} and {high:.0f}."


def _detail(
    here: TrackedTrip, to_floor: Ahead, to_full: Ahead, floor: float, local: datetime
) -> str:
    text = []
    if here.over:
        return "The trip is over."
    if to_floor.percent >= 100 * RARE_SHARE and to_floor.hours is not None:
        when = local + timedelta(hours=to_floor.hours.middle)
        often = (
            ""
            if to_floor.percent >= 100 * SURE_SHARE
            else (f" in {round(to_floor.percent / 10)} of 10 tries,")
        )
        text.append(
            f"It goes under {floor:.0f} %{often} around {day_words(when)} {clock(when)} "
            f"(in {duration_words(to_floor.hours.middle)})."
        )
    else:
        text.append(f"It stays above {floor:.0f} % in nearly every trip.")
    if to_full.hours is not None and to_full.percent >= 50:
        when = local + timedelta(hours=to_full.hours.middle)
        text.append(f"Full again around {day_words(when)} {clock(when)}.")
    elif here.case.sun or here.case.vehicle or here.case.mains:
        text.append("It is not full again before the trip ends, in most trips.")
    return " ".join(text)


def _ahead(rest: Ensemble, holds: NDArray[np.bool_], now: int) -> Ahead:
    part = holds[:, now:]
    happens = part.any(axis=1)
    hours = part.argmax(axis=1)[happens] * rest.grid.step_h
    enough = happens.mean() >= RARE_SHARE
    return Ahead(percent=100 * float(happens.mean()), hours=_band(hours) if enough else None)


def _band(values: NDArray[np.floating]) -> Band:
    low, middle, high = quantiles(values)
    return Band(low=low, middle=middle, high=high)


def _with_the_past(odds: OddsReport, tracked: Tracked, rest: Ensemble, today: int) -> OddsReport:
    """The odds with what was tracked in the days before: their band and their lowest levels."""
    begin = tracked.until
    ahead = band(rest)[:, begin + 1 :]
    lines = np.concatenate([tracked.band, ahead], axis=1)
    low, middle, high = (np.round(100 * line, 1).tolist() for line in lines)
    days = list(odds.days)
    starts = tracked.grid.day_starts
    for d in range(today):
        part = 100 * tracked.band[:, starts[d] : starts[d + 1]].min(axis=1)
        lowest = Band(low=float(part[0]), middle=float(part[1]), high=float(part[2]))
        days[d] = days[d].model_copy(update={"lowest": lowest})
    step_min = tracked.grid.step_min
    series = BandSeries(step_min=step_min, low=low, middle=middle, high=high)
    return odds.model_copy(update={"band": series, "days": days})


def marks_of(tracked: Tracked) -> list[Mark]:
    """What became of each reading, by time."""
    found = []
    for place, taken in enumerate(tracked.taken):
        key, _, _ = taken.key.partition(" ")
        text = text_of(taken)
        if taken.open and tracked.open_share == 0.0:
            text = _settled_text(taken, tracked.taken[place + 1 :])
        found.append(
            Mark(entry=int(key) if key.isdigit() else None, state=_state(taken), text=text)
        )
    return found


def _settled_text(taken: Taken, since: tuple[Taken, ...]) -> str:
    """What became of a reading that stood beside what was expected, once others settled it."""
    right = any(one.late for one in since)
    if right:
        return f"Not used at first: {_span_words(taken)}. A later one agrees with it."
    return f"Not used: {_span_words(taken)}, and what was read since fits that."


def _state(taken: Taken) -> Literal["used", "anchor", "aside", "late"]:
    if not taken.used:
        return "aside"
    return "anchor" if taken.anchor else "late" if taken.late else "used"


def text_of(taken: Taken) -> str:
    """What became of a reading, in a sentence or two."""
    span = _span_words(taken)
    if taken.open:
        return (
            f"Not used yet: {span}. The level is kept open between both until the next reading "
            "settles it."
        )
    if not taken.used:
        return (
            f"Not used: {span}, and so odd a reading comes once in "
            f"{min(1 / max(taken.surprise, 1e-9), 1e6):,.0f}. A second one that agrees is believed."
        )
    if taken.late:
        return f"Believed, for the reading before it was odd as well ({span}). {_effect(taken)}"
    if taken.anchor:
        return f"Taken as it is, although {span}. {_effect(taken)}"
    return f"Used: {span}. {_effect(taken)}"


def _span_words(taken: Taken) -> str:
    """Between what a reading was expected."""
    low, high = taken.expected
    unit = READING_KINDS[taken.kind].unit
    if unit == "%":
        return f"{100 * max(low, 0.0):.0f} to {100 * high:.0f} % was expected"
    digits = 2 if unit == "V" else 1
    return f"{low:.{digits}f} to {high:.{digits}f} {unit} was expected"


def _effect(taken: Taken) -> str:
    """What a reading did to the level; the doubt is half of the middle 80 %."""
    moved = 100 * taken.moved
    before, after = (100 * MIDDLE_80 * spread for spread in taken.doubt)
    step = (
        "left the level where it was"
        if abs(moved) < LITTLE_POINTS
        else (f"moved the level by {moved:+.1f} points".replace("-", "−"))
    )
    if before - after < LITTLE_POINTS:
        return f"It {step}."
    return f"It {step}; the uncertainty went from ±{before:.0f} to ±{after:.1f} points."
