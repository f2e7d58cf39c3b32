"""The table of the world against general climatology of places that took no part in it."""

from __future__ import annotations

import csv
from dataclasses import dataclass
from datetime import date
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddkettle.core.judgement.climate import climate_unlike_place
from oddkettle.core.judgement.evidence import Evidence
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.core.trip.grid import Site
from oddkettle.core.weather.clear_sky import monthly_clear_wh
from oddkettle.core.weather.climate import CLIMATES, LAPSE_K_PER_M, typical_day
from oddkettle.core.weather.world_climate import TABLE, at_place
from tests.core.boxes import a_case

NORMALS = Path(__file__).parents[3] / "scripts" / "climate_normals.csv"
SMALL_ISLANDS = {"Honolulu"}
"""The reanalysis' cells are wider than such an island; the app says how far away the land is."""


@dataclass(frozen=True)
class Known:
    """A well-known place: coordinates, height, extremes of January and July, light."""

    name: str
    latitude: float
    longitude: float
    height_m: float
    jan: tuple[float, float]
    jul: tuple[float, float]
    ghi_kwh: float


def held_out() -> list[Known]:
    """Every third place of the list, which the making of the table leaves out."""
    with NORMALS.open() as file:
        rows = [row for at, row in enumerate(csv.reader(file)) if at]
    return [
        Known(
            row[0],
            *(float(word) for word in row[1:4]),
            jan=(float(row[4]), float(row[5])),
            jul=(float(row[6]), float(row[7])),
            ghi_kwh=float(row[8]),
        )
        for row in rows[1::3]
        if row[0] not in SMALL_ISLANDS
    ]


def rms(values: list[float]) -> float:
    return float(np.sqrt(np.mean(np.square(values))))


def test_warmth_of_places_left_out_is_known_within_three_kelvin() -> None:
    off = []
    for known in held_out():
        told = at_place(known.latitude, known.longitude).climate
        lift = LAPSE_K_PER_M * (known.height_m - told.height_m)
        for month, (low, high) in ((0, known.jan), (6, known.jul)):
            off += [told.low_c[month] - lift - low, told.high_c[month] - lift - high]
    assert len(off) > 90
    assert rms(off) < 3.0
    assert abs(float(np.mean(off))) < 0.7


def test_the_years_light_of_places_left_out_is_known_within_a_tenth() -> None:
    off = []
    for known in held_out():
        told = at_place(known.latitude, known.longitude).climate
        site = Site(known.latitude, known.longitude, known.height_m, "UTC")
        light_kwh = float(np.mean(np.asarray(told.clearness) * monthly_clear_wh(site))) / 1000.0
        off.append(light_kwh / known.ghi_kwh - 1.0)
    assert rms(off) < 0.13
    assert abs(float(np.mean(off))) < 0.04


@pytest.mark.parametrize("known", held_out(), ids=lambda known: known.name)
def test_no_kind_of_place_is_better_than_the_table_by_far(known: Known) -> None:
    told = at_place(known.latitude, known.longitude).climate

    def missed(low: float, high: float) -> float:
        return abs((low + high - sum(known.jul)) / 2.0)

    lift = LAPSE_K_PER_M * (known.height_m - told.height_m)
    table = missed(told.low_c[6] - lift, told.high_c[6] - lift)
    kinds = [
        typical_day(kind, date(2025, 7, 15), known.latitude, known.height_m)
        for kind in CLIMATES.values()
    ]
    # Of eleven kinds one is always near by luck: but seldom much nearer.
    assert table < min(missed(kind.low_c, kind.high_c) for kind in kinds) + 5.0


@given(
    st.floats(-90, 90, allow_nan=False),
    st.floats(-180, 180, allow_nan=False),
)
def test_every_place_on_earth_has_a_year_that_can_be(latitude: float, longitude: float) -> None:
    told = at_place(latitude, longitude)
    climate = told.climate
    assert all(0.1 < k < 1.2 for k in climate.clearness)
    assert all(
        -75.0 < low < high < 55.0 for low, high in zip(climate.low_c, climate.high_c, strict=True)
    )
    assert 0.03 <= climate.doubt <= 0.15
    assert 2.5 <= climate.warmth_doubt_k <= 6.0
    assert 1.8 <= climate.settled <= 4.5
    assert told.away_km >= 0.0


@pytest.mark.parametrize("latitude", [-17.0, 65.0, 71.0])
def test_the_date_line_is_one_line(latitude: float) -> None:
    assert at_place(latitude, 180.0).climate == at_place(latitude, -180.0).climate


def test_summer_is_where_the_sun_is() -> None:
    south, north = at_place(-23.8, 133.9).climate, at_place(51.5, -0.1).climate
    assert int(np.argmax(south.high_c)) in {11, 0, 1}
    assert int(np.argmax(north.high_c)) in {6, 7}


def test_far_from_land_the_table_owns_to_more_doubt() -> None:
    land, island, ocean = at_place(45.0, 8.0), at_place(38.5, -28.0), at_place(0.0, -140.0)
    assert land.away_km == 0.0
    assert 300.0 < island.away_km < ocean.away_km
    assert land.climate.doubt < island.climate.doubt <= ocean.climate.doubt
    assert land.climate.warmth_doubt_k < island.climate.warmth_doubt_k


def test_the_table_is_small() -> None:
    import oddkettle.core.weather as room

    assert (Path(room.__file__).parent / TABLE).stat().st_size < 300_000


def unlike(kind: str | None, site: Site) -> list[str]:
    case = a_case(kind_of_place=kind, site=site, first_day=date(2026, 7, 10))
    run = simulate(case)
    return [found.text for found in climate_unlike_place(Evidence(run, keep_ledger(run)))]


def test_a_kind_of_place_that_does_not_suit_is_questioned() -> None:
    desert, alps = Site(23.0, 5.0, 900.0, "UTC"), Site(46.6, 8.0, 1500.0, "UTC")
    (text,) = unlike("temperate_maritime", desert)
    assert "duller" in text
    assert "colder" in text
    assert unlike("hot_dry_interior", desert) == []
    assert unlike("alpine", alps) == []
    assert unlike("hot_dry_interior", Site(53.3, -6.3, 20.0, "UTC")) != []
    assert unlike(None, desert) == []
