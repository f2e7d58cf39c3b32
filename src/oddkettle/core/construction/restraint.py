"""What holds a box in a vehicle that stops hard."""

from __future__ import annotations

from math import ceil

GRAVITY = 9.81
HARD_STOP_G = 1.0
"""Full braking on a dry road [textbook]; a collision asks ten times that or more."""
SPARE = 2.0
"""Over the load of a hard stop [judgement]."""
STRAPS = 2
ROUNDED_N = 100


def strap_n(kg: float) -> float:
    """What each of two straps and its anchors must hold [N], rounded up to 100."""
    return ceil(SPARE * HARD_STOP_G * GRAVITY * kg / STRAPS / ROUNDED_N) * ROUNDED_N
