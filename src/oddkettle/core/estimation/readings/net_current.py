"""A glance at the current into the battery."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from oddkettle.core.estimation.readings.reading import (
    Aim,
    Reading,
    ReadingKind,
    never,
)

if TYPE_CHECKING:
    from oddkettle.core.estimation.particle_filter import Particles

NET_SD_A, NET_SHARE = 0.7, 0.35
"""Current wavers with clouds and compressors: a glance is worth little [judgement]."""


def aim(particles: Particles, reading: Reading) -> Aim:
    """The current of the last step."""
    counted = particles.outputs.counted
    now, load = counted["now_a"], counted["now_load_a"]
    spread = np.hypot(NET_SD_A, NET_SHARE * np.maximum(np.abs(now), load))
    return Aim(reading.value, now, spread)


KINDS = (
    ReadingKind(
        key="net_a",
        name="net current",
        unit="A",
        aim=aim,
        leans=never,
        errors=(("A glance at the current", f"±{NET_SD_A:g} A or {100 * NET_SHARE:g} %"),),
    ),
)
