"""The client of a forecast service: plain JSON over HTTP, documented in docs/formats.md."""

from __future__ import annotations

import datetime
import time
from concurrent.futures import ThreadPoolExecutor
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


BEGIN_S = 1.0
"""What it may take on a busy machine before the question is even on its way."""
OUTSIDE = ThreadPoolExecutor(2, thread_name_prefix="forecast")
"""A pool of its own: a service that hangs holds up nothing but forecasts."""


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
    asked = OUTSIDE.submit(_fetch, f"{url.rstrip('/')}/forecast", query, timeout_s)
    try:
        # A service that sends a byte now and then never times out by itself.
        return parse_forecast(asked.result(timeout=2 * timeout_s + BEGIN_S))
    except (httpx.TimeoutException, TimeoutError):
        asked.cancel()
        raise ForecastAway(f"it did not answer within {timeout_s:g} s") from None
    except httpx.HTTPError as error:
        raise ForecastAway(f"it cannot be reached ({error})") from None


def _fetch(url: str, query: dict[str, str], timeout_s: float) -> bytes:
    """The body of the answer, as far as it is taken. Raises ForecastAway and httpx's errors."""
    # What runs beside the app must not be looked for behind a proxy.
    with httpx.Client(timeout=timeout_s, trust_env=False) as client:
        end = time.monotonic() + timeout_s
        return _taken(client, url, query, end)


def _taken(client: httpx.Client, url: str, query: dict[str, str], end: float) -> bytes:
    body = b""
    with client.stream("GET", url, params=query) as response:
        if response.status_code != httpx.codes.OK:
            raise ForecastAway(f"it answered {response.status_code}")
        for some in response.iter_bytes():
            body += some
            if len(body) > LARGEST_BYTES:
                raise ForecastAway(f"it sent more than {LARGEST_BYTES:,} bytes")
            if time.monotonic() > end:
                raise TimeoutError
    return body


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
