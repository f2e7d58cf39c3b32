"""What an entry of the log is: its form, its words, and what it does to a trip.

A reading that is read in the field brings the form of its entry along (`LOG_KINDS` of its module).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict, dataclass, replace
from typing import Any, Literal, NamedTuple

from oddkettle.core.battery.bank import Bank
from oddkettle.core.trip.blocks import BlockKind


class Bar(NamedTuple):
    """What an entry tells of the level by itself: low, middle, high [%], and what it is worth."""

    low: float
    middle: float
    high: float
    worth: str | None = None


Group = Literal["read", "did", "saw"]
Field = Literal[
    "value", "rested_h", "amps", "ah_in", "ah_out", "wh_in", "wh_out", "gross_in", "gross_out"
]
MAX_COUNTED = 1e6


@dataclass(frozen=True)
class LogNumber:
    """One number of an entry: which field of it, what it is called, and its bounds."""

    key: Field
    label: str
    least: float
    most: float
    unit: str
    needed: bool = False


@dataclass(frozen=True)
class LogKind:
    """One kind of entry.

    `label` names it in the form and `hint` stands below it; `numbers` are asked for, `span` adds
    an end, `appliance` a choice of one; a `daily` one tells of a whole day. `text` is how it is
    written, with {value}, {rest}, {flow}, {counted}, {ends}, {name} and {sky} filled in. `reading`
    is the tracker's kind, `scale` what its value is divided by. `block` is the kind of block that
    it replaces on its day; `adds` is false where it only takes one out, and `cuts` where only its
    own hours go. `bar` works out what it tells of the level by itself, for its bar on
    the chart; None where it tells nothing. `chemistries` are those of the batteries that it can be
    read of, None for any.
    """

    key: str
    label: str
    group: Group
    text: str
    numbers: tuple[LogNumber, ...] = ()
    span: bool = False
    appliance: bool = False
    daily: bool = False
    hint: str = ""
    worth: str = "Taken as it happened, in place of the plan."
    reading: str | None = None
    scale: float = 1.0
    block: BlockKind | None = None
    adds: bool = True
    cuts: bool = False
    bar: Callable[[Bank, float], Bar] | None = None
    chemistries: tuple[str, ...] | None = None

    @property
    def counters(self) -> tuple[Field, ...]:
        """Which counters it may tell of."""
        beside = {"value", "rested_h", "amps"}
        return tuple(number.key for number in self.numbers if number.key not in beside)

    @property
    def form(self) -> dict[str, Any]:
        """Its fields as plain values, for the form that is made from them."""
        found = asdict(replace(self, bar=None))
        found.pop("bar")
        return found

    def offered(self, chemistry: str) -> bool:
        """Whether it can be read of such a battery."""
        return self.chemistries is None or chemistry in self.chemistries


def always_at(low: float, middle: float, high: float) -> Callable[[Bank, float], Bar]:
    """A bar that stands where it stands, whatever was read [%]."""
    return lambda bank, value: Bar(low, middle, high)


def around(doubt: float) -> Callable[[Bank, float], Bar]:
    """A bar about a value that is a level itself [%]."""
    return lambda bank, value: Bar(max(value - doubt, 0.0), value, min(value + doubt, 100.0))
