"""What happened in the field, one row each; deleting one only marks it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any

from peewee import chunked

from oddkettle.core.values.copying import copied
from oddkettle.store.file.tables import LogRow, PlanRow, database
from oddkettle.store.plans import NoSuchPlan

AT_ONCE = 500
"""Rows in one statement: SQLite takes so many values and more."""


@dataclass(frozen=True)
class Entry:
    """What was read or done, when it was so, and when and by what it was written."""

    id: int
    at_utc: str
    kind: str
    value: float
    note: str
    written_at: str
    written_by: str
    detail: str = "{}"
    replaces: int | None = None
    device: int | None = None
    """The device that wrote it, by its number; None for this machine itself."""


class NoSuchEntry(LookupError):
    """There is no such entry in this plan's log, or it was deleted."""


def add(
    plan_id: int,
    at_utc: str,
    kind: str,
    value: float,
    note: str,
    now: str,
    written_by: str,
    *,
    detail: str = "{}",
    replaces: int | None = None,
    sent_key: str | None = None,
    device: int | None = None,
) -> Entry:
    """Write one entry; the one that it `replaces` goes out of the log in the same transaction.

    What comes again under a `sent_key` is not written again: the entry of the first time is given.
    """
    if PlanRow.get_or_none(PlanRow.id == plan_id) is None:
        raise NoSuchPlan(f"There is no plan number {plan_id}.")
    with database.atomic("IMMEDIATE"):
        if sent_key is not None:
            before = LogRow.get_or_none((LogRow.plan == plan_id) & (LogRow.sent_key == sent_key))
            if before is not None:
                return _entry(before)
        if replaces is not None:
            delete(plan_id, replaces, now)
        row = LogRow.create(
            plan=plan_id,
            at_utc=at_utc,
            kind=kind,
            value=value,
            note=note,
            written_at=now,
            written_by=written_by,
            detail=detail,
            replaces=replaces,
            sent_key=sent_key,
            device=device,
        )
    return _entry(row)


@contextmanager
def one_step() -> Iterator[None]:
    """What is written within it is written whole or not at all: an entry, and its step of undo."""
    with database.atomic("IMMEDIATE"):
        yield


def add_all(plan_id: int, found: Sequence[Mapping[str, Any]]) -> None:
    """Write many entries at once, all or none; each has the fields of an Entry but its number."""
    if PlanRow.get_or_none(PlanRow.id == plan_id) is None:
        raise NoSuchPlan(f"There is no plan number {plan_id}.")
    with database.atomic():
        for rows in chunked(({"plan": plan_id, **entry} for entry in found), AT_ONCE):
            LogRow.insert_many(rows).execute()


def entries(plan_id: int) -> list[Entry]:
    """The plan's entries that stand, by time."""
    rows = (
        LogRow.select()
        .where((LogRow.plan == plan_id) & LogRow.deleted_at.is_null())
        .order_by(LogRow.at_utc, LogRow.id)
    )
    return [_entry(row) for row in rows]


def withdrawn(plan_id: int) -> list[Entry]:
    """The plan's entries that were taken out or corrected, by time."""
    rows = (
        LogRow.select()
        .where((LogRow.plan == plan_id) & LogRow.deleted_at.is_null(False))
        .order_by(LogRow.at_utc, LogRow.id)
    )
    return [_entry(row) for row in rows]


def delete(plan_id: int, entry_id: int, now: str) -> None:
    """Take an entry out of the log; it can be put back."""
    _mark(plan_id, entry_id, now, deleted=False)


def restore(plan_id: int, entry_id: int) -> None:
    """Put a deleted entry back."""
    _mark(plan_id, entry_id, None, deleted=True)


def _mark(plan_id: int, entry_id: int, deleted_at: str | None, *, deleted: bool) -> None:
    changed = (
        LogRow.update(deleted_at=deleted_at)
        .where(
            (LogRow.id == entry_id)
            & (LogRow.plan == plan_id)
            & LogRow.deleted_at.is_null(not deleted)
        )
        .execute()
    )
    if not changed:
        raise NoSuchEntry(f"There is no entry number {entry_id} to change.")


def _entry(row: LogRow) -> Entry:
    return copied(Entry, row)
