"""What the app offers to choose from: skies, chemistries, a shelf of typical appliances."""

from __future__ import annotations

from typing import Any

from oddkettle import __version__
from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.judgement.cautions import CAUTIONS
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.units.quantity import celsius
from oddkettle.core.values.copying import copied
from oddkettle.core.weather.climate import CLIMATES
from oddkettle.core.weather.sky_words import SKY_WORDS
from oddkettle.plan.quantities import LazyModel, Name
from oddkettle.plan.use import (
    ApplianceModel,
    BurstsPattern,
    FridgePattern,
    Hours,
    LoggerPattern,
    RadioPattern,
)
from oddkettle.plan.weather import BY_PLACE
from oddkettle.results.build import CautionText
from oddkettle.usecases.plans.part_templates import FRESH, Fresh


class ShelfItem(LazyModel):
    """A typical appliance to start from, with the range that such things really span."""

    label: Name
    low_w: float
    high_w: float
    note: str
    source: str
    """Where the range comes from."""
    appliance: ApplianceModel


class SkyChoice(LazyModel):
    """A word for a day's sky and its mean clearness."""

    key: str
    text: str
    clearness: float | None


class ChemistryChoice(LazyModel):
    """What a chemistry means for its owner."""

    key: str
    name: str
    nominal_v: float
    absorption_v: float
    float_v: float
    never_above_v: float
    charge_limit_c: float
    usable_percent: float
    lead: bool
    cold_limit_c: float
    """No charge below this."""
    cycles: float
    """At the usable depth, until 80 % is left."""
    years: float
    kg_per_kwh: float
    text: str
    """What it costs its owner, in words."""


class ClimateChoice(LazyModel):
    """The climate of the place itself, or that of a kind of place."""

    key: str
    text: str


class SourceKindChoice(LazyModel):
    """One kind of source: what it is called, and which block lets it work."""

    key: str
    name: str
    block: str | None
    knob: str | None
    """What more of it is called, where that is had by the minute."""


class Reference(LazyModel):
    """Everything the pages offer as choices, and which version offers it."""

    version: str
    skies: list[SkyChoice]
    chemistries: list[ChemistryChoice]
    sources: list[SourceKindChoice]
    climates: list[ClimateChoice]
    shelf: list[ShelfItem]
    cautions: list[CautionText]
    fresh: Fresh


LABELS = "labels of such things [judgement]"
METERED = "readings of such things in use, labels say more [judgement]"


def _item(
    label: str,
    watts: tuple[float, float, float],
    supply: str,
    hours: tuple[str, str],
    note: str,
    duty: float = 100,
    source: str = LABELS,
    **more: Any,
) -> ShelfItem:
    low, usual, high = watts
    return ShelfItem(
        label=label,
        low_w=low,
        high_w=high,
        note=note,
        source=source,
        appliance=ApplianceModel(
            id="new",
            name=label[0].upper() + label[1:],
            power_w=usual,
            supply=supply,  # type: ignore[arg-type]
            hours=[Hours(start=hours[0], end=hours[1])],
            duty_percent=duty,
            figure="guess",
            spread_percent=_spread(low, usual, high),
            **more,
        ),
    )


def _spread(low: float, usual: float, high: float) -> float:
    """Half the range is where eight of ten such things lie, as a share of the usual figure."""
    return min(round(25 * (high - low) / usual / 5) * 5, 90)


