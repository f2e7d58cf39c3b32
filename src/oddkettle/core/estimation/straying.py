"""What nobody foresees from stretch to stretch: habits that stray, and a monitor that drifts."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.readings.percent import BIAS_A_ROOT_DAY, SYNCED_SD
from oddkettle.core.simulation.forcing import row_keys
from oddkettle.core.units.conversion import HOURS_PER_DAY

if TYPE_CHECKING:
    from oddkettle.core.estimation.particle_filter import Particles

Floats = NDArray[np.float64]

HABIT_SHARE, YIELD_SHARE = 0.2, 0.12
"""How far a day's use and the panels' yield stray from what was meant, as shares of it [judgement:
hours and amounts stray by a fifth]."""
NEARLY_FULL = 0.1
"""So near to full there was more on offer than went in: a little less of it changes nothing."""
BETWEEN_SHARE = 0.1
"""And how far the middle of a stretch may lie off its ends' straight, of what went through."""


def stray(particles: Particles, before: tuple[Floats, Floats], days: float) -> None:
    """People's hours and amounts, drives and yields stray from day to day.

    What strays goes through the battery: it moves level and counters together, so that a
    shorter drive or a later evening can explain a reading.
    before : what had been used and given at the stretch's beginning, as `outputs` has it [Ah]
    """
    longer = max(days, 1.0) ** 0.5
    more_ah, through_ah, given_ah, used_ah = np.zeros((4, particles.count))
    used = np.full((particles.count, before[0].shape[2]), HABIT_SHARE)
    for sign, now, was, share in (
        (-1.0, particles.outputs.used, before[0], used),
        (1.0, particles.outputs.gave, before[1], _given_share(particles, before[1])),
    ):
        # Each appliance and each source strays by itself.
        part = np.maximum(share / longer * particles.rng.standard_normal(share.shape), -1.0)
        through_ah += (now - was).sum(axis=(1, 2))
        more = (now - was) * part[:, None, :]
        now[:] += more
        more_ah += sign * more.sum(axis=(1, 2))
        if sign > 0.0:
            given_ah += more.sum(axis=(1, 2))
        else:
            used_ah += more.sum(axis=(1, 2))
    bank_ah = particles.case.bank.capacity_ah * particles.content
    level = np.clip(particles.soc + more_ah / bank_ah, 0.0, 1.0)
    through = (level - particles.soc) * bank_ah
    volts = particles.case.bank.nominal_v
    counted = particles.outputs.counted
    counted["ah_in"] += np.maximum(through, 0.0)
    counted["ah_out"] += np.maximum(-through, 0.0)
    counted["gross_in"] += given_ah
    counted["gross_out"] += used_ah
    counted["wh_in"] += np.maximum(through, 0.0) * volts
    counted["wh_out"] += np.maximum(-through, 0.0) * volts
    _bulge(particles, BETWEEN_SHARE * through_ah / bank_ah)
    particles.set_level(level)


def _given_share(particles: Particles, before: Floats) -> Floats:
    """(particles, sources) share by which what each source gave strays.

    Drives and hook-ups stray in the scenarios themselves (`simulation/given.py`).
    """
    gave = (particles.outputs.gave - before).sum(axis=1)
    found = np.zeros(gave.shape)
    wanted = np.clip((1.0 - particles.soc) / NEARLY_FULL, 0.0, 1.0)
    for n, key in enumerate(row_keys(particles.case)):
        if particles.kinds.get(key) == "sun":
            found[:, n] = YIELD_SHARE
    return np.asarray(found * wanted[:, None])


def _bulge(particles: Particles, width: Floats) -> None:
    """When within a stretch it ran is less known than how much: its middle is set apart.

    width : (particles,) how far, 0..1 of charge
    """
    path = particles.paths[-1]
    part = np.linspace(0.0, 1.0, path.shape[1], dtype=np.float32)
    apart = (width * particles.rng.standard_normal(particles.count)).astype(np.float32)
    shape = 4.0 * part * (1.0 - part)
    particles.paths[-1] = np.clip(path + apart[:, None] * shape, 0.0, 1.0).astype(np.float32)


def drift(particles: Particles, days: float, top: Floats) -> None:
    """A monitor's percent drifts by its standing offset, and strays a little.

    top : (particles,) the highest level of the stretch, 0..1
    """
    label_ah = particles.case.bank.capacity_ah
    particles.bias += particles.offset_a * days * HOURS_PER_DAY / label_ah
    particles.bias += BIAS_A_ROOT_DAY * days**0.5 * particles.rng.standard_normal(particles.count)
    # It never shows more than 100 %: what it counts beyond is lost to it.
    particles.bias = np.minimum(particles.bias, (1.0 - top) * particles.content)
    set_to_full(particles, top > particles.full_at, top)


def set_to_full(particles: Particles, full: NDArray[np.bool_], top: Floats) -> None:
    """A monitor that takes its battery for full, at the level `top`, sets itself to 100 %."""
    fresh = (1.0 - top) * particles.content + SYNCED_SD * particles.rng.standard_normal(
        particles.count
    )
    particles.bias = np.where(full, fresh, particles.bias)
