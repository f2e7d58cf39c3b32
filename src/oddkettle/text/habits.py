"""How a reader writes figures: the choices, and how they are sent along with a question."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from typing import Literal, get_args, get_type_hints
from urllib.parse import unquote

COOKIE = "oddkettle-habits"
"""Goes with every question and every download of a browser, like `unit:Wh.clock:12`."""


@dataclass(frozen=True)
class Habits:
    """How its reader writes amounts, temperatures, cables, weights (and torques), times, prices."""

    unit: Literal["Ah", "Wh"] = "Ah"
    temperature: Literal["C", "F"] = "C"
    cable: Literal["mm2", "AWG"] = "mm2"
    weight: Literal["kg", "lb"] = "kg"
    clock: Literal["24", "12"] = "24"
    currency: Literal["EUR", "USD", "GBP"] = "EUR"
    """The sign only: what is typed is in it, and guesses in euros are taken one for one."""


USUAL = Habits()
_reader: ContextVar[Habits] = ContextVar("reader", default=USUAL)


def reader() -> Habits:
    """The habits of whoever asked for what is being written."""
    return _reader.get()


def set_reader(habits: Habits) -> None:
    """From now on, in this task and those it begins, whatever is written is written so."""
    _reader.set(habits)


@contextmanager
def read_by(habits: Habits) -> Iterator[None]:
    """While this lasts, whatever is written out in this task is written in these habits."""
    token = _reader.set(habits)
    try:
        yield
    finally:
        _reader.reset(token)


def habits_from(text: str, *, strict: bool = False) -> Habits:
    """Read `name:choice` pairs joined by full stops; what is not told keeps its usual form.

    What is not known is passed over, as a cookie of another version would be; `strict` raises a
    ValueError that says what could be chosen.
    """
    choices = {name: get_args(hint) for name, hint in get_type_hints(Habits).items()}
    known = {}
    for pair in filter(None, unquote(text).split(".")):
        name, _, choice = pair.partition(":")
        if choice in choices.get(name, ()):
            known[name] = choice
        elif strict:
            told = "; ".join(f"{name}:{' or '.join(one)}" for name, one in choices.items())
            raise ValueError(
                f"{pair!r} is not known. Join with full stops what is to differ: {told}."
            )
    return Habits(**known)  # type: ignore[arg-type]
