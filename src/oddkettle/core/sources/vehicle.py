"""A DC-DC charger on the vehicle's alternator, on while the engine runs."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class DcDc:
    """`limit_a` is its largest output current [A]; `efficiency` 0..1, .90 to .94 is usual."""

    limit_a: float
    efficiency: float
