"""What can be ticked in the sentence: kinds of box, of source, and things that run."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.loads.fridge import FRIDGE_WORDS
from oddkettle.core.values.copying import copied
from oddkettle.plan.quantities import LazyModel
from oddkettle.plan.use import ApplianceModel
from oddkettle.usecases.onboarding.chargers import CHARGERS
from oddkettle.usecases.plans.plan_words import spoken
from oddkettle.usecases.plans.reference import SHELF


@dataclass(frozen=True)
class ThingKind:
    """One thing to tick: its shelf item, how it is said of one and of many, and typed words."""

    key: str
    shelf: str
    one: str
    many: str
    typed: tuple[str, ...]
    by_dark: bool = False
    name: str | None = None
    """What it is called in the plan, where that is not its shelf name."""
    """It runs from dusk on."""

    @property
    def appliance(self) -> ApplianceModel:
        """As the shelf has it."""
        return next(item.appliance for item in SHELF if item.label == self.shelf)


THINGS: dict[str, ThingKind] = {
    kind.key: kind
    for kind in (
        ThingKind("coolbox", "cool box", "a cool box", "cool boxes",
                  (*FRIDGE_WORDS, "cool boxes", "coolboxes", "fridges", "freezers", "coolers",
                   "electric cooler", "compressor fridge", "compressor cooler", "cooling box",
                   "fridge freezer", "fridge/freezer", "frige", "frigde", "refridgerator",
                   "esky", "ice box")),
        ThingKind("lights", "LED strip", "lights", "lights",
                  ("lights", "light", "lamps", "lamp", "led", "leds", "led lights", "led strip",
                   "string lights", "lantern", "lighting", "headlamp", "torch",
                   "flashlight", "headlight", "bulbs", "bulb"),
                  by_dark=True, name="Lights"),
        ThingKind("phone", "phone", "a phone", "phones",
                  ("phones", "phone", "mobile", "mobiles", "cell phone", "cell phones", "cellphone",
                   "mobile phone", "mobile phones", "smartphone", "smartphones", "phone charger",
                   "phone charging", "usb charging", "usb devices")),
        ThingKind("tablet", "tablet", "a tablet", "tablets", ("tablets", "tablet", "e-reader")),
        ThingKind("laptop", "laptop", "a laptop", "laptops",
                  ("laptops", "laptop", "computer", "computers", "notebook", "laptop charger",
                   "pc")),
        ThingKind("camera", "camera", "camera batteries", "cameras",
                  ("cameras", "camera", "camera batteries", "camera battery")),
        ThingKind("drone", "drone batteries", "drone batteries", "drones",
                  ("drones", "drone", "drone batteries", "drone battery")),
        ThingKind("fan", "fan", "a fan", "fans",
                  ("fans", "fan", "roof fan", "vent fan", "roof vent", "ventilator")),
        ThingKind("breathing", "breathing machine", "a breathing machine", "breathing machines",
                  ("breathing machine", "breathing", "cpap", "apap", "bipap", "cpap machine",
                   "sleep apnea machine")),
        ThingKind("radio", "radio, sending", "a radio that sends", "radios that send",
                  ("transmitter", "transceiver", "radio", "rig", "ham", "ham radio", "hf radio",
                   "vhf")),
        ThingKind("pump", "water pump", "a water pump", "water pumps",
                  ("water pump", "pump", "tap", "shower pump", "water pumps")),
        ThingKind("tv", "television", "a television", "televisions",
                  ("tv", "television", "telly", "tv set", "tvs", "televisions")),
        ThingKind("internet", "satellite internet", "satellite internet", "satellite dishes",
                  ("satellite internet", "satellite dish", "sat dish", "dish internet",
                   "satellite antenna")),
        ThingKind("router", "router", "a router", "routers",
                  ("router", "routers", "wifi", "wi-fi", "wifi router", "modem", "hotspot")),
        ThingKind("heater", "diesel heater", "a diesel heater", "diesel heaters",
                  ("diesel heater", "heater diesel", "parking heater", "air heater",
                   "heater fan", "gas heater")),
        ThingKind("blanket", "electric blanket", "an electric blanket", "electric blankets",
                  ("electric blanket", "blanket", "heated blanket", "electric blankets",
                   "heating blanket")),
        ThingKind("coffee", "coffee machine", "a coffee machine", "coffee machines",
                  ("coffee machine", "coffee maker", "espresso machine", "coffee", "coffeemaker")),
        ThingKind("kettle", "12 V kettle", "a 12 V kettle", "12 V kettles",
                  ("12v kettle", "12 v kettle", "car kettle")),
        ThingKind("mainskettle", "mains kettle", "a mains kettle", "mains kettles",
                  ("kettle", "mains kettle", "electric kettle", "water boiler")),
        ThingKind("toaster", "toaster", "a toaster", "toasters", ("toaster", "toasters")),
        ThingKind("microwave", "microwave oven", "a microwave oven", "microwave ovens",
                  ("microwave", "microwave oven")),
        ThingKind("induction", "induction plate", "an induction plate", "induction plates",
                  ("induction", "induction plate", "induction hob", "induction cooker", "hob",
                   "hot plate", "hotplate", "cooktop")),
        ThingKind("ricecooker", "rice cooker", "a rice cooker", "rice cookers", ("rice cooker",)),
        ThingKind("slowcooker", "slow cooker", "a slow cooker", "slow cookers",
                  ("slow cooker", "crock pot", "crockpot")),
        ThingKind("hairdryer", "hairdryer", "a hairdryer", "hairdryers",
                  ("hairdryer", "hair dryer", "blow dryer", "hairdrier")),
        ThingKind("washer", "washing machine", "a washing machine", "washing machines",
                  ("washing machine", "washer")),
        ThingKind("compressor", "air compressor", "an air compressor", "air compressors",
                  ("air compressor", "compressor", "air pump", "tyre pump", "tire pump",
                   "inflator")),
        ThingKind("tools", "tool batteries", "tool batteries", "sets of tool batteries",
                  ("tool batteries", "power tools", "tools", "power tools batteries", "drill",
                   "tool battery", "power tool batteries")),
        ThingKind("ebike", "e-bike", "an e-bike", "e-bikes",
                  ("e-bike", "ebike", "e-bikes", "ebikes", "e-bike battery", "ebike battery",
                   "electric bike", "e bike", "pedelec")),
        ThingKind("pad", "heater pad", "a heated pad", "heated pads",
                  ("heated pad", "heater pad", "heating pad")),
        ThingKind("logger", "logger", "a logger", "loggers",
                  ("logger", "sensor", "loggers", "sensors", "data logger", "weather station")),
        ThingKind("trailcam", "trail camera", "a trail camera", "trail cameras",
                  ("trail camera", "trailcam", "wildlife camera", "game camera", "camera trap",
                   "trail cam", "trail cams",
                   "trail cameras", "camera traps")),
        ThingKind("mains_thing", "mains gadget", "something on mains voltage",
                  "things on mains voltage", ("mains gadget",)),
        ThingKind("other", "something else", "something else", "other things",
                  ("something else", "other")),
    )
}  # fmt: skip
"""By key, in the order in which they are offered."""

COUNTABLE = (
    *("phone", "tablet", "laptop", "camera", "drone", "fan", "coolbox", "pump", "trailcam"),
    *("logger", "tv", "ebike", "blanket"),
)
UNIT = "unit"


class ThingChoice(LazyModel):
    """A thing as the sheet offers it."""

    key: str
    text: str
    many: str
    power_w: float
    start: str
    end: str
    countable: bool
    note: str


class BankChoice(LazyModel):
    """A kind of box as the sheet offers it."""

    key: str
    text: str
    unit: str
    sizes: list[float]
    floor_percent: float
    note: str


class ChargerChoice(LazyModel):
    """A way to charge as the sheet offers it."""

    key: str
    text: str
    unit: str
    sizes: list[float]
    usual: float
    timed: str | None
    """What is done on every so many days; None for what needs nothing done."""
    often: str
    """How that is said, before "every"."""
    by_minutes: bool
    """Whether it is told how long it is done."""
    source: str
    """The kind of source, for its colour and pattern."""


class Choices(LazyModel):
    """Everything that the sentence's sheets offer."""

    banks: list[BankChoice]
    chargers: list[ChargerChoice]
    things: list[ThingChoice]


