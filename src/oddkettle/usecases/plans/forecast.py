"""The forecast of a plan's days: asked for, kept with its age, honest when it is away."""

from __future__ import annotations

import datetime
from typing import Literal

from oddkettle.links.forecast import Forecast, ForecastAway, ForecastDay, ask_forecast
from oddkettle.plan.quantities import LazyModel
from oddkettle.store import forecasts
from oddkettle.text.words import duration_words
from oddkettle.usecases.plans import plans
from oddkettle.usecases.process.clock import now_utc

STALE_H = 12.0
"""Forecasts are made anew about twice a day: an older one is called stale."""


class ForecastReport(LazyModel):
    """What is known of the days ahead."""

    state: Literal["fresh", "stale", "none"]
    text: str
    issued_on: datetime.date | None
    age_h: float | None
    """Hours since it was taken."""
    days: list[ForecastDay]
    """Only the trip's own days."""


def kept_forecast(plan_id: int) -> ForecastReport:
    """The forecast that is kept, without asking anybody. Raises NoSuchPlan."""
    return _report(plan_id, None)


def fetch_forecast(plan_id: int, url: str | None) -> ForecastReport:
    """Ask the service anew; when it is away, what is kept stays, with its age and the reason."""
    if url is None:
        reason = "no forecast service is set; ODDKETTLE_FORECAST_URL names one"
        return _report(plan_id, reason)
    trip = plans.open_plan(plan_id).document.trip
    try:
        found = ask_forecast(
            url, trip.site.latitude, trip.site.longitude, trip.start, len(trip.days)
        )
    except ForecastAway as away:
        return _report(plan_id, str(away))
    forecasts.keep(plan_id, now_utc(), found.model_dump_json())
    return _report(plan_id, None)


def _report(plan_id: int, away: str | None) -> ForecastReport:
    trip = plans.open_plan(plan_id).document.trip
    kept = forecasts.newest(plan_id)
    trouble = "" if away is None else f"The forecast service is away: {away}. "
    if kept is None:
        text = trouble or "No forecast has been taken yet."
        return ForecastReport(state="none", text=text.strip(), issued_on=None, age_h=None, days=[])
    forecast = Forecast.model_validate_json(kept.body)
    taken = datetime.datetime.fromisoformat(kept.fetched_at)
    now = datetime.datetime.fromisoformat(now_utc())
    age_h = max((now - taken).total_seconds() / 3600.0, 0.0)
    last = trip.start + datetime.timedelta(days=len(trip.days) - 1)
    days = [day for day in forecast.days if trip.start <= day.date <= last]
    fresh = away is None and age_h < STALE_H
    kept_words = f"Taken {duration_words(age_h)} ago" if age_h >= 1 / 60 else "Taken just now"
    text = f"{trouble}{kept_words}, for {len(days)} of the trip's {len(trip.days)} days."
    if not days:
        text = f"{trouble}{kept_words}, but for other days than this trip's."
    return ForecastReport(
        state="fresh" if fresh else "stale",
        text=text,
        issued_on=forecast.issued.date(),
        age_h=age_h,
        days=days,
    )
