"""The box: battery bank, charge sources, how they are joined, inverter, housing."""

from __future__ import annotations

from datetime import date
from typing import Literal

from pydantic import ConfigDict, Field

from oddkettle.plan import quantities as q
from oddkettle.plan.quantities import Key, Name, Part
from oddkettle.plan.sources.crank import CrankModel
from oddkettle.plan.sources.generator import GeneratorModel
from oddkettle.plan.sources.mains import MainsModel
from oddkettle.plan.sources.sun import SunModel
from oddkettle.plan.sources.vehicle import VehicleModel


class RestedPoint(Part):
    """One point of a battery's own rested curve."""

    percent: q.LevelPercent
    volts: q.RestedVolts


class DatasheetModel(Part):
    """The maker's figures for one battery, in place of the generic ones; leave out the rest."""

    internal_mohm: q.Milliohms | None = None
    """At half charge and 25 C."""
    charge_limit_a: q.BatteryAmps | None = None
    discharge_limit_a: q.BatteryAmps | None = None
    coulombic_percent: q.EfficiencyPercent | None = None
    self_discharge_percent: q.MonthPercent | None = None
    cutoff_v: q.CutoffVolts | None = None
    no_charge_below_c: q.Celsius | None = None
    cycles: q.Cycles | None = None
    """To 80 % of capacity, at 80 % depth of discharge."""
    years: q.Years | None = None
    weight_kg: q.Kilograms | None = None
    rested_v: list[RestedPoint] | None = Field(default=None, min_length=2, max_length=101)


OF_CHEMISTRY = ("absorption_v", "float_v", "cells", "datasheet")
"""Fields of a battery that belong to its chemistry: another one brings its own."""


class BatteryModel(Part):
    """Equal batteries, joined in series and parallel."""

    model_config = ConfigDict(json_schema_extra={"x-of-chemistry": list(OF_CHEMISTRY)})

    chemistry: str = Field(max_length=40)
    capacity_ah: q.AmpHours
    """Rated capacity of one battery, from its label."""
    battery_v: q.BatteryVolts = 12
    cells: q.CellCount | None = None
    """Cells in series in one battery, for packs that do not come as 6, 12 or 24 V."""
    series: q.HowMany = 1
    parallel: q.HowMany = 1
    absorption_v: q.ChargeVolts | None = None
    """Absorption setting of the chargers; the chemistry's own when absent."""
    float_v: q.ChargeVolts | None = None
    """Float setting of the chargers; the chemistry's own when absent."""
    tail_percent: q.TailPercent | None = None
    absorption_hours: q.AbsorptionHours | None = None
    compensated: bool = False
    """Chargers follow the battery's temperature."""
    alike: bool = True
    """All of one type, size and age."""
    age: Literal["new", "years", "old", "unknown", "measured"] | None = None
    """What that leaves of its label: "years" for some, "unknown" like one that is absent.
    "measured": the capacity is no label but what a test or the readings found."""
    datasheet: DatasheetModel | None = None


class SecondBankModel(Part):
    """Another bank that joins in parallel: a trailer's, a spare."""

    battery: BatteryModel
    start_percent: q.LevelPercent = 100
    always: bool = False
    """On the bus all the time; otherwise only in its blocks."""
    link_mohm: q.LinkMilliohms = 10
    """Resistance of the lead between the two banks."""
    on: bool = True
    """Whether it is there: one that is off stays in the plan and does nothing."""


class HousingModel(Part):
    """What stands around the battery."""

    lag_h: q.LagHours = 4
    """How slowly it follows the air: about 4 h bare, 12 h boxed and insulated."""
    warmer_k: q.Kelvins = 0
    """How much warmer its place is than the air outside."""
    place: Literal["aired", "living", "engine"] = "aired"
    """In a locker or box that is aired to the outside, where people live or sleep, or beside
    an engine."""
    metal: bool = False
    """Its walls conduct."""
    posts_covered: bool = True
    """Caps or boots on the terminals."""


class HeaterModel(Part):
    """Pads under the battery on the box's own energy, with a thermostat."""

    on: bool = True
    power_w: q.HeaterWatts = 20
    on_below_c: q.Celsius = 4
    off_above_c: q.Celsius = 8


class JoiningModel(Part):
    """How the sources share the battery."""

    kind: Literal["independent", "combined", "selector"] = "independent"
    limit_a: q.ChargerAmps = 25
    """Output limit of a combined charger."""
    members: list[Key] = Field(default=[], max_length=12)
    """Sources that are inputs of the combined charger."""
    rule: Literal["strongest", "in_order"] = "strongest"
    """Which source a selector lets in."""


