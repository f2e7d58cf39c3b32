"""Several writers at once: one wins, the others are told, nothing is overwritten."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from oddkettle.store import plans
from oddkettle.store.file.tables import database
from oddkettle.store.plans import BoxPart
from tests.conftest import NOW

BOX = BoxPart("kettle", "My box", "{}")

WRITERS = 8


def test_of_writers_from_one_revision_exactly_one_wins(store: Path) -> None:
    first = plans.create("start", "created", NOW, BOX)

    def write(name: str) -> str | None:
        try:
            plans.save(first.plan_id, first.revision, name, f"made {name}", NOW, BOX)
        except plans.StaleRevision:
            return None
        finally:
            database.close()
        return name

    with ThreadPoolExecutor(WRITERS) as pool:
        won = [name for name in pool.map(write, map(str, range(WRITERS))) if name is not None]
    assert won == [plans.load(first.plan_id).document]
    assert len(plans.history(first.plan_id)) == 2


def test_plans_do_not_touch_one_another(store: Path) -> None:
    ids = [plans.create(f"plan {n}", "created", NOW, BOX).plan_id for n in range(4)]

    def work(plan_id: int) -> str:
        try:
            stored = plans.load(plan_id)
            for n in range(10):
                stored = plans.save(plan_id, stored.revision, f"{plan_id}/{n}", "save", NOW, BOX)
            plans.undo(plan_id)
            return plans.load(plan_id).document
        finally:
            database.close()

    with ThreadPoolExecutor(4) as pool:
        ends = list(pool.map(work, ids))
    assert ends == [f"{plan_id}/8" for plan_id in ids]
    assert [len(plans.history(plan_id)) for plan_id in ids] == [11] * 4
