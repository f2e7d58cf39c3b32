"""The percent that a counting monitor shows."""

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

PERCENT_BIAS, PERCENT_SD = 0.03, 0.01
"""A counting monitor's own zero is commonly this far off when it is first read; a second reading
repeats that error, so only the small rest is fresh [judgement]."""
BIAS_A_ROOT_DAY = 0.007
"""How far its zero wanders in a day; a full charge sets it right [judgement]."""
FULL_SEEN, SYNCED_SD = 0.985, 0.009
"""At this level a monitor takes the battery for full and sets its zero; what it is off then
[judgement: nearly all shunt monitors do so]."""


def aim(particles: Particles, reading: Reading) -> Aim:
    """The level and the monitor's own bias."""
    return level_aim(particles, reading.value, PERCENT_SD, particles.bias)


KINDS = (
    ReadingKind(
        key="percent",
        name="monitor's percent",
        unit="%",
        aim=aim,
        leans=always,
        level=True,
        biased=True,
        errors=(
            (
                "A monitor's zero",
                f"±{100 * PERCENT_BIAS:g} points; afresh ±{100 * PERCENT_SD:g}",
            ),
        ),
    ),
)
