"""The box: battery bank, charge sources, inverter."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from oddkettle.plan.quantities import (
    AmpHours,
    Azimuth,
    BatteryVolts,
    ChargerAmps,
    ChargeVolts,
    EfficiencyPercent,
    HowMany,
    IdleWatts,
    InverterWatts,
    Key,
    Name,
    PanelWatts,
    Part,
    SystemVolts,
    Tilt,
)


class BatteryModel(Part):
    """Equal batteries, joined in series and parallel."""

    chemistry: str = Field(max_length=40)
    capacity_ah: AmpHours
    """Rated capacity of one battery, from its label."""
    battery_v: BatteryVolts = 12
    series: HowMany = 1
    parallel: HowMany = 1
    absorption_v: ChargeVolts | None = None
    """Absorption setting of the chargers; the chemistry's own when absent."""
    float_v: ChargeVolts | None = None
    """Float setting of the chargers; the chemistry's own when absent."""


class PanelModel(Part):
    """One panel, or several that lie alike."""

    id: Key
    name: Name
    power_w: PanelWatts
    mount: Literal["flat", "tilted"] = "flat"
    tilt_deg: Tilt = 35
    azimuth_deg: Azimuth = 180
    portable: bool = False
    """A portable panel works only while it is put out, and never while driving."""


class ControllerModel(Part):
    """A tracking charge controller."""

    limit_a: ChargerAmps
    efficiency_percent: EfficiencyPercent = 96


class SunModel(Part):
    """Panels on one controller."""

    id: Key
    name: Name
    panels: list[PanelModel] = Field(min_length=1, max_length=12)
    controller: ControllerModel


class ChargerModel(Part):
    """A DC-DC or mains charger."""

    limit_a: ChargerAmps
    efficiency_percent: EfficiencyPercent = 90


class InverterModel(Part):
    """Makes mains voltage from the bank."""

    rating_w: InverterWatts
    idle_w: IdleWatts
    """Drawn whenever it is on, with or without a load."""
    efficiency_percent: EfficiencyPercent = 90
    switched: Literal["with_loads", "always"] = "with_loads"


class Box(Part):
    """Everything in and on the box."""

    system_v: SystemVolts = 12
    battery: BatteryModel
    sun: list[SunModel] = Field(default=[], max_length=6)
    dcdc: ChargerModel | None = None
    mains: ChargerModel | None = None
    inverter: InverterModel | None = None
