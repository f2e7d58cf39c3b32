"""Judgements about panels and their controllers."""

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
    hours,
    of_a_built_box,
    source_part,
    taken_ah,
)
from oddkettle.core.simulation.ledger import SourceFlow
from oddkettle.core.sources.solar import PWM_OVER_V, SunInput
from oddkettle.core.sources.source_series import ChargeSource, SourceSeries
from oddkettle.core.units.quantity import celsius
from oddkettle.core.units.sold_sizes import CHARGER_A, next_up

CLIP_SHARE = 0.02
"""A controller that clips less than this of its sun is not spoken of [judgement]."""
SPILL_SHARE = 0.15
UNREGULATED_C = 0.01
"""A panel of up to this share of capacity may go straight to a lead battery [textbook]."""
NEAR_ISC = 0.975
"""Imp of real panels is 0.90 to 0.96 of Isc [textbook]."""
STOWED_H = 1.0
"""Less sun than this a day with the panel away is not spoken of [judgement]."""


def _sun(evidence: Evidence) -> Iterator[tuple[SunInput, SourceSeries, SourceFlow]]:
    arrays = {array.key: array for array in evidence.run.case.sun}
    for source, flow in zip(evidence.run.sources, evidence.ledger.sources, strict=True):
        if source.kind == "sun":
            yield arrays[source.key], source, flow


def _with_array(evidence: Evidence, array: SunInput) -> tuple[ChargeSource, ...]:
    return tuple(array if a.key == array.key else a for a in evidence.run.case.sources)


@of_a_built_box
def controller_clips(evidence: Evidence) -> Iterator[Judgement]:
    """An array gives more than its controller passes."""
    for array, source, flow in _sun(evidence):
        lost, offered = amp_hours(flow.clipped), amp_hours(flow.offered)
        if lost <= CLIP_SHARE * offered:
            continue
        takes_w = array.controller.input_limit_w
        reach_w = float(source.could_w.max()) / source.efficiency
        if takes_w is not None and not array.at_battery and reach_w > takes_w:
            yield Judgement(
                code="controller-clips",
                severity=evidence.loss,
                part=source_part(source),
                text=f"{source.name}: the panels reach {reach_w:.0f} W, the controller's input "
                f"takes {takes_w:g} W.",
                means=f"{evidence.charge(lost)} of {evidence.charge(offered)} are lost on "
                "this trip.",
                remedy=f"A controller whose input takes {reach_w:.0f} W passes all of it.",
                source="the run",
                numbers=(Number("lost", lost, "Ah"), Number("input takes", takes_w, "W")),
            )
            continue
        volts = np.maximum(evidence.run.track.bus_v, 1e-9)
        could = np.minimum(source.could_w / volts, source.could_a)
        clipped_h = hours(could > source.rating_a, evidence.run)
        if clipped_h == 0.0:
            # A limit that it shares holds it, and is judged as such.
            continue
        enough = next_up(CHARGER_A, float(could.max()))
        yield Judgement(
            code="controller-clips",
            severity=evidence.loss,
            part=source_part(source),
            text=f"{source.name}: the panels reach {could.max():.1f} A, the controller passes "
            f"{source.rating_a:g} A.",
            means=f"{evidence.charge(lost)} of {evidence.charge(offered)} are lost on "
            f"this trip, in {clipped_h:.0f} h.",
            remedy=f"A controller of {enough:g} A passes all of it.",
            source="the run",
            numbers=(Number("lost", lost, "Ah"), Number("hours", clipped_h, "h")),
            fix=Fix(
                f"Try one of {enough:g} A",
                (Change(source_part(source), ("controller", "limit_a"), enough),),
            ),
        )


NEAR = 0.97
"""Above so much of what an input bears nothing is left for what is not known [judgement]."""
COLD_VOC = "Voc times its cold coefficient, with 3 % tolerance [datasheet, textbook]"


def _nothing_left(source: SourceSeries, cold: float, most: float, air: str) -> Judgement:
    """The open-circuit voltage comes so near to the limit that nothing is left."""
    return Judgement(
        code="array-no-margin",
        severity="note",
        part=source_part(source),
        text=f"{source.name}: at {air} the string shows up to {cold:.1f} V, and the input bears "
        f"{most:g} V: nothing is left.",
        means="Colder air or a panel beyond its sheet's tolerance is too much for it.",
        remedy="Know the lowest temperature of the place, or put fewer in series.",
        source=COLD_VOC,
        numbers=(Number("cold Voc", cold, "V"), Number("input limit", most, "V")),
    )


