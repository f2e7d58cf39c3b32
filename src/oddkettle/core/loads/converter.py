"""A step-down converter: what is made for 12 V, in a box of 24 V or more, runs behind it."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.core.units.conversion import CLASS_V

SIZES_A = (5.0, 10.0, 15.0, 20.0, 30.0, 40.0, 60.0)
"""As they are sold, by their 12 V output [A, standard series]."""
HEADROOM = 1.25
"""Over what hangs on it for hours [textbook]."""
SHORT_TIMES = 3.0
"""Into a dead short a converter gives so many times its limit, at most, for an instant
[judgement]."""
OUTPUT_V = CLASS_V
OUTPUT_MAX_V = 14.0
"""What it may give at the most; its fuses are of the 12 V class."""


@dataclass(frozen=True)
class Converter:
    """What it can do.

    `limit_a` is the most that it gives at 12 V for hours [A]; `efficiency` 0..1, .88 to .95 is
    usual; `idle_w` is drawn day and night, whether anything runs or not [W].
    """

    limit_a: float
    efficiency: float = 0.92
    idle_w: float = 0.6


def size_for(amps: float) -> float | None:
    """The smallest usual converter that bears so much at 12 V for hours [A]; None beyond all."""
    return next((size for size in SIZES_A if size >= HEADROOM * amps - 1e-9), None)
