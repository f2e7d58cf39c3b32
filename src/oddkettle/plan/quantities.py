"""Numbers with a unit and bounds; both reach the JSON Schema, the API and the entry fields."""

from __future__ import annotations

import unicodedata
from datetime import date, datetime
from typing import Annotated, Any

from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict, Field, StringConstraints
from pydantic_core import PydanticCustomError

LONGEST_TRIP_DAYS = 400
Where = tuple[str | int, ...]
"""The way to a field of the document."""


class LazyModel(BaseModel):
    """A model whose validator is built at its first use, not when it is imported.

    A start imports some hundred models and uses a dozen; the rest wait until somebody asks.
    """

    model_config = ConfigDict(defer_build=True)


class Part(BaseModel):
    """Base of every piece of the document: immutable, and unknown fields are refused."""

    model_config = ConfigDict(
        defer_build=True,
        frozen=True,
        extra="forbid",
        allow_inf_nan=False,
        use_attribute_docstrings=True,
    )


def measure(unit: str, at_least: float, at_most: float) -> Any:
    """Field constraints for a number in `unit` between the two bounds."""
    return Field(ge=at_least, le=at_most, json_schema_extra={"unit": unit})


AmpHours = Annotated[float, measure("Ah", 1, 1500)]
WattHours = Annotated[float, measure("Wh", 10, 20000)]
ChargerAmps = Annotated[float, measure("A", 0.05, 300)]
FuseAmps = Annotated[float, measure("A", 1, 400)]
SpareAmps = Annotated[float, measure("A", 0, 60)]
BatteryAmps = Annotated[float, measure("A", 0.5, 2000)]
PanelAmps = Annotated[float, measure("A", 0.01, 60)]
AlternatorAmps = Annotated[float, measure("A", 10, 400)]
OwnLoadAmps = Annotated[float, measure("A", 0, 200)]
SystemVolts = Annotated[float, measure("V", 12, 24)]
BatteryVolts = Annotated[float, measure("V", 2, 24)]
CellCount = Annotated[int, measure("cells", 1, 16)]
ChargeVolts = Annotated[float, measure("V at 12 V class", 9, 18)]
LabelVolts = Annotated[float, measure("V", 1, 150)]
InputVolts = Annotated[float, measure("V", 5, 600)]
VehicleVolts = Annotated[float, measure("V", 10, 32)]
CutoffVolts = Annotated[float, measure("V", 5, 30)]
RestedVolts = Annotated[float, measure("V", 1, 60)]
HeadroomVolts = Annotated[float, measure("V", 0, 10)]
PanelWatts = Annotated[float, measure("W", 1, 5000)]
DailyWattHours = Annotated[float, measure("Wh a day", 0.01, 20000)]
LoadWatts = Annotated[float, measure("W", 0.001, 5000)]
SmallWatts = Annotated[float, measure("W", 0, 1000)]
SurgeWatts = Annotated[float, measure("W", 0, 20000)]
IdleWatts = Annotated[float, measure("W", 0, 200)]
ConverterAmps = Annotated[float, measure("A", 1, 100)]
InverterWatts = Annotated[float, measure("W", 20, 6000)]
InputWatts = Annotated[float, measure("W", 1, 20000)]
HeaterWatts = Annotated[float, measure("W", 1, 500)]
Milliohms = Annotated[float, measure("mOhm", 0.02, 2000)]
LinkMilliohms = Annotated[float, measure("mOhm", 0, 500)]
EfficiencyPercent = Annotated[float, measure("%", 30, 100)]
DutyPercent = Annotated[float, measure("%", 1, 100)]
SharePercent = Annotated[float, measure("%", 0, 100)]
CoefficientPercent = Annotated[float, measure("% a kelvin", -2, 0)]
CounterFigure = Annotated[float, measure("Ah or Wh", 0, 1_000_000)]
MeasuredHours = Annotated[float, measure("h", 0.02, 2000)]
SpreadPercent = Annotated[float, measure("%", 0, 90)]
LevelPercent = Annotated[float, measure("%", 0, 100)]
TailPercent = Annotated[float, measure("% of capacity", 0.1, 20)]
MonthPercent = Annotated[float, measure("% a month", 0, 40)]
Clearness = Annotated[float, measure("of a clear day", 0.02, 1.3)]
Tilt = Annotated[float, measure("degrees from flat", 0, 90)]
Azimuth = Annotated[float, measure("degrees from north", 0, 360)]
Latitude = Annotated[float, measure("degrees north", -90, 90)]
Longitude = Annotated[float, measure("degrees east", -180, 180)]
Altitude = Annotated[float, measure("m", -430, 6000)]
CableMetres = Annotated[float, measure("m", 0.1, 60)]
RunMetres = Annotated[float, measure("m", 0.05, 60)]
PartMillimetres = Annotated[float, measure("mm", 5, 1500)]
BoxMillimetres = Annotated[float, measure("mm", 80, 2000)]
WallMillimetres = Annotated[float, measure("mm", 1, 60)]
PlaceMillimetres = Annotated[float, measure("mm", 0, 2000)]
HoleMillimetres = Annotated[float, measure("mm", 3, 150)]
FuseMillimetres = Annotated[float, measure("mm", 10, 3000)]
AmbientCelsius = Annotated[float, measure("C", -30, 80)]
CableArea = Annotated[float, measure("mm2", 0.5, 120)]
Celsius = Annotated[float, measure("C", -50, 60)]
FridgeCelsius = Annotated[float, measure("C", -30, 40)]
Kelvins = Annotated[float, measure("K", -20, 60)]
LagHours = Annotated[float, measure("h", 0.2, 200)]
AbsorptionHours = Annotated[float, measure("h", 0.1, 24)]
RefreshDays = Annotated[float, measure("days", 0, 90)]
StepMinutes = Annotated[int, measure("min", 1, 60)]
CycleMinutes = Annotated[float, measure("min", 2, 240)]
BurstMinutes = Annotated[float, measure("min", 0.05, 720)]
RunMinutes = Annotated[int, measure("min", 5, 1440)]
WaitMinutes = Annotated[float, measure("min", 0, 240)]
WakeSeconds = Annotated[float, measure("s", 0.01, 3600)]
TimesADay = Annotated[float, measure("a day", 0.01, 10000)]
Cycles = Annotated[float, measure("cycles", 10, 50000)]
Years = Annotated[float, measure("years", 0.5, 40)]
Kilograms = Annotated[float, measure("kg", 0.05, 500)]
DayIndex = Annotated[int, measure("days after the first", 0, LONGEST_TRIP_DAYS - 1)]
HowMany = Annotated[int, measure("batteries", 1, 16)]
PanelCount = Annotated[int, measure("panels", 1, 24)]
StringLength = Annotated[int, measure("panels in series", 1, 12)]
Aims = Annotated[int, measure("times a day", 1, 12)]

