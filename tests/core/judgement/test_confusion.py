"""Sensible boxes raise nothing above a note; each known mistake made in one raises its own."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import count, islice

import pytest

from oddkettle.core.judgement import RULES, Judgement
from oddkettle.plan import Plan
from oddkettle.usecases.simulate.check import judge_plan
from tests.core.judgement.cases.mistakes import MISTAKES
from tests.core.judgement.cases.sensible import Document, Mistake, made, sensible
from tests.support.tiers import repeats

SOUND = repeats(4, 10, 300)
BOXES = repeats(1, 1, 5)
"""Into how many sensible boxes each mistake is made."""


def judged(document: Document) -> tuple[Judgement, ...]:
    return judge_plan(Plan.model_validate(document))


def grave(document: Document) -> set[str]:
    return {one.code for one in judged(document) if one.severity != "note"}


def boxes_for(mistake: Mistake) -> Iterator[Document]:
    return (box for seed in count() if mistake.needs(box := sensible(seed)))


@pytest.mark.parametrize("seed", range(SOUND))
def test_a_sensible_box_is_told_nothing_above_a_note(seed: int) -> None:
    assert grave(sensible(seed)) == set()


@pytest.mark.parametrize("mistake", MISTAKES, ids=lambda mistake: mistake.name)
def test_a_known_mistake_is_raised(mistake: Mistake) -> None:
    for box in islice(boxes_for(mistake), BOXES):
        assert mistake.raises in {one.code for one in judged(made(mistake, box))}


def test_the_mistakes_cover_the_rules() -> None:
    """At least fifty, of at least fifty codes."""
    assert len(MISTAKES) >= 50
    assert len({mistake.raises for mistake in MISTAKES}) >= 50
    assert len(RULES) > 50
