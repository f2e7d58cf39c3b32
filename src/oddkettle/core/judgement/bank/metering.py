"""Judgements about seeing what the box holds: a box that nobody can read fails without warning."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from oddkettle.core.battery.bank import open_circuit_v
from oddkettle.core.judgement.evidence import (
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    appliance_part,
    of_a_built_box,
)
from oddkettle.core.loads.essential import must_run

FLAT_FROM, FLAT_TO = 0.3, 0.9
FLAT_V = 0.4
"""A 12 V battery whose rested voltage moves less than this between 30 and 90 % cannot be read by
it: the best that lead does is 0.8 V, LiFePO4 has 0.3 V [textbook curves]."""
COUNTERS = ("battery monitor", "coulomb counter", "amp-hour counter", "ah counter")
"""Names of things that count charge [judgement]."""
ADD_SHUNT = Fix("Put in a shunt with a monitor", (Change("wiring", ("shunt",), True),))


@of_a_built_box
def level_unseen(evidence: Evidence) -> Iterator[Judgement]:
    """Nothing in the box shows how much is left."""
    wiring = evidence.run.case.wiring
    if wiring.shunt or wiring.voltmeter:
        return
    must = any(must_run(a) for a in evidence.run.case.appliances)
    yield Judgement(
        code="level-unseen",
        severity="fault",
        part="battery",
        text="Nothing shows how full the battery is.",
        means="The first sign of an empty box is that it is dark"
        + (", and something in it must run." if must else "."),
        remedy="A shunt with a monitor; at the least a voltmeter, read after an hour at rest.",
        source="one cannot look after what one cannot see [judgement]",
        fix=ADD_SHUNT,
    )


@of_a_built_box
def level_by_volts(evidence: Evidence) -> Iterator[Judgement]:
    """A voltmeter alone, on a battery whose voltage hardly moves."""
    case = evidence.run.case
    if case.wiring.shunt or not case.wiring.voltmeter:
        return
    ends = open_circuit_v(case.bank.chemistry, np.array([FLAT_FROM, FLAT_TO]))
    moves = float(ends[1] - ends[0])
    if moves >= FLAT_V:
        return
    yield Judgement(
        code="level-by-volts",
        severity="note",
        part="battery",
        text=f"Only volts are shown, and from {100 * FLAT_FROM:.0f} to {100 * FLAT_TO:.0f} % a "
        f"{case.bank.chemistry.name} battery moves {moves:.1f} V.",
        means="A reading there is worth 20 points one way or the other.",
        remedy="A shunt that counts tells the level to a few points.",
        source="its rested curve [textbook]",
        numbers=(Number("moves", moves, "V"), Number("less than", FLAT_V, "V")),
        fix=ADD_SHUNT,
    )


@of_a_built_box
def counted_without_shunt(evidence: Evidence) -> Iterator[Judgement]:
    """A monitor that counts is in the plan, and there is no shunt for it to count by."""
    if evidence.run.case.wiring.shunt:
        return
    for appliance in evidence.run.case.appliances:
        if not any(name in appliance.name.lower() for name in COUNTERS):
            continue
        yield Judgement(
            code="counted-without-shunt",
            severity="fault",
            part=appliance_part(appliance),
            text=f"{appliance.name} counts charge, and the box has no shunt.",
            means="A counter without a shunt in the main negative sees only what passes through "
            "itself: it shows full while the battery empties.",
            remedy="A shunt between the battery and everything else.",
            source="how such counters work [textbook]",
            fix=ADD_SHUNT,
        )


RULES = (level_unseen, level_by_volts, counted_without_shunt)
