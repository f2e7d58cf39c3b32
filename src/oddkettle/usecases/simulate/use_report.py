"""The average day of everything that is used: the Use page's figures."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.loads.demand import (
    INVERTER_KEY,
    DrawSeries,
    by_the_clock,
    daily_profile_w,
    peak_w,
    share_there,
    window_share,
)
from oddkettle.core.simulation.ledger import DrawFlow, Ledger
from oddkettle.core.simulation.run import Run
from oddkettle.core.units.conversion import HOURS_PER_DAY
from oddkettle.core.weather.daylight import Daylight
from oddkettle.plan import Plan
from oddkettle.results.run import Amount, UseDraw, UsePart, UseReport

Floats = NDArray[np.float64]
HEATER_KEY = "heater"


def report_use(plan: Plan, run: Run, ledger: Ledger, light: Daylight) -> UseReport:
    """The average day of a run, its Ah those that the ledger found."""
    guessed = {a.id for a in plan.use.appliances if a.figure == "guess"}
    profiles = [
        daily_profile_w(draw, run.grid, run.case.away) * _over_label(run, draw, flow)
        for draw, flow in zip(run.draws, ledger.draws, strict=True)
    ]
    draws = [
        _use_draw(run, draw, profile, flow)
        for draw, profile, flow in zip(run.draws, profiles, ledger.draws, strict=True)
    ]
    if run.case.heater is not None:
        profiles.append(by_the_clock(run.track.heater_w, run.grid, run.case.away))
        draws.append(_pads(run, ledger, profiles[-1]))
    total = _total([draw.a_day for draw in draws])
    bus_v = total.wh / total.ah if total.ah > 0.0 else float(run.track.bus_v.mean())
    peak, slot = peak_w(run.draws, run.grid)
    together = np.sum(profiles, axis=0) if profiles else np.zeros(1)
    minutes = np.arange(len(together)) * run.grid.step_min
    rise = (light.rise or 0) * run.grid.step_min
    down = (light.set or (1440 if light.up else 0)) * (run.grid.step_min if light.set else 1)
    night = (minutes < rise) | (minutes >= down)
    guess_wh = sum(d.a_day.wh for d in draws if d.key in guessed and d.key != INVERTER_KEY)
    standby = [
        UsePart(key=d.key, name=d.name, a_day=Amount(ah=wh / bus_v, wh=wh))
        for d, wh in waiting(run, draws)
        if d.key != HEATER_KEY
    ]
    spread = {a.key: a.spread for a in run.case.appliances}
    off_wh = sum((d.a_day.wh * spread.get(d.key, 0.0)) ** 2 for d in draws) ** 0.5
    return UseReport(
        a_day=total,
        peak_a=peak / bus_v,
        peak_min=slot * run.grid.step_min,
        night_percent=100 * float(together[night].sum() / max(together.sum(), 1e-12)),
        guess_percent=100 * guess_wh / max(total.wh, 1e-12),
        bus_v=bus_v,
        draws=draws,
        standby=standby,
        standby_a_day=_total([part.a_day for part in standby]),
        spread=Amount(ah=off_wh / bus_v, wh=off_wh),
    )


def _over_label(run: Run, draw: DrawSeries, flow: DrawFlow) -> float:
    """What it asked of its label's power: an element takes more where the bus stands higher."""
    label_wh = float(draw.asked_w.sum()) * run.grid.step_h
    return float(flow.used.wh.sum() + flow.unmet.wh.sum()) / label_wh if label_wh > 0.0 else 1.0


def _use_draw(run: Run, draw: DrawSeries, profile: Floats, flow: DrawFlow) -> UseDraw:
    """Its average day as the ledger found it: what the Trip page shows of its days."""
    asked_wh = float(flow.used.wh.sum() + flow.unmet.wh.sum())
    asked_ah = float(flow.used.ah.sum() + flow.unmet.ah.sum())
    volts = asked_wh / asked_ah if asked_ah > 0.0 else float(run.track.bus_v.mean())
    wh = float(profile.mean() * HOURS_PER_DAY)
    return UseDraw(
        key=draw.key,
        name=draw.name,
        a_day=Amount(ah=wh / volts, wh=wh),
        running_a=draw.peak_w / volts,
        lost_wh=wh * (1 - draw.plug_share),
        profile_a=rounded(profile / volts, 3),
    )


def _pads(run: Run, ledger: Ledger, profile: Floats) -> UseDraw:
    """The heater pads as a thing that is used: their thermostat decides when."""
    assert run.case.heater is not None
    wh, ah = float(ledger.heater.wh.sum()), float(ledger.heater.ah.sum())
    volts = wh / ah if ah > 0.0 else float(run.track.bus_v.mean())
    a_day = float(profile.mean() * HOURS_PER_DAY)
    return UseDraw(
        key=HEATER_KEY,
        name="Heater pads",
        a_day=Amount(ah=a_day / volts, wh=a_day),
        running_a=run.case.heater.power_w / volts,
        lost_wh=0.0,
        profile_a=rounded(profile / volts, 3),
    )


def waiting(run: Run, draws: list[UseDraw]) -> list[tuple[UseDraw, float]]:
    """What does no work of its own, with what it takes so a day [Wh].

    That is everything that the box's parts draw for themselves, and the standby of appliances.
    """
    appliances = {a.key: a for a in run.case.appliances}
    draw_shares = {draw.key: draw.plug_share for draw in run.draws}
    found = []
    for draw in draws:
        appliance = appliances.get(draw.key)
        wh = draw.a_day.wh
        if appliance is not None:
            there = share_there(run.grid, run.case.away)
            window = window_share(appliance, run.grid, run.case.day_kinds)
            open_share = 1.0 - float((window * there).sum() / there.sum())
            share = draw_shares.get(draw.key) or 1.0
            wh = appliance.standby_w * HOURS_PER_DAY * open_share / share
        if wh > 0.0:
            found.append((draw, wh))
    return found


def rounded(values: Floats, digits: int) -> list[float]:
    """A series as the report writes it."""
    return np.round(values, digits).tolist()  # type: ignore[no-any-return]


def _total(amounts: list[Amount]) -> Amount:
    return Amount(ah=sum(a.ah for a in amounts), wh=sum(a.wh for a in amounts))
