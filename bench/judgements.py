"""Judgements held against boxes that nobody here designed: the confusion table.

Sensible boxes at random, and each known mistake made in several of them; the generator is the
tests' own. Prints what was raised of each, and how often something was raised that was not meant.
"""

from __future__ import annotations

import time
from collections import Counter
from collections.abc import Iterator
from itertools import count, islice

from tests.core.judgement.cases.mistakes import MISTAKES
from tests.core.judgement.cases.sensible import Document, made, sensible

from oddkettle.core.judgement import SEVERITIES, judge
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.core.simulation.run_metrics import keeps_reserve
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.usecases.simulate.check import judge_plan
from oddkettle.usecases.simulate.remedies import report_judgements, with_edits

SOUND, EACH = 200, 4
GRAVE = SEVERITIES[:2]


def tried(document: Document) -> Iterator[tuple[str, str]]:
    """(code, outcome) of every remedy that is offered for a box, applied and run."""
    plan = Plan.model_validate(document)
    run = simulate(case_from_plan(plan))
    found = {(j.code, j.part): j for j in report_judgements(plan, run, keep_ledger(run))}
    for own, judged in found.items():
        if judged.fix is None:
            yield judged.code, "none offered"
            continue
        other = simulate(case_from_plan(with_edits(plan, judged.fix.edits)))
        after = {(j.code, j.part): j.severity for j in judge(other, keep_ledger(other))}
        as_grave = GRAVE[: SEVERITIES.index(judged.severity) + 1]
        graver = [
            key
            for key, severity in after.items()
            if severity in as_grave and (key not in found or found[key].severity not in as_grave)
        ]
        if own in after:
            yield judged.code, "still"
        elif graver:
            yield judged.code, f"graver: {graver[0][0]}"
        elif keeps_reserve(run) and not keeps_reserve(other):
            yield judged.code, "worse"
        else:
            yield judged.code, "silent"


def grave(document: Document) -> set[str]:
    """Codes above a note."""
    return {j.code for j in judge_plan(Plan.model_validate(document)) if j.severity != "note"}


def main() -> None:
    """Print the table."""
    begin = time.perf_counter()
    false: Counter[str] = Counter()
    for seed in range(SOUND):
        false.update(grave(sensible(seed)))
    alarmed = sum(false.values())
    print(f"{SOUND} sensible boxes: {alarmed} judgements above a note {dict(false) or ''}")
    print(f"{'mistake':36s} {'raises':26s} raised  others above a note")
    hit = tried_boxes = 0
    outcomes: Counter[str] = Counter()
    for seed in range(SOUND):
        outcomes.update(outcome for _, outcome in tried(sensible(seed)))
    for mistake in MISTAKES:
        boxes = (box for seed in count(1000) if mistake.needs(box := sensible(seed)))
        raised, others = 0, Counter[str]()
        for box in islice(boxes, EACH):
            wrong = made(mistake, box)
            outcomes.update(outcome for _, outcome in tried(wrong))
            found = judge_plan(Plan.model_validate(wrong))
            raised += any(j.code == mistake.raises for j in found)
            others.update({j.code for j in found if j.severity != "note"} - {mistake.raises})
        hit, tried_boxes = hit + raised, tried_boxes + EACH
        beside = ", ".join(f"{code} {n}" for code, n in others.most_common(3))
        print(f"{mistake.name:36s} {mistake.raises:26s} {raised} of {EACH}  {beside}")
    print(f"raised {hit} of {tried_boxes} in all, {time.perf_counter() - begin:.0f} s")
    print("remedies, applied and run:", dict(outcomes))


if __name__ == "__main__":
    main()
