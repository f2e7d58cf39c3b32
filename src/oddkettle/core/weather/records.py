"""A measured or typical year of a place, read into month means; and whether its clock is right."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.trip.grid import Site
from oddkettle.core.units.conversion import SECONDS_PER_DAY
from oddkettle.core.weather.clear_sky import clear_ghi_at
from oddkettle.core.weather.weather_generator import CEILING, LOWEST

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

MONTHS = 12
SECONDS_PER_DEGREE = 240
LIGHT_W_M2 = 5.0
"""Below this much clear-sky light an hour says nothing about the day."""
FEWEST_DAYS = 15
"""A month needs so many whole days for its means [judgement]."""
DARK_DAY_WH_M2 = 60.0
"""A day whose clear sky gives less than this has no clearness: polar night."""
CLEAREST_SHARE = 0.1
LATE_MIN = 10.0
"""How far the clearest days may lie from solar noon before it is said [minutes]."""
MIN_SETTLED, MAX_SETTLED = 1.5, 6.0
INSIDE_HOUR = (-20, 0, 20)
"""Minutes about an hour's middle at which its clear sky is taken."""


@dataclass(frozen=True)
class Record:
    """A weather record. Arrays are (n,), NaN where nothing was measured.

    middle_s : UTC seconds at the middle of each interval
    month : 1 to 12, by the place's own calendar
    ghi : horizontal light, the interval's mean [W/m2]; air_c : air temperature [C]
    """

    source: str
    site: Site
    middle_s: Ints
    month: Ints
    ghi: Floats
    air_c: Floats


@dataclass(frozen=True)
class RecordClimate:
    """What a record says. Means by month, January to December.

    late_min : by how much the clearest days' light comes after the sun's [minutes], None where
        no day is clear
    """

    clearness: tuple[float, ...]
    low_c: tuple[float, ...]
    high_c: tuple[float, ...]
    settled: float
    days: int
    skipped: int
    missing: int
    late_min: float | None


@dataclass(frozen=True)
class _Days:
    """A record by solar days. day : (n,) each interval's; the rest (days,)."""

    clear: Floats
    day: Ints
    month: Ints
    whole: NDArray[np.bool_]
    sunny: NDArray[np.bool_]
    k: Floats
    clear_wh: Floats
    missing: int


def _by_day(record: Record) -> _Days:
    clear = np.mean(
        [clear_ghi_at(record.site, record.middle_s + 60 * off) for off in INSIDE_HOUR], axis=0
    )
    solar_s = record.middle_s + round(record.site.longitude * SECONDS_PER_DEGREE)
    _, day = np.unique(solar_s // SECONDS_PER_DAY, return_inverse=True)
    count = int(day.max()) + 1
    lit = clear > LIGHT_W_M2
    lost = ~np.isfinite(record.ghi) & lit | ~np.isfinite(record.air_c)
    hours = np.bincount(day, minlength=count)
    full = int(np.bincount(hours).argmax())
    whole = (np.bincount(day, weights=lost, minlength=count) == 0.0) & (hours >= full)
    light = np.bincount(day, weights=np.nan_to_num(record.ghi) * lit, minlength=count)
    could = np.bincount(day, weights=clear * lit, minlength=count)
    month = np.zeros(count, np.int64)
    month[day] = record.month
    clear_wh = could * 24.0 / full
    sunny = whole & (clear_wh > DARK_DAY_WH_M2)
    k = np.divide(light, could, out=np.full(count, np.nan), where=sunny)
    return _Days(clear, day, month, whole, sunny, k, clear_wh, int(lost.sum()))


def daily_clearness(record: Record) -> tuple[Ints, Floats, Floats]:
    """(day of the year from 0, clearness, clear-sky Wh/m2) of a record's whole sunny days."""
    days = _by_day(record)
    first = np.array([np.flatnonzero(days.day == d)[0] for d in np.flatnonzero(days.sunny)])
    moments = record.middle_s[first].astype("datetime64[s]")
    of_year = (moments.astype("datetime64[D]") - moments.astype("datetime64[Y]")).astype(np.int64)
    order = np.argsort(of_year)
    return (
        np.asarray(of_year[order], np.int64),
        np.asarray(days.k[days.sunny][order]),
        np.asarray(days.clear_wh[days.sunny][order]),
    )


def read_climate(record: Record) -> RecordClimate:
    """Month means of a record. Raises PlanError where too little of a month was measured."""
    days = _by_day(record)
    low, high = _daily_extremes(record.air_c, days.day, len(days.whole))
    means = [_month(m, days, low, high) for m in range(1, MONTHS + 1)]
    clearness = _filled([mean[0] for mean in means])
    return RecordClimate(
        clearness=clearness,
        low_c=tuple(mean[1] for mean in means),
        high_c=tuple(mean[2] for mean in means),
        settled=_settled(days.k[days.sunny], np.asarray(clearness)[days.month[days.sunny] - 1]),
        days=int(days.whole.sum()),
        skipped=int(len(days.whole) - days.whole.sum()),
        missing=days.missing,
        late_min=_late_min(record, days),
    )


def _daily_extremes(air_c: Floats, day: Ints, count: int) -> tuple[Floats, Floats]:
    low, high = np.full(count, np.inf), np.full(count, -np.inf)
    known = np.isfinite(air_c)
    np.minimum.at(low, day[known], air_c[known])
    np.maximum.at(high, day[known], air_c[known])
    return low, high


def _month(m: int, days: _Days, low: Floats, high: Floats) -> tuple[float, float, float]:
    here = days.whole & (days.month == m)
    if here.sum() < FEWEST_DAYS:
        raise PlanError(
            f"Only {int(here.sum())} whole days of month {m} are in this weather file.",
            where=("weather",),
            value=int(here.sum()),
            limit=f"at least {FEWEST_DAYS} days of every month",
            remedy="Take a file of a whole year, or one with fewer gaps.",
        )
    seen = days.k[here & days.sunny]
    clear = float(seen.mean()) if len(seen) else np.nan
    return clear, float(low[here].mean()), float(high[here].mean())


def _filled(values: list[float]) -> tuple[float, ...]:
    """Months of polar night take the mean of those with light: no light hangs on it."""
    known = [v for v in values if np.isfinite(v)]
    mean = sum(known) / len(known)
    return tuple(v if np.isfinite(v) else mean for v in values)


def _settled(k: Floats, mean: Floats) -> float:
    """The weight of the beta distribution that has the record's own day-to-day variance."""
    part = np.clip((mean - LOWEST) / (CEILING - LOWEST), 0.03, 0.97)
    seen = (k - LOWEST) / (CEILING - LOWEST)
    variance = float(np.mean((seen - part) ** 2))
    weight = float(np.mean(part * (1.0 - part))) / max(variance, 1e-6) - 1.0
    return float(np.clip(weight, MIN_SETTLED, MAX_SETTLED))


def _late_min(record: Record, days: _Days) -> float | None:
    """How long after the sun's own the light's centre of gravity comes on the clearest days."""
    k = days.k
    if not np.isfinite(k).any():
        return None
    clearest = k >= np.nanquantile(k, 1.0 - CLEAREST_SHARE)
    offs = []
    for d in np.flatnonzero(clearest):
        here = days.day == d
        at = record.middle_s[here].astype(np.float64)
        at -= at[0]
        ghi, sky = np.nan_to_num(record.ghi[here]), days.clear[here]
        offs.append(float(at @ ghi / ghi.sum() - at @ sky / sky.sum()) / 60.0)
    return float(np.median(offs))
