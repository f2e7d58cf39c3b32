"""Where every amp-hour and watt-hour of a run went, by day, source, appliance and loss.

Charge closes exactly: taken = used + stored + coulombic loss. Energy closes with one more
line, `lag_wh`: the voltage that the wells of a lead battery hold back (near nil for lithium).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.bank import CHARGE_OHM, DISCHARGE_OHM, OCV_V, state_grid
from oddkettle.core.run import Run

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Flow:
    """An amount in both units: charge at the bus [Ah] and energy [Wh]. Arrays are (days,)."""

    ah: Floats
    wh: Floats


@dataclass(frozen=True)
class SourceFlow:
    """One source by day.

    offered is what its charger could have put into the box; clipped is what its current limit
    held back, spilled what the bank did not take, taken the rest. Energy is at the bus, and
    `conversion_wh` is what the charger turned into heat on the way.
    """

    offered: Flow
    clipped: Flow
    spilled: Flow
    taken: Flow
    conversion_wh: Floats


@dataclass(frozen=True)
class DrawFlow:
    """One appliance by day: what it used, of which lost in converters, and what it was denied."""

    used: Flow
    conversion_wh: Floats
    unmet: Flow


@dataclass(frozen=True)
class Ledger:
    """A run's books, by day. `stored` is the change of the bank's content, negative when it fell.

    Charge:  sum(taken) = sum(used) + stored + coulombic
    Energy:  sum(taken) = sum(used) + stored + coulombic + resistance + lag
    """

    sources: tuple[SourceFlow, ...]
    draws: tuple[DrawFlow, ...]
    stored: Flow
    coulombic: Flow
    resistance_wh: Floats
    lag_wh: Floats


def keep_books(run: Run) -> Ledger:
    """Turn a run's series into its ledger."""
    track, step_h = run.track, run.grid.step_h
    cuts = run.grid.day_starts[:-1]

    def by_day(series: Floats) -> Floats:
        return np.add.reduceat(series, cuts, axis=-1) * step_h

    volts = np.maximum(track.bus_v, 1e-9)
    into, soc = track.into_bank_a, track.soc
    ends = np.append(cuts, run.grid.steps)

    stored_ah = np.diff(soc[ends]) * run.tables.limits.capacity_ah
    stored_wh = np.diff(_content_wh(run, soc[ends]))
    kept_a = np.diff(soc) * run.tables.limits.capacity_ah / step_h
    lost_a = into - kept_a
    rested_v = _at_state(run.tables.curves[OCV_V], 0.5 * (soc[:-1] + soc[1:]))
    coulombic = Flow(by_day(lost_a), by_day(lost_a * rested_v))

    ohm = np.where(
        into > 0.0,
        _at_state(run.tables.curves[CHARGE_OHM], soc[:-1]),
        _at_state(run.tables.curves[DISCHARGE_OHM], soc[:-1] - track.lag[:-1]),
    )
    resistance_wh = by_day(into**2 * ohm)
    into_wh = by_day(into * track.bus_v)
    return Ledger(
        sources=tuple(_source_flow(run, j, volts, by_day) for j in range(len(run.sources))),
        draws=tuple(_draw_flow(run, a, volts, by_day) for a in range(len(run.draws))),
        stored=Flow(stored_ah, stored_wh),
        coulombic=coulombic,
        resistance_wh=resistance_wh,
        lag_wh=into_wh - stored_wh - coulombic.wh - resistance_wh,
    )


def _at_state(table: Floats, state: Floats) -> Floats:
    return np.interp(state, state_grid(), table)


def _content_wh(run: Run, soc: Floats) -> Floats:
    """Energy between empty and `soc` at rested voltage [Wh]: the exact integral of the table."""
    grid = state_grid()
    volts = run.tables.curves[OCV_V]
    steps = 0.5 * (volts[1:] + volts[:-1]) * np.diff(grid)
    whole = np.concatenate([[0.0], np.cumsum(steps)])
    k = np.clip(np.searchsorted(grid, soc, side="right") - 1, 0, len(grid) - 2)
    at = _at_state(volts, soc)
    part = 0.5 * (volts[k] + at) * (soc - grid[k])
    return np.asarray((whole[k] + part) * run.tables.limits.capacity_ah, np.float64)


def _source_flow(run: Run, j: int, volts: Floats, by_day: Callable[[Floats], Floats]) -> SourceFlow:
    source = run.sources[j]
    limit = run.offers.limit_a[j]
    offer_w = run.offers.offer_w[j]
    taken = run.track.taken_a[j]
    # What a current-limited charger offers is its limit; a panel offers its power.
    offered = np.where(limit > 0.0, offer_w / volts, 0.0) if source.kind == "sun" else limit
    clipped = np.maximum(offered - limit, 0.0)
    spilled = np.maximum(offered - clipped - taken, 0.0)
    taken_wh = by_day(taken * volts)
    return SourceFlow(
        offered=Flow(by_day(offered), by_day(offered * volts)),
        clipped=Flow(by_day(clipped), by_day(clipped * volts)),
        spilled=Flow(by_day(spilled), by_day(spilled * volts)),
        taken=Flow(by_day(taken), taken_wh),
        conversion_wh=taken_wh * (1.0 / source.efficiency - 1.0),
    )


def _draw_flow(run: Run, a: int, volts: Floats, by_day: Callable[[Floats], Floats]) -> DrawFlow:
    asked = run.asked_w[a]
    total = run.asked_w.sum(axis=0)
    share = np.divide(asked, total, out=np.zeros_like(asked), where=total > 0.0)
    amps = share * run.track.load_a
    used_wh = by_day(amps * volts)
    denied = asked * (1.0 - run.track.served)
    return DrawFlow(
        used=Flow(by_day(amps), used_wh),
        conversion_wh=used_wh * (1.0 - run.draws[a].plug_share),
        unmet=Flow(by_day(denied / volts), by_day(denied)),
    )
