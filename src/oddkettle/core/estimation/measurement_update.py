"""What one reading does to the particles: how well each foresaw it, and what is done about it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.mixture import choose, is_open, keep_both, levels_read
from oddkettle.core.estimation.particle_filter import CAPACITY_BOUNDS, Particles
from oddkettle.core.estimation.readings import READING_KINDS, Aim, Reading, Taken
from oddkettle.core.estimation.readings.percent import PERCENT_SD
from oddkettle.core.simulation.ensemble_statistics import MIDDLE_80

Floats = NDArray[np.float64]
ODD = 0.004
"""A reading as unlikely as this is set aside, until a second one agrees with it [judgement]."""
STRAY = 0.02
"""Rarer than this only a few particles tell of it [judgement]."""
HELD_LESS = (0.6, 1.0)
"""A battery that is smaller than was thought holds between these shares of what was thought
[judgement]."""
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
    kind = READING_KINDS[reading.kind]
    surprise = _surprise(particles, aim, spread, tells_level=kind.tells_level)
    expected = _expected(aim, spread, w)
    if reading.settled is not None:
        _scatter(particles, wander)
        _take_as_told(particles, reading)
        return Taken(reading.key, reading.kind, True, expected, surprise, anchor=True)
    odd = surprise < ODD
    twice = odd and _same_again(reading, before)
    anchor = odd and kind.anchor
    late = twice
    if odd and not twice and not anchor:
        _scatter(particles, wander)
        if kind.tells_level:
            keep_both(particles, reading, aim_of(particles, reading))
        return Taken(reading.key, reading.kind, False, expected, surprise, open=kind.tells_level)
    if twice:
        particles.open_up()
    if odd:
        _retake(particles, reading, aim)
    else:
        _scatter(particles, wander)
        if kind.tells_level and is_open(particles):
            late = choose(particles, aim_of(particles, reading))
            if late:
                particles.open_up()
        now = aim_of(particles, reading)
        if kind.leans(now):
            particles.lean(now.value, now.foreseen, now.spread)
        else:
            particles.weigh(lambda: _log_likelihood(aim_of(particles, reading)))
    if kind.syncs:
        particles.sync(particles.full_at <= 1.0, np.ones(particles.count))
    return Taken(reading.key, reading.kind, True, expected, surprise, anchor=anchor, late=late)


def _surprise(particles: Particles, aim: Aim, spread: Floats, *, tells_level: bool) -> float:
    """Chance of a reading so odd; while two explanations are open, by the one that fits better."""
    w = particles.weight()
    if not (tells_level and is_open(particles)):
        return surprise_of(aim.value, aim.foreseen, spread, w)
    read = particles.story > 0.5
    return max(
        surprise_of(aim.value, aim.foreseen[rows], spread[rows], w[rows] / w[rows].sum())
        for rows in (read, ~read)
    )


def _same_again(reading: Reading, before: list[Taken]) -> bool:
    """Whether the reading before was not foreseen either, of what tells no level.

    Of what tells the level two that agree are found out by the two explanations.
    """
    kinds = READING_KINDS
    if kinds[reading.kind].tells_level or not before:
        return False
    return not before[-1].used and not kinds[before[-1].kind].tells_level


def _take_as_told(particles: Particles, reading: Reading) -> None:
    """Somebody said what it is about a reading that did not fit."""
    if reading.settled == "reset":
        off = PERCENT_SD * particles.rng.standard_normal(particles.count)
        content = (1.0 - particles.soc) * particles.content
        particles.bias = reading.value - (1.0 - content) + off
        particles.story = np.zeros(particles.count)
        return
    if reading.settled == "smaller":
        low, high = HELD_LESS
        share = particles.rng.uniform(low, high, particles.count)
        least = CAPACITY_BOUNDS[0]
        particles.drawn.capacity[:] = np.maximum(particles.drawn.capacity * share, least)
    _retake(particles, reading, aim_of(particles, reading))


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
    kind = READING_KINDS[reading.kind]
    particles.story = np.zeros(particles.count)
    if kind.level:
        particles.set_level(levels_read(particles, aim, biased=kind.biased))
        particles.log_weight[:] = 0.0
        return
    noise = particles.rng.standard_normal(particles.count)
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
