"""A trip at a glance: its verdict and the line of its level, for lists."""

from __future__ import annotations

from threading import Lock

from oddkettle.core.values.cache import CACHE
from oddkettle.plan.quantities import LazyModel
from oddkettle.store import plans as store
from oddkettle.usecases.field.track.standing import standing_of
from oddkettle.usecases.plans.plan_words import plain_words, words_of
from oddkettle.usecases.plans.plans import open_plan
from oddkettle.usecases.process.clock import now_utc
from oddkettle.usecases.process.events import hub
from oddkettle.usecases.simulate.run_report import report_plan

POINTS = 60
STILL_TRUE = len("2026-06-08T21:3")
"""Of a trip under way it is looked at anew each ten minutes."""
ONE_AT_A_TIME = Lock()
"""Lists ask for many trips or stories at once; whoever waits for one plan goes before."""


class Glance(LazyModel):
    """What a list says of a trip."""

    headline: str
    detail: str
    sentence: str
    lasts_percent: float
    floor_percent: float
    level_percent: list[float]
    """The expected level, thinned to a small drawing."""


def glance_at(plan_id: int) -> Glance:
    """A trip at a glance; the same revision is not run twice. Raises NoSuchPlan."""
    now = (store.load(plan_id).revision, hub.all_news(plan_id), now_utc()[:STILL_TRUE])
    with ONE_AT_A_TIME:
        return CACHE.ask(("glance", plan_id, *now), lambda: _glance(plan_id))


def _glance(plan_id: int) -> Glance:
    plan = open_plan(plan_id).document
    stands = standing_of(plan_id)
    headline, level = stands.rest.headline, stands.rest.band.middle
    if not stands.begun:
        # Nothing is known of it but its plan: the expected course of that.
        report = report_plan(plan, advice=False, odds="full")
        assert report.series is not None
        headline, level = report.headline, report.series.level_percent
    every = max(len(level) // POINTS, 1)
    return Glance(
        headline=headline,
        detail=f"{stands.why_text} {stands.rest.detail}" if stands.begun else stands.rest.detail,
        sentence=plain_words(words_of(plan)),
        lasts_percent=stands.rest.lasts_percent,
        floor_percent=plan.trip.floor_percent,
        level_percent=[round(value, 1) for value in level[::every]],
    )
