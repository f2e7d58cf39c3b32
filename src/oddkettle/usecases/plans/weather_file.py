"""A weather file read into a climate that a plan can keep, with a report of what was read."""

from __future__ import annotations

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.weather.records import LATE_MIN, Record, RecordClimate, read_climate
from oddkettle.formats.untrusted.apart import ReaderEnded, read_apart
from oddkettle.formats.weather_file import read_weather
from oddkettle.plan.document import PlaceClimate
from oddkettle.plan.plan_errors import Complaint, PlanRefused, from_fault
from oddkettle.plan.quantities import LazyModel
from oddkettle.usecases.plans.places import spot


class WeatherReport(LazyModel):
    """What a weather file held."""

    climate: PlaceClimate
    latitude: float
    longitude: float
    altitude_m: float
    timezone: str
    hours: int
    days: int
    skipped: int
    """Days left out for gaps."""
    missing: int
    """Hours without a figure."""
    late_min: float | None
    """By how much its clear days come after the sun's own."""
    shift_min: float
    """By how much its times were moved."""
    offers_shift_min: float | None
    """The move that would set its clock right, where it is out by more than 10 min."""
    text: list[str]


def _read(data: bytes, name: str, shift_min: float) -> tuple[Record, RecordClimate]:
    """In a process of its own: weather files are read by libraries that trust them."""
    record = read_weather(data, name, shift_min)
    return record, read_climate(record)


def _unreadable(name: str, why: str) -> Complaint:
    return Complaint(
        where="weather",
        value=name,
        limit="a whole file of one year",
        remedy="Download it once more, or choose a climate from the list.",
        text=f"{name} cannot be read: {why}.",
    )


def report_weather(data: bytes, name: str, shift_min: float = 0.0) -> WeatherReport:
    """Read a weather file. Raises PlanRefused with the reason."""
    try:
        record, climate = read_apart(_read, data, name, shift_min)
    except ReaderEnded as error:
        raise PlanRefused([_unreadable(name, str(error))]) from None
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from None
    site, late = record.site, climate.late_min
    off = late is not None and abs(late) > LATE_MIN
    text = [f"{len(record.ghi):,} hours at {site.latitude:.2f}, {site.longitude:.2f}."]
    if climate.missing:
        text.append(f"{climate.missing} hours have no figure; {climate.skipped} days are left out.")
    if off and late is not None:
        way = "late" if late > 0 else "early"
        text.append(f"Its clear days come {abs(late):.0f} min {way}: its clock seems to be off.")
    elif late is not None:
        text.append(f"Its clear days stand within {abs(late):.0f} min of the sun's noon.")
    return WeatherReport(
        climate=PlaceClimate(
            source=record.source,
            clearness=[round(min(max(k, 0.02), 1.3), 3) for k in climate.clearness],
            low_c=[round(t, 1) for t in climate.low_c],
            high_c=[round(t, 1) for t in climate.high_c],
            settled=round(climate.settled, 2),
        ),
        latitude=round(site.latitude, 4),
        longitude=round(site.longitude, 4),
        altitude_m=site.altitude_m,
        timezone=spot(site.latitude, site.longitude).timezone,
        hours=len(record.ghi),
        days=climate.days,
        skipped=climate.skipped,
        missing=climate.missing,
        late_min=late,
        shift_min=shift_min,
        offers_shift_min=round(shift_min - late) if off and late is not None else None,
        text=text,
    )
