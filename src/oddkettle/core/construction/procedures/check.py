"""What a check is, and a list of them."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Check:
    """One line to tick. `expect` is what the meter shows when all is well."""

    key: str
    text: str
    expect: str = ""
    why: str = ""


@dataclass(frozen=True)
class Checklist:
    """Checks of one occasion, in the order in which they are done.

    `keyed` where what is expected is keyed in and not measured.
    """

    key: str
    title: str
    when: str
    checks: tuple[Check, ...]
    keyed: bool = False
