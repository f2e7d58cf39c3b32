"""Flexible loads: that they run as laid, and a schedule held against every time there is."""

from __future__ import annotations

from datetime import date, datetime, time, timedelta
from pathlib import Path
from random import Random
from typing import Any

import numpy as np
import pytest

from oddkettle.core.simulation.run import simulate
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.flexible import chances
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.use import ApplianceModel, Flexible, FlexibleRun, Hours
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry
from oddkettle.usecases.improve.mend import MendAsked, mend
from oddkettle.usecases.improve.onward import schedule_rest
from oddkettle.usecases.improve.schedule import schedule as schedule_module
from oddkettle.usecases.improve.schedule.placing import Spare, spare_of
from oddkettle.usecases.improve.schedule.schedule import Scheduled, schedule
from oddkettle.usecases.onboarding.plan_of import plan_of
from oddkettle.usecases.onboarding.sentence import Bank, Charger, Sentence, Thing
from oddkettle.usecases.plans.plans import create_plan
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_cache import ensemble_of, run_plan
from tests.conftest import example
from tests.support.tiers import SLOW, repeats
from tests.usecases.onboarding.test_sentence import MOOR

DAY = [Hours(start="09:00", end="23:00")]


def changed(plan: Plan, key: str, **to: Any) -> Plan:
    """The plan with one appliance changed."""
    appliances = [a.model_copy(update=to) if a.id == key else a for a in plan.use.appliances]
    return plan.model_copy(update={"use": plan.use.model_copy(update={"appliances": appliances})})


def laptop_at(plan: Plan, start: str, minutes: int = 120, **flexible: Any) -> Plan:
    """The moth plan with its laptop at one time on every day."""
    runs = [FlexibleRun(day=d, start=start) for d in range(len(plan.trip.days))]
    how = Flexible(minutes=minutes, runs=runs, **flexible)
    return changed(plan, "laptop", hours=DAY, flexible=how)


def laptop(plan: Plan) -> ApplianceModel:
    return next(a for a in plan.use.appliances if a.id == "laptop")


def with_schedule(plan: Plan) -> tuple[Scheduled, Plan]:
    found = schedule(plan)
    return found, with_edits(plan, found.edits)


@pytest.fixture(scope="module")
def moth() -> Plan:
    return example("moth-survey")


def test_a_placed_run_is_the_same_as_hours_written_so(moth: Plan) -> None:
    placed = simulate(case_from_plan(laptop_at(moth, "13:10")))
    written = changed(moth, "laptop", hours=[Hours(start="13:10", end="15:10")])
    fixed = simulate(case_from_plan(written))
    np.testing.assert_allclose(placed.level, fixed.level, atol=1e-12)


def test_without_a_placing_it_runs_as_soon_as_it_may(moth: Plan) -> None:
    free = changed(moth, "laptop", hours=DAY, flexible=Flexible(minutes=120))
    np.testing.assert_allclose(
        simulate(case_from_plan(free)).level,
        simulate(case_from_plan(laptop_at(moth, "09:00"))).level,
        atol=1e-12,
    )


def test_what_runs_once_runs_once_and_by_its_day(moth: Plan) -> None:
    how = Flexible(minutes=90, each="trip", by_day=4, runs=[FlexibleRun(day=3, start="12:00")])
    for flexible, day in ((how, 3), (how.model_copy(update={"by_day": 2}), 0)):
        run = simulate(case_from_plan(changed(moth, "laptop", hours=DAY, flexible=flexible)))
        draw = next(d for d in run.draws if d.key == "laptop")
        on = np.flatnonzero(draw.asked_w)
        assert len(on) * run.grid.step_min == 90
        assert run.grid.day_starts[day] <= on[0] < run.grid.day_starts[day + 1]


