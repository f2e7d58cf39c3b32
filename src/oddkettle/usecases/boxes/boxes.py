"""The home page's lists: boxes with their trips, what was deleted, a new trip, a copy."""

from __future__ import annotations

import json
import secrets
from contextlib import suppress
from datetime import UTC, date, datetime, timedelta
from typing import Literal

from pydantic import ConfigDict, Field

from oddkettle.core.trip.grid import zone_named
from oddkettle.plan import Plan
from oddkettle.plan.box import Box
from oddkettle.plan.making.document import Build
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.quantities import LazyModel, Name, Part
from oddkettle.plan.trip import Day
from oddkettle.store import boxes as store
from oddkettle.store import log as log_store
from oddkettle.store import plans as plan_store
from oddkettle.store.boxes import KeptBox
from oddkettle.usecases.field.log.entries import TICKED
from oddkettle.usecases.field.track.tracked_trip import now_of
from oddkettle.usecases.plans.plan_words import bank_words, charger_words, length_words
from oddkettle.usecases.plans.plans import (
    OpenPlan,
    create_plan,
    name_in,
    open_plan,
    save_plan,
)
from oddkettle.usecases.process.clock import now_utc, today

KEPT_DAYS = 30
"""A deleted trip can be brought back for so long."""

When = Literal["ahead", "under_way", "over"]


class TripCard(LazyModel):
    """One trip in the list of a box."""

    plan_id: int
    name: str
    place: str
    start: date
    end: date
    length: str
    when: When
    archived: bool
    box_behind: bool


class BoxCard(LazyModel):
    """One box with its trips, the newest first."""

    id: int
    key: str
    name: str
    line: str
    trips: list[TripCard]


class DeletedTrip(LazyModel):
    """A trip that can be brought back."""

    plan_id: int
    name: str
    deleted_at: str


class NewTrip(Part):
    """Another trip with a box: what is used comes from its newest trip, and so does the place."""

    # Built at once: it is the body of a call.
    model_config = ConfigDict(defer_build=False)

    name: Name
    start: date
    nights: int = Field(ge=1, le=60)


def box_cards() -> list[BoxCard]:
    """Every box that has a trip."""
    found = ((box, _readable(box)) for box in store.all_boxes())
    return [_card_of(box, opened) for box, opened in found if opened]


def _readable(box: KeptBox) -> list[OpenPlan]:
    """Its trips; one that cannot be read hides no other."""
    opened = []
    for plan_id in box.plan_ids:
        with suppress(PlanRefused):
            opened.append(open_plan(plan_id))
    return opened


def _card(box: KeptBox) -> BoxCard:
    return _card_of(box, [open_plan(plan_id) for plan_id in box.plan_ids])


def _card_of(box: KeptBox, opened: list[OpenPlan]) -> BoxCard:
    newest = max(opened, key=lambda plan: plan.saved_at).document
    charged = charger_words(newest)
    kept = {plan.id: plan_store.load(plan.id) for plan in opened}
    words = bank_words(newest)
    return BoxCard(
        id=box.id,
        key=box.key,
        name=box.name,
        line=words[0].upper() + words[1:] + (f", charged by {charged}" if charged else ""),
        trips=sorted(
            (_trip(plan, archived=kept[plan.id].archived_at is not None) for plan in opened),
            key=lambda trip: trip.start,
            reverse=True,
        ),
    )


def _trip(opened: OpenPlan, *, archived: bool) -> TripCard:
    plan = opened.document
    last = plan.trip.start + timedelta(days=len(plan.trip.days) - 1)
    return TripCard(
        plan_id=opened.id,
        name=plan.name,
        place=plan.trip.site.name,
        start=plan.trip.start,
        end=last,
        length=length_words(plan),
        when=when_of(opened),
        archived=archived,
        box_behind=opened.box_behind,
    )


def when_of(opened: OpenPlan) -> When:
    """Whether a trip is ahead, under way or over."""
    trip = opened.document.trip
    last = trip.start + timedelta(days=len(trip.days) - 1)
    # Ticks of checklists tell nothing of the trip.
    entries = [one for one in log_store.entries(opened.id) if one.kind != TICKED]
    at, why = now_of(opened.document, entries)
    # Whoever writes a log is under way, whatever this machine's clock says.
    here = today() if why == "start" else at.astimezone(zone_named(trip.site.timezone)).date()
    return "over" if last < here else "ahead" if trip.start > here else "under_way"


