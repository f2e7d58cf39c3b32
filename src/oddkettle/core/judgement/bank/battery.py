"""Judgements about the battery: what of it is usable, how it is used, charged, warmed and worn."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from oddkettle.core.battery.ageing import age
from oddkettle.core.battery.temperature import INSULATED_LAG_H
from oddkettle.core.judgement.evidence import (
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    hours,
    of_a_built_box,
    source_part,
    used_wh,
)
from oddkettle.core.simulation.run_metrics import full_steps, locked_steps
from oddkettle.core.units.conversion import HOURS_PER_DAY
from oddkettle.core.units.quantity import celsius
from oddkettle.core.units.sold_sizes import BATTERY_AH, at_least, at_most, next_up

SOFT_C = 0.08
"""Charge below this share of capacity never brings a cycled lead bank through absorption in a
day [textbook]."""
CYCLED_DEPTH = 0.10
HEATER_SHARE = 0.15
AGEING_DAYS = 3
MIN_CYCLES, FLAT = 0.1, 0.02
NO_SHARE_A = 1e9


@of_a_built_box
def usable_not_nameplate(evidence: Evidence) -> Iterator[Judgement]:
    """Always, as an explanation: what of the nameplate is usable."""
    case = evidence.run.case
    bank = case.bank
    usable = case.usable_ah
    yield Judgement(
        code="usable-not-nameplate",
        severity="note",
        part="battery",
        text=f"Of {bank.capacity_ah:.0f} Ah on the label, {usable:.0f} Ah lie above your reserve.",
        means=f"That is {usable * bank.nominal_v:.0f} Wh; plan with it, not with the label.",
        remedy=f"Its makers advise using at most {100 * bank.chemistry.usable_share:.0f} %.",
        source=bank.chemistry.sources["usable_share"].text,
        numbers=(
            Number("nameplate", bank.capacity_ah, "Ah"),
            Number("usable", usable, "Ah"),
        ),
    )


@of_a_built_box
def over_deep(evidence: Evidence) -> Iterator[Judgement]:
    """The run takes it below the chemistry's healthy floor."""
    run = evidence.run
    chemistry = run.case.bank.chemistry
    healthy = 1.0 - chemistry.usable_share
    low = float(run.level.min())
    if round(100 * (healthy - low)) < 1:
        return
    deep_h = hours(run.level[:-1] < healthy, run)
    each = _large_enough(evidence, healthy)
    # A level that stops at nought does not say how much less would do.
    less = f"Use {100 * (healthy - low):.0f} points less" if low > 0.0 else "Use less"
    yield Judgement(
        code="over-deep",
        severity="fault",
        part="battery",
        text=f"It falls to {100 * max(low, 0.0):.0f} %; {chemistry.name} should keep "
        f"{100 * healthy:.0f} %.",
        means=f"It stands below that for {deep_h:.0f} h on this trip, which costs cycles.",
        remedy=f"{less}, or bring more charge: no battery that is sold is enough by itself."
        if each is None
        else f"{less}, or take {'batteries' if run.case.bank.parallel > 1 else 'a battery'} of "
        f"{each:g} Ah.",
        source=chemistry.sources["usable_share"].text,
        numbers=(Number("lowest", 100 * low, "%"), Number("healthy floor", 100 * healthy, "%")),
        fix=None
        if each is None
        else Fix(f"Try {each:g} Ah", (Change("battery", ("capacity_ah",), each),)),
    )


def _large_enough(evidence: Evidence, healthy: float) -> float | None:
    """The smallest battery that is sold with which the trip stays above a level [Ah]; it is run.

    None where none does.
    """
    bank = evidence.run.case.bank
    for size in (one for one in BATTERY_AH if one > bank.battery_ah):
        tried = evidence.instead(bank=replace(bank, battery_ah=float(size)))
        if float(tried.level.min()) >= healthy:
            return float(size)
    return None


def never_full(evidence: Evidence) -> Iterator[Judgement]:
    """Lead that is not brought through absorption for a week sulphates."""
    run = evidence.run
    chemistry = run.case.bank.chemistry
    allowed = chemistry.full_within_days
    if allowed is None:
        return
    marks = np.concatenate([[0], full_steps(run), [run.grid.steps]])
    longest = float(np.diff(marks).max()) * run.grid.step_h / HOURS_PER_DAY
    if longest <= allowed:
        return
    yield Judgement(
        code="never-full",
        severity="fault",
        part="battery",
        text=f"For {longest:.0f} days on end it is not brought to full.",
        means=f"{chemistry.name} that is not filled within {allowed:.0f} days sulphates.",
        remedy=f"Plan one long mains charge at least every {allowed:.0f} days.",
        source="common lead-acid care [textbook]",
        numbers=(Number("longest without", longest, "days"), Number("allowed", allowed, "days")),
    )


