"""Old revisions are thinned by their age; those that somebody named stay."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime, timedelta

from oddkettle.store.file.tables import PlanRow, RevisionRow, database

ALL_FOR = timedelta(days=7)
DAILY_FOR = timedelta(days=60)
AT_ONCE = 500
WITNESSES = 5
"""So many saves must have been made within the last two months, or the clock is not believed."""


def kept_by_age(saved: Iterable[tuple[int, datetime]], now: datetime) -> set[int]:
    """Which revisions stay: all of the last week, then the last of each day, then of each week.

    `saved` are (revision, when it was saved), in the order in which they were.
    """
    kept: set[int] = set()
    last_of: dict[tuple[int, ...], int] = {}
    for revision, at in saved:
        if now - at <= ALL_FOR:
            kept.add(revision)
        elif now - at <= DAILY_FOR:
            last_of[at.year, at.month, at.day] = revision
        else:
            last_of[tuple(at.isocalendar())[:2]] = revision
    return kept | set(last_of.values())


def clock_is_sound(now: datetime) -> bool:
    """Whether the clock may be believed when states are taken out by their age.

    One that has jumped by years makes everything old at once, and a save or two of the wrong day
    too: then nothing is taken out. A store that nobody has used for months loses nothing by it.
    """
    newest = list(
        RevisionRow.select(RevisionRow.saved_at).order_by(RevisionRow.id.desc()).limit(WITNESSES)
    )
    saved = [datetime.fromisoformat(row.saved_at) for row in newest]
    return len(saved) == WITNESSES and all(abs(now - at) <= DAILY_FOR for at in saved)


def thin_revisions(now: datetime) -> int:
    """Take out what is too old to stay, in one transaction a plan; how many went.

    The first revision, the current one, the one that redo leads to, and named ones stay. What came
    after one that goes is joined to what came before it, so that undo walks on.
    """
    return sum(_thin(plan, now) for plan in PlanRow.select())


def _thin(plan: PlanRow, now: datetime) -> int:
    with database.atomic("IMMEDIATE"):
        # Read again: somebody may have saved or stepped back meanwhile.
        plan = PlanRow.get_by_id(plan.id)
        rows = list(
            RevisionRow.select(
                RevisionRow.id, RevisionRow.parent, RevisionRow.saved_at, RevisionRow.name
            )
            .where(RevisionRow.plan == plan)
            .order_by(RevisionRow.id)
        )
        saved = [(row.id, datetime.fromisoformat(row.saved_at)) for row in rows]
        kept = kept_by_age(saved, now) | {plan.head_id, plan.tip_id}
        kept |= {row.id for row in rows if row.name or row.parent_id is None}
        gone = [row.id for row in rows if row.id not in kept]
        parents = {row.id: row.parent_id for row in rows}
        for row in rows:
            parent = row.parent_id
            while parent is not None and parent not in kept:
                parent = parents[parent]
            if row.id in kept and parent != row.parent_id:
                RevisionRow.update(parent=parent).where(RevisionRow.id == row.id).execute()
        # Children before their parents: each row may be named by a later one.
        for start in range(0, len(gone), AT_ONCE):
            some = gone[::-1][start : start + AT_ONCE]
            RevisionRow.delete().where(RevisionRow.id.in_(some)).execute()
    return len(gone)
