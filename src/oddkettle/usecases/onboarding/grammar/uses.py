"""Things that run, from nouns with their figures."""

from __future__ import annotations

from pydantic import ValidationError

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.units.conversion import CLASS_V, HOURS_PER_DAY
from oddkettle.plan.quantities import clock_minutes
from oddkettle.plan.use import Hours
from oddkettle.usecases.onboarding.grammar.clauses import NAMED
from oddkettle.usecases.onboarding.grammar.found import Meaning, nouns_of, token_key
from oddkettle.usecases.onboarding.grammar.tokens import DAY, Token
from oddkettle.usecases.onboarding.plan_of import clock_of
from oddkettle.usecases.onboarding.sentence import MAX_COUNT, Thing
from oddkettle.usecases.onboarding.things import COUNTABLE, THINGS

AVERAGE_A = 2.5
"""A cool box of fewer amps is told as a mean over the day: none runs on so little [judgement]."""
LEAD_V = 12.0


def read_things(tokens: list[Token], found: Meaning) -> None:
    """Every thing with its figures; then what runs and has no name."""
    volts = LEAD_V
    if found.bank is not None and found.bank.kind in CHEMISTRIES:
        chemistry = CHEMISTRIES[found.bank.kind]
        volts = LEAD_V if chemistry.lead else chemistry.nominal_v
    for token in nouns_of(tokens, "thing"):
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
        change["wh_a_day"] = daily[0].value * daily[0].count
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
