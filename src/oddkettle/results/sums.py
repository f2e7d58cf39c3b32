"""The shape of a sum: how a figure was made, in words and numbers."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from pydantic import Field

from oddkettle.core.battery.chemistry import Source as Origin
from oddkettle.plan.lazy import LazyModel
from oddkettle.results.run import Amount


class SumLine(LazyModel):
    """One line: what, how much, and how it enters the sum."""

    says: str
    value: str
    sign: Literal["+", "-", "=", ""] = ""
    note: str = ""
    opens: str | None = None
    """The figure that this line opens to, over the same span."""


class Constant(LazyModel):
    """A number that the sum rests on, and where it comes from."""

    says: str
    value: str
    source: str


class Sum(LazyModel):
    """How one figure was made."""

    title: str
    says: str
    lines: list[SumLine]
    constants: list[Constant] = Field(default=[])


def flow_line(
    says: str,
    amount: Amount,
    sign: Literal["+", "-", "=", ""] = "",
    note: str = "",
    opens: str | None = None,
) -> SumLine:
    """A line of an amount."""
    value = str(amount)
    return SumLine(says=says, value=value, sign=sign, note=note, opens=opens)


def figure_line(
    says: str, text: str, sign: Literal["+", "-", "=", ""] = "", note: str = ""
) -> SumLine:
    """A line of a figure that is the same in both units."""
    return SumLine(says=says, value=text, sign=sign, note=note)


def constant(says: str, value: str, sources: Mapping[str, Origin], key: str) -> Constant:
    """A chemistry's constant with its origin."""
    origin = sources[key]
    return Constant(says=says, value=value, source=f"{origin.says} [{origin.mark}]")
