"""Two explanations of a reading, kept side by side until the next one settles which it is.

A reading that no particle foresaw is either wrong itself, or right of a battery that is not where
the model has it. Half of the particles go on as before, the other half from the reading: the band
spans both, and nothing is decided by whichever came first.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.readings import READING_KINDS, Aim, Reading

if TYPE_CHECKING:
    from oddkettle.core.estimation.particle_filter import Particles

Floats = NDArray[np.float64]
FROM_READING = 0.5
"""So many of the particles follow a reading that nobody foresaw [judgement: a monitor that is wrong
and a day that went otherwise are about as common]."""
SETTLED = 0.02
"""An explanation that no more than this share of the particles follows is given up."""
FAR = 0.08
"""Spread of a level that is taken anew from a reading that tells it only roughly, 0..1
[judgement]."""
HOLDS_LESS, LEAST_HELD = 0.5, 0.4
"""So many of those that a reading puts lower stand there because the battery holds less than was
thought, but no less than this of its label [judgement]."""
ANYWHERE = (0.02, 0.98)
"""Between these a level is looked for that only a voltage tells, 0..1."""


def share_from_reading(particles: Particles) -> float:
    """How likely it is that the reading which is open was right, 0..1; 0 where none is open."""
    return float(particles.weight() @ particles.story)


def is_open(particles: Particles) -> bool:
    """Whether two explanations stand side by side."""
    return SETTLED < share_from_reading(particles) < 1.0 - SETTLED


def keep_both(particles: Particles, reading: Reading, aim: Aim) -> None:
    """Let a part of the particles go on from the reading, the others as before."""
    rows = particles.resample()
    aim = Aim(aim.value, aim.foreseen[rows], aim.spread[rows], aim.by_level)
    chosen = particles.rng.random(particles.count) < FROM_READING
    before = particles.soc.copy()
    level = np.clip(np.where(chosen, _levels(particles, reading, aim, chosen), before), 0.0, 1.0)
    if particles.case.doubt.worn and READING_KINDS[reading.kind].tells_content:
        # It may stand lower because it holds less: the same amp-hours are missing from less.
        less = (level < before) & (particles.rng.random(particles.count) < HOLDS_LESS)
        share = (1.0 - before) / np.maximum(1.0 - level, 1e-6)
        capacity = particles.drawn.capacity
        capacity[:] = np.where(less, np.maximum(capacity * share, LEAST_HELD), capacity)
    particles.set_level(level)
    particles.story = chosen.astype(np.float64)


def _levels(particles: Particles, reading: Reading, aim: Aim, chosen: NDArray[np.bool_]) -> Floats:
    """(particles,) where the battery stands by the reading alone; it counts for the chosen."""
    kind = READING_KINDS[reading.kind]
    if kind.level:
        return levels_read(particles, aim, biased=kind.biased)
    soc = particles.soc.copy()
    tried = soc + FAR * particles.rng.standard_normal(particles.count)
    if kind.by_curve:
        tried = particles.rng.uniform(*ANYWHERE, particles.count)
    particles.set_level(np.where(chosen, tried, soc))
    now = kind.aim(particles, reading)
    off = np.where(chosen, (now.value - now.foreseen) / now.spread, np.inf)
    weight = np.exp(-0.5 * (off**2 - off.min() ** 2)) / now.spread
    at = (np.arange(particles.count) + particles.rng.random()) / particles.count
    picked = np.searchsorted(np.cumsum(weight / weight.sum()), at)
    found = particles.soc[np.minimum(picked, particles.count - 1)].copy()
    particles.set_level(soc)
    return found


def levels_read(particles: Particles, aim: Aim, *, biased: bool) -> Floats:
    """(particles,) the level that a reading of the level itself tells, with its own spread."""
    noise = particles.rng.standard_normal(particles.count)
    level = aim.value + np.maximum(aim.spread, 0.015) * noise
    if biased:
        level = 1.0 - (1.0 - level + particles.bias) / particles.content
    return np.asarray(level)


def choose(particles: Particles, aim: Aim) -> bool:
    """Weigh the two explanations by a reading; whether the earlier reading was right.

    What is left of the weaker one goes where it is too unlikely to be kept.
    """
    off = (aim.value - aim.foreseen) / aim.spread
    log = -0.5 * off**2 - np.log(aim.spread) + np.log(np.maximum(particles.weight(), 1e-300))
    read = particles.story > 0.5
    evidence = np.array([_log_mean(log[~read]), _log_mean(log[read])])
    evidence -= evidence.max()
    particles.log_weight += np.where(read, evidence[1], evidence[0])
    particles.resample()
    if not is_open(particles):
        right = share_from_reading(particles) > 0.5
        particles.story = np.zeros(particles.count)
        return right
    return False


def _log_mean(log: Floats) -> float:
    if len(log) == 0:
        return -np.inf
    top = float(log.max())
    return top + float(np.log(np.exp(log - top).mean()))
