"""What one reading does to the particles: how well each foresaw it, and what is done about it."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.particle_filter import Particles
from oddkettle.core.estimation.readings import (
    COUNTED_MIN,
    COUNTED_SHARE,
    COUNTERS,
    CURVE_SOC,
    EMPTY_AT,
    EMPTY_SD,
    FULL_AT,
    FULL_SD,
    LOADED_SD_V,
    LOADED_SHARE,
    NET_SD_A,
    NET_SHARE,
    PERCENT_SD,
    Reading,
    Taken,
    rested_sd_v,
)

Floats = NDArray[np.float64]
ODD = 0.004
"""A reading as unlikely as this is set aside, until a second one agrees with it [judgement]."""
RETAKE = 0.08
"""Spread of a level that is taken anew from readings nobody foresaw, 0..1 [judgement]."""
MIDDLE_80 = 1.2816
"""Half the width of the middle 80 % of a normal distribution, in its spreads."""
LEVEL_KINDS = ("percent", "full", "cut_out")
ANCHORS = ("full", "cut_out")
LEANS = (*LEVEL_KINDS, *COUNTERS)
"""Kinds that move nearly in step with what is unknown; voltages at the steep end and glances
do not."""
STRAIGHT = 4.0
"""A rested voltage does so while the particles foresee it within so many of its own spreads."""


@dataclass(frozen=True)
class Aim:
    """What a reading says, what each particle says it should say, and the spread between them.

    All in the reading's own unit; `by_level` is how far `foreseen` moves with the level.
    """

    value: float
    foreseen: Floats
    spread: Floats
    by_level: float = 0.0


def take_reading(particles: Particles, reading: Reading, before: list[Taken]) -> Taken:
    """Let one reading change the particles, or set it aside. They stand at its time."""
    level, doubt = particles.estimate_at()
    taken = _take(particles, reading, before)
    new_level, new_doubt = particles.estimate_at()
    return replace(taken, moved=new_level - level, doubt=(doubt, new_doubt))


def surprise_of(value: float, foreseen: Floats, spread: Floats, weight: Floats) -> float:
    """Chance 0..1 of a reading at least as odd as `value`, on either side.

    foreseen, spread, weight : (particles,) what each foresees, give or take, and how much it counts
    """
    from scipy.special import ndtr

    below = float(weight @ ndtr((value - foreseen) / spread))
    return 2.0 * min(below, 1.0 - below)


def _take(particles: Particles, reading: Reading, before: list[Taken]) -> Taken:
    wander = particles.wander()
    aim = aim_of(particles, reading)
    spread = np.hypot(aim.spread, aim.by_level * wander)
    w = particles.weight()
    surprise = surprise_of(aim.value, aim.foreseen, spread, w)
    expected = _expected(aim, spread, w)
    odd = surprise < ODD
    twice = odd and bool(before) and not before[-1].used
    anchor = odd and reading.kind in ANCHORS
    if odd and not twice and not anchor:
        _scatter(particles, wander)
        return Taken(reading.key, reading.kind, False, expected, surprise)
    if twice:
        particles.open_up()
    if odd:
        _retake(particles, reading, aim)
    else:
        _scatter(particles, wander)
        now = aim_of(particles, reading)
        if reading.kind in LEANS or (reading.kind == "rested_v" and _straight(now)):
            particles.lean(now.value, now.foreseen, now.spread)
        else:
            particles.weigh(lambda: _log_likelihood(aim_of(particles, reading)))
    if reading.kind == "full":
        particles.sync(np.ones(particles.count, bool))
    return Taken(reading.key, reading.kind, True, expected, surprise, anchor=anchor, late=twice)


def aim_of(particles: Particles, reading: Reading) -> Aim:
    """How each particle foresees a reading, by its kind."""
    kind = reading.kind
    if kind in LEVEL_KINDS:
        return _level_aim(particles, reading)
    if kind in COUNTERS:
        return _counted_aim(particles, reading)
    scale = particles.case.bank.volts_scale
    counted = particles.outputs.counted
    if kind == "net_a":
        now, load = counted["now_a"], counted["now_load_a"]
        spread = np.hypot(NET_SD_A, NET_SHARE * np.maximum(np.abs(now), load))
        return Aim(reading.value, now, spread)
    ocv = particles.ocv_v()
    if kind == "rested_v":
        spread = np.hypot(
            rested_sd_v(reading.rested_h) * scale, CURVE_SOC * particles.ocv_slope_v()
        )
        return Aim(reading.value, ocv, spread)
    volts = particles.state.switches["bus_v"] + particles.volts_off * scale
    if reading.amps is not None:
        volts = ocv + reading.amps * particles.ohm()
    return Aim(
        reading.value, volts, np.hypot(LOADED_SD_V * scale, LOADED_SHARE * np.abs(volts - ocv))
    )


def _level_aim(particles: Particles, reading: Reading) -> Aim:
    value, sd, bias = {
        "percent": (reading.value, PERCENT_SD, particles.bias),
        "full": (FULL_AT, FULL_SD, np.zeros(particles.count)),
        "cut_out": (EMPTY_AT, EMPTY_SD, np.zeros(particles.count)),
    }[reading.kind]
    spread = np.hypot(sd, _clock_soc(particles))
    return Aim(value, particles.soc + bias, spread, by_level=1.0)


def _counted_aim(particles: Particles, reading: Reading) -> Aim:
    ran = particles.outputs.counted[reading.kind].copy()
    if reading.since_s is not None and reading.since_s in particles.marks:
        ran -= particles.marks[reading.since_s][reading.kind]
    ran *= particles.gain
    volts = particles.case.bank.nominal_v if reading.kind in ("wh_in", "wh_out") else 1.0
    clock = _clock_soc(particles) * particles.case.bank.capacity_ah
    spread = np.hypot(np.hypot(COUNTED_MIN, clock) * volts, COUNTED_SHARE * ran)
    return Aim(reading.value, ran, spread)


def _clock_soc(particles: Particles) -> Floats:
    """What rounding a reading's time to a step may make of the level; uniform, so over root 12."""
    amps = np.abs(particles.outputs.counted["now_a"])
    per_a = particles.inputs.banks["soc_per_a"][0]
    return np.asarray(amps * per_a / 12.0**0.5)


