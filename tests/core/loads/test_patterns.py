"""Cycles, selectors and feeds: laws for any figures."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oddkettle.core.loads.bursts import Bursts
from oddkettle.core.loads.logger import Logger
from oddkettle.core.loads.pattern import on_share
from oddkettle.core.simulation.run import simulate
from oddkettle.core.simulation.run_metrics import autonomy_h
from oddkettle.core.sources.coupling import Coupling, selected
from oddkettle.core.sources.dcdc import input_current_a
from tests.core.boxes import a_case, lamp
from tests.support.tiers import examples

quick = settings(max_examples=examples(80), deadline=None, derandomize=True)


@quick
@given(st.floats(0, 1), st.floats(3, 240), st.sampled_from([1, 5, 15, 60]), st.floats(0, 300))
def test_on_blocks_keep_the_mean_of_the_duty(
    duty: float, cycle_min: float, step_min: int, shift_min: float
) -> None:
    share = on_share(np.full(2000, duty), cycle_min, step_min, shift_min)
    assert share.min() >= -1e-9
    assert share.max() <= 1.0 + 1e-9
    # One cycle cut off at either end is all that may differ.
    assert share.mean() == pytest.approx(duty, abs=2 * cycle_min / (2000 * step_min) + 1e-9)


@quick
@given(st.lists(st.lists(st.floats(0, 1000), min_size=6, max_size=6), min_size=1, max_size=4))
def test_a_selector_never_lets_two_in_and_never_an_idle_one(offers: list[list[float]]) -> None:
    watts = np.array(offers)
    for rule in ("strongest", "in_order"):
        on = selected(watts, Coupling("selector", rule=rule))  # type: ignore[arg-type]
        assert np.all(on.sum(axis=0) <= 1.0)
        assert np.all(on[watts == 0.0] == 0.0)
        assert np.all((on.sum(axis=0) == 1.0) == (watts > 0.0).any(axis=0))


@quick
@given(st.floats(1, 400), st.floats(11, 30), st.floats(0.001, 0.2))
def test_a_feeds_current_carries_its_power_at_the_higher_voltage(
    power_w: float, source_v: float, ohm: float
) -> None:
    (amps,) = input_current_a(np.array([power_w]), np.array([source_v]), ohm)
    most_w = source_v**2 / (4 * ohm)
    if power_w < most_w:
        assert (source_v - amps * ohm) * amps == pytest.approx(power_w, rel=1e-6)
        assert source_v - amps * ohm >= source_v / 2 - 1e-9
    else:
        assert amps == pytest.approx(source_v / (2 * ohm))


def test_a_feed_without_resistance_is_a_division() -> None:
    assert input_current_a(np.array([142.0]), np.array([14.2]), 0.0) == pytest.approx([10.0])


def test_bursts_and_loggers_never_run_more_than_always() -> None:
    assert Bursts(100, 60).share_of(2.0) == 1.0
    assert Bursts(4, 5).share_of(0.0) == 0.0
    assert Logger(0.1, 10_000, 3600).awake_share == 1.0


def test_autonomy_by_hand() -> None:
    """65 W at about 13.1 V is 5 A: from 80 % of 100 Ah down to 10 % is 14 h."""
    run = simulate(a_case(appliances=(lamp(65.0),), soc0=0.8, floor=0.1))
    assert autonomy_h(run, 0) == pytest.approx(70 * 13.05 / 65, rel=0.02)
    assert autonomy_h(run, 12) == pytest.approx(autonomy_h(run, 0) - 1.0, abs=0.05)


def test_an_unloaded_box_stands_for_weeks_and_one_under_its_floor_for_no_time() -> None:
    assert autonomy_h(simulate(a_case()), 0) == float("inf")
    assert autonomy_h(simulate(a_case(soc0=0.05, appliances=(lamp(5.0),))), 0) == 0.0
