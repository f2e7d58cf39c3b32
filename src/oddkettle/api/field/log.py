"""The log of a plan."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Header
from pydantic import BaseModel

from oddkettle.api.middleware.visitor import Asker
from oddkettle.api.problems import PROBLEMS
from oddkettle.core.estimation.readings.reading import Settled
from oddkettle.store.file.identity import belongs_here
from oddkettle.usecases.field.log import log
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import LogEntry

router = APIRouter(prefix="/api/plans/{plan_id}/log", tags=["log"], responses=PROBLEMS)
SentKey = Annotated[str | None, Header(pattern=r"^[A-Za-z0-9-]{8,64}$")]
Where = Annotated[str | None, Header(pattern=r"^[0-9a-f]{4,32}$")]
"""What a note that was kept on a device says of where it belongs."""


@router.get("")
def list_entries(plan_id: int) -> list[LogEntry]:
    """All readings, by time."""
    return log.list_entries(plan_id)


@router.get("/withdrawn")
def withdrawn_entries(plan_id: int) -> list[LogEntry]:
    """The entries that were taken out, by time; each can be put back."""
    return log.withdrawn_entries(plan_id)


@router.post("", status_code=201)
def add_entry(
    plan_id: int,
    entry: NewEntry,
    asker: Asker,
    idempotency_key: SentKey = None,
    data_file: Where = None,
    trip_key: Where = None,
) -> LogEntry:
    """Write a reading; it says which device wrote it.

    What is sent again under the same key, for its answer was lost, is not written again. What says
    that it belongs to another data file or trip is refused (409).
    """
    belongs_here(plan_id, data_file, trip_key)
    return log.add_entry(plan_id, entry, asker.writer, sent_key=idempotency_key)


@router.delete("/{entry_id}", status_code=204)
def delete_entry(plan_id: int, entry_id: int) -> None:
    """Take a reading out; it can be put back."""
    log.delete_entry(plan_id, entry_id)


@router.post("/{entry_id}/restore", status_code=204)
def restore_entry(plan_id: int, entry_id: int) -> None:
    """Put a deleted reading back."""
    log.restore_entry(plan_id, entry_id)


class Answer(BaseModel):
    """What it is about a reading that did not fit."""

    what: Settled


@router.post("/{entry_id}/settle")
def settle_entry(plan_id: int, entry_id: int, said: Answer, asker: Asker) -> LogEntry:
    """Say of a reading that did not fit what it is: right, a monitor that was reset, less held."""
    return log.settle_entry(plan_id, entry_id, said.what, asker.writer)


@router.put("/{entry_id}")
def correct_entry(plan_id: int, entry_id: int, entry: NewEntry, asker: Asker) -> LogEntry:
    """Write an entry in place of another, which stays in the store and can be put back."""
    return log.add_entry(plan_id, entry, asker.writer, replaces=entry_id)
