"""Where every amp-hour and watt-hour of a run went, by day, source, appliance and loss.

Charge closes exactly: taken = used + heater + stored + coulombic + self-discharge. Energy closes
with one more line, `lag_wh`: the voltage that the wells of a lead battery hold back (near nil
for lithium).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.bank import BankTables, state_grid
from oddkettle.core.kernel.records import ASK_A, ASK_W
from oddkettle.core.loads.demand import DrawSeries, shed_levels
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources.dcdc import input_current_a
from oddkettle.core.sources.source_series import SourceSeries

Floats = NDArray[np.float64]
ByDay = Callable[[Floats], Floats]


@dataclass(frozen=True)
class Flow:
    """An amount in both units: charge at the bus [Ah] and energy [Wh]. Arrays are (days,)."""

    ah: Floats
    wh: Floats


@dataclass(frozen=True)
class SourceFlow:
    """One source by day.

    offered = barred + clipped + spilled + taken. offered is what it could have put into the box;
    barred what a selector, quiet hours or use kept away; clipped what its charger, feed or shared
    limit held back; spilled what the bank did not take, and frozen what of that the cold kept out
    of a battery that was not full. Energy is at the bus; `conversion_wh` is
    what the charger and `wiring_wh` what the cable turned into heat on the way.
    """

    offered: Flow
    barred: Flow
    clipped: Flow
    spilled: Flow
    frozen: Flow
    taken: Flow
    conversion_wh: Floats
    wiring_wh: Floats


@dataclass(frozen=True)
class DrawFlow:
    """One appliance by day: used, of which lost in converters; denied; carried by the vehicle."""

    used: Flow
    conversion_wh: Floats
    unmet: Flow
    moved: Flow


@dataclass(frozen=True)
class Ledger:
    """A run's ledger, by day. `stored` is the change of the banks' content, negative when it fell.

    Charge:  sum(taken) = sum(used) + heater + stored + coulombic + leaked
    Energy:  sum(taken) = sum(used) + heater + stored + coulombic + leaked + resistance + lag
    """

    sources: tuple[SourceFlow, ...]
    draws: tuple[DrawFlow, ...]
    heater: Flow
    stored: Flow
    coulombic: Flow
    leaked: Flow
    resistance_wh: Floats
    lag_wh: Floats


def keep_ledger(run: Run, edges: NDArray[np.integer] | None = None) -> Ledger:
    """Turn a run's series into its ledger.

    edges : (n + 1,) rising steps that part the run into n stretches; the days when absent. All
        "by day" of the ledger then means by stretch.
    """
    track, step_h = run.track, run.grid.step_h
    edges = run.grid.day_starts if edges is None else edges
    cuts, end = edges[:-1], int(edges[-1])

    def by_day(series: Floats) -> Floats:
        return np.asarray(np.add.reduceat(series[..., :end], cuts, axis=-1) * step_h, np.float64)

    volts = np.maximum(track.bus_v, 1e-9)
    stored, coulombic, leaked = _zero(len(cuts)), _zero(len(cuts)), _zero(len(cuts))
    resistance_wh = np.zeros(len(cuts))
    for b, tables in enumerate(run.world.tables):
        part = _bank_ledger(run, b, tables, by_day, edges)
        stored, coulombic = _add(stored, part[0]), _add(coulombic, part[1])
        leaked = _add(leaked, part[2])
        resistance_wh = resistance_wh + part[3]
    heater = Flow(by_day(track.heater_w / volts), by_day(track.heater_w))
    into_wh = by_day(track.into_bank_a * track.bus_v)
    return Ledger(
        sources=tuple(_source_flow(run, j, volts, by_day) for j in range(len(run.sources))),
        draws=tuple(_draw_flow(run, draw, volts, by_day) for draw in run.draws),
        heater=heater,
        stored=stored,
        coulombic=coulombic,
        leaked=leaked,
        resistance_wh=resistance_wh,
        lag_wh=into_wh - stored.wh - coulombic.wh - leaked.wh - resistance_wh,
    )


def _zero(days: int) -> Flow:
    return Flow(np.zeros(days), np.zeros(days))


def _add(a: Flow, b: Flow) -> Flow:
    return Flow(a.ah + b.ah, a.wh + b.wh)


def _bank_ledger(
    run: Run, b: int, tables: BankTables, by_day: ByDay, ends: NDArray[np.integer]
) -> tuple[Flow, Flow, Flow, Floats]:
    """(stored, coulombic, leaked, resistance Wh) of one bank by day."""
    track, step_h = run.track, run.grid.step_h
    soc, amps, leak = track.soc[:, b], track.bank_a[:, b], track.leak[:, b]
    capacity = tables.bank["capacity_ah"]
    stored = Flow(np.diff(soc[ends]) * capacity, np.diff(_content_wh(tables, soc[ends])))
    leaked_a = leak * capacity / step_h
    lost_a = amps - np.diff(soc) * capacity / step_h - leaked_a
    rested_v = _at_state(tables.curves["ocv_v"], 0.5 * (soc[:-1] + soc[1:]))
    heat_w = amps**2 * track.met_ohm[:, b]
    return (
        stored,
        Flow(by_day(lost_a), by_day(lost_a * rested_v)),
        Flow(by_day(leaked_a), by_day(leaked_a * rested_v)),
        by_day(heat_w),
    )


def _at_state(table: Floats, state: Floats) -> Floats:
    return np.interp(state, state_grid(), table)


def _content_wh(tables: BankTables, soc: Floats) -> Floats:
    """Energy between empty and `soc` at rested voltage [Wh]: the exact integral of the table."""
    grid = state_grid()
    volts = tables.curves["ocv_v"]
    steps = 0.5 * (volts[1:] + volts[:-1]) * np.diff(grid)
    whole = np.concatenate([[0.0], np.cumsum(steps)])
    k = np.clip(np.searchsorted(grid, soc, side="right") - 1, 0, len(grid) - 2)
    at = _at_state(volts, soc)
    part = 0.5 * (volts[k] + at) * (soc - grid[k])
    return np.asarray((whole[k] + part) * tables.bank["capacity_ah"], np.float64)


@dataclass(frozen=True)
class SourceParts:
    """What became of what a source could have given, by step [A]; all (steps,)."""

    offered: Floats
    barred: Floats
    clipped: Floats
    spilled: Floats


def source_parts(run: Run, j: int) -> SourceParts:
    """The parts of the `j`th source of a run, as `SourceFlow` tells of them by day."""
    volts = np.maximum(run.track.bus_v, 1e-9)
    source = run.sources[j]
    taken = run.taken_a[j]
    offered = np.maximum(np.minimum(source.could_w / volts, source.could_a), taken)
    if source.feed_s > 0.0:
        # A relay offers what the wire would carry into the bank at rest, not its fuse.
        lift = (source.source_v - volts) * source.feed_s * (source.limit_a > 0.0)
        offered = np.maximum(np.minimum(lift, source.limit_a), np.maximum(taken, 0.0))
    barred = offered * source.barred
    passes = np.minimum(np.minimum(source.offer_w / volts, source.limit_a), offered - barred)
    if source.feed_s > 0.0:
        passes = offered - barred
    passes = np.maximum(passes, np.maximum(taken, 0.0))
    passes = np.where(_shared_full(run, j), np.minimum(passes, np.maximum(taken, 0.0)), passes)
    clipped = np.maximum(offered - barred - passes, 0.0)
    return SourceParts(offered, barred, clipped, offered - barred - clipped - taken)


def _source_flow(run: Run, j: int, volts: Floats, by_day: ByDay) -> SourceFlow:
    source, taken = run.sources[j], run.taken_a[j]
    parts = source_parts(run, j)
    offered, barred, clipped = parts.offered, parts.barred, parts.clipped
    spilled = parts.spilled
    barred_c = run.case.bank.chemistry.cold.barred_below_c
    frozen = np.where(run.track.battery_c[:-1, 0] < barred_c, np.maximum(spilled, 0.0), 0.0)
    taken_wh = by_day(taken * volts)
    return SourceFlow(
        offered=Flow(by_day(offered), by_day(offered * volts)),
        barred=Flow(by_day(barred), by_day(barred * volts)),
        clipped=Flow(by_day(clipped), by_day(clipped * volts)),
        spilled=Flow(by_day(spilled), by_day(spilled * volts)),
        frozen=Flow(by_day(frozen), by_day(frozen * volts)),
        taken=Flow(by_day(taken), taken_wh),
        conversion_wh=by_day(_conversion_w(source, taken, volts)),
        wiring_wh=by_day(_wiring_w(source, taken, volts)),
    )


def _shared_full(run: Run, j: int) -> NDArray[np.bool_]:
    """(steps,) whether the shared output limit is what held this source."""
    offers = run.world.offers
    members = [
        run.world.rows[r] for r in range(len(run.world.rows)) if offers.chargers["shared"][r] > 0.0
    ]
    if j not in members:
        return np.zeros(run.grid.steps, bool)
    together = run.taken_a[members].sum(axis=0)
    return np.asarray(together >= offers.shared_a * (1.0 - 1e-9))


def _conversion_w(source: SourceSeries, taken: Floats, volts: Floats) -> Floats:
    """Heat in the charger [W]; under PWM, what the panel could do above the battery's voltage."""
    if source.pwm:
        share = np.divide(
            taken, source.could_a, out=np.zeros_like(taken), where=source.could_a > 0.0
        )
        return np.maximum(source.raw_w * share - taken * volts, 0.0)
    return np.asarray(taken * volts * (1.0 / source.efficiency - 1.0))


