"""Counters of charge and energy in and out: what ran since they were read before."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from oddkettle.core.estimation.readings.reading import (
    Aim,
    Reading,
    ReadingKind,
    always,
    clock_soc,
)

if TYPE_CHECKING:
    from oddkettle.core.estimation.particle_filter import Particles

COUNTED_MIN, COUNTED_SHARE, COUNTED_GAIN = 0.4, 0.01, 0.015
"""What a counter misses below its threshold [Ah; times the voltage for Wh], what it is off freshly,
and what all its counts are off alike: its shunt's own error [judgement]."""


def aim(particles: Particles, reading: Reading) -> Aim:
    """What a meter at the battery counted since the reading's own beginning."""
    ran = particles.outputs.counted[reading.kind].copy()
    if reading.since_s is not None and reading.since_s in particles.marks:
        ran -= particles.marks[reading.since_s][reading.kind]
    ran *= particles.gain
    volts = particles.case.bank.nominal_v if reading.kind in ("wh_in", "wh_out") else 1.0
    clock = clock_soc(particles) * particles.case.bank.capacity_ah
    spread = np.hypot(np.hypot(COUNTED_MIN, clock) * volts, COUNTED_SHARE * ran)
    return Aim(reading.value, ran, spread)


def _counter(key: str, name: str, unit: str) -> ReadingKind:
    errors = (("A counter", f"±{100 * COUNTED_GAIN:g} % in all"),)
    return ReadingKind(key=key, name=name, unit=unit, aim=aim, leans=always, errors=errors)


KINDS = (
    _counter("ah_in", "counted in", "Ah in"),
    _counter("ah_out", "counted out", "Ah out"),
    _counter("wh_in", "counted in", "Wh in"),
    _counter("wh_out", "counted out", "Wh out"),
)
