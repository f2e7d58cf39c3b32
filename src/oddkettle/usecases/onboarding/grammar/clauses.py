"""Which figure belongs to which noun: to the nearest that can have its unit."""

from __future__ import annotations

import re
from dataclasses import replace

from oddkettle.usecases.onboarding.chargers import CHARGERS
from oddkettle.usecases.onboarding.grammar.nouns import Noun
from oddkettle.usecases.onboarding.grammar.quantities import Quantity
from oddkettle.usecases.onboarding.grammar.tokens import Token

TIMED = {"drive", "charger"}
CAN: dict[str, set[str]] = {
    "W": {"thing", "panel", "inverter"},
    "A": {"thing", "charger", "controller", "drive"},
    "Ah": {"bank", "chemistry", "vehicle"},
    "Wh": {"unit", "bank", "chemistry"},
    "V": {"thing", "bank", "chemistry", "panel", "inverter", "controller", "way"},
    "l": {"thing"},
    "h": {"thing", *TIMED},
    "%": {"thing"},
    "times": {"thing"},
}
"""The kinds of noun that can have a unit."""
PART = {"comma": 3.0, "stop": 40.0, "weak": 0.2, "only": 3.0, "not": 3.0}
WORDS_BETWEEN, NOUN_BETWEEN, TAKEN = 0.3, 4.0, 5.0
NAMED = "named"
"""The key of a thing that the table does not know and the text names."""
BEHIND = 0.5
"""A figure rather belongs to the noun before it, where both are as near."""
TOO_FAR = 30.0
TIME_WORDS = re.compile(r"(?:night|day|week|month|hour|evening)s?", re.IGNORECASE)
START_WORDS = re.compile(r"start(?:s|ing|up)?|start-?up|surge|peaks?|inrush", re.IGNORECASE)


def attach(tokens: list[Token]) -> None:
    """Give every figure, span, share and schedule to its noun; what fits none stays free."""
    deny(tokens)
    skip_starts(tokens)
    set_vehicles_apart(tokens)
    merge_panels(tokens)
    name_the_unknown(tokens)
    for place, token in enumerate(tokens):
        if token.kind in {"quantity", "span", "share", "every"}:
            owner = _owner(tokens, place)
            if owner is not None:
                owner.has.append(token)
                token.taken = True
    for place, token in enumerate(tokens):
        if token.kind == "count":
            _count(tokens, place)


def deny(tokens: list[Token]) -> None:
    """What stands behind "no", "not", "without": the nouns up to the next part of the sentence."""
    for place, token in enumerate(tokens):
        if token.kind != "not":
            continue
        if token.text.lower().strip() in {"no", "none"} and _answers(tokens, place):
            continue
        seen = False
        for other in tokens[place + 1 :]:
            if other.kind in {"stop", "only", "not"}:
                break
            if other.kind == "comma" and not (seen and other.text.lower() == "or"):
                if seen or other.text:
                    break
                continue
            if other.kind == "quantity" and seen:
                break
            if other.kind == "weak" and other.text in {":", "(", "="}:
                break
            if other.kind == "noun":
                if seen and other.noun is not None and other.noun.kind == "thing":
                    break
                other.negated = True
                token.taken = True
                seen = token.text.lower().startswith(("instead", "rather")) or True
            elif other.kind == "quantity":
                other.taken = True


def _answers(tokens: list[Token], place: int) -> bool:
    """Whether it denies the noun before it, as in: solar? None."""
    after = tokens[place + 1] if place + 1 < len(tokens) else None
    if after is not None and after.kind not in {"stop", "comma"}:
        return False
    for other in reversed(tokens[max(place - 2, 0) : place]):
        if other.kind == "noun":
            other.negated = tokens[place].taken = True
            return True
    return False


def skip_starts(tokens: list[Token]) -> None:
    """What is told of a start is no use for hours: such a thing's usual start is taken."""
    for place, token in enumerate(tokens):
        if token.kind != "word" or not START_WORDS.fullmatch(token.text):
            continue
        for other in tokens[place + 1 : place + 4]:
            if other.quantity is not None and other.quantity.unit in {"W", "A"}:
                token.kind, other.kind = "filler", "filler"
                token.taken = other.taken = True
                other.quantity = None
                break


