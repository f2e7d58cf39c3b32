"""Open formats of a trip: tracks, calendars and places, in and out."""

from __future__ import annotations

import json
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from starlette.concurrency import run_in_threadpool

from oddkettle.api.download import saved_as
from oddkettle.api.problems import PROBLEMS
from oddkettle.usecases.exchange.calendar_file import (
    CalendarLook,
    calendar_of,
    look_at_calendar,
    stops_of,
)
from oddkettle.usecases.exchange.track_file import Pace, TrackLook, look_at_track
from oddkettle.usecases.plans.file_names import stem_of

router = APIRouter(prefix="/api/plans/{plan_id}", tags=["roads"], responses=PROBLEMS)
BYTES = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string"}}},
    }
}
Clock = r"^(([01]\d|2[0-3]):[0-5]\d)$"


@router.post("/roads/track", openapi_extra=BYTES)
async def read_track(
    plan_id: int,
    request: Request,
    kmh: Annotated[float, Query(ge=5, le=130)] = 50,
    start: Annotated[str, Query(pattern=Clock)] = "09:00",
    day: Annotated[int, Query(ge=0, le=400)] = 0,
    hours_a_day: Annotated[float, Query(ge=0.25, le=16)] = 4,
) -> TrackLook:
    """What a GPX file means for this trip; nothing is changed. A pace is for one without times."""
    data = await request.body()
    return await run_in_threadpool(look_at_track, plan_id, data, Pace(kmh, start, day, hours_a_day))


@router.post("/roads/calendar", openapi_extra=BYTES)
async def read_calendar(plan_id: int, request: Request) -> CalendarLook:
    """What a calendar file means for this trip; nothing is changed."""
    data = await request.body()
    return await run_in_threadpool(look_at_calendar, plan_id, data)


@router.get("/calendar.ics", response_class=Response)
def export_calendar(plan_id: int) -> Response:
    """Drives, mains, panels, uses, checklists and by when to be back, as a calendar (RFC 5545)."""
    name, data = calendar_of(plan_id)
    headers = saved_as(f"{stem_of(name)}.ics")
    return Response(data, media_type="text/calendar; charset=utf-8", headers=headers)


@router.get("/stops.geojson", response_class=Response)
def export_stops(plan_id: int) -> Response:
    """The trip's places with their days, as GeoJSON (RFC 7946)."""
    name, document = stops_of(plan_id)
    headers = saved_as(f"{stem_of(name)}-stops.geojson")
    data = json.dumps(document, indent=1, ensure_ascii=False).encode()
    return Response(data, media_type="application/geo+json", headers=headers)
