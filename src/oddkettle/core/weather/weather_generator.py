"""Many possible skies and temperatures for the days of a trip.

A day's clearness is drawn from a beta distribution between a floor and a ceiling about the
place's monthly mean; days hang together by a normal chain; every scenario has a ceiling, a spread
and a place mean of its own, so that what is not known of the place stays unknown over the whole
trip. Fitted on 21 measured weather series from 14 places and checked on years and places left
out: of real 1, 3, 7 and 14 day yields about four in five fall inside the middle 80 % of the
scenarios [fitted]. Take away the chain and the 14-day share falls from .78 to .57.

Every random number has its own stream, named by what it is for and by the day. So the same seed
gives the same skies to every variant of a box, more scenarios leave the first ones as they were,
and another day at the end changes none before it.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, timedelta
from zlib import crc32

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.values.cache import cached_on_disk
from oddkettle.core.weather.sky_words import SkyWord

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

LOWEST, CEILING = 0.08, 1.10
CEILING_SD, MIN_CEILING, MAX_CEILING = 0.06, 0.95, 1.30
SETTLED_SD = 0.35
"""Spread of `settled` between scenarios, as a factor."""
PERSISTENCE = 0.35
"""From one day's place in its distribution to the next one's."""
MIN_MEAN, MAX_MEAN, CEILING_ABOVE_MEAN = 0.15, 1.05, 0.05
MIN_PART, MAX_PART = 0.03, 0.97
LONG_DAYS, SITE_SHARE, MONTH_SHARE = 60, 0.6, 0.8
"""Beyond 60 days part of what is not known of the place changes by the month."""
MIN_CLEARNESS = 0.03
SHAPES = 512
"""How many day shapes there are to draw from."""

WARMTH_PERSISTENCE = 0.72
WARMTH_SD, WARMTH_SD_PER_C = 4.2, -0.085
MIN_WARMTH_SD, MAX_WARMTH_SD = 1.5, 5.0
GIVEN_WARMTH_SD = 1.5
"""A day whose temperature is given misses it by this [K, judgement]."""
SUMMER_TIE, WINTER_TIE, TROPIC_DEG = 0.35, -0.25, 23.44
"""How warmth goes with a clear sky: warm summer days are clear, warm winter days are not."""
RANGE_PER_CLEARNESS, RANGE_NOISE, MIN_RANGE, MAX_RANGE = 0.76, 0.25, 0.25, 1.9
MIDSUMMER_DOY, DAYS_A_YEAR = 172, 365.25

SEEN_HOLDS = 0.97
"""And one that was written down once it had been seen (`ahead` 0)."""
HOLDS = ((0, SEEN_HOLDS), (2, 0.85), (3, 0.75), (5, 0.65), (7, 0.5), (10, 0.35))
HOLDS_BEYOND = 0.25
"""Chance that a word said of a day so many days ahead holds [judgement; past a week there is
little skill in any forecast]."""
FEWEST, MAX = 1, 2000


@dataclass(frozen=True)
class Prospect:
    """What is known of a day beforehand.

    `usual` is the climate's mean clearness; `word` what was said of the sky, `ahead` days before
    it came (1 is the day itself); `low_c` and `high_c` the expected temperatures [C], `given`
    when somebody said so for this very day.
    """

    usual: float
    low_c: float
    high_c: float
    word: SkyWord | None = None
    ahead: int = 1
    given: bool = False


UNTOLD_CONTENT = (0.92, 0.07)
"""What a battery of untold age holds of its label, and how sure that is [judgement]."""
WORN_SHARE, WORN = 0.08, (0.45, 0.85)
"""One in twelve of which nobody knows the age is worn out, and holds between these of its label
[judgement]: few enough to change no odds, enough to be found where readings tell."""


@dataclass(frozen=True)
class Doubt:
    """How unsure the numbers are on which nobody has a grip.

    `settled` is how settled the weather is (5 settled, 3 normal, 1.7 changeable); `place` the
    spread of the place's true mean about the climate's (.05 from a weather file of the place or
    the table of the world, .09 from a preset); `warmth_k` how far the place may be warmer or
    colder than its climate, the whole trip long [K]. `start` in points of charge 0..1; `capacity`
    and `panel` as shares, the battery's content about `capacity_mean` of its label,
    `capacity_told` where its owner said how old it is, `worn` where it may also be worn out
    [all judgement]. `seed` names the skies: the same seed, the same skies.
    """

    settled: float = 3.0
    place: float = 0.09
    start: float = 0.03
    capacity: float = UNTOLD_CONTENT[1]
    capacity_mean: float = UNTOLD_CONTENT[0]
    capacity_told: bool = False
    worn: bool = False
    warmth_k: float = 0.0
    panel: float = 0.05
    seed: int = 1


@dataclass(frozen=True)
class Skies:
    """`n` scenarios of a trip's weather.

    clearness, low_c, high_c : (n, days) daily clearness and air temperatures [C]
    shape : (n, days) which of the day shapes the light follows
    """

    clearness: Floats
    low_c: Floats
    high_c: Floats
    shape: Ints


def normals(seed: int, what: str, count: int, day: int = 0) -> Floats:
    """(count,) standard normal numbers of a named stream; the first ones never change."""
    return np.random.default_rng([seed, crc32(what.encode()), day]).standard_normal(count)


def uniforms(seed: int, what: str, count: int, day: int = 0) -> Floats:
    """(count,) uniform numbers of a named stream."""
    return np.random.default_rng([seed, crc32(what.encode()), day]).random(count)


def check_count(count: int) -> None:
    """Refuse too few scenarios for odds, or more than memory and patience hold."""
    if not FEWEST <= count <= MAX:
        raise PlanError(
            f"{count:,} scenarios were asked for.",
            where=("scenarios",),
            value=count,
            limit=f"{FEWEST} to {MAX:,}",
            remedy="200 give odds good to about 3 in 100; more than 1,000 add little.",
        )


def holds(ahead: int) -> float:
    """Chance that what is said of the sky `ahead` days before (1 is the same day) comes true."""
    return next((chance for days, chance in HOLDS if ahead <= days), HOLDS_BEYOND)


def beta_quantile(u: Floats, mean: Floats, settled: Floats) -> Floats:
    """Quantile `u` of the beta distribution with this mean (0..1) and this much weight."""
    # SciPy takes a while to import: only where it is used.
    from scipy.special import betaincinv

    return np.asarray(betaincinv(mean * settled, (1.0 - mean) * settled, u))


def _beta_share(x: Floats, mean: Floats, settled: Floats) -> Floats:
    from scipy.special import betainc

    return np.asarray(betainc(mean * settled, (1.0 - mean) * settled, np.clip(x, 0.0, 1.0)))


@dataclass(frozen=True)
class Chain:
    """What each of `n` scenarios carries from day to day; all (n,).

    ceiling, settled, site, warm_site : what stays; z, warmth : where the
    last day stood in its distribution
    """

    ceiling: Floats
    settled: Floats
    site: Floats
    warm_site: Floats
    z: Floats
    warmth: Floats

    def of(self, which: Ints) -> Chain:
        """The chain of these scenarios, in this order."""
        return Chain(*(getattr(self, part)[which] for part in vars(self)))


@dataclass(frozen=True)
class SkyDay:
    """One day in `n` scenarios; all (n,)."""

    clearness: Floats
    low_c: Floats
    high_c: Floats
    shape: Ints


@dataclass(frozen=True)
class SkyTrip:
    """The days whose weather is drawn: when, where, what is known of each, and how unsure."""

    first_day: date
    latitude: float
    prospects: tuple[Prospect, ...]
    doubt: Doubt


def begin_chain(doubt: Doubt, count: int) -> Chain:
    """What `count` scenarios carry into their first day. Raises PlanError for a bad count."""
    check_count(count)
    seed = doubt.seed
    top = CEILING * (1.0 + CEILING_SD * normals(seed, "ceiling", count))
    return Chain(
        ceiling=np.clip(top, MIN_CEILING, MAX_CEILING),
        settled=doubt.settled * np.exp(SETTLED_SD * normals(seed, "settled", count)),
        site=normals(seed, "place", count),
        warm_site=normals(seed, "warmth of the place", count),
        z=normals(seed, "before", count),
        warmth=normals(seed, "warmth before", count),
    )


def draw_day(trip: SkyTrip, chain: Chain, d: int, again: str = "") -> tuple[SkyDay, Chain]:
    """Draw day `d` of the trip after the day before it; `again` names other luck for the day."""
    from scipy.special import ndtr, ndtri

    doubt, prospect, count = trip.doubt, trip.prospects[d], len(chain.z)
    seed, ceiling, settled = doubt.seed, chain.ceiling, chain.settled
    root, warm_root = (1 - PERSISTENCE**2) ** 0.5, (1 - WARMTH_PERSISTENCE**2) ** 0.5
    today = trip.first_day + timedelta(days=d)
    off = chain.site
    if len(trip.prospects) > LONG_DAYS:
        month = 12 * today.year + today.month
        off = SITE_SHARE * off + MONTH_SHARE * normals(seed, "month", count, month)
    mean = np.clip(prospect.usual + doubt.place * off, MIN_MEAN, MAX_MEAN)
    top = np.maximum(ceiling, mean + CEILING_ABOVE_MEAN)
    part = np.clip((mean - LOWEST) / (top - LOWEST), MIN_PART, MAX_PART)
    fresh = normals(seed, f"sky{again}", count, d)
    z = PERSISTENCE * chain.z + root * fresh
    k = LOWEST + (top - LOWEST) * beta_quantile(ndtr(z), part, settled)
    if prospect.word is not None:
        word = prospect.word
        said = word.mean + word.sd * normals(seed, f"word{again}", count, d)
        said = np.clip(said, MIN_CLEARNESS, top)
        true = uniforms(seed, f"holds{again}", count, d) < holds(prospect.ahead)
        k = np.where(true, said, k)
        # The chain goes on from the day that came, whoever foresaw it.
        u = _beta_share((k - LOWEST) / (top - LOWEST), part, settled)
        z = np.where(true, ndtri(np.clip(u, 0.002, 0.998)), z)
    shape = (uniforms(seed, f"shape{again}", count, d) * SHAPES).astype(np.int64)
    tie = _warmth_tie(trip.latitude, today)
    own = tie * fresh + (1 - tie**2) ** 0.5 * normals(seed, f"warmth{again}", count, d)
    warmth = WARMTH_PERSISTENCE * chain.warmth + warm_root * own
    mid = 0.5 * (prospect.low_c + prospect.high_c)
    sd = (
        GIVEN_WARMTH_SD
        if prospect.given
        else min(max(WARMTH_SD + WARMTH_SD_PER_C * mid, MIN_WARMTH_SD), MAX_WARMTH_SD)
    )
    # A clear day has warmer noons and colder nights than a dull one.
    swings = 1.0 + RANGE_PER_CLEARNESS * (k - mean)
    swings += RANGE_NOISE * normals(seed, f"range{again}", count, d)
    half = 0.5 * (prospect.high_c - prospect.low_c) * np.clip(swings, MIN_RANGE, MAX_RANGE)
    # A forecast knows how warm the place is; a climate's table may be off all trip long.
    middle = mid + sd * warmth
    if not prospect.given:
        middle = middle + doubt.warmth_k * chain.warm_site
    drawn = SkyDay(k, middle - half, middle + half, shape)
    return drawn, replace(chain, z=z, warmth=warmth)


@cached_on_disk(Skies)
def draw_skies(
    first_day: date, latitude: float, prospects: tuple[Prospect, ...], doubt: Doubt, count: int
) -> Skies:
    """`count` scenarios of the days from `first_day` on, kept. Raises PlanError for a bad count."""
    trip = SkyTrip(first_day, latitude, prospects, doubt)
    chain = begin_chain(doubt, count)
    drawn: list[SkyDay] = []
    for d in range(len(prospects)):
        day, chain = draw_day(trip, chain, d)
        drawn.append(day)

    def laid(part: str) -> Floats:
        return np.ascontiguousarray(np.stack([getattr(day, part) for day in drawn], axis=1))

    return Skies(laid("clearness"), laid("low_c"), laid("high_c"), np.asarray(laid("shape"), int))


def _warmth_tie(latitude: float, day: date) -> float:
    """Correlation of warmth with clearness: by season, nil in the tropics."""
    if abs(latitude) < TROPIC_DEG:
        return 0.0
    turn = 2.0 * np.pi * (day.timetuple().tm_yday - MIDSUMMER_DOY) / DAYS_A_YEAR
    summer = float(np.cos(turn)) * (1.0 if latitude > 0.0 else -1.0)
    middle, half = 0.5 * (SUMMER_TIE + WINTER_TIE), 0.5 * (SUMMER_TIE - WINTER_TIE)
    return middle + half * summer
