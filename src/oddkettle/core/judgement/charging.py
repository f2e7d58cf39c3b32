"""Judgements about charging: profiles, panels and controllers, the vehicle, joining."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from oddkettle.core.gather import Source
from oddkettle.core.judgement.evidence import Evidence, Judgement, Number, amp_hours, hours
from oddkettle.core.ledger import SourceFlow
from oddkettle.core.outlook import starved_steps
from oddkettle.core.sources.vehicle import DcDc, Relay
from oddkettle.core.units import CLASS_V, cable_ohm

CLIP_SHARE = 0.02
"""A controller that clips less than this of its sun is not spoken of [judgement]."""
SPILL_SHARE = 0.15
LOW_VOLTS = 0.3
"""Absorption this far under the chemistry's own never fills it [judgement, 12 V class]."""
PWM_OVER_V = 3.0
RATED_SHARE, IDLE_SHARE = 1 / 2, 1 / 3


def profile_mismatch(evidence: Evidence) -> Iterator[Judgement]:
    """A charger's voltage outside what the chemistry bears."""
    case = evidence.run.case
    chemistry = case.bank.chemistry
    to_class = case.bank.volts_scale * CLASS_V / case.bank.system_v
    most, usual = chemistry.never_above_v * to_class, chemistry.absorption_v * to_class
    for source in evidence.run.sources:
        if source.feed_s > 0.0:
            continue
        volts = (source.profile or case.profile).absorption_v
        numbers = (Number("absorption", volts, "V"), Number("never above", most, "V"))
        if volts > most + 1e-9:
            yield Judgement(
                code="profile-mismatch",
                severity="danger",
                part=source.key,
                says=f"{source.name} charges at {volts:g} V; {chemistry.name} must never be "
                f"above {most:g} V.",
                means="Overcharged cells gas, swell or burn.",
                remedy=f"Set absorption to {usual:g} V.",
                source=chemistry.sources["absorption_v"].says,
                numbers=numbers,
            )
        elif chemistry.lead and volts < usual - LOW_VOLTS and not _floats(source, usual):
            yield Judgement(
                code="profile-mismatch",
                severity="fault",
                part=source.key,
                says=f"{source.name} charges at {volts:g} V; {chemistry.name} wants {usual:g} V.",
                means="It is never quite filled, and sulphates.",
                remedy=f"Set absorption to {usual:g} V.",
                source=chemistry.sources["absorption_v"].says,
                numbers=numbers,
            )


def _floats(source: Source, usual: float) -> bool:
    """A trickle charger holds one voltage on purpose, when another source can fill the bank."""
    profile = source.profile
    return profile is not None and profile.absorption_v == profile.float_v < usual


def _sun(evidence: Evidence) -> Iterator[tuple[Source, SourceFlow]]:
    pairs = zip(evidence.run.sources, evidence.books.sources, strict=True)
    yield from ((source, flow) for source, flow in pairs if source.kind == "sun")


def controller_clips(evidence: Evidence) -> Iterator[Judgement]:
    """An array gives more than its controller passes."""
    for source, flow in _sun(evidence):
        lost, offered = amp_hours(flow.clipped), amp_hours(flow.offered)
        if lost <= CLIP_SHARE * offered:
            continue
        volts = np.maximum(evidence.run.track.bus_v, 1e-9)
        could = np.minimum(source.could_w / volts, source.could_a)
        clipped_h = hours(could > source.rating_a, evidence.run)
        yield Judgement(
            code="controller-clips",
            severity="waste",
            part=source.key,
            says=f"{source.name}: the panels reach {could.max():.1f} A, the controller passes "
            f"{source.rating_a:g} A.",
            means=f"{lost:.0f} Ah of {offered:.0f} Ah are lost on this trip, in {clipped_h:.0f} h.",
            remedy=f"A controller of {np.ceil(could.max()):.0f} A passes all of it.",
            source="the run",
            numbers=(Number("lost", lost, "Ah"), Number("hours", clipped_h, "h")),
        )


