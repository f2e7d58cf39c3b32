"""My gear: appliances, panels and batteries with their own figures, for every plan."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import ConfigDict, Field

from oddkettle.formats.shelf_file import (
    MODELS,
    ShelfThing,
    read_shelf,
    shelf_csv,
    shelf_json,
)
from oddkettle.plan.box import BatteryModel
from oddkettle.plan.quantities import Euro, LazyModel, Name, Part
from oddkettle.plan.sources.sun import PanelModel
from oddkettle.plan.use import ApplianceModel
from oddkettle.store import shelf as store
from oddkettle.usecases.process.clock import now_utc

ThingKind = Literal["appliance", "panel", "battery"]


class OwnThing(LazyModel):
    """One thing of one's own; exactly one of its parts is there, by its kind."""

    id: int
    kind: ThingKind
    name: str
    euro: float | None
    note: str
    appliance: ApplianceModel | None = None
    panel: PanelModel | None = None
    battery: BatteryModel | None = None


class NewThing(Part):
    """A thing to keep; one of the same kind and name gives way to it."""

    # Built at once: it is the body of a call.
    model_config = ConfigDict(defer_build=False)

    name: Name
    euro: Euro | None = None
    note: str = Field(default="", max_length=200)
    appliance: ApplianceModel | None = None
    panel: PanelModel | None = None
    battery: BatteryModel | None = None


def own_things() -> list[OwnThing]:
    """Everything on one's own shelf."""
    return [_own(thing) for thing in store.all_things()]


def keep_thing(new: NewThing) -> OwnThing:
    """Keep one thing. Raises ValueError when it has no part."""
    for kind in MODELS:
        part = getattr(new, kind)
        if part is not None:
            text = part.model_dump_json(exclude_none=True)
            kept = store.put([(kind, new.name, new.euro, new.note, text)], now_utc())
            return _own(kept[0])
    raise store.NoSuchThing("There is nothing to keep: give an appliance, a panel or a battery.")


def forget_thing(thing_id: int) -> None:
    """Take one off the shelf. Raises NoSuchThing."""
    store.delete(thing_id, now_utc())


def shelf_file(shape: Literal["json", "csv"]) -> bytes:
    """The whole shelf as a file."""
    things = [_thing(kept) for kept in store.all_things()]
    return shelf_json(things) if shape == "json" else shelf_csv(things)


def bring_shelf(data: bytes) -> list[OwnThing]:
    """Keep every thing of a file, all or none. Raises PlanRefused."""
    rows = [
        (
            thing.kind,
            thing.name,
            thing.euro,
            thing.note,
            thing.part.model_dump_json(exclude_none=True),
        )
        for thing in read_shelf(data)
    ]
    store.put(rows, now_utc())
    return own_things()


def _thing(kept: store.KeptThing) -> ShelfThing:
    part = MODELS[kept.kind].model_validate_json(kept.document)
    return ShelfThing(kept.kind, kept.name, kept.euro, kept.note, part)


def _own(kept: store.KeptThing) -> OwnThing:
    part: dict[str, Any] = {kept.kind: MODELS[kept.kind].model_validate_json(kept.document)}
    return OwnThing(
        id=kept.id,
        kind=kept.kind,  # type: ignore[arg-type]
        name=kept.name,
        euro=kept.euro,
        note=kept.note,
        **part,
    )
