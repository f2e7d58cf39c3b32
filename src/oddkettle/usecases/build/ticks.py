"""Ticks on checklists: kept and dated in the log."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field, StringConstraints

from oddkettle.core.trip.grid import zone_named
from oddkettle.plan.quantities import LazyModel
from oddkettle.store import log as store
from oddkettle.usecases.field.log.entries import OWNER, TICKED, Detail, Writer
from oddkettle.usecases.field.log.log import detail_of
from oddkettle.usecases.plans.plans import open_plan
from oddkettle.usecases.process.clock import now_utc

AFRESH = "afresh"
"""Stands for a whole list that is begun anew."""


class NewTick(BaseModel):
    """A check that was done: its list and key, and its words as they were read."""

    checklist: Annotated[str, StringConstraints(pattern=r"^[a-z-]{1,40}$")]
    check: Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_.:-]{1,100}$")]
    text: Annotated[str, StringConstraints(strip_whitespace=True)] = Field(
        default="", max_length=400
    )
    measured: Annotated[str, StringConstraints(strip_whitespace=True)] = Field(
        default="", max_length=40
    )
    """What the meter showed, for the record of commissioning."""


class Tick(LazyModel):
    """A tick in force: which, and when."""

    entry: int
    checklist: str
    check: str
    at_local: str
    measured: str


class Ticks(LazyModel):
    """The ticks in force, and the last one of each check before its list was begun anew."""

    now: list[Tick]
    before: list[Tick]


def list_ticks(plan_id: int) -> Ticks:
    """What is ticked on each list since it was last begun."""
    plan = open_plan(plan_id).document
    zone = zone_named(plan.trip.site.timezone)
    current: dict[tuple[str, str], Tick] = {}
    before: dict[tuple[str, str], Tick] = {}
    for entry in sorted(store.entries(plan_id), key=lambda entry: entry.id):
        if entry.kind != TICKED:
            continue
        name, _, check = (detail_of(entry).check or "").partition("/")
        if check == AFRESH:
            for key in [key for key in current if key[0] == name]:
                before[key] = current.pop(key)
            continue
        at = datetime.fromisoformat(entry.at_utc).astimezone(zone)
        current[name, check] = Tick(
            entry=entry.id,
            checklist=name,
            check=check,
            at_local=at.isoformat(timespec="minutes"),
            measured=detail_of(entry).measured or "",
        )
    return Ticks(now=list(current.values()), before=list(before.values()))


def tick(plan_id: int, new: NewTick, writer: Writer = OWNER) -> Ticks:
    """Write a tick, or that a list is begun anew."""
    open_plan(plan_id)
    now = now_utc()
    detail = Detail(check=f"{new.checklist}/{new.check}", measured=new.measured or None)
    store.add(
        plan_id,
        now,
        TICKED,
        1.0,
        new.text[:200],
        now,
        writer.name,
        device=writer.device,
        detail=detail.model_dump_json(exclude_none=True),
        replaces=None,
    )
    return list_ticks(plan_id)


def untick(plan_id: int, entry_id: int) -> Ticks:
    """Take a tick back."""
    store.delete(plan_id, entry_id, now_utc())
    return list_ticks(plan_id)
