"""Building the box: the page's document, prints, prices, ticks."""

from __future__ import annotations

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from oddkettle.api.download import saved_as
from oddkettle.api.middleware.visitor import Asker
from oddkettle.api.problems import PROBLEMS
from oddkettle.formats.parts_csv import MAX_BYTES
from oddkettle.plan import Plan
from oddkettle.results.build import BuildReport, MovedReport
from oddkettle.results.settings import DeviceSettingsReport
from oddkettle.usecases.build import prints, ticks
from oddkettle.usecases.build.prints import PricesRead, PrintName
from oddkettle.usecases.build.ticks import NewTick, Ticks
from oddkettle.usecases.build.work import report_moved, report_settings, written_build
from oddkettle.usecases.improve.compare import AgainstUnit, against_unit

router = APIRouter(prefix="/api", tags=["build"], responses=PROBLEMS)


@router.post("/build")
def build(document: Plan) -> BuildReport:
    """Circuits, schematic, parts, fit, faces, checks and fault finder of a plan's box."""
    return Response(written_build(document), media_type="application/json")  # type: ignore[return-value]


@router.post("/build/settings")
def settings(document: Plan) -> list[DeviceSettingsReport]:
    """What to key into every device of a plan's box, and why."""
    return report_settings(document)


@router.post("/build/moved")
def moved(document: Plan) -> MovedReport:
    """The part of it that changes while something is dragged to another place."""
    return report_moved(document)


@router.post("/build/against-unit")
def against_ready_made(document: Plan) -> AgainstUnit:
    """The box against a ready-made unit of the same nameplate energy, under the same scenarios."""
    return against_unit(document)


class PriceTable(BaseModel):
    """A plan, and a parts list with prices as CSV."""

    document: Plan
    table: str = Field(max_length=MAX_BYTES)


@router.post("/build/prices")
def read_prices(asked: PriceTable) -> PricesRead:
    """What a table of prices says of a plan's parts; nothing is saved."""
    return prints.read_prices(asked.document, asked.table)


@router.get("/plans/{plan_id}/print/{name}")
def print_plan(plan_id: int, name: PrintName) -> Response:
    """A sheet of the saved plan's box as a file."""
    stem, kind, data = prints.print_plan(plan_id, name)
    headers = saved_as(stem, "inline")
    return Response(data, media_type=kind, headers=headers)


@router.get("/plans/{plan_id}/ticks")
def list_ticks(plan_id: int) -> Ticks:
    """What is ticked on the checklists."""
    return ticks.list_ticks(plan_id)


@router.post("/plans/{plan_id}/ticks", status_code=201)
def tick(plan_id: int, new: NewTick, asker: Asker) -> Ticks:
    """Tick a check, or begin a list anew with the check `afresh`."""
    return ticks.tick(plan_id, new, asker.writer)


@router.delete("/plans/{plan_id}/ticks/{entry_id}")
def untick(plan_id: int, entry_id: int) -> Ticks:
    """Take a tick back."""
    return ticks.untick(plan_id, entry_id)
