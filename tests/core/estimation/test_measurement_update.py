"""What one reading does: how odd it is, and whether it is believed, against closed forms."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.stats import norm

from oddkettle.core.estimation.measurement_update import (
    _expected,
    aim_of,
    surprise_of,
    take_reading,
)
from oddkettle.core.estimation.particle_filter import Particles
from oddkettle.core.estimation.readings import Reading, Taken
from oddkettle.core.estimation.readings.reading import Aim
from oddkettle.core.weather.weather_generator import Doubt
from tests.core.boxes import a_case, lamp

ONE = np.ones(1)
SET_ASIDE = Taken("a", "percent", False, (0.0, 1.0), 0.001)
BELIEVED = Taken("a", "percent", True, (0.0, 1.0), 0.5)


def standing(level: float = 0.6, sd: float = 0.04, count: int = 2000) -> Particles:
    """Particles at a level that is guessed, after a quarter of a day."""
    case = a_case(
        clearness=(0.5,) * 2,
        soc0=0.7,
        appliances=(lamp(10.0, spread=0.3),),
        doubt=Doubt(panel=0.0, capacity=0.0, capacity_mean=1.0),
    )
    p = Particles(case, count)
    p.advance(72)
    noise = p.rng.standard_normal(count)
    p.set_level(level + sd * (noise - noise.mean()) / noise.std())
    p.bias = np.zeros(count)
    return p


def percent(value: float) -> Reading:
    return Reading("r", 0, "percent", value)


# --- How odd it is.


@pytest.mark.parametrize("off", [-3.0, -1.0, 0.0, 0.5, 2.0, 4.0])
def test_one_particle_s_surprise_is_the_two_tails_of_its_normal(off: float) -> None:
    found = surprise_of(1.0 + 0.2 * off, ONE, np.array([0.2]), ONE)
    assert found == pytest.approx(2.0 * norm.sf(abs(off)))


def test_particles_surprise_as_their_mixture_does() -> None:
    foreseen, spread = np.array([0.2, 0.5, 0.6]), np.array([0.05, 0.1, 0.1])
    weight = np.array([0.2, 0.3, 0.5])
    below = float(weight @ norm.cdf(0.45, foreseen, spread))
    assert surprise_of(0.45, foreseen, spread, weight) == pytest.approx(2 * min(below, 1 - below))


def test_a_few_particles_far_out_are_no_reason_to_believe() -> None:
    """One in two hundred foresaw it: as one normal of their mean and spread it is rarer."""
    foreseen = np.full(200, 0.5)
    foreseen[0] = 0.56
    spread, weight = np.full(200, 0.02), np.full(200, 1 / 200)
    sd = (0.02**2 + foreseen.var()) ** 0.5
    assert surprise_of(0.56, foreseen, spread, weight) == pytest.approx(
        2 * norm.sf((0.56 - 0.5003) / sd), rel=1e-6
    )


def test_a_twentieth_of_the_particles_is_reason_enough() -> None:
    """Half of them lie above it, and a reading has two sides: one in twenty."""
    foreseen = np.repeat([0.5, 0.9], [190, 10])
    found = surprise_of(0.9, foreseen, np.full(200, 0.02), np.full(200, 1 / 200))
    assert found == pytest.approx(0.05, rel=1e-6)


def test_what_is_expected_is_the_middle_eight_tenths_of_a_normal() -> None:
    aim = Aim(0.0, np.array([0.4, 0.6]), np.array([0.03, 0.03]))
    sd = (0.03**2 + 0.1**2) ** 0.5
    low, high = _expected(aim, aim.spread, np.array([0.5, 0.5]))
    assert (low, high) == pytest.approx(norm.ppf([0.1, 0.9], 0.5, sd), abs=1e-4)


# --- What is done about it.


def test_a_likely_reading_moves_the_level_as_kalman_would() -> None:
    """A percent is good to a point; the level was to four, and has wandered a little."""
    p = standing()
    taken = take_reading(p, percent(0.66), [])
    var, noise = 0.04**2 + 0.002**2, 0.01**2
    assert taken.used
    assert not taken.late
    assert not taken.anchor
    assert taken.moved == pytest.approx(0.06 * var / (var + noise), abs=0.004)
    assert taken.doubt[0] == pytest.approx(0.04, rel=0.01)
    assert taken.doubt[1] == pytest.approx((var * noise / (var + noise)) ** 0.5, rel=0.15)
    assert taken.surprise == pytest.approx(2 * norm.sf(0.06 / (var + noise) ** 0.5), rel=0.15)
    assert sum(taken.expected) / 2 == pytest.approx(0.6, abs=0.002)


@pytest.mark.parametrize(("value", "used"), [(0.49, True), (0.47, False), (0.73, False)])
def test_a_reading_of_less_than_four_in_a_thousand_stands_beside_what_was_foreseen(
    value: float, used: bool
) -> None:
    """2.88 spreads of .0412, .119 away: half of the particles stay, half go where it says."""
    p = standing()
    before = p.soc.copy()
    taken = take_reading(p, percent(value), [BELIEVED])
    assert (taken.used, taken.open) == (used, not used)
    if not used:
        read = p.story > 0.5
        assert read.mean() == pytest.approx(0.5, abs=0.05)
        assert p.soc[read].mean() == pytest.approx(value, abs=0.004)
        assert p.soc[~read].mean() == pytest.approx(before.mean(), abs=0.004)
        assert p.soc[~read].std() == pytest.approx(before.std(), rel=0.1)


@pytest.mark.parametrize("again", [0.3, 0.29, 0.31])
def test_a_second_reading_that_agrees_is_believed_and_opens_the_doubt(again: float) -> None:
    p = standing()
    load = np.log(p.drawn.load[:, 0]).std()
    assert take_reading(p, percent(0.3), [BELIEVED]).open
    taken = take_reading(p, percent(again), [BELIEVED, SET_ASIDE])
    assert taken.used
    assert taken.late
    assert np.log(p.drawn.load[:, 0]).std() == pytest.approx(2 * load, rel=0.2)
    # One explanation is left, and it lies where both were read.
    assert p.story.max() == 0.0
    level, doubt = p.estimate_at()
    assert level == pytest.approx((0.3 + again) / 2, abs=0.01)
    assert doubt < 0.02


def test_a_second_reading_that_fits_what_was_foreseen_gives_the_first_up() -> None:
    p = standing()
    take_reading(p, percent(0.3), [BELIEVED])
    taken = take_reading(p, percent(0.61), [BELIEVED, SET_ASIDE])
    assert (taken.used, taken.late) == (True, False)
    level, doubt = p.estimate_at()
    assert level == pytest.approx(0.605, abs=0.01)
    assert doubt < 0.03


def test_a_third_story_stands_beside_the_two_before() -> None:
    """60 foreseen, 30 read, then 90: none of the three is given up."""
    p = standing()
    take_reading(p, percent(0.3), [BELIEVED])
    assert take_reading(p, percent(0.9), [BELIEVED, SET_ASIDE]).open
    low, high = np.quantile(p.soc, [0.1, 0.9])
    assert low < 0.35
    assert high > 0.85


@pytest.mark.parametrize(("settled", "level", "shown"), [("right", 0.3, 0.3), ("reset", 0.6, 0.3)])
def test_what_its_reader_says_of_it_settles_it(settled: str, level: float, shown: float) -> None:
    """A monitor that is right moves the level; one that was reset is off by the difference."""
    p = standing()
    reading = Reading("r", 0, "percent", 0.3, settled=settled)  # type: ignore[arg-type]
    assert take_reading(p, reading, [BELIEVED]).used
    assert p.estimate_at()[0] == pytest.approx(level, abs=0.01)
    assert p.shown().mean() == pytest.approx(shown, abs=0.01)


def test_a_battery_that_is_smaller_holds_less_from_then_on() -> None:
    p = standing()
    take_reading(p, Reading("r", 0, "percent", 0.3, settled="smaller"), [BELIEVED])
    # By a fifth in the mean: even between .6 and 1.
    assert p.content.mean() == pytest.approx(0.8, abs=0.02)
    assert p.shown().mean() == pytest.approx(0.3, abs=0.02)


def test_of_what_tells_no_level_a_second_odd_one_in_a_row_is_believed() -> None:
    p = standing()
    amps = Reading("r", 0, "net_a", -60.0)
    assert not take_reading(p, amps, [BELIEVED]).used
    odd = Taken("a", "net_a", False, (0.0, 1.0), 0.001)
    taken = take_reading(p, amps, [BELIEVED, odd])
    assert taken.used
    assert taken.late


def test_a_level_taken_anew_from_a_monitor_allows_for_its_bias_and_the_content() -> None:
    """It shows 40 % of the label, 5 too many; of a battery that holds 80 % of it: 1 - .65 / .8."""
    p = standing()
    p.bias = np.full(p.count, 0.05)
    p.drawn.capacity[:] = 0.8
    assert aim_of(p, percent(0.4)).foreseen == pytest.approx(1 - (1 - p.soc) * 0.8 + 0.05)
    take_reading(p, Reading("r", 0, "percent", 0.4, settled="right"), [])
    assert p.estimate_at()[0] == pytest.approx(1 - 0.65 / 0.8, abs=0.002)


@pytest.mark.parametrize(("kind", "level"), [("full", 0.985), ("cut_out", 0.02)])
def test_an_anchor_is_believed_at_once(kind: str, level: float) -> None:
    p = standing()
    taken = take_reading(p, Reading("r", 0, kind), [])
    assert taken.used
    assert taken.anchor
    assert not taken.late
    assert p.estimate_at()[0] == pytest.approx(level, abs=0.02)


def test_full_sets_the_monitors_that_ever_do_and_no_others() -> None:
    """To 100 % give or take half a point at the level where they stand."""
    p = standing(level=0.97, sd=0.01)
    p.bias = np.full(p.count, 0.3)
    never = p.full_at > 1.0
    take_reading(p, Reading("r", 0, "full"), [])
    never = p.full_at > 1.0
    assert 0.05 < never.mean() < 0.2
    assert p.bias[never].mean() > 0.2
    assert p.bias[~never].mean() == pytest.approx(0.0, abs=0.001)
    assert p.bias[~never].std() == pytest.approx(0.005, rel=0.1)


def test_other_readings_that_none_foresaw_open_the_level_by_eight_points() -> None:
    """A current tells nothing of the level: it is blurred, and that is all."""
    p = standing()
    current = Reading("r", 0, "net_a", -9.0)
    p.weigh = lambda _: None  # type: ignore[method-assign]
    take_reading(p, current, [Taken("a", "net_a", False, (0.0, 1.0), 0.001)])
    assert p.soc.std() == pytest.approx((0.04**2 + 0.08**2) ** 0.5, rel=0.05)
    assert p.soc.mean() == pytest.approx(0.6, abs=0.006)


def test_a_voltage_that_none_foresaw_is_looked_for_from_nearly_empty_to_nearly_full() -> None:
    """Before it is weighed: half of them evenly from 2 to 98 %, half about where they stood."""
    p = standing(sd=0.005)
    p.weigh = lambda _: None  # type: ignore[method-assign]
    volts = Reading("r", 0, "rested_v", 12.2, rested_h=12.0, settled="right")
    take_reading(p, volts, [])
    assert 0.019 < p.soc.min() < 0.05
    assert 0.95 < p.soc.max() < 0.981
    near = np.abs(p.soc - 0.6) < 0.16
    # Twice 8 points to either side hold 95 % of the blurred half, and a third of the other.
    assert near.mean() == pytest.approx(0.5 * 0.95 + 0.5 * 0.32 / 0.96, abs=0.04)


def test_a_rested_voltage_that_none_foresaw_is_looked_for_everywhere() -> None:
    """Particles near 60 % and 12.2 V, told to be right, where lithium is nearly empty."""
    p = standing(sd=0.02)
    volts = Reading("r", 0, "rested_v", 12.2, rested_h=12.0, settled="right")
    take_reading(p, volts, [])
    level, doubt = p.estimate_at()
    assert level < 0.12
    assert doubt < 0.05


def test_a_voltage_beside_what_was_foreseen_keeps_both_until_a_second_one() -> None:
    """12.2 V at rest where 60 % stood: half near empty at once, all of them after a second."""
    p = standing(sd=0.02)
    volts = Reading("r", 0, "rested_v", 12.2, rested_h=12.0)
    assert take_reading(p, volts, []).open
    read = p.story > 0.5
    assert p.soc[read].mean() < 0.12
    assert p.soc[~read].mean() == pytest.approx(0.6, abs=0.02)
    assert take_reading(p, volts, []).late
    level, doubt = p.estimate_at()
    assert level < 0.12
    assert doubt < 0.05
