"""The cheapest mend, held against a search that tries every combination."""

from __future__ import annotations

from datetime import date
from itertools import combinations, product
from random import Random
from typing import Any

import pytest

from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.usecases.improve.candidates import candidates_of
from oddkettle.usecases.improve.mend import FINE, MendAsked, Mended, mend
from oddkettle.usecases.improve.moves import Bother, Move, moves_of
from oddkettle.usecases.improve.weigh import tightest_day
from oddkettle.usecases.onboarding.plan_of import plan_of
from oddkettle.usecases.onboarding.sentence import Bank, Charger, Sentence, Thing
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_cache import ensemble_of
from tests.conftest import example
from tests.support.tiers import NIGHTLY, SLOW, in_pieces, repeats
from tests.usecases.onboarding.test_sentence import MOOR

SURE = 80.0


def found(plan: Plan, **asked: Any) -> Mended:
    *_, last = mend(plan, MendAsked(**{"sure_percent": SURE, **asked}))
    assert isinstance(last, Mended)
    return last


def random_plan(seed: int) -> Plan:
    """A box on a trip of some nights that most probably does not last."""
    dice = Random(seed)
    things = dice.sample(["coolbox", "laptop", "lights", "fan", "phone", "tablet"], 4)
    sources = [
        Charger(
            kind="driving",
            size=dice.choice([10, 20, 30]),
            every=dice.choice([2, 3]),
            minutes=dice.choice([20, 30, 60]),
        )
    ]
    if dice.random() < 0.5:
        sources.append(Charger(kind="roof", size=dice.choice([50, 100])))
    return plan_of(
        Sentence(
            place=MOOR,
            start=date(2027, dice.randint(3, 10), 10),
            bank=Bank(kind=dice.choice(["lifepo4", "agm"]), size=dice.choice([40, 60, 80])),
            chargers=sources,
            nights=dice.randint(3, 5),
            things=[Thing(kind=kind) for kind in things],
        )
    )


def lasts(plan: Plan) -> float:
    return 100 * float(ensemble_of(plan, FINE, quick=True).lasts.mean())


def exhaustive(plan: Plan, never: frozenset[str], most: int = 3) -> float | None:
    """The least bother of any combination of up to `most` moves that is sure; None without one."""
    tight = tightest_day(ensemble_of(plan, FINE, quick=True))
    slots: dict[str, list[Move]] = {}
    for move in moves_of(plan, tight, Bother(), never, shop=False, after=(0, 0)):
        slots.setdefault(move.slot, []).append(move)
    every = sorted(
        (
            (sum(move.bother for move in moves), moves)
            for count in range(1, most + 1)
            for chosen in combinations(slots.values(), count)
            for moves in product(*chosen)
        ),
        key=lambda pair: pair[0],
    )
    for bother, moves in every:
        tried = plan
        try:
            for move in moves:
                tried = move.make(tried)
            if lasts(tried) >= SURE:
                return bother
        except PlanRefused:
            continue
    return None


FEW = frozenset({"socket", "aim", "hookup"})


PIECES = 10


@SLOW
@in_pieces(PIECES)
def test_it_reaches_what_every_combination_reaches_with_hardly_more_bother(piece: int) -> None:
    """Driving on one day only, so that all combinations of three can be tried."""
    reached = reachable = near = 0
    seed = 1000 * piece
    while reachable < repeats(1, 2, 10):
        seed += 1
        plan = random_plan(seed)
        tight = tightest_day(ensemble_of(plan, FINE, quick=True))
        days = frozenset(f"drive:{d}" for d in range(10) if d != max(tight - 1, 0))
        never = FEW | days
        if lasts(plan) >= SURE:
            continue
        best = exhaustive(plan, never)
        if best is None:
            continue
        reachable += 1
        answer = found(plan, never=list(never))
        reached += answer.reached
        near += answer.reached and answer.mends[0].bother <= 1.1 * best + 1e-9
    # Of all hundred 95 and 90 are wanted; a piece of ten may have one and two of the others.
    assert reached >= reachable - 1
    assert near >= reachable - (2 if reachable >= 10 else 0)