def test_it_keeps_out_of_quiet_hours_and_within_the_trip(moth: Plan) -> None:
    noisy = changed(moth, "laptop", hours=DAY, flexible=Flexible(minutes=60), noisy=True)
    quiet = noisy.model_copy(
        update={
            "use": noisy.use.model_copy(
                update={"quiet_hours": [Hours(start="10:00", end="20:00")]}
            ),
            "trip": noisy.trip.model_copy(update={"begins": "09:30"}),
        }
    )
    assert chances(quiet, laptop(quiet), 0) == [(570, 600), (1200, 1380)]
    assert chances(quiet, laptop(quiet), 1) == [(540, 600), (1200, 1380)]


def test_while_the_engine_runs_it_begins_with_the_drive(moth: Plan) -> None:
    how = Flexible(minutes=30, while_driving=True)
    case = case_from_plan(changed(moth, "laptop", hours=DAY, flexible=how))
    runs = next(a for a in case.appliances if a.key == "laptop").runs
    assert runs is not None
    drives = {b.day: b.start_min for b in case.blocks if b.kind == "drive"}
    assert drives
    for run in runs:
        assert run.start_min == max(drives.get(run.day, 540), 540)


@pytest.mark.parametrize(
    ("change", "value"),
    [
        ({"hours": [Hours(start="09:00", end="10:00")]}, "120"),
        ({"medical": True}, "at any time"),
        (
            {
                "flexible": Flexible(
                    runs=[
                        FlexibleRun(day=1, start="10:00", fixed=True),
                        FlexibleRun(day=1, start="15:00", fixed=True),
                    ]
                )
            },
            "15:00",
        ),
    ],
)
def test_what_cannot_be_is_refused_with_a_remedy(
    moth: Plan, change: dict[str, Any], value: str
) -> None:
    plan = changed(moth, "laptop", **({"hours": DAY, "flexible": Flexible()} | change))
    with pytest.raises(PlanRefused) as refused:
        run_plan(plan)
    (complaint,) = refused.value.complaints
    assert complaint.value == value
    assert complaint.remedy
    assert complaint.limit


@SLOW
def test_the_schedule_is_as_good_as_the_best_of_every_time_there_is() -> None:
    """One load on a small box in the sun, every hour tried by hand over the same trips."""
    plan = sunny()
    by_hand = {
        hour: float(ensemble_of(laptop_at(plan, f"{hour:02d}:00")).lasts.mean())
        for hour in range(9, 22)
    }
    worst, best = min(by_hand.values()), max(by_hand.values())
    assert best - worst > 0.05, "the time makes no difference here: the test would prove nothing"
    found, _ = with_schedule(laptop_at(plan, "21:00"))
    # A time of its own for each day: never far below one time for all.
    assert found.after_percent >= 100 * best - 1.0


def sunny() -> Plan:
    plan = plan_of(
        Sentence(
            place=MOOR,
            start=date(2027, 6, 10),
            bank=Bank(kind="lifepo4", size=40),
            chargers=[Charger(kind="roof", size=100)],
            nights=3,
            things=[Thing(kind="coolbox", stands="open"), Thing(kind="laptop")],
        )
    )
    own = next(a.id for a in plan.use.appliances if a.id.startswith("laptop"))
    return changed(plan, own, id="laptop")


def flexible_plan(seed: int) -> Plan:
    """A random box with two or three loads that may run at any time."""
    dice = Random(seed)
    sources = [
        Charger(kind="roof", size=dice.choice([50, 100, 200])),
        Charger(kind="driving", size=dice.choice([10, 30]), every=2, minutes=40),
    ]
    kinds = dice.sample(["laptop", "lights", "fan", "phone", "tablet"], 3)
    plan = plan_of(
        Sentence(
            place=MOOR,
            start=date(2027, dice.randint(3, 10), 10),
            bank=Bank(kind=dice.choice(["lifepo4", "agm"]), size=dice.choice([40, 60, 100])),
            chargers=sources[: dice.randint(1, 2)],
            nights=dice.randint(2, 4),
            things=[Thing(kind=kind) for kind in ("coolbox", *kinds)],
        )
    )
    for appliance in plan.use.appliances:
        if appliance.pattern is None:
            start = dice.choice(["07:00", "09:00", "16:00"])
            plan = changed(
                plan,
                appliance.id,
                hours=[Hours(start=start, end="23:00")],
                flexible=Flexible(
                    minutes=dice.choice([45, 120, 240]),
                    each=dice.choice(["day", "day", "trip"]),
                    while_driving=dice.random() < 0.2,
                ),
            )
    return plan


