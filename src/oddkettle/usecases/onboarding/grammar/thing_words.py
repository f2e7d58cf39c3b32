"""Words about what runs."""

from __future__ import annotations

import re

from oddkettle.plan.use import Hours
from oddkettle.usecases.onboarding.grammar.draft import (
    ALIASES,
    COUNT,
    FIGURE,
    Draft,
    figure_in,
    number_in,
)
from oddkettle.usecases.onboarding.sentence import Thing
from oddkettle.usecases.onboarding.things import COUNTABLE, THINGS

SHARES = {"tenth": 10.0, "fifth": 20.0, "quarter": 25.0, "third": 33.0, "half": 50.0}
LOGGER_WH = 20.0
"""What uses less in a day, and is not named, is called a logger."""


def read_watts_and_hours(draft: Draft, things: list[Thing]) -> None:
    """Watts, shares and hours that stand beside a thing, before watts are a panel's."""
    names = "|".join(re.escape(word) for word, _ in ALIASES)

    def use(found: re.Match[str]) -> str | None:
        key = dict(ALIASES)[found.group("thing").lower()]
        start, end = found.group("from"), found.group("until")
        watts = found.group("size") or found.group("after")
        hours = None
        if start and end:
            first, last = int(start), int(end)
            if first > 24 or last > 24:
                return None
            hours = Hours(start=f"{first % 24:02d}:00", end=f"{last:02d}:00")
        if watts is None and hours is None:
            return None
        power = float(watts.replace(",", ".")) if watts else None
        if power is not None and not 0.01 <= power <= 5000:
            return None
        count = number_in(found.group("count")) or 1
        things.append(Thing(kind=key, count=min(count, 12), power_w=power, hours=hours))
        said = THINGS[key].one if count == 1 else f"{count} {THINGS[key].many}"
        said += f" of {power:g} W" if power is not None else ""
        return said + (f" from {hours.start} to {hours.end}" if hours else "")

    span = r"(?:\s*,?\s*(?:from\s+)?(?P<from>\d{1,2})(?::00)?\s*(?:to|-|–|until)\s*(?P<until>\d{1,2})(?::00)?\b(?!\s*[a-z%°]))?"  # noqa: E501
    draft.take(
        rf"(?<!\w)(?:(?P<size>\d+(?:[.,]\d+)?)\s*w(?:atts?)?\s+)?{COUNT}"
        rf"(?P<thing>{names})\b(?:\s+(?:of\s+|at\s+)?(?P<after>\d+(?:[.,]\d+)?)\s*w(?:atts?)?"
        rf"\b)?{span}",
        use,
    )


def read_daily(draft: Draft, things: list[Thing]) -> None:
    """Energy a day, of a thing or of what only a logger takes."""
    names = "|".join(re.escape(word) for word, _ in ALIASES)

    def use(found: re.Match[str]) -> str | None:
        wh = figure_in(found)
        usual = "logger" if wh < LOGGER_WH else "other"
        key = dict(ALIASES).get((found.group("thing") or "").lower(), usual)
        if not 0 < wh <= 20000:
            return None
        things.append(Thing(kind=key, wh_a_day=wh))
        return f"{THINGS[key].one} that uses {wh:g} Wh a day"

    draft.take(
        rf"(?<!\w)(?:(?P<thing>{names})\s+(?:of\s+|using\s+)?)?{FIGURE}\s*wh\s*"
        r"(?:a|per|/)\s*day\b",
        use,
    )


def read_sending(draft: Draft, things: list[Thing]) -> None:
    """How much of its hours a radio sends."""

    def use(found: re.Match[str]) -> str | None:
        told = found.group("share").lower()
        share = SHARES.get(told) or float(told.rstrip(" %"))
        hours = number_in(found.group("hours"))
        if not 0 <= share <= 100 or (hours is not None and not 1 <= hours <= 24):
            return None
        change: dict[str, object] = {"sending_percent": share}
        if hours is not None:
            change["hours"] = Hours(start=f"{max(21 - hours, 0):02d}:00", end="21:00")
        radios = [thing for thing in things if thing.kind == "radio"]
        things[:] = [t for t in things if t.kind != "radio"]
        things.append((radios or [Thing(kind="radio")])[0].model_copy(update=change))
        said = f"a radio that sends {share:g} % of its time"
        return said + (f", {hours} hours a day" if hours else "")

    draft.take(
        r"\b(?:sending|transmitting|on\s+the\s+air)\s+(?:for\s+)?(?:(?:a|one)\s+)?"
        r"(?P<share>quarter|third|half|fifth|tenth|\d+\s*%)(?:\s+of\s+(?:the\s+time|"
        r"(?P<hours>\d+)\s*(?:hours?|h)\b(?:\s+a\s+day)?))?",
        use,
    )


def read_things(draft: Draft, things: list[Thing]) -> None:
    """Things by their names alone."""
    for word, key in ALIASES:

        def use(found: re.Match[str], key: str = key) -> str | None:
            plural = found.group("thing").lower().endswith("s") and key in COUNTABLE
            count = min(number_in(found.group("count")) or (2 if plural else 1), 12)
            things.append(Thing(kind=key, count=count))
            kind = THINGS[key]
            return kind.one if count == 1 else f"{count} {kind.many}"

        draft.take(rf"(?<!\w){COUNT}(?:\d+\s*l\s+)?(?P<thing>{re.escape(word)})\b", use)
