"""Where, when, under which skies, and what is done on which day."""

from __future__ import annotations

from datetime import date
from typing import Literal

from pydantic import Field

from oddkettle.core.trip.blocks import BlockKind
from oddkettle.plan.quantities import (
    LONGEST_TRIP_DAYS,
    Altitude,
    Celsius,
    ClockTime,
    DayIndex,
    Key,
    Latitude,
    LevelPercent,
    Longitude,
    Name,
    Part,
    TripDate,
)

DayKind = Literal["site", "drive", "rest"]
SkyKey = Literal["usual", "clear", "some_cloud", "mostly_cloudy", "overcast", "heavy"]


class SiteModel(Part):
    """The place whose sun and clock the trip uses."""

    name: Name
    latitude: Latitude
    longitude: Longitude
    altitude_m: Altitude = 0
    timezone: str = Field(max_length=60)


class Stop(Part):
    """Another place of the trip; its days keep the clock of the first one."""

    id: Key
    name: Name
    latitude: Latitude
    longitude: Longitude
    altitude_m: Altitude = 0


class Day(Part):
    """One day of the trip."""

    sky: SkyKey = "usual"
    said_on: date | None = None
    """When the sky was said or forecast; on the trip's first day when absent."""
    forecast: bool = False
    """The sky and the temperatures come from a forecast."""
    stop: Key | None = None
    """Which stop the day is spent at; the trip's own place when absent."""
    place: str = Field(default="", max_length=60)
    kind: DayKind = "site"
    """On site, driving or resting: appliances may have other hours on each."""
    low_c: Celsius | None = None
    """Lowest air temperature; the assumptions' when absent."""
    high_c: Celsius | None = None


class BlockModel(Part):
    """A stretch of local time in which something is done."""

    id: Key
    kind: BlockKind
    day: DayIndex
    start: ClockTime
    end_day: DayIndex | None = None
    """Day on which it ends; the same day when absent."""
    end: ClockTime
    idling: bool = False
    """A drive in which the engine runs at a standstill."""


class Trip(Part):
    """Days, and what happens in them."""

    kind: Literal["travel", "standby", "alone"] = "travel"
    """Standing by, the mains is there but for outages; left alone, nobody touches the box."""
    site: SiteModel
    stops: list[Stop] = Field(default=[], max_length=40)
    """Other places of the trip."""
    start: TripDate
    begins: ClockTime = "00:00"
    """When the box comes into use on the first day; nothing runs before."""
    ends: ClockTime = "24:00"
    """When it goes out of use on the last day."""
    days: list[Day] = Field(min_length=1, max_length=LONGEST_TRIP_DAYS)
    blocks: list[BlockModel] = Field(default=[], max_length=1200)
    start_percent: LevelPercent = 100
    """Battery level at the first midnight."""
    floor_percent: LevelPercent = 20
    """Level below which the plan counts as failed."""
