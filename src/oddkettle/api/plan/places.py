"""Places, and the weather files of them."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request
from starlette.concurrency import run_in_threadpool

from oddkettle.api.problems import PROBLEMS
from oddkettle.usecases.plans import places
from oddkettle.usecases.plans.places import Place, Spot, YearAt
from oddkettle.usecases.plans.weather_file import WeatherReport, report_weather

router = APIRouter(prefix="/api", tags=["places"], responses=PROBLEMS)


@router.get("/places")
def find_places(q: Annotated[str, Query(max_length=80)]) -> list[Place]:
    """Towns by name, from a list that ships with the app."""
    return places.search(q)


@router.get("/places/at")
def place_at(
    latitude: Annotated[float, Query(ge=-90, le=90)],
    longitude: Annotated[float, Query(ge=-180, le=180)],
) -> Spot:
    """Time zone and height at coordinates."""
    return places.spot(latitude, longitude)


@router.get("/places/year")
def year_at(
    latitude: Annotated[float, Query(ge=-90, le=90)],
    longitude: Annotated[float, Query(ge=-180, le=180)],
    altitude_m: Annotated[float | None, Query(ge=-430, le=6000)] = None,
) -> YearAt:
    """A usual day of each month at coordinates, from a table that ships with the app."""
    return places.year_at(latitude, longitude, altitude_m)


@router.post(
    "/weather",
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {"application/octet-stream": {"schema": {"type": "string"}}},
        }
    },
)
async def read_weather_file(
    request: Request, name: Annotated[str, Query(max_length=120)], shift_min: float = 0.0
) -> WeatherReport:
    """What a weather file says of its place, sent as it is."""
    return await run_in_threadpool(report_weather, await request.body(), name, shift_min)
