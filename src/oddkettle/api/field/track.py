"""Where the battery stands, the rest of the trip, and what was planned against what happened."""

from __future__ import annotations

from fastapi import APIRouter
from fastapi.responses import StreamingResponse

from oddkettle.api.plan.improve import MendLine, SeekLine, WeighLine, lines_of
from oddkettle.api.problems import PROBLEMS
from oddkettle.plan.quantities import Moment
from oddkettle.results.sums import Sum
from oddkettle.usecases.explain.standing import standing_sum
from oddkettle.usecases.field.track.capacity import (
    CapacityAsked,
    CapacityFound,
    CapacityGuide,
    find_capacity,
    guide_test,
)
from oddkettle.usecases.field.track.score import Score, score_trip
from oddkettle.usecases.field.track.today import TodayReport, today_of
from oddkettle.usecases.field.track.track_report import TrackReport, track_plan
from oddkettle.usecases.field.track.trip_report import TripReport, report_trip
from oddkettle.usecases.improve.mend import MendAsked
from oddkettle.usecases.improve.onward import (
    mend_onward,
    mend_rest,
    schedule_rest,
    seek_onward,
    weigh_onward,
)
from oddkettle.usecases.improve.schedule.hints import DayHints, hints_of
from oddkettle.usecases.improve.schedule.schedule import Scheduled
from oddkettle.usecases.improve.seek import Goal, Sought

router = APIRouter(prefix="/api/plans/{plan_id}/track", tags=["track"], responses=PROBLEMS)


@router.get("")
def where_it_stands(plan_id: int, at: Moment | None = None) -> TrackReport:
    """The level with its doubt, and the rest of the trip; as of a local time, or of now."""
    return track_plan(plan_id, at)


@router.get("/today")
def today(plan_id: int, at: Moment | None = None) -> TodayReport:
    """What is to be done from now to dawn, and where that leads; as of a local time, or of now."""
    return today_of(plan_id, at)


@router.get("/sum")
def how_it_is_known(plan_id: int, at: Moment | None = None) -> Sum:
    """How the level was made: the start, the model, and what each reading did."""
    return standing_sum(plan_id, at)


@router.get("/hints")
def hints_for_today(plan_id: int) -> DayHints:
    """How to lay each panel that can be moved today, and the best hour for the drive."""
    return hints_of(plan_id)


@router.get("/report")
def trip_report(plan_id: int) -> TripReport:
    """What was planned, what happened, and what to change next time."""
    return report_trip(plan_id)


@router.get("/score")
def forecast_score(plan_id: int, at: Moment | None = None) -> Score:
    """Each finished day's forecast against what came, and how often the mornings lay in it."""
    return score_trip(plan_id, at)


@router.get("/capacity")
def capacity_guide(plan_id: int) -> CapacityGuide:
    """How to find out what the battery holds, step by step."""
    return guide_test(plan_id)


@router.post("/capacity")
def capacity_found(plan_id: int, asked: CapacityAsked) -> CapacityFound:
    """What the battery holds by such a test, and the edits that take it over."""
    return find_capacity(plan_id, asked)


@router.get("/mend")
def mend_from_now(plan_id: int) -> Sought | None:
    """The shortest drive that makes the rest likely to last; nothing where none is needed."""
    return mend_onward(plan_id)


@router.post("/cheapest", response_model=MendLine)
def cheapest_from_now(plan_id: int, asked: MendAsked) -> StreamingResponse:
    """The least effort that makes the rest of the trip sure, as lines of JSON."""
    return lines_of(mend_rest(plan_id, asked))


@router.post("/schedule")
def schedule_from_now(plan_id: int) -> Scheduled:
    """The best hours of everything that may run at any time, for the hours that are left."""
    return schedule_rest(plan_id)


@router.post("/weigh", response_model=WeighLine)
def weigh_from_now(plan_id: int) -> StreamingResponse:
    """What each change that needs no shop buys for the days that are left, as lines of JSON."""
    return lines_of(weigh_onward(plan_id))


@router.post("/seek", response_model=SeekLine)
def seek_from_now(plan_id: int, goal: Goal) -> StreamingResponse:
    """How much of one thing is enough for the days that are left, as lines of JSON."""
    return lines_of(seek_onward(plan_id, goal))