def array_overvoltage(evidence: Evidence) -> Iterator[Judgement]:
    """The open-circuit voltage in the coldest air on record is above what the input bears."""
    for array, source, _ in _sun(evidence):
        most = array.controller.input_limit_v
        if most is None or source.volts is None:
            continue
        cold, air = source.volts.cold_voc_v, celsius(source.volts.coldest_c)
        if cold <= most:
            if cold > NEAR * most:
                yield _nothing_left(source, cold, most, air)
            continue
        fits = int(array.series * most / cold)
        fits = next((n for n in range(fits, 0, -1) if array.count % n == 0), 0)
        yield Judgement(
            code="array-overvoltage",
            severity="danger",
            part=source_part(source),
            text=f"{source.name}: at {air}, about the coldest that it gets there, the string shows "
            f"up to {cold:.1f} V; the input bears {most:g} V.",
            means="It can be destroyed, and may burn.",
            remedy=f"At most {fits} in series: the others in parallel."
            if fits
            else f"Panels of a lower voltage, or an input for at least {np.ceil(cold):.0f} V.",
            source=COLD_VOC,
            numbers=(Number("cold Voc", cold, "V"), Number("input limit", most, "V")),
            fix=Fix(f"Put {fits} in series", (Change(source_part(source), ("series",), fits),))
            if fits
            else None,
        )


def array_undervoltage(evidence: Evidence) -> Iterator[Judgement]:
    """The hot panel's working voltage is too near the battery's."""
    bank = evidence.run.case.bank
    for array, source, _ in _sun(evidence):
        headroom = 0.0 if array.at_battery else array.controller.headroom_v
        need = bank.nominal_v + headroom
        if source.volts is None or source.volts.hot_vmp_v >= need:
            continue
        hot = source.volts.hot_vmp_v
        series = int(np.ceil(need / hot * array.series))
        fits = array.count % series == 0
        yield Judgement(
            code="array-undervoltage",
            severity="fault",
            part=source_part(source),
            text=f"{source.name}: hot panels work at {hot:.1f} V; the controller needs "
            f"{need:.1f} V.",
            means="It charges badly or not at all when the sun is strongest.",
            remedy=f"Put {series} in series.",
            source="Vmp moved by cell temperature",
            numbers=(Number("hot Vmp", hot, "V"), Number("needed", need, "V")),
            fix=Fix(f"Put {series} in series", (Change(source_part(source), ("series",), series),))
            if fits
            else None,
        )


def pwm_loss(evidence: Evidence) -> Iterator[Judgement]:
    """A PWM controller on a panel whose voltage is far above the battery's."""
    case = evidence.run.case
    for array, source, _ in _sun(evidence):
        if array.controller.kind != "pwm" or source.volts is None:
            continue
        over = source.volts.hot_vmp_v - case.bank.nominal_v
        if over <= PWM_OVER_V:
            continue
        gain = _gain_by_tracking(evidence, array) / case.days
        if gain < MIN_AH:
            continue
        yield Judgement(
            code="pwm-loss",
            severity=evidence.loss,
            part=source_part(source),
            text=f"{source.name}: a PWM controller works the panel {over:.0f} V below its best.",
            means=f"A tracking one would bring {evidence.charge(gain)} more a day on this trip.",
            remedy="Change the controller, or take a panel of fewer volts.",
            source="the run, and the same run with a tracking controller",
            numbers=(Number("gain", gain, "Ah a day"),),
            fix=Fix(
                "Try a tracking one",
                (Change(source_part(source), ("controller", "kind"), "tracking"),),
            ),
        )


def _gain_by_tracking(evidence: Evidence, array: SunInput) -> float:
    """What this array would bring more if its panels worked at their best voltage [Ah]."""
    tracking = replace(
        array,
        controller=replace(array.controller, kind="tracking"),
        panels=tuple(replace(panel, own_regulator=False) for panel in array.panels),
    )
    other = evidence.instead(sources=_with_array(evidence, tracking))
    return max(taken_ah(other, "sun") - taken_ah(evidence.run, "sun"), 0.0)


@of_a_built_box
def unregulated_panel(evidence: Evidence) -> Iterator[Judgement]:
    """A panel straight to the battery, above 1 % of its capacity."""
    bank = evidence.run.case.bank
    for array, source, _ in _sun(evidence):
        if array.controller.kind != "none":
            continue
        amps = float(source.could_a.max(initial=0.0))
        most = UNREGULATED_C * bank.capacity_ah if bank.chemistry.lead else 0.0
        if amps <= most:
            continue
        size = next_up(CHARGER_A, float(amps))
        yield Judgement(
            code="unregulated-panel",
            severity="danger",
            part=source_part(source),
            text=f"{source.name} goes straight to the battery with up to {amps:.1f} A; without a "
            f"controller it may be {most:.1f} A.",
            means="Nothing ends the charge: full cells are overcharged, gas and dry out or burn.",
            remedy=f"A controller of {size:g} A.",
            source="1 % of a lead battery's capacity, nothing for lithium [textbook]",
            numbers=(Number("reaches", amps, "A"), Number("allowed", most, "A")),
            fix=Fix(
                "Put a controller in",
                (
                    Change(source_part(source), ("controller", "kind"), "tracking"),
                    Change(
                        source_part(source),
                        ("controller", "limit_a"),
                        next_up(CHARGER_A, float(amps)),
                    ),
                ),
            ),
        )


