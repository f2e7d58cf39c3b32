"""What is made of a text while it is read."""

from __future__ import annotations

from dataclasses import dataclass, field

from oddkettle.usecases.onboarding.grammar.tokens import Token
from oddkettle.usecases.onboarding.sentence import Bank, Charger, Thing


@dataclass
class Meaning:
    """What was made of the words: parts that are None, or empty, were not told.

    `told` are the pieces and what each was taken for, `guessed` the pieces among them of which
    something was a guess. `without` says that nothing charges it; `unmounted` are panels
    of which nobody said how they stand.
    """

    bank: Bank | None = None
    chemistry: bool = False
    chargers: list[Charger] = field(default_factory=list)
    unmounted: list[Charger] = field(default_factory=list)
    without: bool = False
    things: list[Thing] = field(default_factory=list)
    told: list[tuple[Token, str]] = field(default_factory=list)
    guessed: list[Token] = field(default_factory=list)

    def say(self, token: Token, what: str, *, guess: bool = False) -> None:
        """That a piece was taken for something."""
        token.taken = True
        self.told.append((token, what))
        if guess:
            self.guessed.append(token)


def nouns_of(tokens: list[Token], *kinds: str) -> list[Token]:
    """The nouns of some kinds that nothing denies."""
    return [t for t in tokens if t.noun is not None and not t.negated and t.noun.kind in kinds]


def token_key(token: Token) -> str:
    """Which of its kind a noun is; empty where it does not say."""
    return token.noun.key if token.noun is not None else ""
