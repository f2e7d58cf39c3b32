"""Foreign trips as their owners log them, and how well the tracker follows them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.estimation.readings import Reading
from oddkettle.core.estimation.tracker import Tracked, Trail, track
from oddkettle.core.loads.demand import Appliance, Window
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.run import trip_grid
from oddkettle.core.sources.alternator import Alternator, Feed
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.panel import Panel
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block, Site
from oddkettle.core.weather.weather_generator import Doubt
from tests.core.estimation.foreign.world import A_DAY, LABEL_AH, Plan, Truth, live

Floats = NDArray[np.float64]

HOURS = (7.5, 21.0)
STEP_S = 300
SETS: dict[str, tuple[str, ...]] = {
    "percent": ("percent",),
    "counters": ("counters",),
    "percent, counters": ("percent", "counters"),
    "all": ("percent", "counters", "volts", "full"),
}


def case_of(plan: Plan, seed: int) -> Case:
    """The plan as its owner typed it: rated loads, a climate's mean, a battery of its label."""
    appliances = tuple(
        Appliance(
            habit.name.replace(" ", "-"),
            habit.name,
            habit.watts,
            "12v",
            (Window(int(60 * habit.begins_h), int(60 * habit.ends_h)),),
            spread=0.3,
        )
        for habit in plan.habits
    )
    panel = Panel(plan.panel_w, "flat", 0.0, 180.0, False)
    drives = tuple(
        Block(
            "drive", day, int(60 * plan.drive_at_h), day, int(60 * (plan.drive_at_h + plan.drive_h))
        )
        for day in plan.drive_days
    )
    return Case(
        bank=Bank(LIFEPO4, LABEL_AH),
        profile=Profile(14.2, 13.5),
        sources=(
            SunInput("sun", "Panel", (panel,), Controller(plan.panel_w / 12.0, 0.96)),
            DcDc("dcdc", "DC-DC", plan.charger_a, 0.92, Alternator(), Feed(4.0, 25.0, 2.0)),
        ),
        inverter=None,
        appliances=appliances,
        site=Site(plan.latitude, 0.0, 50.0, "UTC"),
        first_day=date(2025, 6, 9),
        clearness=(0.70,) * plan.days,
        low_c=(11.0,),
        high_c=(19.0,),
        blocks=drives,
        soc0=plan.typed_start,
        floor=0.1,
        step_min=15,
        doubt=replace(DOUBT, seed=seed),
    )


DOUBT = Doubt()
"""Nobody said how old the battery is."""


@dataclass(frozen=True)
class Score:
    """How a trip was followed, all over its stops: levels 0..1.

    now_inside, past_inside : shares of the truth within the 80 % band, at each stop as it was
    known then, and of the whole past as it is known at the end
    now_off, monitor_off : (stops,) the tracker's and the monitor's own errors
    """

    now_inside: float
    past_inside: float
    now_off: Floats
    monitor_off: Floats
    dead_off: Floats


def read(
    plan: Plan, truth: Truth, kinds: tuple[str, ...], seed: int, begin_s: int
) -> list[Reading]:
    """What a person logs twice a day, now and then not."""
    rng = np.random.default_rng([seed, 7])
    readings: list[Reading] = []
    counted_at = 0
    for day in range(plan.days):
        for hour in HOURS:
            at = day * A_DAY + int(12 * (hour + rng.uniform(-0.5, 0.5)))
            missed = rng.random() < 0.1
            if missed or at > plan.days * A_DAY:
                continue
            at_s, key = begin_s + at * STEP_S, f"{day} {hour}"
            if "percent" in kinds:
                value = round(100 * truth.shown[at]) / 100
                readings.append(Reading(f"{key} p", at_s, "percent", float(value)))
            if "counters" in kinds:
                since = begin_s + counted_at * STEP_S
                ran = {
                    name: round(float(sums[at] - sums[counted_at]), 1)
                    for name, sums in (("ah_in", truth.counted_in), ("ah_out", truth.counted_out))
                }
                readings += [
                    Reading(f"{key} {name}", at_s, name, ah, since_s=since)
                    for name, ah in ran.items()
                ]
                counted_at = at
            if "volts" in kinds and hour == HOURS[0]:
                shown = round(float(truth.volts[at]) + 0.02 * rng.standard_normal(), 2)
                readings.append(
                    Reading(f"{key} v", at_s, "loaded_v", shown, amps=float(truth.amps[at]))
                )
            if "full" in kinds and truth.floated[max(at - 24, 0) : at].any() and rng.random() < 0.5:
                readings.append(Reading(f"{key} f", at_s, "full"))
    return readings


def follow(seed: int, kinds: tuple[str, ...], plan: Plan | None = None) -> Score:
    """Live a foreign trip, log it, and track it stop by stop."""
    plan = plan or Plan()
    truth, case = live(plan, seed), case_of(plan, seed)
    grid = trip_grid(case)
    begin_s = int(grid.starts_utc[0].astype(np.int64))
    readings = tuple(read(plan, truth, kinds, seed, begin_s))
    stops = sorted({r.at_s for r in readings})
    end_s = begin_s + plan.days * 86_400
    inside, off, monitor, dead = [], [], [], []
    alone, trail = track(case, (), end_s), Trail()
    for at_s in stops:
        at = (at_s - begin_s) // STEP_S
        low, middle, high = _now(track(case, readings, at_s, trail=trail))
        inside.append(low <= truth.level[at] <= high)
        off.append(middle - truth.level[at])
        # The monitor's percent is of the label; its owner takes it for the level.
        monitor.append(truth.shown[at] - truth.level[at])
        dead.append(float(alone.band[1][min(round(at / 3), alone.until)]) - truth.level[at])
    whole = track(case, readings, end_s)
    true = truth.level[::3][: whole.until + 1]
    last = (stops[-1] - begin_s) // (3 * STEP_S) if stops else whole.until
    past = (whole.band[0] <= true) & (true <= whole.band[2])
    return Score(
        float(np.mean(inside)),
        float(past[: last + 1].mean()),
        np.array(off),
        np.array(monitor),
        np.array(dead),
    )


def _now(tracked: Tracked) -> tuple[float, float, float]:
    low, middle, high = tracked.band[:, -1]
    return float(low), float(middle), float(high)


def rmse(errors: list[Floats]) -> float:
    """Root mean square of errors of several trips."""
    return float(np.sqrt(np.mean(np.concatenate(errors) ** 2)))
