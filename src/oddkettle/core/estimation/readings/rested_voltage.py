"""The voltage of a battery that has rested."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistry import Chemistry
from oddkettle.core.estimation.readings.log_kind import Bar
from oddkettle.core.estimation.readings.reading import (
    Aim,
    Reading,
    ReadingKind,
    straight,
)
from oddkettle.core.simulation.run_metrics import level_from_rested_v

if TYPE_CHECKING:
    from oddkettle.core.estimation.particle_filter import Particles

VOLTS_BIAS_V, RESTED_SD_V = 0.05, 0.04
OWN_CURVE_BIAS_V = 0.03
"""What a hand-held meter, the generic curve and its hysteresis are off together, the same at
every reading, and the fresh rest; at 12 V class [judgement]. On the flat part of LiFePO4 that is
worth 20 points, and reading again does not help. A battery with a curve of its own leaves the meter
and the hysteresis."""
UNRESTED_V, REST_LAG_H = 0.12, 1.5
"""What a battery that has not rested is off besides, and how that dies away [judgement]."""
USUAL_REST_H = 3.0
FLAT_PERCENT = 15.0
CURVE_SOC = 0.012
"""A generic curve is no truer than this sideways: it matters where the curve is steep [judgement:
samples of one type differ by a point or two]."""


def bias_v(chemistry: Chemistry) -> float:
    """What meter and curve are off together [V at 12 V class]: less with a curve of its own."""
    return OWN_CURVE_BIAS_V if chemistry.sources["ocv"].mark == "datasheet" else VOLTS_BIAS_V


def rested_sd_v(hours: float | None) -> float:
    """Doubt of a rested voltage [V at 12 V class] after so many hours of rest."""
    waited = USUAL_REST_H if hours is None else hours
    left = UNRESTED_V * 2.0 ** (-max(waited, 0.0) / REST_LAG_H)
    return float((RESTED_SD_V**2 + left**2) ** 0.5)


def aim(particles: Particles, reading: Reading) -> Aim:
    """The rested curve, sideways no truer than a generic one is."""
    scale = particles.case.bank.volts_scale
    spread = np.hypot(rested_sd_v(reading.rested_h) * scale, CURVE_SOC * particles.ocv_slope_v())
    return Aim(reading.value, particles.ocv_v(), spread)


def bar(bank: Bank, volts: float) -> Bar:
    """What a rested voltage says of the level by itself, and how much that is worth."""
    span = level_from_rested_v(bank, volts)
    low, middle, high = 100 * span.low, 100 * span.mid, 100 * span.high
    worth = (
        f"Rested voltage is worth {low:.0f} to {high:.0f} % here, "
        "after some hours with nothing in or out."
    )
    if high - low > FLAT_PERCENT:
        worth += " The curve is too flat for more."
    return Bar(low, middle, high, worth)


KINDS = (
    ReadingKind(
        key="rested_v",
        name="rested voltage",
        unit="V",
        aim=aim,
        leans=straight,
        tells_level=True,
        tells_content=True,
        by_curve=True,
        digits=2,
        why_aside="the battery had not rested, or the meter is off",
        errors=(("Meter and curve at rest", f"±{VOLTS_BIAS_V:g} V; afresh ±{RESTED_SD_V:g}"),),
    ),
)
