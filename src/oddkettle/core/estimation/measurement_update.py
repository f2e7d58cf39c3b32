"""What one reading does to the particles: how well each foresaw it, and what is done about it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.particle_filter import Particles
from oddkettle.core.estimation.readings import READING_KINDS, Aim, Reading, Taken
from oddkettle.core.simulation.ensemble_statistics import MIDDLE_80

Floats = NDArray[np.float64]
ODD = 0.004
"""A reading as unlikely as this is set aside, until a second one agrees with it [judgement]."""
STRAY = 0.02
"""Rarer than this only a few particles tell of it [judgement]."""
RETAKE = 0.08
"""Spread of a level that is taken anew from readings nobody foresaw, 0..1 [judgement]."""


def take_reading(particles: Particles, reading: Reading, before: list[Taken]) -> Taken:
    """Let one reading change the particles, or set it aside. They stand at its time."""
    level, doubt = particles.estimate_at()
    taken = _take(particles, reading, before)
    new_level, new_doubt = particles.estimate_at()
    return replace(taken, moved=new_level - level, doubt=(doubt, new_doubt))


def surprise_of(value: float, foreseen: Floats, spread: Floats, weight: Floats) -> float:
    """Chance 0..1 of a reading at least as odd as `value`, on either side.

    foreseen, spread, weight : (particles,) what each foresees, give or take, and how much it counts
    """
    from scipy.special import ndtr

    below = float(weight @ ndtr((value - foreseen) / spread))
    found = 2.0 * min(below, 1.0 - below)
    if found >= STRAY:
        return found
    # A few particles far out are no reason to believe it: there their spread as a whole counts.
    mean = float(weight @ foreseen)
    sd = float(np.sqrt(weight @ (spread**2 + (foreseen - mean) ** 2)))
    return min(found, 2.0 * float(ndtr(-abs(value - mean) / sd)))


def _take(particles: Particles, reading: Reading, before: list[Taken]) -> Taken:
    wander = particles.wander()
    aim = aim_of(particles, reading)
    spread = np.hypot(aim.spread, aim.by_level * wander)
    w = particles.weight()
    surprise = surprise_of(aim.value, aim.foreseen, spread, w)
    expected = _expected(aim, spread, w)
    odd = surprise < ODD
    twice = odd and bool(before) and not before[-1].used
    kind = READING_KINDS[reading.kind]
    anchor = odd and kind.anchor
    if odd and not twice and not anchor:
        _scatter(particles, wander)
        return Taken(reading.key, reading.kind, False, expected, surprise)
    if twice:
        particles.open_up()
    if odd:
        _retake(particles, reading, aim)
    else:
        _scatter(particles, wander)
        now = aim_of(particles, reading)
        if kind.leans(now):
            particles.lean(now.value, now.foreseen, now.spread)
        else:
            particles.weigh(lambda: _log_likelihood(aim_of(particles, reading)))
    if kind.syncs:
        particles.sync(particles.full_at <= 1.0, np.ones(particles.count))
    return Taken(reading.key, reading.kind, True, expected, surprise, anchor=anchor, late=twice)


def aim_of(particles: Particles, reading: Reading) -> Aim:
    """How each particle foresees a reading, by its kind."""
    return READING_KINDS[reading.kind].aim(particles, reading)


def _log_likelihood(aim: Aim) -> Floats:
    off = (aim.value - aim.foreseen) / aim.spread
    return np.asarray(-0.5 * off**2 - np.log(aim.spread))


def _scatter(particles: Particles, wander: float) -> None:
    noise = particles.rng.standard_normal(particles.count)
    particles.set_level(particles.soc + wander * noise)


def _retake(particles: Particles, reading: Reading, aim: Aim) -> None:
    """Nobody foresaw it, and it is believed: the level is taken from it anew."""
    noise = particles.rng.standard_normal(particles.count)
    kind = READING_KINDS[reading.kind]
    if kind.level:
        level = aim.value + np.maximum(aim.spread, 0.015) * noise
        if kind.biased:
            level = 1.0 - (1.0 - level + particles.bias) / particles.content
        particles.set_level(level)
        particles.log_weight[:] = 0.0
        return
    particles.set_level(particles.soc + RETAKE * noise)
    if kind.by_curve:
        low, high = float(particles.soc.min()), float(particles.soc.max())
        wide = particles.rng.uniform(min(low, 0.02), max(high, 0.98), particles.count)
        half = particles.rng.random(particles.count) < 0.5
        particles.set_level(np.where(half, wide, particles.soc))
    particles.weigh(lambda: _log_likelihood(aim_of(particles, reading)))


def _expected(aim: Aim, spread: Floats, w: Floats) -> tuple[float, float]:
    mean = float(w @ aim.foreseen)
    sd = float(np.sqrt(w @ (spread**2 + (aim.foreseen - mean) ** 2)))
    return mean - MIDDLE_80 * sd, mean + MIDDLE_80 * sd
