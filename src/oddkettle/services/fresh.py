"""New parts as the pages add them: the document's own defaults, in one place."""

from __future__ import annotations

import datetime

from oddkettle.plan import Plan
from oddkettle.plan.box import (
    BatteryModel,
    Box,
    ControllerModel,
    DatasheetModel,
    FeedModel,
    HeaterModel,
    InverterModel,
    MainsModel,
    PanelLabelModel,
    PanelModel,
    ProfileModel,
    SecondBankModel,
    ShadeModel,
    SunModel,
    UnitModel,
    VehicleModel,
)
from oddkettle.plan.document import Assumptions
from oddkettle.plan.lazy import LazyModel
from oddkettle.plan.trip import Day, SiteModel, Trip
from oddkettle.plan.use import (
    ApplianceModel,
    BurstsPattern,
    FridgePattern,
    Hours,
    LoggerPattern,
    RadioPattern,
    Use,
)


class FreshPatterns(LazyModel):
    """How an appliance may run, to begin with."""

    fridge: FridgePattern = FridgePattern()
    radio: RadioPattern = RadioPattern()
    bursts: BurstsPattern = BurstsPattern()
    logger: LoggerPattern = LoggerPattern()


class Fresh(LazyModel):
    """A new one of every part. Ids are to be replaced by one that no sibling has."""

    sun: SunModel
    panel: PanelModel
    label: PanelLabelModel
    shade: ShadeModel
    dcdc: VehicleModel
    relay: VehicleModel
    socket: VehicleModel
    trailer: VehicleModel
    mains: MainsModel
    trickle: MainsModel
    inverter: InverterModel
    heater: HeaterModel
    second: SecondBankModel
    unit: UnitModel
    datasheet: DatasheetModel
    profile: ProfileModel
    patterns: FreshPatterns
    plan: Plan
    """A plain box on three days, for whoever has none yet."""


PANEL = PanelModel(id="new", name="Panel", power_w=100)
FRESH = Fresh(
    sun=SunModel(
        id="new", name="Solar panel", panels=[PANEL], controller=ControllerModel(limit_a=10)
    ),
    panel=PANEL,
    # Typical of a 100 W panel for 12 V boxes [textbook].
    label=PanelLabelModel(voc_v=21.6, vmp_v=18.0, isc_a=5.9, imp_a=5.56),
    shade=ShadeModel(hours=Hours(start="08:00", end="10:00"), loses_percent=50),
    dcdc=VehicleModel(id="new", name="DC-DC charger"),
    relay=VehicleModel(id="new", name="Relay", kind="relay", fuse_a=60),
    socket=VehicleModel(
        id="new",
        name="Vehicle socket",
        kind="socket",
        limit_a=8,
        efficiency_percent=90,
        fuse_a=10,
        feed=FeedModel(length_m=3, area_mm2=1.5, connectors_mohm=15),
        cut_out_v=11,
    ),
    trailer=VehicleModel(
        id="new",
        name="Charger on the trailer lead",
        limit_a=20,
        cut_out_v=10.5,
        feed=FeedModel(length_m=12, area_mm2=4, connectors_mohm=12),
    ),
    mains=MainsModel(id="new", name="Mains charger", limit_a=10),
    trickle=MainsModel(
        id="new",
        name="Trickle charger",
        limit_a=1,
        efficiency_percent=80,
        profile=ProfileModel(absorption_v=13.7, float_v=13.7),
    ),
    inverter=InverterModel(rating_w=300, idle_w=6),
    heater=HeaterModel(),
    second=SecondBankModel(battery=BatteryModel(chemistry="agm", capacity_ah=100)),
    unit=UnitModel(capacity_wh=1000),
    datasheet=DatasheetModel(),
    profile=ProfileModel(absorption_v=14.2, float_v=13.5),
    patterns=FreshPatterns(),
    plan=Plan(
        name="My box",
        use=Use(
            appliances=[
                ApplianceModel(
                    id="light", name="Light", power_w=8, hours=[Hours(start="20:00", end="23:00")]
                )
            ]
        ),
        box=Box(battery=BatteryModel(chemistry="lifepo4", capacity_ah=100)),
        trip=Trip(
            site=SiteModel(name="Somewhere", latitude=50, longitude=0, timezone="UTC"),
            start=datetime.date(2026, 6, 1),
            days=[Day(), Day(), Day()],
            floor_percent=20,
        ),
        assumptions=Assumptions(climate="temperate_maritime"),
    ),
)
