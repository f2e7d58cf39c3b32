"""Long questions: answers stream as lines of JSON as they are found; hanging up ends the work."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from itertools import chain
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import StreamingResponse
from pydantic import BaseModel

from oddkettle.api.problems import PROBLEMS
from oddkettle.core.planning.sizing import Design
from oddkettle.core.values.cancellation import GivenUp
from oddkettle.plan import Plan
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.judgements import Remedy
from oddkettle.usecases.improve.compare import Comparison, as_ready_made, compare
from oddkettle.usecases.improve.mend import MendAsked, Mended, MendProgress, mend
from oddkettle.usecases.improve.schedule.schedule import Scheduled, schedule
from oddkettle.usecases.improve.seek import Goal, Sought, Tried, seek
from oddkettle.usecases.improve.sizes import (
    SizesEnd,
    SizesPart,
    SizesStart,
    search_sizes,
    size_edits,
)
from oddkettle.usecases.improve.weigh import Weighed, Weighing, weigh

router = APIRouter(prefix="/api", tags=["improve"], responses=PROBLEMS)
LINES = "application/x-ndjson"


def lines_of(found: Iterator[BaseModel]) -> StreamingResponse:
    """One JSON document a line. What is refused is refused before the first line goes out."""
    first = next(found)

    def written() -> Iterator[str]:
        # Whoever asked has left: nobody reads what is missing.
        with suppress(GivenUp):
            for line in chain([first], found):
                yield f"{line.model_dump_json()}\n"

    return StreamingResponse(written(), media_type=LINES)


class WeighLine(LazyModel):
    """A line of the answer to `weigh`."""

    line: Weighing | Weighed


class SeekLine(LazyModel):
    """A line of the answer to `seek`."""

    line: Tried | Sought


class MendLine(LazyModel):
    """A line of the answer to `mend`."""

    line: MendProgress | Mended


class SizesLine(LazyModel):
    """A line of the answer to `sizes`."""

    line: SizesStart | SizesPart | SizesEnd


@router.post("/improve/weigh", response_model=WeighLine)
def weigh_changes(document: Plan) -> StreamingResponse:
    """What each candidate change buys: the plan as it is, then a line a change."""
    return lines_of(weigh(document))


class GoalOf(BaseModel):
    """A plan, and the goal sought."""

    document: Plan
    goal: Goal


@router.post("/improve/seek", response_model=SeekLine)
def seek_goal(asked: GoalOf) -> StreamingResponse:
    """How much of one thing is enough: the values tried, then the answer."""
    return lines_of(seek(asked.document, asked.goal))


class MendOf(BaseModel):
    """A plan, and how it is to be mended."""

    document: Plan
    asked: MendAsked = MendAsked()


@router.post("/improve/mend", response_model=MendLine)
def cheapest_mend(asked: MendOf) -> StreamingResponse:
    """The least effort that makes a plan sure: how far the search is, then what it found."""
    return lines_of(mend(asked.document, asked.asked))


@router.post("/improve/schedule")
def schedule_loads(document: Plan) -> Scheduled:
    """The best hours of everything that may run at any time, over the whole trip."""
    return schedule(document)


@router.post("/improve/sizes", response_model=SizesLine)
def sizes(document: Plan) -> StreamingResponse:
    """The search over sizes."""
    return lines_of(search_sizes(document))


class SizesOf(BaseModel):
    """A plan, and the sizes to give its box."""

    document: Plan
    panel_w: float
    battery_ah: float
    dcdc_a: float
    mains_a: float


@router.post("/improve/sizes/edits")
def sizes_edits(asked: SizesOf) -> Remedy:
    """The edits that make a plan's box one of the search."""
    design = Design(asked.panel_w, asked.battery_ah, asked.dcdc_a, asked.mains_a)
    return size_edits(asked.document, design)


@router.get("/compare")
def side_by_side(plan: Annotated[list[int], Query()]) -> Comparison:
    """Two or three saved plans side by side."""
    return compare(plan)


@router.post("/improve/ready-made")
def ready_made(document: Plan) -> Plan:
    """The same plan on a ready-made unit of the same nameplate energy."""
    return as_ready_made(document)