ALL_DAY = ("00:00", "24:00")
# Ranges are typical of what is sold and used [judgement]; a reading of one's own beats them.
SHELF: tuple[ShelfItem, ...] = (
    _item(
        "cool box",
        (30, 45, 70),
        "12v",
        ALL_DAY,
        f"compressor; at {celsius(25)} outside it runs half of the time",
        50,
        pattern=FridgePattern(),
    ),
    _item("fan", (2, 6, 25), "12v", ("21:00", "06:00"), "small vent to cabin fan"),
    _item("LED strip", (3, 8, 20), "12v", ("20:00", "23:00"), "a metre is 4 to 10 W"),
    _item("phone", (4, 8, 20), "usb", ("19:00", "21:00"), "a full charge is 10 to 20 Wh"),
    _item("tablet", (8, 12, 30), "usb", ("19:00", "22:00"), "a full charge is 25 to 40 Wh"),
    _item("laptop", (25, 55, 90), "usb", ("19:00", "21:00"), "busy; half of that when idle"),
    _item("camera", (6, 12, 30), "usb", ("13:00", "15:00"), "two packs a day"),
    _item("radio, listening", (2, 5, 15), "12v", ("18:00", "22:00"), "sending takes far more"),
    _item(
        "radio, sending",
        (30, 100, 250),
        "12v",
        ("18:00", "22:00"),
        "a fifth of the time on the air",
        pattern=RadioPattern(),
    ),
    _item(
        "water pump",
        (30, 45, 80),
        "12v",
        ("07:00", "22:00"),
        "a few minutes a day",
        pattern=BurstsPattern(),
    ),
    _item("heater pad", (20, 45, 80), "12v", ("22:00", "06:00"), "on a thermostat", 50),
    _item(
        "breathing machine",
        (12, 30, 60),
        "12v",
        ("22:30", "06:30"),
        "humidifier off; ask its supplier for a 12 V lead and a spare plan",
        medical=True,
        priority="must",
    ),
    _item(
        "12 V kettle",
        (120, 140, 200),
        "12v",
        ("07:00", "07:12"),
        "half a litre in 20 min",
        draw="resistance",
    ),
    _item("trail camera", (0.1, 0.3, 1), "12v", ALL_DAY, "waiting; more at night"),
    _item(
        "logger",
        (0.2, 0.9, 3),
        "12v",
        ALL_DAY,
        "asleep most of the time",
        pattern=LoggerPattern(),
    ),
    _item("television", (20, 40, 90), "12v", ("20:00", "23:00"), "12 V sets of 19 to 32 inches"),
    _item("satellite internet", (20, 50, 110), "12v", ("17:00", "23:00"), "dish and router"),
    _item("router", (4, 9, 20), "12v", ALL_DAY, "a mobile router; off when nobody is there"),
    _item(
        "diesel heater",
        (10, 20, 45),
        "12v",
        ("18:00", "08:00"),
        "fan and pump while it burns; each start takes 100 W and more for minutes",
        surge_w=120,
    ),
    _item("electric blanket", (25, 50, 100), "12v", ("22:00", "06:00"), "on a thermostat", 50),
    _item("drone batteries", (30, 60, 120), "inverter", ("13:00", "15:00"), "two packs a day"),
    _item(
        "tool batteries", (50, 90, 200), "inverter", ("12:00", "13:00"), "a pack is 40 to 100 Wh"
    ),
    _item(
        "e-bike", (80, 150, 300), "inverter", ("12:00", "16:00"), "a full charge is 400 to 700 Wh"
    ),
    _item(
        "air compressor",
        (120, 180, 360),
        "12v",
        ("10:00", "10:10"),
        "tyres or mattresses, ten minutes",
        surge_w=400,
    ),
    _item(
        "coffee machine",
        (800, 1200, 1600),
        "inverter",
        ("07:30", "07:36"),
        "two cups; heats three minutes for each",
        draw="resistance",
    ),
    _item(
        "mains kettle",
        (800, 1500, 2200),
        "inverter",
        ("07:30", "07:35"),
        "a litre in five minutes",
        draw="resistance",
    ),
    _item(
        "toaster",
        (600, 800, 1200),
        "inverter",
        ("07:30", "07:35"),
        "five minutes",
        draw="resistance",
    ),
    _item(
        "microwave oven", (900, 1200, 1600), "inverter", ("18:00", "18:08"), "its label says less"
    ),
    _item("induction plate", (800, 1500, 2000), "inverter", ("18:00", "18:25"), "one meal"),
    _item("rice cooker", (200, 350, 700), "inverter", ("18:00", "18:30"), "one pot"),
    _item("slow cooker", (70, 120, 250), "inverter", ("12:00", "18:00"), "six hours on low"),
    _item(
        "hairdryer",
        (600, 1200, 2000),
        "inverter",
        ("08:00", "08:06"),
        "six minutes",
        draw="resistance",
    ),
    _item(
        "washing machine",
        (150, 300, 600),
        "inverter",
        ("11:00", "12:00"),
        "a cold wash; a warm one takes 500 to 900 Wh",
    ),
    _item("mains gadget", (10, 60, 250), "inverter", ("19:00", "20:00"), "through the inverter"),
    _item("something else", (0.1, 10, 500), "12v", ("18:00", "22:00"), "read its label"),
)


def reference() -> Reference:
    """All choices."""
    usual = SkyChoice(key="usual", text="usual for the season", clearness=None)
    return Reference(
        version=__version__,
        skies=[usual]
        + [SkyChoice(key=w.key, text=w.text, clearness=w.mean) for w in SKY_WORDS.values()],
        chemistries=[
            copied(
                ChemistryChoice,
                c,
                usable_percent=100 * c.usable_share,
                cold_limit_c=c.cold.barred_below_c,
                cycles=c.life.cycles_at_full * c.usable_share**-c.life.exponent,
                years=c.life.calendar_years,
                kg_per_kwh=1000 * c.kg_per_ah / c.nominal_v,
                text=c.words,
            )
            for c in CHEMISTRIES.values()
        ],
        sources=[
            SourceKindChoice(
                key=kind.key,
                name=kind.name,
                block=kind.block,
                knob=kind.knob.noun if kind.knob else None,
            )
            for kind in SOURCE_KINDS.values()
        ],
        climates=[
            ClimateChoice(key=BY_PLACE, text="of this place, by the table of the world"),
            *(ClimateChoice(key=c.key, text=c.text) for c in CLIMATES.values()),
        ],
        shelf=list(SHELF),
        cautions=[CautionText(**{**vars(c), "about": list(c.about)}) for c in CAUTIONS],
        fresh=FRESH,
    )
