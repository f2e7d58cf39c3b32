"""A monitor's samples: the open ingest endpoint, the monitor's address, live events, files."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response, StreamingResponse
from pydantic import BaseModel, Field, ValidationError
from starlette.concurrency import run_in_threadpool

from oddkettle.api.download import saved_as
from oddkettle.api.problems import PROBLEMS
from oddkettle.formats.monitor_csv import Mapping
from oddkettle.plan.plan_errors import refused
from oddkettle.plan.quantities import Moment
from oddkettle.usecases.exchange import log_files as files
from oddkettle.usecases.exchange.log_files import Shape, TablePreview, What
from oddkettle.usecases.field.samples import monitor
from oddkettle.usecases.field.samples.monitor import MonitorState
from oddkettle.usecases.field.samples.samples import (
    MAX_POINTS,
    Ingested,
    SampleView,
    ingest_lines,
    view,
)
from oddkettle.usecases.plans.plans import OpenPlan, open_plan
from oddkettle.usecases.process.events import hub

router = APIRouter(prefix="/api/plans", tags=["samples"], responses=PROBLEMS)
LOOK_S, HEARTBEAT_S = 0.1, 5.0
TEXT = {"requestBody": {"content": {"text/plain": {"schema": {"type": "string"}}}}}
LINES = {"requestBody": {"content": {"application/x-ndjson": {"schema": {"type": "string"}}}}}
BYTES = {
    "requestBody": {
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}}
    }
}


@router.post("/{plan_id}/samples", openapi_extra=LINES)
async def take_samples(plan_id: int, request: Request) -> Ingested:
    """Store samples, one JSON object a line. When this answers, they are on disk."""
    data = await request.body()
    return await run_in_threadpool(ingest_lines, plan_id, data)


@router.get("/{plan_id}/samples")
def see_samples(
    plan_id: int,
    since: Moment | None = None,
    until: Moment | None = None,
    points: Annotated[int, Query(ge=2, le=MAX_POINTS)] = 300,
) -> SampleView:
    """Samples of a stretch, thinned out to about so many points."""
    return view(plan_id, since, until, points)


class MonitorAddress(BaseModel):
    """Where a monitor is listened to; nothing is to no monitor."""

    address: str | None = Field(max_length=200)


@router.get("/{plan_id}/monitor")
def see_monitor(plan_id: int) -> MonitorState:
    """How it stands with the plan's monitor."""
    open_plan(plan_id)
    return monitor.monitor_state(plan_id)


@router.put("/{plan_id}/monitor")
def set_monitor(plan_id: int, where: MonitorAddress) -> MonitorState:
    """Listen to a monitor from now on."""
    return monitor.set_monitor(plan_id, where.address)


@router.get("/{plan_id}/live")
async def live(plan_id: int) -> StreamingResponse:
    """Server-sent events: the monitor's state whenever something of it is new."""
    await run_in_threadpool(open_plan, plan_id)

    async def events() -> AsyncIterator[str]:
        seen, quiet_s = -1, 0.0
        while True:
            news = hub.all_news(plan_id)
            if news != seen:
                seen, quiet_s = news, 0.0
                state = await run_in_threadpool(monitor.monitor_state, plan_id)
                yield f"data: {state.model_dump_json()}\n\n"
            elif quiet_s >= HEARTBEAT_S:
                quiet_s = 0.0
                yield ": still here\n\n"
            await asyncio.sleep(LOOK_S)
            quiet_s += LOOK_S

    headers = {"Cache-Control": "no-store", "Content-Encoding": "identity"}
    return StreamingResponse(events(), media_type="text/event-stream", headers=headers)


@router.post("/{plan_id}/table/preview", openapi_extra=TEXT)
async def preview_table(plan_id: int, request: Request, mapping: str | None = None) -> TablePreview:
    """What a monitor's CSV seems to be; `mapping` (JSON) corrects the guess."""
    data = await request.body()
    return await run_in_threadpool(files.preview_table, plan_id, data, _mapping(mapping))


@router.post("/{plan_id}/table", openapi_extra=TEXT)
async def import_table(plan_id: int, request: Request, mapping: str | None = None) -> Ingested:
    """Store the rows of a monitor's CSV."""
    data = await request.body()
    return await run_in_threadpool(files.import_table, plan_id, data, _mapping(mapping))


def _mapping(given: str | None) -> Mapping | None:
    """A mapping from its JSON."""
    try:
        return None if given is None else Mapping.model_validate_json(given)
    except ValidationError as error:
        first = error.errors()[0]
        limit, remedy = "a place for each column", "Start again from the preview."
        raise refused("mapping", (given or "")[:80], limit, remedy, str(first["msg"])) from None


@router.get("/{plan_id}/export/{what}.{shape}")
def export(plan_id: int, what: What, shape: Shape) -> StreamingResponse:
    """Log, samples or tracked series as a file."""
    name = f"{files.file_stem(plan_id, what)}.{shape}"
    kind = "text/csv" if shape == "csv" else "application/json"
    headers = saved_as(name)
    return StreamingResponse(files.export(plan_id, what, shape), media_type=kind, headers=headers)


@router.get("/{plan_id}/archive")
def export_archive(plan_id: int) -> Response:
    """The plan with its log and samples in one file."""
    name = f"{files.file_stem(plan_id, 'trip')}.zip"
    headers = saved_as(name)
    return Response(files.export_archive(plan_id), media_type="application/zip", headers=headers)


@router.post("/archive", status_code=201, openapi_extra=BYTES)
async def import_archive(request: Request) -> OpenPlan:
    """Add the plan of an archive, with its log and samples."""
    data = await request.body()
    return await run_in_threadpool(files.import_archive, data)
