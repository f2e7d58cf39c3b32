"""Plans: list, open, save, step back and forward, files."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, StringConstraints
from starlette.concurrency import run_in_threadpool

from oddkettle.api.download import saved_as
from oddkettle.api.problems import PROBLEMS
from oddkettle.plan import Plan
from oddkettle.plan.quantities import LazyModel
from oddkettle.usecases.plans import plans
from oddkettle.usecases.plans.plans import OpenPlan, PlanTitle, UnreadablePlan

router = APIRouter(prefix="/api/plans", tags=["plans"], responses=PROBLEMS)


class Save(BaseModel):
    """A plan to save, and the revision that its writer started from."""

    base_revision: int
    did: Annotated[str, StringConstraints(max_length=120)] = "changed"
    document: Plan


class Revision(LazyModel):
    """One entry of a plan's history."""

    revision: int
    parent: int | None
    saved_at: str
    did: str
    current: bool


@router.get("")
def list_plans() -> list[PlanTitle]:
    """All plans."""
    return plans.titles()


@router.post("", status_code=201)
def create_plan(document: Plan) -> OpenPlan:
    """Add a plan."""
    return plans.create_plan(document)


@router.post(
    "/import",
    status_code=201,
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {"application/octet-stream": {"schema": {"type": "string"}}},
        }
    },
)
async def import_plan(request: Request) -> OpenPlan:
    """Add a plan from a file, sent as it is."""
    return await run_in_threadpool(plans.import_plan, await request.body())


@router.get("/unreadable")
def list_unreadable() -> list[UnreadablePlan]:
    """Kept plans that cannot be read; the others are not hidden by them."""
    return plans.unreadable_plans()


@router.get("/{plan_id}/kept", response_class=Response)
def kept_file(plan_id: int) -> Response:
    """A kept plan's own bytes, readable or not."""
    name, data = plans.kept_bytes(plan_id)
    return Response(data, media_type="application/json", headers=saved_as(name))


@router.get("/{plan_id}")
def open_plan(plan_id: int) -> OpenPlan:
    """A plan as it was last saved."""
    return plans.open_plan(plan_id)


@router.put("/{plan_id}")
def save_plan(plan_id: int, save: Save) -> OpenPlan:
    """Append a revision."""
    return plans.save_plan(plan_id, save.base_revision, save.document, save.did)


@router.post("/{plan_id}/undo")
def undo(plan_id: int) -> OpenPlan:
    """One step back."""
    return plans.undo(plan_id)


@router.post("/{plan_id}/redo")
def redo(plan_id: int) -> OpenPlan:
    """One step forward."""
    return plans.redo(plan_id)


@router.get("/{plan_id}/revisions")
def history(plan_id: int) -> list[Revision]:
    """Every saved revision, newest first."""
    return [Revision(**vars(note)) for note in plans.history(plan_id)]


@router.get("/{plan_id}/file", response_class=Response)
def export_plan(plan_id: int) -> Response:
    """The plan as a JSON file."""
    name, data = plans.export_plan(plan_id)
    return Response(
        data,
        media_type="application/json",
        headers=saved_as(name),
    )
