"""A voltage under load, with or without the current beside it."""

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

LOADED_SD_V = 0.09
LOADED_SHARE = 0.35
"""A loaded voltage carries the doubt about the resistance: this share of the drop [judgement]."""


def aim(particles: Particles, reading: Reading) -> Aim:
    """The bus of the moment, or the curve and the drop of the current that was read."""
    scale = particles.case.bank.volts_scale
    ocv = particles.ocv_v()
    volts = particles.state.switches["bus_v"] + particles.volts_off * scale
    if reading.amps is not None:
        volts = ocv + reading.amps * particles.ohm(charging=reading.amps > 0.0)
    spread = np.hypot(LOADED_SD_V * scale, LOADED_SHARE * np.abs(volts - ocv))
    return Aim(reading.value, volts, spread)


KINDS = (
    ReadingKind(
        key="loaded_v",
        name="voltage under load",
        unit="V",
        aim=aim,
        leans=never,
        tells_level=True,
        tells_content=True,
        digits=2,
        why_aside="the current was another when it was read, or the meter is off",
        errors=(
            (
                "A voltage under load",
                f"±{LOADED_SD_V:g} V and {100 * LOADED_SHARE:g} % of the drop",
            ),
        ),
    ),
)
