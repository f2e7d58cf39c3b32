"""The specific gravity of the acid in the cells of a flooded lead battery."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.bank import Bank
from oddkettle.core.estimation.readings.log_kind import Bar, LogKind, LogNumber
from oddkettle.core.estimation.readings.reading import Aim, Reading, ReadingKind, straight

if TYPE_CHECKING:
    from oddkettle.core.estimation.particle_filter import Particles

LEVELS = (0.0, 0.25, 0.5, 0.75, 1.0)
GRAVITIES = (1.120, 1.155, 1.190, 1.225, 1.265)
"""At 25 C, by the state of charge [Battery Council International, Battery Service Manual: open
cells of 1.265 when full]."""
GRAVITY_SD = 0.012
"""A float read by eye, cells that differ, and makers whose acid is stronger or weaker: some eight
points of charge [judgement]."""
Floats = NDArray[np.float64]


def gravity_of(soc: Floats | float) -> Floats:
    """Specific gravity at 25 C of cells at a state of charge of 0..1."""
    return np.asarray(np.interp(soc, LEVELS, GRAVITIES))


def level_of(gravity: Floats | float) -> Floats:
    """State of charge 0..1 of cells of a specific gravity at 25 C."""
    return np.asarray(np.interp(gravity, GRAVITIES, LEVELS))


def aim(particles: Particles, reading: Reading) -> Aim:
    """The gravity that each particle's level has; the acid is taken to be mixed."""
    a_level = GRAVITIES[-1] - GRAVITIES[0]
    spread = np.full_like(particles.soc, GRAVITY_SD)
    return Aim(reading.value, gravity_of(particles.soc), spread, by_level=a_level)


def bar(bank: Bank, gravity: float) -> Bar:
    """What it says of the level by itself [%]."""
    read = (gravity - GRAVITY_SD, gravity, gravity + GRAVITY_SD)
    low, middle, high = (100 * float(level_of(one)) for one in read)
    return Bar(low, middle, high)


KINDS = (
    ReadingKind(
        key="gravity",
        name="hydrometer",
        unit="kg/l",
        aim=aim,
        leans=straight,
        tells_level=True,
        tells_content=True,
        by_curve=True,
        digits=3,
        why_aside="the acid was not mixed after filling or a charge, or it was read hot or cold",
        errors=(("A hydrometer", f"±{GRAVITY_SD:g}, at 25 C"),),
    ),
)
LOG_KINDS = (
    LogKind(
        "hydrometer",
        "hydrometer",
        "read",
        "acid at {value:g} kg/l",
        (LogNumber("value", "Specific gravity", 1.0, 1.4, "kg/l", needed=True),),
        hint="Of one cell after a rest, at 25 °C: add 0.004 for each 5.5 K above, take as much off "
        "below. Acid burns: goggles, gloves, water at hand.",
        worth="Good to some eight points when the acid is mixed.",
        reading="gravity",
        bar=bar,
        chemistries=("flooded",),
    ),
)
