"""A box in another world: another cell, another sky, people of habit, a monitor that drifts.

Written apart from `oddkettle.core`, which is not imported here: a truth that one makes oneself
proves nothing. The cell has two relaxation times and hysteresis; the sky is a chain of three kinds
of day with clouds that pass; hours, amounts and drives stray from what was meant; the monitor has
a standing offset, an error of gain, and takes its battery for full when it thinks so.

Lengths of time are hours, currents amperes, into the battery positive; steps are five minutes.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import asin, cos, pi, radians, sin

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

STEP_H = 1.0 / 12.0
A_DAY = 288
LABEL_AH = 100.0
CELLS = 4
# Rested voltage of one cell on the way up and on the way down; their mean is the "true" curve.
LEVELS = np.array([0.0, 0.03, 0.08, 0.15, 0.25, 0.4, 0.55, 0.65, 0.75, 0.9, 0.97, 0.99, 1.0])
MEAN_V = np.array(
    [2.62, 2.95, 3.13, 3.205, 3.25, 3.285, 3.296, 3.306, 3.325, 3.333, 3.345, 3.39, 3.60]
)
HYSTERESIS_V = 0.011
"""Half the gap between the two ways, a cell."""
TURNS_IN = 0.06
"""Share of the content over which the way is changed."""
R0_OHM, R1_OHM, R2_OHM = 0.0065, 0.0030, 0.0042
T1_H, T2_H = 0.03, 0.75
ABSORB_V, FLOAT_V, TAIL_A = 14.2, 13.5, 3.0
KEPT = 0.995


@dataclass(frozen=True)
class Habit:
    """Something that is used each day: watts, from hour to hour, as its owner would tell it."""

    name: str
    watts: float
    begins_h: float
    ends_h: float
    strays: float = 0.2


@dataclass(frozen=True)
class Plan:
    """What the owner told: 54 degrees north in June, a flat panel, drives on some days at noon."""

    days: int = 8
    latitude: float = 54.0
    day_of_year: int = 160
    panel_w: float = 140.0
    charger_a: float = 25.0
    drive_days: tuple[int, ...] = (2, 5)
    drive_at_h: float = 12.0
    drive_h: float = 1.5
    habits: tuple[Habit, ...] = (
        Habit("cool box", 16.0, 0.0, 24.0, 0.15),
        Habit("lights", 14.0, 20.0, 24.0),
        Habit("laptop", 45.0, 18.0, 21.0),
        Habit("fan", 8.0, 13.0, 18.0),
    )
    typed_start: float = 0.85


@dataclass(frozen=True)
class Truth:
    """What really happened, each (steps + 1,).

    level : of what the battery holds, 0..1; shown : what its monitor would have shown
    floated : the charger went over to float at this moment
    """

    level: Floats
    volts: Floats
    amps: Floats
    shown: Floats
    counted_in: Floats
    counted_out: Floats
    floated: NDArray[np.bool_]
    content: float


def live(plan: Plan, seed: int, content: float | None = None) -> Truth:
    """One trip as it really went; `content` is what the battery holds of its label, 0..1."""
    rng = np.random.default_rng(seed)
    drawn = float(rng.uniform(0.80, 1.0))
    content = drawn if content is None else content
    load_w = _used_w(plan, rng)
    sun_a = _sun_a(plan, rng)
    drive_a = _drive_a(plan, rng)
    monitor = _Monitor(rng)
    # People type what the monitor showed: it is off already.
    level = 1.0 - (1.0 - plan.typed_start + monitor.off) / content
    return _run(plan, load_w, sun_a, drive_a, monitor, content, min(max(level, 0.2), 1.0))


def _used_w(plan: Plan, rng: np.random.Generator) -> Floats:
    """Watts by the step: hours and amounts stray, each day anew and for good."""
    hours = (np.arange(plan.days * A_DAY) % A_DAY) * STEP_H
    total = np.zeros(plan.days * A_DAY)
    for habit in plan.habits:
        always = habit.watts * float(np.exp(0.15 * rng.standard_normal()))
        for day in range(plan.days):
            part = slice(day * A_DAY, (day + 1) * A_DAY)
            middle = 0.5 * (habit.begins_h + habit.ends_h)
            half = 0.5 * (habit.ends_h - habit.begins_h)
            if half < 12.0:
                half *= max(1.0 + habit.strays * rng.standard_normal(), 0.1)
                middle += 0.4 * rng.standard_normal()
            on = np.abs(hours[part] - middle) < half
            total[part] += on * always * max(1.0 + habit.strays * rng.standard_normal(), 0.2)
    return total


def _sun_a(plan: Plan, rng: np.random.Generator) -> Floats:
    """What the controller could give, by Haurwitz's clear sky and a chain of three kinds of day."""
    kinds = np.array([0.98, 0.70, 0.36])
    turns = np.array([[0.55, 0.33, 0.12], [0.27, 0.46, 0.27], [0.15, 0.40, 0.45]])
    declination = radians(23.45 * sin(2 * pi * (284 + plan.day_of_year) / 365))
    latitude = radians(plan.latitude)
    kind = int(rng.choice(3, p=[0.33, 0.40, 0.27]))
    yields = float(np.exp(0.06 * rng.standard_normal()))
    found = np.zeros(plan.days * A_DAY)
    cloud = 0.0
    for day in range(plan.days):
        kind = int(rng.choice(3, p=turns[kind]))
        clear = float(np.clip(kinds[kind] + 0.07 * rng.standard_normal(), 0.1, 1.1))
        tilt = 0.13 * rng.standard_normal() * (kind > 0)
        for n in range(A_DAY):
            hour_angle = (n * STEP_H - 12.2) * pi / 12
            height = sin(latitude) * sin(declination)
            height += cos(latitude) * cos(declination) * cos(hour_angle)
            cloud = 0.9 * cloud + 0.25 * (0.1 + kind / 2.5) * rng.standard_normal()
            if height <= 0.01:
                continue
            ghi = 1098.0 * height * np.exp(-0.057 / height)
            share = max(clear * (1.0 - tilt * np.sign(hour_angle)) * (1.0 + 0.5 * cloud), 0.04)
            loss = 1.0 - 0.12 * asin(height)
            found[day * A_DAY + n] = (
                yields * 0.86 * loss * plan.panel_w * ghi * share / 1000.0 / 13.3
            )
    return np.minimum(found, plan.panel_w / 12.0)


