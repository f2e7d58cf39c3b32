"""Weather files that anybody may have: EPW, TMY2, TMY3 and PVGIS, read by pvlib.

Each has its own way of saying what an hour is: EPW and TMY2 come out of pvlib at the hour's
start, TMY3 at its end, PVGIS as instants in UTC with an offset of their own. All are in local
standard time, never in summer time; here they become UTC seconds at the middle.
"""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.trip.grid import Site
from oddkettle.core.weather.records import Record

if TYPE_CHECKING:
    import pandas as pd

LARGEST_BYTES = 40_000_000
MAX_LINES = 180_000
HALF_HOUR_S = 1800
MISSING_GHI, MISSING_C = 9999.0, 99.9
FEWEST_ROWS = 8000
MAX_GHI, MIN_C, MAX_C = 1500.0, -90.0, 70.0
KINDS = "EPW, TMY2, TMY3, or a PVGIS typical year or hourly series"


def read_weather(data: bytes, name: str, shift_min: float = 0.0) -> Record:
    """A weather file's record, moved by `shift_min` minutes. Raises PlanError with the reason."""
    if len(data) > LARGEST_BYTES:
        raise _refused(
            f"{name} has {len(data) / 1e6:.0f} MB.",
            f"{len(data)} bytes",
            f"at most {LARGEST_BYTES / 1e6:.0f} MB",
            "Send one year of hours.",
        )
    if data.count(b"\n") > MAX_LINES:
        raise _refused(
            f"{name} has more than {MAX_LINES:,} lines.",
            "more",
            f"at most {MAX_LINES:,}, which are twenty years of hours",
            "Send one year of hours.",
        )
    kind = _kind(data, name)
    with tempfile.NamedTemporaryFile(suffix=f".{kind}") as file:
        file.write(data)
        file.flush()
        try:
            frame, meta, off_s = READERS[kind](Path(file.name))
            return _record(frame, meta, off_s + round(60 * shift_min), name)
        except PlanError:
            raise
        except Exception as error:
            # pvlib raises whatever its parsers do: ValueError, KeyError, IndexError and more.
            raise _refused(
                f"{name} looks like {kind.upper()}, but cannot be read: "
                f"{str(error).replace(file.name, name).strip()}.",
                type(error).__name__,
                f"a whole {kind.upper()} file",
                "Download it once more; it may be cut off.",
            ) from None


def _kind(data: bytes, name: str) -> str:
    head = data[:4000].decode("latin-1")
    lines = head.splitlines() or [""]
    if lines[0].startswith("LOCATION,"):
        return "epw"
    if head.lstrip().startswith("{") and '"inputs"' in head:
        return "pvgis-json"
    if lines[0].startswith("Latitude (decimal degrees)"):
        return "pvgis-csv"
    if len(lines) > 1 and lines[1].startswith("Date (MM/DD/YYYY)"):
        return "tmy3"
    if len(lines) > 1 and len(lines[1]) >= 140 and lines[1][:9].strip().isdigit():
        return "tmy2"
    raise _refused(
        f"{name} is none of the kinds of weather file that are read here.",
        repr(lines[0][:40]),
        KINDS,
        "Export one of these, or choose a climate from the list.",
    )


def _epw(path: Path) -> tuple[pd.DataFrame, dict[str, Any], int]:
    from pvlib.iotools import read_epw

    frame, meta = read_epw(str(path))
    return frame.rename(columns={"temp_air": "air"}), meta, HALF_HOUR_S


def _tmy2(path: Path) -> tuple[pd.DataFrame, dict[str, Any], int]:
    from pvlib.iotools import read_tmy2

    frame, meta = read_tmy2(str(path))
    frame = frame.rename(columns={"GHI": "ghi"})
    # TMY2 writes tenths of a degree.
    frame["air"] = frame["DryBulb"] / 10.0
    return frame, {**meta, "city": meta.get("City")}, HALF_HOUR_S


def _tmy3(path: Path) -> tuple[pd.DataFrame, dict[str, Any], int]:
    from pvlib.iotools import read_tmy3

    frame, meta = read_tmy3(str(path), map_variables=True)
    return frame.rename(columns={"temp_air": "air"}), {**meta, "city": meta["Name"]}, -HALF_HOUR_S


def _pvgis(path: Path) -> tuple[pd.DataFrame, dict[str, Any], int]:
    from pvlib.iotools import read_pvgis_hourly, read_pvgis_tmy

    form = "json" if path.suffix.endswith("json") else "csv"
    text = path.read_text(encoding="latin-1")
    if "G(i)" in text:
        frame, meta = read_pvgis_hourly(str(path), pvgis_format=form)
        if "Slope: 0 deg" not in text and '"slope": {"value": 0' not in text:
            raise _refused(
                "This PVGIS series is for a sloped plane.",
                "G(i) on a slope",
                "a slope of 0 degrees, or a typical year",
                "Ask for the horizontal plane (slope 0), or for the typical year (TMY).",
            )
        frame = frame.rename(columns={"poa_global": "ghi"})
    else:
        frame, meta = read_pvgis_tmy(str(path), pvgis_format=form)
    inputs = meta.get("inputs", meta)
    place = inputs.get("location", inputs)
    # A typical year's hours are instants so much after the full hour.
    off_h = inputs.get("irradiance time offset", place.get("irradiance_time_offset", 0.0))
    meta = {
        "city": "PVGIS",
        "latitude": place["latitude"],
        "longitude": place["longitude"],
        "altitude": place.get("elevation", 0.0),
    }
    return frame.rename(columns={"temp_air": "air"}), meta, round(3600 * float(off_h))


READERS = {"epw": _epw, "tmy2": _tmy2, "tmy3": _tmy3, "pvgis-csv": _pvgis, "pvgis-json": _pvgis}


def _record(frame: pd.DataFrame, meta: dict[str, Any], off_s: int, name: str) -> Record:
    if len(frame) < FEWEST_ROWS:
        raise _refused(
            f"{name} has {len(frame)} hours.",
            str(len(frame)),
            f"at least {FEWEST_ROWS} hours",
            "Take a file of a whole year.",
        )
    latitude, longitude = float(meta["latitude"]), float(meta["longitude"])
    if not (-90.0 <= latitude <= 90.0 and -180.0 <= longitude <= 180.0):
        raise _refused(
            f"{name} is said to be at {latitude:g}, {longitude:g}.",
            f"{latitude}, {longitude}",
            "-90 to 90 north, -180 to 180 east",
            "Mend the file's header.",
        )
    ghi = frame["ghi"].to_numpy(np.float64, copy=True)
    air = frame["air"].to_numpy(np.float64, copy=True)
    ghi[(ghi < 0.0) | (ghi > MAX_GHI)] = np.nan
    air[(air < MIN_C) | (air > MAX_C) | (air == MISSING_C)] = np.nan
    city = str(meta.get("city") or meta.get("station_name") or "").strip(' "').title()
    return Record(
        source=f"{name[:40]}: {city}"[:80] if city else name[:80],
        site=Site(latitude, longitude, float(meta.get("altitude") or 0.0), "UTC"),
        middle_s=(frame.index.as_unit("s").asi8 + off_s).astype(np.int64),
        month=frame.index.month.to_numpy().astype(np.int64),
        ghi=ghi,
        air_c=air,
    )


def _refused(text: str, value: str, limit: str, remedy: str) -> PlanError:
    return PlanError(text, where=("weather",), value=value, limit=limit, remedy=remedy)