def double_regulator(evidence: Evidence) -> Iterator[Judgement]:
    """A panel with a regulator of its own feeds a controller that tracks."""
    case = evidence.run.case
    for array, source, _ in _sun(evidence):
        if array.controller.kind == "none" or not any(p.own_regulator for p in array.panels):
            continue
        gain = _gain_by_tracking(evidence, array) / case.days
        yield Judgement(
            code="double-regulator",
            severity="fault",
            part=source_part(source),
            text=f"{source.name}: a panel has a regulator of its own before the controller.",
            means="Two regulators work against each other, and the first one holds the panel at "
            "the battery's voltage. "
            + (
                f"Without it {evidence.charge(gain)} more a day would come in."
                if gain >= MIN_AH
                else "On this trip that costs nothing: the battery is full anyway."
            ),
            remedy="Take the lead from the panel itself and bypass its regulator.",
            source="the run, and the same run without the panel's regulator",
            numbers=(Number("gain", gain, "Ah a day"),),
            fix=Fix(
                "It is bypassed now", (Change(source_part(source), ("own_regulator",), False),)
            ),
        )


def isc_is_not_imp(evidence: Evidence) -> Iterator[Judgement]:
    """A label whose working current is all but its short-circuit current."""
    for array, source, _ in _sun(evidence):
        for panel in array.panels:
            if panel.label is None or panel.label.imp_a <= NEAR_ISC * panel.label.isc_a:
                continue
            label = panel.label
            likely = 0.94 * label.isc_a
            yield Judgement(
                code="isc-is-not-imp",
                severity="fault",
                part=source_part(source),
                text=f"{source.name}: Imp of {label.imp_a:g} A is all but Isc, {label.isc_a:g} A.",
                means="That is likely the short-circuit current typed twice. What charges is the "
                "current at maximum power.",
                remedy=f"Read Imp from the label: about {likely:.2f} A.",
                source="Imp is 0.90 to 0.96 of Isc on real panels [textbook]",
                numbers=(Number("Imp", label.imp_a, "A"), Number("Isc", label.isc_a, "A")),
            )
            break


def panel_stowed(evidence: Evidence) -> Iterator[Judgement]:
    """Hours of sun with a panel that is put out by hand lying stowed."""
    run = evidence.run
    for array, source, _ in _sun(evidence):
        if not any(panel.portable for panel in array.panels):
            continue
        always = replace(
            array, panels=tuple(replace(panel, portable=False) for panel in array.panels)
        )
        other = evidence.instead(sources=_with_array(evidence, always))
        row = next(j for j, s in enumerate(other.sources) if s.key == array.key)
        free = (other.sources[row].raw_w - source.raw_w) > 0.02 * array.count
        stowed_h = hours(free, run) / run.case.days
        gain = (taken_ah(other, "sun") - taken_ah(run, "sun")) / run.case.days
        if stowed_h < STOWED_H or gain < 0.5:
            continue
        each = gain / stowed_h
        yield Judgement(
            code="panel-stowed",
            severity="note",
            part=source_part(source),
            text=f"{source.name}: the panel lies stowed for {stowed_h:.1f} h of daylight a day.",
            means=f"Each of those hours is worth about {evidence.charge(each)}.",
            remedy="Put it out earlier, or leave it out while you walk.",
            source="the run, and the same run with the panel out whenever the vehicle stands",
            numbers=(Number("stowed", stowed_h, "h a day"), Number("worth", each, "Ah an hour")),
        )


def sun_spilled(evidence: Evidence) -> Iterator[Judgement]:
    """The battery is full while the sun still offers much."""
    for _, source, flow in _sun(evidence):
        # What frost keeps out finds no full battery.
        spilled = amp_hours(flow.spilled) - amp_hours(flow.frozen)
        offered = amp_hours(flow.offered)
        if spilled <= SPILL_SHARE * offered:
            continue
        least = float(evidence.run.level.min())
        # Full at times and empty at others: what is missing then is no more of the same sun.
        ends_short = least < evidence.run.case.fails_below
        yield Judgement(
            code="sun-spilled",
            severity=evidence.loss,
            part=source_part(source),
            text=f"{source.name}: {evidence.charge(spilled)} of "
            f"{evidence.charge(offered)} are wasted: the battery is full.",
            means="Use at noon would cost nothing."
            if not ends_short
            else "It is full at noon, and too low at other times.",
            remedy="Shift what can be shifted to noon, or take more battery.",
            source="the run",
            numbers=(Number("spilled", spilled, "Ah"), Number("offered", offered, "Ah")),
        )


RULES = (
    controller_clips,
    array_overvoltage,
    array_undervoltage,
    pwm_loss,
    unregulated_panel,
    double_regulator,
    isc_is_not_imp,
    panel_stowed,
    sun_spilled,
)