def arrives_a(evidence: Evidence, place: int) -> float:
    """Most that a source can bring into the battery [A]: its label through what limits it.

    Panels by their watts through their controller, a relay by what it passed, others by their
    rating; all within a limit that they share.
    """
    run = evidence.run
    source = run.sources[place]
    most = source.rating_a
    array = next((a for a in run.case.sun if a.key == source.key), None)
    if array is not None:
        watts = sum(panel.power_w * panel.count for panel in array.panels)
        volts = run.case.bank.nominal_v
        most = min(most, watts * array.controller.efficiency / volts)
    elif source.feed_s > 0.0:
        most = float(run.taken_a[place].max(initial=0.0))
    return min(float(most), run.world.offers.shared_a)


@of_a_built_box
def charge_too_hard(evidence: Evidence) -> Iterator[Judgement]:
    """Sources that can run at once give more than the battery may be charged with."""
    run = evidence.run
    bank = run.case.bank
    most = bank.chemistry.charge_limit_c * bank.capacity_ah
    second = run.case.second
    if second is not None and second.always:
        # Two banks that are always joined share what comes in.
        most += second.bank.chemistry.charge_limit_c * second.bank.capacity_ah
    together = np.zeros(run.grid.steps)
    for j, source in enumerate(run.sources):
        # A relay's limit is its fuse; what its wire lets through is what counts.
        if source.feed_s > 0.0:
            together += run.taken_a[j]
        else:
            together += np.minimum(source.limit_a, arrives_a(evidence, j))
    shared = run.world.offers.shared_a
    peak = min(float(together.max(initial=0.0)), shared)
    if peak <= most:
        return
    needs = next_up(BATTERY_AH, peak / bank.chemistry.charge_limit_c)
    strongest = max(run.sources, key=lambda source: source.rating_a)
    left = at_most(strongest.rating_a - (peak - most))
    field = ("controller", "limit_a") if strongest.kind == "sun" else ("limit_a",)
    yield Judgement(
        code="charge-too-hard",
        severity="fault",
        part="battery",
        text=f"Its chargers together can give {peak:.0f} A; it may be charged with "
        f"{at_most(most):g} A.",
        means="Not every charger holds back for the battery: it heats and ages, or its management "
        "system shuts off.",
        remedy=f"Set the chargers to {at_most(most):g} A in all, or take a bank of {needs:.0f} Ah.",
        source=bank.chemistry.sources["charge_limit_c"].text,
        numbers=(Number("together", peak, "A"), Number("allowed", most, "A")),
        fix=Fix(
            f"Set {strongest.name} to {left:g} A",
            (Change(source_part(strongest), field, left),),
        )
        if left >= 1.0 and strongest.feed_s == 0.0 and shared >= NO_SHARE_A
        else None,
    )


@of_a_built_box
def charge_too_soft_lead(evidence: Evidence) -> Iterator[Judgement]:
    """A cycled lead bank on a small charger never gets through absorption in a day."""
    run = evidence.run
    bank = run.case.bank
    cycled = float(run.level.max() - run.level.min()) > CYCLED_DEPTH
    if not bank.chemistry.lead or not cycled or not run.sources:
        return
    together = sum((arrives_a(evidence, j) for j in range(len(run.sources))), start=0.0)
    least = SOFT_C * bank.capacity_ah
    if together >= least:
        return
    yield Judgement(
        code="charge-too-soft-lead",
        severity="fault",
        part="battery",
        text=f"All its sources together bring {together:.1f} A at most, for "
        f"{bank.capacity_ah:.0f} Ah.",
        means="A cycled lead bank then does not get through absorption in a day.",
        remedy=f"Have at least {at_least(least):g} A of charge, from whatever source.",
        source="0.08 of capacity [textbook]",
        numbers=(Number("brings", together, "A"), Number("least", least, "A")),
    )


