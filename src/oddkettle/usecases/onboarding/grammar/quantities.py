"""Figures with a unit as people type them: "1,500 W", "1,5 kWh", "2 x 100 W", "30 Ah/day"."""

from __future__ import annotations

import re
from dataclasses import dataclass

NUMBERS = {
    word: n
    for n, word in enumerate(
        "zero one two three four five six seven eight nine ten eleven twelve".split()  # noqa: SIM905
    )
} | {"a": 1, "an": 1, "both": 2, "couple": 2}
FIGURE = r"(?:\d{1,3}(?:,\d{3})+(?!\d)|\d+(?:[.,]\d+)?|[.,]\d+)"
UNITS: dict[str, tuple[str, float]] = {
    r"kwh|kilowatt[\s-]?hours?|kw[\s-]?h": ("Wh", 1000.0),
    r"wh|w\.h\.?|watt[\s-]?h(?:ou)?rs?": ("Wh", 1.0),
    r"mah": ("Ah", 0.001),
    r"a\.?h\b\.?|amp(?:ere)?s?[\s-]?(?:h(?:ou)?rs?|h)": ("Ah", 1.0),
    r"kw|kilowatts?": ("W", 1000.0),
    r"w|watts?": ("W", 1.0),
    r"ma|milliamps?": ("A", 0.001),
    r"a(?!\s*(?:day|night|week)\b)|amp(?:ere)?s?": ("A", 1.0),
    r"v|volts?": ("V", 1.0),
    r"l|litres?|liters?|ltr": ("l", 1.0),
    r"h|hrs?|hours?": ("h", 1.0),
    r"min(?:ute)?s?": ("h", 1.0 / 60.0),
    r"sec(?:ond)?s?": ("h", 1.0 / 3600.0),
    r"%|percent|per\s*cent": ("%", 1.0),
    r"times|x(?=\s*(?:a|per|each|every)\s*(?:day|night))": ("times", 1.0),
}
"""How a unit is written, what it is, and how many of that."""
A_DAY = (
    r"(?:\s*(?:/|per|a|each|every|in\s+a)\s*(?:day|24\s*h(?:ours)?|night|evening|morning|d)\b"
    r"|\s*daily\b|\s*/\s*24\s*h|\s*(?P<week>(?:a|per|each|every|/)\s*week\b))"
)
COUNTED = r"(?:(?P<count>\d{1,2})\s*(?:[x×*]|times|of)\s*)?"
RANGE = rf"(?:(?P<low>{FIGURE})\s*(?:-|–|to)\s*)?"
QUANTITY = re.compile(
    rf"{COUNTED}{RANGE}(?P<figure>{FIGURE}|(?<![\w])(?:{'|'.join(NUMBERS)}|half\s+an?)(?=[\s-]))"
    rf"[\s-]*(?:(?P<unit>{'|'.join(UNITS)})(?![a-z0-9]))(?P<day>{A_DAY})?",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class Quantity:
    """A figure and its unit ("Wh", "Ah", "W", "A", "V", "l", "h", "%", "times").

    `count` of them; `a_day` where it is told for a day; `guessed`: the middle of a range.
    """

    value: float
    unit: str
    count: int = 1
    a_day: bool = False
    guessed: bool = False


def figure(text: str) -> float:
    """A figure with a point or a comma: a comma before three figures parts thousands."""
    text = text.strip().lower()
    if text.startswith("half"):
        return 0.5
    if text in NUMBERS:
        return float(NUMBERS[text])
    if re.fullmatch(r"[1-9]\d{0,2}(?:,\d{3})+", text):
        return float(text.replace(",", ""))
    return float(text.replace(",", "."))


def quantity_of(found: re.Match[str]) -> Quantity:
    """The quantity of a match of `QUANTITY`."""
    typed = found.group("unit").lower()
    unit, times = next(
        known for written, known in UNITS.items() if re.fullmatch(written, typed, re.IGNORECASE)
    )
    value = figure(found.group("figure"))
    low = found.group("low")
    if low is not None:
        value = (value + figure(low)) / 2
    if found.group("week"):
        value /= 7.0
    return Quantity(
        value * times,
        unit,
        int(found.group("count") or 1),
        found.group("day") is not None,
        low is not None,
    )
