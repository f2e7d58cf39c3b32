"""Judgements about what hangs on the box: inverter, standby, the fridge, radio noise."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from oddkettle.core.judgement.evidence import (
    MIN_AH,
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    amp_hours,
    appliance_part,
    hours,
    of_a_built_box,
    source_part,
    used_wh,
)
from oddkettle.core.loads.demand import INVERTER_KEY, USB_EFFICIENCY, Appliance, window_share
from oddkettle.core.loads.essential import may_be_cut, must_run
from oddkettle.core.loads.fridge import FRIDGE_WORDS, Fridge
from oddkettle.core.simulation.run import Run
from oddkettle.core.simulation.run_metrics import lowest
from oddkettle.core.units.conversion import HOURS_PER_DAY
from oddkettle.core.units.quantity import celsius

STANDBY_SHARE = 0.10
LONG_DRIVES_H, WEAK_CHARGER_C = 3.0, 0.15
ADAPTER_EFFICIENCY = 0.87
"""Of a small mains adapter [textbook]."""
GUESS_MOVES = 0.02
"""A guess that moves the lowest level by less than two points is not spoken of [judgement]."""


def inverter_idle(evidence: Evidence) -> Iterator[Judgement]:
    """An inverter left on with nothing behind it."""
    inverter = evidence.run.case.inverter
    if inverter is None or not inverter.always_on:
        return
    case, grid = evidence.run.case, evidence.run.grid
    busy = np.zeros(grid.steps)
    for appliance in case.appliances:
        if appliance.supply == "inverter":
            busy = np.maximum(busy, window_share(appliance, grid, case.day_kinds))
    free_h = HOURS_PER_DAY * (1.0 - float(busy.mean()))
    if free_h < 1e-6:
        return
    lost = inverter.idle_w * free_h / case.bank.nominal_v
    if lost < MIN_AH:
        return
    yield Judgement(
        code="inverter-idle",
        severity="waste",
        part="inverter",
        text=f"The inverter is on day and night; for {free_h:.0f} h a day nothing hangs on it.",
        means=f"It takes {evidence.charge(lost)} a day for itself then.",
        remedy="Switch it with its appliances.",
        source="its no-load draw",
        numbers=(Number("lost", lost, "Ah a day"),),
        fix=Fix(
            "Switch it with its appliances", (Change("inverter", ("switched",), "with_loads"),)
        ),
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
        wanted = float(np.ceil(wanted / 50.0) * 50.0)
        changes = [Change("inverter", ("rating_w",), wanted)]
        if inverter.surge_w is not None:
            changes.append(Change("inverter", ("surge_w",), max(starts, wanted)))
        yield Judgement(
            code="inverter-too-small",
            severity="fault",
            part=appliance_part(appliance),
            text=f"{appliance.name} takes {appliance.power_w:.0f} W and {starts:.0f} W to start; "
            f"the inverter gives {inverter.rating_w:.0f} W and {able:.0f} W for a moment.",
            means="It shuts off when this starts.",
            remedy=f"An inverter of {wanted:.0f} W."
            if evidence.run.case.unit is None
            else f"{'Leave it at home, or take' if may_be_cut(appliance) else 'Take'} a unit that "
            f"gives {wanted:.0f} W.",
            source="the inverter's rating",
            numbers=(Number("start", starts, "W"), Number("able", able, "W")),
            fix=Fix(f"Try one of {wanted:.0f} W", tuple(changes))
            if evidence.run.case.unit is None
            else None,
        )


def standby_heavy(evidence: Evidence) -> Iterator[Judgement]:
    """Things that are always on take a tenth of all use."""
    run = evidence.run
    found = {}
    for draw, flow in zip(run.draws, evidence.ledger.draws, strict=True):
        own = draw.plug_share == 0.0 and draw.key != INVERTER_KEY
        if own:
            found[draw.name] = float(flow.used.wh.sum())
    for appliance in run.case.appliances:
        if appliance.standby_w > 0.0 and may_be_cut(appliance):
            found[f"{appliance.name}, waiting"] = (
                appliance.standby_w * HOURS_PER_DAY * run.case.days
            )
    together, use = sum(found.values()), used_wh(evidence)
    if together <= STANDBY_SHARE * use:
        return
    yield Judgement(
        code="standby-heavy",
        severity=evidence.loss,
        part="use",
        text=f"{', '.join(found)}: {together:.0f} of {use:.0f} Wh go to what does nothing then.",
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
            part=appliance_part(appliance),
            text=f"{appliance.name} stays on the box for {drives_h:.0f} h of driving.",
            means=f"On the vehicle's own socket it would leave {evidence.charge(kept)} in the box.",
            remedy="Plug it into the vehicle while the engine runs; check the socket's fuse.",
            source="the run",
            numbers=(Number("kept", kept, "Ah"),),
            fix=Fix(
                "Move it while driving", (Change(appliance_part(appliance), ("on_vehicle",), True),)
            ),
        )


def usb_through_inverter(evidence: Evidence) -> Iterator[Judgement]:
    """A USB or 12 V device is fed by its mains adapter through the inverter."""
    run = evidence.run
    for appliance in run.case.appliances:
        if appliance.supply != "inverter" or not appliance.adapter:
            continue
        # At the device's own plug it draws what its adapter passes.
        direct = replace(appliance, supply="usb", power_w=appliance.power_w * ADAPTER_EFFICIENCY)
        others = tuple(direct if a.key == appliance.key else a for a in run.case.appliances)
        saved = _asked_ah(run) - _asked_ah(evidence.instead(appliances=others))
        if saved / run.case.days < MIN_AH:
            continue
        yield Judgement(
            code="usb-through-inverter",
            severity=evidence.loss,
            part=appliance_part(appliance),
            text=f"{appliance.name} runs from its mains adapter on the inverter.",
            means=f"The current is converted twice, and the inverter idles for it: "
            f"{evidence.charge(saved / run.case.days)} a day.",
            remedy="Feed it from USB or 12 V.",
            source=f"adapter {100 * ADAPTER_EFFICIENCY:.0f} %, USB converter "
            f"{100 * USB_EFFICIENCY:.0f} % [textbook]",
            numbers=(Number("saved", saved / run.case.days, "Ah a day"),),
            fix=Fix(
                "Feed it from USB",
                (
                    Change(appliance_part(appliance), ("supply",), "usb"),
                    Change(appliance_part(appliance), ("power_w",), float(f"{direct.power_w:.4g}")),
                    Change(appliance_part(appliance), ("adapter",), False),
                ),
            ),
        )


def _asked_ah(run: Run) -> float:
    """What everything asks for over a run, at nominal voltage [Ah]."""
    watts = sum(float(draw.asked_w.sum()) for draw in run.draws)
    return watts * run.grid.step_h / run.case.bank.nominal_v


@of_a_built_box
def inverter_current(evidence: Evidence) -> Iterator[Judgement]:
    """The inverter at full load asks more than the battery gives."""
    inverter, bank = evidence.run.case.inverter, evidence.run.case.bank
    if inverter is None:
        return
    amps = inverter.rating_w / inverter.efficiency / bank.nominal_v
    most = bank.chemistry.discharge_limit_c * bank.capacity_ah
    if amps <= most:
        return
    yield Judgement(
        code="inverter-current",
        severity="fault",
        part="inverter",
        text=f"At full load the inverter takes {amps:.0f} A; the battery gives {most:.0f} A.",
        means="The battery's management system trips, or its voltage falls until the inverter "
        "does.",
        remedy=f"Load it with at most {most * bank.nominal_v * inverter.efficiency:.0f} W.",
        source="rating over efficiency and nominal voltage",
        numbers=(Number("full load", amps, "A"), Number("allowed", most, "A")),
    )


def guess_rules(evidence: Evidence) -> Iterator[Judgement]:
    """The biggest load is a guess: say how much that matters."""
    run = evidence.run
    used = {
        draw.key: float(flow.used.wh.sum())
        for draw, flow in zip(run.draws, evidence.ledger.draws, strict=True)
    }
    if not run.case.appliances:
        return
    biggest = max(run.case.appliances, key=lambda appliance: used[appliance.key])
    if biggest.spread == 0.0:
        return
    more = replace(biggest, power_w=biggest.power_w * (1.0 + biggest.spread))
    other = evidence.instead(
        appliances=tuple(more if a.key == biggest.key else a for a in run.case.appliances)
    )
    falls = lowest(run).soc - lowest(other).soc
    if falls < GUESS_MOVES:
        return
    yield Judgement(
        code="guess-rules",
        severity="note",
        part=appliance_part(biggest),
        text=f"The biggest load, {biggest.name}, is a guess.",
        means=f"If it takes {100 * biggest.spread:.0f} % more, the lowest level is "
        f"{100 * lowest(other).soc:.0f} % in place of {100 * lowest(run).soc:.0f} %.",
        remedy="Measure it first: no other reading moves the answer so much.",
        source="the run, and the same run with more",
        numbers=(Number("moves the lowest level", 100 * falls, "points"),),
    )


def must_run_margin(evidence: Evidence) -> Iterator[Judgement]:
    """What must run is cut in the expected sky, or in more than one scenario of a hundred."""
    run = evidence.run
    pairs = {
        draw.key: flow.unmet for draw, flow in zip(run.draws, evidence.ledger.draws, strict=True)
    }
    for appliance in run.case.appliances:
        if not must_run(appliance):
            continue
        unmet = float(pairs[appliance.key].wh.sum())
        if unmet > 0.0:
            yield _cut(evidence, appliance, unmet)
        elif evidence.dark_share is not None and evidence.dark_share > DARK_SHARE:
            yield _may_be_cut(appliance, evidence.dark_share)


def _cut(evidence: Evidence, appliance: Appliance, unmet_wh: float) -> Judgement:
    dark_h = hours(evidence.run.track.served < 1.0, evidence.run)
    return Judgement(
        code="must-run-margin",
        severity="danger" if appliance.medical else "fault",
        part=appliance_part(appliance),
        text=f"{appliance.name} must run, and goes without {unmet_wh:.0f} Wh; "
        + (f"the box is dark for {dark_h:.0f} h." if dark_h >= 0.5 else "it is switched off."),
        means="Health hangs on it: there must be a second source of power before the first night."
        if appliance.medical
        else "That is under the expected sky; a duller one is worse.",
        remedy="Arrange a second source, and ask the supplier of the equipment for its own plan."
        if appliance.medical
        else "Let something else go first, or bring more charge.",
        source="the run",
        numbers=(Number("goes without", unmet_wh, "Wh"), Number("dark", dark_h, "h")),
    )


DARK_SHARE = 0.01
"""More scenarios than this in which what must run goes dark are too many [judgement]."""


def _may_be_cut(appliance: Appliance, dark_share: float) -> Judgement:
    percent = 100 * dark_share
    return Judgement(
        code="must-run-margin",
        severity="danger" if appliance.medical else "fault",
        part=appliance_part(appliance),
        text=f"{appliance.name} must run, and the box cuts out in {percent:.0f} of 100 tries.",
        means="Health hangs on it: there must be a second source of power before the first night."
        if appliance.medical
        else "In usual weather it runs through; in duller weather it does not.",
        remedy="Arrange a second source, and ask the supplier of the equipment for its own plan."
        if appliance.medical
        else f"See Improve for what brings that under {100 * DARK_SHARE:.0f} in 100.",
        source="the plan's scenarios",
        numbers=(
            Number("scenarios in the dark", percent, "%"),
            Number("at most", 100 * DARK_SHARE, "%"),
        ),
    )


def noisy_in_quiet(evidence: Evidence) -> Iterator[Judgement]:
    """Silence costs charge: say how much."""
    for source, flow in zip(evidence.run.sources, evidence.ledger.sources, strict=True):
        lost = amp_hours(flow.barred)
        if not source.noisy or lost < 0.1 or evidence.run.case.joining.kind == "selector":
            continue
        yield Judgement(
            code="noisy-in-quiet",
            severity="note",
            part=source_part(source),
            text=f"{source.name} is silent in quiet hours.",
            means=f"That keeps {evidence.charge(lost)} away on this trip.",
            remedy="A charger that makes no noise could run through them.",
            source="the run",
            numbers=(Number("kept away", lost, "Ah"),),
        )


FRIDGE_H = 12.0
"""What cools for so long a day has a thermostat [judgement]."""


def fridge_as_plain(evidence: Evidence) -> Iterator[Judgement]:
    """A fridge that is typed as a plain load takes the same in frost and in heat."""
    run = evidence.run
    for appliance in run.case.appliances:
        name = appliance.name.lower()
        if appliance.pattern is not None or not any(word in name for word in FRIDGE_WORDS):
            continue
        row = next(d for d in run.draws if d.key == appliance.key)
        a_day_h = hours(row.asked_w > 0.0, run) / run.case.days
        if a_day_h < FRIDGE_H:
            continue
        yield Judgement(
            code="fridge-as-plain",
            severity="note",
            part=appliance_part(appliance),
            text=f"{appliance.name} runs as a plain load, {a_day_h:.0f} h a day.",
            means="A fridge rests in between, and takes more in heat and less in the cold.",
            remedy="Let it run as a fridge; the share of time is then that at "
            f"{celsius(25)} outside.",
            source="compressors follow the air [textbook]",
            fix=Fix(
                "Let it run as a fridge",
                (Change(appliance_part(appliance), ("pattern",), "fridge"),),
            ),
        )


RULES = (
    fridge_as_plain,
    inverter_idle,
    inverter_too_small,
    inverter_current,
    standby_heavy,
    guess_rules,
    must_run_margin,
    fridge_on_vehicle,
    usb_through_inverter,
    noisy_in_quiet,
)
