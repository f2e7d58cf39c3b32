"""A monitor's samples: stored once, summed rightly whatever the order, and thinned honestly."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.plan import Plan
from oddkettle.store import samples as store
from oddkettle.store.plans import NoSuchPlan
from oddkettle.usecases.plans.plans import create_plan
from tests.support.tiers import examples

BEGIN_MS = 1_780_876_800_000
QUARTER_MS = store.QUARTER_MS


def sample(minute: float, **shown: float) -> Sample:
    shown = shown or {"volts": 13.0, "amps": -2.0, "percent": 50.0}
    return Sample(BEGIN_MS + round(60_000 * minute), **shown)


@pytest.fixture
def plan_id(store: Path, moth: Plan) -> int:
    return create_plan(moth).id


def test_the_same_sample_is_stored_once(plan_id: int) -> None:
    assert store.put(plan_id, [sample(0), sample(1)]) == 2
    assert store.put(plan_id, [sample(1), sample(2)]) == 1
    assert store.count(plan_id) == 3
    assert [s.at_ms for s in store.every(plan_id)] == [sample(n).at_ms for n in range(3)]


def test_the_first_version_of_a_moment_stands(plan_id: int) -> None:
    store.put(plan_id, [sample(0, volts=13.1)])
    store.put(plan_id, [sample(0, volts=12.0)])
    assert next(store.every(plan_id)).volts == 13.1


def test_samples_of_no_plan_are_refused_and_none_is_stored(plan_id: int) -> None:
    with pytest.raises(NoSuchPlan):
        store.put(plan_id + 1, [sample(0)])
    assert store.count(plan_id) == 0


def test_the_newest_is_by_its_time_and_not_by_when_it_came(plan_id: int) -> None:
    store.put(plan_id, [sample(30)])
    store.put(plan_id, [sample(10)])
    newest = store.newest(plan_id)
    assert newest is not None
    assert newest.at_ms == sample(30).at_ms


@settings(
    max_examples=examples(25),
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
)
@given(
    minutes=st.lists(st.integers(0, 180), min_size=1, max_size=60, unique=True),
    parts=st.integers(1, 7),
)
def test_sums_by_the_quarter_are_those_of_the_samples(
    plan_id: int, minutes: list[int], parts: int
) -> None:
    """In whatever order and bunches they come."""
    store.database.execute_sql("DELETE FROM sample")
    store.database.execute_sql("DELETE FROM sample_quarter")
    rng = np.random.default_rng(len(minutes))
    made = [sample(m, volts=12 + float(rng.random()), amps=float(rng.normal())) for m in minutes]
    for n in range(parts):
        store.put(plan_id, made[n::parts])
    rows = store.database.execute_sql(
        "SELECT quarter, count, volts_least, volts_most, volts_sum, amps_sum, percent_count "
        "FROM sample_quarter ORDER BY quarter"
    ).fetchall()
    by_quarter: dict[int, list[Sample]] = {}
    for one in made:
        by_quarter.setdefault(one.at_ms // QUARTER_MS, []).append(one)
    assert [row[0] for row in rows] == sorted(by_quarter)
    for quarter, count, least, most, volts, amps, percents in rows:
        mine = by_quarter[quarter]
        assert count == len(mine)
        assert least == min(s.volts for s in mine)
        assert most == max(s.volts for s in mine)
        assert volts == pytest.approx(sum(s.volts for s in mine))
        assert amps == pytest.approx(sum(s.amps for s in mine))
        assert percents == 0


def test_a_quarter_tells_its_last_state(plan_id: int) -> None:
    store.put(plan_id, [sample(14, percent=60.0, ah_in=5.0, ah_out=9.0), sample(2, percent=62.0)])
    (quarter,) = store.quarters(plan_id)
    assert quarter == (sample(14).at_ms, 60.0, 5.0, 9.0)


@pytest.mark.parametrize("points", [3, 10, 400])
def test_thinning_keeps_least_most_and_mean(plan_id: int, points: int) -> None:
    """From the quarters when it is coarse, from the samples when it is fine: the same truth."""
    volts = [12.0 + 0.01 * n for n in range(600)]
    store.put(plan_id, [sample(n, volts=v) for n, v in enumerate(volts)])
    first, last = sample(0).at_ms, sample(599).at_ms
    thin = store.thinned(plan_id, first, last, points)
    assert sum(one.number for one in thin) == 600
    assert min(one.volts[0] for one in thin) == volts[0]
    assert max(one.volts[1] for one in thin) == volts[-1]
    mean = sum(one.volts[2] * one.number for one in thin) / 600
    assert mean == pytest.approx(sum(volts) / 600)
    assert len(thin) <= points + 2
    assert [one.at_ms for one in thin] == sorted(one.at_ms for one in thin)


def test_what_was_not_shown_stays_unknown_when_thinned(plan_id: int) -> None:
    store.put(plan_id, [sample(n, volts=13.0) for n in range(90)])
    for points in (2, 90):
        for one in store.thinned(plan_id, sample(0).at_ms, sample(90).at_ms, points):
            assert one.amps is None
            assert one.volts is not None


def test_pages_are_handed_over_without_gaps(plan_id: int, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(store, "PAGE", 7)
    store.put(plan_id, [sample(n) for n in range(21)])
    assert [s.at_ms for s in store.every(plan_id)] == [sample(n).at_ms for n in range(21)]


def test_a_monitors_address_is_kept_changed_and_forgotten(plan_id: int) -> None:
    store.set_monitor(plan_id, "127.0.0.1:8770", "2026-06-08T12:00:00+00:00")
    store.set_monitor(plan_id, "127.0.0.1:8771", "2026-06-08T12:00:00+00:00")
    assert store.monitors() == {plan_id: "127.0.0.1:8771"}
    store.set_monitor(plan_id, None, "2026-06-08T12:00:00+00:00")
    assert store.monitors() == {}
