"""Judgements about a ready-made unit: what comes out of it, what its inputs and outlets bear."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from oddkettle.core.construction.parts.prices import READY_MADE_KG_PER_KWH
from oddkettle.core.judgement.evidence import (
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    amp_hours,
    source_part,
)
from oddkettle.core.judgement.place import HEAVY_KG
from oddkettle.core.judgement.sources.panels import CLIP_SHARE
from oddkettle.core.simulation.run import UNIT_STANDBY
from oddkettle.core.units.conversion import HOURS_PER_DAY
from oddkettle.core.units.quantity import charge, kilogram

OWN_SHARE = 0.1
"""From here on what a unit takes while nothing runs is worth a word [judgement]."""


def usable_of_label(evidence: Evidence) -> Iterator[Judgement]:
    """Always, as an explanation: what of the label comes out, and what must go in again."""
    case = evidence.run.case
    if case.unit is None:
        return
    label = case.bank.nominal_wh
    out = label * (1.0 - case.floor) * case.unit.usable
    by_12v = out * case.unit.dc_efficiency
    yield Judgement(
        code="usable-not-nameplate",
        severity="note",
        part="battery",
        text=f"Of {label:.0f} Wh on the label, {out:.0f} Wh come out above your reserve.",
        means=f"Through its 12 V outlets that is {by_12v:.0f} Wh. All {label:.0f} Wh must go in to "
        "fill it again.",
        remedy="Plan with what comes out, not with the label.",
        source="what is lost inside, as entered; usual units lose a tenth [textbook]",
        numbers=(Number("label", label, "Wh"), Number("comes out", out, "Wh")),
    )


def own_draw(evidence: Evidence) -> Iterator[Judgement]:
    """A unit that is on day and night for little: its own draw is much of all use."""
    case, run = evidence.run.case, evidence.run
    if case.unit is None or case.unit.off_unused or case.unit.standby_w <= 0.0:
        return
    means = {draw.key: float(draw.asked_w.mean()) for draw in run.draws}
    own_w, all_w = means.get(UNIT_STANDBY, 0.0), sum(means.values())
    others = [draw.asked_w > 0.0 for draw in run.draws if draw.key != UNIT_STANDBY]
    idle = 1.0 - float(np.any(others, axis=0).mean()) if others else 1.0
    spared_w = own_w * idle
    if spared_w < OWN_SHARE * max(all_w, 1e-9):
        return
    volts = case.bank.nominal_v
    daily = charge(HOURS_PER_DAY * own_w / volts, HOURS_PER_DAY * own_w)
    spared = charge(HOURS_PER_DAY * spared_w / volts, HOURS_PER_DAY * spared_w)
    yield Judgement(
        code="unit-own-draw",
        severity=evidence.loss,
        part="unit",
        text=f"Being on, the unit takes {daily} a day for itself, {100 * own_w / all_w:.0f} % of "
        "all use.",
        means=f"{spared} of it go while nothing runs.",
        remedy="Switch its outputs off when nothing runs, at night above all.",
        source="the run, with what its own draw is stated as",
        numbers=(Number("own draw", own_w, "W"), Number("all use", all_w, "W")),
        fix=Fix("Outputs off while nothing runs", (Change("unit", ("off_unused",), True),)),
    )


def input_over(evidence: Evidence) -> Iterator[Judgement]:
    """One of its inputs, or all together, take less than is offered."""
    case = evidence.run.case
    if case.unit is None:
        return
    limits = {key: (one.name, one.limit_w) for one in case.unit.inputs for key in one.members}
    for source, flow in zip(evidence.run.sources, evidence.ledger.sources, strict=True):
        lost, offered = amp_hours(flow.clipped), amp_hours(flow.offered)
        if lost <= CLIP_SHARE * offered:
            continue
        name, limit_w = limits.get(source.key, ("Its inputs together", case.unit.input_w))
        if limit_w is None:
            continue
        yield Judgement(
            code="unit-input-over",
            severity=evidence.loss,
            part=source_part(source),
            text=f"{source.name} offers more than the unit takes: {name} "
            f"{'take' if source.key not in limits else 'takes'} {limit_w:.0f} W.",
            means=f"{evidence.charge(lost)} of {evidence.charge(offered)} are not taken on this "
            "trip.",
            remedy="A smaller panel or charger would do as well; or use another input beside it.",
            source="the unit's label, and the run",
            numbers=(Number("not taken", lost, "Ah"), Number("input takes", limit_w, "W")),
        )


def outlets_over(evidence: Evidence) -> Iterator[Judgement]:
    """Everything on its 12 V and USB outlets at once asks more than they give together."""
    case, run = evidence.run.case, evidence.run
    if case.unit is None or case.unit.dc_output_w is None:
        return
    on_it = {a.key for a in case.appliances if a.supply != "inverter"}
    together = np.zeros(run.grid.steps)
    passes = case.unit.dc_efficiency * case.unit.usable
    for draw in run.draws:
        if draw.key in on_it:
            together += np.where(draw.asked_w > 0.0, draw.peak_w, 0.0) * passes
    peak = float(together.max(initial=0.0))
    if peak <= case.unit.dc_output_w:
        return
    yield Judgement(
        code="unit-outlets-over",
        severity="fault",
        part="use",
        text=f"On the unit's 12 V and USB outlets {peak:.0f} W run at once; they give "
        f"{case.unit.dc_output_w:.0f} W.",
        means="It switches those outlets off, and all that hangs on them.",
        remedy="Let them run one after the other, or put one of them on its mains outlet.",
        source="the unit's label",
        numbers=(Number("at once", peak, "W"), Number("they give", case.unit.dc_output_w, "W")),
    )


def unit_is_heavy(evidence: Evidence) -> Iterator[Judgement]:
    """A unit that nobody should carry alone."""
    case = evidence.run.case
    if case.unit is None:
        return
    kg = READY_MADE_KG_PER_KWH * case.bank.nominal_wh / 1000.0
    if kg <= HEAVY_KG:
        return
    yield Judgement(
        code="heavy-lift",
        severity="note",
        part="battery",
        text=f"A unit of this size weighs about {kilogram(kg, '.0f')}.",
        means="Backs and fingers are hurt at the last step into the vehicle.",
        remedy="Carry it with two people or wheels.",
        source="usual units weigh so much for each kWh [judgement]",
        numbers=(Number("it weighs", kg, "kg"),),
    )


RULES = (usable_of_label, own_draw, input_over, outlets_over, unit_is_heavy)