def set_vehicles_apart(tokens: list[Token]) -> None:
    """Give a starter battery its own size and kind: neither is the box's."""
    for place, token in enumerate(tokens):
        if token.noun is None or token.noun.kind != "vehicle":
            continue
        for other in _clause(tokens, place):
            own_kind = other.noun is not None and other.noun.kind == "chemistry"
            own_size = other.quantity is not None and other.quantity.unit == "Ah"
            if own_kind or own_size:
                token.has.append(other)
                other.kind, other.noun, other.taken = "filler", None, True


def merge_panels(tokens: list[Token]) -> None:
    """Make one noun of the words for one panel, as in: flexible panel on the roof."""
    last: Token | None = None
    watts = 0
    for token in tokens:
        if token.kind in {"comma", "stop"}:
            last, watts = None, 0
        elif token.kind == "quantity" and token.quantity and token.quantity.unit == "W":
            watts += 1
        elif token.noun is not None and token.noun.kind == "panel" and not token.negated:
            if last is not None and watts < 2:
                key = token.noun.key or (last.noun.key if last.noun else "")
                last.noun = Noun("panel", key)
                token.kind, token.noun, token.taken = "filler", None, True
            else:
                last = token
        elif token.noun is not None and token.noun.kind not in {"controller", "charger"}:
            last, watts = None, 0


def name_the_unknown(tokens: list[Token]) -> None:
    """Take unknown words beside a figure that needs a noun for its name, as in: speaker 10 W."""
    for place, token in enumerate(tokens):
        quantity = token.quantity
        if quantity is None or quantity.unit not in {"W", "A", "Wh"}:
            continue
        if quantity.unit == "Wh" and not quantity.a_day:
            continue
        clause = _clause(tokens, place)
        able = CAN[quantity.unit] | ({"thing"} if quantity.a_day else set())
        if any(t.noun is not None and t.noun.kind in able for t in clause):
            continue
        words = [t for t in clause if t.kind == "word"]
        if not words:
            continue
        first, last = words[0], words[0]
        for word in words[1:]:
            if word.start - last.end > 1:
                break
            last = word
        for word in words:
            if first.start <= word.start <= last.end:
                word.taken = True
        first.kind, first.noun = "noun", Noun("thing", NAMED)
        first.text = " ".join(w.text for w in words if first.start <= w.start <= last.end)


def _clause(tokens: list[Token], place: int) -> list[Token]:
    """The pieces between the commas about a place."""
    first = place
    while first > 0 and tokens[first - 1].kind not in {"comma", "stop", "only", "not"}:
        first -= 1
    last = place
    while last < len(tokens) and tokens[last].kind not in {"comma", "stop", "only"}:
        last += 1
    return tokens[first:last]


def _owner(tokens: list[Token], place: int) -> Token | None:
    """The nearest noun that can have what stands at a place; None where none is near."""
    best: tuple[float, Token] | None = None
    for other in range(len(tokens)):
        noun = tokens[other]
        if noun.kind != "noun" or noun.negated or not _can(noun, tokens[place]):
            continue
        if other > place and _parted(tokens, place, other):
            continue
        cost = _distance(tokens, place, other)
        if other < place:
            cost += BEHIND if _follows(tokens, place) else 0.0
        elif not _follows(tokens, place):
            cost += BEHIND
        if _has_alike(noun, tokens[place]):
            cost += TAKEN
        if cost < TOO_FAR and (best is None or cost < best[0]):
            best = cost, noun
    return None if best is None else best[1]


def _parted(tokens: list[Token], place: int, other: int) -> bool:
    """Whether a figure by itself stands before a comma: what comes behind that is another thing."""
    quantity = tokens[place].quantity
    if quantity is None or quantity.unit not in {"W", "A", "Wh"}:
        return False
    between = tokens[place + 1 : other]
    return any(t.kind in {"comma", "only"} and t.text not in {"+", "&", "and"} for t in between)


