"""Typed words into a sentence.

A figure belongs to the nearest noun that can have its unit; what is told of nothing is asked, and
what nobody said is told as supposed. Nothing is made up that would help a box to last.
"""

from __future__ import annotations

import re
from datetime import date
from typing import Literal

from oddkettle.formats.labels.read import looks_like_one
from oddkettle.plan.quantities import LazyModel
from oddkettle.usecases.onboarding.grammar import trip_words
from oddkettle.usecases.onboarding.grammar.asking import Doubtful, ask
from oddkettle.usecases.onboarding.grammar.clauses import attach
from oddkettle.usecases.onboarding.grammar.draft import Draft
from oddkettle.usecases.onboarding.grammar.found import Meaning
from oddkettle.usecases.onboarding.grammar.meaning import meaning_of
from oddkettle.usecases.onboarding.grammar.tokens import Token, tokens_of
from oddkettle.usecases.onboarding.sentence import Charger, Sentence

MAX_TEXT = 400


Supposed = Literal["bank", "chemistry", "chargers", "things", "nights", "place", "start"]
PIECES = {"quantity", "noun", "word", "count", "every", "share", "span"}
"""Kinds of pieces that mean something, so that they are told where they were not understood."""


class Understood(LazyModel):
    """One stretch of the text and what it was taken for; `guess` where that is not sure."""

    typed: str
    taken_for: str
    guess: bool = False


class Reading(LazyModel):
    """A sentence from typed words: what was understood, what was not, what nobody said."""

    sentence: Sentence
    understood: list[Understood]
    asked: list[Doubtful]
    """Words that nothing sure was made of, with what they may be."""
    supposed: list[Supposed]
    """Parts of the sentence that the words do not tell."""
    like_a_label: bool = False
    """The text reads more like a label than like a sentence."""

    @property
    def left(self) -> list[str]:
        """Words that nothing sure was made of."""
        return [one.typed for one in self.asked]


def read_sentence(text: str, base: Sentence, today: date) -> Reading:
    """A sentence from words like "100ah agm, 120w roof, fridge and lights, 3 nights, June".

    It starts from nothing: of `base` only place and day stay, where the words tell none, and what
    it is to run where they tell of no thing. Words that say only how long, when or where change
    that of `base` and nothing else.
    """
    draft = Draft(f" {text[:MAX_TEXT]} ".replace("\x00", " "), today, base)
    trip_words.read_place(draft)
    trip_words.read_shape(draft)
    draft.take(NOT_ON_THE_WAY, lambda _found: "nothing to charge it on the way")
    without = any(what == "nothing to charge it on the way" for _, _, what in draft.understood)
    trip_words.read_cold(draft)
    tokens = tokens_of(draft.text)
    attach(tokens)
    meaning = meaning_of(tokens)
    told = [(start, typed.strip(), what, False) for start, typed, what in draft.understood]
    for token in tokens:
        if token.taken or token.kind == "every":
            blank = "\x00" * (token.end - token.start)
            draft.text = draft.text[: token.start] + blank + draft.text[token.end :]
    before = len(draft.understood)
    trip_words.read_length(draft)
    trip_words.read_when(draft)
    if draft.sentence.place == base.place:
        trip_words.read_bare_place(draft)
    told += [(start, typed, what, False) for start, typed, what in draft.understood[before:]]
    told += [
        (token.start, _typed(token), what, token in meaning.guessed) for token, what in meaning.told
    ]
    sentence, supposed = _sentence(draft, base, meaning, without)
    asked = [ask(token, sentence) for token in tokens if _is_left(token, draft.text)]
    understood = [
        Understood(typed=typed, taken_for=what, guess=guess)
        for _, typed, what, guess in sorted(told)
    ]
    return Reading(
        sentence=sentence,
        understood=understood,
        asked=asked,
        supposed=supposed,
        like_a_label=looks_like_one(text),
    )


NOT_ON_THE_WAY = (
    r"\b(?:nothing\s+to\s+charge\s+it|(?:mains|charged|full)\s+before\s+(?:leaving|we\s+go|i\s+go)"
    r"|no\s+charging)\b"
)


def _is_left(token: Token, text: str) -> bool:
    """Whether a piece says something and no rule took it."""
    if token.kind not in PIECES or token.taken:
        return False
    return token.kind == "every" or "\x00" not in text[token.start : token.end]


def _typed(token: Token) -> str:
    parts = sorted([token, *token.has], key=lambda t: t.start)
    return " ".join(dict.fromkeys(part.text.strip() for part in parts))


def _sentence(
    draft: Draft, base: Sentence, meaning: Meaning, without: bool
) -> tuple[Sentence, list[Supposed]]:
    """The sentence, and the parts of it that are supposed."""
    after = draft.sentence
    says_box = meaning.bank is not None or meaning.chargers or meaning.things or meaning.without
    trip: tuple[tuple[Supposed, object, object], ...] = (
        ("nights", base.nights, after.nights),
        ("place", base.place, after.place),
        ("start", base.start, after.start),
    )
    supposed: list[Supposed] = [
        name for name, before, now in trip if before == now and not _says(draft, name)
    ]
    if not (says_box or without):
        return after, supposed
    if meaning.bank is None:
        supposed.append("bank")
    if not meaning.chemistry:
        supposed.append("chemistry")
    if not (meaning.chargers or meaning.without or without):
        supposed.append("chargers")
    if not meaning.things:
        supposed.append("things")
    fresh = Sentence(
        place=after.place,
        start=after.start,
        nights=after.nights if "nights" not in supposed else 3,
        shape=after.shape if after.shape != base.shape or _says(draft, "shape") else "trip",
        months=after.months,
        coldest_c=after.coldest_c if after.coldest_c != base.coldest_c else None,
    )
    changes: dict[str, object] = {
        "chargers": [_standing(one, meaning, fresh) for one in meaning.chargers],
        "things": meaning.things or base.things,
    }
    if meaning.bank is not None:
        changes["bank"] = meaning.bank
    return fresh.model_copy(update=changes), supposed


def _standing(charger: Charger, meaning: Meaning, sentence: Sentence) -> Charger:
    """A panel of which nobody said how it stands: where nobody is, none is put out by hand."""
    if sentence.shape == "alone" and any(charger is one for one in meaning.unmounted):
        return charger.model_copy(update={"kind": FIXED})
    return charger


FIXED = "roof"
SAYS = {
    "nights": r"night",
    "place": r" in |degrees",
    "start": r"^from \d",
    "shape": r"alone|stands by|question",
}


def _says(draft: Draft, name: str) -> bool:
    return any(re.search(SAYS[name], what) for _, _, what in draft.understood)
