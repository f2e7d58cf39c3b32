"""What things are called, as people type it: one table of words, longest first."""

from __future__ import annotations

import difflib
import re
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.usecases.onboarding.chargers import CHARGERS
from oddkettle.usecases.onboarding.things import THINGS

Kind = Literal[
    "thing", "chemistry", "bank", "unit", "vehicle", "panel", "way", "controller", "charger",
    "inverter", "pads", "age", "drive", "use", "sun",
]  # fmt: skip


@dataclass(frozen=True)
class Noun:
    """A word and what it is; `key` says which of its kind: of a way to charge its key there."""

    kind: Kind
    key: str = ""


GUESSED = {
    "lifepo4": r"|lithium|li",
    "flooded": r"|lead|leisure|car\s+batter(?:y|ies)|golf\s+cart",
}
"""What people say of a kind beside what labels have."""
WORDS: tuple[tuple[Kind, str, str], ...] = (
    *(
        ("chemistry", key, f"{one.written}{GUESSED.get(key, '')}")
        for key, one in CHEMISTRIES.items()
    ),
    ("vehicle", "", r"(?:start(?:er|ing)?|crank(?:ing)?|engine)\s+batter(?:y|ies)"),
    ("bank", "", r"batter(?:y|ies)|bank|box|accu|pack"),
    (
        "unit",
        "",
        r"power\s*stations?|power\s*banks?|ready-?made(?:\s+unit)?|all-in-one|unit"
        r"|solar\s+generators?",
    ),
    ("panel", "folding", r"(?:folding|foldable|fold-?up|portable|suitcase)(?:\s+solar)?"),
    ("panel", "folding", r"solar\s+(?:blankets?|suitcases?)"),
    ("panel", "roof", r"(?:on\s+(?:the|my|our)\s+)?roof(?:top)?|fixed|mounted|flexible|rigid"),
    ("panel", "", r"solar(?:\s+(?:panels?|array|power))?|pv|panels?|modules?"),
    ("sun", "", r"sun|sunshine|charging|recharging"),
    (
        "controller",
        "",
        r"(?:mppt|pwm)(?:\s+(?:solar\s+)?(?:charge\s+)?(?:controllers?|chargers?|regulators?))?"
        r"|(?:solar\s+)?(?:charge\s+)?(?:controllers?|regulators?)|solar\s+chargers?",
    ),
    ("charger", "", r"chargers?"),
    ("inverter", "", r"(?:sine\s+wave\s+)?inverters?"),
    ("pads", "", r"(?:heat(?:er|ing)\s+)?pads|heated\s+battery|battery\s+heat(?:er|ing)"),
    ("age", "new", r"(?:brand\s+)?new"),
    ("age", "years", r"(?:some|two|three|four|2|3|4)\s+years?\s+old"),
    ("age", "old", r"(?:very\s+)?old|worn|tired"),
    ("drive", "", r"(?:while\s+|when\s+)?(?:driving|drives?|driven)"),
    ("use", "", r"total|altogether|consumption|usage|use|uses|using|run|running|power|draw"),
)
SAY_NOTHING_TEXT = """
transmit transmission send house main second extra bilge station what which size
sending transmitting transmits portable draws running size idea
thermoelectric peltier usb grid stay enough over used during outage
12-volt 12v 24v a about all also am an and and/or approx approximately are around as
at average away be before between big boat both by ca cabin camp camper camping can
car caravan charge charged connected could day days do does during each electric etc
evening every fitted for from going got grid has have hello here hey hi hour hours
how i if in installed into is it its just keep last lasts leaving left less like little
long maybe me more morning mostly mooring motorhome my near nearly need night nights no
normal not of off off-grid on one only or our out own per perhaps please plugged
plus plus&minus recharged refilled roughly runs should single small so solar-powered
some sometimes spend tent than thank thanks that the then there this through time to
trip up us used usual usually van via want was we week when while will with without
would you
"""
SAY_NOTHING = frozenset(SAY_NOTHING_TEXT.split())
"""Words that say nothing by themselves."""


def _table() -> list[tuple[re.Pattern[str], Noun]]:
    """Patterns, the longest words first, so that what is said more exactly wins."""
    rows: list[tuple[int, str, Noun]] = []
    for thing in THINGS.values():
        noun = Noun("thing", thing.key)
        rows += [(len(w), re.escape(w).replace(r"\ ", r"[\s-]+"), noun) for w in thing.typed]
    rows += [(0, words, Noun(kind, key)) for kind, key, words in WORDS]
    rows += [(0, way.typed, Noun("way", way.key)) for way in CHARGERS.values() if way.typed]
    rows.sort(key=lambda row: -row[0])
    return [(re.compile(rf"(?:{words})(?![\w'’])", re.IGNORECASE), noun) for _, words, noun in rows]


TABLE = _table()


def noun_at(text: str, at: int) -> tuple[Noun, int] | None:
    """The noun that begins at a place of the text, and where it ends: the longest there is."""
    best: tuple[Noun, int] | None = None
    for pattern, noun in TABLE:
        found = pattern.match(text, at)
        if found and (best is None or found.end() > best[1]):
            best = noun, found.end()
    return best


SPELT = {
    word: noun
    for noun, words in (
        *((Noun("thing", t.key), t.typed) for t in THINGS.values()),
        (Noun("chemistry", "lifepo4"), ("lithium", "lifepo4")),
        (Noun("panel"), ("panel", "panels", "solar")),
        (Noun("bank"), ("battery", "batteries")),
        (Noun("way", "driving"), ("alternator",)),
        (Noun("inverter"), ("inverter",)),
    )
    for word in words
    if " " not in word and len(word) >= 5
}
ALIKE = 0.85


@lru_cache(maxsize=2048)
def misspelt(word: str) -> Noun | None:
    """What a word is meant to be, where one letter or two are wrong."""
    if len(word) < 5:
        return None
    close = difflib.get_close_matches(word.lower(), SPELT, 1, ALIKE)
    return SPELT[close[0]] if close else None
