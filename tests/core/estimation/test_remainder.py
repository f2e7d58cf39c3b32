"""The rest of a trip: the same scenarios from wherever the battery stands."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddkettle.core.estimation.remainder import run_rest
from oddkettle.core.estimation.tracker import track
from oddkettle.core.loads.overrides import LoadOverride, as_it_ran, share_between
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import run_ensemble
from oddkettle.core.simulation.run import simulate, trip_grid
from oddkettle.core.trip.grid import Block
from tests.core.estimation.test_tracker import DAY_S, begin_s, read

COUNT = 100


def test_from_the_first_step_the_rest_is_the_whole_trip(moth_case: Case) -> None:
    coarse = replace(moth_case, step_min=15)
    whole = run_ensemble(coarse, COUNT)
    rest = run_rest(coarse, track(coarse, (), begin_s(coarse), COUNT).here, COUNT)
    # The days to come are drawn anew, so the two agree as two hundred scenarios of one trip do.
    assert rest.level[:, 0] == pytest.approx(whole.level[:, 0], abs=1e-6)
    assert np.nanmean(rest.level) == pytest.approx(np.nanmean(whole.level), abs=0.03)
    assert rest.lasts.mean() == pytest.approx(whole.lasts.mean(), abs=0.12)


def test_the_rest_begins_where_the_battery_stands(moth_case: Case) -> None:
    reading = read(moth_case, 3.0, "percent", 0.4)
    tracked = track(moth_case, (reading,), reading.at_s, 200)
    rest = run_rest(tracked.case, tracked.here, COUNT)
    begins = rest.level[:, tracked.until]
    assert np.all(np.isnan(rest.level[:, : tracked.until]))
    assert np.quantile(begins, 0.5) == pytest.approx(tracked.band[1, -1], abs=0.02)
    assert not np.any(np.isnan(rest.level[:, tracked.until :]))


def test_a_variant_of_the_rest_meets_the_same_skies(moth_case: Case) -> None:
    tracked = track(moth_case, (), begin_s(moth_case) + 4 * DAY_S, 200)
    case = tracked.case
    drive = Block("drive", 5, 600, 5, 720)
    more = run_rest(replace(case, blocks=(*case.blocks, drive)), tracked.here, COUNT)
    plain = run_rest(case, tracked.here, COUNT)
    assert np.array_equal(more.scenarios.skies.clearness, plain.scenarios.skies.clearness)
    # Now and then a box that was dark is on again for a while and empties itself once more.
    assert np.mean(more.lowest >= plain.lowest - 1e-3) > 0.95
    assert more.lasts.mean() > plain.lasts.mean()
    until_the_drive = int(case.days and trip_grid(case).day_starts[5])
    same = slice(tracked.until, until_the_drive)
    assert np.array_equal(more.level[:, same], plain.level[:, same])


def test_low_particles_have_worse_odds_than_high_ones(moth_case: Case) -> None:
    def lasts(percent: float) -> float:
        reading = read(moth_case, 4.0, "percent", percent)
        again = replace(reading, key="again", at_s=reading.at_s + 900)
        tracked = track(moth_case, (reading, again), again.at_s, 200)
        return float(run_rest(tracked.case, tracked.here, COUNT).lasts.mean())

    assert lasts(0.25) < lasts(0.55) < lasts(0.9)


def test_the_end_of_the_trip_has_no_rest(moth_case: Case) -> None:
    tracked = track(moth_case, (), begin_s(moth_case) + 20 * DAY_S, 60)
    assert tracked.until == tracked.grid.steps
    rest = run_rest(tracked.case, tracked.here, 40)
    assert np.all(np.isfinite(rest.lowest))
    assert rest.dark_h.sum() == 0.0


def test_a_share_of_a_step_is_what_lies_in_it(moth_case: Case) -> None:
    grid = trip_grid(moth_case)
    first = begin_s(moth_case)
    share = share_between(grid, first + 450, first + 1200)
    assert share[:5].tolist() == [0.0, 0.5, 1.0, 1.0, 0.0]
    assert share.sum() * grid.step_min * 60 == 750


def test_a_later_departure_goes_over_an_earlier_one(moth_case: Case) -> None:
    grid = trip_grid(moth_case)
    first = begin_s(moth_case)
    hour = LoadOverride("trap", False, first, first + 3600)
    again = LoadOverride("trap", True, first + 1800, first + 2700)
    window = as_it_ran("trap", np.ones(grid.steps), (hour, again), grid)
    assert window[:12].tolist() == [0] * 6 + [1] * 3 + [0] * 3
    assert np.all(as_it_ran("laptop", window, (hour,), grid) == window)


def test_an_appliance_left_off_uses_nothing_then_and_the_rest_as_before(moth_case: Case) -> None:
    off = LoadOverride("trap", False, begin_s(moth_case), begin_s(moth_case) + 2 * DAY_S)
    plain, left = simulate(moth_case), simulate(replace(moth_case, overrides=(off,)))
    n = [draw.key for draw in plain.draws].index("trap")
    steps = 2 * 288
    assert left.draws[n].asked[:steps].sum() == 0.0
    assert np.array_equal(left.draws[n].asked[steps:], plain.draws[n].asked[steps:])
    assert left.level[steps] > plain.level[steps]
    others = [draw for draw in range(len(plain.draws)) if draw != n]
    for other in others:
        assert np.array_equal(left.draws[other].asked, plain.draws[other].asked)
