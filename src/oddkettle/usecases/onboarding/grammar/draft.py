"""What the rules of the grammar share: numbers, and the text from which each takes its words."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import date

from oddkettle.usecases.onboarding.grammar.quantities import NUMBERS
from oddkettle.usecases.onboarding.sentence import Sentence

FIGURE = r"(?P<size>\d+(?:[.,]\d+)?)"


@dataclass
class Draft:
    """What the rules have found so far."""

    text: str
    today: date
    sentence: Sentence
    understood: list[tuple[int, str, str]] = field(default_factory=list)

    def take(
        self,
        pattern: str,
        use: Callable[[re.Match[str]], str | None],
        flags: re.RegexFlag = re.IGNORECASE,
    ) -> None:
        """Let a rule take every match of a pattern; a rule that returns None leaves it."""
        at = 0
        rule = re.compile(pattern, flags)
        while found := rule.search(self.text, at):
            taken_for = use(found)
            at = found.end()
            if taken_for is None:
                continue
            self.understood.append((found.start(), found.group().strip(" ,."), taken_for))
            blank = "\x00" * (found.end() - found.start())
            self.text = self.text[: found.start()] + blank + self.text[found.end() :]

    def put(self, **changes: object) -> None:
        """Change parts of the sentence."""
        self.sentence = self.sentence.model_copy(update=changes)


def number_in(text: str | None) -> int | None:
    """A count in digits or words."""
    if text is None:
        return None
    return NUMBERS.get(text.lower()) if not text.isdigit() else int(text)


def figure_in(found: re.Match[str]) -> float:
    """The figure of a match, with a point or a comma."""
    return float(found.group("size").replace(",", "."))
