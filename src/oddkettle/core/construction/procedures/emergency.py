"""What to do right now: before any fault is looked for. Short, in the order in which it is done.

General guidance; whoever the emergency number reaches knows better.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from oddkettle.core.simulation.case import Case
from oddkettle.core.sources import SOURCE_KINDS

FIRE, FIRST_AID = (
    "guidance of fire services for batteries [textbook]",
    "common first-aid guidance [textbook]",
)


@dataclass(frozen=True)
class Emergency:
    """What is seen, and what is done then, one step a line."""

    key: str
    title: str
    steps: tuple[str, ...]
    source: str


def emergencies(case: Case) -> tuple[Emergency, ...]:
    """Those that can happen with what this box has, the most serious first."""
    banks = [case.bank] + ([case.second.bank] if case.second is not None else [])
    lead = any(bank.chemistry.lead for bank in banks)
    lithium = any(not bank.chemistry.lead for bank in banks)
    return (*_of_fire(lithium=lithium), *_of_people(case, lead=lead))


def _of_fire(*, lithium: bool) -> Iterator[Emergency]:
    yield Emergency(
        "smoke",
        "Smoke or fire",
        (
            "Everybody out and well away, against the wind: the smoke is poisonous.",
            "Call the emergency number and say that it is a battery, and of which kind.",
            "Do not open the box, and do not go back for anything.",
            *(
                (
                    "A lithium battery that went out can light again for a day: let nobody take it "
                    "back inside.",
                )
                if lithium
                else ()
            ),
        ),
        FIRE,
    )
    yield Emergency(
        "hot",
        "A battery that is hot, swollen, hissing or smells",
        (
            "Stop charging and using it: sun off, chargers off, then the isolator, if you can "
            "reach them without leaning over it.",
            "Let nobody near it. If it can be moved without touching it, into the open, away "
            "from whatever burns.",
            "Do not open, pierce or cool it by hand. Watch from afar for hours; at the first smoke "
            "call the emergency number.",
            "It is never used again.",
        ),
        FIRE,
    )
    yield Emergency(
        "cable",
        "A cable, fuse or plug that smokes or is too hot to touch",
        (
            "Sun off, chargers and vehicle off, then the isolator.",
            "No water on what is live. Let it cool; touch no bare metal.",
            "Nothing goes on again until the cause is found.",
        ),
        FIRE,
    )


def _of_people(case: Case, *, lead: bool) -> Iterator[Emergency]:
    if case.mains or case.inverter is not None:
        yield Emergency(
            "shock",
            "Somebody has a shock from mains or the inverter",
            (
                "Do not touch them while they may be on it: plug out or supply off first.",
                "If that cannot be done, part them from it with something dry that is no metal.",
                "Call the emergency number. Not breathing: begin resuscitation and go on until "
                "help comes.",
                "Whoever feels well sees a doctor all the same: the heart can trip hours later.",
            ),
            FIRST_AID,
        )
    if lead:
        yield Emergency(
            "acid",
            "Acid in an eye or on skin",
            (
                "Rinse at once with much running water, an eye wide open for at least twenty "
                "minutes.",
                "Take off what is soaked while you rinse.",
                "Call the emergency number for an eye, and for more than a spot of skin.",
            ),
            FIRST_AID,
        )
    yield Emergency(
        "burn",
        "A burn by a spark, a tool across the posts, or a hot part",
        (
            "Cool it under running, lukewarm water for twenty minutes; rings off before it swells.",
            "Cover it loosely and clean; a doctor for anything larger than a coin, and for eyes.",
        ),
        FIRST_AID,
    )
    if any(SOURCE_KINDS[source.group].fumes for source in case.sources):
        yield Emergency(
            "fumes",
            "Headache or dizziness near a running engine or generator",
            (
                "Out into fresh air at once, everybody.",
                "Engine off only if that needs no breath inside.",
                "Call the emergency number: carbon monoxide is not smelled, and kills in sleep.",
            ),
            FIRST_AID,
        )