def _wiring_w(source: SourceSeries, taken: Floats, volts: Floats) -> Floats:
    """Heat in the cable that leads to the charger [W]."""
    if source.feed_ohm <= 0.0:
        offered = source.could_a if source.pwm else source.raw_w
        used = taken if source.pwm else taken * volts / source.efficiency
        share = np.divide(used, offered, out=np.zeros_like(taken), where=offered > 0.0)
        return source.wire_w * np.minimum(share, 1.0)
    on = np.maximum(source.on, 1e-9)
    if source.feed_s > 0.0:
        return np.asarray(taken**2 * source.feed_ohm / on)
    amps = input_current_a(taken * volts / source.efficiency / on, source.source_v, source.feed_ohm)
    return np.asarray(amps**2 * source.feed_ohm * source.on)


def _draw_flow(run: Run, draw: DrawSeries, volts: Floats, by_day: ByDay) -> DrawFlow:
    per_ask: Floats | float = 1.0
    if draw.kind != ASK_A:
        per_ask = 1.0 / volts if draw.kind == ASK_W else volts
    asked_a = draw.asked * per_ask
    allowed = (run.track.shed < shed_levels(draw, run.case.shed)) * run.track.served
    if draw.on_output:
        allowed = allowed * (1.0 - run.track.output_off)
    amps = asked_a * allowed
    used_wh = by_day(amps * volts)
    # What it was denied is told at nominal voltage: there was none at the plug.
    denied_w = draw.asked_w * (1.0 - allowed)
    nominal_v = run.case.bank.nominal_v
    return DrawFlow(
        used=Flow(by_day(amps), used_wh),
        conversion_wh=used_wh * (1.0 - draw.plug_share),
        unmet=Flow(by_day(denied_w / nominal_v), by_day(denied_w)),
        moved=Flow(by_day(draw.moved_w / nominal_v), by_day(draw.moved_w)),
    )
