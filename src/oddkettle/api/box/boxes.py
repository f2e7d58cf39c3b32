"""Boxes and their trips: lists, copies, the archive, history, a box's life."""

from __future__ import annotations

from fastapi import APIRouter, Response
from pydantic import BaseModel

from oddkettle.api.problems import PROBLEMS
from oddkettle.plan import Plan
from oddkettle.plan.box import CapacityReading
from oddkettle.plan.quantities import Name
from oddkettle.usecases.boxes import boxes, glance, history, life
from oddkettle.usecases.boxes.boxes import BoxCard, DeletedTrip, NewTrip
from oddkettle.usecases.boxes.glance import Glance
from oddkettle.usecases.boxes.history import PastRevision
from oddkettle.usecases.boxes.life import BoxLife
from oddkettle.usecases.plans.plans import OpenPlan

router = APIRouter(prefix="/api", tags=["boxes"], responses=PROBLEMS)


class NewName(BaseModel):
    """What something is to be called."""

    name: Name


class Copy(BaseModel):
    """A copy's name, and whether it is another trip of the same box."""

    name: Name
    same_box: bool = True


class Named(BaseModel):
    """What a saved revision is called; None takes the name off."""

    name: Name | None


@router.get("/boxes")
def list_boxes() -> list[BoxCard]:
    """Every box with its trips."""
    return boxes.box_cards()


@router.get("/boxes/deleted")
def list_deleted() -> list[DeletedTrip]:
    """Trips that can be brought back."""
    return boxes.deleted_trips()


@router.put("/boxes/{box_id}/name")
def rename_box(box_id: int, new: NewName) -> BoxCard:
    """Call a box otherwise."""
    return boxes.rename_box(box_id, new.name)


@router.post("/boxes/{box_id}/trips", status_code=201)
def new_trip(box_id: int, asked: NewTrip) -> OpenPlan:
    """Another trip with the box as it is now."""
    return boxes.new_trip(box_id, asked)


@router.get("/boxes/{box_id}/life")
def box_life(box_id: int) -> BoxLife:
    """Trips, nights, cycles, capacity over the seasons."""
    return life.life_of(box_id)


@router.post("/boxes/{box_id}/readings")
def add_reading(box_id: int, reading: CapacityReading) -> BoxLife:
    """What a capacity test found."""
    return life.add_reading(box_id, reading)


@router.get("/plans/{plan_id}/glance")
def glance_at(plan_id: int) -> Glance:
    """A trip's verdict and the line of its level."""
    return glance.glance_at(plan_id)


@router.post("/plans/{plan_id}/copy", status_code=201)
def copy_plan(plan_id: int, asked: Copy) -> OpenPlan:
    """A plan once more."""
    return boxes.copy_plan(plan_id, asked.name, same_box=asked.same_box)


@router.put("/plans/{plan_id}/archived", status_code=204)
def archive(plan_id: int, *, away: bool = True) -> Response:
    """Put a trip into the archive, or take it out."""
    boxes.put_away(plan_id, away=away)
    return Response(status_code=204)


@router.delete("/plans/{plan_id}", status_code=204)
def delete_plan(plan_id: int) -> Response:
    """Delete a trip; it can be brought back for 30 days."""
    boxes.delete_plan(plan_id)
    return Response(status_code=204)


@router.post("/plans/{plan_id}/restore")
def restore_plan(plan_id: int) -> OpenPlan:
    """Bring a deleted trip back."""
    return boxes.bring_back(plan_id)


@router.post("/plans/{plan_id}/take-box")
def take_box(plan_id: int) -> OpenPlan:
    """Give a trip its box as it is now."""
    return boxes.take_box(plan_id)


@router.get("/plans/{plan_id}/history")
def past(plan_id: int) -> list[PastRevision]:
    """Every saved revision with what changed, the newest first."""
    return history.history(plan_id)


@router.get("/plans/{plan_id}/revisions/{revision}")
def plan_at(plan_id: int, revision: int) -> Plan:
    """A plan as it was."""
    return history.plan_at(plan_id, revision)


@router.put("/plans/{plan_id}/revisions/{revision}/name", status_code=204)
def name_revision(plan_id: int, revision: int, named: Named) -> None:
    """Give a saved revision a name, under which it stays when old ones are thinned."""
    history.name_revision(plan_id, revision, named.name)


@router.post("/plans/{plan_id}/revisions/{revision}")
def go_back(plan_id: int, revision: int) -> OpenPlan:
    """Save a plan as it was once more, on top."""
    return history.go_back(plan_id, revision)
