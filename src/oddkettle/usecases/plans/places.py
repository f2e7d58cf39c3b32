"""Places found without a network: by name, or by coordinates."""

from __future__ import annotations

import calendar
import csv
import io
import lzma
from functools import lru_cache
from importlib.resources import files
from itertools import chain
from statistics import median
from typing import NamedTuple

import numpy as np

from oddkettle.core.trip.grid import Site
from oddkettle.core.trip.track_legs import distances_km
from oddkettle.core.units.quantity import celsius
from oddkettle.core.weather.clear_sky import monthly_clear_wh
from oddkettle.core.weather.climate import LAPSE_K_PER_M, MONTHS
from oddkettle.core.weather.world_climate import FAR_KM, at_place
from oddkettle.plan.quantities import LazyModel
from oddkettle.usecases.plans.plain_letters import plain
from oddkettle.usecases.plans.regions import Region, all_regions, region_named, regions_like

MAX_FOUND, MAX_REGIONS = 12, 4
COLUMNS = ("name", "names", "country", "latitude", "longitude", "timezone", "altitude_m")
"""Of the packaged table (`scripts/make_places.py`); the largest towns stand first."""
MONTH_NAMES = tuple(calendar.month_name[1:])
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


class MonthAt(LazyModel):
    """A usual day of one month. Sun hours are hours of full sun on flat ground, 1,000 W/m2."""

    sun_h: float
    clearness: float
    low_c: float
    high_c: float


class YearAt(LazyModel):
    """The year at a pair of coordinates, by the packaged table, and how sure that is."""

    months: list[MonthAt]
    clearness_doubt: float
    warmth_doubt_k: float
    away_km: float
    text: str


NEAR_KM = 40.0
AROUND_DEG = 1.2
"""How far around a region's middle its towns tell how high people stay."""


def year_at(latitude: float, longitude: float, altitude_m: float | None = None) -> YearAt:
    """January to December at a place; its height as the height table has it, if not told."""
    told = at_place(latitude, longitude)
    height = _height(latitude, longitude) if altitude_m is None else altitude_m
    colder = LAPSE_K_PER_M * (height - told.climate.height_m)
    clear_kwh = monthly_clear_wh(Site(latitude, longitude, height, "UTC")) / 1000.0
    months = [
        MonthAt(
            sun_h=round(float(told.climate.clearness[m] * clear_kwh[m]), 2),
            clearness=round(told.climate.clearness[m], 3),
            low_c=round(told.climate.low_c[m] - colder, 1),
            high_c=round(told.climate.high_c[m] - colder, 1),
        )
        for m in range(MONTHS)
    ]
    return YearAt(
        months=months,
        clearness_doubt=round(told.climate.doubt, 3),
        warmth_doubt_k=round(told.climate.warmth_doubt_k, 1),
        away_km=round(told.away_km),
        text=_year_text(months, told.away_km),
    )


def _year_text(months: list[MonthAt], away_km: float) -> str:
    sunny = int(np.argmax([month.sun_h for month in months]))
    dark = int(np.argmin([month.sun_h for month in months]))
    most, least = months[sunny], months[dark]
    text = (
        f"A usual day of {MONTH_NAMES[sunny]} brings light worth {most.sun_h:.1f} hours of full "
        f"sun and {_warmth(most)}, one of {MONTH_NAMES[dark]} {least.sun_h:.1f} hours and "
        f"{_warmth(least)}."
    )
    if away_km > FAR_KM:
        text += f" The nearest land in the table lies {away_km:.0f} km away, so this is unsure."
    return text


def _warmth(month: MonthAt) -> str:
    return f"{celsius(month.low_c, '.0f')} to {celsius(month.high_c, '.0f')}"


def search(asked: str) -> list[Place]:
    """Regions, then towns of over 15,000 people by any of their names, and a country's by its own.

    A name that is asked for whole comes before one that only begins so, and that before one that
    holds it; accents and capitals make no difference.
    """
    wanted = plain(asked.strip())
    if len(wanted) < SHORTEST:
        return []
    towns = _towns()
    whole = [town for town in towns if f"|{wanted}|" in town.names]
    begins = [town for town in towns if f"|{wanted}" in town.names]
    found: list[Place] = [_region(one) for one in regions_like(wanted) if wanted in one.names]
    found += [_place(town) for town in whole]
    found += [_region(one) for one in regions_like(wanted)[:MAX_REGIONS] if wanted not in one.names]
    found += [_place(town) for town in begins if town not in whole]
    if len(found) < MAX_FOUND:
        of_country = [town for town in towns if town.plain_country == wanted]
        holds = [town for town in towns if wanted in town.names]
        known = {*whole, *begins}
        more = dict.fromkeys(town for town in of_country + holds if town not in known)
        found += [_place(town) for town in more]
    return found[:MAX_FOUND]


