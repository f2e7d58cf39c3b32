"""From the document to what is known, and not known, of the trip's places and weather."""

from __future__ import annotations

from datetime import timedelta

from oddkettle.core.errors import PlanError
from oddkettle.core.quantity import celsius
from oddkettle.core.trip import Site
from oddkettle.core.weather.climate import CLIMATES, Climate, Typical, typical_day
from oddkettle.core.weather.sky_words import SKY_WORDS
from oddkettle.core.weather.weather_generator import UNTOLD, Doubt, Prospect
from oddkettle.plan.document import Plan

USUAL_CLEARNESS, USUAL_LOW_C, USUAL_HIGH_C = 0.68, 10.0, 18.0
"""A day of which nothing is known [judgement]."""
PRESET_DOUBT, FILE_DOUBT = 0.09, 0.05
"""Spread of a place's true mean clearness about a preset's, and about a weather file's [fitted]."""


PRESET_WARMTH_K, FILE_WARMTH_K = 3.5, 1.5
"""Spread of a place's true warmth about a preset's, and from year to year about a file's [K,
judgement: presets missed by 5 K rms, a good part of it their means]."""


def site_from(plan: Plan) -> Site:
    """The trip's own place, whose clock it keeps."""
    site = plan.trip.site
    return Site(site.latitude, site.longitude, site.altitude_m, site.timezone)


def day_sites_from(plan: Plan) -> tuple[Site, ...]:
    """One site a day, or none where every day is at the trip's own place."""
    home = site_from(plan)
    stops = {
        stop.id: Site(stop.latitude, stop.longitude, stop.altitude_m, home.timezone)
        for stop in plan.trip.stops
    }
    if all(day.stop is None for day in plan.trip.days):
        return ()
    return tuple(home if day.stop is None else stops[day.stop] for day in plan.trip.days)


def climate_from(plan: Plan) -> Climate | None:
    """The weather file's climate, or the chosen one, or none."""
    guess = plan.assumptions
    if guess.weather is None:
        return None if guess.climate is None else CLIMATES[guess.climate]
    return Climate(
        key="weather",
        text=guess.weather.source,
        clearness=tuple(guess.weather.clearness),
        low_c=tuple(guess.weather.low_c),
        high_c=tuple(guess.weather.high_c),
        settled=guess.weather.settled,
        height_m=plan.trip.site.altitude_m,
        # The file's months are those of its own hemisphere.
        seasons=False,
    )


OF_LABEL: dict[str | None, tuple[float, float]] = {
    "new": (1.0, 0.03),
    "unknown": UNTOLD,
    "old": (0.8, 0.12),
}
"""What a battery holds of its label by its age, and how sure that is [judgement]."""


def doubt_from(plan: Plan) -> Doubt:
    """How unsure the numbers are."""
    guess, climate = plan.assumptions, climate_from(plan)
    settled = Climate.settled if climate is None else climate.settled
    mean, doubt = OF_LABEL.get(plan.box.battery.age, (1.0, guess.capacity_doubt_percent / 100))
    return Doubt(
        settled=settled if guess.settled is None else guess.settled,
        place=PRESET_DOUBT if guess.weather is None else FILE_DOUBT,
        start=guess.start_doubt_percent / 100,
        capacity=doubt,
        capacity_mean=mean,
        capacity_told=plan.box.battery.age is not None,
        warmth_k=PRESET_WARMTH_K if guess.weather is None else FILE_WARMTH_K,
        panel=guess.panel_doubt_percent / 100,
        seed=guess.seed,
    )


def prospects_from(plan: Plan) -> tuple[Prospect, ...]:
    """What is known of each day. Raises PlanError for a day colder at noon than at dawn."""
    climate = climate_from(plan)
    sites = day_sites_from(plan) or (site_from(plan),) * len(plan.trip.days)
    return tuple(_prospect(plan, climate, place, site) for place, site in enumerate(sites))


def _prospect(plan: Plan, climate: Climate | None, place: int, site: Site) -> Prospect:
    guess, day = plan.assumptions, plan.trip.days[place]
    today = plan.trip.start + timedelta(days=place)
    usual = Typical(USUAL_CLEARNESS, USUAL_LOW_C, USUAL_HIGH_C)
    if climate is not None:
        usual = typical_day(climate, today, site.latitude, site.altitude_m)
    low = _first(day.low_c, guess.low_c, usual.low_c)
    high = _first(day.high_c, guess.high_c, max(usual.high_c, low))
    if high < low:
        raise PlanError(
            f"Day {place + 1} is to be {celsius(low)} at its coldest and {celsius(high)} at "
            "its warmest.",
            where=("trip", "days", place, "high_c"),
            value=high,
            limit=f"at least {celsius(low)}",
            remedy="Swap the two, or leave one out.",
        )
    said_on = day.said_on or plan.trip.start
    return Prospect(
        usual=_first(guess.usual_clearness, usual.clearness),
        low_c=low,
        high_c=high,
        word=None if day.sky == "usual" else SKY_WORDS[day.sky],
        ahead=max((today - said_on).days + 1, 1),
        given=day.low_c is not None and day.high_c is not None,
    )


def _first(*values: float | None) -> float:
    return next(value for value in values if value is not None)
