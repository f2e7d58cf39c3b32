"""The app's own forecasts held against what came of them."""

from __future__ import annotations

from datetime import datetime

import numpy as np
import pytest

from oddkettle.core.estimation.forecast_score import Foreseen, Spread, lean_of
from oddkettle.usecases.field.track.score import score_trip
from tests.usecases.conftest import percent


def test_before_a_day_is_over_nothing_is_scored(plan_id: int) -> None:
    assert score_trip(plan_id).of == 0
    percent(plan_id, 6, 20, 60)
    assert score_trip(plan_id).of == 0
    assert "No forecast has come due" in score_trip(plan_id).text


def test_each_finished_day_is_scored_by_what_its_dawn_knew(plan_id: int) -> None:
    for day, value in ((6, 85), (7, 70), (8, 55), (9, 45)):
        percent(plan_id, day, 7, value)
    score = score_trip(plan_id)
    assert [day.name for day in score.days] == ["Sat 6", "Sun 7", "Mon 8"]
    assert score.of == 3
    assert score.inside == sum(day.level.inside for day in score.days)
    assert f"Of 3 mornings, {score.inside}" in score.text
    for day in score.days:
        assert 0.0 <= day.level.band.low < day.level.band.high <= 100.5
        assert day.sun is not None
        assert day.use.band.low < day.use.band.high


def test_what_is_read_later_moves_what_came_and_never_what_was_foreseen(plan_id: int) -> None:
    for day, value in ((6, 85), (7, 70), (8, 55)):
        percent(plan_id, day, 7, value)
    first = score_trip(plan_id).days[0]
    percent(plan_id, 8, 20, 15)
    again = score_trip(plan_id, datetime(2026, 6, 8, 20)).days[0]
    assert again.level.band == first.level.band
    assert score_trip(plan_id).days[-1].level.came < 60


def test_a_battery_that_falls_as_nobody_foresaw_is_not_called_right(plan_id: int) -> None:
    for day, value in ((6, 88), (7, 60), (8, 30)):
        percent(plan_id, day, 7, value)
        percent(plan_id, day, 8, value)
    last = score_trip(plan_id).days[-1].level
    assert last.came < last.band.middle


def steady_parts(share: float, noise: float, days: int) -> list[Foreseen]:
    wobble = noise * np.array([(-1.0) ** d for d in range(days)])
    return [Foreseen(Spread(30.0, 40.0, 50.0), 40.0 * (1.0 + share) + w) for w in wobble]


@pytest.mark.parametrize(
    ("share", "noise", "days", "told"),
    [
        (-0.2, 2.0, 6, True),
        (0.2, 2.0, 6, True),
        # Too little, too few days, or no more than chance.
        (-0.05, 0.5, 6, False),
        (-0.2, 2.0, 3, False),
        (-0.1, 12.0, 6, False),
    ],
)
def test_a_lean_is_told_when_it_is_more_than_chance(
    share: float, noise: float, days: int, told: bool
) -> None:
    lean = lean_of(steady_parts(share, noise, days))
    assert lean.told is told
    if days % 2 == 0:
        assert lean.share == pytest.approx(share)
