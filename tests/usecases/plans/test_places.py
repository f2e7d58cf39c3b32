"""Places found offline, and the reports of weather files."""

from __future__ import annotations

from math import cos, hypot, radians
from pathlib import Path

import pvlib
import pytest

from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.usecases.plans.places import _towns, named, search, spot, year_at
from oddkettle.usecases.plans.regions import Region, all_regions
from oddkettle.usecases.plans.weather_file import report_weather

YEARS = Path(pvlib.__file__).parent / "data"


def test_a_town_is_found_by_its_beginning_with_or_without_accents() -> None:
    for asked in ("zürich", "ZURICH", "  zuri"):
        place = search(asked)[0]
        assert (place.name, place.timezone) == ("Zürich", "Europe/Zurich")
    assert place.latitude == pytest.approx(47.37, abs=0.1)
    assert 350 < place.altitude_m < 600


@pytest.mark.parametrize("asked", ["", "x", "  ", "no such town anywhere"])
def test_nothing_is_found_quietly(asked: str) -> None:
    assert search(asked) == []


@pytest.mark.parametrize(
    ("latitude", "longitude", "zone"),
    [
        (57.2, -2.2, "Europe/London"),
        (-54.8, -68.3, "America/Argentina/Ushuaia"),
        (-16.9, 179.99, "Pacific/Fiji"),
        (0.0, 180.0, "Etc/GMT-12"),
        (0.0, -180.0, "Etc/GMT-12"),
        (90.0, 0.0, "Etc/GMT"),
    ],
)
def test_coordinates_bring_their_clock_even_at_sea_and_on_the_date_line(
    latitude: float, longitude: float, zone: str
) -> None:
    assert spot(latitude, longitude).timezone == zone


def test_a_weather_file_is_reported_with_what_was_read() -> None:
    report = report_weather((YEARS / "12839.tm2").read_bytes(), "12839.tm2")
    assert report.timezone == "America/New_York"
    assert report.hours == 8760
    assert report.offers_shift_min is None
    assert "noon" in report.text[-1]


def test_a_clock_that_is_off_comes_with_the_move_that_mends_it() -> None:
    data = (YEARS / "12839.tm2").read_bytes()
    off = report_weather(data, "12839.tm2", shift_min=60)
    assert off.offers_shift_min == pytest.approx(0, abs=2)
    assert "60 min late" in off.text[-1] or "61 min late" in off.text[-1]


def test_a_bad_file_is_refused_with_value_limit_and_remedy() -> None:
    with pytest.raises(PlanRefused) as refused:
        report_weather(b"not weather", "notes.txt")
    said = refused.value.complaints[0]
    assert all((said.value, said.limit, said.remedy))


@pytest.mark.parametrize(
    ("latitude", "longitude", "month", "sun_h"),
    [
        # Horizontal light of a usual day, general climatology [kWh/m2, textbook].
        (51.5, -0.1, 6, 4.9),
        (51.5, -0.1, 11, 0.55),
        (33.4, -112.1, 5, 8.2),
        (-33.9, 151.2, 0, 6.4),
    ],
)
def test_the_year_at_a_place_has_its_known_light(
    latitude: float, longitude: float, month: int, sun_h: float
) -> None:
    assert year_at(latitude, longitude).months[month].sun_h == pytest.approx(sun_h, rel=0.15)


def test_higher_up_the_same_place_is_colder() -> None:
    low, high = year_at(46.5, 8.0, 500.0), year_at(46.5, 8.0, 2500.0)
    assert low.months[6].high_c - high.months[6].high_c == pytest.approx(13.0, abs=0.2)
    assert "full sun" in low.text


def test_far_at_sea_the_year_says_how_far_the_land_is() -> None:
    assert "km away" in year_at(0.0, -140.0).text
    assert "km away" not in year_at(51.5, -0.1).text


@pytest.mark.parametrize(
    ("own", "town", "country"),
    [
        ("Praha", "Prague", "Czechia"),
        ("Firenze", "Florence", "Italy"),
        ("Moskva", "Moscow", "Russia"),
        ("Москва", "Moscow", "Russia"),
        ("København", "Copenhagen", "Denmark"),
        ("kobenhavn", "Copenhagen", "Denmark"),
        ("Wien", "Vienna", "Austria"),
        ("Lisboa", "Lisbon", "Portugal"),
        ("munchen", "Munich", "Germany"),
        ("lodz", "Łódź", "Poland"),
        ("Bern", "Bern", "Switzerland"),
        ("Norway", "Oslo", "Norway"),
    ],
)
def test_a_place_is_found_by_its_own_name_and_a_country_by_its_largest_town(
    own: str, town: str, country: str
) -> None:
    first = search(own)[0]
    assert (first.name, first.country) == (town, country)
    assert named(own) == first


def test_what_is_no_place_has_no_name() -> None:
    assert named("xyzzy") is None
    assert named("") is None


def test_the_table_is_that_of_the_world() -> None:
    """Heights and clocks against well-known ones: La Paz lies high, Amsterdam does not."""
    paz, dam = named("La Paz"), named("Amsterdam")
    assert paz is not None
    assert dam is not None
    assert 3200 < paz.altitude_m < 4200
    assert dam.altitude_m < 30
    assert (paz.timezone, dam.timezone) == ("America/La_Paz", "Europe/Amsterdam")


@pytest.mark.parametrize("region", all_regions(), ids=lambda region: region.name)
def test_the_middle_of_a_region_lies_in_its_country(region: Region) -> None:
    """Held against the towns of another list, which know nothing of regions."""
    near = min(
        (town for town in _towns() if abs(town.latitude - region.latitude) < 12),
        key=lambda town: hypot(
            town.latitude - region.latitude,
            (town.longitude - region.longitude) * cos(radians(region.latitude)),
        ),
    )
    assert near.country == region.country


def test_a_region_is_found_before_a_town_that_took_its_name() -> None:
    tuscany = named("toscana")
    assert tuscany is not None
    assert (tuscany.name, tuscany.country) == ("Tuscany", "Italy")
    assert tuscany.timezone == "Europe/Rome"
    # The town is there all the same.
    assert "Canada" in {place.country for place in search("Tuscany")}


def test_mountains_are_at_the_height_where_people_stay() -> None:
    alps = named("the Alps")
    assert alps is not None
    assert 300 <= alps.altitude_m <= 1300