Settled = Annotated[float, measure("settled", 0.8, 12)]
DoubtPercent = Annotated[float, measure("%", 0, 50)]
SurePercent = Annotated[float, measure("%", 50, 99.5)]
Euro = Annotated[float, measure("euro", 0, 100_000)]
MoreKilograms = Annotated[float, measure("kg", 0, 1000)]
ScenarioCount = Annotated[int, measure("trips", 1, 2000)]
Seed = Annotated[int, measure("", 0, 999_999)]


def _readable(text: str) -> str:
    """Refuse characters that nobody can see or write: controls, halves of a pair."""
    odd = next((c for c in text if unicodedata.category(c) in {"Cc", "Cs"}), None)
    if odd is not None:
        raise PydanticCustomError(
            "unreadable",
            "It holds a character that cannot be read, {value}.",
            {
                "value": f"U+{ord(odd):04X}",
                "limit": "letters, figures, marks and spaces of any script",
                "remedy": "Type it anew.",
            },
        )
    return text


Readable = AfterValidator(_readable)
FIRST_YEAR, LAST_YEAR = 1971, 2199
"""Other years are slips, and with their offsets they pass the calendar's ends."""


def _of_our_time(day: date) -> date:
    if not FIRST_YEAR <= day.year <= LAST_YEAR:
        raise PydanticCustomError(
            "year",
            "{value} is not of our time. Enter a day from {first} to {last}.",
            {"value": str(day)[:25], "first": FIRST_YEAR, "last": LAST_YEAR},
        )
    return day


TripDate = Annotated[date, AfterValidator(_of_our_time)]
Moment = Annotated[datetime, AfterValidator(_of_our_time)]
AwareMoment = Annotated[AwareDatetime, AfterValidator(_of_our_time)]
Name = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80), Readable
]
Key = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_-]{1,40}$")]
"""An identifier that the document's own writer chooses, unique among its siblings."""
ClockTime = Annotated[
    str,
    Field(
        pattern=r"^(([01]\d|2[0-3]):[0-5]\d|24:00)$",
        json_schema_extra={"unit": "local time HH:MM"},
    ),
]


def clock_minutes(clock: str) -> int:
    """Minutes after midnight of an HH:MM that the model has already accepted."""
    hours, minutes = clock.split(":")
    return int(hours) * 60 + int(minutes)


def percent(value: float | None) -> float | None:
    """A share from a percentage, None left alone."""
    return None if value is None else value / 100