@pytest.mark.parametrize("name", ["moth-survey", pytest.param("coast-unit", marks=NIGHTLY)])
def test_each_answer_makes_it_as_sure_as_it_says_with_its_edits(name: str) -> None:
    plan = example(name)
    answer = found(plan)
    assert answer.reached
    for one in answer.mends:
        assert one.lasts_percent >= SURE
        assert lasts(with_edits(plan, one.edits)) == pytest.approx(one.lasts_percent)
    bothers = [one.bother for one in answer.mends]
    assert bothers == sorted(bothers)
    if answer.single is not None:
        assert answer.single.bother >= bothers[0]


def test_nothing_is_offered_that_is_never_to_be_touched_or_that_health_hangs_on() -> None:
    plan = example("moth-survey")
    moves = moves_of(
        plan, 6, Bother(), frozenset({"drive", "appliance:laptop"}), shop=True, after=(0, 0)
    )
    slots = {move.slot for move in moves}
    assert not any(slot.startswith("drive:") for slot in slots)
    assert "appliance:laptop" not in slots
    breather = moves_of(
        example("night-breather"), 2, Bother(), frozenset(), shop=True, after=(0, 0)
    )
    assert not any("breath" in move.slot for move in breather)
    assert not any("stays off" in m.text for m in moves if m.slot == "appliance:coolbox")


def test_a_night_on_mains_is_never_called_free() -> None:
    plan = example("moth-survey")
    only = ["drive", "appliance", "socket", "aim", "inverter", "schedule"]
    nights = [one for one in found(plan, never=only, sure_percent=50.0).mends if one.steps]
    assert nights
    for one in nights:
        assert all("night on mains" in step for step in one.steps)
        assert one.paid
        assert not one.bought
    driven = found(plan, never=["hookup"]).mends
    assert driven
    assert not any(one.paid for one in driven)


def test_each_change_of_a_habit_says_what_it_touches() -> None:
    plan = example("moth-survey")
    appliances = {f"appliance:{one.id}" for one in plan.use.appliances}
    for change in candidates_of(plan, 6):
        kind, _, of = change.key.partition(":")
        expected = {
            "drive": "drive",
            "hookup": "hookup",
            "half": f"appliance:{of}",
            "warmer": f"appliance:{of}",
            "without": f"appliance:{of}",
        }.get(kind)
        assert change.slot == expected, change.key
        assert change.slot is None or change.slot in appliances | {"drive", "hookup"}


@SLOW
def test_what_bothers_more_is_chosen_less() -> None:
    plan = plan_of(
        Sentence(
            place=MOOR,
            start=date(2027, 6, 10),
            bank=Bank(size=60),
            nights=4,
            chargers=[Charger(kind="driving", size=30, every=2, minutes=30)],
            things=[Thing(kind=kind) for kind in ("laptop", "lights", "fan")],
        )
    )
    few = ["hookup", "socket", "aim", "inverter"]
    cheap = found(plan, never=few, bother=Bother(start=0, minute=0.01))
    assert any("Drive" in step for step in cheap.mends[0].steps)
    dear = found(plan, never=few, bother=Bother(start=500, minute=10))
    assert dear.mends
    assert not any("Drive" in step for step in dear.mends[0].steps)


def test_a_plan_that_is_sure_needs_nothing_and_a_hopeless_one_is_told_so() -> None:
    assert found(example("quarry-separate")).mends == []
    plan = plan_of(
        Sentence(
            place=MOOR,
            start=date(2027, 1, 10),
            bank=Bank(size=20),
            nights=6,
            things=[Thing(kind="coolbox"), Thing(kind="breathing")],
        )
    )
    told = found(plan)
    assert not told.reached
    assert "allow a shop" in told.text or "Nothing here" in told.text
    bought = found(plan, shop=True)
    assert not bought.mends or bought.mends[0].lasts_percent >= told.now_percent


def test_the_cheapest_answer_needs_every_one_of_its_moves() -> None:
    plan = example("moth-survey")
    best = found(plan).mends[0]
    by_move = [
        [e for e in best.edits if tuple(e.path[:2]) == path]
        for path in dict.fromkeys(tuple(e.path[:2]) for e in best.edits)
    ]
    if len(by_move) > 1:
        for left_out in by_move:
            kept = [edit for edit in best.edits if edit not in left_out]
            assert lasts(with_edits(plan, kept)) < SURE
