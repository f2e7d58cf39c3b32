"""What was done in a plan's log, step by step, so that undo takes it back in its turn.

Edits of the plan are steps of their own (its revisions). A step of the log remembers which revision
was current: while that one is, the step is the newer of the two.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from oddkettle.store.file.tables import LogRow, LogStepRow, PlanRow, database


@dataclass(frozen=True)
class Step:
    """One step of the log: what it is called, what it put in and what it took out."""

    id: int
    did: str
    added: int | None
    removed: int | None


def record(plan_id: int, did: str, added: int | None, removed: int | None) -> None:
    """Remember a step; what was undone before it is gone for good."""
    plan = PlanRow.get_by_id(plan_id)
    forget_undone(plan_id)
    LogStepRow.create(plan=plan_id, head=plan.head_id, did=did, added=added, removed=removed)


def forget_undone(plan_id: int) -> None:
    """Nothing that was undone can be done again: something else was done since."""
    LogStepRow.delete().where((LogStepRow.plan == plan_id) & LogStepRow.undone).execute()


def newest(plan_id: int, head: int) -> Step | None:
    """The step that undo would take back while this revision is current; None for none."""
    rows = _of(plan_id, head, undone=False).order_by(LogStepRow.id.desc())
    return _step(rows.first())


def undone(plan_id: int, head: int) -> Step | None:
    """The step that redo would do again while this revision is current; None for none."""
    return _step(_of(plan_id, head, undone=True).order_by(LogStepRow.id).first())


def take_back(step: Step, now: str) -> None:
    """Undo a step: what it put in goes out, what it took out comes back."""
    _switch(step, out=step.added, back=step.removed, now=now, to_undone=True)


def do_again(step: Step, now: str) -> None:
    """Redo a step."""
    _switch(step, out=step.removed, back=step.added, now=now, to_undone=False)


def _switch(step: Step, *, out: int | None, back: int | None, now: str, to_undone: bool) -> None:
    with database.atomic("IMMEDIATE"):
        for entry, deleted_at in ((out, now), (back, None)):
            if entry is not None:
                LogRow.update(deleted_at=deleted_at).where(LogRow.id == entry).execute()
        LogStepRow.update(undone=to_undone).where(LogStepRow.id == step.id).execute()


def _of(plan_id: int, head: int, *, undone: bool) -> Any:
    return LogStepRow.select().where(
        (LogStepRow.plan == plan_id) & (LogStepRow.head == head) & (LogStepRow.undone == undone)
    )


def _step(row: LogStepRow | None) -> Step | None:
    return None if row is None else Step(row.id, row.did, row.added, row.removed)
