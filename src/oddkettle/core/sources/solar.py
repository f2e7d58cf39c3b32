"""Panels under a sky: pvlib's clear sky scaled by each day's clearness, on to the controller."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.trip import Grid, Site

Floats = NDArray[np.float64]
Mount = Literal["flat", "tilted"]

DIRT_SHARE = 0.97
"""What a dusty panel still gives: 3 % lost [textbook]."""
MISMATCH_SHARE = 0.98
"""2 % lost between cells that are not quite equal [textbook]."""
POWER_PER_K = -0.0035
"""Change of power per kelvin above 25 C, crystalline silicon [textbook]."""
ALBEDO = 0.2
ASHRAE_B = 0.05
DIFFUSE_PASS = 0.95
"""Share of diffuse light that passes the glass."""
FAIMAN_TILTED_U0, FAIMAN_FLAT_U0, FAIMAN_U1 = 29.0, 20.0, 0.0
"""Heat loss [W/(m2 K)]: a panel flat on a roof runs hotter than a free-standing one."""


@dataclass(frozen=True)
class Panel:
    """`power_w` at standard test conditions. `tilt_deg` from flat, `azimuth_deg` from north.

    A portable panel works only while it is out; the others always.
    """

    power_w: float
    mount: Mount
    tilt_deg: float
    azimuth_deg: float
    portable: bool


@dataclass(frozen=True)
class Controller:
    """A tracking charge controller: largest output current [A] and efficiency (0..1)."""

    limit_a: float
    efficiency: float


@dataclass(frozen=True)
class SunInput:
    """Panels on one controller."""

    key: str
    name: str
    panels: tuple[Panel, ...]
    controller: Controller


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
    return _clear_sky(
        site, int(grid.starts_utc[0].astype(np.int64)), grid.steps, grid.step_min * 60
    )


@lru_cache(maxsize=16)
def _clear_sky(site: Site, first_s: int, steps: int, step_s: int) -> Sky:
    # pvlib and pandas take over a second to import: only where they are used.
    import pandas as pd
    from pvlib import atmosphere, clearsky, irradiance, solarposition

    middles = first_s + step_s * (np.arange(steps) + 0.5)
    times = pd.DatetimeIndex(pd.to_datetime(middles, unit="s", utc=True))
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


def panel_w(panel: Panel, sky: Sky, ambient_c: Floats | float) -> Floats:
    """(steps,) DC power of a panel at its terminals [W], losses taken off.

    Hay-Davies transposition, ASHRAE incidence loss on direct light, Faiman cell temperature,
    PVWatts power with the panel's temperature coefficient.
    """
    from pvlib import iam, irradiance, pvsystem, temperature

    tilt = 0.0 if panel.mount == "flat" else panel.tilt_deg
    incidence = irradiance.aoi(tilt, panel.azimuth_deg, sky.zenith_deg, sky.azimuth_deg)
    plane = irradiance.get_total_irradiance(
        tilt,
        panel.azimuth_deg,
        sky.zenith_deg,
        sky.azimuth_deg,
        sky.dni,
        sky.ghi,
        sky.dhi,
        dni_extra=sky.extra_dni,
        albedo=ALBEDO,
        model="haydavies",
    )
    direct = np.nan_to_num(np.asarray(plane["poa_direct"]))
    diffuse = np.nan_to_num(np.asarray(plane["poa_diffuse"]))
    passes = np.nan_to_num(np.asarray(iam.ashrae(incidence, b=ASHRAE_B)))
    reaches = np.maximum(direct * passes + DIFFUSE_PASS * diffuse, 0.0)
    u0 = FAIMAN_FLAT_U0 if panel.mount == "flat" else FAIMAN_TILTED_U0
    cell_c = temperature.faiman(direct + diffuse, ambient_c, 1.0, u0=u0, u1=FAIMAN_U1)
    power = pvsystem.pvwatts_dc(reaches, cell_c, panel.power_w, POWER_PER_K)
    return np.asarray(np.maximum(power, 0.0) * DIRT_SHARE * MISMATCH_SHARE)


@lru_cache(maxsize=64)
def _panel_w_cached(
    panel: Panel, site: Site, first_s: int, steps: int, step_s: int, days: bytes, ambient_c: float
) -> Floats:
    clearness = np.frombuffer(days, np.float64)
    sky = under_clearness(_clear_sky(site, first_s, steps, step_s), clearness)
    return panel_w(panel, sky, ambient_c)


def panel_series_w(
    panel: Panel, site: Site, grid: Grid, clearness: Floats, ambient_c: float
) -> Floats:
    """`panel_w` for a grid, kept: dragging a block or a load does not ask the sky again."""
    first_s = int(grid.starts_utc[0].astype(np.int64))
    step_s = grid.step_min * 60
    return _panel_w_cached(panel, site, first_s, grid.steps, step_s, clearness.tobytes(), ambient_c)