def array_overvoltage(evidence: Evidence) -> Iterator[Judgement]:
    """The coldest morning's open-circuit voltage is above what the controller bears."""
    arrays = {array.key: array for array in evidence.run.case.sun}
    for source, _ in _sun(evidence):
        most = arrays[source.key].controller.input_limit_v
        if most is None or source.volts is None or source.volts.cold_voc_v <= most:
            continue
        cold = source.volts.cold_voc_v
        series = arrays[source.key].series
        yield Judgement(
            code="array-overvoltage",
            severity="danger",
            part=source.key,
            says=f"{source.name}: on the coldest morning the string shows {cold:.1f} V, the "
            f"controller bears {most:g} V.",
            means="It can be destroyed, and may burn.",
            remedy=f"At most {max(int(series * most / cold), 0)} panels in series."
            if series > 1
            else f"A controller for more than {cold:.0f} V.",
            source="Voc times its cold coefficient [datasheet, textbook]",
            numbers=(Number("cold Voc", cold, "V"), Number("input limit", most, "V")),
        )


def array_undervoltage(evidence: Evidence) -> Iterator[Judgement]:
    """The hot panel's working voltage is too near the battery's."""
    bank = evidence.run.case.bank
    arrays = {array.key: array for array in evidence.run.case.sun}
    for source, _ in _sun(evidence):
        controller = arrays[source.key].controller
        headroom = controller.headroom_v if controller.kind == "tracking" else 0.0
        need = bank.nominal_v + headroom
        if source.volts is None or source.volts.hot_vmp_v >= need:
            continue
        hot = source.volts.hot_vmp_v
        yield Judgement(
            code="array-undervoltage",
            severity="fault",
            part=source.key,
            says=f"{source.name}: hot panels work at {hot:.1f} V; the controller needs "
            f"{need:.1f} V.",
            means="It charges badly or not at all when the sun is strongest.",
            remedy=f"Put {int(np.ceil(need / hot * arrays[source.key].series))} in series.",
            source="Vmp moved by cell temperature",
            numbers=(Number("hot Vmp", hot, "V"), Number("needed", need, "V")),
        )


def pwm_loss(evidence: Evidence) -> Iterator[Judgement]:
    """A PWM controller on a panel whose voltage is far above the battery's."""
    bank = evidence.run.case.bank
    for source, flow in _sun(evidence):
        if not source.pwm or source.volts is None:
            continue
        over = source.volts.hot_vmp_v - bank.nominal_v
        days = evidence.run.case.days
        gain = float(flow.conversion_wh.sum()) / bank.nominal_v / days
        if over <= PWM_OVER_V:
            continue
        yield Judgement(
            code="pwm-loss",
            severity="waste",
            part=source.key,
            says=f"{source.name}: a PWM controller works the panel {over:.0f} V below its best.",
            means=f"A tracking one would add about {gain:.1f} Ah a day.",
            remedy="Change the controller, or take a panel of fewer volts.",
            source="the run",
            numbers=(Number("gain", gain, "Ah a day"),),
        )


def alternator_smart_relay(evidence: Evidence) -> Iterator[Judgement]:
    """A relay on a smart alternator stops charging when the starter battery is full."""
    for source in evidence.run.case.vehicle:
        if isinstance(source, Relay) and source.alternator.smart and not source.forced:
            yield Judgement(
                code="alternator-smart-relay",
                severity="fault",
                part=source.key,
                says=f"{source.name} hangs on a smart alternator.",
                means=f"It opens after about {source.alternator.smart_after_min:.0f} min.",
                remedy="Use a DC-DC charger with an ignition wire.",
                source="smart alternators fall to about 12.5 V [textbook]",
            )


