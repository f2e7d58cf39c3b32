"""Typed words into a sentence.

Each rule takes the words that it understands out of the text; what no rule took is told as such.
Nothing is guessed without a word about it.
"""

from __future__ import annotations

import re
from datetime import date

from oddkettle.plan.quantities import LazyModel
from oddkettle.usecases.onboarding.grammar import box_words, thing_words, trip_words
from oddkettle.usecases.onboarding.grammar.draft import Draft
from oddkettle.usecases.onboarding.sentence import Charger, Sentence, Thing

FILLERS = frozenset(
    [
        *("with", "and", "a", "an", "the", "i", "my", "our", "we", "spend", "run", "runs"),
        *("running", "near", "at", "in", "on", "for", "of", "to", "by", "from", "it", "is"),
        *("charged", "charge", "charging", "box", "battery", "then", "plus", "some", "about"),
        *("around", "using", "use", "have", "has", "going", "me", "us", "away", "each", "every"),
        *("day", "days", "that", "or", "while", "how", "long", "van", "car", "tent", "its"),
        *("refilled", "recharged", "before", "leaving", "do", "need", "lasts", "last", "will"),
    ]
)
"""Words that say nothing by themselves."""
MAX_TEXT = 400


class Understood(LazyModel):
    """One stretch of the text and what it was taken for."""

    typed: str
    taken_for: str


class Reading(LazyModel):
    """A sentence from typed words: what was understood, and what was not."""

    sentence: Sentence
    understood: list[Understood]
    left: list[str]
    """Words that nothing was made of."""


def read_sentence(text: str, base: Sentence, today: date) -> Reading:
    """A sentence from words like "100ah agm, 120w, fridge and lights, 3 nights, June".

    What the words do not say stays as `base` has it, but for what charges and runs: words that
    name any of those name all.
    """
    draft = Draft(f" {text[:MAX_TEXT]} ".replace("\x00", " "), today, base)
    chargers: list[Charger] = []
    things: list[Thing] = []
    trip_words.read_place(draft)
    trip_words.read_shape(draft)
    thing_words.read_daily(draft, things)
    thing_words.read_watts_and_hours(draft, things)
    thing_words.read_sending(draft, things)
    box_words.read_bank(draft)
    box_words.read_unit(draft)
    none = box_words.read_no_sources(draft)
    box_words.read_chargers(draft, chargers)
    trip_words.read_length(draft)
    trip_words.read_when(draft)
    trip_words.read_cold(draft)
    thing_words.read_things(draft, things)
    if not none:
        box_words.read_bare_watts(draft, chargers)
    if chargers or none:
        draft.put(chargers=chargers)
    if things:
        draft.put(things=things)
    left = [
        word
        for word in re.findall(r"[^\W_][\w'.-]*", draft.text.replace("\x00", " "))
        if word.strip(".'-").lower() not in FILLERS
    ]
    told = [Understood(typed=typed, taken_for=what) for _, typed, what in sorted(draft.understood)]
    return Reading(sentence=draft.sentence, understood=told, left=left)
