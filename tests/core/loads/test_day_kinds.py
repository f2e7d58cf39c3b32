"""Days of different kinds: an appliance's hours follow the day on which they begin."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddkettle.core.loads.demand import DAY_KINDS, Appliance, DayKind, Window
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from tests.core.boxes import a_case

EVENING = (Window(20 * 60, 2 * 60),)
NOON = (Window(12 * 60, 13 * 60),)


def hours_by_day(appliance: Appliance, kinds: tuple[DayKind, ...]) -> list[float]:
    case = a_case(appliances=(appliance,), clearness=(0.5,) * len(kinds), day_kinds=kinds, soc0=1.0)
    run = simulate(case)
    asked = np.add.reduceat(run.draws[0].asked_w, run.grid.day_starts[:-1])
    return (asked * run.grid.step_h / appliance.power_w).tolist()


def lamp(*other: tuple[DayKind, tuple[Window, ...]], windows: tuple[Window, ...] = EVENING):
    return Appliance("a", "Lamp", 10.0, "12v", windows, other_days=other)


def test_without_other_hours_all_days_are_alike() -> None:
    assert hours_by_day(lamp(), ("site", "drive", "rest")) == pytest.approx([6, 6, 6])


def test_the_small_hours_belong_to_the_evening_before() -> None:
    # The lamp of the site day burns on past midnight into a rest day that has none of its own.
    got = hours_by_day(lamp(("rest", ())), ("site", "rest", "rest"))
    assert got == pytest.approx([2 + 4, 2, 0])


def test_each_kind_has_its_own_hours() -> None:
    got = hours_by_day(lamp(("drive", NOON), ("rest", ())), ("site", "drive", "site"))
    assert got == pytest.approx([6, 2 + 1, 4])


@given(st.lists(st.sampled_from(DAY_KINDS), min_size=1, max_size=6))
def test_other_hours_that_are_the_same_change_nothing(kinds: list[DayKind]) -> None:
    same = lamp(("drive", EVENING), ("rest", EVENING))
    assert hours_by_day(same, tuple(kinds)) == pytest.approx(hours_by_day(lamp(), tuple(kinds)))


@given(st.lists(st.integers(1, 287), min_size=1, max_size=5, unique=True))
def test_books_kept_over_any_stretches_add_up_to_those_of_the_day(cuts: list[int]) -> None:
    run = simulate(a_case(appliances=(lamp(),), soc0=0.7))
    whole = keep_ledger(run)
    parts = keep_ledger(run, np.array([0, *sorted(cuts), run.grid.steps]))
    for name in ("stored", "coulombic", "leaked"):
        assert getattr(parts, name).ah.sum() == pytest.approx(getattr(whole, name).ah.sum())
        assert getattr(parts, name).wh.sum() == pytest.approx(getattr(whole, name).wh.sum())
    assert parts.draws[0].used.wh.sum() == pytest.approx(whole.draws[0].used.wh.sum())
