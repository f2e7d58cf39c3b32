"""What many scenarios say of a plan, in a camper's words."""

from __future__ import annotations

from datetime import timedelta

import numpy as np

from oddkettle.core.loads.essential import must_run
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import Ensemble, run_ensemble
from oddkettle.core.simulation.ensemble_statistics import band, quantiles, share_of
from oddkettle.plan import Plan
from oddkettle.results.odds import Band, BandSeries, DayOdds, OddsReport
from oddkettle.text.words import LONG_TRIP_DAYS, number_word, span_words
from oddkettle.usecases.simulate.run_cache import ensemble_of

BAND_MIN, QUICK_BAND_MIN = 15, 30
"""The band is told no finer than this, at rest and while something is dragged."""
SURE, LIKELY, UNLIKELY, LOST = 0.95, 0.7, 0.3, 0.05


def odds_of(plan: Plan, scenarios: int | None = None, *, quick: bool = False) -> OddsReport:
    """The odds of a plan. Raises PlanRefused for a plan or a number of scenarios that cannot be."""
    return report_odds(ensemble_of(plan, scenarios, quick=quick), quick=quick)


def odds_in_motion(plan: Plan, scenarios: int) -> OddsReport:
    """A few scenarios at coarse steps, for a plan that is just being dragged."""
    return report_odds(ensemble_of(plan, scenarios, drag=True), quick=True)


def lasting_share(case: Case, scenarios: int) -> float:
    """How often a variant lasts in these scenarios, 0..1."""
    return float(run_ensemble(case, scenarios).lasts.mean())


def report_odds(ensemble: Ensemble, *, quick: bool = False, left: int | None = None) -> OddsReport:
    """Write the odds of an ensemble; `quick` with a coarser band.

    With `left` they are those of the rest of a trip, of so many days; 0 when it is over.
    """
    case = ensemble.case
    lasts = share_of(ensemble.lasts)
    daily = ensemble.lowest_by_day
    under = ensemble.under_by_day
    dark = ensemble.dark_h > 0.0
    every = max((QUICK_BAND_MIN if quick else BAND_MIN) // case.step_min, 1)
    low, middle, high = (np.round(100 * line, 1).tolist() for line in band(ensemble, every))
    chances = under.mean(axis=0)
    tight = int(np.argmax(chances)) if chances.any() else None
    must = [a.name for a in case.appliances if must_run(a)]
    return OddsReport(
        scenarios=ensemble.scenarios.count,
        step_min=case.step_min,
        seed=case.doubt.seed,
        headline=_headline(case, lasts.share, first_short_day(ensemble), left),
        detail="" if left == 0 else _detail(ensemble, tight, float(chances.max()), must),
        lasts_percent=100 * lasts.share,
        error_points=100 * lasts.error,
        under_percent=100 * float(under.any(axis=1).mean()),
        dark_percent=100 * float(dark.any(axis=1).mean()),
        must_run=must,
        lowest=_band(ensemble.lowest),
        tight_day=tight,
        days=[
            DayOdds(
                under_percent=100 * float(chances[d]),
                dark_percent=100 * float(dark[:, d].mean()),
                lowest=_band(daily[:, d]),
            )
            for d in range(case.days)
        ],
        band=BandSeries(step_min=every * case.step_min, low=low, middle=middle, high=high),
    )


def first_short_day(ensemble: Ensemble) -> int | None:
    """The day on which it first falls short, in the middle one of the scenarios that do.

    Falling short is to go under the reserve, or to leave something without power.
    """
    short = ensemble.under_by_day | (ensemble.dark_h > 0.0)
    fails = short.any(axis=1)
    if not fails.any():
        return None
    return int(np.sort(short.argmax(axis=1)[fails])[(int(fails.sum()) - 1) // 2])


def _band(values: np.ndarray) -> Band:
    low, middle, high = quantiles(100 * np.maximum(values, 0.0))
    return Band(low=low, middle=middle, high=high)


def in_ten(share: float) -> str:
    """Like 7 of 10 tries; close to none or all more finely, and never quite certain."""
    if share >= SURE:
        return f"{min(round(100 * share), 99)} of 100 tries"
    if share < LOST:
        hundredths = max(round(100 * share), 1)
        return f"{hundredths} of 100 tries" if share > 0.0 else "fewer than 1 of 100 tries"
    return f"{min(max(round(10 * share), 1), 9)} of 10 tries"


def _headline(case: Case, lasts: float, first: int | None, left: int | None) -> str:
    if left == 0:
        return "The trip is over."
    days = case.days if left is None else left
    span = span_words(case)
    if left is not None:
        span = f"the {number_word(days)} days that are left" if days > 1 else "the day that is left"
    begins = "It" if left is None else "From here it"
    when = "" if first is None else f" First short: {_day_name(case, first)}."
    if lasts >= SURE:
        return f"Your box lasts {span}."
    if lasts >= LIKELY:
        return f"Your box probably lasts {span}: {in_ten(lasts)} do.{when}"
    if lasts >= UNLIKELY:
        return f"{begins} may not last: {in_ten(lasts)} do.{when}"
    return f"{begins} probably will not last: {in_ten(lasts)} do.{when}"


def _detail(ensemble: Ensemble, tight: int | None, worst: float, must: list[str]) -> str:
    low, _, high = quantiles(100 * np.maximum(ensemble.lowest, 0.0))
    text = f"Lowest level: probably between {low:.0f} and {high:.0f} %."
    if tight is not None and worst > 0.0:
        name = _day_name(ensemble.case, tight)
        reserve = f"{100 * ensemble.case.floor:.0f} %"
        text += f" On {name} it drops below your reserve of {reserve} in {in_ten(worst)}."
    dark = float((ensemble.dark_h.sum(axis=1) > 0.0).mean())
    if dark > 0.0 and must:
        text += f" {must[0]} loses power in {in_ten(dark)}."
    elif dark > 0.0:
        text += f" The power goes off in {in_ten(dark)}."
    return text


def _day_name(case: Case, day: int) -> str:
    when = case.first_day + timedelta(days=day)
    return (
        f"{when:%A}"
        if case.days <= 7
        else (f"{when:%a} {when.day}" if case.days <= LONG_TRIP_DAYS else f"{when.day} {when:%b}")
    )
