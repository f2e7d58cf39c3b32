"""The result document: what a run says, by day and in all, ready for JSON."""

from __future__ import annotations

import datetime
from typing import Literal

from pydantic import BaseModel, Field


class Amount(BaseModel):
    """The same flow in both units, measured at the bus."""

    ah: float
    wh: float


class SourceReport(BaseModel):
    """One charge source over a day or the trip."""

    key: str
    kind: Literal["sun", "vehicle", "mains"]
    name: str
    limit_a: float
    offered: Amount
    """What the source could have put in."""
    clipped: Amount
    """Held back by its charger's current limit."""
    spilled: Amount
    """Passed the charger, but the battery was full or could take no more."""
    taken: Amount


class DrawReport(BaseModel):
    """One appliance over a day or the trip."""

    key: str
    name: str
    used: Amount
    lost_wh: float
    """Share of `used` that its converter turned into heat."""
    unmet: Amount
    """What it asked for after the battery had cut out."""


class Losses(BaseModel):
    """Where energy went that did no work."""

    coulombic: Amount
    """Charge that went in and does not come back."""
    resistance_wh: float
    lag_wh: float
    """Voltage held back by the slow well of a lead battery; near nil for lithium."""
    chargers_wh: float
    """Heat in the chargers, before the bus."""
    converters_wh: float
    """Heat in USB converters and the inverter, part of what appliances used."""


class Period(BaseModel):
    """The books of a day or of the trip: taken = used + stored + lost in the battery."""

    sources: list[SourceReport]
    draws: list[DrawReport]
    taken: Amount
    used: Amount
    stored: Amount
    lost: Losses
    net: Amount
    """Taken less used: what the day added to the battery before its losses."""
    spilled_sun: Amount
    unmet: Amount


class DayReport(Period):
    """One day of the trip."""

    date: datetime.date
    first_step: int
    steps: int
    minutes: int
    """Length of the day: 1440 but for days on which the clocks change."""
    sunrise_min: float | None
    sunset_min: float | None
    sun_up_all_day: bool
    clearness: float
    start_percent: float
    end_percent: float
    lowest_percent: float
    lowest_at: str
    """Local time, ISO 8601 with offset."""
    below_floor_min: float


class Series(BaseModel):
    """The whole run, one value a step; `level_percent` has one more, at the end.

    Currents are at the bus and positive; net_a is positive into the bank.
    """

    first_utc: str
    step_min: int
    level_percent: list[float]
    volts: list[float]
    net_a: list[float]
    load_a: list[float]
    sun_a: list[float]
    vehicle_a: list[float]
    mains_a: list[float]
    hours_to_floor: list[float | None]
    """None where the floor is not reached before the end."""


class BankReport(BaseModel):
    """The bank as it was run."""

    chemistry: str
    name: str
    capacity_ah: float
    nominal_v: float
    nominal: Amount
    usable: Amount
    """Between full and the plan's floor."""
    charge_limit_a: float
    absorption_v: float
    float_v: float
    healthy_floor_percent: float


class UseDraw(BaseModel):
    """One appliance's average day."""

    key: str
    name: str
    a_day: Amount
    running_a: float
    lost_wh: float
    profile_a: list[float] = Field(description="average current by step from local midnight")


class UseReport(BaseModel):
    """The average day of all appliances."""

    a_day: Amount
    peak_a: float
    peak_min: int
    """Minutes after midnight at which the peak begins."""
    night_percent: float
    """Share of use while the sun is down on the first day."""
    guess_percent: float
    """Share of use that rests on guesses."""
    bus_v: float
    """Mean bus voltage of the run, by which watts became amps."""
    draws: list[UseDraw]


class MendReport(BaseModel):
    """An extra drive that would keep the plan above its floor."""

    day: int
    start: str
    end: str
    minutes: int
    lowest_percent: float
    says: str


class Said(BaseModel):
    """A sentence with its amounts in amp-hours, and the same in watt-hours."""

    ah: str
    wh: str


class Verdict(BaseModel):
    """The answer in words, and the numbers behind it."""

    lasts: bool
    headline: str
    detail: Said
    lowest_percent: float
    lowest_at: str
    lowest_day: int
    first_below_at: str | None
    below_floor_min: float
    mend: MendReport | None


class SourceLimit(BaseModel):
    """The number that holds one source back, in words."""

    key: str
    says: Said
    binds: bool
    """True when a larger charger would let more in."""


class Neck(BaseModel):
    """What holds the box back over the whole trip, in words."""

    headline: str
    detail: Said


class RunReport(BaseModel):
    """The result document of one run."""

    verdict: Verdict
    neck: Neck
    bank: BankReport
    use: UseReport
    limits: list[SourceLimit]
    total: Period
    days: list[DayReport]
    series: Series | None
