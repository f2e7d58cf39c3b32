"""A plan as it was carried out: its blocks, uses and skies with what the log says of them."""

from __future__ import annotations

import datetime as dt
from dataclasses import replace
from datetime import UTC, datetime

from oddkettle.core.estimation.readings import Reading
from oddkettle.core.loads.overrides import LoadOverride
from oddkettle.core.simulation.case import Case
from oddkettle.core.trip.blocks import BlockKind
from oddkettle.core.trip.grid import Block, zone_named
from oddkettle.core.units.conversion import MINUTES_PER_DAY
from oddkettle.core.weather.sky_words import SKY_WORDS
from oddkettle.core.weather.weather_generator import Prospect
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.store.log import Entry
from oddkettle.usecases.field.log.kinds import BY_KEY
from oddkettle.usecases.field.log.log import detail_of


def case_from_log(plan: Plan, entries: list[Entry], now: datetime) -> Case:
    """The plan's case with the log's actions and skies in place of what was planned.

    A drive or hook-up that is logged replaces those of its day, as far as the day has gone; one
    that will not be takes those out that are still ahead. What the log is silent about is taken to
    have gone as planned. Raises PlanError for a plan that
    cannot be.
    """
    case = case_from_plan(plan)
    zone = zone_named(plan.trip.site.timezone)

    def minute_of(at: datetime) -> int:
        """Local minutes since the first midnight, as blocks count them."""
        local = at.astimezone(zone)
        days = (local.date() - plan.trip.start).days
        return days * MINUTES_PER_DAY + local.hour * 60 + local.minute

    blocks = case.blocks
    cleared: set[tuple[BlockKind, int]] = set()
    overrides: list[LoadOverride] = []
    for entry in sorted(entries, key=lambda e: (e.at_utc, e.id)):
        detail, at = detail_of(entry), datetime.fromisoformat(entry.at_utc)
        told = BY_KEY.get(entry.kind)
        if told is None:
            continue
        kind = told.block
        if kind is not None:
            start = minute_of(at)
            end = start if detail.until is None else minute_of(detail.until)
            day = start // MINUTES_PER_DAY
            if told.cuts:
                blocks = without(blocks, kind, start, end)
            elif not told.adds and at > now:
                # Said of what is ahead: how the day went until now is told by other entries.
                midnight = day * MINUTES_PER_DAY
                begin = max(minute_of(now), midnight)
                blocks = without(blocks, kind, begin, midnight + MINUTES_PER_DAY)
            elif (kind, day) not in cleared:
                cleared.add((kind, day))
                midnight = day * MINUTES_PER_DAY
                over = midnight + MINUTES_PER_DAY
                if told.adds:
                    over = min(over, max(minute_of(now), midnight))
                blocks = without(blocks, kind, midnight, max(end, over))
            if end > start and told.adds:
                blocks = (*blocks, _block(kind, start, min(end, case.days * MINUTES_PER_DAY)))
        elif told.appliance and detail.until is not None:
            overrides.append(
                LoadOverride(
                    detail.appliance or "",
                    told.adds,
                    int(at.timestamp()),
                    int(detail.until.timestamp()),
                )
            )
    return _with_skies(
        replace(case, blocks=blocks, overrides=tuple(overrides)),
        {
            minute_of(datetime.fromisoformat(e.at_utc)) // MINUTES_PER_DAY: detail_of(e).sky
            for e in entries
            if e.kind == "sky"
        },
    )


def without(blocks: tuple[Block, ...], kind: BlockKind, start: int, end: int) -> tuple[Block, ...]:
    """The blocks with a stretch of minutes since the first midnight cut out of one kind."""
    kept: list[Block] = []
    for block in blocks:
        first = block.day * MINUTES_PER_DAY + block.start_min
        last = block.end_day * MINUTES_PER_DAY + block.end_min
        if block.kind != kind or last <= start or first >= end:
            kept.append(block)
            continue
        kept += [
            replace(_block(kind, a, b), idling=block.idling)
            for a, b in ((first, start), (end, last))
            if b > a
        ]
    return tuple(kept)


def _block(kind: BlockKind, start: int, end: int) -> Block:
    day, minute = divmod(start, MINUTES_PER_DAY)
    # A block that ends at midnight ends on the day that it belongs to, at 24:00.
    end_day = (end - 1) // MINUTES_PER_DAY
    return Block(kind, day, minute, end_day, end - end_day * MINUTES_PER_DAY)


def _with_skies(case: Case, seen: dict[int, str | None]) -> Case:
    """The days whose sky was written down are known nearly for sure."""
    skies = {d: SKY_WORDS[key] for d, key in seen.items() if key in SKY_WORDS and d < case.days}
    if not skies:
        return case

    def told(day: int, prospect: Prospect) -> Prospect:
        return replace(prospect, word=skies[day], ahead=0) if day in skies else prospect

    return replace(
        case,
        prospects=tuple(told(d, prospect) for d, prospect in enumerate(case.prospects)),
        clearness=tuple(skies[d].mean if d in skies else k for d, k in enumerate(case.clearness)),
    )


def readings_of(entries: list[Entry], first_midnight: datetime) -> tuple[Reading, ...]:
    """The log's readings for the tracker, by time.

    A counter reading counts from when the counters were set to zero, or, where that is not said,
    from the counter reading before; the first one then only marks where they stood.
    """
    found: list[Reading] = []
    last: dict[str, tuple[int, float]] = {}
    for entry in sorted(entries, key=lambda e: (e.at_utc, e.id)):
        at_s = int(datetime.fromisoformat(entry.at_utc).timestamp())
        detail = detail_of(entry)
        told = BY_KEY.get(entry.kind)
        if told is not None and told.reading is not None:
            value = entry.value / told.scale
            found.append(
                Reading(
                    str(entry.id),
                    at_s,
                    told.reading,
                    value,
                    rested_h=detail.rested_h,
                    amps=detail.amps,
                    settled=detail.settled,
                )
            )
        for part in told.counters if told is not None else ():
            stands: float | None = getattr(detail, part)
            if stands is None:
                continue
            ran, since_s = _ran(stands, detail.since, last.get(part))
            if ran is not None and since_s is not None:
                key = f"{entry.id} {part}"
                begin = max(since_s, int(first_midnight.timestamp()))
                found.append(Reading(key, at_s, part, ran, since_s=begin))
            last[part] = (at_s, stands)
    return tuple(found)


def _ran(
    stands: float, since: dt.datetime | None, before: tuple[int, float] | None
) -> tuple[float | None, int | None]:
    """What a counter ran on, and since which second; nothing where that cannot be told."""
    if since is not None and (before is None or since.timestamp() > before[0]):
        return stands, int(since.astimezone(UTC).timestamp())
    # A counter that stands lower than before was set to zero at a moment nobody wrote down.
    if before is None or stands < before[1]:
        return None, None
    return stands - before[1], before[0]
