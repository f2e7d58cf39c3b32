"""The box: battery bank, charge sources, how they are joined, inverter, housing."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from oddkettle.plan import quantities as q
from oddkettle.plan.quantities import Key, Name, Part
from oddkettle.plan.use import Hours


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


class ProfileModel(Part):
    """Voltages that one charger holds, when they are not the box's."""

    absorption_v: q.ChargeVolts
    float_v: q.ChargeVolts
    tail_percent: q.TailPercent | None = None
    """Absorption ends when the battery takes less than this."""
    absorption_hours: q.AbsorptionHours | None = None
    """Absorption ends after so long at the latest."""
    compensated: bool = False
    """It follows the battery's temperature."""
    equalises: bool = False
    """It has an equalising or desulphating stage that cannot be switched off."""


class BatteryModel(Part):
    """Equal batteries, joined in series and parallel."""

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


class PanelLabelModel(Part):
    """The electrical figures of a panel's label, at standard test conditions."""

    voc_v: q.LabelVolts
    vmp_v: q.LabelVolts
    isc_a: q.PanelAmps
    imp_a: q.PanelAmps
    voc_percent_per_k: q.CoefficientPercent = -0.29
    power_percent_per_k: q.CoefficientPercent = -0.35
    fuse_max_a: q.FuseAmps | None = None
    """Largest fuse allowed in its string, where the label says one."""


class PanelModel(Part):
    """One panel, or several that lie alike."""

    id: Key
    name: Name
    power_w: q.PanelWatts
    """Of one panel."""
    count: q.PanelCount = 1
    mount: Literal["flat", "tilted", "aimed"] = "flat"
    tilt_deg: q.Tilt = 35
    azimuth_deg: q.Azimuth = 180
    aims: q.Aims = 3
    """How often a day an aimed panel is turned to the sun."""
    portable: bool = False
    """A portable panel works only while it is put out, and never while driving."""
    own_regulator: bool = False
    """A regulator sits on its back and holds it near the battery's voltage."""
    on: bool = True
    """Whether it is there: one that is off stays in the plan and does nothing."""
    label: PanelLabelModel | None = None


class ControllerModel(Part):
    """A charge controller."""

    kind: Literal["tracking", "pwm", "none"] = "tracking"
    """None: the panel goes straight to the battery."""
    limit_a: q.ChargerAmps
    efficiency_percent: q.EfficiencyPercent = 96
    input_limit_w: q.InputWatts | None = None
    input_limit_v: q.InputVolts | None = None
    headroom_v: q.HeadroomVolts = 1
    """What a tracking one needs above the battery."""
    own_w: q.IdleWatts = 0
    """Drawn by itself, day and night."""


class ShadeModel(Part):
    """Daily hours in which something stands in the light."""

    hours: Hours
    loses_percent: q.SharePercent


class SunModel(Part):
    """Panels on one controller."""

    id: Key
    name: Name
    panels: list[PanelModel] = Field(min_length=1, max_length=12)
    controller: ControllerModel
    series: q.StringLength = 1
    """Panels in series in each string; the strings lie in parallel."""
    cable_m: q.CableMetres | None = None
    cable_mm2: q.CableArea = 4
    dirt_percent: q.SharePercent = 3
    """Light that dust on the panels takes."""
    shade: list[ShadeModel] = Field(default=[], max_length=6)
    noisy: bool = False
    profile: ProfileModel | None = None
    on: bool = True
    """Whether it is there: one that is off stays in the plan and does nothing."""


class AlternatorModel(Part):
    """What charges the vehicle's own battery."""

    rated_a: q.AlternatorAmps = 90
    idle_percent: q.SharePercent = 40
    """What it gives at idle, of its rating."""
    own_loads_a: q.OwnLoadAmps = 20
    """What the vehicle takes for itself."""
    volts: q.VehicleVolts = 14.2
    smart: bool = False
    """It lets its voltage fall once the starter battery is full."""
    smart_v: q.VehicleVolts = 12.5
    smart_after_min: q.WaitMinutes = 20


