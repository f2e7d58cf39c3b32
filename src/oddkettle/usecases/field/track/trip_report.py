"""Plan against actual: what was planned, what happened, and what to change next time."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from oddkettle.core.simulation.ensemble_statistics import quantiles
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.units.quantity import charge
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.odds import Band
from oddkettle.results.run import RunReport
from oddkettle.text.words import number_word
from oddkettle.usecases.field.log.log import LogEntry, list_entries
from oddkettle.usecases.field.track.calibration import Learned, learn
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip, follow
from oddkettle.usecases.simulate.run_report import report_plan

Floats = NDArray[np.float64]
CLEAR_AH, CLEAR_SHARE = 1.0, 0.1
"""A difference smaller than this is not spoken of."""
MAX_LESSONS = 5


PartKind = Annotated[str, Field(json_schema_extra={"enum": [*SOURCE_KINDS, "use"]})]
"""A key of the registry of source kinds, or use."""


class Against(LazyModel):
    """One amount: planned [Ah], and as tracked, with its band [Ah]."""

    key: str
    name: str
    kind: PartKind
    planned_ah: float
    actual_ah: Band


class DayAgainst(LazyModel):
    """One day that has gone, or the part of it that has."""

    date: dt.date
    done: bool
    """False for the day that is under way: the plan's part of it is counted as far as now."""
    parts: list[Against]
    planned_in_ah: float
    planned_out_ah: float
    actual_in_ah: Band
    actual_out_ah: Band
    planned_low_percent: float
    actual_low_percent: Band


class TripReport(LazyModel):
    """What was planned and what happened, up to now."""

    name: str
    site: str
    start: dt.date
    now: str
    over: bool
    headline: str
    lessons: list[str]
    """What to change next time."""
    total: list[Against]
    days: list[DayAgainst]
    learned: list[Learned]
    entries: list[LogEntry]


def report_trip(plan_id: int) -> TripReport:
    """The report of a trip up to now. Raises PlanRefused."""
    here = follow(plan_id)
    plan, tracked = here.plan, here.tracked
    run = report_plan(plan, advice=False)
    share = _gone(here, run)
    days = [_day(here, run, d, part) for d, part in enumerate(share) if part > 0.0]
    learned = learn(plan, tracked)
    total = (
        [
            Against(
                key=part.key,
                name=part.name,
                kind=part.kind,
                planned_ah=sum(day.parts[n].planned_ah for day in days),
                actual_ah=_sum(here, part.key, range(len(days)))
                if _followed(here, part.key)
                else _just(sum(day.parts[n].planned_ah for day in days)),
            )
            for n, part in enumerate(days[0].parts)
        ]
        if days
        else []
    )
    return TripReport(
        name=plan.name,
        site=plan.trip.site.name,
        start=plan.trip.start,
        now=here.now.astimezone(tracked.grid.zone).isoformat(timespec="minutes"),
        over=here.over,
        headline=_headline(here, days),
        lessons=_lessons(here, total, learned, days),
        total=total,
        days=days,
        learned=learned,
        entries=list_entries(plan_id),
    )


def _gone(here: TrackedTrip, run: RunReport) -> list[float]:
    """Which share of each day has gone, 0..1."""
    starts, until = here.tracked.grid.day_starts, here.tracked.until
    return [
        min(max((until - int(starts[d])) / int(starts[d + 1] - starts[d]), 0.0), 1.0)
        for d in range(len(run.days))
    ]


def _day(here: TrackedTrip, run: RunReport, d: int, share: float) -> DayAgainst:
    tracked, day = here.tracked, run.days[d]
    until = tracked.until * tracked.grid.step_min // run.bank.step_min
    planned = _planned_parts(run, d, until if share < 1.0 else None)
    parts = [
        Against(
            key=key,
            name=name,
            kind=kind,
            planned_ah=ah,
            actual_ah=_sum(here, key, [d]) if _followed(here, key) else _just(ah),
        )
        for key, name, kind, ah in planned
    ]
    # What the box draws by itself is not followed: it is taken as planned.
    itself = sum(part.planned_ah for part in parts if not _followed(here, part.key))
    first = int(tracked.grid.day_starts[d])
    last = min(int(tracked.grid.day_starts[d + 1]), tracked.until)
    low = 100 * tracked.band[:, first : last + 1].min(axis=1)
    series = run.series
    levels = [] if series is None else series.level_percent
    part = levels[day.first_step : min(day.first_step + day.steps, until) + 1]
    gave, used = tracked.gave[:, d].sum(axis=1), tracked.used[:, d].sum(axis=1)
    return DayAgainst(
        date=day.date,
        done=share >= 1.0,
        parts=parts,
        planned_in_ah=sum(p.planned_ah for p in parts if p.kind != "use"),
        planned_out_ah=sum(p.planned_ah for p in parts if p.kind == "use"),
        actual_in_ah=_band(gave),
        actual_out_ah=_band(used + itself),
        planned_low_percent=min(part, default=day.lowest_percent),
        actual_low_percent=Band(low=float(low[0]), middle=float(low[1]), high=float(low[2])),
    )


