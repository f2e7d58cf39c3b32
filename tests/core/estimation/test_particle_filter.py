"""The particle filter's steps, each against a closed form or another library's answer."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.special import softmax
from scipy.stats import norm

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.gel import GEL
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.estimation.particle_filter import Particles
from oddkettle.core.kernel.records import COUNTED, from_numbers
from oddkettle.core.simulation.case import Case, SecondBank
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.weather.weather_generator import Doubt
from tests.core.boxes import a_case, lamp

MANY = 2000
DAYS = (0.5,) * 4


def guessed(days: tuple[float, ...] = DAYS, **more: object) -> Case:
    """A box with one guessed lamp and nothing else, for four dull days."""
    given: dict[str, object] = {"soc0": 0.9, "appliances": (lamp(10.0, spread=0.3),)}
    return a_case(clearness=days, **{**given, **more})


def particles(count: int = MANY, **more: object) -> Particles:
    return Particles(guessed(**more), count)


def spread_out(p: Particles, mean: float = 0.5, sd: float = 0.05) -> None:
    """Levels drawn from a normal distribution, and open stretches that end there."""
    p.paths = [np.full((p.count, 4), mean, np.float32)]
    p.set_level(mean + sd * p.rng.standard_normal(p.count))


# --- How likely each is.


def test_weights_are_the_likelihoods_shares_however_small() -> None:
    p = particles(4)
    p.log_weight[:] = [-1000.0, -1001.0, -1003.0, -2000.0]
    assert p.weight() == pytest.approx(softmax(p.log_weight))
    p.log_weight[:] = [5.0, 4.0, 3.0, 800.0]
    assert p.weight() == pytest.approx(softmax(p.log_weight))
    assert p._spread(p.log_weight) == pytest.approx(1.0 / (4 * (softmax(p.log_weight) ** 2).sum()))


def test_the_estimate_is_the_weighted_mean_and_spread() -> None:
    p = particles(3)
    p.set_level(np.array([0.2, 0.4, 0.8]))
    p.log_weight[:] = np.log([0.5, 0.25, 0.25])
    mean, sd = p.estimate_at()
    assert mean == pytest.approx(0.4)
    assert sd == pytest.approx((0.5 * 0.2**2 + 0.25 * 0.4**2) ** 0.5)


@pytest.mark.parametrize("offset", [0.0, 0.5, 0.99])
def test_systematic_rows_stand_as_often_as_they_are_likely(offset: float) -> None:
    """Of 1,000 rows each stands within one of 1,000 times its weight."""
    p = particles(1000)
    p.log_weight[:] = p.rng.standard_normal(1000)
    rows = p.equal_rows(offset)
    often = np.bincount(rows, minlength=1000)
    assert rows.max() < 1000
    assert np.all(np.abs(often - 1000 * p.weight()) < 1.0 + 1e-6)
    assert list(rows) == sorted(rows)


# --- A reading moves them: for straight lines and normal doubt the answer is known.


def test_an_ensemble_update_is_kalman_s_for_a_level_read_straight() -> None:
    """Level .5 give or take .05, read as .58 give or take .03.

    The gain is P / (P + R), and what is left of the doubt (1 - K) P.
    """
    p = particles()
    spread_out(p)
    p.bias = 0.4 * (p.soc - 0.5)
    before, open_end = p.soc.copy(), p.paths[0][:, -1].copy()
    var, noise = float(before.var()), 0.03**2
    gain = var / (var + noise)
    p.lean(0.58, p.soc.copy(), np.full(p.count, 0.03))
    assert p.soc.mean() == pytest.approx(before.mean() + gain * (0.58 - before.mean()), abs=0.002)
    assert p.soc.var() == pytest.approx((1.0 - gain) * var, rel=0.06)
    # What moves with the level goes along by its own slope; open stretches do, too.
    assert p.bias == pytest.approx(0.4 * (p.soc - 0.5), abs=1e-3)
    along = np.polyfit(before, open_end, 1)[0]
    moved = p.paths[0][:, -1].mean() - open_end.mean()
    assert moved == pytest.approx(along * (p.soc.mean() - before.mean()), rel=0.05)


def test_what_has_nothing_to_do_with_a_reading_stays() -> None:
    p = particles()
    spread_out(p)
    volts, load = p.volts_off.copy(), p.drawn.load.copy()
    p.lean(0.58, p.soc.copy(), np.full(p.count, 0.03))
    assert p.volts_off.mean() == pytest.approx(volts.mean(), abs=0.1 * volts.std())
    assert np.log(p.drawn.load).std() == pytest.approx(np.log(load).std(), rel=0.05)


def test_a_count_that_tells_of_an_appliance_moves_its_factor_its_sky_and_its_marks() -> None:
    """The factor's logarithm is what was foreseen, the day's clearness and a mark half of it."""
    p = particles()
    p.advance(24)
    told = np.log(p.drawn.load[:, 0])
    p.drawn.clearness[:, 0] = 0.6 + 0.1 * told
    p.marks = {0: from_numbers(COUNTED, np.multiply.outer(told, np.ones(len(COUNTED.names))))}
    mark = next(iter(p.marks.values()))["ah_in"].mean()
    p.lean(float(told.mean()) + 0.4, told.copy(), np.full(p.count, 0.02))
    after = np.log(p.drawn.load[:, 0])
    assert after.mean() - told.mean() == pytest.approx(0.4, abs=0.01)
    assert p.drawn.clearness[:, 0].mean() == pytest.approx(
        0.6 + 0.1 * float(told.mean()) + 0.04, abs=0.002
    )
    assert next(iter(p.marks.values()))["ah_in"].mean() - mark == pytest.approx(0.4, abs=0.01)


def test_unlike_particles_are_made_alike_before_they_lean() -> None:
    """One that counts for nothing does not pull the others."""
    p = particles(1000)
    spread_out(p, sd=0.02)
    p.soc[:100] = 0.95
    p.log_weight[:100] = -60.0
    p.lean(0.5, p.soc.copy(), np.full(1000, 0.02))
    assert p.soc.mean() == pytest.approx(0.5, abs=0.005)
    assert np.ptp(p.log_weight) == 0.0


def test_what_was_weighed_before_is_not_forgotten_when_they_lean() -> None:
    """Half of them at .4 and half, less likely by a third, at .6; the reading says nothing new."""
    p = particles()
    half = p.count // 2
    p.set_level(np.repeat([0.4, 0.6], half))
    p.log_weight[half:] = np.log(2 / 3)
    p.lean(0.5, p.soc.copy(), np.full(p.count, 50.0))
    assert p.soc.mean() == pytest.approx((0.4 + 0.6 * 2 / 3) / (5 / 3), abs=0.005)


def test_open_stretches_stay_between_empty_and_full_as_they_lean() -> None:
    for level, read in ((0.97, 1.3), (0.03, -0.3)):
        p = particles()
        spread_out(p, level, 0.02)
        p.paths[0][:] = p.soc[:, None]
        p.lean(read, p.soc.copy(), np.full(p.count, 0.01))
        assert p.paths[0].min() >= 0.0
        assert p.paths[0].max() <= 1.0
        assert p.soc.mean() == pytest.approx(min(max(read, 0.0), 1.0), abs=0.001)


@pytest.mark.parametrize("noise", [0.05, 0.01, 0.004])
def test_weighing_is_bayes_for_a_normal_level_however_sharp_the_reading(noise: float) -> None:
    """Prior .5 give or take .05, read as .55: precisions add up."""
    p = particles()
    spread_out(p)
    mean0, var0 = float(p.soc.mean()), float(p.soc.var())
    p.weigh(lambda: norm.logpdf(0.55, p.soc, noise))
    mean, sd = p.estimate_at()
    exact = 1.0 / (1.0 / var0 + 1.0 / noise**2)
    assert mean == pytest.approx(exact * (mean0 / var0 + 0.55 / noise**2), abs=0.2 * exact**0.5)
    assert sd == pytest.approx(exact**0.5, rel=0.12)


def test_a_mild_reading_is_taken_whole_and_at_once() -> None:
    p = particles(200)
    log = -0.3 * np.linspace(0.0, 1.0, 200)
    p.weigh(lambda: log)
    assert p.log_weight == pytest.approx(log)


def test_a_portion_leaves_a_quarter_of_the_particles_counting() -> None:
    p = particles(1000)
    log = norm.logpdf(0.0, np.linspace(-1.0, 1.0, 1000), 0.1)
    share = p._portion(log, 1.0)
    assert 0.02 < share < 1.0
    assert p._spread(share * log) == pytest.approx(0.25, abs=0.01)
    assert p._portion(log, 0.03) == 0.03
    # A reading that none foresaw is still taken in steps that end.
    assert p._portion(1e6 * log, 1.0) == 0.02


# --- Copies of the likely ones.


def test_resampling_takes_everything_of_a_particle_along() -> None:
    charger = MainsCharger("m", "Mains", 5.0, 0.9)
    p = particles(400, mains=(charger,))
    p.advance(30)
    tag = np.arange(400.0)
    p.drawn.load[:, 0] = np.exp(1e-3 * tag)
    p.drawn.sun[:] = np.exp(1e-3 * tag)
    p.outputs.counted["ah_in"], p.outputs.gave[:] = tag, tag[:, None, None]
    p.outputs.used[:], p.outputs.dark[:], p.full_at = tag[:, None, None], tag[:, None], tag.copy()
    p.marks = {3: p.outputs.counted.copy()}
    p.bias, p.gain, p.volts_off, p.offset_a = (1e-3 * tag for _ in range(4))
    p.paths = [np.repeat(tag[:, None] / 1000, 5, axis=1).astype(np.float32)]
    clear = p.chains[-1].z.copy()
    p.soc[:] = tag / 1000
    p.log_weight[:] = np.where(tag < 200, 0.0, -99.0)
    rows = p.resample()
    assert sorted(set(rows)) == list(range(200))
    assert np.all(p.log_weight == 0.0)
    for kept in (
        p.outputs.counted["ah_in"],
        p.outputs.gave[:, 0, 0],
        p.outputs.used[:, 0, 0],
        p.outputs.dark[:, 0],
        p.full_at,
        p.marks[3]["ah_in"],
    ):
        assert np.array_equal(kept, rows)
    assert np.array_equal(p.chains[-1].z, clear[rows])
    assert p.soc == pytest.approx(rows / 1000, abs=0.01)
    # Only the end of a stretch is bent, by what its copies are set apart.
    assert p.paths[0] == pytest.approx(np.repeat(rows[:, None] / 1000, 5, axis=1), abs=0.01)
    for shaken in (
        np.log(p.drawn.load[:, 0]),
        np.log(p.drawn.sun),
        p.bias,
        p.gain,
        p.volts_off,
        p.offset_a,
    ):
        assert shaken.mean() == pytest.approx(1e-3 * rows.mean(), abs=0.005)
        assert shaken.std() == pytest.approx(1e-3 * rows.std(), rel=0.05)
        assert np.corrcoef(shaken, rows)[0, 1] > 0.98


@pytest.mark.parametrize(
    ("field", "low", "high"), [("load", 0.2, 5.0), ("sun", 0.2, 2.0), ("capacity", 0.4, 1.3)]
)
def test_what_was_typed_is_not_moved_beyond_its_bounds(field: str, low: float, high: float) -> None:
    p = particles(500)
    part = getattr(p.drawn, field)
    part[:] = np.exp(8.0 * np.linspace(-1, 1, 500)).reshape(part.shape[0], *[1] * (part.ndim - 1))
    p.resample()
    found = getattr(p.drawn, field)
    assert (found.min(), found.max()) == pytest.approx((low, high))


def test_doubt_opens_to_twice_for_loads_and_sun_and_not_for_what_it_holds() -> None:
    p = particles(doubt=Doubt(panel=0.05, capacity=0.04, capacity_mean=1.0))
    before = [np.log(one).copy() for one in (p.drawn.load[:, 0], p.drawn.sun, p.drawn.capacity)]
    p.open_up()
    after = [np.log(one) for one in (p.drawn.load[:, 0], p.drawn.sun, p.drawn.capacity)]
    for factor, was, now in zip((2.0, 2.0, 1.0), before, after, strict=True):
        assert now.std() == pytest.approx(factor * was.std(), rel=0.02)
        assert now.mean() == pytest.approx(was.mean(), abs=0.01)


# --- Forward, and what was on the way.


def test_a_level_put_elsewhere_bends_the_last_stretch_to_it() -> None:
    """A quarter, a half, three quarters of it at the three steps before; nothing earlier."""
    p = particles(2)
    p.set_level(np.array([0.5, 0.5]))
    p.paths = [np.full((2, 3), 0.7, np.float32), np.full((2, 3), 0.5, np.float32)]
    p.set_level(np.array([0.58, 0.5]))
    assert p.paths[1][0] == pytest.approx([0.52, 0.54, 0.56])
    assert p.paths[1][1] == pytest.approx([0.5, 0.5, 0.5])
    assert np.all(p.paths[0] == np.float32(0.7))
    p.set_level(np.array([1.7, -0.3]))
    assert list(p.soc) == [1.0, 0.0]
    assert p.paths[1].max() <= 1.0
    assert p.paths[1].min() >= 0.0


def test_the_level_wanders_by_the_root_of_the_days_since_it_was_read() -> None:
    """Docs: .4 points in a day."""
    p = particles(3)
    p.advance(4 * 24 * 12)
    assert p.wander() == pytest.approx(0.008)
    assert p.wander() == 0.0


def test_days_are_drawn_as_they_come_and_once() -> None:
    p = particles(20)
    assert p.today() == 0
    p.advance(30 * 12)
    assert p.today() == 1
    # Two solar days have begun: the chain stands after each, and where it began.
    assert len(p.chains) == 3
    drawn = p.drawn.clearness[:, :2].copy()
    p.advance(31 * 12)
    p.advance(20 * 12)
    assert p.step == 31 * 12
    assert np.array_equal(p.drawn.clearness[:, :2], drawn)
    assert [path.shape[1] for path in p.paths] == [30 * 12, 12]


def test_the_band_is_of_those_that_are_likely_and_the_last_stretches_stay_open() -> None:
    p = particles(1000)
    p.paths = [np.linspace(0.0, 1.0, 1000, dtype=np.float32)[:, None]] * 15
    p.log_weight[:] = np.where(np.arange(1000) < 500, 0.0, -99.0)
    p.settle()
    assert (len(p.bands), len(p.paths)) == (3, 12)
    assert p.bands[0][:, 0] == pytest.approx([0.05, 0.25, 0.45], abs=0.002)
    p.settle(0)
    assert (len(p.bands), len(p.paths)) == (15, 0)


def test_a_copy_goes_its_own_way() -> None:
    p = particles(50)
    p.advance(24)
    kept = [p.soc.copy(), p.drawn.load.copy(), p.bias.copy(), p.outputs.used.copy()]
    other = p.copy()
    other.advance(96)
    spread_out(other)
    other.resample()
    other.lean(0.6, other.soc.copy(), np.full(50, 0.02))
    other.drawn.load[:] = 2.0
    for was, now in zip(kept, (p.soc, p.drawn.load, p.bias, p.outputs.used), strict=True):
        assert np.array_equal(was, now)
    assert p.step == 24
    again = p.copy()
    again.advance(96)
    p.advance(96)
    assert np.array_equal(again.soc, p.soc)


def test_going_on_from_here_takes_the_likely_ones() -> None:
    p = particles(400)
    p.advance(40)
    p.soc[:] = np.linspace(0.1, 0.9, 400)
    p.log_weight[:] = np.where(np.arange(400) < 100, 0.0, -99.0)
    here = p.here()
    assert here.step == 40
    assert np.unique(here.state.banks["soc"][:, 0]) == pytest.approx(p.soc[:100])
    assert len(here.drawn.load) == 400
    p.advance(60 * 12)
    later = p.here()
    assert len(p.chains) == 4
    assert np.array_equal(np.unique(later.chain.z), np.unique(p.chains[-1].z[:100]))
    assert not np.array_equal(np.unique(later.chain.z), np.unique(p.chains[1].z[:100]))


# --- What the particles hold of the instruments.


def test_what_ageing_has_left_is_less_of_what_each_holds() -> None:
    aged = Particles(guessed(bank=Bank(LIFEPO4, 100.0, share=0.8)), 20)
    assert aged.content == pytest.approx(0.8 * aged.drawn.capacity)


def test_a_monitor_begins_with_what_was_typed_give_or_take_a_point() -> None:
    """Docs: a percent is off by a point, a shunt by .08 A, a count by its own gain."""
    p = particles(soc0=0.7, doubt=Doubt(panel=0.05, capacity=0.04, capacity_mean=1.0))
    assert p.shown().mean() == pytest.approx(0.7, abs=0.001)
    assert p.shown().std() == pytest.approx(0.01, rel=0.05)
    assert p.offset_a.std() == pytest.approx(0.08, rel=0.05)
    assert p.offset_a.mean() == pytest.approx(0.0, abs=0.005)
    assert p.gain.mean() == pytest.approx(1.0, abs=0.002)
    assert p.volts_off.std() == pytest.approx(0.05, rel=0.05)
    p.bias = p.bias + 0.5
    assert p.shown().max() == 1.0


@pytest.mark.parametrize("chemistry", [LIFEPO4, AGM])
@pytest.mark.parametrize("series", [1, 2])
def test_a_rested_battery_shows_its_curve_and_the_meters_own_error(
    chemistry: object, series: int
) -> None:
    """The chemistry's published points for a cell, as many cells as there are."""
    bank = Bank(chemistry, 100.0, series=series)  # type: ignore[arg-type]
    other = SecondBank(replace(bank, chemistry=GEL), 0.4)
    p = Particles(a_case(bank=bank, soc0=0.5, second=other), 3)
    p.state.banks["lag"][:] = [0.0, 0.3]
    soc, volts = (np.asarray(one, float) for one in zip(*chemistry.ocv, strict=True))  # type: ignore[attr-defined]
    p.set_level(np.array([0.31, 0.5, 0.83]))
    p.volts_off = np.array([0.0, 0.02, -0.03])
    by_hand = series * (np.interp(p.soc, soc, volts) + p.volts_off)
    assert p.ocv_v() == pytest.approx(by_hand, abs=0.01 * series)
    step = 0.02
    slope = (np.interp(p.soc + step, soc, volts) - np.interp(p.soc - step, soc, volts)) / (2 * step)
    assert p.ocv_slope_v() == pytest.approx(series * slope, rel=0.35, abs=0.05)


def test_a_battery_resists_more_when_it_is_empty() -> None:
    p = Particles(replace(guessed(), soc0=0.5), 3)
    p.set_level(np.array([0.05, 0.5, 0.95]))
    discharging, charging = p.ohm(charging=False), p.ohm(charging=True)
    assert discharging[0] > discharging[1] > 0.0
    assert np.all(charging > 0.0)
    assert not np.array_equal(charging, discharging)
