"""What a battery holds of its label: one prior, in the plan, its scenarios and the tracker."""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.battery.label_share import LEAD, LITHIUM, label_share, level_from_shown
from oddkettle.core.estimation.tracker import track
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import run_ensemble
from oddkettle.core.simulation.run import simulate
from oddkettle.core.weather.weather_generator import Doubt
from oddkettle.plan.case import case_from_plan
from tests.conftest import example
from tests.core.boxes import a_case, lamp


@pytest.mark.parametrize("ages", [LITHIUM, LEAD])
def test_older_holds_less_and_is_less_sure(ages: dict[str, tuple[float, float]]) -> None:
    for newer, older in itertools.pairwise(("new", "years", "old")):
        assert ages[newer][0] > ages[older][0]
        assert ages[newer][1] < ages[older][1]
    # Nobody knows: between new and some years, and less sure than a new one.
    assert ages["years"][0] < ages["unknown"][0] < ages["new"][0]


def test_lead_ages_faster_than_lithium() -> None:
    for age in ("new", "years", "old", "unknown"):
        assert LEAD[age][0] < LITHIUM[age][0]


@pytest.mark.parametrize("key", sorted(CHEMISTRIES))
def test_an_age_that_nobody_told_is_the_unknown_one(key: str) -> None:
    kind = CHEMISTRIES[key]
    assert label_share(kind, None) == label_share(kind, "unknown")
    assert label_share(kind, "measured").mean == 1.0


def test_a_monitor_tells_what_is_missing_as_a_share_of_the_label() -> None:
    """40 of 100 Ah are missing: 60 % are shown, and 40 of the 80 it holds are left."""
    assert float(level_from_shown(0.6, 0.8)) == pytest.approx(0.5)
    assert float(level_from_shown(1.0, 0.8)) == 1.0
    assert float(level_from_shown(0.6, 1.0)) == pytest.approx(0.6)


def drained(doubt: Doubt) -> Case:
    """100 Ah from full, with 24 W for 12 hours and nothing that charges it."""
    return a_case(
        soc0=1.0, appliances=(lamp(24.0, 0.0, 12.0),), clearness=(0.5,), sources=(), doubt=doubt
    )


@pytest.mark.parametrize("content", [0.65, 0.8, 0.92, 1.0])
def test_scenarios_and_the_expected_run_hold_the_same(content: float) -> None:
    """So many amp-hours from so much: each by hand, and neither scaled twice."""
    doubt = Doubt(start=0.0, capacity=0.0, capacity_mean=content, capacity_told=True, panel=0.0)
    case = drained(doubt)
    used_ah = 24.0 * 12.0 / 13.2
    by_hand = 1.0 - used_ah / (100.0 * content)
    assert float(simulate(case).level[-1]) == pytest.approx(by_hand, abs=0.012)
    # In each scenario the lamp draws a little more or less.
    ran = run_ensemble(case, 8)
    drawn_ah = used_ah * ran.scenarios.load["lamp"]
    np.testing.assert_allclose(ran.scenarios.capacity, content)
    np.testing.assert_allclose(ran.level[:, -1], 1.0 - drawn_ah / (100.0 * content), atol=0.012)


@pytest.mark.parametrize("name", ["quarry-relay", "winter-caravan", "canal-standby"])
def test_with_nothing_read_the_tracker_is_the_plans_own_scenarios(name: str) -> None:
    case = case_from_plan(example(name))
    end_s = int(run_ensemble(case, 2).grid.starts_utc[-1].astype(np.int64))
    tracked = track(case, (), end_s, 200)
    ran = run_ensemble(tracked.case, 200)
    middle = np.median(ran.level, axis=0)[: tracked.until]
    np.testing.assert_allclose(tracked.band[1, : tracked.until], middle, atol=0.02)
