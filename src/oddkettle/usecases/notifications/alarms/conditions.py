"""What an alarm is raised for: each condition looks at a trip that is under way."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Literal

import numpy as np

from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import Run
from oddkettle.core.units.quantity import celsius, charge, clock
from oddkettle.store import samples
from oddkettle.text.words import day_words
from oddkettle.usecases.field.samples.monitor import MonitorState, monitor_state
from oddkettle.usecases.field.track.tonight import level_until, tonight
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip, first_midnight
from oddkettle.usecases.notifications.alarms.remedy import remedy_for
from oddkettle.usecases.process.clock import now_utc
from oddkettle.usecases.simulate.run_cache import run_plan

AlarmKind = Literal["floor", "silent", "fridge", "frost"]
LIKELY, URGENT = 0.25, 0.5
"""In so many trips it goes under the reserve before it is charged: told, and told by night too
[judgement]."""
CHARGING_A, CHARGING_H = 0.5, 0.5
"""A charge is what puts so much into the bank for so long."""
SILENT_S = 600.0
FRIDGE_HOURS, FRIDGE_QUARTERS, FRIDGE_TIMES = 6, 8, 2.0
"""Over the last hours in which nothing charged, at least so many quarters of samples; a fridge is
told of when what is drawn too much is as much as it draws itself."""
FROZEN_AH = 0.5


@dataclass(frozen=True)
class Found:
    """One alarm. `key` names the thing that it is about: of each it is told once."""

    key: str
    kind: AlarmKind
    urgent: bool
    text: str
    remedy: str


def conditions(here: TrackedTrip) -> list[Found]:
    """All alarms of a trip at the moment up to which it is followed."""
    run = run_plan(here.plan)
    state = monitor_state_of(here)
    found = (_floor(here, run), _silent(state), _fridge(here, run), _frost(here, run))
    return [one for one in found if one is not None]


def monitor_state_of(here: TrackedTrip) -> MonitorState | None:
    """The state of the trip's monitor; None without one."""
    state = monitor_state(here.plan_id)
    return None if state.address is None else state


def _step(here: TrackedTrip, run: Run) -> int:
    since = (here.now - first_midnight(here.plan)).total_seconds()
    return min(max(int(since / 60 / run.grid.step_min), 0), run.grid.steps - 1)


def _moment(here: TrackedTrip, run: Run, step: int) -> datetime:
    """Local time of a step."""
    start = int(run.grid.starts_utc[min(step, run.grid.steps - 1)].astype(np.int64))
    return datetime.fromtimestamp(start, UTC).astimezone(first_midnight(here.plan).tzinfo)


def next_charge(run: Run, now: int) -> int:
    """The step at which the bank is next charged for a while; the trip's end where it is not."""
    charging = run.track.into_bank_a[now:] > CHARGING_A
    need = max(1, round(CHARGING_H / run.grid.step_h))
    whole = np.convolve(charging.astype(int), np.ones(need, int), "valid") == need
    first = np.flatnonzero(whole)
    return now + int(first[0]) if len(first) else run.grid.steps


def _floor(here: TrackedTrip, run: Run) -> Found | None:
    """Under the reserve before the next charge, or in the coming night although it is charged."""
    now, night = _step(here, run), tonight(here)
    if night.stretch is None:
        return None
    charge_at = next_charge(run, now)
    scale = run.grid.step_min / here.rest.grid.step_min
    before = level_until(here, max(here.tracked.until + 1, round(charge_at * scale)))
    stretch, charges = before, charge_at < run.grid.steps
    if before.share_under < LIKELY:
        stretch = night.stretch
    share = stretch.share_under
    if share < LIKELY or stretch.falls_at is None:
        return None
    floor, at = here.plan.trip.floor_percent, stretch.falls_at
    if stretch.stands_under:
        text = f"It stands under your reserve of {floor:g} %."
    else:
        if stretch is not before:
            until = f"although it is charged from {clock(_moment(here, run, charge_at))} on"
        elif charges:
            until = f"before the next charge at {clock(_moment(here, run, charge_at))}"
        else:
            until = "before the trip ends"
        rises = stretch.rises_at
        lasts = "" if rises is None else f" to {clock(rises)}"
        text = (
            f"It goes under your reserve of {floor:g} % from about {clock(at)}{lasts}, {until}, "
            f"in {10 * share:.0f} of 10 tries."
        )
    return Found(
        # What was only likely and became urgent is told once more: it is another thing.
        key=f"floor:{'urgent' if share >= URGENT else 'likely'}:{at:%Y-%m-%d}",
        kind="floor",
        urgent=share >= URGENT,
        text=text + _monitor_words(here, floor),
        remedy=remedy_for(here, night.until),
    )


