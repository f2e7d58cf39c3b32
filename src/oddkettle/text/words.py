"""How Odd Kettle says times, amounts and days."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING

from oddkettle.core.units.quantity import clock

if TYPE_CHECKING:
    from oddkettle.core.simulation.case import Case
    from oddkettle.core.simulation.run import Run

NUMBER_WORDS = tuple(
    "no one two three four five six seven eight nine ten eleven twelve".split()  # noqa: SIM905
)


LONG_TRIP_DAYS = 28


def article(text: str) -> str:
    """The indefinite article of a text that may begin with a figure, as it is spoken."""
    return "an" if text.startswith(("8", "11 ", "18 ", "a", "e", "i", "o", "u", "AGM")) else "a"


def number_word(count: int) -> str:
    """Small counts as words, larger ones as digits."""
    return NUMBER_WORDS[count] if count < len(NUMBER_WORDS) else str(count)


def span_words(case: Case) -> str:
    """Like "all four nights", or "all four days" of a trip of whole days."""
    count = case.days if case.nights is None else case.nights
    noun = "day" if case.nights is None else "night"
    if count == 2:
        return f"both {noun}s"
    return f"all {number_word(count)} {noun}s" if count > 1 else f"the {noun}"


def moment(run: Run, step: int) -> datetime:
    """Local time at the start of a step; one past the last is the end of the run."""
    first = int(run.grid.starts_utc[0].astype("int64"))
    return datetime.fromtimestamp(first + step * run.grid.step_min * 60, run.grid.zone)


def day_words(when: datetime, days: int = 1) -> str:
    """Like Fri 12, or 12 Nov on a trip of so many days that weekdays come again and again."""
    return f"{when:%a} {when.day}" if days <= LONG_TRIP_DAYS else f"{when.day} {when:%b}"


def date_and_clock(when: datetime) -> str:
    """Like Fri 12 Nov 07:30."""
    return f"{when:%a} {when.day} {when:%b} {clock(when)}"


def part_of_day(when: datetime) -> str:
    """The word a camper uses for an hour."""
    names = ((5, "night"), (8, "dawn"), (12, "morning"), (17, "afternoon"), (22, "evening"))
    return next((name for before, name in names if when.hour < before), "night")


def percent_words(share: float) -> str:
    """Whole percent."""
    return f"{100 * share:.0f} %"


def life_words(low: float, high: float) -> str:
    """Between which percents of a battery's life, like 0.09 to 0.2 %."""
    return f"{low:.2g} to {high:.2g} %"


def duration_words(hours: float) -> str:
    """Minutes below an hour and a half, else hours."""
    if hours < 1.5:
        return f"{60 * hours:.0f} min"
    return f"{hours:.1f} h" if hours < 10 else f"{hours:.0f} h"
