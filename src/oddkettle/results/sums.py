"""The shape of a sum: how a figure was made, in words and numbers."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from pydantic import Field

from oddkettle.core.battery.chemistry import Source as Origin
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.run import Amount


class SumLine(LazyModel):
    """One line: what, how much, and how it enters the sum."""

    text: str
    value: str
    sign: Literal["+", "-", "=", ""] = ""
    note: str = ""
    opens: str | None = None
    """The figure that this line opens to, over the same span."""


class Constant(LazyModel):
    """A number that the sum rests on, and where it comes from."""

    text: str
    value: str
    source: str


class Sum(LazyModel):
    """How one figure was made."""

    title: str
    text: str
    lines: list[SumLine]
    constants: list[Constant] = Field(default=[])


def flow_line(
    text: str,
    amount: Amount,
    sign: Literal["+", "-", "=", ""] = "",
    note: str = "",
    opens: str | None = None,
) -> SumLine:
    """A line of an amount."""
    value = str(amount)
    return SumLine(text=text, value=value, sign=sign, note=note, opens=opens)


def figure_line(
    text: str, value: str, sign: Literal["+", "-", "=", ""] = "", note: str = ""
) -> SumLine:
    """A line of a figure."""
    return SumLine(text=text, value=value, sign=sign, note=note)


def constant(text: str, value: str, sources: Mapping[str, Origin], key: str) -> Constant:
    """A chemistry's constant with its origin."""
    origin = sources[key]
    return Constant(text=text, value=value, source=f"{origin.text} [{origin.mark}]")
