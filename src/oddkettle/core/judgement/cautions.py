"""Cautions: what can hurt, said where the decision is made, each with where it comes from.

Every one defers to local codes and to licensed practice. They are content, kept here and nowhere
else, and shown on screen and in print.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Protocol

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.messages.caution import Caution
from oddkettle.core.simulation.case import Case
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.units.quantity import kilogram

HEAVY_KG = 20.0
LOCAL = "Your local code comes first."


class Kind(Protocol):
    """A kind of part that brings its own cautions."""

    @property
    def key(self) -> str:
        """Its key in plans."""

    @property
    def cautions(self) -> tuple[Caution, ...]:
        """What to say beside it."""


def _of_kinds(kinds: Iterable[Kind]) -> tuple[Caution, ...]:
    """Each caution once, about all the kinds that carry it."""
    carried: dict[Caution, tuple[str, ...]] = {}
    for kind in kinds:
        for caution in kind.cautions:
            carried[caution] = (*carried.get(caution, ()), kind.key)
    return tuple(
        replace(caution, about=(*keys, *caution.about)) for caution, keys in carried.items()
    )


CAUTIONS: tuple[Caution, ...] = (
    Caution(
        "battery",
        "A battery never switches off",
        "A short circuit carries hundreds of amps: no rings or watches, insulated tools, posts "
        "covered, and a fuse within a hand's breadth of the positive post. " + LOCAL,
        "common battery practice [textbook]",
        ("battery", "second"),
    ),
    *_of_kinds(CHEMISTRIES.values()),
    *_of_kinds(SOURCE_KINDS.values()),
    Caution(
        "inverter",
        "An inverter makes mains",
        "Its sockets can kill as a wall's do. Do not join it to other mains, and leave earth and "
        "neutral to licensed people.",
        "electrical codes everywhere [textbook]",
        ("inverter",),
    ),
    Caution(
        "heat",
        "Pads and heaters near cells",
        "Only pads with their own thermal cut-out, a thermostat on the cells, nothing between "
        "that can scorch.",
        "common practice for battery heaters [judgement]",
        ("heater",),
    ),
    Caution(
        "medical",
        "Medical: must not lose power",
        "This tool plans; it does not keep anyone breathing. Have a second source that needs none "
        "of this, and agree the plan with the supplier of the equipment and whoever treats you.",
        "common advice for home medical equipment [textbook]",
        ("medical",),
    ),
    Caution(
        "lifting",
        "Weight",
        f"Above {kilogram(20, '.0f')} two people or wheels; fasten it for the drive as you would "
        "a passenger.",
        "common workplace guidance [textbook]",
        ("heavy",),
    ),
)


def cautions_for(case: Case, carried_kg: float) -> tuple[Caution, ...]:
    """Those that what this box has calls for."""
    has = {"battery", case.bank.chemistry.key}
    if case.second is not None:
        has.add(case.second.bank.chemistry.key)
    has |= {source.group for source in case.sources}
    has |= {"inverter"} if case.inverter is not None else set()
    has |= {"heater"} if case.heater is not None else set()
    has |= {"medical"} if any(a.medical for a in case.appliances) else set()
    has |= {"heavy"} if carried_kg > HEAVY_KG else set()
    return tuple(caution for caution in CAUTIONS if has & set(caution.about))
