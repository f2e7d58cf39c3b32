"""Each safety rule of the wiring stated by hand, on both sides of its limit.

`docs/safety-rules.md` lists them with their sources; figures here are worked on paper, not asked of
the program.
"""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddkettle.core.construction.wiring.cable import CHARGING_DROP, OTHER_DROP
from oddkettle.core.construction.wiring.fuses import post_fuse
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.usecases.simulate.run_cache import run_plan
from tests.conftest import example


@pytest.mark.parametrize(
    ("bank_a", "posts", "size_a"),
    [
        # 1.25 x 1.2 x 200 / 2 = 150 A. Shared evenly, 1.25 x 100 = 125 A would do.
        (200.0, 2, 150.0),
        # A hair more wants the next size, 200; a hair under 1.25 x 1.2 x 166.7 / 2 stays on 125.
        (201.0, 2, 200.0),
        (166.0, 2, 125.0),
        # Of three: 1.25 x 1.2 x 300 / 3 = 150 A.
        (300.0, 3, 150.0),
    ],
)
def test_a_battery_in_parallel_is_fused_for_a_fifth_more_than_its_share(
    bank_a: float, posts: int, size_a: float
) -> None:
    """5 kA through the fuse at 14.6 V want a family that breaks it."""
    family, size = post_fuse(bank_a, posts, 5_000.0, 14.6)
    assert size == size_a
    assert family is not None


def test_one_battery_needs_no_fuse_against_others() -> None:
    assert post_fuse(200.0, 1, 5_000.0, 14.6) == (None, None)


def with_lamp(priority: str, medical: bool = False) -> Plan:
    """A lamp of 60 W at the end of eight metres, alone on its circuit."""
    document = example("moth-survey").model_dump(mode="json")
    document["use"]["appliances"] = [
        {
            "id": "lamp",
            "name": "Lamp",
            "power_w": 60,
            "supply": "12v",
            "priority": priority,
            "medical": medical,
            "hours": [{"start": "20:00", "end": "23:00"}],
        }
    ]
    return Plan.model_validate(document)


@pytest.mark.parametrize(
    ("priority", "medical", "most"),
    [
        ("wanted", False, 0.05),
        ("first", False, 0.05),
        ("must", False, 0.03),
        ("wanted", True, 0.03),
    ],
)
def test_what_must_run_may_lose_three_percent_and_anything_else_five(
    priority: str, medical: bool, most: float
) -> None:
    board = board_of(run_plan(with_lamp(priority, medical)))
    (lamp,) = [c for c in board.circuits if "lamp" in c.need.appliances]
    assert lamp.most_share == most
    assert lamp.drop_share <= most


def test_the_shares_are_those_of_the_rule() -> None:
    assert (CHARGING_DROP, OTHER_DROP) == (0.03, 0.05)


def test_charging_may_lose_three_percent() -> None:
    board = board_of(run_plan(example("moth-survey")))
    charging = [c for c in board.circuits if c.need.role in ("charge", "feed", "panel")]
    assert charging
    assert {c.most_share for c in charging} == {0.03}


def test_medical_means_must_in_the_core_too() -> None:
    """By whatever way an appliance comes into a case, its mark protects it."""
    case = case_from_plan(with_lamp("wanted", medical=True))
    assert case.appliances[0].priority == "must"
    assert replace(case.appliances[0], priority="first").priority == "must"
    assert replace(case.appliances[0], medical=False, priority="first").priority == "first"
