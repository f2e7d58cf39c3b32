"""Plans with every saved revision: append, step back, step forward; never overwrite."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.store.tables import PlanRow, RevisionRow, database


@dataclass(frozen=True)
class Stored:
    """A plan as it stands: its current revision and which steps are open."""

    plan_id: int
    revision: int
    document: str
    did: str
    saved_at: str
    can_undo: bool
    can_redo: bool


@dataclass(frozen=True)
class RevisionNote:
    """One entry of a plan's history."""

    revision: int
    parent: int | None
    saved_at: str
    did: str
    current: bool


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


def create(document: str, did: str, now: str) -> Stored:
    """A new plan with its first revision."""
    with database.atomic("IMMEDIATE"):
        plan = PlanRow.create(created_at=now)
        return _append(plan, None, document, did, now)


def save(plan_id: int, base_revision: int, document: str, did: str, now: str) -> Stored:
    """Append a revision on top of `base_revision`. Raises StaleRevision, NoSuchPlan."""
    with database.atomic("IMMEDIATE"):
        plan = _plan(plan_id)
        if plan.head_id != base_revision:
            raise StaleRevision(base_revision, _stored(plan))
        if plan.head.document == document:
            return _stored(plan)
        return _append(plan, plan.head_id, document, did, now)


def load(plan_id: int) -> Stored:
    """The current revision."""
    return _stored(_plan(plan_id))


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
        step = plan.tip
        if step is None or step.id == plan.head_id:
            raise NoStep("There is nothing to redo: this is the newest revision.")
        while step.parent_id != plan.head_id:
            step = step.parent
        return _move(plan, step.id)


def all_plans() -> list[Stored]:
    """Every plan as it stands, oldest first."""
    return [_stored(plan) for plan in PlanRow.select().order_by(PlanRow.id)]


def history(plan_id: int) -> list[RevisionNote]:
    """Every revision of a plan, newest first."""
    plan = _plan(plan_id)
    rows = (
        RevisionRow.select(
            RevisionRow.id, RevisionRow.parent, RevisionRow.saved_at, RevisionRow.did
        )
        .where(RevisionRow.plan == plan)
        .order_by(RevisionRow.id.desc())
    )
    return [
        RevisionNote(row.id, row.parent_id, row.saved_at, row.did, row.id == plan.head_id)
        for row in rows
    ]


def _plan(plan_id: int) -> PlanRow:
    plan = PlanRow.get_or_none(PlanRow.id == plan_id)
    if plan is None:
        raise NoSuchPlan(f"There is no plan number {plan_id}.")
    return plan


def _append(plan: PlanRow, parent: int | None, document: str, did: str, now: str) -> Stored:
    row = RevisionRow.create(plan=plan, parent=parent, saved_at=now, did=did, document=document)
    plan.head = plan.tip = row
    plan.save()
    return _stored(plan)


def _move(plan: PlanRow, revision: int) -> Stored:
    plan.head = revision
    plan.save()
    return _stored(_plan(plan.id))


def _stored(plan: PlanRow) -> Stored:
    head = plan.head
    return Stored(
        plan_id=plan.id,
        revision=head.id,
        document=head.document,
        did=head.did,
        saved_at=head.saved_at,
        can_undo=head.parent_id is not None,
        can_redo=plan.tip_id != head.id,
    )
