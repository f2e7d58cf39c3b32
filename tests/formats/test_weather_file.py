"""Weather files: what is read of real ones, and how bad ones are refused."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from pathlib import Path

import numpy as np
import pandas as pd
import pvlib
import pytest

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.trip.grid import Site
from oddkettle.core.weather.calibration import coverage
from oddkettle.core.weather.clear_sky import clear_ghi_at
from oddkettle.core.weather.records import Record, read_climate
from oddkettle.formats.weather_file import read_weather

YEARS = Path(pvlib.__file__).parent / "data"
REAL = ("12839.tm2", "723170TYA.CSV", "703165TY.csv")


def real(name: str, shift: float = 0.0) -> Record:
    return read_weather((YEARS / name).read_bytes(), name, shift)


@pytest.fixture(scope="module")
def miami() -> Record:
    return real("12839.tm2")


@pytest.mark.parametrize("name", REAL)
def test_a_real_years_clear_days_stand_at_the_suns_noon(name: str) -> None:
    # Whether hours are told by their start or their end: read wrongly this would be 30 or 60.
    late = read_climate(real(name)).late_min
    assert late is not None
    assert abs(late) < 3.0


def test_a_clock_that_is_an_hour_off_is_noticed_and_can_be_moved() -> None:
    assert read_climate(real("12839.tm2", 60.0)).late_min == pytest.approx(60.0, abs=3.0)
    assert read_climate(real("703165TY.csv", -45.0)).late_min == pytest.approx(-45.0, abs=3.0)


def test_month_means_are_those_of_the_place(miami: Record) -> None:
    climate = read_climate(miami)
    assert 0.7 < min(climate.clearness) < max(climate.clearness) < 0.95
    # Published normals of the place: 15 to 24 C in January, 25 to 32 in July.
    assert climate.low_c[0] == pytest.approx(15.4, abs=1.5)
    assert climate.high_c[6] == pytest.approx(31.7, abs=1.5)
    assert climate.days >= 363
    assert climate.missing == 0


@pytest.mark.parametrize("name", REAL)
def test_real_light_falls_inside_the_band_about_as_often_as_promised(name: str) -> None:
    found = coverage(real(name), (1, 3, 7), 200, date(2025, 1, 1))
    for share in found.values():
        assert 0.6 < share < 0.97


def test_weather_that_keeps_to_itself_for_weeks_escapes_the_band(miami: Record) -> None:
    # The other side of the calibration: dull and bright fortnights turn about, the means kept.
    fortnight = (miami.middle_s // (14 * 86_400)) % 2
    stuck = replace(miami, ghi=np.where(fortnight == 0, 1.3, 0.6) * miami.ghi)
    found, held = (coverage(r, (7,), 200, date(2025, 1, 1))[7] for r in (stuck, miami))
    assert found < held - 0.3


def test_a_gap_leaves_out_its_days_and_a_missing_month_is_refused(miami: Record) -> None:
    ghi = miami.ghi.copy()
    ghi[4000:4072] = np.nan
    gap = read_climate(replace(miami, ghi=ghi))
    assert 2 <= gap.skipped - read_climate(miami).skipped <= 5
    assert gap.missing > 20
    ghi[miami.month == 5] = np.nan
    with pytest.raises(PlanError, match="whole days of month 5") as refused:
        read_climate(replace(miami, ghi=ghi))
    assert "15 days" in refused.value.limit
    assert refused.value.remedy


HEADERS = (
    "DESIGN CONDITIONS",
    "TYPICAL/EXTREME PERIODS",
    "GROUND TEMPERATURES",
    "HOLIDAYS/DAYLIGHT SAVINGS",
    "COMMENTS 1",
    "COMMENTS 2",
    "DATA PERIODS",
)
AFTER_LIGHT = "0,0,0,0,0,0,180,2,5,5,20,77777,9,0,100,0,0,88,0.2,0,1"


def clear_light(middles: pd.DatetimeIndex, late_s: float = 0.0) -> np.ndarray:
    site = Site(48.0, 15.0, 200.0, "UTC")
    return clear_ghi_at(site, (middles.as_unit("s").asi8 - late_s).astype(np.int64))


def epw_of(hours: int = 8760, late_h: int = 0, missing: int = 0) -> bytes:
    """An EPW year of clear skies and 5 to 15 C at a made-up place."""
    middles = pd.date_range("2023-01-01 00:30", periods=hours, freq="h", tz="Etc/GMT-1")
    lines = ["LOCATION,Moorfield,-,-,made up,000000,48.0,15.0,1.0,200.0"]
    lines += [f"{name},0" for name in HEADERS]
    for n, (at, light) in enumerate(zip(middles, clear_light(middles, 3600 * late_h), strict=True)):
        air = 99.9 if n < missing else 10 - 5 * np.cos(2 * np.pi * (at.hour - 3) / 24)
        when = f"{at.year},{at.month},{at.day},{at.hour + 1},60"
        lines.append(f"{when},?,{air},5,60,101000,0,0,300,{light},{AFTER_LIGHT}")
    return "\n".join(lines).encode() + b"\n"


def pvgis_year(offset_h: float) -> bytes:
    """A PVGIS typical year of clear skies, its instants `offset_h` after the full hour."""
    hours = pd.date_range("2023-01-01", periods=8760, freq="h", tz="UTC")
    light = clear_light(hours, -3600 * offset_h)
    head = ["Latitude (decimal degrees): 48.0", "Longitude (decimal degrees): 15.0"]
    head += ["Elevation (m): 200.0", f"Irradiance Time Offset (h): {offset_h}", "month,year"]
    head += [f"{month},2023" for month in range(1, 13)]
    head += ["time(UTC),T2m,RH,G(h),Gb(n),Gd(h),IR(h),WS10m,WD10m,SP"]
    rows = [
        f"{at:%Y%m%d:%H%M},{10 + 5 * np.sin(at.hour)},60,{g},0,0,300,2,180,99000"
        for at, g in zip(hours, light, strict=True)
    ]
    return "\r\n".join([*head, *rows, "", "T2m: air temperature"]).encode()


def pvgis_series(slope: int) -> bytes:
    """A PVGIS hourly series of clear skies on a plane of this slope."""
    hours = pd.date_range("2023-01-01 00:10", periods=8760, freq="h", tz="UTC")
    head = ["Latitude (decimal degrees):\t48.0", "Longitude (decimal degrees):\t15.0"]
    head += ["Elevation (m):\t200", "Radiation database:\tmade up", f"Slope: {slope} deg.", ""]
    head += ["time,G(i),H_sun,T2m,WS10m,Int"]
    rows = [
        f"{at:%Y%m%d:%H%M},{g},0,{10 + 5 * np.sin(at.hour)},2,0"
        for at, g in zip(hours, clear_light(hours), strict=True)
    ]
    return "\r\n".join([*head, *rows, "", "G(i): light on the plane"]).encode()


@pytest.mark.parametrize("data", [pvgis_year(0.4), pvgis_year(0.0), pvgis_series(0)])
def test_a_pvgis_file_is_read_at_its_own_instants(data: bytes) -> None:
    record = read_weather(data, "series.csv")
    climate = read_climate(record)
    assert record.site.altitude_m == 200.0
    # Instants are taken for hours: a little is lost at dawn and dusk, nothing at noon.
    assert np.mean(climate.clearness) == pytest.approx(1.0, abs=0.03)
    assert climate.late_min == pytest.approx(0.0, abs=3.0)


def test_a_pvgis_series_of_a_sloped_plane_is_refused() -> None:
    with pytest.raises(PlanError, match="sloped plane") as refused:
        read_weather(pvgis_series(35), "series.csv")
    assert "slope of 0" in refused.value.limit


def test_an_epw_year_is_read_at_its_hours_middle() -> None:
    record = read_weather(epw_of(), "moor.epw")
    climate = read_climate(record)
    assert record.site.latitude == 48.0
    assert "Moorfield" in record.source
    assert np.mean(climate.clearness) == pytest.approx(1.0, abs=0.02)
    assert climate.late_min == pytest.approx(0.0, abs=2.0)
    assert climate.low_c[3] == pytest.approx(5.0, abs=0.1)
    assert read_climate(read_weather(epw_of(late_h=1), "late.epw")).late_min == pytest.approx(
        60, abs=3
    )
    gappy = read_climate(read_weather(epw_of(missing=30), "gappy.epw"))
    assert (gappy.missing, gappy.skipped - climate.skipped) == (30, 2)


@pytest.mark.parametrize(
    ("data", "text"),
    [
        (b"", "none of the kinds"),
        (b"hello\nthere", "none of the kinds"),
        (b"\x00\xff" * 500, "none of the kinds"),
        (b"LOCATION,a,b\n1,2", "cannot be read"),
        (epw_of(hours=2000), "has 2000 hours"),
        (b'{"inputs": 3}', "cannot be read"),
        (b"x" * 41_000_000, "41 MB"),
    ],
)
def test_what_is_no_weather_file_is_refused_with_a_remedy(data: bytes, text: str) -> None:
    with pytest.raises(PlanError, match=text) as refused:
        read_weather(data, "it.epw")
    assert refused.value.limit
    assert refused.value.remedy
    assert "/tmp" not in str(refused.value)
