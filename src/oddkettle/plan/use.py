"""What runs, when, and how it is powered."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from oddkettle.plan.quantities import ClockTime, DutyPercent, Key, LoadWatts, Name, Part


class Hours(Part):
    """Daily hours on the local clock. They may pass midnight; equal ends mean all day."""

    start: ClockTime
    end: ClockTime


class ApplianceModel(Part):
    """One appliance."""

    id: Key
    name: Name
    power_w: LoadWatts
    """Power while it runs, at its own plug."""
    supply: Literal["12v", "usb", "inverter"] = "12v"
    hours: list[Hours] = Field(min_length=1, max_length=12)
    duty_percent: DutyPercent = 100
    """Share of its hours in which it really runs; a compressor's cycles, for one."""
    figure: Literal["measured", "guess"] = "guess"


class Use(Part):
    """All appliances, in the order in which they are listed."""

    appliances: list[ApplianceModel] = Field(default=[], max_length=60)
