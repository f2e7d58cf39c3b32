"""Judgements about charging from a vehicle: alternator, relay, DC-DC charger, feed, socket."""

from __future__ import annotations

from collections.abc import Iterator

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
)
from oddkettle.core.simulation.run_metrics import starved_steps
from oddkettle.core.sources.dcdc import DcDc, input_current_a
from oddkettle.core.sources.relay import Relay
from oddkettle.core.units.conversion import CABLE_SIZES_MM2, CLASS_V, cable_ohm
from oddkettle.core.units.quantity import conductor
from oddkettle.core.units.sold_sizes import CHARGER_A

RATED_SHARE, IDLE_SHARE = 1 / 2, 1 / 3
RELAY_HOLDS_H = 0.5
"""A relay that holds an alternator over its long-time share for so long at least is judged."""
FUSE_FOR_HOURS = 1.25
"""A fuse is rated so many times what flows for hours [textbook]."""


def _fix(part: DcDc | Relay, text: str, *field: str, value: float | str | bool) -> Fix:
    return Fix(text, (Change(f"vehicle:{part.key}", field, value),))


def alternator_smart_relay(evidence: Evidence) -> Iterator[Judgement]:
    """A relay on a smart alternator stops charging when the starter battery is full."""
    for source in evidence.run.case.vehicle:
        if isinstance(source, Relay) and source.alternator.smart and not source.forced:
            yield Judgement(
                code="alternator-smart-relay",
                severity="fault",
                part=f"vehicle:{source.key}",
                text=f"{source.name} hangs on a smart alternator.",
                means=f"It opens after about {source.alternator.smart_after_min:.0f} min.",
                remedy="Use a DC-DC charger with an ignition wire.",
                source="smart alternators fall to about 12.5 V [textbook]",
                fix=_fix(source, "Try a DC-DC charger", "kind", value="dcdc"),
            )


def no_ignition_sense(evidence: Evidence) -> Iterator[Judgement]:
    """A DC-DC charger that must sense a smart alternator."""
    for source in evidence.run.case.vehicle:
        if isinstance(source, DcDc) and source.alternator.smart and not source.ignition:
            yield Judgement(
                code="no-ignition-sense",
                severity="fault",
                part=f"vehicle:{source.key}",
                text=f"{source.name} senses the voltage of a smart alternator.",
                means="It never starts, or goes on at a standstill and drains the starter battery.",
                remedy="Connect its ignition wire.",
                source="smart alternators fall to about 12.5 V [textbook]",
                fix=_fix(source, "It has an ignition wire", "ignition", value=True),
            )


def dcdc_starved(evidence: Evidence) -> Iterator[Judgement]:
    """The feed drops so much that the charger cannot give its rating."""
    parts = {part.key: part for part in evidence.run.case.vehicle}
    volts = np.maximum(evidence.run.track.bus_v, 1e-9)
    pairs = zip(evidence.run.sources, evidence.ledger.sources, strict=True)
    for j, (source, flow) in enumerate(pairs):
        part = parts.get(source.key)
        if not isinstance(part, DcDc):
            continue
        starved = starved_steps(evidence.run, j)
        starved_h = hours(starved, evidence.run)
        if starved_h == 0.0:
            continue
        need_in = source.rating_a * float(volts[starved].max()) / source.efficiency
        least_v = float(source.source_v[starved].min())
        ohm = max((least_v - part.cut_out_v), 0.0) * part.cut_out_v / need_in
        copper = ohm - part.feed.connectors_mohm / 1000.0
        area = cable_ohm(part.feed.length_m, 1.0) / copper if copper > 0 else float("inf")
        if area <= part.feed.area_mm2:
            # The cable would do: what is missing is the alternator's, and is judged as such.
            continue
        size = next((s for s in CABLE_SIZES_MM2 if s >= area), None)
        yield Judgement(
            code="dcdc-starved",
            severity="fault",
            part=f"vehicle:{source.key}",
            text=f"{source.name}: for {starved_h:.1f} h its input is held under what "
            f"{source.rating_a:g} A need.",
            means=f"{evidence.charge(amp_hours(flow.clipped))} do not come in on this trip.",
            remedy=f"Over {part.feed.length_m:g} m use {conductor(size)} of copper."
            if size
            else "Use a shorter lead, or half current.",
            source="the feed's resistance, V = V_alternator - I R",
            numbers=(Number("starved", starved_h, "h"), Number("area", area, "mm2")),
            fix=_fix(part, f"Try {conductor(size)}", "feed", "area_mm2", value=size)
            if size
            else _fix(part, "Set it to half current", "half_current", value=True),
        )


