"""The coldest that a place has been in a season, from how cold its nights usually are there.

For what must hold on every day of its life, and not on an expected one: the voltage of a panel.
"""

from __future__ import annotations

import numpy as np

RECORD_BELOW = ((10.0, 18.0), (24.0, 6.0))
"""(usual lowest of a day [C], how far the coldest on record lies below it [K]): winters of the
middle latitudes stray furthest, the tropics least [judgement, beside the records commonly given of
ten towns: tests/core/weather/test_record_low.py]."""


def record_low_c(usual_low_c: float) -> float:
    """About the lowest air temperature on record, where a day's lowest is usually this [C]."""
    usual, below = zip(*RECORD_BELOW, strict=True)
    return usual_low_c - float(np.interp(usual_low_c, usual, below))
