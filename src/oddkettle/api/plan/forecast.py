"""The forecast of a plan's days."""

from __future__ import annotations

from fastapi import APIRouter, Request

from oddkettle.api.problems import PROBLEMS
from oddkettle.usecases.plans import forecast
from oddkettle.usecases.plans.forecast import ForecastReport

router = APIRouter(prefix="/api/plans/{plan_id}/forecast", tags=["forecast"], responses=PROBLEMS)


@router.get("")
def kept(plan_id: int) -> ForecastReport:
    """What is kept, without asking the service."""
    return forecast.kept_forecast(plan_id)


@router.post("")
def fetch(plan_id: int, request: Request) -> ForecastReport:
    """Ask the service anew; what is kept stays when it is away."""
    return forecast.fetch_forecast(plan_id, request.app.state.forecast_url)
