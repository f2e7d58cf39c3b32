"""Boxes with every state that they were in; trips are the plans that use them."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.core.values.copying import copied
from oddkettle.store.file.tables import BoxRow, BoxStateRow, PlanRow


@dataclass(frozen=True)
class KeptBox:
    """A box as it stands: its parts of a plan's document, as JSON, and the plans that use it."""

    id: int
    key: str
    name: str
    created_at: str
    document: str
    plan_ids: tuple[int, ...]


class NoSuchBox(LookupError):
    """There is no box with this number."""


def all_boxes() -> list[KeptBox]:
    """Every box that a plan uses which is not deleted, the oldest first."""
    return [box for row in BoxRow.select().order_by(BoxRow.id) if (box := _kept(row)).plan_ids]


def load(box_id: int) -> KeptBox:
    """One box. Raises NoSuchBox, also where every trip with it was deleted."""
    row = BoxRow.get_or_none(BoxRow.id == box_id)
    if row is None or row.head_id is None:
        raise NoSuchBox(f"There is no box number {box_id}.")
    box = _kept(row)
    if not box.plan_ids:
        raise NoSuchBox(f"Every trip with {box.name} was deleted; bring one back to see the box.")
    return box


def rename(box_id: int, name: str) -> None:
    """Call a box otherwise. Raises NoSuchBox."""
    if not BoxRow.update(name=name).where(BoxRow.id == box_id).execute():
        raise NoSuchBox(f"There is no box number {box_id}.")


def states(box_id: int) -> list[tuple[str, str]]:
    """(time saved, JSON) of every state of a box, the oldest first."""
    rows = BoxStateRow.select().where(BoxStateRow.box == box_id).order_by(BoxStateRow.id)
    return [(row.saved_at, row.document) for row in rows]


def _kept(row: BoxRow) -> KeptBox:
    plans = (
        PlanRow.select(PlanRow.id)
        .where((PlanRow.box == row) & PlanRow.deleted_at.is_null())
        .order_by(PlanRow.id)
    )
    return copied(
        KeptBox,
        row,
        document="{}" if row.head_id is None else row.head.document,
        plan_ids=tuple(plan.id for plan in plans),
    )
