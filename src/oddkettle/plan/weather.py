"""From the document to what is known, and not known, of the trip's places and weather."""

from __future__ import annotations

from datetime import timedelta

from oddkettle.core.battery.bank import chemistry_named
from oddkettle.core.battery.label_share import UNTOLD, label_share
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.trip.grid import Site
from oddkettle.core.units.quantity import celsius
from oddkettle.core.weather.climate import CLIMATES, Climate, Typical, typical_day
from oddkettle.core.weather.sky_words import SKY_WORDS
from oddkettle.core.weather.weather_generator import Doubt, Prospect
from oddkettle.core.weather.world_climate import at_place
from oddkettle.plan.document import Plan

USUAL_CLEARNESS, USUAL_LOW_C, USUAL_HIGH_C = 0.68, 10.0, 18.0
"""A day of which nothing is known [judgement]."""
BY_PLACE = "place"
"""The climate of the trip's own place, from the table of the world."""
FILE_DOUBT, FILE_WARMTH_K = 0.05, 1.5
"""Spread of a month's clearness and warmth [K] about a weather file's, year by year [fitted]."""


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


def climate_from(plan: Plan, site: Site) -> Climate | None:
    """The weather file's climate, or the one chosen for this site, or none."""
    guess = plan.assumptions
    if guess.weather is None:
        if guess.climate == BY_PLACE:
            return at_place(site.latitude, site.longitude).climate
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
        doubt=FILE_DOUBT,
        warmth_doubt_k=FILE_WARMTH_K,
    )


def kind_of_place(plan: Plan) -> str | None:
    """The climate that was chosen from the list, where the days go by it."""
    guess = plan.assumptions
    return guess.climate if guess.weather is None and guess.climate in CLIMATES else None


def doubt_from(plan: Plan) -> Doubt:
    """How unsure the numbers are. Raises PlanError for a chemistry that there is not."""
    guess, climate = plan.assumptions, climate_from(plan, site_from(plan))
    settled = Climate.settled if climate is None else climate.settled
    battery, typed = plan.box.battery, guess.capacity_doubt_percent
    share = label_share(chemistry_named(battery.chemistry, ("box", "battery")), battery.age)
    return Doubt(
        settled=settled if guess.settled is None else guess.settled,
        place=Climate.doubt if climate is None else climate.doubt,
        start=guess.start_doubt_percent / 100,
        capacity=share.sd if typed is None else typed / 100,
        capacity_mean=share.mean,
        capacity_told=battery.age not in {None, UNTOLD},
        warmth_k=Climate.warmth_doubt_k if climate is None else climate.warmth_doubt_k,
        panel=guess.panel_doubt_percent / 100,
        seed=guess.seed,
    )


def prospects_from(plan: Plan) -> tuple[Prospect, ...]:
    """What is known of each day. Raises PlanError for a day colder at noon than at dawn."""
    sites = day_sites_from(plan) or (site_from(plan),) * len(plan.trip.days)
    return tuple(_prospect(plan, place, site) for place, site in enumerate(sites))


def _prospect(plan: Plan, place: int, site: Site) -> Prospect:
    guess, day, climate = plan.assumptions, plan.trip.days[place], climate_from(plan, site)
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
