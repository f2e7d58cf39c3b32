"""Quantities inside a sentence: marked by kind and value, written out when somebody reads them.

A sentence of the core is a plain string in which every quantity that people write differently (a
time of day, a temperature, a cable, a weight, a torque, a charge) stands as a mark: its kind, the
format of its figure, and its values. `oddkettle.text.render` turns marks into words, once, at the
edge, in the habits of whoever reads: `f"Keep it above {celsius(0)}."` becomes "Keep it above 0 °C."
or "Keep it above 32 °F.". Marks are made of private-use characters, so that no typed text holds
one by accident, and a marked string can be joined, stored and sent like any other.
"""

from __future__ import annotations

from datetime import datetime, time
from typing import Literal

from oddkettle.core.units.conversion import MINUTES_PER_DAY

OPEN, BAR, CLOSE = "\ue000", "\ue001", "\ue002"
Kind = Literal[
    "celsius", "celsius_bare", "kelvin", "conductor", "kilogram", "kg_per_ah", "torque", "clock",
    "charge", "money",
]  # fmt: skip
"""`celsius_bare` is a temperature without its unit, as the first of a range."""


def mark(kind: Kind, spec: str, *values: float) -> str:
    """A quantity as it stands in a sentence; `spec` is Python's format of its figure."""
    return f"{OPEN}{BAR.join((kind, spec, *(repr(float(value)) for value in values)))}{CLOSE}"


def celsius(value_c: float, spec: str = ".3g", *, unit: bool = True) -> str:
    """A temperature."""
    return mark("celsius" if unit else "celsius_bare", spec, value_c)


def kelvin(value_k: float, spec: str = "g") -> str:
    """A difference of temperatures."""
    return mark("kelvin", spec, value_k)


def conductor(area_mm2: float, spec: str = ".3g") -> str:
    """A cable's cross-section."""
    return mark("conductor", spec, area_mm2)


def kilogram(value_kg: float, spec: str = ".1f") -> str:
    """A weight."""
    return mark("kilogram", spec, value_kg)


def kg_per_ah(value: float, spec: str = ".3f") -> str:
    """Weight of a battery by its capacity."""
    return mark("kg_per_ah", spec, value)


def torque(value_nm: float, spec: str = "g") -> str:
    """A tightening torque [Nm]."""
    return mark("torque", spec, value_nm)


def money(low: float, high: float | None = None) -> str:
    """A price in euros, or a range of guesses; read with the sign of its reader's currency."""
    return mark("money", "", low, low if high is None else high)


def clock(when: float | time | datetime) -> str:
    """A time of day, of minutes after midnight (0 to 1440) or of a moment's local time."""
    minute = when.hour * 60 + when.minute if isinstance(when, time | datetime) else when
    if not 0 <= minute <= MINUTES_PER_DAY:
        raise ValueError(f"{minute} minutes are no time of day: 0 to {MINUTES_PER_DAY}.")
    return mark("clock", "", minute)


def in_unit(value: float, unit: str) -> str:
    """A figure in a unit of the plan's format, as its reader writes it."""
    kinds: dict[str, Kind] = {
        "C": "celsius",
        "K": "kelvin",
        "mm2": "conductor",
        "kg": "kilogram",
    }
    return mark(kinds[unit], "g", value) if unit in kinds else f"{value:g} {unit}".strip()


def charge(ah: float, wh: float, spec: str = "") -> str:
    """An amount of charge at a known voltage; read as Ah or as Wh.

    `spec` is the format of the Ah; without one there is a decimal below ten. Wh are whole.
    """
    return mark("charge", spec, ah, wh)
