"""Opening, saving, undoing: plans as users meet them."""

from __future__ import annotations

from oddkettle.formats.plan_json import parse_plan, plan_bytes
from oddkettle.plan import Plan
from oddkettle.plan.lazy import LazyModel
from oddkettle.store import plans as store
from oddkettle.store.plans import RevisionNote, Stored
from oddkettle.usecases.clock import now_utc

MOTH_PLAN = 1
"""The demo's own plan, on which its log and its simulated monitor sit."""


class OpenPlan(LazyModel):
    """A plan as it stands in the store."""

    id: int
    revision: int
    saved_at: str
    did: str
    can_undo: bool
    can_redo: bool
    document: Plan


class PlanTitle(LazyModel):
    """A line in the list of plans."""

    id: int
    name: str
    revision: int
    saved_at: str


def open_plan(plan_id: int) -> OpenPlan:
    """The plan as it was last saved."""
    return _opened(store.load(plan_id))


def create_plan(plan: Plan, did: str = "created") -> OpenPlan:
    """Add a plan. It must run: a plan that cannot be is refused."""
    _must_run(plan)
    return _opened(store.create(_text(plan), did, now_utc()))


def save_plan(plan_id: int, base_revision: int, plan: Plan, did: str) -> OpenPlan:
    """Save on top of the revision that the writer started from."""
    _must_run(plan)
    return _opened(store.save(plan_id, base_revision, _text(plan), did, now_utc()))


def import_plan(data: bytes) -> OpenPlan:
    """Add a plan from a file's bytes."""
    return create_plan(parse_plan(data), "imported")


def export_plan(plan_id: int) -> tuple[str, bytes]:
    """A file name and the plan's bytes."""
    plan = open_plan(plan_id).document
    letters = (c if c.isalnum() else "-" for c in plan.name.lower())
    stem = "-".join(word for word in "".join(letters).split("-") if word)
    return f"{stem or 'plan'}.json", plan_bytes(plan)


def undo(plan_id: int) -> OpenPlan:
    """One step back."""
    return _opened(store.undo(plan_id))


def redo(plan_id: int) -> OpenPlan:
    """One step forward."""
    return _opened(store.redo(plan_id))


def titles() -> list[PlanTitle]:
    """All plans."""
    return [
        PlanTitle(
            id=stored.plan_id,
            name=parse_plan(stored.document.encode()).name,
            revision=stored.revision,
            saved_at=stored.saved_at,
        )
        for stored in store.all_plans()
    ]


def history(plan_id: int) -> list[RevisionNote]:
    """Every saved revision, newest first."""
    return store.history(plan_id)


def _must_run(plan: Plan) -> None:
    # What runs plans takes half a second to load: reading one must not wait for it.
    from oddkettle.usecases.run_cache import run_plan

    run_plan(plan)


def _text(plan: Plan) -> str:
    return plan.model_dump_json(exclude_none=True)


def _opened(stored: Stored) -> OpenPlan:
    return OpenPlan(
        id=stored.plan_id,
        revision=stored.revision,
        saved_at=stored.saved_at,
        did=stored.did,
        can_undo=stored.can_undo,
        can_redo=stored.can_redo,
        document=parse_plan(stored.document.encode()),
    )
