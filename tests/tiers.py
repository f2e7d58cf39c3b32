"""How much is tried: the same laws in every tier, fewer repeats in the small ones.

`make quick` runs what takes seconds, `make test` everything that a change needs, `make nightly` the
long searches. The tier comes from ODDKETTLE_TIER, so that every worker knows it.
"""

from __future__ import annotations

import os
from typing import Literal, get_args

import pytest

Tier = Literal["quick", "test", "nightly"]
TIERS: tuple[Tier, ...] = get_args(Tier)
TIER: Tier = os.environ.get("ODDKETTLE_TIER", "test")  # type: ignore[assignment]
if TIER not in TIERS:
    raise ValueError(f"ODDKETTLE_TIER={TIER} is no tier; it may be {', '.join(TIERS)}.")


def repeats(quick: int, test: int, nightly: int) -> int:
    """How often something is tried in this tier."""
    return {"quick": quick, "test": test, "nightly": nightly}[TIER]


def examples(usual: int) -> int:
    """Random examples of a law: a fifth in the quick tier, two fifths in a test, many at night."""
    return repeats(max(usual // 5, 5), max(2 * usual // 5, 10), 10 * usual)


SLOW = pytest.mark.slow
"""Takes seconds: not in the quick tier."""
NIGHTLY = pytest.mark.nightly
"""Takes minutes: in the nightly tier alone."""