def deleted_trips() -> list[DeletedTrip]:
    """What was deleted in the last days, the newest first."""
    earliest = (datetime.now(UTC) - timedelta(days=KEPT_DAYS)).isoformat(timespec="seconds")
    return [
        DeletedTrip(
            plan_id=stored.plan_id,
            name=name_in(stored.document) or f"Plan number {stored.plan_id}",
            deleted_at=stored.deleted_at or "",
        )
        for stored in plan_store.deleted_plans()
        if (stored.deleted_at or "") >= earliest
    ]


def rename_box(box_id: int, name: str) -> BoxCard:
    """Call a box otherwise, in all its trips. Raises NoSuchBox."""
    store.load(box_id)
    store.rename(box_id, name)
    return _card(store.load(box_id))


def parts_of(box: KeptBox) -> tuple[Box, Build]:
    """A box as it is now: its parts of a plan."""
    newest = max((open_plan(plan_id) for plan_id in box.plan_ids), key=lambda plan: plan.revision)
    document = newest.document.model_dump(mode="json")
    state = plan_state(box.document)
    whole = Plan.model_validate({**document, **state, "box": {**state["box"], "name": box.name}})
    return whole.box, whole.build


def plan_state(document: str) -> dict[str, dict[str, object]]:
    """A stored state of a box as parts of a document."""
    found: dict[str, dict[str, object]] = json.loads(document)
    return {"box": found.get("box", {}), "build": found.get("build", {})}


def new_trip(box_id: int, asked: NewTrip) -> OpenPlan:
    """Another trip with the box as it is now. Raises NoSuchBox, PlanRefused."""
    box = store.load(box_id)
    latest = max((open_plan(n) for n in box.plan_ids), key=lambda plan: plan.document.trip.start)
    before = latest.document
    parts, build = parts_of(box)
    trip = before.trip.model_copy(
        update={
            "kind": "travel",
            "start": asked.start,
            "days": [Day()] * (asked.nights + 1),
            "blocks": [],
            "stops": [],
            "begins": "12:00",
            "ends": "12:00",
            "start_percent": 100.0,
        }
    )
    plan = Plan.model_validate(
        before.model_copy(
            update={"name": asked.name, "box": parts, "build": build, "trip": trip}
        ).model_dump(mode="json")
    )
    return create_plan(plan, f"new trip with {box.name}")


def copy_plan(plan_id: int, name: str, *, same_box: bool) -> OpenPlan:
    """A plan once more, of the same box or of one of its own. Raises NoSuchPlan."""
    plan = open_plan(plan_id).document
    box = plan.box
    if not same_box:
        fresh = {"key": secrets.token_hex(6), "name": f"{box.name}, a copy"[:80]}
        box = box.model_copy(update=fresh)
    return create_plan(plan.model_copy(update={"name": name, "box": box}), "copied")


def take_box(plan_id: int) -> OpenPlan:
    """Give a trip the box as it is now, as one edit. Raises NoSuchPlan."""
    opened = open_plan(plan_id)
    key = opened.document.box.key
    box = next(kept for kept in store.all_boxes() if kept.key == key)
    parts, build = parts_of(box)
    plan = opened.document.model_copy(update={"box": parts, "build": build})
    return save_plan(plan_id, opened.revision, plan, f"took {box.name} as it is now")


def put_away(plan_id: int, *, away: bool) -> None:
    """Put a trip into the archive, or take it out. Raises NoSuchPlan."""
    plan_store.put_away(plan_id, now_utc() if away else None)


def delete_plan(plan_id: int) -> None:
    """Delete a trip; it can be brought back. Raises NoSuchPlan."""
    plan_store.delete(plan_id, now_utc())


def bring_back(plan_id: int) -> OpenPlan:
    """Bring a deleted trip back. Raises NoSuchPlan."""
    plan_store.bring_back(plan_id)
    return open_plan(plan_id)