def _drive_a(plan: Plan, rng: np.random.Generator) -> Floats:
    found = np.zeros(plan.days * A_DAY)
    for day in plan.drive_days:
        begins = day * 24 + plan.drive_at_h + 0.3 * rng.standard_normal()
        lasts = max(plan.drive_h + 0.25 * rng.standard_normal(), 0.2)
        hours = np.arange(plan.days * A_DAY) * STEP_H
        found[(hours >= begins) & (hours < begins + lasts)] = plan.charger_a * 0.97
    return found


class _Monitor:
    """Counts against the label, drifts, and sets itself to full when it thinks so."""

    def __init__(self, rng: np.random.Generator) -> None:
        self.offset_a = float(rng.choice([-1.0, 1.0]) * rng.uniform(0.02, 0.10))
        self.gain = float(1.0 + 0.012 * rng.standard_normal())
        self.off = float(0.03 * rng.standard_normal())
        turn = rng.random()
        self.full_v = 13.9 if turn < 0.33 else 14.1
        self.full_a = 9.0 if turn < 0.33 else 4.0
        self.never = bool(turn > 0.85)

    def counts(self, amps: float) -> float:
        """What it takes a current for."""
        return self.gain * amps + self.offset_a

    def full(self, volts: float, amps: float) -> bool:
        """Whether it sets itself to full."""
        return not self.never and volts > self.full_v and 0.0 < amps < self.full_a


def _run(
    plan: Plan,
    load_w: Floats,
    sun_a: Floats,
    drive_a: Floats,
    monitor: _Monitor,
    content: float,
    level: float,
) -> Truth:
    steps = plan.days * A_DAY
    out = {name: np.zeros(steps + 1) for name in ("level", "volts", "amps", "shown", "in", "out")}
    floated = np.zeros(steps + 1, bool)
    way, u1, u2, volts, floating = 0.0, 0.0, 0.0, 13.2, False
    shown = 1.0 - (1.0 - level) * content + monitor.off
    for n in range(steps + 1):
        out["level"][n], out["volts"][n], out["shown"][n] = level, volts, min(max(shown, 0.0), 1.0)
        if n == steps:
            break
        wanted_a = load_w[n] / max(volts, 11.0)
        offered_a = sun_a[n] + drive_a[n]
        rest_v = CELLS * (np.interp(level, LEVELS, MEAN_V) + way * HYSTERESIS_V)
        holds = FLOAT_V if floating else ABSORB_V
        # No more than would bring it to full within the step.
        room_a = (1.0 - level) * LABEL_AH * content / STEP_H
        takes_a = min(max((holds - rest_v - u1 - u2) / R0_OHM, 0.0), room_a)
        amps = min(offered_a - wanted_a, takes_a)
        if not floating and volts > ABSORB_V - 0.05 and 0.0 < amps < TAIL_A:
            floated[n] = floating = True
        if floating and rest_v < 13.2:
            floating = False
        u1 += (amps * R1_OHM - u1) * (1.0 - np.exp(-STEP_H / T1_H))
        u2 += (amps * R2_OHM - u2) * (1.0 - np.exp(-STEP_H / T2_H))
        kept = KEPT if amps > 0 else 1.0
        moved = kept * amps * STEP_H / (LABEL_AH * content)
        level = min(max(level + moved, 0.0), 1.0)
        way = float(np.clip(way + 2.0 * moved / TURNS_IN, -1.0, 1.0))
        rest_v = CELLS * (np.interp(level, LEVELS, MEAN_V) + way * HYSTERESIS_V)
        volts = float(rest_v + u1 + u2 + amps * R0_OHM)
        counted = monitor.counts(amps) * STEP_H
        out["in"][n + 1] = out["in"][n] + max(counted, 0.0)
        out["out"][n + 1] = out["out"][n] + max(-counted, 0.0)
        out["amps"][n + 1] = amps
        shown = min(shown + counted / LABEL_AH, 1.0)
        if monitor.full(volts, amps):
            shown = 1.0
    return Truth(
        out["level"],
        out["volts"],
        out["amps"],
        out["shown"],
        out["in"],
        out["out"],
        floated,
        content,
    )
