"""A box and a trip in the fewest terms: what the home page's sentence is made of."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Literal

from pydantic import ConfigDict, Field

from oddkettle.plan import quantities as q
from oddkettle.plan.quantities import Key, Name, Part
from oddkettle.plan.trip import SiteModel
from oddkettle.plan.use import Hours

Shape = Literal["trip", "standby", "alone", "which_box"]
"""What is asked: nights away, an outage of the mains, months alone, or which box it takes."""

FRIDAY = 4
MAX_NIGHTS, MAX_MONTHS, MAX_COUNT = 60, 13, 12


class Bank(Part):
    """What the box holds: `size` in Ah, or in Wh for a ready-made unit."""

    kind: str = Field(default="lifepo4", max_length=40)
    """A chemistry's key, or "unit"."""
    size: float = Field(default=100, ge=1, le=20000)
    count: int = Field(default=1, ge=1, le=8)
    pads: bool = False
    """Heater pads under it."""
    age: Literal["new", "years", "old"] | None = None
    """How old the battery is, where somebody said so."""


class Charger(Part):
    """One way to charge: `size` in W for panels and generators, in A for the others."""

    kind: str = Field(max_length=40)
    """Its key among the ways to charge (`chargers.py`)."""
    size: float = Field(ge=1, le=5000)
    every: int = Field(default=1, ge=1, le=30)
    """It drives, hooks up or runs on every so many days."""
    minutes: int = Field(default=60, ge=5, le=720)


class Thing(Part):
    """Something that runs, by its key in the list of things; what is left out is as usual."""

    kind: str = Field(max_length=40)
    id: Key | None = None
    """Which appliance of a plan it is, where the sentence is a plan's."""
    count: int = Field(default=1, ge=1, le=MAX_COUNT)
    name: Name | None = None
    """What it is called, where it is none of the list."""
    power_w: q.LoadWatts | None = None
    duty_percent: q.DutyPercent | None = None
    """Of its hours, how much it really runs."""
    hours: Hours | None = None
    wh_a_day: q.DailyWattHours | None = None
    """What it uses in a day, where that is known instead of watts and hours."""
    sending_percent: q.SharePercent | None = None
    """Of a radio."""
    stands: Literal["heated", "open"] | None = None
    """Of a cool box: where people live and heat, or in the open air; None where nobody said."""


class Sentence(Part):
    """The whole sentence; each part has a default."""

    # Built at once: it is the body of a call.
    model_config = ConfigDict(defer_build=False)

    shape: Shape = "trip"
    bank: Bank = Bank()
    chargers: list[Charger] = Field(default=[], max_length=6)
    nights: int = Field(default=3, ge=1, le=MAX_NIGHTS)
    months: int = Field(default=8, ge=1, le=MAX_MONTHS)
    place: SiteModel
    start: date
    coldest_c: q.Celsius | None = None
    """Of the nights, where its user knows better than the table of climates."""
    things: list[Thing] = Field(default=[], max_length=60)


def first_sentence(place: SiteModel, today: date) -> Sentence:
    """What the home page begins with: an ordinary box on an ordinary weekend, next Friday."""
    friday = today + timedelta(days=(FRIDAY - today.weekday()) % 7 or 7)
    return Sentence(
        place=place,
        start=friday,
        bank=Bank(),
        chargers=[Charger(kind="folding", size=120)],
        things=[Thing(kind="coolbox"), Thing(kind="lights"), Thing(kind="phone", count=2)],
    )
