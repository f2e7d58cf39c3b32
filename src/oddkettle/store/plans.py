"""Plans with every saved revision: append, step back, step forward; never overwrite."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from peewee import JOIN

from oddkettle.store.file.tables import BoxRow, BoxStateRow, PlanRow, RevisionRow, database
from oddkettle.store.steps import forget_undone


@dataclass(frozen=True)
class Stored:
    """A plan as it stands: its current revision and which steps are open."""

    plan_id: int
    key: str
    """Its own, in every data file."""
    revision: int
    document: str
    did: str
    saved_at: str
    can_undo: bool
    can_redo: bool
    box_key: str
    box_name: str
    box_behind: bool
    """The box has come into another state since, on another trip."""
    archived_at: str | None
    deleted_at: str | None


@dataclass(frozen=True)
class BoxPart:
    """What a plan says of its box: which one, what it is called, and its state as JSON."""

    key: str
    name: str
    document: str


@dataclass(frozen=True)
class RevisionNote:
    """One entry of a plan's history."""

    revision: int
    parent: int | None
    saved_at: str
    did: str
    current: bool
    name: str | None = None


class NoSuchPlan(LookupError):
    """There is no plan with this number."""


class StaleRevision(RuntimeError):
    """Somebody saved since the writer read: nothing was changed."""

    def __init__(self, given: int, current: Stored) -> None:
        super().__init__(f"revision {given} is not the current {current.revision}")
        self.given = given
        self.current = current


class NoStep(RuntimeError):
    """Nothing to undo or redo."""


def create(document: str, did: str, now: str, box: BoxPart) -> Stored:
    """A new plan with its first revision, of a box that is there already or a new one."""
    with database.atomic("IMMEDIATE"):
        plan = PlanRow.create(created_at=now)
        return _append(plan, None, document, did, now, box)


def save(
    plan_id: int, base_revision: int, document: str, did: str, now: str, box: BoxPart
) -> Stored:
    """Append a revision on top of `base_revision`. Raises StaleRevision, NoSuchPlan."""
    with database.atomic("IMMEDIATE"):
        plan = _plan(plan_id)
        if plan.head_id != base_revision:
            raise StaleRevision(base_revision, _stored(plan))
        if plan.head.document == document:
            return _stored(plan)
        forget_undone(plan_id)
        return _append(plan, plan.head_id, document, did, now, box)


def load(plan_id: int) -> Stored:
    """The current revision."""
    return _stored(_plan(plan_id))


def document_of(plan_id: int, revision: int) -> str:
    """The document of any saved revision. Raises NoSuchPlan."""
    row = RevisionRow.get_or_none(
        (RevisionRow.id == revision) & (RevisionRow.plan == _plan(plan_id))
    )
    if row is None:
        raise NoSuchPlan(f"Plan number {plan_id} has no revision {revision}.")
    return str(row.document)


def name_revision(plan_id: int, revision: int, name: str | None) -> None:
    """Give a saved revision a name, under which it stays; None takes it off. Raises NoSuchPlan."""
    changed = (
        RevisionRow.update(name=name)
        .where((RevisionRow.id == revision) & (RevisionRow.plan == _plan(plan_id)))
        .execute()
    )
    if not changed:
        raise NoSuchPlan(f"Plan number {plan_id} has no revision {revision}.")


def put_away(plan_id: int, now: str | None) -> None:
    """Put a plan into the archive; None takes it out again."""
    plan = _plan(plan_id)
    plan.archived_at = now
    plan.save()


def delete(plan_id: int, now: str) -> None:
    """Delete a plan, so that it can be brought back."""
    plan = _plan(plan_id)
    plan.deleted_at = now
    plan.save()


def bring_back(plan_id: int) -> None:
    """Bring a deleted plan back. Raises NoSuchPlan when it is not deleted."""
    changed = (
        PlanRow.update(deleted_at=None)
        .where((PlanRow.id == plan_id) & PlanRow.deleted_at.is_null(False))
        .execute()
    )
    if not changed:
        raise NoSuchPlan(f"There is no deleted plan number {plan_id}.")


def undo(plan_id: int) -> Stored:
    """Step back to the parent of the current revision."""
    with database.atomic("IMMEDIATE"):
        plan = _plan(plan_id)
        if plan.head.parent_id is None:
            raise NoStep("There is nothing to undo: this is the plan as it was first saved.")
        return _move(plan, plan.head.parent_id)


