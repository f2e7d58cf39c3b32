"""The client of a forecast service: plain JSON over HTTP, documented in docs/formats.md."""

from __future__ import annotations

import datetime
from typing import Annotated, Literal

import httpx
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from oddkettle.plan.quantities import Celsius

TIMEOUT_S = 10.0
"""A phone link in a valley is slow; nobody waits longer for a sky."""
FORMAT = "oddkettle-forecast"
LARGEST_BYTES = 200_000
MAX_DAYS = 16


class ForecastDay(BaseModel):
    """One day as it is foreseen."""

    model_config = ConfigDict(extra="ignore", allow_inf_nan=False)

    date: datetime.date
    sky: Literal["clear", "some_cloud", "mostly_cloudy", "overcast", "heavy"]
    low_c: Celsius
    high_c: Celsius


class Forecast(BaseModel):
    """What a service foresees, and when it said so."""

    model_config = ConfigDict(extra="ignore")

    format: Literal["oddkettle-forecast"]
    issued: datetime.datetime
    days: Annotated[list[ForecastDay], Field(min_length=1, max_length=60)]


class ForecastAway(Exception):
    """The service cannot be asked, or says what is no forecast."""


def ask_forecast(
    url: str,
    latitude: float,
    longitude: float,
    first: datetime.date,
    days: int,
    timeout_s: float = TIMEOUT_S,
) -> Forecast:
    """Ask for `days` days (at most 16) from `first` on. Raises ForecastAway with the reason."""
    query = {
        "latitude": f"{latitude:.4f}",
        "longitude": f"{longitude:.4f}",
        "first": first.isoformat(),
        "days": str(min(days, MAX_DAYS)),
    }
    try:
        # What runs beside the app must not be looked for behind a proxy.
        with httpx.Client(timeout=timeout_s, trust_env=False) as client:
            response = client.get(f"{url.rstrip('/')}/forecast", params=query)
    except httpx.TimeoutException:
        raise ForecastAway(f"it did not answer within {timeout_s:g} s") from None
    except httpx.HTTPError as error:
        raise ForecastAway(f"it cannot be reached ({error})") from None
    if response.status_code != httpx.codes.OK:
        raise ForecastAway(f"it answered {response.status_code}")
    return parse_forecast(response.content)


def parse_forecast(data: bytes) -> Forecast:
    """A forecast from its JSON. Raises ForecastAway for anything else."""
    if len(data) > LARGEST_BYTES:
        raise ForecastAway(f"it sent {len(data):,} bytes, more than {LARGEST_BYTES:,}")
    try:
        return Forecast.model_validate_json(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "the whole"
        raise ForecastAway(f"what it sent is no forecast ({where}: {first['msg']})") from None
