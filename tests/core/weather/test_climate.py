"""Air and climate: what a day's low and high become, and what a month is like."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest

from oddkettle.core.trip.grid import lay_grid, zone_named
from oddkettle.core.weather.air_temperature import air_temperature
from oddkettle.core.weather.climate import CLIMATES, month_mean, typical_day

UTC = zone_named("UTC")


def test_each_day_meets_its_own_low_and_high() -> None:
    grid = lay_grid(date(2026, 6, 6), 4, UTC, 5)
    lows, highs = (5.0, -11.0, 3.0, 8.0), (14.0, 2.0, 20.0, 9.0)
    air = air_temperature(grid, 0.0, lows, highs)
    for day in range(4):
        part = air[288 * day : 288 * (day + 1)]
        assert part[48:54].min() == pytest.approx(lows[day], abs=0.05)
        assert part[150:162].max() == pytest.approx(highs[day], abs=0.05)


def test_midnight_shows_no_jump() -> None:
    grid = lay_grid(date(2026, 6, 6), 3, UTC, 5)
    air = air_temperature(grid, 7.0, (0.0, 15.0, -4.0), (10.0, 16.0, 12.0))
    assert np.abs(np.diff(air)).max() < 0.35


def test_the_warmest_hour_follows_the_sun_not_the_clock() -> None:
    """15 degrees east of the zone's meridian the sun is an hour early."""
    grid = lay_grid(date(2026, 6, 6), 1, UTC, 5)
    here, east = (
        int(np.argmax(air_temperature(grid, lon, (5.0,), (15.0,)))) / 12 for lon in (0.0, 15.0)
    )
    assert here - east == pytest.approx(1.0, abs=0.1)


def test_half_a_year_apart_is_the_other_hemisphere() -> None:
    climate = CLIMATES["cool_continental"]
    north = typical_day(climate, date(2026, 1, 15), 50.0, 0.0)
    south = typical_day(climate, date(2026, 7, 15), -50.0, 0.0)
    assert (north.low_c, north.high_c) == (-7.0, 1.0)
    assert south == north
    wet = CLIMATES["equatorial_wet"]
    assert typical_day(wet, date(2026, 1, 15), -1.0, 0.0).clearness == wet.clearness[0]


def test_height_cools_by_six_and_a_half_kelvin_a_kilometre() -> None:
    """From the height for which a climate is stated: 2,000 m for the dry highland."""
    highland = CLIMATES["dry_highland"]
    at = [typical_day(highland, date(2026, 6, 15), 30.0, m).high_c for m in (2000.0, 3000.0)]
    assert at == pytest.approx([27.0, 20.5])


def test_between_mid_months_the_mean_runs_straight_and_round_the_year() -> None:
    values = tuple(float(month) for month in range(1, 13))
    assert month_mean(values, date(2026, 3, 15)) == 3.0
    assert month_mean(values, date(2026, 3, 30)) == pytest.approx(3.5, abs=0.01)
    assert 1.0 < month_mean(values, date(2026, 12, 30)) < 12.0


def test_every_climate_is_whole_and_within_what_weather_does() -> None:
    assert len(CLIMATES) == 11
    for climate in CLIMATES.values():
        assert len(climate.clearness) == len(climate.low_c) == len(climate.high_c) == 12
        assert all(0.4 < k < 1.0 for k in climate.clearness)
        assert all(low < high for low, high in zip(climate.low_c, climate.high_c, strict=True))
