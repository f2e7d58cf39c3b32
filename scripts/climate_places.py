"""Places whose climate is known, for fitting the table of the world and for trying it.

Measured and typical years that packages carry (`bench.real_years`), and general climatology of
well-known places (`climate_normals.csv`): January's and July's usual extremes, the year's
horizontal light [kWh/m2 a day, good to about 5 %]. Every third of these chose nothing.
"""

from __future__ import annotations

import csv
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
from bench import real_years
from numpy.typing import NDArray

from oddkettle.core.trip.grid import Site
from oddkettle.core.weather.clear_sky import clear_ghi_at
from oddkettle.core.weather.records import read_climate

Floats = NDArray[np.float64]

NORMALS = Path(__file__).with_name("climate_normals.csv")
NORMAL_SD, REAL_SD, TYPICAL_SD = 0.035, 0.08, 0.025
"""How far a year's clearness may lie from the place's own. Most of the single years are one
satellite's Europe of 2019, .1 under typical years and general climatology of the same towns."""
MID_DAYS = (8, 15, 23)


@dataclass(frozen=True)
class Seen:
    """What is known of one place. Months are NaN where nothing is known of them."""

    name: str
    held_out: bool
    site: Site
    clearness: Floats
    yearly: float
    yearly_sd: float
    low_c: Floats
    high_c: Floats
    weight: float


def measured(folder: Path) -> list[Seen]:
    """The years that packages carry."""
    found = []
    for year, record in real_years.records(folder):
        means = read_climate(record)
        k = np.asarray(means.clearness)
        clear = monthly_clear(record.site)
        found.append(
            Seen(
                name=year.name,
                held_out=year.held_out,
                site=record.site,
                clearness=k,
                yearly=float(k @ clear / clear.sum()),
                yearly_sd=REAL_SD if year.real else TYPICAL_SD,
                low_c=np.asarray(means.low_c),
                high_c=np.asarray(means.high_c),
                weight=0.6 if year.real else 1.0,
            )
        )
    return found


def well_known() -> list[Seen]:
    """General climatology: January's and July's extremes, the year's light [good to 5 %]."""
    found = []
    with NORMALS.open() as file:
        for row, words in enumerate(csv.DictReader(file)):
            name = words.pop("name")
            told = {key: float(word) for key, word in words.items()}
            site = Site(told["latitude"], told["longitude"], told["height_m"], "UTC")
            low, high, none = np.full(12, np.nan), np.full(12, np.nan), np.full(12, np.nan)
            low[[0, 6]] = told["jan_low_c"], told["jul_low_c"]
            high[[0, 6]] = told["jan_high_c"], told["jul_high_c"]
            clear = monthly_clear(site)
            yearly = told["ghi_kwh_m2_day"] / (0.024 * float(clear.mean()))
            found.append(Seen(name, row % 3 == 1, site, none, yearly, NORMAL_SD, low, high, 2.0))
    return found


def monthly_clear(site: Site) -> Floats:
    """(12,) mean clear-sky light [W/m2]."""
    days = [
        int(datetime(2025, m, d, tzinfo=UTC).timestamp()) for m in range(1, 13) for d in MID_DAYS
    ]
    moments = np.concatenate([day + 1800 * np.arange(48) + 900 for day in days])
    return clear_ghi_at(site, moments).reshape(12, -1).mean(axis=1)
