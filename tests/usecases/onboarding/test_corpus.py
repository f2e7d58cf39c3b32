"""More than three hundred sentences as people type them, held against what they mean."""

from __future__ import annotations

from collections import Counter

import pytest

from tests.usecases.onboarding.read_corpus import corpus, held

WHOLLY, WRONGLY = 0.85, 0.01
"""At least so many are understood wholly, and at most so many wrongly: the rest is asked about."""
CORPORA = ("as_people_speak", "kept_apart", "written_last", "second_blind")


def test_there_are_three_hundred_and_none_twice() -> None:
    texts = [text for name in CORPORA for text, _ in corpus(name)]
    assert len(texts) >= 300
    assert len(texts) == len(set(texts))


@pytest.mark.parametrize("name", CORPORA)
def test_what_people_type_is_what_is_read(name: str) -> None:
    found = [held(text, meaning) for text, meaning in corpus(name)]
    counts = Counter(one.verdict for one in found)
    wrong = [(one.text, one.faults) for one in found if one.verdict == "wrongly"]
    assert counts["wholly"] >= WHOLLY * len(found)
    assert len(wrong) <= WRONGLY * len(found), wrong


@pytest.mark.parametrize("name", CORPORA)
def test_no_source_comes_from_nowhere(name: str) -> None:
    """Whatever else is missed: more charge than was told is never made up."""
    for text, meaning in corpus(name):
        if "charge" not in meaning:
            reading = held(text, meaning).reading
            assert reading.sentence.chargers == [] or not reading.understood, text
