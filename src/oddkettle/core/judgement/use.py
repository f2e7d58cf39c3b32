"""Judgements about what hangs on the box: inverter, standby, the fridge, radio noise."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.judgement.evidence import Evidence, Judgement, Number, amp_hours, used_wh
from oddkettle.core.loads import INVERTER_KEY
from oddkettle.core.patterns import Fridge
from oddkettle.core.units import HOURS_PER_DAY

STANDBY_SHARE = 0.10
LONG_DRIVES_H, WEAK_CHARGER_C = 3.0, 0.15


def inverter_idle(evidence: Evidence) -> Iterator[Judgement]:
    """An inverter left on with nothing behind it."""
    inverter = evidence.run.case.inverter
    if inverter is None or not inverter.always_on:
        return
    idle = next((d for d in evidence.run.draws if d.key == INVERTER_KEY), None)
    loads = [a for a in evidence.run.case.appliances if a.supply == "inverter"]
    if idle is None:
        return
    busy = sum(w.end_min - w.start_min for a in loads for w in a.windows if w.end_min > w.start_min)
    free_h = max(HOURS_PER_DAY - busy / 60.0, 0.0)
    lost = inverter.idle_w / inverter.efficiency * free_h / evidence.run.case.bank.nominal_v
    if free_h <= 0.0:
        return
    yield Judgement(
        code="inverter-idle",
        severity="waste",
        part="inverter",
        says=f"The inverter is on day and night; for {free_h:.0f} h a day nothing hangs on it.",
        means=f"It takes {lost:.1f} Ah a day for itself then.",
        remedy="Switch it with its appliances.",
        source="its no-load draw",
        numbers=(Number("lost", lost, "Ah a day"),),
    )


def inverter_too_small(evidence: Evidence) -> Iterator[Judgement]:
    """An appliance, or its start, above what the inverter gives."""
    inverter = evidence.run.case.inverter
    if inverter is None:
        return
    able = inverter.rating_w if inverter.surge_w is None else inverter.surge_w
    for appliance in evidence.run.case.appliances:
        if appliance.supply != "inverter":
            continue
        starts = max(appliance.surge_w, appliance.power_w)
        if appliance.power_w <= inverter.rating_w and starts <= able:
            continue
        wanted = max(appliance.power_w, starts * inverter.rating_w / able)
        yield Judgement(
            code="inverter-too-small",
            severity="fault",
            part=appliance.key,
            says=f"{appliance.name} takes {appliance.power_w:.0f} W and {starts:.0f} W to start; "
            f"the inverter gives {inverter.rating_w:.0f} W and {able:.0f} W for a moment.",
            means="It shuts off when this starts.",
            remedy=f"An inverter of {wanted:.0f} W.",
            source="the inverter's rating",
            numbers=(Number("start", starts, "W"), Number("able", able, "W")),
        )


def standby_heavy(evidence: Evidence) -> Iterator[Judgement]:
    """Things that are always on take a tenth of all use."""
    run = evidence.run
    found = {}
    for draw, flow in zip(run.draws, evidence.books.draws, strict=True):
        own = draw.plug_share == 0.0 and draw.key != INVERTER_KEY
        if own:
            found[draw.name] = float(flow.used.wh.sum())
    for appliance in run.case.appliances:
        if appliance.standby_w > 0.0:
            found[f"{appliance.name}, waiting"] = (
                appliance.standby_w * HOURS_PER_DAY * run.case.days
            )
    together, use = sum(found.values()), used_wh(evidence)
    if together <= STANDBY_SHARE * use:
        return
    yield Judgement(
        code="standby-heavy",
        severity="waste",
        part="use",
        says=f"{', '.join(found)} take {together:.0f} of {use:.0f} Wh without doing anything.",
        means=f"That is {100 * together / use:.0f} % of the trip's use.",
        remedy="Switch them off at the battery when nobody needs them.",
        source="above a tenth of use [judgement]",
        numbers=(Number("standby", together, "Wh"), Number("use", use, "Wh")),
    )


def fridge_on_vehicle(evidence: Evidence) -> Iterator[Judgement]:
    """A fridge stays on the box during long drives with a weak charger."""
    run = evidence.run
    drives_h = sum(
        (block.end_day - block.day) * HOURS_PER_DAY + (block.end_min - block.start_min) / 60.0
        for block in run.case.blocks
        if block.kind == "drive"
    )
    rated = sum((s.rating_a for s in run.sources if s.kind == "vehicle"), start=0.0)
    weak = rated < WEAK_CHARGER_C * run.case.bank.capacity_ah
    if drives_h < LONG_DRIVES_H or not weak:
        return
    driving = {d.key: d for d in run.draws}
    for appliance in run.case.appliances:
        if not isinstance(appliance.pattern, Fridge) or appliance.on_vehicle:
            continue
        mean_w = float(driving[appliance.key].asked_w.mean())
        kept = mean_w * drives_h / run.case.bank.nominal_v
        yield Judgement(
            code="fridge-on-vehicle",
            severity="note",
            part=appliance.key,
            says=f"{appliance.name} stays on the box for {drives_h:.0f} h of driving.",
            means=f"On the vehicle's own socket it would leave {kept:.0f} Ah in the box.",
            remedy="Plug it into the vehicle while the engine runs; check the socket's fuse.",
            source="the run",
            numbers=(Number("kept", kept, "Ah"),),
        )


def noisy_in_quiet(evidence: Evidence) -> Iterator[Judgement]:
    """Silence costs charge: say how much."""
    for source, flow in zip(evidence.run.sources, evidence.books.sources, strict=True):
        lost = amp_hours(flow.barred)
        if not source.noisy or lost < 0.1 or evidence.run.case.joining.kind == "selector":
            continue
        yield Judgement(
            code="noisy-in-quiet",
            severity="note",
            part=source.key,
            says=f"{source.name} is silent in quiet hours.",
            means=f"That keeps {lost:.0f} Ah away on this trip.",
            remedy="A charger that makes no noise could run through them.",
            source="the run",
            numbers=(Number("kept away", lost, "Ah"),),
        )


RULES = (inverter_idle, inverter_too_small, standby_heavy, fridge_on_vehicle, noisy_in_quiet)
