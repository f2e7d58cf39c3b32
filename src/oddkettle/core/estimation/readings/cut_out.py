"""The box has cut out: an anchor at the other end."""

from __future__ import annotations

from typing import TYPE_CHECKING

from oddkettle.core.estimation.readings.reading import (
    Aim,
    Reading,
    ReadingKind,
    always,
    level_aim,
)

if TYPE_CHECKING:
    from oddkettle.core.estimation.particle_filter import Particles

EMPTY_AT, EMPTY_SD = 0.02, 0.025
"""Where a battery stands when its box has cut out [judgement]."""


def aim(particles: Particles, reading: Reading) -> Aim:
    """The bottom, nearly."""
    return level_aim(particles, EMPTY_AT, EMPTY_SD, 0.0)


KINDS = (
    ReadingKind(
        key="cut_out",
        name="cut out",
        unit="%",
        aim=aim,
        leans=always,
        level=True,
        anchor=True,
        tells_level=True,
        tells_content=True,
    ),
)
