"""Judgements about where the bank stands: gas, heat, bare metal, weight, unlike batteries."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.construction.ventilation import airing_of
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.construction.wiring.short_circuit import short_circuit_a
from oddkettle.core.judgement.evidence import (
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    of_a_built_box,
)
from oddkettle.core.units.quantity import celsius, kelvin, kilogram

HEAVY_KG = 20.0
"""Above this, two people or wheels [common workplace guidance]."""
HOT_CELLS_C = 60.0
"""Where management systems of lithium cells usually open [textbook]."""
HOT_CHARGER_A = 10.0
"""From here on a charger wants air [judgement]."""
AIRED = Fix("Move it to an aired place", (Change("warmth", ("place",), "aired"),))


@of_a_built_box
def mixed_bank(evidence: Evidence) -> Iterator[Judgement]:
    """Batteries that differ share one bank, or a second bank of another chemistry joins it."""
    case = evidence.run.case
    if not case.surroundings.alike and case.bank.series * case.bank.parallel > 1:
        count = case.bank.series * case.bank.parallel
        yield Judgement(
            code="mixed-bank",
            severity="fault",
            part="battery",
            text=f"The {count} batteries of the bank are not alike.",
            means="The weakest leads: it is emptied first and overcharged first, and the others "
            "pour into it.",
            remedy="Make a bank of batteries of one type, size and age.",
            source="common practice for banks [textbook]",
            numbers=(Number("batteries", count, ""),),
        )
    if case.second is None:
        return
    if case.surroundings.unlike_ages:
        yield Judgement(
            code="unlike-age",
            severity="fault",
            part="second",
            text="A battery and an older one are joined in parallel.",
            means="The older one leads: it fills and empties first, and the new one is held to its "
            "pace and ages with it.",
            remedy="Batteries of one age, or one after the other through a switch.",
            source="common practice for banks [textbook]",
        )
    own, other = case.bank.chemistry, case.second.bank.chemistry
    if own.key == other.key:
        return
    apart = abs(own.absorption_v - other.absorption_v)
    yield Judgement(
        code="mixed-bank",
        severity="fault",
        part="second",
        text=f"{own.name} and {other.name} are joined in parallel.",
        means=f"They want absorption {apart:.1f} V apart, and at rest one pours into the other.",
        remedy=f"Take {own.name} for both, or a DC-DC charger between the two.",
        source=own.sources["absorption_v"].text,
        numbers=(Number("apart", apart, "V"),),
        fix=Fix(
            f"Take {own.name} for both",
            (Change("second", ("battery", "chemistry"), own.key),),
        ),
    )


@of_a_built_box
def flooded_in_cabin(evidence: Evidence) -> Iterator[Judgement]:
    """Vented cells where people live."""
    case = evidence.run.case
    if not case.bank.chemistry.vented or case.surroundings.place != "living":
        return
    yield Judgement(
        code="flooded-in-cabin",
        severity="danger",
        part="warmth",
        text="Vented flooded cells stand where people live or sleep.",
        means="While they are charged they give off hydrogen, which explodes from 4 % in air, and "
        "acid mist.",
        remedy="Put them in a sealed box that is aired to the outside, or take a sealed battery.",
        source="hydrogen's lower explosive limit, 4 % by volume [textbook]",
        numbers=(Number("explosive from", 4.0, "% in air"),),
        fix=AIRED,
    )


@of_a_built_box
def agm_under_bonnet(evidence: Evidence) -> Iterator[Judgement]:
    """Sealed lead-acid beside an engine."""
    case = evidence.run.case
    chemistry = case.bank.chemistry
    if not chemistry.sealed_lead or case.surroundings.place != "engine":
        return
    yield Judgement(
        code="agm-under-bonnet",
        severity="fault",
        part="warmth",
        text=f"{chemistry.name} stands beside an engine.",
        means="Heat makes it vent; the water does not come back, and its capacity is lost for "
        f"good. Each {kelvin(10)} halves its years.",
        remedy=f"Move it where it stays below {celsius(40)}.",
        source="lead-acid life halves each 10 K [textbook]",
        numbers=(Number("stays below", 40.0, "C"),),
        fix=AIRED,
    )


@of_a_built_box
def conductive_enclosure(evidence: Evidence) -> Iterator[Judgement]:
    """Bare posts inside a metal box."""
    around = evidence.run.case.surroundings
    if not around.metal or around.posts_covered:
        return
    short_a = short_circuit_a(evidence.run.case.bank)
    yield Judgement(
        code="conductive-enclosure",
        severity="danger",
        part="warmth",
        text="The posts are bare inside a box of metal.",
        means=f"A lid or a spanner across them carries some {short_a:.0f} A: it melts and burns.",
        remedy="Cover the posts with caps, and line the box.",
        source=evidence.run.case.bank.chemistry.sources["short_mohm"].text,
        numbers=(Number("short circuit", short_a, "A"),),
        fix=Fix("The posts are capped now", (Change("warmth", ("posts_covered",), True),)),
    )


@of_a_built_box
def bare_posts(evidence: Evidence) -> Iterator[Judgement]:
    """Bare posts in a box of anything: a tool that is dropped needs no metal wall."""
    around = evidence.run.case.surroundings
    if around.metal or around.posts_covered:
        return
    short_a = short_circuit_a(evidence.run.case.bank)
    yield Judgement(
        code="bare-posts",
        severity="danger",
        part="warmth",
        text="The battery's posts are bare.",
        means=f"A spanner or a loose end across them carries some {short_a:.0f} A: it melts and "
        "burns.",
        remedy="Cover the posts with caps or boots, the negative one too.",
        source=evidence.run.case.bank.chemistry.sources["short_mohm"].text,
        numbers=(Number("short circuit", short_a, "A"),),
        fix=Fix("The posts are capped now", (Change("warmth", ("posts_covered",), True),)),
    )


@of_a_built_box
def lithium_under_bonnet(evidence: Evidence) -> Iterator[Judgement]:
    """Lithium beside an engine."""
    case = evidence.run.case
    chemistry = case.bank.chemistry
    if chemistry.lead or case.surroundings.place != "engine":
        return
    yield Judgement(
        code="lithium-under-bonnet",
        severity="fault",
        part="warmth",
        text=f"{chemistry.name} stands beside an engine.",
        means=f"Its management system shuts it off near {celsius(HOT_CELLS_C)}, and cells that "
        f"live above {celsius(40)} lose their years.",
        remedy=f"Move it where it stays below {celsius(40)}.",
        source="usual limits of data sheets: discharge to 60 C, charge to 45 C [textbook]",
        numbers=(Number("shuts off near", HOT_CELLS_C, "C"), Number("stays below", 40.0, "C")),
        fix=AIRED,
    )


@of_a_built_box
def bare_metal_pass(evidence: Evidence) -> Iterator[Judgement]:
    """Cables through a bare hole in metal."""
    around = evidence.run.case.surroundings
    if not around.metal or around.grommets:
        return
    passing = [c for c in evidence.board.circuits if CONNECTORS[c.connector].hole_mm]
    yield Judgement(
        code="bare-metal-pass",
        severity="danger",
        part="enclosure",
        text=f"{len(passing)} cable{'s' * (len(passing) != 1)} through bare holes in metal.",
        means="The edge works through the insulation on the road, and the wall shorts what it "
        "touches.",
        remedy="A grommet or a gland in every hole, and the cable held beside it.",
        source="conductors protected where they pass a wall [ISO 10133, ABYC E-11 kind]",
        numbers=(Number("cables", len(passing), ""),),
        fix=Fix("Every hole has a grommet", (Change("enclosure", ("grommets",), True),)),
    )


@of_a_built_box
def heavy_lift(evidence: Evidence) -> Iterator[Judgement]:
    """A battery that nobody should carry alone."""
    bank = evidence.run.case.bank
    each = bank.mass_kg / (bank.series * bank.parallel)
    if each <= HEAVY_KG:
        return
    yield Judgement(
        code="heavy-lift",
        severity="note",
        part="battery",
        text=f"One battery weighs about {kilogram(each, '.0f')}.",
        means="Backs and fingers are hurt at the last step into the vehicle.",
        remedy="Carry it with two people or wheels, terminals covered.",
        source=bank.chemistry.sources["kg_per_ah"].text,
        numbers=(Number("one battery", each, "kg"),),
    )


@of_a_built_box
def vent_missing(evidence: Evidence) -> Iterator[Judgement]:
    """Lead of any kind in a closed box."""
    case = evidence.run.case
    bank, airing = case.bank, airing_of(case.bank)
    around = case.surroundings
    if around.vents or around.battery_apart or not bank.chemistry.lead:
        return
    vented = bank.chemistry.vented
    yield Judgement(
        code="vent-missing",
        severity="danger" if vented else "fault",
        part="enclosure",
        text=f"{bank.chemistry.name} in a closed box: charging, it gives off gas that wants "
        f"{airing.m3_per_h:.2f} m³/h of air.",
        means="Hydrogen gathers under the lid, and a spark there sets it off."
        if vented
        else "Overcharged it vents hydrogen too, and the box keeps it.",
        remedy=f"Openings of {airing.area_cm2:.0f} cm² free area low down and as much at the top: "
        + ("a round vent" if airing.vents == 1 else f"{airing.vents} round vents")
        + " of 60 mm each.",
        source="Q = 0.05 n I C / 1000, A = 28 Q [EN 62485-2 kind]",
        numbers=(Number("air", airing.m3_per_h, "m³/h"), Number("area", airing.area_cm2, "cm²")),
        fix=Fix("Give it the vents", (Change("enclosure", ("vented",), True),)),
    )


@of_a_built_box
def air_missing(evidence: Evidence) -> Iterator[Judgement]:
    """What gets hot, in a closed box."""
    case = evidence.run.case
    if case.surroundings.vents:
        return
    chargers = [s for s in evidence.run.sources if float(s.rating_a) >= HOT_CHARGER_A]
    if case.inverter is None and not chargers:
        return
    what = "inverter" if case.inverter is not None else chargers[0].name
    yield Judgement(
        code="air-missing",
        severity="fault",
        part="enclosure",
        text=f"The box is closed, and the {what} in it gets hot.",
        means="It gives less, then switches off, and its warmth ages the battery.",
        remedy="A vent low down and one at the top, at the other end of the box.",
        source="makers ask for free air about what they cool [textbook]",
        numbers=(Number("charger", HOT_CHARGER_A, "A"),),
        fix=Fix("Give it the vents", (Change("enclosure", ("vented",), True),)),
    )


@of_a_built_box
def ignition_with_cells(evidence: Evidence) -> Iterator[Judgement]:
    """Relays, fuses, sockets and inverters in one closed space with vented cells."""
    case = evidence.run.case
    if not case.bank.chemistry.vented or case.surroundings.battery_apart:
        return
    airing = airing_of(case.bank)
    yield Judgement(
        code="ignition-with-cells",
        severity="danger",
        part="enclosure",
        text="Vented cells share a box with fuses, sockets and chargers, which spark.",
        means="While they are charged they give off hydrogen, and any of these can set it off.",
        remedy="The battery in a box of its own, aired to the outside through "
        f"{airing.area_cm2:.0f} cm² low and high, and all the rest beside it.",
        source="ignition sources apart from vented cells [EN 62485-2, ISO 13297 kind]",
        numbers=(Number("air", airing.m3_per_h, "m³/h"), Number("area", airing.area_cm2, "cm²")),
        fix=Fix(
            "The battery in a box of its own", (Change("enclosure", ("battery_apart",), True),)
        ),
    )


RULES = (
    mixed_bank,
    flooded_in_cabin,
    agm_under_bonnet,
    lithium_under_bonnet,
    conductive_enclosure,
    bare_posts,
    bare_metal_pass,
    vent_missing,
    air_missing,
    ignition_with_cells,
    heavy_lift,
)
