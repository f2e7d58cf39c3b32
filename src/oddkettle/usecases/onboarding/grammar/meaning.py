"""What nouns with their figures mean: a battery, ways to charge, things that run."""

from __future__ import annotations

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.usecases.onboarding.chargers import CHARGERS
from oddkettle.usecases.onboarding.grammar.found import Meaning, nouns_of, token_key
from oddkettle.usecases.onboarding.grammar.nouns import Noun
from oddkettle.usecases.onboarding.grammar.quantities import Quantity
from oddkettle.usecases.onboarding.grammar.tokens import Token
from oddkettle.usecases.onboarding.grammar.uses import read_things
from oddkettle.usecases.onboarding.sentence import Bank, Charger
from oddkettle.usecases.onboarding.things import UNIT
from oddkettle.usecases.plans.plan_words import spoken

SIX_V = 6.0
FOLDING, MAINS, DCDC = "folding", "mains", "driving"
"""What a panel and a charger are taken for, where nothing more is told of them."""
DRIVEN = frozenset(key for key, way in CHARGERS.items() if way.block == "drive")


def meaning_of(tokens: list[Token]) -> Meaning:
    """The box and its use; trips are read from the words that are left."""
    found = Meaning()
    _bank(tokens, found)
    _chargers(tokens, found)
    read_things(tokens, found)
    for token in tokens:
        if token.noun is not None and token.negated:
            found.say(token, f"no {token.text.strip()}")
            if token.noun.kind in {"panel", "sun", "drive", "way"}:
                found.without = True
    return found


def _bank(tokens: list[Token], found: Meaning) -> None:
    nouns = nouns_of(tokens, "bank", "chemistry", "unit")
    units = [t for t in nouns if t.noun is not None and t.noun.kind == "unit"]
    kinds = [t for t in nouns if t.noun is not None and t.noun.kind == "chemistry"]
    for token in nouns_of(tokens, "vehicle"):
        _say_all(found, token, "the vehicle's own battery, which is not counted on")
    energy = _energy(tokens)
    if units or (energy and not kinds):
        _unit(units, energy, found)
    else:
        _battery(tokens, nouns, kinds, energy, found)
    if found.bank is None:
        return
    own = {*map(id, nouns), *(id(t) for t in tokens if t.quantity and t.quantity.unit == "Ah")}
    for token in nouns_of(tokens, "age"):
        place = tokens.index(token)
        # "New here" is said of somebody else.
        if not any(id(t) in own for t in tokens[max(place - 3, 0) : place + 3]):
            token.taken = True
            continue
        found.say(token, f"a battery that is {token.text.lower()}")
        found.bank = found.bank.model_copy(update={"age": token_key(token)})
    for token in nouns_of(tokens, "pads"):
        found.say(token, "heater pads under the battery")
        found.bank = found.bank.model_copy(update={"pads": True})


def _unit(units: list[Token], energy: list[Token], found: Meaning) -> None:
    for token in units:
        found.say(token, "a ready-made unit")
    size = energy[0].quantity.value if energy and energy[0].quantity else None
    if size is not None and 10 <= size <= 20000:
        found.bank, found.chemistry = Bank(kind=UNIT, size=size), True
        found.say(energy[0], f"a ready-made unit of {size:g} Wh", guess=not units)


def _battery(
    tokens: list[Token],
    nouns: list[Token],
    kinds: list[Token],
    energy: list[Token],
    found: Meaning,
) -> None:
    kind = token_key(kinds[0]) if kinds else "lifepo4"
    for token in nouns:
        token.taken = True
    sizes = _sizes(tokens, nouns)
    for token in kinds:
        if token_key(token) != kind:
            token.taken = False
        elif token.spelt or not sizes:
            words = f"a battery of the kind {CHEMISTRIES[kind].name}"
            found.say(token, words, guess=token.spelt)
    ah, count = 100.0, max([1, *(t.count for t in nouns if t.count)])
    if sizes:
        quantities = [t.quantity for t in sizes if t.quantity]
        ah = quantities[0].value
        count = max([count, *(q.count for q in quantities), sum(q.value == ah for q in quantities)])
    elif energy and energy[0].quantity:
        ah = round(energy[0].quantity.value / CHEMISTRIES[kind].nominal_v)
        found.say(energy[0], f"a battery of {ah:g} Ah", guess=True)
    elif not kinds:
        return
    six = [q for t in nouns for q in t.quantities("V") if q.value == SIX_V]
    if six and count % 2 == 0:
        # Two of six volts in series are one of twelve.
        count //= 2
    if not 1 <= ah <= 1500 or not 1 <= count <= 8:
        for token in sizes:
            token.taken = False
        return
    for token in sizes:
        if token.quantity is not None and token.quantity.value != ah:
            # Another size than the first: which of them it is, is asked.
            token.taken = False
            continue
        words = f"{ah:g} Ah" if count == 1 else f"{count} batteries of {ah:g} Ah"
        found.say(token, f"{words}, {spoken(kind)}" if kinds else words)
    found.bank, found.chemistry = Bank(kind=kind, size=ah, count=count), bool(kinds)


