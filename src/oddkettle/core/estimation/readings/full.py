"""The charger says full: an anchor."""

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

FULL_AT, FULL_SD = 0.985, 0.02
"""Where a battery stands when its charger says full [judgement]."""


def aim(particles: Particles, reading: Reading) -> Aim:
    """The top, nearly."""
    return level_aim(particles, FULL_AT, FULL_SD, 0.0)


KINDS = (
    ReadingKind(
        key="full",
        name="full charge",
        unit="%",
        aim=aim,
        leans=always,
        level=True,
        anchor=True,
        syncs=True,
        tells_level=True,
        errors=(("Where a full battery stands", f"{100 * FULL_AT:g} ± {100 * FULL_SD:g} %"),),
    ),
)
