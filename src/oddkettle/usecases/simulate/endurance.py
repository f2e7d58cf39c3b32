"""What a run says beyond its level: stages, time full, autonomy, cold, wear."""

from __future__ import annotations

import numpy as np

from oddkettle.core.battery.ageing import age
from oddkettle.core.simulation.ledger import Ledger
from oddkettle.core.simulation.outage import outage_hours
from oddkettle.core.simulation.run import Run
from oddkettle.core.simulation.run_metrics import (
    autonomy_h,
    last_full,
    locked_steps,
    stage_hours,
    starved_steps,
)
from oddkettle.core.units.conversion import MINUTES_PER_DAY
from oddkettle.results.run import (
    AgeingReport,
    Amount,
    Autonomy,
    ChargerReport,
    Endurance,
    Outage,
    Range,
)
from oddkettle.text.words import moment

MARK_H = 3.0
WORST = 0.1
"""The worst of ten."""
ROOM = 1.2
"""An outage is told of over the scenarios where the trip is so many times as long [judgement]."""
MAX_MARKS = 80
"""Autonomy is told every three hours, or at 80 marks over a long trip."""


def report_endurance(run: Run, ledger: Ledger, *, autonomy: bool) -> Endurance:
    """All of it; `autonomy` costs as much as the run again and is left out while dragging."""
    full = last_full(run)
    aged = age(run.case.bank.chemistry, run.level, run.grid.step_h)
    marks = _marks(run) if autonomy else []
    ended = [mark for mark in marks if mark.hours is not None]
    shortest = min(ended, key=lambda mark: mark.hours or 0.0, default=None)
    return Endurance(
        chargers=[_charger(run, j) for j in range(len(run.sources))],
        last_full_at=None if full is None else moment(run, full).isoformat(),
        locked_h=float(locked_steps(run).sum() * run.grid.step_h),
        heater=Amount(ah=float(ledger.heater.ah.sum()), wh=float(ledger.heater.wh.sum())),
        heater_night=_heater_night(run),
        autonomy=marks,
        shortest_autonomy=shortest,
        outage=_outage(run, ended) if run.case.standby else None,
        ageing=AgeingReport(
            full_cycles=aged.full_cycles,
            deepest_percent=100 * aged.deepest,
            cycle_share_percent=100 * aged.cycle_share,
            calendar_share_percent=100 * aged.calendar_share,
            life_percent=Range.of(run.case.bank.chemistry.life.span(100 * aged.life)),
        ),
    )


def _outage(run: Run, ended: list[Autonomy]) -> Outage | None:
    """The worst of the outages that end on the trip by some margin; None where none does."""
    step_h = run.grid.step_h
    ends_h = run.grid.steps * step_h
    inside = [m for m in ended if m.step * step_h + ROOM * (m.hours or 0.0) < ends_h]
    if not inside:
        return None
    return outage_of(run, min(inside, key=lambda mark: mark.hours or 0.0).step)


def outage_of(run: Run, step: int) -> Outage | None:
    """How long it stands without any source from a step on; None where the trip is too short."""
    hours = outage_hours(run.case, step)
    # Over the ends of the trip nothing is known: only what comes before it is told.
    worst, middle = (float(h) for h in np.quantile(hours, (WORST, 0.5), method="lower"))
    if not np.isfinite(worst):
        return None
    return Outage(step=step, worst_h=worst, middle_h=middle if np.isfinite(middle) else None)


def _heater_night(run: Run) -> Amount | None:
    """What the pads take in the dearest night, from noon to noon; None where they never run."""
    watts = run.track.heater_w
    if not watts.any():
        return None
    half_days = (run.grid.clock_min >= MINUTES_PER_DAY // 2).astype(int)
    night = np.cumsum(np.maximum(np.diff(half_days, prepend=half_days[0]), 0))
    wh = np.bincount(night, weights=watts) * run.grid.step_h
    ah = np.bincount(night, weights=watts / np.maximum(run.track.bus_v, 1e-9)) * run.grid.step_h
    dearest = int(wh.argmax())
    return Amount(ah=float(ah[dearest]), wh=float(wh[dearest]))


def _marks(run: Run) -> list[Autonomy]:
    every = max(round(MARK_H / run.grid.step_h), -(-run.grid.steps // MAX_MARKS))
    found = []
    for step in range(0, run.grid.steps, every):
        hours = autonomy_h(run, step)
        found.append(Autonomy(step=step, hours=hours if np.isfinite(hours) else None))
    return found


def _charger(run: Run, j: int) -> ChargerReport:
    source = run.sources[j]
    bulk, absorption, floating = stage_hours(run, j)
    starved = starved_steps(run, j)
    feeds = source.feed_ohm > 0.0 and source.feed_s == 0.0
    return ChargerReport(
        key=source.key,
        kind=source.kind,
        name=source.name,
        bulk_h=bulk,
        absorption_h=absorption,
        float_h=floating,
        starved_h=float((starved * source.on).sum() * run.grid.step_h) if feeds else 0.0,
        cold_voc_v=source.volts.cold_voc_v if source.volts else None,
        hot_vmp_v=source.volts.hot_vmp_v if source.volts else None,
    )
