"""Judgements held against boxes that nobody here designed: the confusion table.

Sensible boxes at random, and each known mistake made in several of them; the generator is the
tests' own. Prints what was raised of each, and how often something was raised that was not meant.
"""

from __future__ import annotations

import time
from collections import Counter
from itertools import count, islice

from tests.core.judgement.cases.mistakes import MISTAKES
from tests.core.judgement.cases.sensible import Document, made, sensible

from oddkettle.plan import Plan
from oddkettle.usecases.simulate.check import judge_plan

SOUND, EACH = 200, 4


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
    hit = tried = 0
    for mistake in MISTAKES:
        boxes = (box for seed in count(1000) if mistake.needs(box := sensible(seed)))
        raised, others = 0, Counter[str]()
        for box in islice(boxes, EACH):
            found = judge_plan(Plan.model_validate(made(mistake, box)))
            raised += any(j.code == mistake.raises for j in found)
            others.update({j.code for j in found if j.severity != "note"} - {mistake.raises})
        hit, tried = hit + raised, tried + EACH
        beside = ", ".join(f"{code} {n}" for code, n in others.most_common(3))
        print(f"{mistake.name:36s} {mistake.raises:26s} {raised} of {EACH}  {beside}")
    print(f"raised {hit} of {tried} in all, {time.perf_counter() - begin:.0f} s")


if __name__ == "__main__":
    main()
