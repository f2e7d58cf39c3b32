"""Judgements about things of one voltage in a box of another."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from oddkettle.core.judgement.evidence import (
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    appliance_part,
    of_a_built_box,
)
from oddkettle.core.loads.converter import HEADROOM, OUTPUT_V, size_for
from oddkettle.core.loads.demand import is_stepped_down


@of_a_built_box
def converter_missing(evidence: Evidence) -> Iterator[Judgement]:
    """12 V appliances on a box of 24 V or more, one judgement each."""
    case = evidence.run.case
    if case.bank.system_v <= OUTPUT_V or case.converter is not None:
        return
    alone = [a for a in case.appliances if a.supply == "12v" and not a.takes_24v]
    together_a = sum(a.power_w for a in alone) / OUTPUT_V
    size = size_for(together_a)
    wanted = f"of {size:g} A" if size else f"for {together_a:.0f} A, or several"
    for appliance in alone:
        yield Judgement(
            code="converter-missing",
            severity="danger",
            part=appliance_part(appliance),
            text=f"{appliance.name} is made for 12 V, and this box gives {case.bank.system_v:g} V.",
            means="Twice its voltage burns it, or what lies beside it.",
            remedy=f"A step-down converter {wanted} between the box and everything of 12 V, fused "
            "on both sides; or mark it, where its label says 12/24 V.",
            source="appliances bear the voltage on their label [textbook]",
            numbers=(
                Number("box", case.bank.system_v, "V"),
                Number("converter", HEADROOM * together_a, "A"),
            ),
            fix=Fix(
                f"Put in a 12 V converter of {size:g} A", (Change("converter", ("limit_a",), size),)
            )
            if size
            else Fix(
                "Its label says 12/24 V", (Change(appliance_part(appliance), ("takes_24v",), True),)
            ),
        )


@of_a_built_box
def converter_too_small(evidence: Evidence) -> Iterator[Judgement]:
    """More behind the converter at once than it gives for hours."""
    run, converter = evidence.run, evidence.run.case.converter
    system_v = run.case.bank.system_v
    if converter is None or system_v <= OUTPUT_V:
        return
    behind = {a.key for a in run.case.appliances if is_stepped_down(a, converter, system_v)}
    series = np.zeros(run.grid.steps)
    for draw in run.draws:
        if draw.key in behind:
            series += np.where(draw.asked > 0.0, draw.peak_w, 0.0)
    most_a = float(series.max(initial=0.0)) * converter.efficiency / OUTPUT_V
    if most_a <= converter.limit_a:
        return
    size = size_for(most_a)
    yield Judgement(
        code="converter-too-small",
        severity="fault",
        part="converter",
        text=f"{most_a:.0f} A at 12 V are due at once, and the converter gives "
        f"{converter.limit_a:g} A.",
        means="It folds back or switches off, and all that hangs on it goes out.",
        remedy=f"A converter of {size:g} A, or not all of it at once."
        if size
        else "Two converters, each with a block of its own, or not all of it at once.",
        source="rated output for hours [textbook]",
        numbers=(Number("asked", most_a, "A"), Number("limit", converter.limit_a, "A")),
        fix=Fix(f"Take one of {size:g} A", (Change("converter", ("limit_a",), size),))
        if size
        else None,
    )


RULES = (converter_missing, converter_too_small)
