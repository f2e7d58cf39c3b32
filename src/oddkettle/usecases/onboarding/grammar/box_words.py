"""Words about the box: its battery, and what charges it."""

from __future__ import annotations

import re
from functools import partial

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.text.words import number_word
from oddkettle.usecases.onboarding.chargers import CHARGERS
from oddkettle.usecases.onboarding.grammar.draft import COUNT, FIGURE, Draft, figure_in, number_in
from oddkettle.usecases.onboarding.sentence import Bank, Charger
from oddkettle.usecases.onboarding.things import UNIT
from oddkettle.usecases.plans.plan_words import spoken

CHEMISTRY_WORDS = {
    "lifepo4": "lifepo4", "lifepo": "lifepo4", "lfp": "lifepo4", "lithium": "lifepo4",
    "li": "lifepo4", "agm": "agm", "gel": "gel", "flooded": "flooded", "wet": "flooded",
    "lead": "flooded", "lead-acid": "flooded", "nmc": "nmc", "li-ion": "nmc",
    "lithium-ion": "nmc", "lto": "lto", "titanate": "lto",
}  # fmt: skip
UNIT_WORDS = r"(?:power\s*station|power\s*bank|ready-?made(?:\s*unit)?|all-in-one|unit)"


def read_bank(draft: Draft) -> None:
    """Ah, chemistry, count and pads of a battery."""
    words = "|".join(sorted(CHEMISTRY_WORDS, key=len, reverse=True))
    pattern = rf"(?<!\w){COUNT}{FIGURE}\s*a\.?h\b\.?\s*(?:(?P<kind>{words})\b)?"

    def use(found: re.Match[str]) -> str | None:
        size, count = figure_in(found), number_in(found.group("count")) or 1
        kind = CHEMISTRY_WORDS.get((found.group("kind") or "").lower())
        if not 1 <= size <= 1500 or not 1 <= count <= 8:
            return None
        kept = kind or (draft.sentence.bank.kind if draft.sentence.bank.kind != UNIT else "lifepo4")
        draft.put(bank=Bank(kind=kept, size=size, count=count))
        what = (
            f"a box of {size:g} Ah"
            if count == 1
            else f"{number_word(count)} batteries of {size:g} Ah"
        )
        return f"{what}, {spoken(kept)}"

    draft.take(pattern, use)

    def chemistry(found: re.Match[str]) -> str | None:
        kind = CHEMISTRY_WORDS[found.group("kind").lower()]
        draft.put(bank=draft.sentence.bank.model_copy(update={"kind": kind}))
        return f"a battery of the kind {CHEMISTRIES[kind].name}"

    draft.take(rf"\b(?P<kind>{words})\b", chemistry)

    def pads(_found: re.Match[str]) -> str:
        draft.put(bank=draft.sentence.bank.model_copy(update={"pads": True}))
        return "heater pads under the battery"

    draft.take(r"\b(?:with\s+)?(?:heater\s+)?pads\b", pads)


def read_unit(draft: Draft) -> None:
    """Wh of a ready-made unit."""

    def use(found: re.Match[str]) -> str | None:
        size = figure_in(found)
        if not 10 <= size <= 20000:
            return None
        draft.put(bank=Bank(kind=UNIT, size=size))
        return f"a ready-made unit of {size:g} Wh"

    daily = r"(?!\s*(?:a|per|/)\s*day)"
    draft.take(rf"(?<!\w){FIGURE}\s*wh\b{daily}\s*{UNIT_WORDS}?", use)


def read_chargers(draft: Draft, chargers: list[Charger]) -> None:
    """Everything that charges it, and how often and long it drives."""
    rules = [(typed, kind.key) for kind in CHARGERS.values() for typed in kind.typed]
    for typed, key in sorted(rules, key=lambda rule: rule[0].turn):
        pattern = typed.pattern.replace("<count>", COUNT).replace("<figure>", FIGURE)
        take = partial(_charger, kind=key, usual=typed.usual, words=typed.words, chargers=chargers)
        draft.take(rf"(?<![\w.]){pattern}", take)

    def every(found: re.Match[str]) -> str | None:
        nth = {"other": 2, "second": 2, "third": 3, "fourth": 4}.get(found.group("nth") or "", 1)
        return _driving(chargers, every=number_in(found.group("count")) or nth)

    draft.take(
        r"\b(?:(?:i\s+)?driv(?:e|es|ing)\s+)?every\s+(?:(?P<nth>other|second|third|fourth)|"
        r"(?P<count>\d+|two|three|four|five|six|seven))?\s*(?:day|days)\b",
        every,
    )

    def minutes(found: re.Match[str]) -> str | None:
        factor = 60 if found.group("unit").lower().startswith("h") else 1
        return _driving(chargers, minutes=round(figure_in(found) * factor))

    draft.take(
        rf"(?<![\w.]){FIGURE}\s*(?P<unit>min(?:ute)?s?|h|hours?)\b(?:\s*(?:of\s+)?"
        r"(?:driving|a\s+day))?",
        minutes,
    )


def _driving(chargers: list[Charger], **change: int) -> str | None:
    """Change every way to charge by driving; None where there is none or it is out of bounds."""
    timed = [c for c in chargers if CHARGERS[c.kind].block == "drive"]
    if not timed or not (
        1 <= change.get("every", 1) <= 30 and 5 <= change.get("minutes", 5) <= 720
    ):
        return None
    chargers[:] = [c.model_copy(update=change) if c in timed else c for c in chargers]
    if "minutes" in change:
        return f"driving {change['minutes']} minutes at a time"
    return "driving every day" if change["every"] == 1 else f"driving every {change['every']} days"


def read_no_sources(draft: Draft) -> bool:
    """Whether the words say that nothing charges it on the way."""
    found: list[bool] = []

    def use(_found: re.Match[str]) -> str:
        found.append(True)
        return "nothing to charge it on the way"

    draft.take(
        r"\b(?:no\s+(?:sun|solar|charging|panel)|nothing\s+to\s+charge\s+it|"
        r"without\s+(?:sun|charging)|(?:mains|charged|full)\s+before\s+(?:leaving|we\s+go|"
        r"i\s+go))\b",
        use,
    )
    return bool(found)


def _charger(
    found: re.Match[str], *, kind: str, usual: float, words: str, chargers: list[Charger]
) -> str | None:
    groups = found.groupdict()
    typed = groups.get("size")
    size = float(typed.replace(",", ".")) if typed else usual
    size *= number_in(groups.get("count")) or 1
    if not 1 <= size <= 5000 or (not typed and any(c.kind == kind for c in chargers)):
        return None
    chargers.append(Charger(kind=kind, size=size))
    said = words.format(size=size)
    return said if typed else f"{said}, as is usual"


def read_bare_watts(draft: Draft, chargers: list[Charger]) -> None:
    """Watts that belong to nothing are a panel's, and it is said that they were taken so."""

    def use(found: re.Match[str]) -> str | None:
        size = figure_in(found)
        if any(CHARGERS[c.kind].source == "sun" for c in chargers) or not 1 <= size <= 5000:
            return None
        chargers.append(Charger(kind="folding", size=size))
        return f"a folding panel of {size:g} W, since no other word says what it is"

    draft.take(rf"(?<![\w.]){FIGURE}\s*w(?:atts?)?\b", use)
