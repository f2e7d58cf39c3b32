"""Numbers of the particle filter worked by hand or taken from the literature that is named."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from numpy.typing import NDArray
from scipy.stats import norm

from oddkettle.core.estimation.measurement_update import _log_likelihood
from oddkettle.core.estimation.particle_filter import Particles
from oddkettle.core.estimation.readings import Reading
from oddkettle.core.estimation.readings.reading import Aim
from oddkettle.core.estimation.tracker import track
from oddkettle.core.simulation.run import trip_grid
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.trip.grid import Block
from oddkettle.core.weather.weather_generator import Doubt
from tests.core.boxes import a_case, lamp


def test_how_many_particles_count_is_told_by_kish() -> None:
    """Kish's effective sample size: all alike count whole; of four, two with nothing count half."""
    particles = Particles(a_case(), 4)
    assert particles._spread(np.zeros(4)) == pytest.approx(1.0)
    assert particles._spread(np.array([0.0, 0.0, -99.0, -99.0])) == pytest.approx(0.5)
    assert particles._spread(np.log([0.5, 0.25, 0.125, 0.125])) == pytest.approx(
        1.0 / (4 * (0.25 + 0.0625 + 2 * 0.015625))
    )


def test_a_reading_speaks_for_each_particle_as_a_normal_density_does() -> None:
    """Up to one constant for all; who foresaw it as exactly, but was surer, gains by that."""
    aim = Aim(12.8, np.array([12.8, 12.8, 12.7, 13.1]), np.array([0.05, 0.2, 0.05, 0.3]))
    by_hand = norm.logpdf(12.8, loc=aim.foreseen, scale=aim.spread)
    found = _log_likelihood(aim)
    assert found - found[0] == pytest.approx(by_hand - by_hand[0])
    assert found[0] > found[1] > found[2]


def test_shaking_particles_keeps_their_spread_and_their_order() -> None:
    """Liu and West: shrunk by sqrt(1 - h2) and blurred by h, so that the variance stays."""
    particles = Particles(a_case(), 1000)
    before = particles.rng.standard_normal((1000, 1)) * 0.3 + 1.0
    after = particles._shaken(before)
    assert after.std() == pytest.approx(before.std(), rel=0.02)
    assert after.mean() == pytest.approx(before.mean(), abs=0.01)
    # Each is drawn towards the mean by sqrt(1 - h2), before the blur.
    slope = np.polyfit(before[:, 0], after[:, 0], 1)[0]
    assert slope == pytest.approx((1 - 0.1**2) ** 0.5, abs=0.006)
    together = np.corrcoef(before[:, 0], after[:, 0])[0, 1]
    assert together == pytest.approx((1 - 0.1**2) ** 0.5, abs=0.002)


def test_a_copied_particle_s_level_is_set_apart_by_little() -> None:
    """Docs: two thousandths of the charge."""
    particles = Particles(a_case(soc0=0.5), 2000)
    particles.set_level(np.full(2000, 0.5))
    particles.resample()
    assert particles.soc.std() == pytest.approx(0.002, rel=0.1)


def test_doubt_that_opens_up_keeps_who_was_high() -> None:
    particles = Particles(a_case(appliances=(lamp(20.0, spread=0.3),)), 400)
    before = np.log(particles.drawn.load[:, 0]).copy()
    particles.open_up()
    after = np.log(particles.drawn.load[:, 0])
    assert np.corrcoef(before, after)[0, 1] > 0.99


def hooked(particles: Particles) -> NDArray[np.float64]:
    """(particles,) how much of its hook-up each had on the first day."""
    return np.asarray(particles.drawn.given[:, 0, 0])


def test_a_meter_counts_small_currents_too() -> None:
    """Half an ampere of charge for four hours is two amp-hours in, and none out."""
    charger = MainsCharger("m", "Mains", 0.5, 0.9)
    case = a_case(mains=(charger,), blocks=(Block("hookup", 0, 0, 0, 240),), soc0=0.5)
    particles = Particles(replace(case, doubt=Doubt(panel=0.0, capacity=0.0, capacity_mean=1.0)), 3)
    particles.advance(48)
    counted = particles.outputs.counted
    assert counted["ah_in"] == pytest.approx(2.0 * hooked(particles), abs=0.01)
    assert counted["ah_out"] == pytest.approx(np.zeros(3), abs=1e-6)


def test_two_meters_count_all_that_came_and_all_that_went() -> None:
    """5 A of mains for four hours beside a 24 W lamp: 20 Ah from it, 7 into the lamp, 13 left."""
    charger = MainsCharger("m", "Mains", 5.0, 0.9)
    case = a_case(
        mains=(charger,),
        blocks=(Block("hookup", 0, 0, 0, 240),),
        soc0=0.5,
        appliances=(lamp(24.0, 0.0, 4.0, spread=0.0),),
    )
    particles = Particles(replace(case, doubt=Doubt(panel=0.0, capacity=0.0, capacity_mean=1.0)), 3)
    particles.advance(48)
    counted = particles.outputs.counted
    assert counted["gross_in"] == pytest.approx(20.0 * hooked(particles), abs=0.05)
    lamp_w = 24.0 * particles.drawn.load[:, 0]
    assert counted["gross_out"] == pytest.approx(lamp_w * 4 / 13.4, rel=0.02)
    assert counted["gross_in"] - counted["gross_out"] == pytest.approx(
        counted["ah_in"] - counted["ah_out"], abs=1e-6
    )


def test_two_meters_read_together_tell_of_the_level_one_alone_hardly() -> None:
    """Twelve hours of a guessed lamp: the net of both leaves less doubt than either count."""
    case = a_case(soc0=0.8, appliances=(lamp(40.0, 0.0, 12.0, spread=0.5),))
    begin = int(trip_grid(case).starts_utc[0].astype(np.int64))
    at = begin + 12 * 3600

    def width(*kinds: tuple[str, float]) -> float:
        readings = tuple(Reading(kind, at, kind, ah, since_s=begin) for kind, ah in kinds)
        tracked = track(case, readings, at, 300)
        return float(tracked.band[2, -1] - tracked.band[0, -1])

    both = width(("gross_in", 0.0), ("gross_out", 30.0))
    assert both < 0.6 * width()
    assert both < 0.8 * width(("gross_in", 0.0))
