"""The sample boxes as stories: each has its file, its figure, and becomes a plan of one's own."""

from __future__ import annotations

from pathlib import Path

import pytest

from oddkettle.store.plans import NoSuchPlan
from oddkettle.usecases.onboarding.stories import STORIES, stories, story_glance, take_story
from oddkettle.usecases.plans.plans import open_plan, titles
from oddkettle.usecases.simulate.run_cache import ensemble_of
from tests.conftest import EXAMPLES, example


def test_every_sample_has_a_story_and_every_story_its_sample() -> None:
    assert set(STORIES) == {path.stem for path in EXAMPLES.glob("*.json")}
    told = stories()
    assert [one.key for one in told] == list(STORIES)
    for one in told:
        assert (one.title, one.text, one.mistake) == STORIES[one.key]
        assert one.title
        assert one.text.endswith(".")
        # A mistake is told in a sentence, or there is none.
        assert one.mistake is None or one.mistake.endswith(".")


def test_a_glance_is_the_share_of_its_trips_that_last() -> None:
    glance = story_glance(EXAMPLES, "quarry-relay")
    whole = ensemble_of(example("quarry-relay"))
    assert glance.lasts_percent == pytest.approx(100 * float(whole.lasts.mean()))
    assert glance.headline


def test_a_story_that_is_taken_is_ones_own_plan(store: Path) -> None:
    taken = take_story(EXAMPLES, "coast-unit")
    assert [one.id for one in titles()] == [taken.id]
    own, sample = open_plan(taken.id).document, example("coast-unit")
    assert (own.name, own.trip, own.use) == (sample.name, sample.trip, sample.use)


@pytest.mark.parametrize("key", ["", "moth", "../moth-survey", "moth-survey.json"])
def test_what_is_no_story_is_refused_with_those_that_are(store: Path, key: str) -> None:
    for ask in (story_glance, take_story):
        with pytest.raises(NoSuchPlan, match="moth-survey, "):
            ask(EXAMPLES, key)
    assert titles() == []
