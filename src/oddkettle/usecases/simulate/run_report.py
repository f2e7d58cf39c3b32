"""Run a plan and write its result document."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import replace
from math import inf
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import Flow, Ledger, keep_ledger
from oddkettle.core.simulation.run import Run
from oddkettle.core.simulation.run_metrics import hours_to_floor, lowest, shortest_drive
from oddkettle.core.trip.grid import Block
from oddkettle.core.values.cache import CACHE
from oddkettle.core.weather.clear_sky import trip_sky
from oddkettle.core.weather.daylight import Daylight, daylight
from oddkettle.plan import Plan
from oddkettle.plan.quantities import clock_minutes
from oddkettle.results.judgements import JudgementReport
from oddkettle.results.odds import OddsReport
from oddkettle.results.run import (
    Amount,
    BankReport,
    DayReport,
    DrawReport,
    Losses,
    Period,
    RunReport,
    Series,
    Sky,
    SourceReport,
)
from oddkettle.text.words import moment
from oddkettle.usecases.simulate.endurance import report_endurance
from oddkettle.usecases.simulate.odds import SURE, lasting_share, odds_in_motion, odds_of
from oddkettle.usecases.simulate.run_cache import run_plan
from oddkettle.usecases.simulate.use_report import HEATER_KEY, report_use, rounded
from oddkettle.usecases.simulate.verdict import say_bottleneck, say_limits, say_verdict

Floats = NDArray[np.float64]
Pick = Callable[[Floats], float]
"""Takes one figure out of a (days,) array: a day's, or the sum over the trip."""


Depth = Literal["none", "quick", "full"]
"""How many scenarios the odds are taken from: none, a few at coarse steps, or the plan's own."""
QUICK_SCENARIOS = 40


def report_plan(
    plan: Plan,
    *,
    series: bool = True,
    advice: bool = True,
    judged: bool = True,
    odds: Depth = "none",
    sky: Sky = "expected",
) -> RunReport:
    """The result document.

    `advice` adds what takes more runs: the shortest drive that mends a shortfall, how long the
    box stands alone, and, where they are wanted (`judged`), the judgements. They are about the
    expected sky, whichever is shown.
    """
    run = run_plan(plan, sky)
    many = None
    if odds != "none":
        many = odds_in_motion(plan, QUICK_SCENARIOS) if odds == "quick" else odds_of(plan)
    dark_share = None if many is None or odds == "quick" else many.dark_percent / 100
    report = report_run(
        plan,
        run,
        series=series,
        advice=advice and sky == "expected",
        judged=judged,
        dark_share=dark_share,
    )
    if many is None:
        return report.model_copy(update={"sky": sky})
    report = _with_mend_odds(report, run.case, many.scenarios) if odds == "full" else report
    sure = many.lasts_percent >= 100 * SURE and report.verdict.lasts and sky == "expected"
    headline = report.verdict.headline if sure else many.headline
    return report.model_copy(update={"sky": sky, "odds": many, "headline": headline})


def written_report(
    plan: Plan, *, advice: bool, odds: Depth, sky: Sky, rest: OddsReport | None = None
) -> bytes:
    """`report_plan` as JSON, kept: a page that is opened again has its answer at once.

    `rest` is put into it. Raises PlanRefused.
    """
    key = ("report", hashlib.sha256(plan.model_dump_json().encode()).digest(), advice, odds, sky)
    body = CACHE.ask(
        key, lambda: report_plan(plan, advice=advice, odds=odds, sky=sky).model_dump_json().encode()
    )
    if rest is None:
        return body
    without = b'"rest":null}'
    assert body.endswith(without)
    return body[: -len(without)] + b'"rest":' + rest.model_dump_json().encode() + b"}"