def _straight(aim: Aim) -> bool:
    return float(aim.foreseen.std()) < STRAIGHT * float(aim.spread.mean())


def _log_likelihood(aim: Aim) -> Floats:
    off = (aim.value - aim.foreseen) / aim.spread
    return np.asarray(-0.5 * off**2 - np.log(aim.spread))


def _scatter(particles: Particles, wander: float) -> None:
    noise = particles.rng.standard_normal(particles.count)
    particles.set_level(particles.soc + wander * noise)


def _retake(particles: Particles, reading: Reading, aim: Aim) -> None:
    """Nobody foresaw it, and it is believed: the level is taken from it anew."""
    noise = particles.rng.standard_normal(particles.count)
    if reading.kind in LEVEL_KINDS:
        bias = particles.bias if reading.kind == "percent" else 0.0
        particles.set_level(aim.value - bias + np.maximum(aim.spread, 0.015) * noise)
        particles.log_weight[:] = 0.0
        return
    particles.set_level(particles.soc + RETAKE * noise)
    if reading.kind == "rested_v":
        low, high = float(particles.soc.min()), float(particles.soc.max())
        wide = particles.rng.uniform(min(low, 0.02), max(high, 0.98), particles.count)
        half = particles.rng.random(particles.count) < 0.5
        particles.set_level(np.where(half, wide, particles.soc))
    particles.weigh(lambda: _log_likelihood(aim_of(particles, reading)))


def _expected(aim: Aim, spread: Floats, w: Floats) -> tuple[float, float]:
    mean = float(w @ aim.foreseen)
    sd = float(np.sqrt(w @ (spread**2 + (aim.foreseen - mean) ** 2)))
    return mean - MIDDLE_80 * sd, mean + MIDDLE_80 * sd
