"""What to ask about words that nothing sure could be made of: choices, each a whole sentence."""

from __future__ import annotations

from oddkettle.plan.quantities import LazyModel
from oddkettle.usecases.onboarding.chargers import CHARGERS
from oddkettle.usecases.onboarding.grammar.tokens import Token
from oddkettle.usecases.onboarding.sentence import Charger, Sentence, Thing

PANEL_W = (50.0, 100.0, 200.0)
MOST_W = 5000.0
"""As much as a sentence takes of either."""
DRIVEN = (("driving", 25.0), ("socket", 5.0))


class PossibleMeaning(LazyModel):
    """One answer, and the sentence with it."""

    text: str
    sentence: Sentence


class Doubtful(LazyModel):
    """Words that were not understood; with choices where it is known what they may be."""

    typed: str
    choices: list[PossibleMeaning]


def ask(token: Token, sentence: Sentence) -> Doubtful:
    """What one piece of the text may have been."""
    noun = "" if token.noun is None else token.noun.kind
    choices: list[PossibleMeaning] = []
    quantity = token.quantity
    watts = 0.0
    if quantity is not None and quantity.unit == "W":
        watts = quantity.value * quantity.count
    if 1 <= watts <= MOST_W:
        choices = [
            *(_with(sentence, Charger(kind=kind, size=watts)) for kind in ("roof", "folding")),
            PossibleMeaning(
                text=f"something that runs, {watts:g} W",
                sentence=_running(sentence, Thing(kind="other", power_w=watts)),
            ),
        ]
    elif noun == "panel":
        kind = token.noun.key or "roof" if token.noun else "roof"
        choices = [_with(sentence, Charger(kind=kind, size=watts)) for watts in PANEL_W]
    elif noun == "drive":
        choices = [_with(sentence, Charger(kind=kind, size=amps)) for kind, amps in DRIVEN]
    return Doubtful(typed=token.text.strip(), choices=choices)


def _with(sentence: Sentence, charger: Charger) -> PossibleMeaning:
    kind = CHARGERS[charger.kind]
    chargers = [*sentence.chargers, charger]
    return PossibleMeaning(
        text=f"{kind.text}, {charger.size:g} {kind.unit}",
        sentence=sentence.model_copy(update={"chargers": chargers[:6]}),
    )


def _running(sentence: Sentence, thing: Thing) -> Sentence:
    return sentence.model_copy(update={"things": [*sentence.things, thing][:20]})
