"""The log of a plan."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Header

from oddkettle.api.gate.visitor import writer_of
from oddkettle.api.problems import PROBLEMS
from oddkettle.usecases.log import log
from oddkettle.usecases.log.entries import NewEntry
from oddkettle.usecases.log.log import LogEntry

router = APIRouter(prefix="/api/plans/{plan_id}/log", tags=["log"], responses=PROBLEMS)
Writer = Annotated[str, Depends(writer_of)]
SentKey = Annotated[str | None, Header(pattern=r"^[A-Za-z0-9-]{8,64}$")]


@router.get("")
def list_entries(plan_id: int) -> list[LogEntry]:
    """All readings, by time."""
    return log.list_entries(plan_id)


@router.post("", status_code=201)
def add_entry(
    plan_id: int, entry: NewEntry, writer: Writer, idempotency_key: SentKey = None
) -> LogEntry:
    """Write a reading; it says which device wrote it.

    What is sent again under the same key, for its answer was lost, is not written again.
    """
    return log.add_entry(plan_id, entry, writer, sent_key=idempotency_key)


@router.delete("/{entry_id}", status_code=204)
def delete_entry(plan_id: int, entry_id: int) -> None:
    """Take a reading out; it can be put back."""
    log.delete_entry(plan_id, entry_id)


@router.post("/{entry_id}/restore", status_code=204)
def restore_entry(plan_id: int, entry_id: int) -> None:
    """Put a deleted reading back."""
    log.restore_entry(plan_id, entry_id)


@router.put("/{entry_id}")
def correct_entry(plan_id: int, entry_id: int, entry: NewEntry, writer: Writer) -> LogEntry:
    """Write an entry in place of another, which stays in the store and can be put back."""
    return log.add_entry(plan_id, entry, writer, replaces=entry_id)