def no_ignition_sense(evidence: Evidence) -> Iterator[Judgement]:
    """A DC-DC charger that must sense a smart alternator."""
    for source in evidence.run.case.vehicle:
        if isinstance(source, DcDc) and source.alternator.smart and not source.ignition:
            yield Judgement(
                code="no-ignition-sense",
                severity="fault",
                part=source.key,
                says=f"{source.name} senses the voltage of a smart alternator.",
                means="It never starts, or goes on at a standstill and drains the starter battery.",
                remedy="Connect its ignition wire.",
                source="smart alternators fall to about 12.5 V [textbook]",
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
        cable = f"{area:.0f} mm2 of copper" if area < 120 else "a shorter lead, or half current"
        yield Judgement(
            code="dcdc-starved",
            severity="fault",
            part=source.key,
            says=f"{source.name}: for {starved_h:.1f} h its input is held under what "
            f"{source.rating_a:g} A need.",
            means=f"{amp_hours(flow.clipped):.0f} Ah do not come in on this trip.",
            remedy=f"Over {part.feed.length_m:g} m use {cable}.",
            source="the feed's resistance, V = V_alternator - I R",
            numbers=(Number("starved", starved_h, "h"), Number("area", area, "mm2")),
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
        yield Judgement(
            code="alternator-overloaded",
            severity="fault",
            part=part.key,
            says=f"{part.name} takes {amps:.0f} A from an alternator of "
            f"{part.alternator.rated_a:.0f} A{' that also idles' if idles else ''}.",
            means="Alternators are cooled for peaks, not for hours at their rating.",
            remedy=f"Limit it to {most * volts / nominal_v:.0f} A.",
            source="half of its rating for long, a third at idle [textbook]",
            numbers=(Number("input", amps, "A"), Number("advised", most, "A")),
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
        yield Judgement(
            code="socket-fuse",
            severity="fault",
            part=part.key,
            says=f"{part.name} asks {amps:.0f} A through a fuse of {part.fuse_a:g} A.",
            means="The fuse blows, or the plug runs hot.",
            remedy=f"Set it to {left:.1f} A: a full charge then takes "
            f"{evidence.run.case.bank.capacity_ah / left:.0f} h of driving.",
            source="a vehicle socket is usually fused for 10 A [textbook]",
            numbers=(Number("input", amps, "A"), Number("fuse", part.fuse_a, "A")),
        )


def shared_limit(evidence: Evidence) -> Iterator[Judgement]:
    """A combined charger loses sun while driving, or driving while the sun shines."""
    joining = evidence.run.case.joining
    if joining.kind != "combined":
        return
    pairs = zip(evidence.run.sources, evidence.books.sources, strict=True)
    lost = sum(amp_hours(flow.clipped) for source, flow in pairs if source.key in joining.members)
    if lost < 1.0:
        return
    yield Judgement(
        code="shared-limit",
        severity="waste",
        part="joining",
        says=f"One output limit of {joining.limit_a:g} A for {len(joining.members)} inputs.",
        means=f"{lost:.0f} Ah are lost on this trip where both could give.",
        remedy="Separate chargers would take both.",
        source="the run",
        numbers=(Number("lost", lost, "Ah"),),
    )


def sun_spilled(evidence: Evidence) -> Iterator[Judgement]:
    """The battery is full while the sun still offers much."""
    for source, flow in _sun(evidence):
        spilled, offered = amp_hours(flow.spilled), amp_hours(flow.offered)
        if spilled <= SPILL_SHARE * offered:
            continue
        yield Judgement(
            code="sun-spilled",
            severity="waste",
            part=source.key,
            says=f"{source.name}: {spilled:.0f} of {offered:.0f} Ah find the battery full.",
            means="More panel would not help; use at noon would.",
            remedy="Shift what can be shifted to noon, or take more battery.",
            source="the run",
            numbers=(Number("spilled", spilled, "Ah"), Number("offered", offered, "Ah")),
        )


RULES = (
    profile_mismatch,
    controller_clips,
    array_overvoltage,
    array_undervoltage,
    pwm_loss,
    alternator_smart_relay,
    no_ignition_sense,
    dcdc_starved,
    alternator_overloaded,
    socket_fuse,
    shared_limit,
    sun_spilled,
)
