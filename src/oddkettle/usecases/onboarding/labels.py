"""A label that is pasted where the sentence is typed."""

from __future__ import annotations

from pydantic import ConfigDict, Field, ValidationError

from oddkettle.formats.labels.kind import Value
from oddkettle.formats.labels.read import KINDS, MAX_TEXT, kind_of, read_label
from oddkettle.plan.quantities import LazyModel, Part
from oddkettle.usecases.labels.parts import LabelParts
from oddkettle.usecases.labels.reading import LabelReading, PartKind, told
from oddkettle.usecases.onboarding.chargers import CHARGERS
from oddkettle.usecases.onboarding.sentence import Bank, Charger, Sentence, Thing
from oddkettle.usecases.onboarding.things import UNIT

NEW_THING = "other"
PANEL_WAYS = ("folding", "roof")
FOLDS = ("fold", "portable", "suitcase")
WAYS = {"mains": "mains", "dcdc": "driving"}
"""The way to charge that a charger's label is about."""


class SentenceLabel(Part):
    """A label's text, and the sentence that it changes."""

    # Built at once: it is the body of a call.
    model_config = ConfigDict(defer_build=False)

    text: str = Field(max_length=MAX_TEXT)
    kind: PartKind | None = None
    base: Sentence


class LabelInSentence(LazyModel):
    """What was read, and the sentence with it; None where it says nothing that one has."""

    reading: LabelReading
    sentence: Sentence | None
    taken: str
    """What of it the sentence takes."""


def read_into(asked: SentenceLabel) -> LabelInSentence:
    """A label into the sentence. Nothing is changed: the answer is what would be."""
    kind = KINDS[asked.kind] if asked.kind else kind_of(asked.text)
    if kind is None:
        empty = LabelReading(
            kind=None, about="", lines=[], missing=[], notes=[], parts=LabelParts()
        )
        return LabelInSentence(reading=empty, sentence=None, taken="")
    label = read_label(asked.text, kind)
    try:
        sentence, taken = _with(kind.key, label.agreed, asked.text, asked.base)
        if sentence is not None:
            sentence = Sentence.model_validate(sentence.model_dump())
    except ValidationError:
        # A figure that no such part has, or one more than the sentence holds: nothing is taken.
        sentence, taken = None, ""
    return LabelInSentence(reading=told(label, LabelParts()), sentence=sentence, taken=taken)


def _with(
    kind: str, values: dict[str, Value], text: str, base: Sentence
) -> tuple[Sentence | None, str]:
    match kind:
        case "battery":
            return _battery(values, base)
        case "unit":
            return _unit(values, base)
        case "panel":
            return _panel(values, text, base)
        case "mains" | "dcdc":
            return _charger(WAYS[kind], values, base)
        case "appliance":
            return _thing(values, base)
        case _:
            return None, ""


def _number(values: dict[str, Value], name: str) -> float | None:
    value = values.get(name)
    return value if isinstance(value, float) else None


def _battery(values: dict[str, Value], base: Sentence) -> tuple[Sentence | None, str]:
    size = _number(values, "capacity_ah")
    if size is None:
        return None, ""
    kind = str(values.get("chemistry", base.bank.kind if base.bank.kind != UNIT else "lifepo4"))
    count = base.bank.count if base.bank.kind != UNIT else 1
    bank = Bank(kind=kind, size=size, count=count, pads=base.bank.pads, age=base.bank.age)
    return base.model_copy(update={"bank": bank}), f"a battery of {size:g} Ah"


def _unit(values: dict[str, Value], base: Sentence) -> tuple[Sentence | None, str]:
    size = _number(values, "capacity_wh")
    if size is None:
        return None, ""
    return (
        base.model_copy(update={"bank": Bank(kind=UNIT, size=size)}),
        f"a ready-made unit of {size:g} Wh",
    )


def _panel(values: dict[str, Value], text: str, base: Sentence) -> tuple[Sentence | None, str]:
    power = _number(values, "power_w")
    if power is None:
        return None, ""
    size = power * (_number(values, "count") or 1.0)
    now = next((one for one in base.chargers if one.kind in PANEL_WAYS), None)
    folds = any(word in text.lower() for word in FOLDS)
    kind = "folding" if folds else now.kind if now else "roof"
    return _put(Charger(kind=kind, size=size), now, base), f"{size:g} W of panels"


def _charger(kind: str, values: dict[str, Value], base: Sentence) -> tuple[Sentence | None, str]:
    size = _number(values, "limit_a")
    if size is None or size < 1:
        return None, ""
    now = next((one for one in base.chargers if one.kind == kind), None)
    new = now.model_copy(update={"size": size}) if now else Charger(kind=kind, size=size)
    return _put(new, now, base), f"{CHARGERS[kind].text}, {size:g} A"


def _put(new: Charger, now: Charger | None, base: Sentence) -> Sentence:
    others = [one for one in base.chargers if one is not now]
    place = base.chargers.index(now) if now else len(others)
    return base.model_copy(update={"chargers": [*others[:place], new, *others[place:]]})


def _thing(values: dict[str, Value], base: Sentence) -> tuple[Sentence | None, str]:
    power, daily = _number(values, "power_w"), _number(values, "wh_a_day")
    if power is None and daily is None:
        return None, ""
    kind = "mains_thing" if values.get("supply") == "mains" else NEW_THING
    thing = Thing(kind=kind, power_w=power if daily is None else None, wh_a_day=daily)
    text = f"something of {power:g} W" if daily is None else f"something of {daily:.0f} Wh a day"
    return base.model_copy(update={"things": [*base.things, thing]}), text
