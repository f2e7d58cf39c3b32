"""What nouns with their figures mean: a battery, ways to charge, things that run."""

from __future__ import annotations

from dataclasses import dataclass, field

from pydantic import ValidationError

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.units.conversion import CLASS_V, HOURS_PER_DAY
from oddkettle.plan.quantities import clock_minutes
from oddkettle.plan.use import Hours
from oddkettle.usecases.onboarding.chargers import CHARGERS
from oddkettle.usecases.onboarding.grammar.clauses import NAMED
from oddkettle.usecases.onboarding.grammar.nouns import Noun
from oddkettle.usecases.onboarding.grammar.quantities import Quantity
from oddkettle.usecases.onboarding.grammar.tokens import DAY, Token
from oddkettle.usecases.onboarding.plan_of import clock_of
from oddkettle.usecases.onboarding.sentence import MAX_COUNT, Bank, Charger, Thing
from oddkettle.usecases.onboarding.things import COUNTABLE, THINGS, UNIT
from oddkettle.usecases.plans.plan_words import spoken

AVERAGE_A = 2.5
"""A cool box of fewer amps is told as a mean over the day: none runs on so little [judgement]."""
CHARGES: dict[str, str] = {
    "panel": "folding", "dcdc": "driving", "relay": "relay", "socket": "socket", "mains": "mains",
    "generator": "generator", "crank": "crank",
}  # fmt: skip
"""Kinds of noun that charge, and the way to charge that they are."""
UNITS_OF = {"W": ("panel", "generator", "crank"), "A": ("dcdc", "relay", "socket", "mains")}
LEAD_V, SIX_V = 12.0, 6.0


@dataclass
class Meaning:
    """What was made of the words: parts that are None, or empty, were not told.

    `told` are the pieces and what each was taken for, `guessed` the pieces among them of which
    something was a guess. `without` says that nothing charges it.
    """

    bank: Bank | None = None
    chemistry: bool = False
    chargers: list[Charger] = field(default_factory=list)
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


def meaning_of(tokens: list[Token]) -> Meaning:
    """The box and its use; trips are read from the words that are left."""
    found = Meaning()
    _bank(tokens, found)
    _chargers(tokens, found)
    _things(tokens, found)
    for token in tokens:
        if token.noun is not None and token.negated:
            found.say(token, f"no {token.text.strip()}")
            if token.noun.kind in {"panel", "sun", "drive", "dcdc", "mains"}:
                found.without = True
    return found


def _nouns(tokens: list[Token], *kinds: str) -> list[Token]:
    return [t for t in tokens if t.noun is not None and not t.negated and t.noun.kind in kinds]


def _bank(tokens: list[Token], found: Meaning) -> None:
    nouns = _nouns(tokens, "bank", "chemistry", "unit")
    units = [t for t in nouns if t.noun is not None and t.noun.kind == "unit"]
    kinds = [t for t in nouns if t.noun is not None and t.noun.kind == "chemistry"]
    for token in _nouns(tokens, "vehicle"):
        _say_all(found, token, "the vehicle's own battery, which is not counted on")
    energy = _energy(tokens)
    if units or (energy and not kinds):
        _unit(units, energy, found)
    else:
        _battery(tokens, nouns, kinds, energy, found)
    if found.bank is None:
        return
    own = {*map(id, nouns), *(id(t) for t in tokens if t.quantity and t.quantity.unit == "Ah")}
    for token in _nouns(tokens, "age"):
        place = tokens.index(token)
        # "New here" is said of somebody else.
        if not any(id(t) in own for t in tokens[max(place - 3, 0) : place + 3]):
            token.taken = True
            continue
        found.say(token, f"a battery that is {token.text.lower()}")
        found.bank = found.bank.model_copy(update={"age": token_key(token)})
    for token in _nouns(tokens, "pads"):
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
    vehicles = {id(part) for t in _nouns(tokens, "vehicle") for part in t.has}
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
    drives = _nouns(tokens, "drive")
    ways = _nouns(tokens, *CHARGES)
    loose = _nouns(tokens, "charger")
    _loose_chargers(tokens, loose, ways, found)
    for token in _nouns(tokens, "controller"):
        _say_all(found, token, "a controller: the tool takes one that passes the panel")
    for token in _nouns(tokens, "inverter"):
        _say_all(found, token, "an inverter: the tool takes one for what runs on mains")
    driven = [t for t in ways if t.noun is not None and t.noun.kind in {"dcdc", "relay", "socket"}]
    for token in drives:
        for way in driven:
            way.has += token.has
        if driven:
            _say_all(found, token, "driving")
    for token in ways:
        assert token.noun is not None
        kind = CHARGES[token.noun.kind]
        if token.noun.kind == "panel" and token.noun.key:
            kind = token.noun.key
        charger = _charger(token, kind, found)
        if charger is not None:
            found.chargers.append(charger)
    for token in _nouns(tokens, "sun", "use"):
        token.taken = True
    # A block of driving by itself charges nothing: what it drives is asked.
    for token in drives:
        if not driven:
            token.taken = False
            for part in token.has:
                part.taken = True


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
            token.noun = Noun("mains")
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
    return Charger(kind=kind, size=size, **change)


