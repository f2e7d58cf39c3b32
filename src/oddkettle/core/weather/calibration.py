"""How often real weather falls inside the band that the scenarios promise."""

from __future__ import annotations

from datetime import date

import numpy as np

from oddkettle.core.weather.climate import Climate, typical_day
from oddkettle.core.weather.records import Record, daily_clearness, read_climate
from oddkettle.core.weather.weather_generator import Doubt, Prospect, draw_skies

FILE_DOUBT = 0.05


def coverage(
    record: Record, lengths: tuple[int, ...], count: int, first_day: date
) -> dict[int, float]:
    """Share of a record's stretches of so many days inside the middle 80 % of the scenarios.

    Each stretch is the mean clearness of its days, weighted by what the clear sky gives. Scenarios
    are drawn for a whole year under the record's own month means, in runs of 28 days so that
    what is not known of the place is drawn as for a trip.
    """
    means = read_climate(record)
    climate = Climate(
        key="record",
        text=record.source,
        clearness=means.clearness,
        low_c=means.low_c,
        high_c=means.high_c,
        settled=means.settled,
        height_m=record.site.altitude_m,
        seasons=False,
    )
    day_of_year, k, clear_wh = daily_clearness(record)
    inside = {length: [] for length in lengths}  # type: dict[int, list[bool]]
    block = 28
    for start in range(0, 364 - block + 1, block):
        here = np.flatnonzero((day_of_year >= start) & (day_of_year < start + block))
        if len(here) < block:
            continue
        first = date.fromordinal(first_day.toordinal() + start)
        prospects = tuple(
            Prospect(t.clearness, t.low_c, t.high_c)
            for t in (
                typical_day(
                    climate,
                    date.fromordinal(first.toordinal() + d),
                    record.site.latitude,
                    record.site.altitude_m,
                )
                for d in range(block)
            )
        )
        doubt = Doubt(settled=means.settled, place=FILE_DOUBT, seed=start + 1)
        skies = draw_skies(first, record.site.latitude, prospects, doubt, count)
        weight, real = clear_wh[here[:block]], k[here[:block]]
        for length in lengths:
            for at in range(block - length + 1):
                part = slice(at, at + length)
                share = weight[part] / max(float(weight[part].sum()), 1e-9)
                drawn = skies.clearness[:, part] @ share
                low, high = np.quantile(drawn, (0.1, 0.9))
                inside[length].append(bool(low <= float(real[part] @ share) <= high))
    return {length: float(np.mean(seen)) for length, seen in inside.items()}
