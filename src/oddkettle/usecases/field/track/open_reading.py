"""A reading that nothing explains yet: what is asked of whoever read it, and what may be said."""

from __future__ import annotations

from typing import Literal

from oddkettle.core.estimation.readings import READING_KINDS, Reading, Taken
from oddkettle.plan.quantities import LazyModel
from oddkettle.usecases.field.log.log import answers_to
from oddkettle.usecases.field.track.tonight import unsettled
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip

What = Literal["again", "right", "reset", "smaller", "withdraw"]
ANSWERS: dict[What, str] = {
    "again": "Read it again",
    "right": "{name} is right",
    "reset": "The monitor was reset",
    "smaller": "The battery is smaller than I thought",
    "withdraw": "I misread it: take it back",
}


class Choice(LazyModel):
    """One thing that may be said of a reading that did not fit."""

    what: What
    text: str


class OpenReading(LazyModel):
    """The question about a reading that did not fit, where it was typed."""

    entry: int | None
    """The entry's number; None for a monitor's own sample, of which only a new one tells more."""
    text: str
    choices: list[Choice]


def question_of(here: TrackedTrip) -> OpenReading | None:
    """What is asked about the reading that is open, with both numbers; None where none is."""
    found = unsettled(here)
    if found is None:
        return None
    reading, taken = found
    kind = READING_KINDS[reading.kind]
    name = kind.name[0].upper() + kind.name[1:]
    said, expected = both_numbers(reading, taken)
    own = reading.key.isdigit()
    what: list[What] = ["again", *answers_to(kind), "withdraw"] if own else ["again"]
    subject = "The monitor" if kind.biased else "The reading"
    return OpenReading(
        entry=int(reading.key) if own else None,
        text=f"{name}: {said} was read, about {expected} was expected. Which is it? Until it is "
        "settled, the worse of the two counts.",
        choices=[Choice(what=one, text=ANSWERS[one].format(name=subject)) for one in what],
    )


def both_numbers(reading: Reading, taken: Taken) -> tuple[str, str]:
    """What was read, and between what it was expected, in words."""
    low, high = taken.expected
    kind = READING_KINDS[reading.kind]
    if kind.unit == "%":
        return f"{100 * reading.value:.0f} %", f"{100 * max(low, 0.0):.0f} to {100 * high:.0f} %"
    low_said, high_said, read = (f"{one:.{kind.digits}f}" for one in (low, high, reading.value))
    return f"{read} {kind.unit}", f"{low_said} to {high_said} {kind.unit}"