def cold_charge_lockout(evidence: Evidence) -> Iterator[Judgement]:
    """A source offers while the battery is too cold to be charged."""
    run = evidence.run
    barred_c = run.case.bank.chemistry.cold.barred_below_c
    ready = run.case.unit is not None
    locked = locked_steps(run)
    if not locked.any():
        return
    locked_h = hours(locked, run)
    volts = np.maximum(run.track.bus_v, 1e-9)
    offers = np.zeros(run.grid.steps)
    for source in run.sources:
        offers += np.minimum(source.offer_w / volts, source.limit_a)
    ah = float(offers[locked].sum() * run.grid.step_h)
    yield Judgement(
        code="cold-charge-lockout",
        severity="fault",
        part="battery",
        text=f"For {locked_h:.0f} h a source offers while the battery is below "
        f"{celsius(barred_c)}.",
        means=f"It must not be charged then: up to {evidence.charge(ah)} are kept out.",
        remedy=f"Keep it above {celsius(barred_c)}: "
        + ("indoors, or insulated." if ready else "indoors, insulated, or with heater pads."),
        fix=Fix("Try heater pads", (Change("warmth", ("heater",), True),))
        if run.case.heater is None and not ready
        else Fix("Try it insulated", (Change("warmth", ("lag_h",), INSULATED_LAG_H),))
        if run.case.bank.housing.lag_h < INSULATED_LAG_H
        else None,
        source=run.case.bank.chemistry.sources["cold"].text,
        numbers=(Number("locked", locked_h, "h"), Number("kept out", ah, "Ah")),
    )


def heater_costs(evidence: Evidence) -> Iterator[Judgement]:
    """Pads take a large share of what the box gives."""
    heat = float(evidence.ledger.heater.wh.sum())
    use = used_wh(evidence)
    nights = max(evidence.run.case.nights or evidence.run.case.days, 1)
    if heat <= HEATER_SHARE * use:
        return
    yield Judgement(
        code="heater-costs",
        severity="waste",
        part="warmth",
        text=f"Keeping the battery warm takes {heat:.0f} Wh beside {use:.0f} Wh of use: "
        f"{heat / nights:.0f} Wh a night.",
        means="Warmth through thin walls is the dearest appliance in the box.",
        remedy="Insulate first: at 12 h of lag it takes about a third of what a bare battery does.",
        fix=Fix("Try it insulated", (Change("warmth", ("lag_h",), INSULATED_LAG_H),))
        if evidence.run.case.bank.housing.lag_h < INSULATED_LAG_H
        else None,
        source="heater energy above 15 % of use [judgement]",
        numbers=(
            Number("heater", heat, "Wh"),
            Number("heater", heat / nights, "Wh a night"),
            Number("use", use, "Wh"),
        ),
    )


@of_a_built_box
def discharge_over_limit(evidence: Evidence) -> Iterator[Judgement]:
    """Everything due at once asks more than the battery or its management system gives."""
    run = evidence.run
    bank = run.case.bank
    most = bank.chemistry.discharge_limit_c * bank.capacity_ah
    peak_w = sum(d.peak_w for d in run.draws)
    peak = peak_w / bank.nominal_v
    if round(peak) <= round(most):
        return
    yield Judgement(
        code="discharge-over-limit",
        severity="fault",
        part="battery",
        text=f"All appliances running at once take {peak:.0f} A; it gives {most:.0f} A.",
        means="Its management system may trip off at that moment, and everything goes dark.",
        remedy=f"Do not run them together, or take a bank that gives {peak:.0f} A.",
        source="common datasheet ceiling of one capacity an hour [textbook]",
        numbers=(Number("peak", peak, "A"), Number("allowed", most, "A")),
    )


def ageing(evidence: Evidence) -> Iterator[Judgement]:
    """Always on trips of three days and more, as an explanation."""
    run = evidence.run
    if run.case.days < AGEING_DAYS:
        return
    chemistry = run.case.bank.chemistry
    aged = age(chemistry, run.level, run.grid.step_h)
    low, high = chemistry.life.span(100 * aged.life)
    yield Judgement(
        code="ageing",
        severity="note",
        part="battery",
        text=_cycles_words(aged.full_cycles, aged.deepest, float(run.level.min())),
        means=f"That is {low:.2g} to {high:.2g} % of its life, "
        f"{'by cycles' if aged.cycle_share >= aged.calendar_share else 'by the calendar'}.",
        remedy="Shallower cycles cost less than their share.",
        source=chemistry.sources["life"].text,
        numbers=(Number("full cycles", aged.full_cycles, ""), Number("life", 100 * aged.life, "%")),
    )


def _cycles_words(full_cycles: float, deepest: float, lowest: float) -> str:
    """How much of its life's work a trip is: a battery that is kept flat hardly cycles at all."""
    if full_cycles >= MIN_CYCLES:
        return f"The trip is {full_cycles:.1f} full cycles, the deepest {100 * deepest:.0f} %."
    if lowest < FLAT:
        return "It is run flat and stays so: there is little in it to cycle."
    return f"The trip is less than a tenth of a full cycle, the deepest {100 * deepest:.0f} %."


RULES = (
    usable_not_nameplate,
    over_deep,
    never_full,
    charge_too_hard,
    charge_too_soft_lead,
    cold_charge_lockout,
    heater_costs,
    discharge_over_limit,
    ageing,
)