def _with_mend_odds(report: RunReport, case: Case, scenarios: int) -> RunReport:
    """Say of the mending drive how often the box lasts with it."""
    mend = report.verdict.mend
    if mend is None:
        return report
    block = Block("drive", mend.day, clock_minutes(mend.start), mend.day, clock_minutes(mend.end))
    # The very scenarios of the odds above it, so that the two can be set side by side.
    lasts = lasting_share(replace(case, blocks=(*case.blocks, block)), scenarios)
    told = mend.model_copy(update={"lasts_percent": 100 * lasts})
    return report.model_copy(update={"verdict": report.verdict.model_copy(update={"mend": told})})


def report_run(
    plan: Plan,
    run: Run,
    *,
    series: bool = True,
    advice: bool = True,
    judged: bool = True,
    dark_share: float | None = None,
) -> RunReport:
    """The result document of a plan that was run already.

    `dark_share` is the share of scenarios in which it is cut out, where they were run.
    """
    ledger = keep_ledger(run)
    mend = shortest_drive(run) if advice else None
    endurance = report_endurance(run, ledger, autonomy=advice)
    light = daylight(trip_sky(run.case.sites, run.grid), run.grid)
    verdict = say_verdict(run, ledger, mend, endurance)
    return RunReport(
        headline=verdict.headline,
        verdict=verdict,
        bottleneck=say_bottleneck(run, ledger),
        bank=_bank(run),
        use=report_use(plan, run, ledger, light[0]),
        limits=say_limits(run, ledger),
        total=Period.model_validate(period_of(run, ledger, lambda daily: float(daily.sum()))),
        days=[_day(run, ledger, d, light[d]) for d in range(len(light))],
        endurance=endurance,
        judgements=_judgements(plan, run, ledger, dark_share) if advice and judged else None,
        series=_series(run) if series else None,
        sky="expected",
        odds=None,
    )


def _judgements(
    plan: Plan, run: Run, ledger: Ledger, dark_share: float | None
) -> list[JudgementReport]:
    # Many rules to load, and some run the box again: only where they are asked for.
    from oddkettle.usecases.simulate.remedies import report_judgements

    return report_judgements(plan, run, ledger, dark_share)


def _amount(flow: Flow, pick: Pick) -> Amount:
    return Amount(ah=pick(flow.ah), wh=pick(flow.wh))


def _sum(amounts: list[Amount]) -> Amount:
    return Amount(ah=sum(a.ah for a in amounts), wh=sum(a.wh for a in amounts))


def period_of(run: Run, ledger: Ledger, pick: Pick) -> dict[str, Any]:
    """The fields of a Period: `pick` takes one figure out of each of the ledger's arrays."""
    sources = [
        SourceReport(
            key=source.key,
            kind=source.kind,
            name=source.name,
            limit_a=source.rating_a,
            offered=_amount(flow.offered, pick),
            barred=_amount(flow.barred, pick),
            clipped=_amount(flow.clipped, pick),
            spilled=_amount(flow.spilled, pick),
            frozen=_amount(flow.frozen, pick),
            taken=_amount(flow.taken, pick),
            conversion_wh=pick(flow.conversion_wh),
            wiring_wh=pick(flow.wiring_wh),
        )
        for source, flow in zip(run.sources, ledger.sources, strict=True)
    ]
    draws = [
        DrawReport(
            key=draw.key,
            name=draw.name,
            used=_amount(flow.used, pick),
            lost_wh=pick(flow.conversion_wh),
            unmet=_amount(flow.unmet, pick),
            moved=_amount(flow.moved, pick),
        )
        for draw, flow in zip(run.draws, ledger.draws, strict=True)
    ]
    if run.case.heater is not None:
        heater, none = _amount(ledger.heater, pick), Amount(ah=0.0, wh=0.0)
        draws.append(
            DrawReport(
                key=HEATER_KEY, name="Heater pads", used=heater, lost_wh=0.0, unmet=none, moved=none
            )
        )
    taken = _sum([s.taken for s in sources])
    used = _sum([d.used for d in draws])
    return {
        "sources": sources,
        "draws": draws,
        "taken": taken,
        "used": used,
        "stored": _amount(ledger.stored, pick),
        "lost": Losses(
            coulombic=_amount(ledger.coulombic, pick),
            leaked=_amount(ledger.leaked, pick),
            resistance_wh=pick(ledger.resistance_wh),
            lag_wh=pick(ledger.lag_wh),
            chargers_wh=sum(pick(f.conversion_wh) for f in ledger.sources),
            wiring_wh=sum(pick(f.wiring_wh) for f in ledger.sources),
            converters_wh=sum(pick(f.conversion_wh) for f in ledger.draws),
        ),
        "net": Amount(ah=taken.ah - used.ah, wh=taken.wh - used.wh),
        "spilled_sun": _sum([s.spilled for s in sources if s.kind == "sun"]),
        "unmet": _sum([d.unmet for d in draws]),
    }


