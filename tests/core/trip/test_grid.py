"""The grid: local time, daylight saving, blocks."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.trip.grid import Block, daily_share, lay_grid, shares_of_steps, zone_named

LONDON = zone_named("Europe/London")


@pytest.mark.parametrize(("day", "hours"), [(28, 24), (29, 23), (30, 24)])
def test_the_day_on_which_clocks_go_forward_is_an_hour_short(day: int, hours: int) -> None:
    grid = lay_grid(date(2026, 3, day), 1, LONDON, 5)
    assert grid.steps == hours * 12


def test_the_day_on_which_clocks_go_back_has_one_hour_twice() -> None:
    grid = lay_grid(date(2026, 10, 25), 1, LONDON, 5)
    assert grid.steps == 25 * 12
    assert np.count_nonzero(grid.clock_min == 90) == 2


def test_utc_steps_are_even_across_the_change() -> None:
    grid = lay_grid(date(2026, 3, 28), 3, LONDON, 5)
    assert np.all(np.diff(grid.starts_utc).astype(int) == 300)
    assert list(np.diff(grid.day_starts)) == [288, 276, 288]


def test_a_block_in_the_missing_hour_is_refused_with_the_hour_that_exists() -> None:
    grid = lay_grid(date(2026, 3, 29), 1, LONDON, 5)
    with pytest.raises(PlanError) as caught:
        shares_of_steps(grid, (Block("drive", 0, 90, 0, 240),))
    assert caught.value.value == "01:30"
    assert caught.value.remedy == "Use 02:30."
    assert caught.value.where == ("trip", "blocks", 0, "start")


def test_a_drive_that_ends_before_it_starts_is_refused() -> None:
    grid = lay_grid(date(2026, 6, 6), 1, LONDON, 5)
    with pytest.raises(PlanError, match="from 10:00 ends at 09:00, before it starts"):
        shares_of_steps(grid, (Block("drive", 0, 600, 0, 540),))


def test_a_block_beyond_the_last_day_is_refused() -> None:
    grid = lay_grid(date(2026, 6, 6), 2, LONDON, 5)
    with pytest.raises(PlanError, match="day 3 of a trip of 2 days"):
        shares_of_steps(grid, (Block("hookup", 2, 0, 2, 60),))


def test_a_night_hook_up_counts_its_real_hours_over_the_change() -> None:
    """From 22:00 to 08:00 over the missing hour is nine hours of charge."""
    grid = lay_grid(date(2026, 3, 28), 2, LONDON, 5)
    share = shares_of_steps(grid, (Block("hookup", 0, 1320, 1, 480),))["hookup"]
    assert share.sum() / 12 == pytest.approx(9.0)


def test_parts_of_steps_count_as_parts() -> None:
    grid = lay_grid(date(2026, 6, 6), 1, LONDON, 5)
    share = shares_of_steps(grid, (Block("drive", 0, 601, 0, 612),))["drive"]
    assert share.sum() * 5 == pytest.approx(11.0)
    assert share[120] == pytest.approx(0.8)


def test_overlapping_blocks_do_not_charge_twice() -> None:
    grid = lay_grid(date(2026, 6, 6), 1, LONDON, 5)
    twice = (Block("drive", 0, 600, 0, 660), Block("drive", 0, 630, 0, 690))
    assert shares_of_steps(grid, twice)["drive"].sum() / 12 == pytest.approx(1.5)


@pytest.mark.parametrize(
    ("start", "end", "hours"),
    [(540, 600, 1), (1380, 60, 2), (0, 1440, 24), (0, 0, 24), (7, 18, 11 / 60)],
)
def test_daily_hours_may_pass_midnight(start: int, end: int, hours: float) -> None:
    assert daily_share(start, end, 5).sum() / 12 == pytest.approx(hours)


def test_an_unknown_zone_is_refused() -> None:
    with pytest.raises(PlanError, match="no time zone called 'Moor/Nowhere'"):
        zone_named("Moor/Nowhere")
