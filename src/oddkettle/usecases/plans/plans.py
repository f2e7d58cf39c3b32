"""Opening, saving, undoing: plans as users meet them."""

from __future__ import annotations

import json
import secrets
from dataclasses import replace

from oddkettle.core.values.cache import cached
from oddkettle.core.values.copying import copied
from oddkettle.formats.plan_json import parse_plan, plan_bytes
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.quantities import LazyModel
from oddkettle.store import plans as store
from oddkettle.store import steps
from oddkettle.store.file.identity import data_id
from oddkettle.store.plans import BoxPart, RevisionNote, Stored
from oddkettle.usecases.plans.file_names import stem_of
from oddkettle.usecases.plans.plan_words import bank_name
from oddkettle.usecases.process.clock import now_utc
from oddkettle.usecases.process.events import hub

MOTH_PLAN = 1
"""The demo's own plan, on which its log and its simulated monitor sit."""


class OpenPlan(LazyModel):
    """A plan as it stands in the store."""

    id: int
    trip_key: str
    """Its own, in every data file; with `data_file` it says where a note belongs."""
    data_file: str
    revision: int
    saved_at: str
    did: str
    """What was done last, in the plan or in its log: undo takes this back."""
    can_undo: bool
    can_redo: bool
    box_behind: bool = False
    """Its box has come into another state since, on another trip."""
    document: Plan


class PlanTitle(LazyModel):
    """A line in the list of plans."""

    id: int
    name: str
    revision: int
    saved_at: str


class UnreadablePlan(LazyModel):
    """A kept plan that cannot be read: nothing of it is lost, and its file can be saved."""

    plan_id: int
    name: str
    saved_at: str
    why: str


def open_plan(plan_id: int) -> OpenPlan:
    """The plan as it was last saved."""
    return _opened(store.load(plan_id))


def create_plan(plan: Plan, did: str = "created") -> OpenPlan:
    """Add a plan. It must run: a plan that cannot be is refused."""
    must_run(plan)
    kept = with_box(plan)
    return _opened(store.create(_text(kept), did, now_utc(), box_part(kept)))


def save_plan(plan_id: int, base_revision: int, plan: Plan, did: str) -> OpenPlan:
    """Save on top of the revision that the writer started from."""
    must_run(plan)
    kept = with_box(plan, store.load(plan_id).box_key or None)
    part = box_part(kept)
    return _opened(store.save(plan_id, base_revision, _text(kept), did, now_utc(), part))


def import_plan(data: bytes) -> OpenPlan:
    """Add a plan from a file's bytes."""
    return create_plan(parse_plan(data), "imported")


def export_plan(plan_id: int) -> tuple[str, bytes]:
    """A file name and the plan's bytes."""
    plan = open_plan(plan_id).document
    return f"{stem_of(plan.name)}.json", plan_bytes(plan)


def undo(plan_id: int) -> OpenPlan:
    """One step back: of the plan, or of its log where that is the newer."""
    stored = store.load(plan_id)
    step = steps.newest(plan_id, stored.revision)
    if step is None:
        return _opened(store.undo(plan_id))
    steps.take_back(step, now_utc())
    hub.tell(plan_id, "log")
    return open_plan(plan_id)


def redo(plan_id: int) -> OpenPlan:
    """One step forward: of the plan, or of its log where that comes first."""
    stored = store.load(plan_id)
    step = steps.undone(plan_id, stored.revision)
    if step is None:
        return _opened(store.redo(plan_id))
    steps.do_again(step, now_utc())
    hub.tell(plan_id, "log")
    return open_plan(plan_id)


def titles() -> list[PlanTitle]:
    """All plans that can be read."""
    return [
        PlanTitle(id=stored.plan_id, name=name, revision=stored.revision, saved_at=stored.saved_at)
        for stored in store.all_plans()
        for name, why in [_name_of(stored.document)]
        if why is None
    ]


def unreadable_plans() -> list[UnreadablePlan]:
    """Kept plans that this version cannot read, each with why."""
    return [
        UnreadablePlan(
            plan_id=stored.plan_id,
            name=name or f"Plan number {stored.plan_id}",
            saved_at=stored.saved_at,
            why=why,
        )
        for stored in store.all_plans()
        for name, why in [_name_of(stored.document)]
        if why is not None
    ]


@cached
def _name_of(document: str) -> tuple[str, str | None]:
    """What a plan is called, and why it cannot be read; every page asks for all names."""
    try:
        return parse_plan(document.encode()).name, None
    except PlanRefused as refused:
        first = refused.complaints[0]
        return name_in(document) or "", f"{first.where or 'The file'}: {first.text}"


def kept_bytes(plan_id: int) -> tuple[str, bytes]:
    """(file name, bytes) of a kept plan as it stands in the data file, readable or not."""
    document = store.load(plan_id).document
    return f"{stem_of(name_in(document) or f'plan-{plan_id}')}.json", document.encode()


def name_in(document: str) -> str:
    """The name in a document that may be damaged; nothing where it has none."""
    try:
        name = json.loads(document).get("name")
    except (ValueError, AttributeError):
        return ""
    return name[:80] if isinstance(name, str) else ""


def history(plan_id: int) -> list[RevisionNote]:
    """Every saved revision, newest first."""
    return store.history(plan_id)


def must_run(plan: Plan) -> None:
    """Refuse a plan that cannot be run. Raises PlanRefused."""
    # What runs plans takes half a second to load: reading one must not wait for it.
    from oddkettle.usecases.simulate.run_cache import run_plan

    run_plan(plan)


def with_box(plan: Plan, key: str | None = None) -> Plan:
    """The plan with a box that has a key and a name: its own, or the given or a new key."""
    box = plan.box
    if box.key is not None and box.name is not None:
        return plan
    named = {
        "key": box.key or key or secrets.token_hex(6),
        "name": box.name or bank_name(plan),
    }
    return plan.model_copy(update={"box": box.model_copy(update=named)})


def box_part(plan: Plan) -> BoxPart:
    """What a plan with a known box says of it; the name is no part of its state."""
    assert plan.box.key is not None
    assert plan.box.name is not None
    state = {
        "box": plan.box.model_dump(mode="json", exclude_none=True, exclude={"name"}),
        "build": plan.build.model_dump(mode="json", exclude_none=True),
    }
    return BoxPart(plan.box.key, plan.box.name, json.dumps(state, sort_keys=True))


def _text(plan: Plan) -> str:
    return plan.model_dump_json(exclude_none=True)


def _opened(stored: Stored) -> OpenPlan:
    """A stored plan with the steps that are open: those of its log come before its own."""
    of_log = steps.newest(stored.plan_id, stored.revision)
    if of_log is not None:
        stored = replace(stored, did=of_log.did, can_undo=True)
    if steps.undone(stored.plan_id, stored.revision) is not None:
        stored = replace(stored, can_redo=True)
    plan = parse_plan(stored.document.encode())
    if stored.box_key:
        named = {"key": stored.box_key, "name": stored.box_name}
        plan = plan.model_copy(update={"box": plan.box.model_copy(update=named)})
    return copied(
        OpenPlan, stored, id=stored.plan_id, trip_key=stored.key, data_file=data_id(), document=plan
    )
