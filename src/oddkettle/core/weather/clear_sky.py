"""Sun and sky: pvlib's clear sky at the place and date, scaled by each day's clearness."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from datetime import UTC, datetime

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.trip.grid import Grid, Site
from oddkettle.core.values.cache import cached, cached_on_disk

Floats = NDArray[np.float64]

YEAR, MID_MONTH = 2025, 15
"""A year for what hardly changes from year to year."""


@dataclass(frozen=True)
class Sky:
    """Sun and clear-sky irradiance at the middle of each step; all (steps,).

    zenith_deg is apparent (refraction included); irradiance in W/m2.
    """

    zenith_deg: Floats
    azimuth_deg: Floats
    day_of_year: Floats
    extra_dni: Floats
    ghi: Floats
    dni: Floats
    dhi: Floats


def clear_sky(site: Site, grid: Grid) -> Sky:
    """Ineichen clear sky with the packaged Linke turbidity, at the middle of every step."""
    return sky_at(site, int(grid.starts_utc[0].astype(np.int64)), grid.steps, grid.step_min * 60)


@cached_on_disk(Sky)
def sky_at(site: Site, first_s: int, steps: int, step_s: int) -> Sky:
    """`clear_sky` for steps from a UTC second on, kept."""
    return sky_of(site, np.asarray(first_s + step_s * (np.arange(steps) + 0.5), np.float64))


def clear_ghi_at(site: Site, seconds: NDArray[np.int64]) -> Floats:
    """(n,) horizontal light of the clear sky at these UTC seconds, in any order [W/m2]."""
    return sky_of(site, seconds.astype(np.float64)).ghi


@cached
def monthly_clear_wh(site: Site) -> Floats:
    """(12,) what the clear sky gives on flat ground on a middle day of each month [Wh/m2]."""
    days = [datetime(YEAR, month, MID_MONTH, tzinfo=UTC) for month in range(1, 13)]
    half_hours = 1800 * np.arange(48) + 900
    moments = np.concatenate([int(day.timestamp()) + half_hours for day in days])
    return np.asarray(clear_ghi_at(site, moments).reshape(12, -1).sum(axis=1) / 2.0)


def sky_of(site: Site, moments_s: Floats) -> Sky:
    """The clear sky at these moments, UTC seconds."""
    # pvlib and pandas take over a second to import: only where they are used.
    import pandas as pd
    from pvlib import atmosphere, clearsky, irradiance, solarposition

    times = pd.DatetimeIndex(pd.to_datetime(moments_s, unit="s", utc=True))
    pressure = atmosphere.alt2pres(site.altitude_m)
    # A tenth of the cost of the full algorithm and within 0.01 degrees of it (tested).
    sun = solarposition.ephemeris(times, site.latitude, site.longitude, pressure=pressure)
    zenith = 90.0 - sun["apparent_elevation"].to_numpy()
    extra = irradiance.get_extra_radiation(times).to_numpy()
    air_mass = atmosphere.get_relative_airmass(zenith)
    absolute = atmosphere.get_absolute_airmass(air_mass, pressure)
    turbidity = clearsky.lookup_linke_turbidity(times, site.latitude, site.longitude).to_numpy()
    # Below the horizon the formula divides by nought and then multiplies it away.
    with np.errstate(divide="ignore", invalid="ignore"):
        clear = clearsky.ineichen(zenith, absolute, turbidity, site.altitude_m, extra)
    return Sky(
        zenith_deg=zenith,
        azimuth_deg=sun["azimuth"].to_numpy(),
        day_of_year=times.day_of_year.to_numpy().astype(np.float64),
        extra_dni=extra,
        ghi=np.nan_to_num(np.asarray(clear["ghi"])),
        dni=np.nan_to_num(np.asarray(clear["dni"])),
        dhi=np.nan_to_num(np.asarray(clear["dhi"])),
    )


def trip_sky(sites: tuple[Site, ...], grid: Grid) -> Sky:
    """The clear sky of a trip with one site a day (or one for all), by local days."""
    return trip_sky_at(sites, *grid_key(grid))


def grid_key(grid: Grid) -> tuple[int, int, bytes]:
    """What names a grid: its first UTC second, its step in seconds, its days' first steps."""
    first = int(grid.starts_utc[0].astype(np.int64))
    return first, grid.step_min * 60, grid.day_starts.astype(np.int64).tobytes()


@cached
def trip_sky_at(sites: tuple[Site, ...], first_s: int, step_s: int, days: bytes) -> Sky:
    """`trip_sky` for the grid of that `grid_key`, kept."""
    starts = np.frombuffer(days, np.int64)
    distinct = tuple(dict.fromkeys(sites))
    skies = [sky_at(site, first_s, int(starts[-1]), step_s) for site in distinct]
    if len(distinct) == 1:
        return skies[0]
    which = np.repeat([distinct.index(site) for site in sites], np.diff(starts))
    return Sky(
        **{f.name: np.choose(which, [getattr(sky, f.name) for sky in skies]) for f in fields(Sky)}
    )


def under_clearness(sky: Sky, clearness: Floats) -> Sky:
    """The sky when its horizontal light is `clearness` (steps,) of the clear sky's.

    Erbs splits it into direct and diffuse; of the common models it comes closest to the
    measured diffuse share by day.
    """
    from pvlib import irradiance

    ghi = sky.ghi * clearness
    # Direct light close to the horizon is noise in any decomposition: none past 87 degrees.
    split = irradiance.erbs(ghi, sky.zenith_deg, sky.day_of_year, max_zenith=87)
    return replace(sky, ghi=ghi, dni=np.nan_to_num(split["dni"]), dhi=np.nan_to_num(split["dhi"]))