def _day(run: Run, ledger: Ledger, day: int, light: Daylight) -> DayReport:
    grid = run.grid
    first, last = int(grid.day_starts[day]), int(grid.day_starts[day + 1])
    low = lowest(run, first, last)
    under = run.level[first:last] < run.case.fails_below
    period = period_of(run, ledger, lambda daily: float(daily[day]))
    when = moment(run, first)
    return DayReport.model_validate(
        {
            **period,
            "date": when.date(),
            "first_step": first,
            "steps": last - first,
            "minutes": (last - first) * grid.step_min,
            "sunrise_min": None if light.rise is None else light.rise * grid.step_min,
            "sunset_min": None if light.set is None else light.set * grid.step_min,
            "sun_up_all_day": light.up and light.rise is None and light.set is None,
            "clearness": run.case.clearness[day],
            "start_percent": max(100 * float(run.level[first]), 0.0),
            "end_percent": max(100 * float(run.level[last]), 0.0),
            "lowest_percent": 100 * low.soc,
            "lowest_at": moment(run, low.step).isoformat(),
            "below_floor_min": float(np.count_nonzero(under) * grid.step_min),
            "air_low_c": float(run.world.air_c[first:last].min()),
            "air_high_c": float(run.world.air_c[first:last].max()),
            "battery_low_c": float(run.track.battery_c[first : last + 1, 0].min()),
            "battery_high_c": float(run.track.battery_c[first : last + 1, 0].max()),
        }
    )


def _series(run: Run) -> Series:
    track = run.track

    ahead = hours_to_floor(run)
    return Series(
        first_utc=str(run.grid.starts_utc[0]) + "Z",
        step_min=run.grid.step_min,
        level_percent=rounded(np.maximum(run.level, 0.0) * 100, 2),
        volts=rounded(track.bus_v, 2),
        net_a=rounded(track.into_bank_a, 2),
        load_a=rounded(track.load_a, 2),
        taken_a={
            source.key: rounded(amps, 2)
            for source, amps in zip(run.sources, run.taken_a, strict=True)
        },
        hours_to_floor=[None if h == inf else h for h in rounded(ahead, 2)],
        battery_c=rounded(track.battery_c[:, 0], 1),
        second_percent=rounded(np.maximum(track.soc[:, 1], 0.0) * 100, 1)
        if run.case.second
        else None,
    )


def _bank(run: Run) -> BankReport:
    case, bank = run.case, run.case.bank
    usable_ah = case.usable_ah
    return BankReport(
        chemistry=bank.chemistry.key,
        name=bank.chemistry.name,
        capacity_ah=bank.capacity_ah,
        nominal_v=bank.nominal_v,
        nominal=Amount(ah=bank.capacity_ah, wh=bank.nominal_wh),
        usable=Amount(ah=usable_ah, wh=usable_ah * bank.nominal_v),
        charge_limit_a=bank.chemistry.charge_limit_c * bank.capacity_ah,
        absorption_v=case.profile.absorption_v,
        float_v=case.profile.float_v,
        healthy_floor_percent=100 * (1 - bank.chemistry.usable_share),
        mass_kg=bank.mass_kg,
        cells=bank.cells_in_series,
        step_min=run.grid.step_min,
        lowest_c=float(run.track.battery_c[:, 0].min()),
        highest_c=float(run.track.battery_c[:, 0].max()),
    )
