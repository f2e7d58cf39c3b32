"""Every saved revision of a plan: what changed in it, a look at it, the way back to it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from oddkettle.core.values.copying import copied
from oddkettle.formats.plan_json import parse_plan
from oddkettle.plan import Plan
from oddkettle.plan.quantities import LazyModel
from oddkettle.store import plans as store
from oddkettle.usecases.plans.plans import OpenPlan, open_plan, save_plan

MAX_REVISIONS, MAX_CHANGES = 200, 6
MAX_TEXT = 60


UNITS = {
    "a": "A", "ah": "Ah", "c": "°C", "deg": "°", "h": "h", "km": "km", "m": "m", "min": "min",
    "mm2": "mm²", "mohm": "mΩ", "percent": "%", "v": "V", "w": "W", "wh": "Wh",
}  # fmt: skip
"""What the last word of a field's name stands for."""


class Change(LazyModel):
    """One field that became another; None where it was not there."""

    field: str
    before: str | None
    after: str | None


class PastRevision(LazyModel):
    """One entry of a plan's history, with what changed since the one before it."""

    revision: int
    saved_at: str
    did: str
    name: str | None
    """Under which it stays when old ones are thinned."""
    current: bool
    changes: list[Change]
    more: int
    """So many other fields changed too."""


def history(plan_id: int) -> list[PastRevision]:
    """Every saved revision, the newest first. Raises NoSuchPlan."""
    notes = store.history(plan_id)[:MAX_REVISIONS]
    documents = {note.revision: _flat(plan_id, note.revision) for note in notes}
    found = []
    for note in notes:
        before = documents.get(note.parent) if note.parent is not None else None
        changes = [] if before is None else list(_changes(before, documents[note.revision]))
        found.append(
            copied(
                PastRevision,
                note,
                changes=changes[:MAX_CHANGES],
                more=max(len(changes) - MAX_CHANGES, 0),
            )
        )
    return found


def plan_at(plan_id: int, revision: int) -> Plan:
    """A plan as it was. Raises NoSuchPlan."""
    return parse_plan(store.document_of(plan_id, revision).encode())


def name_revision(plan_id: int, revision: int, name: str | None) -> None:
    """Give a saved revision a name, or take it off. Raises NoSuchPlan."""
    store.name_revision(plan_id, revision, name)


def go_back(plan_id: int, revision: int) -> OpenPlan:
    """Save a plan as it was once more, on top. Raises NoSuchPlan."""
    plan = plan_at(plan_id, revision)
    then = next(note for note in store.history(plan_id) if note.revision == revision)
    base = open_plan(plan_id).revision
    return save_plan(plan_id, base, plan, f"went back to: {then.did}"[:120])


def _flat(plan_id: int, revision: int) -> dict[str, str]:
    document = plan_at(plan_id, revision).model_dump(mode="json", exclude_none=True)
    return dict(_leaves(document, ()))


def _leaves(value: Any, path: tuple[str, ...]) -> Iterator[tuple[str, str]]:
    if isinstance(value, dict):
        for key, part in value.items():
            yield from _leaves(part, (*path, key))
    elif isinstance(value, list):
        for n, part in enumerate(value):
            # A part with an id is the same part wherever it stands.
            name = part.get("id") if isinstance(part, dict) else None
            yield from _leaves(part, (*path, str(name or n + 1)))
    else:
        yield _field(path), _value(value)[:MAX_TEXT]


def _field(path: tuple[str, ...]) -> str:
    """A field in words, its unit last: `trip.floor_percent` is "trip reserve in %"."""
    *words, last = " ".join(step.replace("_", " ") for step in path).split(" ")
    unit = UNITS.get(last) if words else None
    words = [*words, last] if unit is None else words
    said = " ".join("reserve" if word == "floor" else word for word in words)
    return said if unit is None else f"{said} in {unit}"


def _value(value: Any) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:.10g}" if isinstance(value, float) else str(value)


def _changes(before: dict[str, str], after: dict[str, str]) -> Iterator[Change]:
    for field in {**before, **after}:
        if before.get(field) != after.get(field):
            yield Change(field=field, before=before.get(field), after=after.get(field))
