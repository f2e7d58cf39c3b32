"""Edits of a plan that changes are made of: a field, an id that is free, blocks on the board."""

from __future__ import annotations

from datetime import timedelta

from oddkettle.core.values.copying import copied
from oddkettle.plan import Plan
from oddkettle.plan.quantities import clock_minutes
from oddkettle.plan.sources.sun import PanelModel, SunModel
from oddkettle.plan.trip import BlockModel
from oddkettle.results.judgements import Edit

DRIVE_START_MIN, HOOKUP_START, HOOKUP_END = 600, "18:00", "08:00"


def edit(*path: str | int, to: object) -> Edit:
    """One value of the document, set."""
    return Edit(path=list(path), value=to)


def said_day(plan: Plan, day: int) -> str:
    """A day of the trip, like Thu 11."""
    when = plan.trip.start + timedelta(days=day)
    return f"{when:%a} {when.day}"


def fresh_id(stem: str, taken: list[str]) -> str:
    """An id that no sibling has."""
    return next(f"{stem}{n}" for n in range(1, len(taken) + 2) if f"{stem}{n}" not in taken)


def panel_like(array: SunModel, name: str, watts: float, taken: list[str]) -> PanelModel:
    """One more panel that lies as the last of an array does."""
    like = array.panels[-1]
    return copied(PanelModel, like, id=fresh_id("more", taken), name=name, power_w=watts)


def timed_block(plan: Plan, kind: str, day: int, minutes: int, earliest_min: int = 0) -> BlockModel:
    """A drive (or another kind) of some minutes on a day, after the ones that are there."""
    ends = [
        clock_minutes(block.end)
        for block in plan.trip.blocks
        if block.kind == kind and (block.end_day or block.day) == day
    ]
    start = min(max([DRIVE_START_MIN, earliest_min, *ends]), 1440 - minutes)
    return BlockModel(
        id=fresh_id("m", [block.id for block in plan.trip.blocks]),
        kind=kind,  # type: ignore[arg-type]
        day=day,
        start=_clock(start),
        end=_clock(start + minutes),
    )


def hookup_block(plan: Plan, night: int, n: int) -> BlockModel:
    """One night on mains, from the evening of a day."""
    last = len(plan.trip.days) - 1
    taken = [block.id for block in plan.trip.blocks]
    return BlockModel(
        id=fresh_id(f"n{n}-", taken),
        kind="hookup",
        day=night,
        start=HOOKUP_START,
        end_day=night + 1 if night < last else night,
        end=HOOKUP_END if night < last else "24:00",
    )


def more_blocks(plan: Plan, blocks: list[BlockModel]) -> Edit:
    """The edit that adds blocks to the trip."""
    every = [*plan.trip.blocks, *blocks]
    return edit("trip", "blocks", to=[block.model_dump(mode="json") for block in every])


def _clock(minute: int) -> str:
    return f"{minute // 60:02d}:{minute % 60:02d}"