def region(asked: str) -> Place | None:
    """The region of that name by its middle; None where none is called so."""
    found = region_named(asked)
    return None if found is None else _region(found)


def region_names() -> list[str]:
    """Every name of every region, in plain letters."""
    return [name for one in all_regions() for name in one.names]


def named(asked: str) -> Place | None:
    """The region or the largest town of that name, in any tongue; of a country its largest town."""
    wanted = plain(asked.strip())
    if len(wanted) < SHORTEST:
        return None
    found = region(wanted)
    if found is not None:
        return found
    own = (town for town in _towns() if town.names.startswith(f"|{wanted}|"))
    other = (town for town in _towns() if f"|{wanted}|" in town.names)
    country = (town for town in _towns() if town.plain_country == wanted)
    town = next(chain(own, other, country), None)
    return None if town is None else _place(town)


def nearest_town(latitude: float, longitude: float) -> Place | None:
    """The nearest town of the list within 40 km; None where there is none."""
    wide = NEAR_KM / 111.0
    near = [
        (_away_km(latitude, longitude, town), n)
        for n, town in enumerate(_towns())
        if abs(town.latitude - latitude) < wide
    ]
    away, n = min(near, default=(NEAR_KM, -1))
    return _place(_towns()[n]) if away < NEAR_KM else None


def _away_km(latitude: float, longitude: float, town: Town) -> float:
    return float(
        distances_km(np.array([latitude, town.latitude]), np.array([longitude, town.longitude]))[0]
    )


def largest_in(timezone: str) -> Place | None:
    """The town with most people that keeps this clock; None where the list has none."""
    return next((_place(town) for town in _towns() if town.timezone == timezone), None)


def spot(latitude: float, longitude: float) -> Spot:
    """Time zone and height at coordinates; the sea has the zone of its ships."""
    zone = _finder().timezone_at(lat=latitude, lng=_wrapped(longitude)) or "UTC"
    return Spot(timezone=zone, altitude_m=_height(latitude, longitude))


def _wrapped(longitude: float) -> float:
    return (longitude + 180.0) % 360.0 - 180.0


def _height(latitude: float, longitude: float) -> float:
    from pvlib.location import lookup_altitude

    return max(float(lookup_altitude(latitude, min(_wrapped(longitude), 179.99))), 0.0)


def _place(town: Town) -> Place:
    return Place(
        name=town.name,
        country=town.country,
        latitude=town.latitude,
        longitude=town.longitude,
        timezone=town.timezone,
        altitude_m=town.altitude_m,
    )


@lru_cache(maxsize=64)
def _region(region: Region) -> Place:
    """A region by its middle, at the usual height of the towns around: people stay in valleys."""
    here = spot(region.latitude, region.longitude)
    heights = [
        town.altitude_m
        for town in _towns()
        if abs(town.latitude - region.latitude) < AROUND_DEG
        and abs(town.longitude - region.longitude) < AROUND_DEG
    ]
    return Place(
        name=region.name,
        country=region.country,
        latitude=region.latitude,
        longitude=region.longitude,
        timezone=here.timezone,
        altitude_m=round(median(heights)) if heights else here.altitude_m,
    )


class Town(NamedTuple):
    """A row of the packaged table. `names` in plain letters between bars, its English one first."""

    name: str
    names: str
    country: str
    plain_country: str
    latitude: float
    longitude: float
    timezone: str
    altitude_m: float


@lru_cache(maxsize=1)
def _towns() -> tuple[Town, ...]:
    """All of them, the largest first; read when somebody looks for a place."""
    packed = files("oddkettle.usecases.plans").joinpath("places.csv.xz").read_bytes()
    rows = csv.reader(io.StringIO(lzma.decompress(packed).decode("utf-8")))
    next(rows)
    countries: dict[str, str] = {}
    return tuple(
        Town(
            name,
            names,
            country,
            countries.get(country) or countries.setdefault(country, plain(country)),
            float(latitude),
            float(longitude),
            timezone,
            float(height),
        )
        for name, names, country, latitude, longitude, timezone, height in rows
    )


@lru_cache(maxsize=1)
def _finder():  # type: ignore[no-untyped-def]
    from timezonefinder import TimezoneFinder

    return TimezoneFinder()
