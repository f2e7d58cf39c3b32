"""Holds what the grammar made of sentences against what they mean.

A line of a corpus is `text | meaning`; a meaning is parts with semicolons between:

    bank KIND AH [xCOUNT] [new|old] [pads]     KIND "-" where the text does not say
    unit WH
    charge none, or sources with commas: KIND SIZE [/EVERY] [MINUTES]   SIZE "-" where not said
    run THING[*COUNT][@WATTS][~WH A DAY][#HOURS A DAY], with commas
    nights N; months N; month 1..12; date; place; shape; cold
    ask WORD     what has to be told as not understood

What a meaning does not name must not have been said by the text either: no thing and no source
comes from nowhere.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from datetime import date
from pathlib import Path
from typing import Literal

from oddkettle.plan.quantities import clock_minutes
from oddkettle.usecases.onboarding.grammar.read import Reading, read_sentence
from oddkettle.usecases.onboarding.sentence import Sentence, Thing, first_sentence
from tests.usecases.onboarding.test_sentence import MOOR

HERE = Path(__file__).parent / "corpus"
TODAY = date(2026, 11, 28)
CLOSE = 0.06
Verdict = Literal["wholly", "partly", "wrongly"]


@dataclass
class Held:
    """One sentence, what was made of it, and where that is not what it means."""

    text: str
    reading: Reading
    faults: list[str] = field(default_factory=list)

    @property
    def verdict(self) -> Verdict:
        """Partly: what was missed is told as not understood, and nothing was made up."""
        if not self.faults:
            return "wholly"
        missed = all(fault.startswith("missed") for fault in self.faults)
        return "partly" if missed and self.reading.left else "wrongly"


def corpus(name: str) -> list[tuple[str, str]]:
    """(text, meaning) of every line."""
    lines = (HERE / f"{name}.txt").read_text(encoding="utf-8").splitlines()
    pairs = [line.split(" | ") for line in lines if line and not line.startswith("#")]
    return [(text.strip(), meaning.strip()) for text, meaning in pairs]


def held(text: str, meaning: str) -> Held:
    """The reading of a text against what it means."""
    base = first_sentence(MOOR, TODAY)
    reading = read_sentence(text, base, TODAY)
    found = Held(text, reading)
    parts = dict(
        [*part.split(None, 1), ""][:2] for part in (p.strip() for p in meaning.split(";")) if part
    )
    for word in parts.get("ask", "").split():
        if not any(word in left.lower() for left in reading.left):
            found.faults.append(f"missed that {word} is told as not understood")
    if reading.sentence == base:
        # Nothing was made of it: that is right where there is nothing but a question.
        found.faults += [f"missed {part}" for part in parts if part != "ask"]
        return found
    _bank(found, parts, reading.sentence)
    _charge(found, parts, reading)
    _run(found, parts, reading)
    _rest(found, parts, reading, base)
    return found


def _differ(found: Held, what: str, wants: object, has: object, *, missed: bool = False) -> None:
    if wants != has:
        word = "missed" if missed else "wrong"
        found.faults.append(f"{word} {what}: wants {wants}, has {has}")


def _bank(found: Held, parts: dict[str, str], sentence: Sentence) -> None:
    bank, supposed = sentence.bank, found.reading.supposed
    if "unit" in parts:
        _differ(found, "unit", ("unit", float(parts["unit"])), (bank.kind, bank.size))
        return
    if "bank" not in parts:
        if "bank" not in supposed:
            found.faults.append(f"wrong bank from nowhere: {bank}")
        return
    kind, size, *more = parts["bank"].split()
    count = next((int(word[1:]) for word in more if word.startswith("x")), 1)
    missed = "bank" in supposed
    _differ(found, "size", (float(size), count), (bank.size, bank.count), missed=missed)
    if kind == "-":
        _differ(found, "kind supposed", True, "chemistry" in supposed)
    else:
        _differ(found, "kind", kind, bank.kind, missed=missed or "chemistry" in supposed)
    _differ(found, "pads", "pads" in more, bank.pads)
    _differ(found, "age", next((w for w in more if w in {"new", "years", "old"}), None), bank.age)


def _charge(found: Held, parts: dict[str, str], reading: Reading) -> None:
    has = sorted((c.kind, c.size, c.every, c.minutes) for c in reading.sentence.chargers)
    wanted = parts.get("charge", "")
    if wanted in {"", "none"}:
        if has:
            found.faults.append(f"wrong charge from nowhere: {has}")
        if wanted == "none" and "chargers" in reading.supposed:
            found.faults.append("missed that nothing charges it")
        return
    left = list(has)
    for one in wanted.split(","):
        kind, size, *more = one.split()
        every = next((int(word[1:]) for word in more if word.startswith("/")), None)
        minutes = next((int(word) for word in more if word.isdigit()), None)
        same = [
            c
            for c in left
            if c[0] == kind
            and (size == "-" or c[1] == float(size))
            and (every is None or c[2] == every)
            and (minutes is None or c[3] == minutes)
        ]
        if same:
            left.remove(same[0])
        else:
            near = [c for c in left if c[0] == kind]
            word = "wrong" if near else "missed"
            found.faults.append(f"{word} charge: wants {one.strip()}, has {has}")
            left = [c for c in left if c not in near[:1]]
    if left:
        found.faults.append(f"wrong charge from nowhere: {left}")


THING = re.compile(r"(?P<key>[a-z_]+)(?:\*(?P<n>\d+))?(?:@(?P<w>[\d.]+))?(?:~(?P<wh>[\d.]+))?"
                   r"(?:#(?P<h>[\d.]+))?")  # fmt: skip


def _run(found: Held, parts: dict[str, str], reading: Reading) -> None:
    things = list(reading.sentence.things)
    if "run" not in parts:
        if things and "things" not in reading.supposed:
            found.faults.append(f"wrong things from nowhere: {[t.kind for t in things]}")
        return
    if "things" in reading.supposed:
        found.faults.append(f"missed things: wants {parts['run']}")
        return
    for one in parts["run"].split(","):
        match = THING.fullmatch(one.strip())
        assert match is not None, one
        same = [t for t in things if t.kind == match["key"]]
        if not same:
            found.faults.append(f"missed thing: {one.strip()}")
            continue
        fits = [t for t in same if _fits(t, match)]
        if not fits:
            found.faults.append(f"wrong figures: wants {one.strip()}, has {same[0]!r}")
        things.remove(fits[0] if fits else same[0])
    if things:
        found.faults.append(f"wrong things from nowhere: {[t.kind for t in things]}")


def _fits(thing: Thing, wants: re.Match[str]) -> bool:
    # A plural without a figure is taken for two, as a guess.
    if thing.count not in ({int(wants["n"])} if wants["n"] else {1, 2}):
        return False
    pairs = [
        (wants["w"], thing.power_w),
        (wants["wh"], thing.wh_a_day),
        (wants["h"], _hours(thing)),
    ]
    for want, has in pairs:
        if want is not None and (has is None or abs(has - float(want)) > CLOSE * float(want)):
            return False
    return not (wants["w"] is None and wants["wh"] is None and thing.power_w is not None)


def _hours(thing: Thing) -> float | None:
    if thing.hours is None:
        return None
    minutes = clock_minutes(thing.hours.end) - clock_minutes(thing.hours.start)
    return (minutes % 1440 or 1440) / 60


def _rest(found: Held, parts: dict[str, str], reading: Reading, base: Sentence) -> None:
    sentence = reading.sentence
    shape = parts.get("shape", "alone" if "months" in parts else "trip")
    _differ(found, "shape", shape, sentence.shape)
    if "nights" in parts:
        missed = "nights" in reading.supposed
        _differ(found, "nights", int(parts["nights"]), sentence.nights, missed=missed)
    elif sentence.nights != base.nights:
        found.faults.append(f"wrong nights from nowhere: {sentence.nights}")
    if "months" in parts:
        _differ(found, "months", int(parts["months"]), sentence.months)
    if "month" in parts:
        missed = "start" in reading.supposed
        _differ(found, "month", int(parts["month"]), sentence.start.month, missed=missed)
    if "date" in parts:
        _differ(found, "date", parts["date"], sentence.start.isoformat())
    if "place" in parts:
        missed = "place" in reading.supposed
        _differ(found, "place", parts["place"], sentence.place.name, missed=missed)
    if "cold" in parts:
        _differ(found, "cold", float(parts["cold"]), sentence.coldest_c, missed=True)
    elif sentence.coldest_c is not None:
        found.faults.append(f"wrong cold from nowhere: {sentence.coldest_c}")
