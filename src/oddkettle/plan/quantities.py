"""Numbers with a unit and bounds; both reach the JSON Schema, the API and the entry fields."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, StringConstraints


class Part(BaseModel):
    """Base of every piece of the document: immutable, and unknown fields are refused."""

    model_config = ConfigDict(
        frozen=True, extra="forbid", allow_inf_nan=False, use_attribute_docstrings=True
    )


def measure(unit: str, at_least: float, at_most: float) -> Any:
    """Field constraints for a number in `unit` between the two bounds."""
    return Field(ge=at_least, le=at_most, json_schema_extra={"unit": unit})


AmpHours = Annotated[float, measure("Ah", 1, 1500)]
ChargerAmps = Annotated[float, measure("A", 0.5, 300)]
SystemVolts = Annotated[float, measure("V", 12, 24)]
BatteryVolts = Annotated[float, measure("V", 6, 24)]
ChargeVolts = Annotated[float, measure("V at 12 V class", 12.5, 16)]
PanelWatts = Annotated[float, measure("W", 1, 5000)]
LoadWatts = Annotated[float, measure("W", 0.001, 5000)]
IdleWatts = Annotated[float, measure("W", 0, 200)]
InverterWatts = Annotated[float, measure("W", 20, 6000)]
EfficiencyPercent = Annotated[float, measure("%", 30, 100)]
DutyPercent = Annotated[float, measure("%", 1, 100)]
LevelPercent = Annotated[float, measure("%", 0, 100)]
Clearness = Annotated[float, measure("of a clear day", 0.02, 1.3)]
Tilt = Annotated[float, measure("degrees from flat", 0, 90)]
Azimuth = Annotated[float, measure("degrees from north", 0, 360)]
Latitude = Annotated[float, measure("degrees north", -90, 90)]
Longitude = Annotated[float, measure("degrees east", -180, 180)]
Altitude = Annotated[float, measure("m", -430, 6000)]
Celsius = Annotated[float, measure("C", -50, 60)]
StepMinutes = Annotated[int, measure("min", 1, 60)]
DayIndex = Annotated[int, measure("days after the first", 0, 60)]
HowMany = Annotated[int, measure("batteries", 1, 16)]

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
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
