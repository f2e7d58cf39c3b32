"""One's own things: kept once, used in any plan. Deleting one only marks it."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.store.file.tables import KeptThingRow, database


@dataclass(frozen=True)
class KeptThing:
    """A thing on the shelf: its kind, name, price and note, and its part of a plan as JSON."""

    id: int
    kind: str
    name: str
    euro: float | None
    note: str
    document: str


class NoSuchThing(LookupError):
    """There is no such thing on the shelf."""


def all_things() -> list[KeptThing]:
    """Everything that stands there, by kind and name."""
    rows = KeptThingRow.select().where(KeptThingRow.deleted_at.is_null())
    return [_kept(row) for row in rows.order_by(KeptThingRow.kind, KeptThingRow.name)]


def put(things: list[tuple[str, str, float | None, str, str]], now: str) -> list[KeptThing]:
    """Keep things, all or none: (kind, name, euro, note, JSON). One of the same name gives way."""
    found = []
    with database.atomic("IMMEDIATE"):
        for kind, name, euro, note, document in things:
            KeptThingRow.update(deleted_at=now).where(
                (KeptThingRow.kind == kind)
                & (KeptThingRow.name == name)
                & KeptThingRow.deleted_at.is_null()
            ).execute()
            row = KeptThingRow.create(
                kind=kind, name=name, euro=euro, note=note, document=document, kept_at=now
            )
            found.append(_kept(row))
    return found


def delete(thing_id: int, now: str) -> None:
    """Take a thing off the shelf. Raises NoSuchThing."""
    changed = (
        KeptThingRow.update(deleted_at=now)
        .where((KeptThingRow.id == thing_id) & KeptThingRow.deleted_at.is_null())
        .execute()
    )
    if not changed:
        raise NoSuchThing(f"There is no thing number {thing_id} on the shelf.")


def _kept(row: KeptThingRow) -> KeptThing:
    return KeptThing(row.id, row.kind, row.name, row.euro, row.note, row.document)
