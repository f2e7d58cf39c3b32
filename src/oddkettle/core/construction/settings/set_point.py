"""What a row of the settings sheet is, and how its figures are written."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class SetPoint:
    """One thing to key in.

    `value` is what to set and `usual` between what it may lie; `why` says what it is for and
    `otherwise` what goes wrong without it. `note` is there where the plan says something else, or
    more than is usual.
    """

    key: str
    name: str
    value: str
    usual: str
    why: str
    otherwise: str
    note: str = ""


@dataclass(frozen=True)
class DeviceSettings:
    """One device and its rows.

    `part` is what judgements call it; `preset` which one to take if it has no more than presets.
    """

    part: str
    name: str
    rows: tuple[SetPoint, ...]
    preset: str = ""
    also: tuple[str, ...] = ()
    """Other parts for which it holds, too."""


def volts(value: float) -> str:
    """A set point [V], to what devices can be set to."""
    return f"{value:.1f} V"


def volts_span(low: float, high: float) -> str:
    """From and to [V]."""
    return f"{low:.1f} to {high:.1f} V"


def amps(value: float) -> str:
    """A current [A]: tenths where it is small."""
    return f"{value:.1f} A" if value < 10.0 else f"{value:.0f} A"


def percent_span(low: float, high: float) -> str:
    """Shares 0..1 as percent."""
    return f"{100 * low:.3g} to {100 * high:.3g} %"