def _follows(tokens: list[Token], place: int) -> bool:
    """Whether its clause begins with the figure: then its noun comes behind it."""
    quantity = tokens[place].quantity
    if quantity is None or quantity.unit in {"h", "times", "%"}:
        return False
    clause = _clause(tokens, place)
    at = next(n for n, token in enumerate(clause) if token is tokens[place])
    able = [n for n, t in enumerate(clause) if t.kind == "noun" and _can(t, tokens[place])]
    return bool(able) and able[0] > at


def _can(noun: Token, token: Token) -> bool:
    """Whether a noun can have what a piece of the text tells."""
    kind = noun.noun.kind if noun.noun else ""
    if token.quantity is not None:
        return _can_measure(noun, token.quantity)
    if token.kind == "every":
        timed = kind in TIMED or _timed(noun)
        return timed or (kind == "thing" and token.value == 1)
    return kind == "thing" or (token.kind == "span" and kind == "inverter")


def _can_measure(noun: Token, quantity: Quantity) -> bool:
    """Whether a noun can have a figure of such a unit."""
    kind, key = (noun.noun.kind, noun.noun.key) if noun.noun else ("", "")
    if quantity.unit in {"Ah", "Wh"} and (kind == "thing" or quantity.a_day):
        charged = quantity.unit == "Wh" and key in CHARGED
        return kind == "thing" and (quantity.a_day or charged)
    if kind == "way" and quantity.unit in {"W", "A", "h"}:
        return _timed(noun) if quantity.unit == "h" else quantity.unit == CHARGERS[key].unit
    return kind in CAN.get(quantity.unit, set())


def _timed(noun: Token) -> bool:
    """Whether it is a way to charge for which something is done for a time."""
    if noun.noun is None or noun.noun.kind != "way":
        return False
    return CHARGERS[noun.noun.key].block is not None


CHARGED = {"ebike", "drone", "tools", "camera"}
"""Things whose Wh are those of a battery that is filled once a day."""


def _has_alike(noun: Token, token: Token) -> bool:
    if token.quantity is None:
        return any(t.kind == token.kind for t in noun.has)
    return bool(noun.quantities(token.quantity.unit, a_day=token.quantity.a_day))


def _distance(tokens: list[Token], place: int, other: int) -> float:
    """How far apart two pieces are: by what parts them, and what stands between."""
    low, high = min(place, other), max(place, other)
    cost = 0.0
    for token in tokens[low + 1 : high]:
        if token.kind == "noun" and token.noun is not None and token.noun.kind == "use":
            # "Running a third of the time": a verb, and nothing that could have a figure.
            cost += WORDS_BETWEEN
        elif token.kind == "noun":
            cost += NOUN_BETWEEN
        else:
            cost += PART.get(token.kind, WORDS_BETWEEN if token.kind != "quantity" else 0.1)
    return cost


def _only_describes(token: Token) -> bool:
    """Whether a piece says nothing of how many there are: "two 12 V fans" are two."""
    if token.quantity is not None:
        return token.quantity.unit in {"V", "l"}
    if token.kind == "weak":
        return token.text not in {":", "("}
    return token.kind == "filler" and not TIME_WORDS.fullmatch(token.text)


def _count(tokens: list[Token], place: int) -> None:
    """Give a count to what stands beside it, as in: 2 phones, phone x2, 2 x 100 W."""
    token = tokens[place]
    before = tokens[place - 1] if place else None
    after = next((t for t in tokens[place + 1 : place + 4] if not _only_describes(t)), None)
    if token.text.lower().startswith(("x", "×")) and before is not None and before.kind == "noun":
        before.count, token.taken = token.count, True
    elif after is not None and after.kind == "noun" and not after.negated:
        after.count, token.taken = token.count, True
    elif after is not None and after.kind == "quantity":
        token.taken = True
        if after.quantity is not None and token.count:
            after.quantity = replace(after.quantity, count=token.count)
