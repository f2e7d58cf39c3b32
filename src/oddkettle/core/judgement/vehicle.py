"""Judgements about charging from a vehicle: alternator, relay, DC-DC charger, feed, socket."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from oddkettle.core.foundation.quantity import conductor
from oddkettle.core.foundation.units import CABLE_SIZES_MM2, cable_ohm
from oddkettle.core.judgement.evidence import (
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    amp_hours,
    hours,
)
from oddkettle.core.simulation.run_metrics import starved_steps
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.relay import Relay

RATED_SHARE, IDLE_SHARE = 1 / 2, 1 / 3


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
    pairs = zip(evidence.run.sources, evidence.books.sources, strict=True)
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
        cable = f"{conductor(size)} of copper" if size else "a shorter lead, or half current"
        yield Judgement(
            code="dcdc-starved",
            severity="fault",
            part=f"vehicle:{source.key}",
            text=f"{source.name}: for {starved_h:.1f} h its input is held under what "
            f"{source.rating_a:g} A need.",
            means=f"{evidence.charge(amp_hours(flow.clipped))} do not come in on this trip.",
            remedy=f"Over {part.feed.length_m:g} m use {cable}.",
            source="the feed's resistance, V = V_alternator - I R",
            numbers=(Number("starved", starved_h, "h"), Number("area", area, "mm2")),
            fix=_fix(part, f"Try {conductor(size)}", "feed", "area_mm2", value=size)
            if size
            else _fix(part, "Set it to half current", "half_current", value=True),
        )


def alternator_overloaded(evidence: Evidence) -> Iterator[Judgement]:
    """The charger asks more than an alternator gives for long."""
    nominal_v = evidence.run.case.bank.nominal_v
    idles = any(b.kind == "drive" and b.idling for b in evidence.run.case.blocks)
    for part in evidence.run.case.vehicle:
        if not isinstance(part, DcDc):
            continue
        limit = part.limit_a * (0.5 if part.half_current else 1.0)
        volts = part.alternator.volts * part.efficiency
        amps = limit * nominal_v / volts
        share = IDLE_SHARE if idles else RATED_SHARE
        most = part.alternator.rated_a * share
        if amps <= most:
            continue
        limit = float(np.floor(most * volts / nominal_v))
        yield Judgement(
            code="alternator-overloaded",
            severity="fault",
            part=f"vehicle:{part.key}",
            text=f"{part.name} takes {amps:.0f} A from an alternator of "
            f"{part.alternator.rated_a:.0f} A{' that also idles' if idles else ''}.",
            means="Alternators are cooled for peaks, not for hours at their rating.",
            remedy=f"Limit it to {limit:.0f} A.",
            source="half of its rating for long, a third at idle [textbook]",
            numbers=(Number("input", amps, "A"), Number("advised", most, "A")),
            fix=_fix(part, f"Limit it to {limit:.0f} A", "limit_a", value=limit)
            if not part.half_current and limit >= 1.0
            else None,
        )


def socket_fuse(evidence: Evidence) -> Iterator[Judgement]:
    """A charger asks more of a fused feed than the fuse bears."""
    nominal_v = evidence.run.case.bank.nominal_v
    for part in evidence.run.case.vehicle:
        if not isinstance(part, DcDc) or part.fuse_a is None:
            continue
        amps = part.limit_a * nominal_v / part.efficiency / part.alternator.volts
        if amps <= part.fuse_a:
            continue
        left = part.fuse_a * part.efficiency * part.alternator.volts / nominal_v
        left = np.floor(10.0 * left) / 10.0
        yield Judgement(
            code="socket-fuse",
            severity="fault",
            part=f"vehicle:{part.key}",
            text=f"{part.name} asks {amps:.0f} A through a fuse of {part.fuse_a:g} A.",
            means="The fuse blows, or the plug runs hot.",
            remedy=f"Set it to {left:.1f} A: a full charge then takes "
            f"{evidence.run.case.bank.capacity_ah / left:.0f} h of driving.",
            source="a vehicle socket is usually fused for 10 A [textbook]",
            numbers=(Number("input", amps, "A"), Number("fuse", part.fuse_a, "A")),
            fix=_fix(part, f"Set it to {left:.1f} A", "limit_a", value=left),
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
            means=f"Whatever stands lower is fed by the other; here "
            f"{evidence.charge(lost)} flow back, and "
            "another charger may push into the vehicle.",
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
