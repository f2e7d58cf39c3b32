"""Figures with their units as labels print them: "18,4 V", "14.2-14.6V", "12/24V", "<30 mΩ"."""

from __future__ import annotations

import re
from dataclasses import dataclass

UNITS: tuple[tuple[str, str, float], ...] = (
    (r"kwh\s*/\s*(?:annum|year|yr|a|jahr|an)\b|kwh\s+(?:per|a)\s+(?:annum"
     r"|year)", "Wh/day", 1000 / 365),
    (r"kwh\s*/\s*(?:24\s*h(?:ours)?|day|d)\b|kwh\s+(?:per|a)\s+day", "Wh/day", 1000.0),
    (r"wh\s*/\s*(?:24\s*h(?:ours)?|day|d)\b|wh\s+(?:per|a)\s+day", "Wh/day", 1.0),
    (r"kwh\s*/\s*1000\s*h(?:ours)?\b", "W", 1.0),
    (r"kwh\s*/\s*100\s*(?:cycles|cycl\.?)", "kWh/100 cycles", 1.0),
    (r"ah\s*/\s*h\b", "Ah/h", 1.0),
    (r"kwh", "Wh", 1000.0),
    (r"wh|watt[\s-]?hours?", "Wh", 1.0),
    (r"mah", "Ah", 0.001),
    (r"ah|amp[\s-]?hours?", "Ah", 1.0),
    (r"mv\s*/\s*(?:k|°\s*c|℃)", "V/K", 0.001),
    (r"v\s*/\s*(?:k|°\s*c|℃)", "V/K", 1.0),
    (r"m?a\s*/\s*(?:k|°\s*c|℃)", "A/K", 1.0),
    (r"w\s*/\s*(?:k|°\s*c|℃)", "W/K", 1.0),
    (r"w\s*/\s*m(?:2|²)", "W/m2", 1.0),
    (r"%\s*/\s*(?:k|°\s*c|℃)", "%/K", 1.0),
    (r"%", "%", 1.0),
    (r"°\s*c|℃", "C", 1.0),
    (r"m\s?(?:Ω|ohms?|ω)", "mOhm", 1.0),
    (r"kw", "W", 1000.0),
    (r"w(?:p|c)?|watts?(?:\s*peak)?", "W", 1.0),
    (r"kg", "kg", 1.0),
    (r"lbs?", "kg", 0.4536),
    (r"ma", "A", 0.001),
    (r"a(?:dc)?|amps?|amp[eè]res?|amperios?", "A", 1.0),
    (r"v(?:\s*(?:dc|ac|cc|ca))?|volts?(?:\s*(?:dc|ac))?", "V", 1.0),
    (r"hz", "Hz", 1.0),
    (r"(?:deep\s+)?(?:cycles|zyklen|times)", "cycles", 1.0),
    (r"years?", "years", 1.0),
    (r"min(?:utes)?", "min", 1.0),
    (r"hrs?|h|hours?", "h", 1.0),
    (r"mm|cm|l|litres?|liters?|db|s|sec|mph|g", "other", 1.0),
)  # fmt: skip
"""How a unit is printed, what it is, and how many of that: the first that fits is meant."""
NUMBER = r"\d{1,3}(?:,\d{3})+(?![\d,])|\d+(?:[.,]\d+)?"
_UNIT = "|".join(rf"(?:{pattern})" for pattern, _, _ in UNITS)
_GAP = r"[ \t]*"
FIGURE = re.compile(
    rf"(?:(?<![\w.])|(?<=\d[VAva]))(?P<count>\d{{1,2}}\s*[x×]\s*)?(?P<under>[<>≤≥~]=?\s*)?(?P<sign>[-−+±])?"
    rf"(?P<low>{NUMBER})"
    rf"(?:(?:(?:{_GAP}(?P<first>{_UNIT}))?{_GAP}(?:-|–|~|to|\.\.\.|…)|(?P<either>/)){_GAP}"
    rf"(?P<high>[-−+]?(?:{NUMBER})))?"
    rf"\+?{_GAP}(?P<unit>{_UNIT})(?![a-zäöüéΩ])"
    rf"(?:{_GAP}(?:±|\+/-){_GAP}(?:{NUMBER}){_GAP}(?:{_UNIT}))?"
    r"(?P<wave>\s*[~⎓=]+)?",
    re.IGNORECASE,
)
BRACKETED = re.compile(
    rf"[(\[]\s*(?P<unit>{_UNIT})\s*[)\]]\s*[:|=\t]?\s*"
    rf"(?P<value>[-−]?(?:{NUMBER})(?:\s*(?:-|–|~"
    rf"|to)\s*(?:{NUMBER}))?)(?![\d.,]*\d)(?!\s*(?:{_UNIT})\b)",
    re.IGNORECASE,
)

