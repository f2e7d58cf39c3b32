"""What is offered was tried: each button of each judgement is pressed and the box run again."""

from __future__ import annotations

from itertools import count, islice

import pytest

from oddkettle.core.judgement import SEVERITIES, Judgement, judge
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import Run, simulate
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.usecases.simulate.remedies import report_judgements, with_edits
from tests.conftest import example
from tests.core.judgement.cases.mistakes import MISTAKES
from tests.core.judgement.cases.sensible import Mistake, made, sensible
from tests.support.tiers import repeats

EACH = repeats(1, 1, 4)


def look(plan: Plan) -> tuple[Run, dict[tuple[str, str], Judgement]]:
    run = simulate(case_from_plan(plan))
    return run, {(j.code, j.part): j for j in judge(run, keep_ledger(run))}


def rank(judgement: Judgement | None) -> int:
    return len(SEVERITIES) if judgement is None else SEVERITIES.index(judgement.severity)


@pytest.mark.parametrize("mistake", MISTAKES, ids=lambda mistake: mistake.name)
def test_what_is_offered_for_a_mistake_mends_it(mistake: Mistake) -> None:
    boxes = (box for seed in count(2000) if mistake.needs(box := sensible(seed)))
    for box in islice(boxes, EACH):
        plan = Plan.model_validate(made(mistake, box))
        run, before = look(plan)
        for shown in report_judgements(plan, run, keep_ledger(run)):
            if shown.fix is None:
                continue
            own = (shown.code, shown.part)
            other, after = look(with_edits(plan, shown.fix.edits))
            assert own not in after, shown.fix.text
            for key, found in after.items():
                # Nothing that is as grave, and above a note, comes up in its place.
                as_grave = rank(found) <= min(rank(before[own]), SEVERITIES.index("fault"))
                assert not as_grave or rank(before.get(key)) <= rank(found), (shown.fix.text, key)
            kept, keeps = (one.level.min() >= one.case.fails_below for one in (run, other))
            assert keeps or not kept


def test_a_battery_that_no_size_saves_is_offered_none() -> None:
    (mistake,) = (one for one in MISTAKES if one.name == "flat every night")
    box = next(box for seed in count(2000) if mistake.needs(box := sensible(seed)))
    run, before = look(Plan.model_validate(made(mistake, box)))
    (deep,) = (j for (code, _), j in before.items() if code == "over-deep")
    assert run.level.min() <= 0.01
    # A level that stops at nought does not say how much less would do.
    assert "points less" not in deep.remedy
    assert "no battery that is sold is enough by itself" in deep.remedy
    assert deep.fix is None


def test_a_fridge_that_is_typed_as_a_plain_load_becomes_one_with_a_press() -> None:
    document = example("moth-survey").model_dump(mode="json")
    cool = next(a for a in document["use"]["appliances"] if a["id"] == "coolbox")
    cool["pattern"] = None
    plan = Plan.model_validate(document)
    run, _ = look(plan)
    shown = {one.code: one for one in report_judgements(plan, run, keep_ledger(run))}
    fix = shown["fridge-as-plain"].fix
    assert fix is not None
    mended = with_edits(plan, fix.edits)
    pattern = next(a.pattern for a in mended.use.appliances if a.id == "coolbox")
    assert pattern is not None
    assert pattern.type == "fridge"