Planned = tuple[str, str, str, float]


def _planned_parts(run: RunReport, d: int, until: int | None) -> list[Planned]:
    """What each source and appliance was to do on a day; `until` a step, where it is not over."""
    day = run.days[d]
    gone = 1.0 if until is None else max(until - day.first_step, 0) / max(day.steps, 1)
    found: list[Planned] = []
    for source in day.sources:
        share = gone
        if until is not None and run.series is not None:
            amps = run.series.taken_a[source.key]
            whole = sum(amps[day.first_step : day.first_step + day.steps])
            share = sum(amps[day.first_step : until]) / whole if whole > 0.0 else 0.0
        found.append((source.key, source.name, source.kind, source.taken.ah * share))
    profiles = {draw.key: draw.profile_a for draw in run.use.draws}
    for draw in day.draws:
        share = gone
        profile = profiles.get(draw.key)
        if until is not None and profile and sum(profile) > 0.0:
            share = sum(profile[: max(until - day.first_step, 0)]) / sum(profile)
        found.append((draw.key, draw.name, "use", draw.used.ah * share))
    return found


def _sum(here: TrackedTrip, key: str, days: range | list[int]) -> Band:
    """A source's or an appliance's tracked charge over some days [Ah]."""
    tracked, which = here.tracked, list(days)
    if key in tracked.source_keys:
        return _band(tracked.gave[:, which, tracked.source_keys.index(key)].sum(axis=1))
    return _band(tracked.used[:, which, tracked.draw_keys.index(key)].sum(axis=1))


def _followed(here: TrackedTrip, key: str) -> bool:
    return key in here.tracked.source_keys or key in here.tracked.draw_keys


def _just(ah: float) -> Band:
    return Band(low=ah, middle=ah, high=ah)


def _band(values: Floats) -> Band:
    low, middle, high = quantiles(values)
    return Band(low=low, middle=middle, high=high)


def _headline(here: TrackedTrip, days: list[DayAgainst]) -> str:
    if not days:
        return "Nothing has happened yet."
    planned = sum(day.planned_in_ah - day.planned_out_ah for day in days)
    actual = sum(day.actual_in_ah.middle - day.actual_out_ah.middle for day in days)
    gone = number_word(len(days))
    off = actual - planned
    noun = "day" if len(days) == 1 else "days"
    if abs(off) < max(CLEAR_AH, CLEAR_SHARE * abs(planned)):
        return f"After {gone} {noun} it is where the plan had it."
    side = "ahead of" if off > 0 else "behind"
    return f"After {gone} {noun} it is {_charge(here, abs(off))} {side} the plan."


def _lessons(
    here: TrackedTrip, total: list[Against], learned: list[Learned], days: list[DayAgainst]
) -> list[str]:
    sure = [one for one in learned if one.told and _not_as_typed(one)]
    said = [one.text for one in sure]
    for part in sorted(total, key=_off, reverse=True):
        low, high = part.actual_ah.low, part.actual_ah.high
        known = any(one.name == part.name for one in sure)
        if known or low <= part.planned_ah <= high or _off(part) < CLEAR_AH:
            continue
        verb = "used" if part.kind == "use" else "gave"
        a_day = part.actual_ah.middle / len(days)
        said.append(
            f"{part.name} {verb} {_charge(here, part.actual_ah.middle)} and "
            f"{_charge(here, part.planned_ah)} were "
            f"planned: reckon with {_charge(here, a_day)} a day."
        )
    return said[:MAX_LESSONS] or ["Nothing stands out: the plan's numbers held."]


def _charge(here: TrackedTrip, ah: float) -> str:
    return charge(ah, ah * here.case.bank.nominal_v)


def _not_as_typed(one: Learned) -> bool:
    typed = 0.0 if one.kind == "monitor" else 1.0  # the monitor's is in points
    return not one.after.low <= typed <= one.after.high


def _off(part: Against) -> float:
    return abs(part.actual_ah.middle - part.planned_ah)
