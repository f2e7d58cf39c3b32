"""Counters of charge and energy in and out: what ran since they were read before."""

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
from oddkettle.core.units.conversion import SECONDS_PER_HOUR

if TYPE_CHECKING:
    from oddkettle.core.estimation.particle_filter import Particles

Floats = NDArray[np.float64]
COUNTED_MIN, COUNTED_SHARE, COUNTED_GAIN = 0.4, 0.01, 0.015
"""What a counter misses below its threshold [Ah; times the voltage for Wh], what it is off freshly,
and what all its counts are off alike: its shunt's own error [judgement]."""
APART_SHARE, APART_H = 0.1, 0.5
"""How charge splits into in and out hangs on every cloud and every hour of use: each by itself is
worth no more than this share of it and so long of the present draw [judgement]. What is left of
both, in less out, does not hang on that."""
OTHER = {
    "ah_in": "ah_out", "ah_out": "ah_in", "wh_in": "wh_out", "wh_out": "wh_in",
    "gross_in": "gross_out", "gross_out": "gross_in",
}  # fmt: skip
INTO, OUTWARD = ("ah_in", "wh_in", "gross_in"), ("ah_out", "wh_out", "gross_out")
TWO_METERS = ("gross_in", "gross_out")
APART_GAIN = 0.02
"""Two meters, one at the sources and one at the loads, err each by itself: what is left of both is
no truer than this share of what went through them [judgement]."""


def aim(particles: Particles, reading: Reading) -> Aim:
    """What a meter counted since the reading's own beginning, at the battery or at its two sides.

    Where the counter of the other way was read beside it, what went out is foreseen from what
    went in and from what is left of both: the net of a shunt is far truer than either part.
    """
    volts = particles.case.bank.nominal_v if reading.kind in ("wh_in", "wh_out") else 1.0
    hours = (reading.at_s - (reading.since_s or particles.begin_s)) / SECONDS_PER_HOUR
    # A standing offset adds to one counter and takes from the other, about half the time each.
    stray = particles.offset_a * max(hours, 0.0) * volts
    clock = clock_soc(particles) * particles.case.bank.capacity_ah
    fresh = np.hypot(COUNTED_MIN, clock) * volts
    ran = _ran(particles, reading, reading.kind)
    into = reading.kind in INTO
    if not into and reading.beside is not None:
        net = _ran(particles, reading, OTHER[reading.kind]) - ran + stray
        share = APART_GAIN if reading.kind in TWO_METERS else COUNTED_SHARE
        spread = np.hypot(fresh, share * reading.beside)
        return Aim(reading.value, reading.beside - net, spread)
    ran = np.maximum(ran + 0.5 * (stray if into else -stray), 0.0)
    now = "now_load_a" if reading.kind in TWO_METERS else "now_a"
    draw = np.abs(particles.outputs.counted[now]) * volts
    spread = np.hypot(np.hypot(fresh, APART_SHARE * ran), APART_H * draw)
    return Aim(reading.value, ran, spread)


def _ran(particles: Particles, reading: Reading, kind: str) -> Floats:
    ran = particles.outputs.counted[kind].copy()
    if reading.since_s is not None and reading.since_s in particles.marks:
        ran -= particles.marks[reading.since_s][kind]
    return np.asarray(ran * particles.gain)


def _counter(key: str, name: str, unit: str, why_aside: str) -> ReadingKind:
    errors = (("A counter", f"±{100 * COUNTED_GAIN:g} % in all"),)
    return ReadingKind(
        key=key,
        name=name,
        unit=unit,
        aim=aim,
        leans=always,
        why_aside=why_aside,
        errors=errors,
    )


AT_NOUGHT = "was reset to zero at another time"
CHARGES = f"something charges past the shunt, or the counter {AT_NOUGHT}"
DRAWS = f"something draws past the shunt, or the counter {AT_NOUGHT}"
PAST_CHARGERS = f"a charger works past its meter, or it {AT_NOUGHT}"
PAST_LOADS = f"something draws past its meter, or it {AT_NOUGHT}"
KINDS = (
    _counter("ah_in", "counted in", "Ah in", CHARGES),
    _counter("ah_out", "counted out", "Ah out", DRAWS),
    _counter("wh_in", "counted in", "Wh in", CHARGES),
    _counter("wh_out", "counted out", "Wh out", DRAWS),
    _counter("gross_in", "counted at the sources", "Ah from them", PAST_CHARGERS),
    _counter("gross_out", "counted at the loads", "Ah into them", PAST_LOADS),
)