def _sizes(tokens: list[Token], nouns: list[Token]) -> list[Token]:
    """Ah of the battery: told with a noun of it, or with none; a bare count beside its kind."""
    sizes = [
        t
        for t in tokens
        if t.quantity is not None and t.quantity.unit == "Ah" and not t.quantity.a_day
    ]
    vehicles = {id(part) for t in nouns_of(tokens, "vehicle") for part in t.has}
    sizes = [t for t in sizes if id(t) not in vehicles]
    if sizes:
        return sizes
    for place, token in enumerate(tokens):
        near = [t for t in tokens[max(place - 1, 0) : place + 2] if t in nouns]
        if token.kind == "word" and token.text.isdigit() and near and 5 <= int(token.text) <= 1500:
            token.quantity = Quantity(float(token.text), "Ah", guessed=True)
            return [token]
    return []


def _energy(tokens: list[Token]) -> list[Token]:
    """Wh that are no use of a day and no thing's."""
    things = [t for t in tokens if t.noun is not None and t.noun.kind == "thing"]
    theirs = [id(one) for thing in things for one in thing.has]
    return [
        t
        for t in tokens
        if t.quantity is not None
        and t.quantity.unit == "Wh"
        and not t.quantity.a_day
        and id(t) not in theirs
    ]


def _chargers(tokens: list[Token], found: Meaning) -> None:
    """Ways to charge; a driving, a charger and a controller belong to those beside them."""
    drives = nouns_of(tokens, "drive")
    ways = nouns_of(tokens, "panel", "way")
    loose = nouns_of(tokens, "charger")
    _loose_chargers(tokens, loose, ways, found)
    for token in nouns_of(tokens, "controller"):
        _say_all(found, token, "a controller: the tool takes one that passes the panel")
    for token in nouns_of(tokens, "inverter"):
        _say_all(found, token, "an inverter: the tool takes one for what runs on mains")
    _driven_chargers(drives, ways)
    drives = nouns_of(tokens, "drive")
    driven = [t for t in ways if token_key(t) in DRIVEN]
    for token in drives:
        for way in driven:
            way.has += token.has
        if driven:
            _say_all(found, token, "driving")
    for token in ways:
        assert token.noun is not None
        kind = token.noun.key or FOLDING
        charger = _charger(token, kind, found)
        if charger is not None:
            found.chargers.append(charger)
    for token in nouns_of(tokens, "sun", "use"):
        token.taken = True
    # A block of driving by itself charges nothing: what it drives is asked.
    for token in drives:
        if not driven:
            token.taken = False
            for part in token.has:
                part.taken = True


def _driven_chargers(drives: list[Token], ways: list[Token]) -> None:
    """Take "while driving (40 A)" for a DC-DC charger: no vehicle's socket gives so many."""
    for token in drives:
        if not any(token_key(t) in DRIVEN for t in ways) and token.quantities("A"):
            token.noun = Noun("way", DCDC)
            ways.append(token)


def _loose_chargers(
    tokens: list[Token], loose: list[Token], ways: list[Token], found: Meaning
) -> None:
    """A charger by itself is the mains' or the panels' beside it, or else one of the mains."""
    for token in loose:
        amps = [t for t in token.has if t.quantity and t.quantity.unit == "A"]
        place = tokens.index(token)
        near = [t for t in ways if abs(tokens.index(t) - place) <= 6]
        panels = [t for t in near if t.noun is not None and t.noun.kind == "panel"]
        others = [t for t in near if t not in panels]
        if others:
            for one in token.has:
                if one not in amps or not others[0].quantities("A"):
                    others[0].has.append(one)
            token.taken = True
        elif panels:
            _say_all(found, token, "a controller: the tool takes one that passes the panel")
        elif amps:
            token.noun = Noun("way", MAINS)
            ways.append(token)
        else:
            token.taken = False


def _say_all(found: Meaning, token: Token, what: str) -> None:
    found.say(token, what)
    for part in token.has:
        part.taken = True


def _charger(token: Token, kind: str, found: Meaning) -> Charger | None:
    way = CHARGERS[kind]
    unit = "W" if way.unit == "W" else "A"
    told = token.quantities(unit)
    if way.source == "sun" and not told:
        # How large a panel is nobody guesses: more sun than there is would promise too much.
        token.taken = False
        return None
    size = sum(q.value * q.count for q in told) if told and way.source == "sun" else way.usual
    if told and way.source != "sun":
        size = told[0].value * told[0].count
    if len(told) == 1 and told[0].count == 1 and (token.count or 1) > 1:
        size *= token.count or 1
    if not 1 <= size <= 5000:
        token.taken = False
        for part in token.has:
            part.taken = False
        return None
    change: dict[str, int] = {}
    every = token.given("every")
    if every is not None and 1 <= every.value <= 30:
        change["every"] = int(every.value)
    hours = token.quantities("h")
    if hours and way.block is not None and 5 <= 60 * hours[0].value <= 720:
        change["minutes"] = round(60 * hours[0].value)
    words = f"{size:g} {unit}"
    said = f"{way.text} of {words}" if told else f"{way.text}, {words} as is usual"
    found.say(token, said, guess=not told or (way.source == "sun" and not token_key(token)))
    charger = Charger(kind=kind, size=size, **change)
    if way.source == "sun" and not token_key(token):
        found.unmounted.append(charger)
    return charger