def input_a(part: DcDc, output_a: float, absorption_v: float) -> float:
    """Current that a charger draws at its end of the feed while it gives `output_a` [A].

    At absorption voltage, where it takes most: `(V - I R) I = P`, the smaller root; infinite where
    the feed cannot pass it.
    """
    watts = np.array([output_a * absorption_v / part.efficiency])
    volts = np.array([part.alternator.volts])
    if part.alternator.volts**2 < 4.0 * part.feed.ohm * float(watts[0]):
        return float("inf")
    return float(input_current_a(watts, volts, part.feed.ohm)[0])


def largest_output(part: DcDc, most_in_a: float, absorption_v: float) -> float | None:
    """The largest usual size of charger that draws at most `most_in_a`; None where none does."""
    fits = [a for a in CHARGER_A if input_a(part, a, absorption_v) <= most_in_a]
    return float(fits[-1]) if fits else None


def alternator_overloaded(evidence: Evidence) -> Iterator[Judgement]:
    """A charger or a relay asks more than an alternator gives for long."""
    idles = any(b.kind == "drive" and b.idling for b in evidence.run.case.blocks)
    share = IDLE_SHARE if idles else RATED_SHARE
    for part in evidence.run.case.vehicle:
        most = part.alternator.rated_a * share
        if isinstance(part, Relay):
            yield from _relay_overloads(evidence, part, most)
            continue
        absorption_v = _absorption_v(evidence, part)
        amps = input_a(part, part.limit_a * (0.5 if part.half_current else 1.0), absorption_v)
        if amps <= most or not np.isfinite(amps):
            continue
        limit = largest_output(part, most, absorption_v)
        yield Judgement(
            code="alternator-overloaded",
            severity="fault",
            part=f"vehicle:{part.key}",
            text=f"{part.name} takes {amps:.0f} A from an alternator of "
            f"{part.alternator.rated_a:.0f} A{' that also idles' if idles else ''}.",
            means="Alternators are cooled for peaks, not for hours at their rating.",
            remedy="Take a larger alternator." if limit is None else f"Limit it to {limit:g} A.",
            source="half of its rating for long, a third at idle [textbook]",
            numbers=(Number("input", amps, "A"), Number("advised", most, "A")),
            fix=_fix(part, f"Limit it to {limit:g} A", "limit_a", value=limit)
            if not part.half_current and limit is not None
            else None,
        )


def _absorption_v(evidence: Evidence, part: DcDc) -> float:
    case = evidence.run.case
    profile = part.profile or case.profile
    return profile.absorption_v * case.bank.system_v / CLASS_V


