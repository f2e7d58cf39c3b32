"""Judgements about machines on which somebody's health hangs."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from oddkettle.core.judgement.cautions import CAUTIONS
from oddkettle.core.judgement.evidence import Change, Evidence, Fix, Judgement, appliance_part
from oddkettle.core.loads.essential import sounds_medical

SECOND_SOURCE = (
    "A second source is a charged spare battery of its own, mains at a neighbour's or in a car "
    "that stays beside you, or a set of the equipment's own batteries: whatever works when this "
    "box is dead, and was tried for a whole night."
)
"""What counts as a second source [common advice for home medical equipment]."""


def medical_words(names: Iterable[str]) -> str | None:
    """The caution for things on which health may hang, by their names; None where none is."""
    found = [name for name in names if sounds_medical(name)]
    if not found:
        return None
    (caution,) = (one for one in CAUTIONS if one.key == "medical")
    return f"{found[0]}: {caution.text} {SECOND_SOURCE}"


def medical_single_source(evidence: Evidence) -> Iterator[Judgement]:
    """Health hangs on it and this box is all that feeds it: a fault, however full the box is."""
    (caution,) = (one for one in CAUTIONS if one.key == "medical")
    for appliance in evidence.run.case.appliances:
        if not appliance.medical or appliance.backup:
            continue
        yield Judgement(
            code="medical-single-source",
            severity="fault",
            part=appliance_part(appliance),
            text=f"{appliance.name} must not lose power, and this box is its only source.",
            means="A blown fuse or a battery that switches itself off ends it at once, on the "
            "fullest box.",
            remedy=caution.text,
            source=caution.source,
            fix=Fix(
                "There is one, and it was tried",
                (Change(appliance_part(appliance), ("backup",), True),),
            ),
        )


def medical_unmarked(evidence: Evidence) -> Iterator[Judgement]:
    """By its name health hangs on it, and nobody has marked it."""
    for appliance in evidence.run.case.appliances:
        if appliance.medical or not sounds_medical(appliance.name):
            continue
        yield Judgement(
            code="medical-unmarked",
            severity="note",
            part=appliance_part(appliance),
            text=f"Does somebody's health hang on {appliance.name}?",
            means="Then it is judged more strictly: it must come through in 99 of 100 tries, and "
            "wants a second source.",
            remedy="Mark it on its sheet.",
            source="its name",
            fix=Fix("Mark it", (Change(appliance_part(appliance), ("medical",), True),)),
        )


RULES = (medical_single_source, medical_unmarked)