def _monitor_words(here: TrackedTrip, floor: float) -> str:
    """What the monitor shows, where that is above the reserve while the level is said to fall."""
    state = monitor_state_of(here)
    shows = None if state is None or state.newest is None else state.newest.percent
    if shows is None or shows < floor:
        return ""
    low, _, high = (100 * float(line[-1]) for line in here.tracked.band)
    return (
        f" The monitor shows {shows:.0f} %; by all that is known it stands between "
        f"{low:.0f} and {high:.0f} %."
    )


def _silent(state: MonitorState | None) -> Found | None:
    if state is None or state.silent_s is None or state.silent_s < SILENT_S:
        return None
    minutes = round(state.silent_s / 60)
    since = datetime.fromisoformat(now_utc()) - timedelta(seconds=state.silent_s)
    return Found(
        key=f"silent:{since:%Y-%m-%dT%H}",
        kind="silent",
        urgent=False,
        text=f"The monitor has been silent for {minutes} minutes. The level is reckoned without "
        "it.",
        remedy="Look whether it has power and is in reach; note a reading meanwhile.",
    )


def _fridge(here: TrackedTrip, run: Run) -> Found | None:
    """What is drawn too much while nothing charges, held against what the fridge draws."""
    fridges = [a for a in here.case.appliances if isinstance(a.pattern, Fridge)]
    if not fridges:
        return None
    until_ms = int(here.now.timestamp() * 1000)
    starts = run.grid.starts_utc.astype(np.int64) * 1000
    keys = {fridge.key for fridge in fridges}
    total = own = measured = 0.0
    count = 0
    for sample in samples.thinned(
        here.plan_id, until_ms - FRIDGE_HOURS * 3_600_000, until_ms, FRIDGE_HOURS * 4
    ):
        inside = (starts >= sample.at_ms) & (starts < sample.at_ms + samples.QUARTER_MS)
        if sample.amps is None or not inside.any() or run.taken_a[:, inside].sum() > 0.0:
            continue
        count += 1
        measured += -sample.amps[2] * float(run.track.bus_v[inside].mean())
        total += float(sum(draw.asked_w[inside].mean() for draw in run.draws))
        own += float(sum(d.asked_w[inside].mean() for d in run.draws if d.key in keys))
    if count < FRIDGE_QUARTERS or own <= 0.0 or measured - total < (FRIDGE_TIMES - 1.0) * own:
        return None
    name = max(fridges, key=lambda a: a.power_w * a.duty).name
    return Found(
        key=f"fridge:{here.now:%Y-%m-%d}",
        kind="fridge",
        urgent=True,
        text=f"{name} seems to draw {1 + (measured - total) / own:.1f} times what it usually does: "
        f"{measured / count:.0f} W are drawn in all, {total / count:.0f} W were expected.",
        remedy="Look whether its lid is shut and its air free, and what else may be on.",
    )


def _frost(here: TrackedTrip, run: Run) -> Found | None:
    barred_c = here.case.bank.chemistry.cold.barred_below_c
    now = _step(here, run)
    end = min(now + round(24 / run.grid.step_h), run.grid.steps)
    if end - now < 2:
        return None
    ledger = keep_ledger(run, np.array([now, end]))
    ah = sum(float(flow.frozen.ah[0]) for flow in ledger.sources)
    if ah < FROZEN_AH:
        return None
    cold = np.flatnonzero(run.track.battery_c[now:end, 0] < barred_c)
    at = _moment(here, run, now + int(cold[0]))
    dawn = here.now.astimezone(first_midnight(here.plan).tzinfo)
    wh = sum(float(flow.frozen.wh[0]) for flow in ledger.sources)
    return Found(
        key=f"frost:{dawn:%Y-%m-%d}",
        kind="frost",
        urgent=False,
        text=f"Too cold to charge: from {day_words(at)} {clock(at)} the battery is colder "
        f"than {celsius(barred_c)}, and about {charge(ah, wh)} cannot go in.",
        remedy="Warm it before dawn, bring it in, or let its heater pads run.",
    )