def token_key(token: Token) -> str:
    """Which of its kind a noun is; empty where it does not say."""
    return token.noun.key if token.noun is not None else ""


def _things(tokens: list[Token], found: Meaning) -> None:
    volts = LEAD_V
    if found.bank is not None and found.bank.kind in CHEMISTRIES:
        chemistry = CHEMISTRIES[found.bank.kind]
        volts = LEAD_V if chemistry.lead else chemistry.nominal_v
    for token in _nouns(tokens, "thing"):
        thing = _thing(token, volts, found)
        _add(found, thing)
    _nameless(tokens, volts, found)


def _add(found: Meaning, thing: Thing) -> None:
    """One more thing: named alone twice it is two; named again with its figures it is the same."""
    same = [
        n
        for n, other in enumerate(found.things)
        if other.kind == thing.kind not in {"coolbox", "other"} and (_plain(other) or _plain(thing))
    ]
    if not same:
        found.things.append(thing)
        return
    other = found.things[same[0]]
    if _plain(other) and _plain(thing):
        count = min(other.count + thing.count, MAX_COUNT)
        found.things[same[0]] = other.model_copy(update={"count": count})
    elif _plain(other):
        found.things[same[0]] = thing.model_copy(update={"count": max(other.count, thing.count)})


def _plain(thing: Thing) -> bool:
    return thing == Thing(kind=thing.kind, count=thing.count)


def _thing(token: Token, volts: float, found: Meaning) -> Thing:
    key = token_key(token)
    named = key == NAMED
    if key == "mainskettle" and token.quantities("V") and token.quantities("V")[0].value == CLASS_V:
        key = "kettle"
    kind = "other" if named else key
    count, plural = token.count or 1, token.count is None and _plural(token, kind)
    change: dict[str, object] = {"kind": kind, "count": min(2 if plural else count, MAX_COUNT)}
    if named:
        change["name"] = token.text[:1].upper() + token.text[1:80]
    guess = token.spelt or named or plural
    guess = _energy_of(token, kind, volts, change) or guess
    hours = _hours(token, kind)
    if hours is not None:
        change["hours"] = hours
    share = token.given("share")
    percent = token.quantities("%")
    told = share.value if share else percent[0].value if percent else None
    if told is not None and 0 < told <= 100:
        change["sending_percent" if kind == "radio" else "duty_percent"] = told
    try:
        thing = Thing(**change)  # type: ignore[arg-type]
    except ValidationError:
        # A figure that no such thing has: it is told as not understood, and the thing is as usual.
        for part in token.has:
            part.taken = False
        token.has.clear()
        thing = Thing(kind=kind, count=min(token.count or 1, MAX_COUNT))
    for unit in ("W", "A", "Wh", "Ah", "h", "%"):
        # A second figure of the same kind was made nothing of, and is told as such.
        more = [t for t in token.has if t.quantity is not None and t.quantity.unit == unit]
        for one in more[1:]:
            one.taken = False
            token.has.remove(one)
    found.say(token, _words(thing), guess=guess)
    return thing


def _plural(token: Token, kind: str) -> bool:
    """Whether it is said of several without how many: two, then."""
    text = token.text.lower()
    return kind in COUNTABLE and text.endswith("s") and not THINGS[kind].one.endswith("s")


