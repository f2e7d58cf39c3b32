"""Judgements about charging as a whole: voltages, and a limit that sources share."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.gather import Source
from oddkettle.core.judgement.evidence import (
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    Severity,
    amp_hours,
    source_part,
)
from oddkettle.core.units import CLASS_V

LOW_VOLTS = 0.3
"""Absorption this far under the chemistry's own never fills it [judgement, 12 V class]."""
FLOAT_OVER_V = 0.3
"""Float this far above the chemistry's own keeps it under strain [judgement, 12 V class]."""
EQUALISE_V = 15.5
"""What an equalising stage goes to [textbook, 12 V class]."""


def profile_mismatch(evidence: Evidence) -> Iterator[Judgement]:
    """A charger's voltage outside what the chemistry bears."""
    for source in evidence.run.sources:
        if source.feed_s == 0.0:
            yield from _profile(evidence, source)


def _profile(evidence: Evidence, source: Source) -> Iterator[Judgement]:
    case = evidence.run.case
    chemistry = case.bank.chemistry
    to_class = case.bank.volts_scale * CLASS_V / case.bank.system_v
    most, usual = chemistry.never_above_v * to_class, chemistry.absorption_v * to_class
    rest = chemistry.float_v * to_class
    profile = source.profile or case.profile
    high = Number("never above", most, "V")
    if profile.absorption_v > most + 1e-9:
        yield _wrong(
            evidence,
            source,
            "danger",
            f"charges at {profile.absorption_v:g} V; {chemistry.name} must never be above "
            f"{most:g} V.",
            "Overcharged cells gas, swell or burn.",
            ("absorption_v", usual),
            (Number("absorption", profile.absorption_v, "V"), high),
        )
    elif (
        chemistry.lead and profile.absorption_v < usual - LOW_VOLTS and not _trickles(source, usual)
    ):
        yield _wrong(
            evidence,
            source,
            "fault",
            f"charges at {profile.absorption_v:g} V; {chemistry.name} wants {usual:g} V.",
            "It is never quite filled, and sulphates.",
            ("absorption_v", usual),
            (Number("absorption", profile.absorption_v, "V"), high),
        )
    if profile.float_v > rest + FLOAT_OVER_V + 1e-9:
        yield _wrong(
            evidence,
            source,
            "fault",
            f"floats at {profile.float_v:g} V; {chemistry.name} rests at {rest:g} V.",
            "Held so high for days it loses water or ages.",
            ("float_v", rest),
            (Number("float", profile.float_v, "V"), Number("usual", rest, "V")),
        )
    if profile.equalises and chemistry.key != "flooded":
        yield _wrong(
            evidence,
            source,
            "danger",
            f"has an equalising stage, some {EQUALISE_V:g} V; {chemistry.name} must never be above "
            f"{most:g} V.",
            "Only flooded cells bear it: sealed ones vent, lithium ones are destroyed.",
            ("equalises", False),
            (Number("equalising", EQUALISE_V, "V"), high),
        )


def _wrong(
    evidence: Evidence,
    source: Source,
    severity: Severity,
    says: str,
    means: str,
    setting: tuple[str, float | bool],
    numbers: tuple[Number, ...],
) -> Judgement:
    """A judgement of a charger whose voltage is at fault, mended by one setting."""
    field, value = setting
    word = {"absorption_v": "absorption", "float_v": "float"}.get(field)
    remedy = f"Set {word} to {value:g} V" if word else "Switch that stage off"
    own = source.profile is not None
    # A charger without voltages of its own holds the box's.
    change = Change(source_part(source), ("profile", field), value)
    return Judgement(
        code="profile-mismatch",
        severity=severity,
        part=source_part(source),
        says=f"{source.name} {says}",
        means=means,
        remedy=f"{remedy}.",
        source=evidence.run.case.bank.chemistry.sources["absorption_v"].says,
        numbers=numbers,
        fix=Fix(remedy, (change if own else Change("battery", (field,), value),)),
    )


def _trickles(source: Source, usual: float) -> bool:
    """A trickle charger holds one voltage on purpose, when another source can fill the bank."""
    profile = source.profile
    return profile is not None and profile.absorption_v == profile.float_v < usual


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
        severity=evidence.loss,
        part="joining",
        says=f"One output limit of {joining.limit_a:g} A for {len(joining.members)} inputs.",
        means=f"{lost:.0f} Ah are lost on this trip where both could give.",
        remedy="Separate chargers would take both.",
        source="the run",
        numbers=(Number("lost", lost, "Ah"),),
        fix=Fix("Try separate chargers", (Change("joining", ("kind",), "independent"),)),
    )


RULES = (profile_mismatch, shared_limit)
