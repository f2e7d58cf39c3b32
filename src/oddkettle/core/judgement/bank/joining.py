"""Judgements about sources that share a battery, and about what they feed without it."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

import numpy as np

from oddkettle.core.judgement.evidence import (
    Evidence,
    Judgement,
    Number,
    hours,
    of_a_built_box,
    source_part,
)
from oddkettle.core.units.conversion import CLASS_V

TOGETHER_H = 0.5
"""Two chargers that give together for less than this on a trip are not spoken of [judgement]."""
APART_V = 0.3
"""Absorption settings that differ by more leave the lower charger idle [judgement, 12 V class]."""
GIVES_A = 0.5


@of_a_built_box
def chargers_in_parallel(evidence: Evidence) -> Iterator[Judgement]:
    """Two chargers on one battery at the same time, as an explanation: when that is harmless."""
    run = evidence.run
    bank = run.case.bank
    if run.case.joining.kind == "selector":
        return
    inside = run.case.joining.members if run.case.joining.kind == "combined" else ()
    rows = [j for j, source in enumerate(run.sources) if source.feed_s == 0.0]
    for one, other in combinations(rows, 2):
        first, second = run.sources[one], run.sources[other]
        both = (run.taken_a[one] > GIVES_A) & (run.taken_a[other] > GIVES_A)
        if hours(both, run) < TOGETHER_H or {first.key, second.key} <= set(inside):
            continue
        volts = [
            (s.profile or run.case.profile).absorption_v * bank.system_v / CLASS_V
            for s in (first, second)
        ]
        apart = abs(volts[0] - volts[1])
        peak = float(np.max((run.taken_a[one] + run.taken_a[other])[both]))
        most = bank.chemistry.charge_limit_c * bank.capacity_ah
        if peak > most:
            # Together they are too strong: charge-too-hard says so.
            return
        lower = first if volts[0] < volts[1] else second
        alike = apart <= APART_V * bank.system_v / CLASS_V
        yield Judgement(
            code="chargers-in-parallel",
            severity="note",
            part=source_part(first),
            text=f"{first.name} and {second.name} charge the battery at the same time.",
            means="That is harmless here: both hold about the same voltage, and together they give "
            f"{peak:.0f} A of the {most:.0f} A that it may take. Their currents add."
            if alike
            else f"That hurts nothing, but {lower.name} holds {apart:.1f} V less: it takes the "
            "battery for full and rests while the other still charges.",
            remedy="Keep their voltages alike, a fuse in each lead, and nothing else between."
            if alike
            else "Set both to the same voltages.",
            source="sources in parallel share by their voltages [textbook]",
            numbers=(
                Number("together", peak, "A"),
                Number("allowed", most, "A"),
                Number("apart", apart, "V"),
            ),
        )
        return


@of_a_built_box
def panel_feeds_loads(evidence: Evidence) -> Iterator[Judgement]:
    """With the battery switched off the panels still feed what hangs on the bar."""
    case = evidence.run.case
    if not case.appliances:
        return
    for array in case.sun:
        lead = evidence.board.of(f"panel-{array.key}")
        if array.controller.kind == "none" or lead is None or not lead.disconnect:
            # Without anything to open them by, isolation-order says it, and more gravely.
            continue
        cold = next((s.volts for s in evidence.run.sources if s.key == array.key), None)
        open_v = lead.need.volts if cold is None else cold.cold_voc_v
        yield Judgement(
            code="panel-feeds-loads",
            severity="note",
            part=f"sun:{array.key}",
            text=f"With the battery switched off, {array.name} still feeds what hangs on the box.",
            means="A controller without its battery cannot hold its voltage: in the sun it may "
            f"pass towards the panels' {open_v:.0f} V, and loads flicker or burn.",
            remedy="Off: the panels first, then the battery. On: the battery first.",
            source="makers of controllers ask for that order [textbook]",
            numbers=(Number("open panels", open_v, "V"),),
        )
        return


RULES = (chargers_in_parallel, panel_feeds_loads)