COUNTED = re.compile(r"(?:cycles?|zyklen)[^:\n]{0,30}:\s*[<>≥]?\s*\d{3,5}(?=\s*$)", re.I | re.M)


@dataclass(frozen=True)
class Figure:
    """One figure between `start` and `end` of the text, in `unit`.

    `low` equals `high` but in a range. `either`: two nominal values of one part ("12/24V");
    `mains`: its volts alternate.
    """

    start: int
    end: int
    typed: str
    low: float
    high: float
    unit: str
    count: int = 1
    either: bool = False
    mains: bool = False

    @property
    def middle(self) -> float:
        """The middle of its range."""
        return (self.low + self.high) / 2


def with_units_behind(text: str) -> str:
    """The text with "Peak power (W): 20" as "Peak power: 20 W"."""
    behind = BRACKETED.sub(lambda found: f": {found['value']} {found['unit']}", text)
    return COUNTED.sub(r"\g<0> cycles", behind)


def figures_of(text: str) -> list[Figure]:
    """Every figure of a text that has a unit, in order."""
    found: list[Figure] = []
    at = 0
    while (match := FIGURE.search(text, at)) is not None:
        # "230 V~ 50 Hz" is no range: both ends of one are of one unit.
        apart = match["first"] is not None and _unit(match["first"]) != _unit(match["unit"])
        end = match.end("first") if apart else match.end()
        alone = FIGURE.match(text[:end], match.start()) if apart else match
        if alone is not None:
            wave = re.match(r"\s*[~⎓=]+", text[end:]) if apart else None
            found.append(_figure(alone, alternates=wave is not None and "~" in wave.group()))
        at = max(end, at + 1)
    return found


def _unit(printed: str) -> tuple[str, float]:
    """What a printed unit is, and how many of that."""
    return next(
        (name, times)
        for pattern, name, times in UNITS
        if re.fullmatch(pattern, printed, re.IGNORECASE)
    )


def number(text: str) -> float:
    """A printed number: a comma before three figures parts thousands, else it is the point."""
    plain = text.strip().replace("−", "-")
    if re.fullmatch(r"-?[1-9]\d{0,2}(?:,\d{3})+", plain):
        return float(plain.replace(",", ""))
    return float(plain.replace(",", ".").replace("+", ""))


def _figure(found: re.Match[str], *, alternates: bool = False) -> Figure:
    unit, times = _unit(found["unit"])
    minus = -1.0 if (found["sign"] or "") in {"-", "−"} else 1.0
    low = minus * number(found["low"])
    high = low if found["high"] is None else number(found["high"])
    typed = found.group().strip()
    return Figure(
        found.start(),
        found.end(),
        typed,
        min(low, high) * times,
        max(low, high) * times,
        unit,
        int(re.sub(r"\D", "", found["count"])) if found["count"] else 1,
        found["either"] is not None,
        unit == "V" and (alternates or _alternates(typed, high)),
    )


MAINS_V = 90.0
"""Below this nothing is mains voltage; a string of panels is written with DC or beside "PV"."""


def _alternates(typed: str, volts: float) -> bool:
    return bool(re.search(r"ac|ca|~\s*$", typed, re.IGNORECASE)) or volts in {
        110.0, 115.0, 120.0, 220.0, 230.0, 240.0,
    }  # fmt: skip
