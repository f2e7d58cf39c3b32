"""Judgements about things of one voltage in a box of another."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.judgement.evidence import (
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    appliance_part,
)

LOW_V = 12.0
CONVERTERS_A = (5.0, 10.0, 15.0, 20.0, 30.0, 40.0, 60.0)
"""Step-down converters as they are sold, by their 12 V output [A, standard series]."""
HEADROOM = 1.25
"""Over what hangs on it for hours [textbook]."""


def converter_missing(evidence: Evidence) -> Iterator[Judgement]:
    """12 V appliances on a box of 24 V or more, one judgement each."""
    case = evidence.run.case
    if case.bank.system_v <= LOW_V or case.unit is not None:
        return
    alone = [a for a in case.appliances if a.supply == "12v" and not a.takes_24v]
    together_a = HEADROOM * sum(a.power_w for a in alone) / LOW_V
    size = next((amps for amps in CONVERTERS_A if amps >= together_a), None)
    wanted = f"of {size:g} A" if size else f"for {together_a:.0f} A, or several"
    for appliance in alone:
        yield Judgement(
            code="converter-missing",
            severity="danger",
            part=appliance_part(appliance),
            text=f"{appliance.name} is made for 12 V, and this box gives {case.bank.system_v:g} V.",
            means="Twice its voltage burns it, or what lies beside it.",
            remedy=f"A step-down converter {wanted} between the box and everything of 12 V, fused "
            "on both sides; or mark it, where its label says 12/24 V. The circuits drawn here "
            "have no converter.",
            source="appliances bear the voltage on their label [textbook]",
            numbers=(Number("box", case.bank.system_v, "V"), Number("converter", together_a, "A")),
            fix=Fix(
                "Its label says 12/24 V", (Change(appliance_part(appliance), ("takes_24v",), True),)
            ),
        )


RULES = (converter_missing,)