LITHIUM_AH = (20, 50, 100, 120, 200, 280)
LEAD_AH = (7, 9, 20, 40, 80, 100, 120, 200)
UNIT_WH = (300, 500, 700, 1000, 1500, 2000)
LITHIUM_FLOOR, LEAD_FLOOR, UNIT_FLOOR = 20.0, 50.0, 10.0
"""Half a lead battery is left for its life; the rest is for nights that go wrong [judgement]."""


def choices() -> Choices:
    """All of them."""
    banks = [
        BankChoice(
            key=c.key,
            text=spoken(c.key),
            unit="Ah",
            sizes=list(LEAD_AH if c.lead else LITHIUM_AH),
            floor_percent=floor_of(c.key),
            note=c.words,
        )
        for c in CHEMISTRIES.values()
    ]
    unit = BankChoice(
        key=UNIT,
        text="ready-made unit",
        unit="Wh",
        sizes=list(UNIT_WH),
        floor_percent=UNIT_FLOOR,
        note="Everything in one case; its label says Wh.",
    )
    return Choices(
        banks=[*banks, unit],
        chargers=[
            copied(
                ChargerChoice,
                kind,
                sizes=list(kind.sizes),
                timed=kind.block,
                by_minutes=kind.block is not None and kind.lasts is None,
            )
            for kind in CHARGERS.values()
        ],
        things=[_choice(kind) for kind in THINGS.values()],
    )


def _choice(kind: ThingKind) -> ThingChoice:
    appliance = kind.appliance
    item = next(item for item in SHELF if item.label == kind.shelf)
    return ThingChoice(
        key=kind.key,
        text=kind.one,
        many=kind.many,
        power_w=appliance.power_w,
        start=appliance.hours[0].start,
        end=appliance.hours[0].end,
        countable=kind.key in COUNTABLE,
        note=item.note,
    )


def floor_of(kind: str) -> float:
    """The reserve that suits a kind of box: half for lead, a fifth for lithium [%]."""
    if kind == UNIT:
        return UNIT_FLOOR
    return LEAD_FLOOR if CHEMISTRIES[kind].lead else LITHIUM_FLOOR
