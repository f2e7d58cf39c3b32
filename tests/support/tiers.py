"""How much is tried: the same laws in every tier, fewer repeats in the small ones.

`make quick` runs what takes seconds, `make test` everything that a change needs, `make nightly` the
long searches, in slices (`scripts/nightly.py`). The tier comes from ODDKETTLE_TIER, so that every
worker knows it.
"""

from __future__ import annotations

import os
from collections.abc import Container, Iterable
from pathlib import Path
from typing import Literal, TypeVar, get_args

import pytest
from _pytest.mark.structures import ParameterSet

from tests.support.kernel_stamp import is_stamped

Tier = Literal["quick", "test", "nightly"]
TIERS: tuple[Tier, ...] = get_args(Tier)
TIER: Tier = os.environ.get("ODDKETTLE_TIER", "test")  # type: ignore[assignment]
if TIER not in TIERS:
    raise ValueError(f"ODDKETTLE_TIER={TIER} is no tier; it may be {', '.join(TIERS)}.")
T = TypeVar("T")
PLANS = Path(__file__).resolve().parents[2] / "examples" / "plans"


def repeats(quick: int, test: int, nightly: int) -> int:
    """How often something is tried in this tier."""
    return {"quick": quick, "test": test, "nightly": nightly}[TIER]


def examples(usual: int) -> int:
    """Random examples of a law: a few in the quick tier, ten in a test, hundreds at night."""
    return repeats(max(usual // 20, 3), max(usual // 10, 5), 4 * usual)


SLOW = pytest.mark.slow
"""Takes seconds: not in the quick tier."""
NIGHTLY = pytest.mark.nightly
"""Takes minutes: in the nightly tier alone."""
OF_THE_KERNEL = pytest.mark.nightly if is_stamped() else pytest.mark.slow
"""It can tell something new only of a kernel that has changed: by day it runs until the new kernel
has its stamp (`make kernel-stamp`), by night always."""


def by_day(values: Iterable[T], day: Container[T]) -> list[ParameterSet]:
    """Values of a parameter: those of `day` in every tier, all of them at night."""
    return [pytest.param(one, marks=() if one in day else NIGHTLY) for one in values]


BOXES_BY_DAY = ("coast-unit", "coast-weekend", "moth-survey", "winter-caravan")
"""A ready-made unit, lead at 24 V, lithium with drives and panels, and one with pads in the frost:
between them every part that the sample boxes have but a selector and a relay."""


def sample_boxes() -> list[ParameterSet]:
    """The sample boxes by name: four by day, all of them at night."""
    return by_day(sorted(path.stem for path in PLANS.glob("*.json")), BOXES_BY_DAY)


def in_pieces(count: int) -> pytest.MarkDecorator:
    """Cut a long search of the night into pieces, each a test of its own; by day it is one."""
    return pytest.mark.parametrize("piece", range(count if TIER == "nightly" else 1))


def piece_of(items: Iterable[T], piece: int, count: int) -> list[T]:
    """The items of one piece: every `count`-th at night, all of them by day."""
    return list(items)[piece :: count if TIER == "nightly" else 1]
