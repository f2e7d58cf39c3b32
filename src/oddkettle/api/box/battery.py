"""A battery's own curve."""

from __future__ import annotations

from fastapi import APIRouter

from oddkettle.api.problems import PROBLEMS
from oddkettle.usecases.plans.battery_curve import CurveAsked, CurveRead
from oddkettle.usecases.plans.battery_curve import read_curve as read

router = APIRouter(prefix="/api", tags=["battery"], responses=PROBLEMS)


@router.post("/battery/curve")
def read_curve(asked: CurveAsked) -> CurveRead:
    """The rested curve that typed points, a table or a discharge make, and what it changes."""
    return read(asked)
