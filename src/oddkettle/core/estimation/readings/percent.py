"""The percent that a counting monitor shows."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.readings.reading import (
    Aim,
    Reading,
    ReadingKind,
    always,
    clock_soc,
)

if TYPE_CHECKING:
    from oddkettle.core.estimation.particle_filter import Particles

PERCENT_SD = 0.01
"""What a percent is off freshly, its rounding included [judgement]."""
BIAS_A_ROOT_DAY = 0.012
"""How far a monitor's zero strays in a day besides its steady drift [judgement]."""
Floats = NDArray[np.float64]
USUAL_OFF = 0.03
"""So far a monitor's zero is commonly off when it is first read [judgement]."""
OFFSET_A = 0.08
"""What a shunt monitor counts while nothing flows: 20 to 100 mA either way [judgement]. It makes
its percent drift steadily: 1 point of 100 Ah in some 12 hours."""
FULL_SEEN = 0.985
"""From this level on a battery is called full."""
USUAL_FULL, EARLY_FULL = (0.985, 1.0), (0.955, 0.985)
"""Between these levels a monitor takes its battery for full and sets itself to 100 %
[judgement]."""
EARLY_SHARE, NEVER_SHARE = 0.33, 0.12
"""So many monitors do so early, and so many never do, as they are set [judgement]."""
SYNCED_SD = 0.005
"""What a monitor is off, just set to full [judgement]."""


def full_levels(rng: np.random.Generator, count: int) -> Floats:
    """(count,) the level at which each one's monitor takes its battery for full; 2 for never."""
    usual, early = rng.uniform(*USUAL_FULL, count), rng.uniform(*EARLY_FULL, count)
    turn = rng.random(count)
    found = np.where(turn < EARLY_SHARE, early, usual)
    return np.asarray(np.where(turn > 1.0 - NEVER_SHARE, 2.0, found))


def aim(particles: Particles, reading: Reading) -> Aim:
    """Amp-hours below full as a share of the label, and the monitor's own bias.

    A monitor knows the label, not what the battery holds: at an empty battery of 90 % of its label
    it shows 10 %.
    """
    spread = np.hypot(PERCENT_SD, clock_soc(particles))
    return Aim(reading.value, particles.shown(), spread, by_level=float(particles.content.mean()))


KINDS = (
    ReadingKind(
        key="percent",
        name="monitor's percent",
        unit="%",
        aim=aim,
        leans=always,
        level=True,
        biased=True,
        tells_level=True,
        why_aside=(
            "the monitor has drifted since its last full charge, or was set to another capacity"
        ),
        errors=(
            ("A monitor's zero", f"±{100 * USUAL_OFF:g} points; afresh ±{100 * PERCENT_SD:g}"),
            ("A monitor's drift", f"±{1000 * OFFSET_A:g} mA, until it has seen the battery full"),
        ),
    ),
)
