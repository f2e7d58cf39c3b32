"""Is tonight safe? The one answer, which Today, the alarms and a broker ask.

Safe means: from now to the end of the coming night never under the reserve, in all but the worst
trip of ten, and no reading of the level that nothing explains yet.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Literal

import numpy as np

from oddkettle.core.estimation.readings import READING_KINDS, Reading, Taken
from oddkettle.core.simulation.ensemble_statistics import quantiles
from oddkettle.results.odds import Band
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip, first_midnight

MAX_UNDER = 0.1
"""The worst of ten may go under the reserve [judgement]."""
DAWN_MIN, SMALL_HOURS = 6 * 60, 4
"""A night ends at six; before four it is still the one that began the evening before."""
Answer = Literal["over", "safe", "tight", "under", "unsettled"]


@dataclass(frozen=True)
class Stretch:
    """What the level does from now to a step of the rest of a trip.

    share_under : of how many scenarios it goes under the reserve, 0..1
    falls_at : local time at which it does, in the middle one of those; None where none does
    rises_at : local time at which it is above again, likewise; None where it is not before the end
    share_now : of how many it is under it now, 0..1
    lowest : its lowest point in percent: in the worst of ten, the middle one, the best of ten
    """

    share_under: float
    falls_at: datetime | None
    rises_at: datetime | None
    share_now: float
    lowest: Band

    @property
    def stands_under(self) -> bool:
        """Whether it is under the reserve in most of them now."""
        return self.share_now > 0.5


@dataclass(frozen=True)
class Tonight:
    """The answer for the coming night, and what it rests on.

    `until` is when the night ends by the trip's clock; `unsettled` a reading that nothing explains
    yet, with what became of it.
    """

    answer: Answer
    until: datetime
    stretch: Stretch | None
    unsettled: tuple[Reading, Taken] | None

    @property
    def safe(self) -> bool:
        """Whether one may go to sleep on it."""
        return self.answer == "safe"


def tonight(here: TrackedTrip) -> Tonight:
    """Whether the coming night is safe, from where a trip's battery stands."""
    until = _end_of_night(here)
    begin, grid = here.tracked.until, here.rest.grid
    if begin >= grid.steps:
        return Tonight("over", until, None, None)
    since_min = (until - first_midnight(here.plan)).total_seconds() / 60
    end = min(max(round(since_min / grid.step_min), begin + 1), grid.steps)
    stretch = level_until(here, end)
    open_reading = unsettled(here)
    return Tonight(_answer(stretch, open_reading), until, stretch, open_reading)


def _answer(stretch: Stretch, open_reading: object | None) -> Answer:
    # With two explanations side by side only what holds of both is said for sure.
    most = 0.5 if open_reading is None else 1.0 - MAX_UNDER
    if stretch.share_now > most or stretch.share_under > most:
        return "under"
    if open_reading is not None:
        return "unsettled"
    return "tight" if stretch.share_under > MAX_UNDER else "safe"


def level_until(here: TrackedTrip, end: int) -> Stretch:
    """What the level does from now up to a step of the rest's grid, over its scenarios."""
    begin, rest = here.tracked.until, here.rest
    level = rest.level[:, begin : end + 1]
    under = rest.under[:, begin : end + 1]
    falls = under.any(axis=1)
    step = int(np.median(under.argmax(axis=1)[falls])) if falls.any() else None
    low, middle, high = quantiles(100.0 * np.maximum(np.nanmin(level, axis=1), 0.0))
    return Stretch(
        share_under=float(falls.mean()),
        falls_at=None if step is None else _moment(here, begin + step),
        rises_at=_rises_at(here, begin if step is None else begin + step),
        share_now=float(under[:, 0].mean()),
        lowest=Band(low=low, middle=middle, high=high),
    )


def _rises_at(here: TrackedTrip, falls: int) -> datetime | None:
    """When the level is above the reserve again, in most of the scenarios that are under it."""
    rest = here.rest
    under = rest.under[:, falls:]
    low = under[:, 0] if under[:, 0].any() else under.any(axis=1)
    if not low.any():
        return None
    above = ~under[low] & (np.cumsum(under[low], axis=1) > 0)
    back = above.any(axis=1)
    if back.mean() <= 0.5:
        return None
    return _moment(here, falls + int(np.median(above.argmax(axis=1)[back])))


def unsettled(here: TrackedTrip) -> tuple[Reading, Taken] | None:
    """The newest reading of the level that nothing explained, until something settles it."""
    by_key = {reading.key: reading for reading in here.readings}
    of_level = [taken for taken in here.tracked.taken if READING_KINDS[taken.kind].tells_level]
    if here.tracked.open_share == 0.0 or not of_level:
        return None
    last = next((taken for taken in reversed(of_level) if taken.open), None)
    if last is None or last.key not in by_key:
        return None
    return by_key[last.key], last


def _end_of_night(here: TrackedTrip) -> datetime:
    """The next dawn by the trip's clock, or the trip's end where that comes first."""
    midnight = first_midnight(here.plan)
    local = here.now.astimezone(midnight.tzinfo)
    days = here.day + (0 if local.hour < SMALL_HOURS else 1)
    dawn = midnight + timedelta(days=days)
    dawn = dawn.replace(hour=DAWN_MIN // 60, minute=DAWN_MIN % 60)
    return min(dawn, midnight + timedelta(days=here.case.days))


def _moment(here: TrackedTrip, step: int) -> datetime:
    """Local time of a step of the rest's grid."""
    grid = here.rest.grid
    start_s = int(grid.starts_utc[min(step, grid.steps - 1)].astype(np.int64))
    return datetime.fromtimestamp(start_s, UTC).astimezone(first_midnight(here.plan).tzinfo)