@SLOW
@pytest.mark.parametrize("seed", range(repeats(2, 6, 100)))
def test_a_schedule_never_makes_odds_worse(seed: int) -> None:
    plan = flexible_plan(seed)
    found, scheduled = with_schedule(plan)
    before = float(ensemble_of(plan).lasts.mean())
    after = float(ensemble_of(scheduled).lasts.mean())
    assert after >= before
    assert found.after_percent == pytest.approx(100 * after)
    assert found.before_percent == pytest.approx(100 * before)
    # What is used is the same: a load is moved, never cut.
    for plan_before, plan_after in zip(
        run_plan(plan).draws, run_plan(scheduled).draws, strict=True
    ):
        if plan_before.key != "inverter-idle":
            assert plan_after.asked_w.sum() == pytest.approx(plan_before.asked_w.sum(), rel=1e-6)


def test_what_the_user_fixed_stays() -> None:
    plan = laptop_at(sunny(), "21:00")
    own = [FlexibleRun(day=1, start="20:15", fixed=True)]
    plan = changed(plan, "laptop", flexible=Flexible(minutes=120, runs=own))
    _, scheduled = with_schedule(plan)
    after = laptop(scheduled).flexible
    assert after is not None
    assert own[0] in after.runs
    assert len(after.runs) == len(plan.trip.days)


@SLOW
def test_the_cheapest_mend_may_move_what_can_be_moved() -> None:
    plan = laptop_at(sunny(), "21:00")
    *_, last = mend(plan, MendAsked(sure_percent=70, never=["appliance", "socket", "drive"]))
    offered = [step for one in getattr(last, "mends", []) for step in one.steps]
    assert any("at the best hours" in step for step in offered), getattr(last, "text", last)


def test_from_now_on_nothing_that_has_run_is_run_again(store: Path) -> None:
    """Unplaced, the laptop ran at nine; at noon its day is over, and later days are free."""
    plan = changed(sunny(), "laptop", flexible=Flexible(minutes=120), hours=DAY)
    plan_id = create_plan(plan).id
    noon = datetime.combine(plan.trip.start, time(12)) + timedelta(days=1)
    add_entry(plan_id, NewEntry(at=noon, kind="monitor_percent", value=60))
    after = laptop(with_edits(plan, schedule_rest(plan_id).edits)).flexible
    assert after is not None
    runs = {run.day: run.start for run in after.runs}
    # On the first day it may from when the trip begins.
    assert {day: runs[day] for day in (0, 1)} == {0: plan.trip.begins, 1: "09:00"}
    assert set(runs) == set(range(len(plan.trip.days)))


def test_what_is_to_spare_is_looked_at_once_in_a_search(monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[Plan] = []

    def look(plan: Plan) -> Spare:
        asked.append(plan)
        return spare_of(plan)

    monkeypatch.setattr(schedule_module, "spare_of", look)
    put = schedule_module.placer(laptop_at(sunny(), "21:00"), (0, 0))
    for minutes in (60, 90, 120):
        placed = laptop(put(laptop_at(sunny(), "21:00", minutes=minutes))).flexible
        assert placed is not None
        assert all(run.start != "21:00" for run in placed.runs)
    assert len(asked) == 1


def test_what_must_run_may_still_run_at_any_time_that_its_owner_allows(moth: Plan) -> None:
    """Only a mark for health forbids it: a plan of before with such a load opens as it did."""
    plan = changed(moth, "laptop", hours=DAY, flexible=Flexible(), priority="must")
    again = Plan.model_validate_json(plan.model_dump_json())
    assert run_plan(again).draws