def _relay_overloads(evidence: Evidence, part: Relay, most: float) -> Iterator[Judgement]:
    """A relay into a large bank holds the alternator near its rating while the bank fills."""
    run = evidence.run
    row = next(j for j, s in enumerate(run.sources) if s.key == part.key)
    passed = run.taken_a[row] + part.alternator.own_loads_a * (run.sources[row].on > 0.0)
    over = (passed > most) & (run.taken_a[row] > 0.0)
    held_h = hours(over, run)
    if held_h < RELAY_HOLDS_H:
        return
    yield Judgement(
        code="alternator-overloaded",
        severity="fault",
        part=f"vehicle:{part.key}",
        text=f"{part.name} holds an alternator of {part.alternator.rated_a:.0f} A above "
        f"{most:.0f} A for {held_h:.1f} h.",
        means="A large bank takes all that a relay passes. Alternators are cooled for peaks, not "
        "for hours at their rating.",
        remedy="Use a DC-DC charger that limits the current, or a longer, thinner lead with its "
        "fuse.",
        source="half of its rating for long, a third at idle [textbook]",
        numbers=(
            Number("held for", held_h, "h"),
            Number("passes at most", float(run.taken_a[row].max()), "A"),
            Number("advised", most, "A"),
        ),
        fix=_fix(part, "Try a DC-DC charger", "kind", value="dcdc"),
    )


def socket_fuse(evidence: Evidence) -> Iterator[Judgement]:
    """A charger asks more of a fused feed than the fuse bears for hours."""
    for part in evidence.run.case.vehicle:
        if not isinstance(part, DcDc) or part.fuse_a is None:
            continue
        absorption_v = _absorption_v(evidence, part)
        output = part.limit_a * (0.5 if part.half_current else 1.0)
        amps = input_a(part, output, absorption_v)
        bears = part.fuse_a / FUSE_FOR_HOURS
        if amps <= bears or not np.isfinite(amps):
            continue
        left = largest_output(part, bears, absorption_v)
        blows = amps > part.fuse_a
        capacity = evidence.run.case.bank.capacity_ah
        yield Judgement(
            code="socket-fuse",
            severity="fault" if blows else "waste",
            part=f"vehicle:{part.key}",
            text=f"{part.name} asks {amps:.1f} A through a fuse of {part.fuse_a:g} A.",
            means="The fuse blows, or the plug runs hot."
            if blows
            else f"For hours a fuse of {part.fuse_a:g} A bears {bears:.0f} A; more makes it and "
            "the plug run hot, and it blows in time.",
            remedy="Take a lead of its own, with a fuse of its own."
            if left is None
            else f"Set it to {left:g} A: a full charge then takes {capacity / left:.0f} h of "
            "driving. Or take a lead with a fuse of its own.",
            source="a fuse carries four fifths of its rating for hours; a vehicle socket is "
            "usually fused for 10 A [textbook]",
            numbers=(
                Number("input", amps, "A"),
                Number("fuse", part.fuse_a, "A"),
                Number("bears for hours", bears, "A"),
            ),
            fix=None
            if left is None
            else _fix(part, f"Set it to {left:g} A", "limit_a", value=left),
        )


def back_feed(evidence: Evidence) -> Iterator[Judgement]:
    """A relay held closed joins the box and the vehicle with nothing between them."""
    for part in evidence.run.case.vehicle:
        if not isinstance(part, Relay) or not part.forced:
            continue
        row = next(j for j, s in enumerate(evidence.run.sources) if s.key == part.key)
        back = -np.minimum(evidence.run.taken_a[row], 0.0)
        lost = float(back.sum() * evidence.run.grid.step_h)
        yield Judgement(
            code="back-feed",
            severity="fault",
            part=f"vehicle:{part.key}",
            text=f"{part.name} is held closed: box and vehicle are joined with nothing between.",
            means="Whatever stands lower is fed by the other; "
            + (f"here {evidence.charge(lost)} flow back, and " if lost >= MIN_AH else "here ")
            + "another charger may push into the vehicle.",
            remedy="Let it open by voltage, or put a DC-DC charger, a diode or a selector between.",
            source="two sources in parallel share by their voltages [textbook]",
            numbers=(Number("flows back", lost, "Ah"),),
            fix=_fix(part, "Let it open by itself", "forced", value=False),
        )


RULES = (
    alternator_smart_relay,
    no_ignition_sense,
    dcdc_starved,
    alternator_overloaded,
    socket_fuse,
    back_feed,
)
