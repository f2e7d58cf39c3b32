"""Laws of readings, over many orders and figures: nothing is passed over, nothing overshoots."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oddkettle.core.estimation.readings import Reading
from oddkettle.core.estimation.readings.percent import USUAL_OFF
from oddkettle.core.estimation.tracker import Tracked, track
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.run import trip_grid
from tests.core.boxes import a_case, lamp
from tests.support.tiers import examples

HOUR = 3600
DAY_H = 26.0
SLACK = 0.02


def box() -> Case:
    """100 Ah as labelled, begun at 80 %, a lamp of 20 W day and night."""
    return a_case(clearness=(0.5,) * 3, soc0=0.8, appliances=(lamp(20.0, spread=0.3),), step_min=15)


def followed(readings: list[tuple[float, float]]) -> Tracked:
    """After (minutes before now, percent 0..1) in whatever order they stand."""
    case = box()
    now = int(trip_grid(case).starts_utc[0].astype(np.int64)) + round(DAY_H * HOUR)
    read = (
        Reading(f"{n}", now - round(60 * before), "percent", value)
        for n, (before, value) in enumerate(readings)
    )
    return track(case, tuple(read), now, 300)


@pytest.fixture(scope="module")
def prior() -> tuple[float, float, float]:
    low, middle, high = followed([]).band[:, -1]
    return float(low), float(middle), float(high)


LEVELS = st.integers(min_value=8, max_value=96).map(lambda percent: percent / 100)


@settings(max_examples=examples(25), deadline=None)
@given(value=LEVELS)
def test_the_estimate_lies_between_the_reading_and_the_prior(
    prior: tuple[float, float, float], value: float
) -> None:
    tracked = followed([(10, value)])
    low, middle, high = tracked.band[:, -1]
    least, most = min(value, prior[1]), max(value, prior[1])
    assert least - SLACK <= middle <= most + SLACK
    if tracked.taken[0].open:
        # Both are in the band: never a tight one beside what was read.
        assert low <= value + SLACK
        assert high >= value - 2 * SLACK
        assert low <= prior[1] <= high


@settings(max_examples=examples(25), deadline=None)
@given(value=LEVELS, off=st.sampled_from([-0.01, 0.0, 0.01]), apart=st.sampled_from([1, 20, 90]))
def test_two_that_agree_bring_it_within_their_own_errors(
    value: float, off: float, apart: int
) -> None:
    tracked = followed([(5 + apart, value), (5, min(value + off, 1.0))])
    assert tracked.taken[1].used
    assert tracked.open_share == 0.0
    assert abs(float(tracked.band[1, -1]) - value) <= USUAL_OFF + SLACK
    width = float(tracked.band[2, -1] - tracked.band[0, -1])
    assert width < 0.25


@settings(max_examples=examples(15), deadline=None)
@given(values=st.lists(LEVELS, min_size=2, max_size=4), order=st.randoms(use_true_random=False))
def test_the_order_of_entry_does_not_matter(values: list[float], order: object) -> None:
    readings = [(60.0 * (len(values) - n), value) for n, value in enumerate(values)]
    shuffled = list(readings)
    order.shuffle(shuffled)  # type: ignore[attr-defined]
    first, second = followed(readings), followed(shuffled)
    np.testing.assert_array_equal(first.band, second.band)


@settings(max_examples=examples(15), deadline=None)
@given(values=st.lists(LEVELS, min_size=1, max_size=4))
def test_the_band_reaches_the_last_reading_whatever_came_before(values: list[float]) -> None:
    """Believed, or beside the other explanation: it is never outside of both."""
    readings = [(30.0 * (len(values) - n), value) for n, value in enumerate(values)]
    low, _, high = followed(readings).band[:, -1]
    assert low - 2 * SLACK <= values[-1] <= high + 2 * SLACK