class UnitInputModel(Part):
    """One of a unit's inputs, with what is plugged into it."""

    name: Name
    members: list[Key] = Field(default=[], max_length=6)
    """Sources that go into it; of several the stronger one is plugged in."""
    limit_w: q.InputWatts | None = None
    """Most that it takes."""
    limit_v: q.InputVolts | None = None
    """Highest voltage that it bears, from its label."""


class UnitModel(Part):
    """A ready-made all-in-one unit: its figures replace those of a battery one builds."""

    capacity_wh: q.WattHours
    """Of its label: what its cells hold, and what must go in again."""
    usable_percent: q.EfficiencyPercent = 90
    """Of that, what comes out of it before its outlets."""
    input_w: q.InputWatts | None = None
    """Most that all its inputs take together."""
    inputs: list[UnitInputModel] = Field(default=[], max_length=6)
    """Inputs with a limit of their own; a source that is in none has no limit but the whole."""
    dc_output_w: q.InputWatts | None = None
    """Most that its 12 V and USB outlets give together."""
    dc_efficiency_percent: q.EfficiencyPercent = 92
    standby_w: q.IdleWatts = 5
    off_unused: bool = False
    """Its owner switches its outputs off while nothing runs from them."""
    charge_in_use: bool = True
    """Whether its owner charges it while something runs from it."""


class InverterModel(Part):
    """Makes mains voltage from the bank."""

    rating_w: q.InverterWatts
    surge_w: q.SurgeWatts | None = None
    idle_w: q.IdleWatts
    """Drawn from the battery whenever it is on: what a meter in its lead shows without a load."""
    efficiency_percent: q.EfficiencyPercent = 90
    switched: Literal["with_loads", "always"] = "with_loads"
    socket_fuse_a: q.FuseAmps | None = None
    """Fuse of the 12 V socket that it is plugged into; wired to the bar when absent."""


class ConverterModel(Part):
    """Steps a box of 24 V down for what is made for 12 V."""

    limit_a: q.ConverterAmps = 20
    """Most that it gives at 12 V for hours."""
    efficiency_percent: q.EfficiencyPercent = 92
    idle_w: q.IdleWatts = 0.6
    """Drawn day and night."""


SourceModel = SunModel | VehicleModel | MainsModel | GeneratorModel | CrankModel
SOURCE_MODELS = (SunModel, VehicleModel, MainsModel, GeneratorModel, CrankModel)
SOURCE_GROUPS: tuple[str, ...] = tuple(kind.group for kind in SOURCE_MODELS)
"""The fields of a box that list sources, in the order in which they are let in."""


class CapacityReading(Part):
    """What a capacity test found of the battery, and when."""

    # Built at once: it is the body of a call.
    model_config = ConfigDict(defer_build=False)

    on: date
    capacity_ah: q.AmpHours
    how: str = Field(default="", max_length=80)


class Box(Part):
    """Everything in and on the box. It outlives the trip on which this state of it is used."""

    key: Key | None = None
    """Tells this box from others, in every trip and file; given when it is first kept."""
    name: Name | None = None
    """What its owner calls it."""
    readings: list[CapacityReading] = Field(default=[], max_length=200)
    """Capacity tests over its life."""

    system_v: q.SystemVolts = 12
    battery: BatteryModel
    second: SecondBankModel | None = None
    housing: HousingModel = HousingModel()
    heater: HeaterModel | None = None
    unit: UnitModel | None = None
    sun: list[SunModel] = Field(default=[], max_length=6)
    vehicle: list[VehicleModel] = Field(default=[], max_length=3)
    mains: list[MainsModel] = Field(default=[], max_length=3)
    generator: list[GeneratorModel] = Field(default=[], max_length=2)
    crank: list[CrankModel] = Field(default=[], max_length=2)
    joining: JoiningModel = JoiningModel()
    order: list[Key] = Field(default=[], max_length=12)
    """Sources in the order in which they are let in; those not named come after, as listed."""
    inverter: InverterModel | None = None
    converter: ConverterModel | None = None
    """Does nothing in a box of 12 V."""

    @property
    def sources(self) -> list[SourceModel]:
        """Every source, as listed, kind by kind."""
        return [source for group in SOURCE_GROUPS for source in getattr(self, group)]
