"""The guided capacity test: its steps for this box, and what came of it."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel

from oddkettle.core.battery.bank import Bank, open_circuit_v
from oddkettle.core.estimation.counted_capacity import capacity_from_discharge
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.ensemble_statistics import MIDDLE_80
from oddkettle.plan import Plan
from oddkettle.plan import quantities as q
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.plan_errors import PlanRefused, from_fault
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.judgements import Remedy
from oddkettle.results.odds import Band
from oddkettle.usecases.plans.plans import open_plan
from oddkettle.usecases.simulate.edits import edit

MIN_DOUBT_PERCENT = 1.5
TEST_END = {True: 0.5, False: 0.2}
"""Down to where, for lead and for others: lead pays for each deep discharge with its life."""
REST_H = {True: 6, False: 2}
GENTLE_C = {True: 0.05, False: 0.1}
"""Lead gives its label's capacity at the 20 h rate."""


class CapacityAsked(BaseModel):
    """What was counted since full, and how it ended: a rested voltage, or none at a cut-out."""

    drawn_ah: q.AmpHours
    rested_v: q.RestedVolts | None = None


class CapacityGuide(LazyModel):
    """The test step by step, with the figures of this box."""

    steps: list[str]
    caution: str


class CapacityFound(LazyModel):
    """What the battery holds [Ah], in words, and the edits that take it over."""

    ah: Band
    of_label_percent: Band
    text: str
    take_over: Remedy


def guide_test(plan_id: int) -> CapacityGuide:
    """The capacity test for a plan's box."""
    bank = _bank(open_plan(plan_id).document)
    kind = bank.chemistry
    end = TEST_END[kind.lead]
    volts = float(open_circuit_v(kind, np.array([end]))[0]) * bank.volts_scale
    amps = GENTLE_C[kind.lead] * bank.capacity_ah
    tail = kind.tail_c * bank.capacity_ah
    return CapacityGuide(
        steps=[
            f"Charge it until no more than {tail:.1f} A flow in at the absorption voltage. Then "
            "set the counter of your monitor to nought.",
            "Switch every charger off: sun, vehicle and mains.",
            f"Let things run that draw about {amps:.0f} A together, not more, until the monitor "
            f"shows about {100 * end:.0f} %.",
            f"Switch all of it off, wait {REST_H[kind.lead]} hours, and read the voltage: about "
            f"{volts:.2f} V is {100 * end:.0f} %.",
            "Enter the amp-hours that went out and that voltage below. If it cut out on the way, "
            "leave the voltage empty. Charge it again at once.",
        ],
        caution=(
            "A deep discharge wears lead: do this once a year, not oftener."
            if kind.lead
            else "Do it at room temperature, and not before a night on which somebody depends on "
            "the box."
        ),
    )


def find_capacity(plan_id: int, asked: CapacityAsked) -> CapacityFound:
    """What a plan's battery holds by the test. Raises PlanRefused with value, limit, remedy."""
    plan = open_plan(plan_id).document
    bank = _bank(plan)
    try:
        found = capacity_from_discharge(bank, asked.drawn_ah, asked.rested_v)
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from None
    label = bank.capacity_ah
    ended = (
        "until it cut out"
        if asked.rested_v is None
        else f"down to {100 * found.end:.0f} % ({100 * found.end_low:.0f} to "
        f"{100 * found.end_high:.0f})"
    )
    return CapacityFound(
        ah=Band(low=found.low_ah, middle=found.ah, high=found.high_ah),
        of_label_percent=Band(
            low=100 * found.low_ah / label,
            middle=100 * found.ah / label,
            high=100 * found.high_ah / label,
        ),
        text=f"It gave {asked.drawn_ah:g} Ah from full {ended}: it holds {found.ah:.0f} Ah "
        f"({found.low_ah:.0f} to {found.high_ah:.0f}), {100 * found.ah / label:.0f} % of its "
        "label. Set your monitor to the same.",
        take_over=_taken(plan, bank, found.ah, found.spread),
    )


def _taken(plan: Plan, bank: Bank, ah: float, spread: float) -> Remedy:
    doubt = max(round(100 * spread / MIDDLE_80, 1), MIN_DOUBT_PERCENT)
    unsure = [
        edit("box", "battery", "age", to="measured"),
        edit("assumptions", "capacity_doubt_percent", to=doubt),
    ]
    if plan.box.unit is not None:
        wh = round(plan.box.unit.capacity_wh * ah / bank.capacity_ah)
        return Remedy(
            text=f"Take {wh:g} Wh over", edits=[edit("box", "unit", "capacity_wh", to=wh), *unsure]
        )
    each = round(ah / plan.box.battery.parallel, 1)
    return Remedy(
        text=f"Take {each:g} Ah over",
        edits=[
            edit("box", "battery", "capacity_ah", to=each),
            *unsure,
        ],
    )


def _bank(plan: Plan) -> Bank:
    try:
        return case_from_plan(plan).bank
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from None
