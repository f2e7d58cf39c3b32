"""What a fault is: where it is seen, and its causes as questions, one after the other."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

Where = Literal[
    "charging", "at switch-on", "after minutes", "at night", "the meter", "noise", "heat or smell",
    "nothing works",
]  # fmt: skip
"""Where trouble is seen first."""
WHERE: tuple[Where, ...] = (
    "nothing works", "charging", "at switch-on", "after minutes", "at night", "the meter",
    "noise", "heat or smell",
)  # fmt: skip


@dataclass(frozen=True)
class Cause:
    """One question of a symptom.

    `weight` orders causes; `measure` is what to do with the meter and `shows` what it shows when
    this is not the cause, or, with `found_when` "right", when it is. `then` is what to do about
    it; `leads_to` a symptom to go on with.
    """

    key: str
    text: str
    weight: float
    measure: str
    shows: str
    then: str
    found_when: Literal["wrong", "right"] = "wrong"
    leads_to: str = ""


@dataclass(frozen=True)
class Symptom:
    """What is wrong, and its causes, the likeliest first."""

    key: str
    where: Where
    text: str
    causes: tuple[Cause, ...]


def symptom(key: str, where: Where, text: str, causes: Iterator[Cause]) -> Symptom:
    """A symptom with its causes in the order in which they are tried."""
    return Symptom(key, where, text, tuple(sorted(causes, key=lambda cause: -cause.weight)))