def _energy_of(token: Token, kind: str, volts: float, change: dict[str, object]) -> bool:
    """Watts, or what it takes in a day; says whether something was guessed."""
    daily = [*token.quantities("Wh", a_day=True), *token.quantities("Wh", a_day=False)]
    charge = token.quantities("Ah", a_day=True)
    watts, amps = token.quantities("W"), token.quantities("A")
    if daily:
        change["wh_a_day"] = daily[0].value
    elif charge:
        change["wh_a_day"] = charge[0].value * volts
    elif watts:
        change["power_w"] = watts[0].value
        if watts[0].count > 1:
            change["count"] = min(watts[0].count, MAX_COUNT)
        return watts[0].guessed
    elif amps:
        if kind == "coolbox" and amps[0].value <= AVERAGE_A and token.given("share") is None:
            change["wh_a_day"] = amps[0].value * volts * HOURS_PER_DAY
            return True
        change["power_w"] = amps[0].value * volts
    return False


def _hours(token: Token, kind: str) -> Hours | None:
    """Its hours: as told, or so long from where such a thing usually begins."""
    span = token.given("span")
    if span is not None and span.span is not None:
        start, end = span.span
        return Hours(start=clock_of(start), end=clock_of(end))
    told = token.quantities("h")
    times = token.quantities("times")
    if not told:
        return None
    minutes = round(60 * told[0].value * (times[0].value if times else 1))
    if minutes >= DAY - 1:
        return Hours(start="00:00", end="24:00")
    if minutes < 1 or kind == "coolbox":
        return None
    begins = clock_minutes(THINGS[kind].appliance.hours[0].start)
    if minutes > DAY - begins:
        begins = max(DAY - minutes, 0)
    return Hours(start=clock_of(begins), end=clock_of(begins + minutes))


def _words(thing: Thing) -> str:
    """What a thing was taken for."""
    kind = THINGS[thing.kind]
    said = thing.name or (kind.one if thing.count == 1 else f"{thing.count} {kind.many}")
    if thing.wh_a_day is not None:
        said += f" that takes {thing.wh_a_day:.3g} Wh a day"
    elif thing.power_w is not None:
        said += f" of {thing.power_w:.3g} W"
    if thing.hours is not None:
        said += f" from {thing.hours.start} to {thing.hours.end}"
    if thing.duty_percent is not None:
        said += f", {thing.duty_percent:.0f} % of the time"
    if thing.sending_percent is not None:
        said += f", sending {thing.sending_percent:.0f} % of the time"
    return said


def _nameless(tokens: list[Token], volts: float, found: Meaning) -> None:
    """Use of a day, or watts for hours, that are told of nothing: something else that runs."""
    free = [t for t in tokens if t.quantity is not None and not t.taken]
    for token in free:
        quantity = token.quantity
        if quantity is None:
            continue
        if quantity.a_day and quantity.unit in {"Wh", "Ah"}:
            wh = quantity.value * (volts if quantity.unit == "Ah" else 1.0)
            if not 0.0 < wh <= MOST_WH:
                continue
            thing = Thing(kind="logger" if wh < LOGGER_WH else "other", wh_a_day=wh)
        elif (
            quantity.unit == "W"
            and 1.0 <= quantity.value <= MOST_W
            and (hours := _free_hours(tokens, token)) is not None
        ):
            thing = Thing(kind="other", power_w=quantity.value, hours=hours)
        else:
            continue
        found.things.append(thing)
        found.say(token, _words(thing), guess=True)


MOST_WH, MOST_W = 20_000.0, 5000.0
"""As much as a sentence takes of one thing."""
LOGGER_WH = 20.0
"""What takes less in a day, and is not named, is called a logger."""


def _free_hours(tokens: list[Token], watts: Token) -> Hours | None:
    """Hours that stand right behind watts of nothing."""
    place = tokens.index(watts)
    for token in tokens[place + 1 : place + 4]:
        if token.kind in {"comma", "stop", "noun"}:
            return None
        if token.quantity is not None and token.quantity.unit == "h":
            token.taken = True
            minutes = round(60 * token.quantity.value)
            begins = 0 if minutes >= DAY else max(18 * 60 - minutes, 0)
            return Hours(start=clock_of(begins), end=clock_of(min(begins + minutes, DAY)))
        if token.span is not None:
            token.taken = True
            return Hours(start=clock_of(token.span[0]), end=clock_of(token.span[1]))
    return None
