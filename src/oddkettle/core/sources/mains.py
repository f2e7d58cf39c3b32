"""A staged mains charger, on while there is a hook-up."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class MainsCharger:
    """`limit_a` is its rated output current [A]; `efficiency` 0..1, .85 to .92 is usual."""

    limit_a: float
    efficiency: float
