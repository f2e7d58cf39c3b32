"""The text in pieces: quantities, nouns, negations, spans of the day, shares, what parts them."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Literal

from oddkettle.usecases.onboarding.grammar.nouns import SAY_NOTHING, Noun, misspelt, noun_at
from oddkettle.usecases.onboarding.grammar.quantities import (
    NUMBERS,
    QUANTITY,
    Quantity,
    quantity_of,
)

Kind = Literal[
    "quantity", "noun", "count", "not", "only", "span", "share", "every", "comma", "stop", "weak",
    "word", "filler",
]  # fmt: skip
NOON, DAY = 12 * 60, 24 * 60
ALL_NIGHT = (22 * 60, 7 * 60)
SHARES = {"tenth": 10.0, "fifth": 20.0, "quarter": 25.0, "third": 100.0 / 3.0, "half": 50.0,
          "two thirds": 200.0 / 3.0, "three quarters": 75.0}  # fmt: skip
NTH = {"other": 2, "second": 2, "2nd": 2, "third": 3, "3rd": 3, "fourth": 4, "4th": 4}


@dataclass
class Token:
    """One piece of the text, from `start` to `end`.

    `value` is a share in percent, or every how many days; `span` minutes of the day. What a noun
    was given stands in `has`; `spelt` says that its word was taken as a misspelt one.
    """

    kind: Kind
    start: int
    end: int
    text: str
    noun: Noun | None = None
    quantity: Quantity | None = None
    value: float = 0.0
    span: tuple[int, int] | None = None
    spelt: bool = False
    count: int | None = None
    negated: bool = False
    taken: bool = False
    has: list[Token] = field(default_factory=list)

    def quantities(self, unit: str, *, a_day: bool | None = None) -> list[Quantity]:
        """What a noun was given in a unit."""
        found = [t.quantity for t in self.has if t.quantity and t.quantity.unit == unit]
        return [q for q in found if a_day is None or q.a_day == a_day]

    def given(self, kind: Kind) -> Token | None:
        """The first of a kind that a noun was given."""
        return next((t for t in self.has if t.kind == kind), None)


_CLOCK = r"(?P<{0}>\d{{1,2}})(?:[:.](?P<{0}m>\d\d))?\s*(?P<{0}p>am|pm|h(?![a-z])|o'?clock)?"
NOT_A_CLOCK = (
    r"\s*-?\s*(?:\d|%|°|(?:k?wh?|m?ah?|v|l|min(?:utes?)?|h|hours?|hrs?|watts?|amps?|degrees|c"
    r"|litres?|nights?|days?|weeks?|months?)\b)"
)
"""What makes two figures a range of something else than hours."""
_RULES: tuple[tuple[Kind, str], ...] = (
    (
        "not",
        r"(?:(?:i|we)\s+)?(?:do\s*n[o']?t|don['’]t|never|cannot|won['’]t)"
        r"(?:\s+(?:have|use|want|need|run))?"
        r"(?:\s+any)?\b|(?:no|not|without|zero|none(?:\s+of)?|instead\s+of|rather\s+than)"
        r"(?:\s+(?:any|a|an|the|using))?\b|0(?=\s+(?:solar|sun|panel))",
    ),
    ("filler", r"only(?=\s*(?:[,;.!?)]|$))"),
    ("filler", r"(?<!for )(?<!about )(?:a|per|each|/)\s*(?:day|night)\b"),
    ("only", r"(?:but|just|only|except|and\s+only|nothing\s+but)\b"),
    (
        "every",
        r"(?:once\s+)?every\s+(?:(?P<nth>other|second|2nd|third|3rd|fourth|4th)\s+|"
        rf"(?P<n>\d{{1,2}}|{'|'.join(NUMBERS)})\s+)?(?:days?|nights?)\b",
    ),
    ("span", r"(?:over\s*night|all\s+night(?:\s+long)?|through\s+the\s+night)\b"),
    (
        "span",
        r"(?:all\s+day(?:\s+long)?|day\s+and\s+night|24\s*/\s*7|24\s*h(?:ours)?\s*(?:/|a|per)\s*"
        r"day|around\s+the\s+clock|always(?:\s+on)?|continuous(?:ly)?|non-?stop"
        r"|all\s+the\s+time)\b",
    ),
    ("span", rf"(?:from\s+)?{_CLOCK.format('a')}\s*(?:to|until|till|-|–)\s*{_CLOCK.format('b')}"
             rf"(?!{NOT_A_CLOCK})"),
    (
        "share",
        rf"(?:a\s+|one\s+)?(?P<word>{'|'.join(SHARES)})\s+(?:of\s+)?(?:the\s+time|(?=\d+\s*h))"
        r"|(?:for\s+)?(?:a|one)\s+(?P<part>half|third|quarter|fifth|tenth)\s+of\b",
    ),
    ("stop", r"[;!?\n]|\.(?!\d)"),
    ("comma", r"[,)+&]|\band\b|\bplus\b|\bthen\b|\bor\b"),
    ("weak", r"[(:\-–/=]|\bwith\b|\bat\b|\bof\b"),
)  # fmt: skip
RULES = [(kind, re.compile(pattern, re.IGNORECASE)) for kind, pattern in _RULES]
TIMES = re.compile(
    r"(?:(?P<word>once|twice|thrice)|(?P<n>two|three|four|\d)\s*(?:times|x))"
    r"\s+(?:a|per|each|every)\s+(?:day|night)\b|(?P<alone>twice)\s+daily\b",
    re.IGNORECASE,
)
COUNT = re.compile(
    rf"(?:(?P<n>\d{{1,2}})\s*[x×]?|(?P<word>{'|'.join(NUMBERS)})|[x×]\s*(?P<after>\d{{1,2}}))"
    r"(?![\w.,]*\d)(?=\s|$|[,;).])",
    re.IGNORECASE,
)
WORD = re.compile(r"[^\W_][\w'’-]*")


def tokens_of(text: str) -> list[Token]:
    """Every piece of a text in its order; what was taken before is blank and parts it."""
    found: list[Token] = []
    at = 0
    while at < len(text):
        if text[at].isspace():
            at += 1
            continue
        if text[at] == "\x00":
            found.append(Token("comma", at, at + 1, ""))
            while at < len(text) and text[at] == "\x00":
                at += 1
            continue
        token = _token_at(text, at)
        if token.text:
            found.append(token)
        at = max(token.end, at + 1)
    return found


def _token_at(text: str, at: int) -> Token:
    inside = at > 0 and (text[at - 1].isalnum() or text[at - 1] == "'")
    if not inside:
        for make in (_times, _rule, _noun, _quantity, _count):
            token = make(text, at)
            if token is not None:
                return token
    else:
        token = _rule(text, at)
        if token is not None and token.kind in {"stop", "comma", "weak"}:
            return token
    word = WORD.match(text, at)
    if word is None:
        return Token("filler", at, at + 1, "")
    plain = word.group().lower()
    if plain.strip("-'’") in SAY_NOTHING:
        return Token("filler", at, word.end(), word.group())
    meant = misspelt(plain)
    if meant is not None:
        return Token("noun", at, word.end(), word.group(), noun=meant, spelt=True)
    return Token("word", at, word.end(), word.group())


def _noun(text: str, at: int) -> Token | None:
    found = noun_at(text, at)
    if found is None:
        return None
    noun, end = found
    return Token("noun", at, end, text[at:end], noun=noun)


def _quantity(text: str, at: int) -> Token | None:
    found = QUANTITY.match(text, at)
    if found is None:
        return None
    return Token("quantity", at, found.end(), found.group(), quantity=quantity_of(found))


def _times(text: str, at: int) -> Token | None:
    found = TIMES.match(text, at)
    if found is None:
        return None
    word = (found.group("word") or found.group("alone") or "").lower()
    told = {"once": 1, "twice": 2, "thrice": 3}.get(word)
    if told is None:
        n = found.group("n").lower()
        told = NUMBERS.get(n) or int(n)
    return Token("quantity", at, found.end(), found.group(), quantity=Quantity(told, "times"))


def _count(text: str, at: int) -> Token | None:
    found = COUNT.match(text, at)
    if found is None:
        return None
    digits = found.group("n") or found.group("after")
    n = int(digits) if digits else NUMBERS[found.group("word").lower()]
    kind: Kind = "filler" if (found.group("word") or "").lower() in {"a", "an"} else "count"
    return Token(kind, at, found.end(), found.group(), count=n)


def _rule(text: str, at: int) -> Token | None:
    for kind, pattern in RULES:
        found = pattern.match(text, at)
        if found is None:
            continue
        token = Token(kind, at, found.end(), found.group())
        token.taken = kind == "filler"
        if kind == "every":
            nth, n = found.group("nth"), found.group("n")
            token.value = NTH.get((nth or "").lower(), 1)
            if n:
                token.value = int(n) if n.isdigit() else NUMBERS[n.lower()]
        elif kind == "share":
            token.value = SHARES[(found.group("word") or found.group("part")).lower()]
        elif kind == "span":
            span = _span(found)
            if span is None:
                continue
            token.span = span
        return token
    return None


def _span(found: re.Match[str]) -> tuple[int, int] | None:
    """Minutes of the day, from and to; None for what is none."""
    groups = found.groupdict()
    if groups.get("a") is None:
        return (
            ALL_NIGHT if "night" in found.group().lower().replace("day and night", "") else (0, DAY)
        )
    ends = []
    for one in "ab":
        hour, half = int(groups[one]), (groups.get(f"{one}p") or "").lower()
        if half == "pm" and hour < 12:
            hour += 12
        ends.append(60 * hour + int(groups.get(f"{one}m") or 0))
    return (ends[0] % DAY, ends[1]) if max(ends) <= DAY and ends[0] != ends[1] else None
