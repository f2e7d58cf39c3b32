"""Runs of plans, saved or not, and the choices that the pages offer."""

from __future__ import annotations

from fastapi import APIRouter, Response

from oddkettle.api.problems import PROBLEMS
from oddkettle.plan import Plan
from oddkettle.services.reference import Reference, reference
from oddkettle.services.report import RunReport
from oddkettle.services.simulate import report_plan

router = APIRouter(prefix="/api", tags=["runs"], responses=PROBLEMS)


@router.post("/preview", response_model=RunReport)
def preview(document: Plan, advice: bool = True) -> Response:
    """Run a whole plan without saving it. Without `advice` no mending drive is searched."""
    # Written straight to JSON: letting the framework walk 25,000 numbers again costs more
    # than the run.
    report = report_plan(document, advice=advice)
    return Response(report.model_dump_json(), media_type="application/json")


@router.get("/reference")
def choices() -> Reference:
    """Skies, chemistries and the shelf."""
    return reference()
