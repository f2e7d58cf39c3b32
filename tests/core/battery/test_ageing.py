"""Wear by depth and by years."""

from __future__ import annotations

import numpy as np
import pytest

from oddkettle.core.battery.ageing import age, turning_points
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4


def swings(depth: float, times: int) -> np.ndarray:
    down = np.linspace(1.0, 1.0 - depth, 50)
    return np.concatenate([*[np.concatenate([down, down[::-1]]) for _ in range(times)]])


def test_ten_half_swings_are_five_full_cycles_and_cost_what_the_curve_says() -> None:
    """N(0.5) of LiFePO4 is 2800 * 0.5**-1.2 = 6433 cycles: ten of them are 0.16 %."""
    aged = age(LIFEPO4, swings(0.5, 10), 1.0)
    assert aged.full_cycles == pytest.approx(5.0, rel=0.02)
    assert aged.deepest == pytest.approx(0.5)
    assert aged.cycle_share == pytest.approx(10 / (2800 * 0.5**-1.2), rel=0.02)


def test_shallow_cycles_cost_less_than_deep_ones_of_the_same_throughput() -> None:
    shallow, deep = age(AGM, swings(0.1, 50), 1.0), age(AGM, swings(0.5, 10), 1.0)
    assert shallow.full_cycles == pytest.approx(deep.full_cycles, rel=0.03)
    assert shallow.cycle_share < deep.cycle_share


def test_a_resting_battery_ages_by_the_calendar_alone() -> None:
    """A year of six is a sixth."""
    aged = age(AGM, np.full(8767, 0.9), 1.0)
    assert aged.cycle_share == 0.0
    assert aged.life == pytest.approx(1 / 6, rel=1e-3)


def test_ripples_of_a_fridge_are_no_cycles() -> None:
    assert age(LIFEPO4, swings(0.004, 200), 1.0).full_cycles == 0.0


def test_turning_points_are_the_ends_and_the_reversals() -> None:
    assert turning_points(np.array([1.0, 0.9, 0.9, 0.8, 0.85, 0.95, 0.9])) == [
        1.0,
        0.8,
        0.95,
        0.9,
    ]
