"""Days, places and blocks of a trip, laid on a fixed UTC grid.

Local time and daylight saving exist only here: everything after the grid counts steps.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from functools import lru_cache
from typing import Any
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.trip.blocks import BLOCK_KINDS, BlockKind
from oddkettle.core.units.conversion import MINUTES_PER_DAY, SECONDS_PER_MINUTE

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Site:
    """A place: degrees north and east, metres above the sea, IANA time zone."""

    latitude: float
    longitude: float
    altitude_m: float
    timezone: str


@dataclass(frozen=True)
class Block:
    """A stretch of local time: `start_min` on day `day` to `end_min` on `end_day` (0-based).

    A drive that is `idling` runs the engine at a standstill.
    """

    kind: BlockKind
    day: int
    start_min: int
    end_day: int
    end_min: int
    idling: bool = False


@dataclass(frozen=True)
class Grid:
    """The fixed UTC grid.

    starts_utc : (steps,) datetime64[s], start of each step
    clock_min : (steps,) minutes on the local wall clock at the start of each step
    day_starts : (days + 1,) index of each local midnight, the last one past the end
    """

    zone: ZoneInfo
    first_day: date
    step_min: int
    starts_utc: NDArray[np.datetime64]
    clock_min: NDArray[np.int64]
    day_starts: NDArray[np.int64]

    @property
    def step_h(self) -> float:
        """Length of a step [h]."""
        return self.step_min / 60.0

    @property
    def steps(self) -> int:
        """How many steps there are."""
        return len(self.starts_utc)

    @property
    def days(self) -> int:
        """How many local days there are."""
        return len(self.day_starts) - 1

    def by_step(self, daily: NDArray[np.generic]) -> NDArray[Any]:
        """(steps,) of a (days,) array, by local days."""
        return np.repeat(daily, np.diff(self.day_starts))


def zone_named(name: str) -> ZoneInfo:
    """The time zone, or a fault that says what a name looks like."""
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise PlanError(
            f"There is no time zone called {name!r}.",
            where=("trip", "site", "timezone"),
            value=name,
            limit="a name from the IANA time zone list",
            remedy="Write it like Europe/London or UTC.",
        ) from None


def clock_text(minute: int) -> str:
    """Minutes after midnight as HH:MM."""
    return f"{minute // 60:02d}:{minute % 60:02d}"


def local_moment(day: date, minute: int, zone: ZoneInfo) -> datetime:
    """Aware local time `minute` minutes of wall clock into `day` (1440 is the next midnight)."""
    whole, rest = divmod(minute, MINUTES_PER_DAY)
    clock = time(rest // 60, rest % 60)
    return datetime.combine(day + timedelta(days=whole), clock, tzinfo=zone)


def lay_grid(first_day: date, days: int, zone: ZoneInfo, step_min: int) -> Grid:
    """Lay steps of `step_min` minutes from local midnight of `first_day` over `days` days."""
    midnights = [
        int(local_moment(first_day + timedelta(days=d), 0, zone).timestamp())
        for d in range(days + 1)
    ]
    step_s = step_min * SECONDS_PER_MINUTE
    seconds = np.arange(midnights[0], midnights[-1], step_s, dtype=np.int64)
    day_starts = np.searchsorted(seconds, midnights)
    clock = np.empty(len(seconds), np.int64)
    for d in range(days):
        part = slice(day_starts[d], day_starts[d + 1])
        clock[part] = _clock_minutes(seconds[part], zone)
    return Grid(
        zone=zone,
        first_day=first_day,
        step_min=step_min,
        starts_utc=seconds.astype("datetime64[s]"),
        clock_min=clock,
        day_starts=day_starts,
    )


def _clock_minutes(seconds: NDArray[np.int64], zone: ZoneInfo) -> NDArray[np.int64]:
    """Wall-clock minutes of UTC seconds that span one local day."""

    def offset(second: int) -> int:
        gap = datetime.fromtimestamp(second, zone).utcoffset()
        return int(gap.total_seconds()) if gap is not None else 0

    first, last = offset(int(seconds[0])), offset(int(seconds[-1]))
    if first == last:
        offsets = np.full(len(seconds), first)
    else:
        offsets = np.array([offset(int(s)) for s in seconds])
    return np.asarray((seconds + offsets) // SECONDS_PER_MINUTE % MINUTES_PER_DAY, np.int64)


@lru_cache(maxsize=4096)
def _moment_s(at_date: date, minute: int, zone: ZoneInfo) -> tuple[float, str | None]:
    """UTC second of a local time, and the clock time that it becomes where it does not exist."""
    moment = local_moment(at_date, minute, zone)
    there_and_back = moment.astimezone(UTC).astimezone(zone)
    same = there_and_back.replace(tzinfo=None) == moment.replace(tzinfo=None)
    return moment.timestamp(), None if same else f"{there_and_back:%H:%M}"


def step_at(grid: Grid, day: int, minute: int, where: tuple[str | int, ...]) -> float:
    """Fractional step of a local time; refuses one that the clocks skip."""
    at_date = grid.first_day + timedelta(days=day)
    second, becomes = _moment_s(at_date, minute, grid.zone)
    if becomes is not None:
        raise PlanError(
            f"{clock_text(minute)} does not exist on {at_date:%a} {at_date.day} {at_date:%b} "
            f"in {grid.zone.key}: the clocks go forward over it.",
            where=where,
            value=clock_text(minute),
            limit=f"before the change, or from {becomes}",
            remedy=f"Use {becomes}.",
        )
    first = grid.starts_utc[0].astype(np.int64)
    return float(second - first) / (grid.step_min * SECONDS_PER_MINUTE)


def block_span(grid: Grid, block: Block, index: int) -> tuple[float, float]:
    """Fractional first and last step of a block; refuses one that ends before it starts."""
    days = len(grid.day_starts) - 1
    where: tuple[str | int, ...] = ("trip", "blocks", index)
    if block.day >= days:
        raise PlanError(
            f"A {block.kind.replace('_', ' ')} lies on day {block.day + 1} "
            f"of a trip of {days} days.",
            where=(*where, "day"),
            value=block.day,
            limit=f"0 to {days - 1}",
            remedy="Move it to a day of the trip, or add days.",
        )
    start = step_at(grid, block.day, block.start_min, (*where, "start"))
    end = step_at(grid, block.end_day, block.end_min, (*where, "end"))
    if end <= start:
        raise PlanError(
            f"A {block.kind.replace('_', ' ')} from {clock_text(block.start_min)} "
            f"ends at {clock_text(block.end_min)}, before it starts.",
            where=(*where, "end"),
            value=clock_text(block.end_min),
            limit=f"later than {clock_text(block.start_min)}",
            remedy="Set a later end, or give the day on which it ends.",
        )
    return start, min(end, float(grid.steps))


def shares_of_steps(grid: Grid, blocks: tuple[Block, ...]) -> dict[BlockKind, Floats]:
    """For each kind of block, (steps,) share 0..1 of each step that lies in one."""
    shares: dict[BlockKind, Floats] = {kind: np.zeros(grid.steps) for kind in BLOCK_KINDS}
    for index, block in enumerate(blocks):
        start, end = block_span(grid, block, index)
        first, last = int(start), int(np.ceil(end))
        edges = np.arange(first, last)
        inside = np.minimum(edges + 1, end) - np.maximum(edges, start)
        shares[block.kind][first:last] += inside
    return {kind: np.minimum(share, 1.0) for kind, share in shares.items()}


def daily_share(start_min: int, end_min: int, step_min: int) -> Floats:
    """(steps a day,) share of each step inside a daily window, which may pass midnight.

    A window whose end equals its start lasts the whole day.
    """
    edges = np.arange(0, MINUTES_PER_DAY, step_min, dtype=np.float64)
    end = end_min if end_min > start_min else end_min + MINUTES_PER_DAY
    share = np.zeros(len(edges))
    for turn in (0, MINUTES_PER_DAY):
        inside = np.minimum(edges + turn + step_min, end) - np.maximum(edges + turn, start_min)
        share += np.clip(inside / step_min, 0.0, 1.0)
    return np.minimum(share, 1.0)
