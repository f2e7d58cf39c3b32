"""Judgements about the weather that a plan reckons with."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import timedelta

from oddkettle.core.judgement.evidence import Change, Evidence, Fix, Judgement, Number
from oddkettle.core.units.quantity import kelvin
from oddkettle.core.weather.climate import CLIMATES, typical_day
from oddkettle.core.weather.world_climate import at_place

FAR_CLEARNESS, FAR_K = 0.2, 8.0
"""About two standard deviations between a kind of place and the table of the world
(.09 and .05 of clearness, 3.5 and 2.5 K) [judgement]."""


def climate_unlike_place(evidence: Evidence) -> Iterator[Judgement]:
    """A kind of place was chosen that the trip's place is not, at this time of the year."""
    case = evidence.run.case
    if case.kind_of_place is None:
        return
    site, day = case.site, case.first_day + timedelta(days=case.days // 2)
    at = day, site.latitude, site.altitude_m
    chosen = typical_day(CLIMATES[case.kind_of_place], *at)
    table = typical_day(at_place(site.latitude, site.longitude).climate, *at)
    sunnier = chosen.clearness - table.clearness
    warmer = (chosen.low_c + chosen.high_c - table.low_c - table.high_c) / 2.0
    if abs(sunnier) <= FAR_CLEARNESS and abs(warmer) <= FAR_K:
        return
    said = []
    if abs(sunnier) > FAR_CLEARNESS:
        how = "sunnier" if sunnier > 0.0 else "duller"
        said.append(f"{abs(100.0 * sunnier):.0f} % of a clear day {how}")
    if abs(warmer) > FAR_K:
        how = "warmer" if warmer > 0.0 else "colder"
        said.append(f"{kelvin(abs(warmer), '.0f')} {how}")
    yield Judgement(
        code="climate-unlike-place",
        severity="note",
        part="trip",
        text=f"The climate that was chosen ({CLIMATES[case.kind_of_place].text}) is "
        f"{' and '.join(said)} than the table of the world has it here at this time of the year.",
        means="The odds are then those of another place.",
        remedy="Take the climate of this place, unless you know it better than the table.",
        source="reanalysis of light and satellite temperatures by month, fitted to measured years",
        numbers=(
            Number("sunnier", 100.0 * sunnier, "% of a clear day"),
            Number("warmer", warmer, "K"),
        ),
        fix=Fix("Take this place's own", (Change("trip", ("climate",), "place"),)),
    )


RULES = (climate_unlike_place,)