class FeedModel(Part):
    """The cable from the starter battery to the box."""

    length_m: q.CableMetres = 4
    area_mm2: q.CableArea = 10
    connectors_mohm: q.LinkMilliohms = 4


class VehicleModel(Part):
    """A DC-DC charger, a voltage-sensitive relay, or a charger behind a 12 V socket."""

    id: Key
    name: Name
    kind: Literal["dcdc", "relay", "socket"] = "dcdc"
    limit_a: q.ChargerAmps = 30
    """Largest output current; not for a relay."""
    efficiency_percent: q.EfficiencyPercent = 92
    half_current: bool = False
    ignition: bool = True
    """It has a trigger wire; otherwise it senses the voltage."""
    cut_in_v: q.VehicleVolts = 13.2
    cut_out_v: q.VehicleVolts = 11.5
    hot_from_c: q.Celsius = 45
    """Around it; above this it gives 3 % less a kelvin."""
    fuse_a: q.FuseAmps | None = None
    delay_min: q.WaitMinutes = 0
    """How long after each start the starter battery comes first."""
    forced: bool = False
    """A relay held closed by a switch lets current back into the vehicle."""
    alternator: AlternatorModel = AlternatorModel()
    feed: FeedModel = FeedModel()
    noisy: bool = False
    profile: ProfileModel | None = None
    on: bool = True
    """Whether it is there: one that is off stays in the plan and does nothing."""


class MainsModel(Part):
    """A mains charger; a trickle charger is one with a small limit and one voltage."""

    id: Key
    name: Name
    limit_a: q.ChargerAmps
    efficiency_percent: q.EfficiencyPercent = 88
    supply_w: q.InputWatts | None = None
    """What the hook-up's breaker leaves for it."""
    noisy: bool = False
    profile: ProfileModel | None = None
    on: bool = True
    """Whether it is there: one that is off stays in the plan and does nothing."""


class JoiningModel(Part):
    """How the sources share the battery."""

    kind: Literal["independent", "combined", "selector"] = "independent"
    limit_a: q.ChargerAmps = 25
    """Output limit of a combined charger."""
    members: list[Key] = Field(default=[], max_length=12)
    """Sources that are inputs of the combined charger."""
    rule: Literal["strongest", "in_order"] = "strongest"
    """Which source a selector lets in."""


class UnitModel(Part):
    """A ready-made all-in-one unit: its figures replace those of a battery one builds."""

    capacity_wh: q.WattHours
    usable_percent: q.EfficiencyPercent = 90
    input_w: q.InputWatts | None = None
    """Most that all its inputs take together."""
    dc_efficiency_percent: q.EfficiencyPercent = 92
    standby_w: q.IdleWatts = 5
    charge_in_use: bool = True
    """Whether its owner charges it while something runs from it."""


class InverterModel(Part):
    """Makes mains voltage from the bank."""

    rating_w: q.InverterWatts
    surge_w: q.SurgeWatts | None = None
    idle_w: q.IdleWatts
    """Drawn whenever it is on, with or without a load."""
    efficiency_percent: q.EfficiencyPercent = 90
    switched: Literal["with_loads", "always"] = "with_loads"


Source = SunModel | VehicleModel | MainsModel


class Box(Part):
    """Everything in and on the box."""

    system_v: q.SystemVolts = 12
    battery: BatteryModel
    second: SecondBankModel | None = None
    housing: HousingModel = HousingModel()
    heater: HeaterModel | None = None
    unit: UnitModel | None = None
    sun: list[SunModel] = Field(default=[], max_length=6)
    vehicle: list[VehicleModel] = Field(default=[], max_length=3)
    mains: list[MainsModel] = Field(default=[], max_length=3)
    joining: JoiningModel = JoiningModel()
    order: list[Key] = Field(default=[], max_length=12)
    """Sources in the order in which they are let in; those not named come after, as listed."""
    inverter: InverterModel | None = None

    @property
    def sources(self) -> list[Source]:
        """Every source, as listed: sun, vehicle, mains."""
        return [*self.sun, *self.vehicle, *self.mains]
