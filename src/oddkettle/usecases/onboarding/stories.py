"""The sample boxes as short stories: whose it is, what it shows, the mistake that is in it."""

from __future__ import annotations

from pathlib import Path

from oddkettle.core.values.cache import CACHE
from oddkettle.formats.plan_json import parse_plan
from oddkettle.plan import Plan
from oddkettle.plan.quantities import LazyModel
from oddkettle.store.plans import NoSuchPlan
from oddkettle.usecases.boxes.glance import ONE_AT_A_TIME
from oddkettle.usecases.plans.plans import OpenPlan, import_plan
from oddkettle.usecases.simulate.run_report import report_plan

STORIES: dict[str, tuple[str, str, str | None]] = {
    "moth-season": (
        "Two people count moths",
        "Nine nights on a moor with a light trap, a bat recorder and a cool box for the samples.",
        "The inverter idles all day for an hour and a half of cameras.",
    ),
    "coast-unit": (
        "A family on the coast",
        "A ready-made unit, a folding panel, and the vehicle's socket on the way.",
        "They trust the Wh on its label; what comes out of it is less.",
    ),
    "radio-hill": (
        "A weekend on the air",
        "A transceiver on a hill, with the chargers that make noise switched off.",
        None,
    ),
    "night-breather": (
        "Breathing through the night",
        "A breathing machine for three nights, with a drive between.",
        "A breathing machine must not lose power, and this box is all it has.",
    ),
    "winter-caravan": (
        "A week in the frost",
        "A lithium box that must not be charged when it is frozen, and pads that keep it warm.",
        None,
    ),
    "gauging-hut": (
        "Eight months alone",
        "A logger, a small battery, a small panel, and nobody near.",
        None,
    ),
    "canal-standby": (
        "Kept full on mains",
        "A workboat's pumps and alarm, for when the mains fails.",
        None,
    ),
    "moth-survey": (
        "The moths, as it was planned first",
        "The same nine nights with fewer drives and a colder cool box.",
        "The trap and the laptop take more than June gives back: one drive is missing.",
    ),
    "coast-weekend": (
        "A family in spring, at 24 V",
        "Four lead batteries in a trailer, a roof of panels, one night on mains.",
        None,
    ),
    "quarry-separate": (
        "The quarry loop, a charger for each source",
        "A roof panel and driving, each with a charger of its own.",
        None,
    ),
    "quarry-combined": (
        "The same loop, one charger with two inputs",
        "Both inputs share one output limit.",
        None,
    ),
    "quarry-selector": (
        "The same loop, a switch between sources",
        "One source at a time is let in.",
        "The switch has to be remembered, and it keeps one source out.",
    ),
    "quarry-relay": (
        "The same loop, lead and a relay",
        "The old way: cheap and simple.",
        "A relay never quite fills a lead battery.",
    ),
}
"""By the file's stem: title, what it shows, and the mistake in it."""


class Story(LazyModel):
    """One sample as a story."""

    key: str
    title: str
    text: str
    mistake: str | None


class StoryGlance(LazyModel):
    """How a sample's trip goes."""

    headline: str
    lasts_percent: float


def stories() -> list[Story]:
    """All of them."""
    return [
        Story(key=key, title=title, text=text, mistake=mistake)
        for key, (title, text, mistake) in STORIES.items()
    ]


def story_glance(examples: Path, key: str) -> StoryGlance:
    """How a sample's trip goes. Raises NoSuchPlan."""
    plan = parse_plan(_file(examples, key))
    with ONE_AT_A_TIME:
        return CACHE.ask(("story", key), lambda: _glance_of(plan))


def _glance_of(plan: Plan) -> StoryGlance:
    report = report_plan(plan, series=False, advice=False, odds="full")
    assert report.odds is not None
    return StoryGlance(headline=report.headline, lasts_percent=report.odds.lasts_percent)


def take_story(examples: Path, key: str) -> OpenPlan:
    """Put a sample among one's own plans. Raises NoSuchPlan."""
    return import_plan(_file(examples, key))


def _file(examples: Path, key: str) -> bytes:
    if key not in STORIES:
        raise NoSuchPlan(f"There is no sample called {key!r}. There are: {', '.join(STORIES)}.")
    return (examples / f"{key}.json").read_bytes()
