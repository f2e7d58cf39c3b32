"""Alarms of a plan: each thing once, with when it was raised, told, seen and over."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.core.values.copying import copied
from oddkettle.store.file.tables import AlarmRow, PlanRow, database


@dataclass(frozen=True)
class StoredAlarm:
    """One alarm as it is kept; times are UTC."""

    key: str
    kind: str
    urgent: bool
    text: str
    remedy: str
    raised_at: str
    told_at: str | None = None
    seen_at: str | None = None
    ended_at: str | None = None


def raise_alarm(plan_id: int, alarm: StoredAlarm) -> bool:
    """Keep an alarm; one of the same key is told anew in its words. True for one that is new."""
    with database.atomic("IMMEDIATE"):
        if PlanRow.get_or_none(PlanRow.id == plan_id) is None:
            return False
        row = AlarmRow.get_or_none((AlarmRow.plan == plan_id) & (AlarmRow.key == alarm.key))
        if row is None:
            AlarmRow.create(plan=plan_id, **alarm.__dict__)
            return True
        row.text, row.remedy, row.ended_at = alarm.text, alarm.remedy, None
        row.urgent = row.urgent or alarm.urgent
        row.save()
        return False


def end_others(plan_id: int, keys: set[str], now: str) -> int:
    """Alarms that no longer hold are over; returns how many."""
    query = AlarmRow.update(ended_at=now).where(
        (AlarmRow.plan == plan_id) & AlarmRow.ended_at.is_null() & AlarmRow.key.not_in(list(keys))
    )
    return int(query.execute())


def mark(plan_id: int, key: str, *, told: str | None = None, seen: str | None = None) -> None:
    """An alarm was told to somebody, or read."""
    given = {"told_at": told, "seen_at": seen}
    AlarmRow.update(**{k: v for k, v in given.items() if v is not None}).where(
        (AlarmRow.plan == plan_id) & (AlarmRow.key == key)
    ).execute()


def alarms(plan_id: int, *, over: bool = False) -> list[StoredAlarm]:
    """The plan's alarms, the newest first; those that are over only when asked for."""
    rows = AlarmRow.select().where(AlarmRow.plan == plan_id)
    if not over:
        rows = rows.where(AlarmRow.ended_at.is_null())
    return [_stored(row) for row in rows.order_by(AlarmRow.raised_at.desc(), AlarmRow.id.desc())]


def _stored(row: AlarmRow) -> StoredAlarm:
    return copied(StoredAlarm, row, urgent=bool(row.urgent))
