"""Judgements about charging as a whole: voltages, and a limit that sources share."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from oddkettle.core.judgement.evidence import (
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    Severity,
    amp_hours,
    of_a_built_box,
    source_part,
)
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.units.conversion import CLASS_V

LOW_VOLTS = 0.3
"""Absorption this far under the chemistry's own never fills it [judgement, 12 V class]."""
FLOAT_OVER_V = 0.3
"""Float this far above the chemistry's own keeps it under strain [judgement, 12 V class]."""
EQUALISE_V = 15.5
"""What an equalising stage goes to [textbook, 12 V class]."""


@of_a_built_box
def profile_mismatch(evidence: Evidence) -> Iterator[Judgement]:
    """A charger's voltage outside what the chemistry bears."""
    sources = [source for source in evidence.run.sources if source.feed_s == 0.0]
    sharing = [source for source in sources if source.profile is None]
    if sharing:
        # What the chargers share is one setting, so it is one judgement.
        name = sharing[0].name if len(sharing) == 1 else "The box's chargers"
        verb = "" if len(sharing) > 1 else "s"
        held = _Held(name, verb, evidence.run.case.profile, "battery", ())
        yield from _profile(evidence, held)
        yield from _equalises(evidence, held)
    for source in sources:
        if source.profile is not None:
            held = _Held(source.name, "s", source.profile, source_part(source), ("profile",))
            yield from _profile(evidence, held)
            yield from _equalises(evidence, held)


class _Held(NamedTuple):
    """Voltages that somebody holds: who, and where they are set."""

    name: str
    verb: str
    profile: Profile
    part: str
    field: tuple[str, ...]


def _profile(evidence: Evidence, held: _Held) -> Iterator[Judgement]:
    case = evidence.run.case
    chemistry, profile = case.bank.chemistry, held.profile
    to_class = case.bank.volts_scale * CLASS_V / case.bank.system_v
    most, usual = chemistry.never_above_v * to_class, chemistry.absorption_v * to_class
    rest = chemistry.float_v * to_class
    high, absorption = (
        Number("never above", most, "V"),
        Number("absorption", profile.absorption_v, "V"),
    )
    low = chemistry.lead and profile.absorption_v < usual - LOW_VOLTS
    if profile.second_v is not None and profile.second_v > most + 1e-9 >= profile.absorption_v:
        yield _wrong(
            evidence,
            held,
            "danger",
            f"hold{held.verb} {profile.second_v:g} V in a second absorption; {chemistry.name} must "
            f"never be above {most:g} V.",
            "Overcharged cells gas, swell or burn.",
            ("second_v", usual),
            (Number("second absorption", profile.second_v, "V"), high),
        )
    elif profile.absorption_v > most + 1e-9:
        yield _wrong(
            evidence,
            held,
            "danger",
            f"charge{held.verb} at {profile.absorption_v:g} V; {chemistry.name} must never be "
            f"above {most:g} V.",
            "Overcharged cells gas, swell or burn.",
            ("absorption_v", usual),
            (absorption, high),
        )
    elif low and not _trickles(held, usual):
        yield _wrong(
            evidence,
            held,
            "fault",
            f"charge{held.verb} at {profile.absorption_v:g} V; {chemistry.name} wants {usual:g} V.",
            "It is never quite filled, and sulphates.",
            ("absorption_v", usual),
            (absorption, high),
        )
    if profile.float_v > rest + FLOAT_OVER_V + 1e-9:
        yield _wrong(
            evidence,
            held,
            "fault",
            f"float{held.verb} at {profile.float_v:g} V; {chemistry.name} rests at {rest:g} V.",
            "Held so high for days it loses water or ages.",
            ("float_v", rest),
            (Number("float", profile.float_v, "V"), Number("usual", rest, "V")),
        )


def _equalises(evidence: Evidence, held: _Held) -> Iterator[Judgement]:
    case = evidence.run.case
    chemistry = case.bank.chemistry
    most = chemistry.never_above_v * case.bank.volts_scale * CLASS_V / case.bank.system_v
    if held.profile.equalises and not chemistry.vented:
        yield _wrong(
            evidence,
            held,
            "danger",
            f"ha{'s' if held.verb else 've'} an equalising stage, some {EQUALISE_V:g} V; "
            f"{chemistry.name} must never be above {most:g} V.",
            "Only flooded cells bear it: sealed ones vent, lithium ones are destroyed.",
            ("equalises", False),
            (Number("equalising", EQUALISE_V, "V"), Number("never above", most, "V")),
        )


def _wrong(
    evidence: Evidence,
    held: _Held,
    severity: Severity,
    text: str,
    means: str,
    setting: tuple[str, float | bool],
    numbers: tuple[Number, ...],
) -> Judgement:
    """A judgement of voltages that are at fault, mended by one setting."""
    field, value = setting
    word = {
        "absorption_v": "absorption",
        "float_v": "float",
        "second_v": "the second absorption",
    }.get(field)
    remedy = f"Set {word} to {value:g} V" if word else "Switch that stage off"
    return Judgement(
        code="profile-mismatch",
        severity=severity,
        part=held.part,
        text=f"{held.name} {text}",
        means=means,
        remedy=f"{remedy}.",
        source=evidence.run.case.bank.chemistry.sources["absorption_v"].text,
        numbers=numbers,
        fix=Fix(remedy, (Change(held.part, (*held.field, field), value),)),
    )


def _trickles(held: _Held, usual: float) -> bool:
    """A trickle charger holds one voltage on purpose, when another source can fill the bank."""
    return bool(held.field) and held.profile.one_voltage and held.profile.float_v < usual


def shared_limit(evidence: Evidence) -> Iterator[Judgement]:
    """A combined charger loses sun while driving, or driving while the sun shines."""
    joining = evidence.run.case.joining
    if joining.kind != "combined":
        return
    pairs = zip(evidence.run.sources, evidence.ledger.sources, strict=True)
    lost = sum(amp_hours(flow.clipped) for source, flow in pairs if source.key in joining.members)
    if lost < 1.0:
        return
    yield Judgement(
        code="shared-limit",
        severity=evidence.loss,
        part="joining",
        text=f"One output limit of {joining.limit_a:g} A for {len(joining.members)} inputs.",
        means=f"{evidence.charge(lost)} are lost on this trip where both could give.",
        remedy="Separate chargers would take both.",
        source="the run",
        numbers=(Number("lost", lost, "Ah"),),
        fix=Fix("Try separate chargers", (Change("joining", ("kind",), "independent"),)),
    )


RULES = (profile_mismatch, shared_limit)