def redo(plan_id: int) -> Stored:
    """Step forward again, towards the last revision that was saved."""
    with database.atomic("IMMEDIATE"):
        plan = _plan(plan_id)
        step = plan.tip_id
        if step is None or step == plan.head_id:
            raise NoStep("There is nothing to redo: this is the newest revision.")
        # Numbers alone: the way back from the last revision may be a year of documents.
        rows = RevisionRow.select(RevisionRow.id, RevisionRow.parent)
        parents = {row.id: row.parent_id for row in rows.where(RevisionRow.plan == plan)}
        while parents[step] != plan.head_id:
            step = parents[step]
        return _move(plan, step)


def all_plans() -> list[Stored]:
    """Every plan as it stands, oldest first."""
    kept = _with_heads().where(PlanRow.deleted_at.is_null()).order_by(PlanRow.id)
    return [_stored(plan) for plan in kept]


def deleted_plans() -> list[Stored]:
    """Every deleted plan, the last deleted first."""
    gone = _with_heads().where(PlanRow.deleted_at.is_null(False))
    return [_stored(plan) for plan in gone.order_by(PlanRow.deleted_at.desc(), PlanRow.id)]


def history(plan_id: int) -> list[RevisionNote]:
    """Every revision of a plan, newest first."""
    plan = _plan(plan_id)
    rows = (
        RevisionRow.select(
            RevisionRow.id,
            RevisionRow.parent,
            RevisionRow.saved_at,
            RevisionRow.did,
            RevisionRow.name,
        )
        .where(RevisionRow.plan == plan)
        .order_by(RevisionRow.id.desc())
    )
    return [
        RevisionNote(row.id, row.parent_id, row.saved_at, row.did, row.id == plan.head_id, row.name)
        for row in rows
    ]


def _with_heads() -> Any:
    """Plans with their current revisions and their boxes, in one question."""
    rows = PlanRow.select(PlanRow, RevisionRow, BoxRow)
    rows = rows.join(RevisionRow, JOIN.LEFT_OUTER, on=PlanRow.head)
    return rows.switch(PlanRow).join(BoxRow, JOIN.LEFT_OUTER, on=PlanRow.box)


def _plan(plan_id: int) -> PlanRow:
    plan = PlanRow.get_or_none(PlanRow.id == plan_id)
    if plan is None:
        raise NoSuchPlan(f"There is no plan number {plan_id}.")
    if plan.deleted_at is not None:
        raise NoSuchPlan(f"Plan number {plan_id} was deleted. Bring it back on the home page.")
    return plan


def _append(
    plan: PlanRow, parent: int | None, document: str, did: str, now: str, part: BoxPart
) -> Stored:
    box = BoxRow.get_or_none(BoxRow.key == part.key)
    if box is None:
        box = BoxRow.create(key=part.key, name=part.name, created_at=now)
    before = None if plan.head_id is None else plan.head.box_state
    if before is None or before.box_id != box.id or before.document != part.document:
        before = _state(box, plan, part, now)
    row = RevisionRow.create(
        plan=plan, parent=parent, saved_at=now, did=did, document=document, box_state=before
    )
    plan.head = plan.tip = row
    plan.box = box
    plan.save()
    box.name, box.head = part.name, before
    box.save()
    return _stored(plan)


def _state(box: BoxRow, plan: PlanRow, part: BoxPart, now: str) -> BoxStateRow:
    """The state that a box is in: a new one, unless it stands so already."""
    if box.head_id is not None and box.head.document == part.document:
        return box.head
    return BoxStateRow.create(box=box, plan=plan, saved_at=now, document=part.document)


def _move(plan: PlanRow, revision: int) -> Stored:
    plan.head = revision
    plan.save()
    moved = _plan(plan.id)
    if moved.head.box_state_id is not None:
        BoxRow.update(head=moved.head.box_state_id).where(
            BoxRow.id == moved.head.box_state.box_id
        ).execute()
    return _stored(_plan(plan.id))


def _stored(plan: PlanRow) -> Stored:
    head = plan.head
    return Stored(
        plan_id=plan.id,
        key=plan.key,
        revision=head.id,
        document=head.document,
        did=head.did,
        saved_at=head.saved_at,
        can_undo=head.parent_id is not None,
        can_redo=plan.tip_id != head.id,
        box_key="" if plan.box is None else plan.box.key,
        box_name="" if plan.box is None else plan.box.name,
        box_behind=plan.box is not None and plan.box.head_id != head.box_state_id,
        archived_at=plan.archived_at,
        deleted_at=plan.deleted_at,
    )
