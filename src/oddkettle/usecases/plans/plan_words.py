"""Any plan as one sentence, in pieces that can be pressed."""

from __future__ import annotations

import calendar
from collections.abc import Iterable
from datetime import date
from typing import Literal

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.plan import Plan
from oddkettle.plan.box import BatteryModel
from oddkettle.plan.quantities import LazyModel
from oddkettle.plan.use import ApplianceModel
from oddkettle.text.words import article, number_word

PartKey = Literal["bank", "chargers", "length", "place", "when", "things", "shape"]
EARLY_DAY, MID_DAY, MONTH_DAYS, LONG_DAYS = 10, 20, 30.4, 70
NAMED = 4
"""So many appliances are named; the rest are counted."""
ALWAYS_SMALL = ("LED",)


SPOKEN: dict[str, str] = {"lifepo4": "lithium", "nmc": "lithium-ion", "lto": "titanate"}
"""What people call a chemistry in a sentence, where that is not the first word of its name."""


def spoken(chemistry: str) -> str:
    """A chemistry within a sentence, like lithium, AGM or gel."""
    name = CHEMISTRIES[chemistry].name.split()[0]
    return SPOKEN.get(chemistry, name if name.isupper() else name.lower())


class Piece(LazyModel):
    """A stretch of the sentence; with a part it can be pressed."""

    text: str
    part: PartKey | None = None


def words_of(plan: Plan, *, asks_box: bool = False) -> list[Piece]:
    """The sentence of a plan; with `asks_box` it asks for the box instead of telling it."""
    trip = plan.trip
    bank = Piece(text=bank_words(plan), part="bank")
    things = Piece(text=thing_words(plan), part="things")
    place = Piece(text=trip.site.name, part="place")
    when = Piece(text=season_words(trip.start), part="when")
    length = Piece(text=length_words(plan), part="length")
    if asks_box:
        return [
            Piece(text="I run"),
            things,
            Piece(text="for"),
            length,
            Piece(text="near"),
            place,
            Piece(text="in"),
            when,
            *_charged(plan, " and charge by "),
            Piece(text=". Which"),
            Piece(text="box", part="shape"),
            Piece(text="do I need?"),
        ]
    if trip.kind == "standby":
        return [
            Piece(text="With"),
            bank,
            *_charged(plan, " kept full by "),
            Piece(text="near"),
            place,
            Piece(text="in"),
            when,
            Piece(text=", I run"),
            things,
            Piece(text="when the"),
            Piece(text="mains fails", part="shape"),
            Piece(text="."),
        ]
    if trip.kind == "alone":
        return [
            Piece(text="With"),
            bank,
            *_charged(plan, " charged by "),
            Piece(text=", I"),
            Piece(text="leave it alone", part="shape"),
            Piece(text="for"),
            length,
            Piece(text="near"),
            place,
            Piece(text="from"),
            when,
            Piece(text=", while it runs"),
            things,
            Piece(text="."),
        ]
    return [
        Piece(text="With"),
        bank,
        *_charged(plan, " charged by "),
        Piece(text=", I"),
        Piece(text="spend", part="shape"),
        length,
        Piece(text="near"),
        place,
        Piece(text="in"),
        when,
        Piece(text=", and run"),
        things,
        Piece(text="."),
    ]


def plain_words(pieces: Iterable[Piece]) -> str:
    """The pieces as one line."""
    text = " ".join(piece.text.strip() for piece in pieces)
    for mark in (",", ".", "?"):
        text = text.replace(f" {mark}", mark)
    return text


def _charged(plan: Plan, joint: str) -> list[Piece]:
    words = charger_words(plan)
    if not words:
        return [Piece(text="and"), Piece(text="nothing to charge it", part="chargers")]
    return [Piece(text=joint.strip()), Piece(text=words, part="chargers")]


def bank_words(plan: Plan) -> str:
    """Like "a 100 Ah lithium box", "two 100 Ah AGM batteries" or "a 700 Wh ready-made unit"."""
    box = plan.box
    if box.unit is not None:
        return f"a {box.unit.capacity_wh:g} Wh ready-made unit"
    text = _battery_words(box.battery)
    if box.heater is not None and box.heater.on:
        text += " with heater pads"
    if box.second is not None and box.second.on:
        text += " with a second bank"
    return text


def bank_name(plan: Plan) -> str:
    """What a box is called until its owner names it, like "100 Ah lithium box"."""
    words = bank_words(plan).partition(" ")[2]
    return words[0].upper() + words[1:]


def _battery_words(battery: BatteryModel) -> str:
    count = battery.series * battery.parallel
    size = f"{battery.capacity_ah:g} Ah {spoken(battery.chemistry)}"
    if count == 1:
        return f"{article(size)} {size} box"
    return f"a box of {number_word(count)} {size} batteries"


def charger_words(plan: Plan) -> str:
    """Like "a 120 W folding panel, driving and mains"; empty where nothing charges it."""
    return listed([source.said for source in plan.box.sources if source.on and source.said])


def length_words(plan: Plan) -> str:
    """Like "four nights", "nine days" or "eight months"."""
    trip = plan.trip
    days = len(trip.days)
    if days > LONG_DAYS:
        months = round(days / MONTH_DAYS)
        return f"{number_word(months)} months" if months != 1 else "a month"
    whole = trip.begins == "00:00" and trip.ends == "24:00"
    count = days if whole or days == 1 else days - 1
    noun = "day" if whole or days == 1 else "night"
    return f"{number_word(count)} {noun}" if count == 1 else f"{number_word(count)} {noun}s"


def season_words(day: date) -> str:
    """Like "mid June"."""
    part = "early" if day.day <= EARLY_DAY else "mid" if day.day <= MID_DAY else "late"
    return f"{part} {calendar.month_name[day.month]}"


def thing_words(plan: Plan) -> str:
    """The appliances, the first few by name."""
    running = [appliance for appliance in plan.use.appliances if appliance.on]
    if not running:
        return "nothing yet"
    named = [_thing(appliance) for appliance in running[:NAMED]]
    more = len(running) - len(named)
    return listed([*named, f"{number_word(more)} more"] if more else named)


def _thing(appliance: ApplianceModel) -> str:
    """A name as it is said: "Phones, two" is two phones, "Cool box" a cool box."""
    name, _, count = appliance.name.partition(", ")
    name = name if name.startswith(ALWAYS_SMALL) else name[0].lower() + name[1:]
    if count in {number_word(n) for n in range(2, 13)}:
        return f"{count} {name}"
    if name.endswith("s") or name.split()[0].isdigit():
        return name
    first = name.split()[0]
    if first in {"a", "an", "the", "my", "two", "three", "four", "something"}:
        return name
    return f"{'an' if name[0] in 'aeiou' else 'a'} {name}"


def listed(words: list[str]) -> str:
    """Words as a list within a sentence."""
    if len(words) < 2:
        return "".join(words)
    return f"{', '.join(words[:-1])} and {words[-1]}"
