"""Runs of plans, saved or not, and the choices that the pages offer."""

from __future__ import annotations

from fastapi import APIRouter, Response
from pydantic import BaseModel

from oddkettle.api.problems import PROBLEMS
from oddkettle.plan import Plan
from oddkettle.results.run import InstantReport, RunReport, Sky
from oddkettle.usecases.explain import Sum, explain
from oddkettle.usecases.field.track.track_report import rest_of
from oddkettle.usecases.improve.design_alternatives import DesignAlternative, compare_schools
from oddkettle.usecases.improve.measure import Counted, MeasuredReport, measure_appliance
from oddkettle.usecases.plans.plans import open_plan
from oddkettle.usecases.plans.reference import Reference, reference
from oddkettle.usecases.simulate.instant import report_instant
from oddkettle.usecases.simulate.run_report import Depth, written_report

router = APIRouter(prefix="/api", tags=["runs"], responses=PROBLEMS)
PLAIN = {"Content-Encoding": "identity"}
"""Not packed: between two programs of one machine that takes longer than sending it."""


@router.post("/preview", response_model=RunReport)
def preview(
    document: Plan,
    advice: bool = True,
    odds: Depth = "none",
    sky: Sky = "expected",
    under_way: int | None = None,
) -> Response:
    """Run a whole plan without saving it. Without `advice` no mending drive is searched.

    `under_way` is the number of the saved plan whose trip is under way: its rest is run too.
    """
    rest = None if under_way is None else rest_of(under_way, document, quick=not advice)
    # Written straight to JSON: letting the framework walk 25,000 numbers again costs more
    # than the run.
    body = written_report(document, advice=advice, odds=odds, sky=sky, rest=rest)
    return Response(body, media_type="application/json", headers=PLAIN)


@router.get("/plans/{plan_id}/report", response_model=RunReport)
def report(plan_id: int) -> Response:
    """The result document of a plan as it was last saved."""
    document = open_plan(plan_id).document
    body = written_report(document, advice=True, odds="full", sky="expected")
    return Response(body, media_type="application/json", headers=PLAIN)


@router.post("/sum")
def how_made(document: Plan, figure: str, day: int | None = None, sky: Sky = "expected") -> Sum:
    """How one figure of a plan's run was made, over a day or the trip."""
    return explain(document, figure, day, sky)


@router.post("/instant")
def instant(document: Plan, step: int, sky: Sky = "expected") -> InstantReport:
    """The flows of one step of a plan's run, as currents and powers."""
    return report_instant(document, step, sky)


class MeasureIt(BaseModel):
    """A plan, and what was read of one of its appliances."""

    document: Plan
    counted: Counted


@router.post("/measure")
def measure(asked: MeasureIt) -> MeasuredReport:
    """Two counter readings turned into an appliance's figure."""
    return measure_appliance(asked.document, asked.counted)


@router.post("/schools")
def schools(document: Plan) -> list[DesignAlternative]:
    """What the choices on which practice is divided would cost this plan."""
    return compare_schools(document)


@router.get("/reference")
def choices() -> Reference:
    """Skies, chemistries and the shelf."""
    return reference()
