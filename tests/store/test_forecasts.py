"""Forecasts that are kept: the newest of a plan, and none of a plan that is not there."""

from __future__ import annotations

from pathlib import Path

import pytest

from oddkettle.plan import Plan
from oddkettle.store import forecasts
from oddkettle.store.plans import NoSuchPlan
from oddkettle.usecases.plans.plans import create_plan


def test_the_newest_forecast_of_a_plan_is_kept_beside_the_older_ones(
    store: Path, moth: Plan
) -> None:
    mine, other = create_plan(moth).id, create_plan(moth).id
    assert forecasts.newest(mine) is None
    forecasts.keep(mine, "2026-06-07T06:00:00+00:00", "{}")
    forecasts.keep(mine, "2026-06-08T06:00:00+00:00", '{"a": 1}')
    kept = forecasts.newest(mine)
    assert kept is not None
    assert (kept.fetched_at, kept.body) == ("2026-06-08T06:00:00+00:00", '{"a": 1}')
    assert forecasts.newest(other) is None


def test_no_forecast_is_kept_of_a_plan_that_is_not_there(store: Path) -> None:
    with pytest.raises(NoSuchPlan):
        forecasts.keep(99, "2026-06-07T06:00:00+00:00", "{}")
