"""Flexible loads at the trip's ends: on the first and the last day it is in use for a part only."""

from __future__ import annotations

import pytest

from oddkettle.core.units.conversion import MINUTES_PER_DAY
from oddkettle.plan import Plan
from oddkettle.plan.flexible import runs_of
from oddkettle.plan.use import Flexible, Hours
from tests.conftest import example


def runs(hours: tuple[str, str], ends: str, begins: str = "00:00", **how: object) -> dict[int, int]:
    """Each day's start [min] of an hour's run that may lie anywhere in these hours."""
    plan: Plan = example("moth-survey")
    trip = plan.trip.model_copy(update={"begins": begins, "ends": ends})
    plan = plan.model_copy(update={"trip": trip})
    laptop = next(a for a in plan.use.appliances if a.id == "laptop")
    flexible = Flexible(minutes=60, **how)  # type: ignore[arg-type]
    one = laptop.model_copy(
        update={"hours": [Hours(start=hours[0], end=hours[1])], "flexible": flexible}
    )
    found = runs_of(plan, one, 0)
    assert found is not None
    return {run.day: run.start_min for run in found}


def test_it_runs_on_the_last_day_where_its_hours_begin_before_the_end() -> None:
    last = len(example("moth-survey").trip.days) - 1
    whole = runs(("08:00", "22:00"), "24:00")
    assert whole == dict.fromkeys(range(last + 1), 8 * 60)
    assert runs(("08:00", "22:00"), "10:00") == whole
    # Half an hour is left of it: it is not refused, for the other days have room.
    cut = runs(("08:00", "22:00"), "07:00")
    assert last not in cut
    assert len(cut) == last


def test_it_runs_on_the_first_day_from_where_the_trip_begins() -> None:
    assert runs(("08:00", "22:00"), "24:00", begins="15:30")[0] == 15 * 60 + 30
    assert 0 not in runs(("08:00", "12:00"), "24:00", begins="12:00")


@pytest.mark.parametrize(("by_day", "on"), [(0, 0), (3, 0), (None, 0)])
def test_one_that_runs_once_runs_on_the_first_day_that_has_room(
    by_day: int | None, on: int
) -> None:
    once = runs(("08:00", "22:00"), "24:00", each="trip", by_day=by_day)
    assert list(once) == [on]
    later = runs(("08:00", "12:00"), "24:00", begins="12:00", each="trip", by_day=by_day)
    assert list(later) == ([] if by_day == 0 else [1])
    assert all(0 <= start < MINUTES_PER_DAY for start in once.values())
