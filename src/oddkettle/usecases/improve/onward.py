"""Goal seek and weighing for the rest of a trip, from where its battery stands."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import timedelta
from functools import partial

from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import refused
from oddkettle.text.words import day_words
from oddkettle.usecases.field.track.tracked_trip import (
    TrackedTrip,
    first_midnight,
    follow,
    rest_with,
)
from oddkettle.usecases.improve.candidate import Candidate, without_a_shop
from oddkettle.usecases.improve.candidates import TIMED, Moment, candidates_of
from oddkettle.usecases.improve.mend import MendAsked, Mended, MendProgress, mend_by
from oddkettle.usecases.improve.schedule.schedule import Scheduled, schedule_by
from oddkettle.usecases.improve.seek import Goal, Sought, Tried, seek
from oddkettle.usecases.improve.weigh import Weighed, Weighing, weigh_by

UNDER_WAY = (*TIMED, "hookup", "appliance")
"""What can still be changed once the trip is under way."""
LIKELY_PERCENT = 80.0
"""How sure the drive that is offered first makes the rest of the trip [judgement]."""
SOON_MIN = 15
"""Nothing begins before the next quarter of an hour."""


def seek_onward(plan_id: int, goal: Goal) -> Iterator[Tried | Sought]:
    """Like `seek`, over the days that are left. Raises PlanRefused."""
    here = follow(plan_id)
    if goal.knob not in UNDER_WAY:
        raise refused(
            "knob",
            goal.knob,
            ", ".join(UNDER_WAY),
            "Seek a drive, a hook-up or a use.",
            "Under way neither the panel nor the battery can be another.",
        )
    if goal.day is not None and goal.day < here.day:
        today = first_midnight(here.plan) + timedelta(days=here.day)
        raise refused(
            "day",
            str(goal.day + 1),
            f"{here.day + 1} to {here.case.days}",
            f"Choose {day_words(today)} or a later day.",
            f"Day {goal.day + 1} is over.",
        )
    return seek(here.plan, goal, lambda variant: _lasts(here, variant), _soon(here))


def weigh_onward(plan_id: int) -> Iterator[Weighing | Weighed]:
    """Like `weigh`, over the days that are left: what needs no shop. Raises PlanRefused."""
    here = follow(plan_id)

    def changes_at(tight: int) -> list[Candidate]:
        return [c for c in candidates_of(here.plan, tight, _soon(here)) if without_a_shop(c)]

    return weigh_by(here.plan, lambda variant: rest_with(here, variant), changes_at)


def mend_rest(plan_id: int, asked: MendAsked) -> Iterator[MendProgress | Mended]:
    """Like `mend`, over the days that are left: what needs no shop. Raises PlanRefused."""
    here = follow(plan_id)
    run = partial(rest_with, here)
    return mend_by(here.plan, asked.model_copy(update={"shop": False}), run, _soon(here))


def schedule_rest(plan_id: int) -> Scheduled:
    """Like `schedule`, over the hours that are left. Raises PlanRefused."""
    here = follow(plan_id)
    return schedule_by(here.plan, partial(rest_with, here), _soon(here))


def _soon(here: TrackedTrip) -> Moment:
    """Today, and the next quarter of an hour: what is done from now on begins then or later."""
    local = here.now.astimezone(first_midnight(here.plan).tzinfo)
    return here.day, -(-(local.hour * 60 + local.minute) // SOON_MIN) * SOON_MIN


def mend_onward(plan_id: int) -> Sought | None:
    """The shortest drive before the tight day that makes the rest of the trip likely to last.

    None where it is likely already, or where no vehicle charges the box.
    """
    here = follow(plan_id)
    if not here.begun or 100 * float(here.rest.lasts.mean()) >= LIKELY_PERCENT:
        return None
    if not any(vehicle.on for vehicle in here.plan.box.vehicle):
        return None
    under = here.rest.under_by_day.mean(axis=0)
    day = max(int(under.argmax()) - 1, here.day)
    once = _answer(plan_id, day)
    if once is not None and once.value is None:
        # One day cannot do it: a little on every day may.
        daily = _answer(plan_id, None)
        return daily if daily is not None and daily.value is not None else once
    return once


def _answer(plan_id: int, day: int | None) -> Sought | None:
    goal = Goal(knob="drive", day=day, sure_percent=LIKELY_PERCENT)
    return next((line for line in seek_onward(plan_id, goal) if isinstance(line, Sought)), None)


def _lasts(here: TrackedTrip, variant: Plan) -> float:
    return float(rest_with(here, variant).lasts.mean())
