"""The labels of things that run, and of ready-made units."""

from __future__ import annotations

from oddkettle.core.units.conversion import CLASS_V
from oddkettle.formats.labels.battery import WORDS
from oddkettle.formats.labels.kind import Found, Goes, LabelKind, Name, Note

MAINS_EU_V = 230.0
HOURS_A_DAY = 24.0
AGREES = 0.2
"""Volts x amps further from the watts than this were not read from one label."""


def _appliance(found: Found) -> None:
    """Watts from volts and amps, mains or direct, and what a day is."""
    if (figure := found.figures.get("wh_a_day")) is not None and figure.unit == "Ah/h":
        found.values["wh_a_day"] = round(figure.high * CLASS_V * HOURS_A_DAY, 1)
    volts, amps = found.figures.get("volts_v"), found.figures.get("amps_a")
    for name in ("volts_v", "amps_a"):
        found.values.pop(name, None)
    adapter = found.figures.get("input_v")
    found.values.pop("input_v", None)
    mains = (adapter is not None and adapter.mains) or (volts is not None and volts.mains)
    if volts is not None and volts.high > 90 and not volts.mains:
        mains = True
    power = found.number("power_w")
    if volts is not None and amps is not None:
        at = (
            volts.low
            if volts.either
            else (_mains_v(volts.low, volts.high) if mains else volts.high)
        )
        made = at * amps.high
        if power is None:
            power = found.values["power_w"] = float(round(made, 1))
        elif not mains and abs(made - power) > AGREES * max(power, made):
            found.notes.append(Note("power_w", (
                f"{at:g} V x {amps.high:g} A is {made:.0f} W, but the label says {power:g} W. "
                "Is one of them for its start?"
            )))  # fmt: skip
    if mains or volts is not None or adapter is not None:
        found.values["supply"] = "mains" if mains else "direct"
    if "power_w" not in found.values and "wh_a_day" not in found.values:
        found.missing = ["power_w"]


def _mains_v(low: float, high: float) -> float:
    """Of a wide range the mains that its user most likely has."""
    return MAINS_EU_V if low <= MAINS_EU_V <= high else high


APPLIANCE = LabelKind(
    "appliance", "something that runs",
    {
        "power_w": Goes("Watts", "W"),
        "wh_a_day": Goes("In a day", "Wh"),
        "supply": Goes("Plugged into"),
        "volts_v": Goes("Plugged into", makes="supply"),
        "amps_a": Goes("Watts, times its volts", "W", makes="power_w"),
        "input_v": Goes("Plugged into", makes="supply"),
    },
    (
        Name("(?:ac |dc )?(?:input|eingang)", {"V": "input_v", "A": None, "W": "power_w"},
             "the most that its adapter takes at the lowest mains voltage"),
        Name("(?:dc )?(?:output|ausgang)", {"W": "power_w", "V": None, "A": None},
             "what its adapter gives", rank=2),
        Name("stand ?by|off mode", {"W": None}, "while it is not in use"),
        Name("(?:rated|nominal)(?: input| power| power input)?|(?:average )?power(?: consumption)?"
             "|nennleistung|on mode|consumption|energy consumption",
             {"W": "power_w", "Wh/day": "wh_a_day", "Ah/h": "wh_a_day", "A": "amps_a",
              "V": "volts_v"}, rank=1),
        Name("rated current|current", {"A": "amps_a"}, rank=1),
        Name("rated voltage|voltage|connection|power supply|dc|ac", {"V": "volts_v"}, rank=1),
    ),
    {"W": "power_w", "V": "volts_v", "A": "amps_a", "Wh/day": "wh_a_day", "Ah/h": "wh_a_day"},
    _appliance, tells=r"kwh\s*/|ah\s*/\s*h|\d\s*hz\b|\b(?:input|output|fridge|freezer|energ"
                r"|consumption|stand-?by|power\s+supply)\b",
)  # fmt: skip


def _unit(found: Found) -> None:
    """Its 12 V outlets in watts."""
    figure = found.figures.get("dc_output_w")
    if figure is not None and figure.unit == "A":
        found.values["dc_output_w"] = figure.high * CLASS_V
    found.missing = [name for name in ("capacity_wh", "rating_w") if name not in found.values]


_NOT = {"A": None, "V": None, "W": None, "Wh": None}
UNIT = LabelKind(
    "unit", "a ready-made unit",
    {
        "capacity_wh": Goes("Its label says", "Wh"),
        "chemistry": Goes("Chemistry"),
        "rating_w": Goes("Inverter: rating", "W"),
        "surge_w": Goes("Inverter: for a moment", "W"),
        "solar_limit_w": Goes("Input for panels: most power", "W"),
        "solar_limit_v": Goes("Input for panels: most voltage", "V"),
        "mains_limit_w": Goes("Input for mains: most power", "W"),
        "dc_output_w": Goes("12 V and USB outlets together", "W"),
        "weight_kg": Goes("Weight", "kg"),
    },
    (
        Name("(?:rated |battery )?capacity|battery|energy", {"Wh": "capacity_wh"}, rank=1),
        Name("(?:peak|surge)(?: power)?", {"W": "surge_w"}),
        Name("(?:ac |rated |inverter )?output(?: power)?|ac|pure sine"
             "|inverter", {"W": "rating_w"}, rank=1),
        Name("(?:max(?:imum)?\\.? )?(?:solar|pv|xt60|mc4)(?: (?:input|charging|charge))?",
             {"W": "solar_limit_w", "V": "solar_limit_v", "A": None}),
        Name("ac (?:input|charging|charge)|mains (?:input|charging)",
             {"W": "mains_limit_w", "V": None, "A": None}, rank=1),
        Name("car (?:input|charging|charge|port)", {"A": None, "V": None, "W": None},
             "what it takes from a vehicle's socket"),
        Name("(?:dc|12 ?v)(?: output|outlets?"
             "| port)", {"A": "dc_output_w", "W": "dc_output_w", "V": None}),
        Name("usb(?: ?[ac])?|type c", _NOT, "one socket among several"),
        Name("weight", {"kg": "weight_kg"}),
    ),
    {"Wh": "capacity_wh", "kg": "weight_kg"}, _unit,
    sure=r"power\s*station|all-in-one",
    tells=r"\b(?:power\s*station|all-in-one|xt60|ac\s+output|solar\s+input"
          r"|pv\s+charging)\b", words=WORDS,
)  # fmt: skip
