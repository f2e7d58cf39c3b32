"""New parts as the pages add them: the document's own defaults, in one place."""

from __future__ import annotations

import datetime
from typing import get_args

from oddkettle.plan import Plan
from oddkettle.plan.box import (
    SOURCE_MODELS,
    BatteryModel,
    Box,
    ConverterModel,
    DatasheetModel,
    HeaterModel,
    InverterModel,
    SecondBankModel,
    SourceModel,
    UnitModel,
)
from oddkettle.plan.document import Assumptions
from oddkettle.plan.quantities import LazyModel
from oddkettle.plan.sources.profile import ProfileModel
from oddkettle.plan.sources.sun import (
    PanelLabelModel,
    PanelModel,
    ShadeModel,
)
from oddkettle.plan.trip import Day, SiteModel, Trip
from oddkettle.plan.use import ApplianceModel, Hours, Pattern, Use

PATTERNS: dict[str, Pattern] = {kind().type: kind() for kind in get_args(Pattern)}
"""A new one of every way to run, by its type."""


class FreshSource(LazyModel):
    """A source as the menu adds it: where it stands in the box, and what it is called there."""

    group: str
    text: str
    part: SourceModel
    needs: str | None
    """The group of which the box must have one for it, where it must."""


def _fresh_sources() -> list[FreshSource]:
    return [
        FreshSource(group=kind.group, text=text, part=part, needs=getattr(kind, "needs", None))
        for kind in SOURCE_MODELS
        for text, part in kind.fresh()
    ]


class Fresh(LazyModel):
    """A new one of every part. Ids are to be replaced by one that no sibling has."""

    sources: list[FreshSource]
    """Every source that can be added, in the order of the menu."""
    panel: PanelModel
    label: PanelLabelModel
    shade: ShadeModel
    inverter: InverterModel
    converter: ConverterModel
    heater: HeaterModel
    second: SecondBankModel
    unit: UnitModel
    datasheet: DatasheetModel
    profile: ProfileModel
    patterns: dict[str, Pattern]
    plan: Plan
    """A plain box on three days, for whoever has none yet."""


PANEL = PanelModel(id="new", name="Panel", power_w=100)
FRESH = Fresh(
    sources=_fresh_sources(),
    panel=PANEL,
    # Typical of a 100 W panel for 12 V boxes [textbook].
    label=PanelLabelModel(voc_v=21.6, vmp_v=18.0, isc_a=5.9, imp_a=5.56),
    shade=ShadeModel(hours=Hours(start="08:00", end="10:00"), loses_percent=50),
    inverter=InverterModel(rating_w=300, idle_w=6),
    converter=ConverterModel(),
    heater=HeaterModel(),
    second=SecondBankModel(battery=BatteryModel(chemistry="agm", capacity_ah=100)),
    unit=UnitModel(capacity_wh=1000),
    datasheet=DatasheetModel(),
    profile=ProfileModel(absorption_v=14.2, float_v=13.5),
    patterns=PATTERNS,
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
        assumptions=Assumptions(climate="place"),
    ),
)
