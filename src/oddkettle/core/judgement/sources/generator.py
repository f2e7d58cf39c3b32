"""Rules about a fuel generator."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.judgement.evidence import MIN_AH, Change, Evidence, Fix, Judgement, Number
from oddkettle.core.sources.generator import Generator, charger_of, fuel_l
from oddkettle.core.units.conversion import CLASS_V
from oddkettle.core.units.sold_sizes import at_most

INSIDE, NEAR = "inside something", "near a door, a window or a tent"
MANY_FILLS = 3.0
"""More fillings of the tank than this are worth planning for [judgement]."""


def generators(evidence: Evidence) -> Iterator[Generator]:
    """Those of the box."""
    for source in evidence.run.case.sources:
        if isinstance(source, Generator):
            yield source


def generator_indoors(evidence: Evidence) -> Iterator[Judgement]:
    """It runs where people breathe what comes out of it."""
    for one in generators(evidence):
        if one.stands == "open":
            continue
        inside = one.stands == "inside"
        yield Judgement(
            code="generator-indoors",
            severity="danger",
            part=f"generator:{one.key}",
            text=f"{one.name} runs {INSIDE if inside else NEAR}.",
            means="Its exhaust holds carbon monoxide, which kills without a smell or a warning.",
            remedy="Run it well away in the open, its exhaust pointing off; an alarm where you "
            "sleep.",
            source="public health guidance on portable generators [textbook]",
            fix=Fix(
                "It stands in the open",
                (Change(f"generator:{one.key}", ("stands",), "open"),),
            ),
        )


def generator_feeds_nothing(evidence: Evidence) -> Iterator[Judgement]:
    """No mains charger of the box can be plugged into it."""
    for one in generators(evidence):
        if charger_of(one, evidence.run.case.sources) is not None:
            continue
        yield Judgement(
            code="generator-feeds-nothing",
            severity="fault",
            part=f"generator:{one.key}",
            text=f"{one.name} has no mains charger to feed.",
            means="It makes mains voltage; a battery cannot take that.",
            remedy="Add a mains charger, or choose the one that is plugged into it.",
            source="the plan",
        )


def generator_overloaded(evidence: Evidence) -> Iterator[Judgement]:
    """Its charger asks more than it gives: it trips, where the plan reckons with less charge."""
    case = evidence.run.case
    for one in generators(evidence):
        charger = charger_of(one, case.sources)
        if charger is None or charger.supply_w is not None:
            continue
        profile = charger.profile or case.profile
        volts = profile.absorption_v * case.bank.system_v / CLASS_V
        asks_w = charger.limit_a * volts / charger.efficiency
        if asks_w <= one.rated_w:
            continue
        most_a = at_most(one.rated_w * charger.efficiency / volts)
        yield Judgement(
            code="generator-overloaded",
            severity="fault",
            part=f"generator:{one.key}",
            text=f"{charger.name} takes {asks_w:.0f} W at {charger.limit_a:g} A; {one.name} gives "
            f"{one.rated_w:.0f} W for hours.",
            means="It trips, or it is worn out; the plan reckons with what it can give.",
            remedy=f"A charger of at most {most_a:g} A, or one that can be told to take less.",
            source="charger volts by amps over its efficiency",
            numbers=(Number("asked", asks_w, "W"), Number("rated", one.rated_w, "W")),
            fix=Fix(
                "The charger is told to take no more",
                (Change(f"mains:{charger.key}", ("supply_w",), one.rated_w),),
            ),
        )


def generator_fuel(evidence: Evidence) -> Iterator[Judgement]:
    """How long it runs and what it burns, as an explanation."""
    run = evidence.run
    by_key = {one.key: one for one in generators(evidence)}
    for j, source in enumerate(run.sources):
        one = by_key.get(source.key)
        hours = float((source.on * (1.0 - source.barred)).sum() * run.grid.step_h)
        if one is None or hours <= 0.0:
            continue
        litres = fuel_l(one, source, run.taken_a[j] * run.track.bus_v, run.grid.step_h)
        fills = litres / one.tank_l
        taken = float(evidence.ledger.sources[j].taken.ah.sum())
        yield Judgement(
            code="generator-fuel",
            severity="note",
            part=f"generator:{one.key}",
            text=f"{one.name} runs {hours:.1f} h on this trip and burns {litres:.1f} l: "
            f"{litres / taken:.2f} l for each Ah that goes in."
            if taken >= MIN_AH
            else f"{one.name} runs {hours:.1f} h on this trip, burns {litres:.1f} l, and next "
            "to nothing goes in.",
            means=f"That is {fills:.1f} fillings of its tank. It is {one.noise_db:.0f} dB(A) loud "
            "at 7 m.",
            remedy="Run it when the battery is low: nearly full it idles to give a few amps."
            if fills <= MANY_FILLS
            else "Carry the fuel in an approved can, and refuel it cold.",
            source="a straight line from idling to full load [textbook]",
            numbers=(
                Number("hours", hours, "h"),
                Number("fuel", litres, "l"),
                Number("fillings", fills, ""),
            ),
        )


RULES = (generator_indoors, generator_feeds_nothing, generator_overloaded, generator_fuel)
