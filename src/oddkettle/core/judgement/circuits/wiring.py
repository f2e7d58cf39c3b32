"""Judgements about circuits: fuses, cables, connectors, the shunt, the order of switching off.

Every one defers to local codes and licensed practice.
"""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.construction.text import lost_words
from oddkettle.core.construction.wiring.cable import size_text
from oddkettle.core.construction.wiring.circuits import INLETS, OUTLETS
from oddkettle.core.construction.wiring.connectors import CONNECTORS, plug_class
from oddkettle.core.construction.wiring.fuses import LOAD_FACTOR
from oddkettle.core.construction.wiring.panel_strings import (
    PANEL_BEARS_A,
    back_a,
    string_fuse_a,
    wants_fuses,
)
from oddkettle.core.judgement.circuits.record import (
    circuit_fix,
    circuit_name,
    judged,
    left_to_tool,
    thicker_mm2,
)
from oddkettle.core.judgement.evidence import Change, Evidence, Fix, Judgement, Number
from oddkettle.core.loads.essential import must_run
from oddkettle.core.units.quantity import conductor
from oddkettle.core.units.sold_sizes import at_least, at_most

MAIN_FUSE_MM = 180.0
"""Furthest that the main fuse may sit from the positive post, along the cable [textbook]."""


def no_main_fuse(evidence: Evidence) -> Iterator[Judgement]:
    """No over-current protection close to the battery's positive post."""
    wiring = evidence.board.wiring
    for circuit in evidence.board.circuits:
        if circuit.need.role != "battery":
            continue
        if circuit.protection == "none":
            yield judged(
                circuit,
                "no-main-fuse",
                "danger",
                "nothing protects the cable at the battery.",
                f"A short on it draws about {evidence.board.short_a:.0f} A until it burns through.",
                f"A fuse within {MAIN_FUSE_MM:.0f} mm of the positive post.",
                "over-current protection within a hand's breadth of the source [textbook]",
                Number("short circuit", evidence.board.short_a, "A"),
                fix=left_to_tool(circuit, "protection"),
            )
        elif wiring.main_fuse_mm > MAIN_FUSE_MM:
            yield judged(
                circuit,
                "no-main-fuse",
                "danger",
                f"the main fuse sits {wiring.main_fuse_mm:.0f} mm from the battery.",
                "What lies before it is protected by nothing.",
                f"Bring it within {MAIN_FUSE_MM:.0f} mm of the positive post, or into a box right "
                "beside it.",
                "over-current protection within a hand's breadth of the source [textbook]",
                Number("distance", wiring.main_fuse_mm, "mm"),
                Number("limit", MAIN_FUSE_MM, "mm"),
                fix=Fix(
                    f"Set {MAIN_FUSE_MM:.0f} mm",
                    (Change("wiring", ("main_fuse_mm",), MAIN_FUSE_MM),),
                ),
            )


def circuit_unfused(evidence: Evidence) -> Iterator[Judgement]:
    """A circuit or source with no fuse or breaker."""
    for circuit in evidence.board.circuits:
        if circuit.protection == "none" and circuit.need.role != "battery":
            yield judged(
                circuit,
                "circuit-unfused",
                "danger",
                "it has no fuse or breaker.",
                "One chafed wire becomes a fire before anything else gives way.",
                f"A fuse of at least {at_least(LOAD_FACTOR * circuit.carries_a):g} A where it "
                "begins" + (f", at most {circuit.ampacity_a:.0f} A." if circuit.cable_mm2 else "."),
                "every circuit and every source is protected where it begins [textbook]",
                Number("current", circuit.carries_a, "A"),
                fix=left_to_tool(circuit, "protection"),
            )


WASTED_WH = 1.0
"""Less than this over a trip is no waste [judgement]."""


def drop_over(evidence: Evidence) -> Iterator[Judgement]:
    """A cable that loses more of the voltage than it should at full current."""
    for circuit in evidence.board.circuits:
        if circuit.cable_mm2 is None or circuit.drop_share <= circuit.most_share + 1e-9:
            continue
        better = thicker_mm2(evidence, circuit)
        text = size_text(better, evidence.board.wiring.series) if better else ""
        reach = circuit.run_m * circuit.most_share / circuit.drop_share
        yield judged(
            circuit,
            "drop-over",
            "fault"
            if circuit.need.must
            else (evidence.loss if circuit.lost_wh >= WASTED_WH else "note"),
            f"{circuit.drop_v:.2f} V, {100 * circuit.drop_share:.1f} %, are lost over "
            f"{circuit.run_m:g} m.",
            f"{lost_words(circuit.lost_wh)} on this trip, and what is at its end sees the lower "
            "voltage.",
            f"Use {text}." if better else f"At most {at_most(reach):g} m in the thickest cable.",
            f"{100 * circuit.most_share:.0f} % for "
            + ("charging and what must run" if circuit.most_share < 0.04 else "other circuits")
            + " [textbook]",
            Number("drop", circuit.drop_v, "V"),
            Number("limit", circuit.most_share * circuit.need.volts, "V"),
            fix=circuit_fix(circuit, f"Use {text}", "cable_mm2", better) if better else None,
        )


def connector_over(evidence: Evidence) -> Iterator[Judgement]:
    """A current above what the connector bears."""
    for circuit in evidence.board.circuits:
        part = CONNECTORS[circuit.connector]
        if circuit.carries_a <= part.rating_a + 1e-6:
            continue
        yield judged(
            circuit,
            "connector-over",
            "danger",
            f"{circuit.carries_a:.1f} A through a {part.name} for {part.rating_a:g} A.",
            "Contacts heat, oxidise and melt their housing.",
            "A connector for the current, or a ring lug.",
            "the connector's continuous rating [textbook]",
            Number("current", circuit.carries_a, "A"),
            Number("rating", part.rating_a, "A"),
            fix=left_to_tool(circuit, "connector"),
        )


def cable_too_thick(evidence: Evidence) -> Iterator[Judgement]:
    """A cable that does not go into the terminals of its connector."""
    for circuit in evidence.board.circuits:
        part = CONNECTORS[circuit.connector]
        if circuit.cable_mm2 is None or circuit.cable_mm2 <= part.most_mm2 * 1.05:
            continue
        yield judged(
            circuit,
            "cable-too-thick",
            "fault",
            f"{size_text(circuit.cable_mm2, evidence.board.wiring.series)} into a {part.name} "
            f"that takes {conductor(part.most_mm2)}.",
            "Cut strands carry less and come loose.",
            "A larger connector, or a short thinner tail with a fuse for that tail.",
            "what the terminals of such parts take [textbook]",
            Number("cable", circuit.cable_mm2, "mm2"),
            Number("takes", part.most_mm2, "mm2"),
            fix=left_to_tool(circuit, "connector"),
        )


def cable_too_thin(evidence: Evidence) -> Iterator[Judgement]:
    """A cable that the terminals of its connector do not grip."""
    for circuit in evidence.board.circuits:
        part = CONNECTORS[circuit.connector]
        if circuit.cable_mm2 is None or circuit.cable_mm2 >= part.least_mm2 * 0.95:
            continue
        yield judged(
            circuit,
            "cable-too-thin",
            "fault",
            f"{size_text(circuit.cable_mm2, evidence.board.wiring.series)} in a {part.name} whose "
            f"terminals grip {conductor(part.least_mm2)} and more.",
            "A crimp on too thin a lead holds by luck: it slips out, or runs hot where it touches.",
            f"A lead of {conductor(part.least_mm2)}, or a smaller connector.",
            "what the terminals of such parts are crimped on [textbook]",
            Number("cable", circuit.cable_mm2, "mm2"),
            Number("grips from", part.least_mm2, "mm2"),
            fix=left_to_tool(circuit, "cable_mm2") or left_to_tool(circuit, "connector"),
        )


def isolator_key(evidence: Evidence) -> Iterator[Judgement]:
    """The key of the isolator comes off."""
    circuit = evidence.board.of("battery")
    if not evidence.board.wiring.loose_key or circuit is None:
        return
    must = [a.name for a in evidence.run.case.appliances if must_run(a)]
    yield judged(
        circuit,
        "isolator-key",
        "fault" if must else "note",
        "the isolator's key comes off.",
        (f"{must[0]} must run: switched " if must else "Switched ")
        + "off and the key lost, the box stays dark; and a key that shakes out is no switch in an "
        "emergency.",
        "An isolator whose handle stays on, or the key on a cord beside it and a spare one.",
        "a means of disconnection is always at hand [ABYC E-11, IEC 60364 kind]",
        Number("must run", len(must), ""),
        fix=Fix("Its handle stays on", (Change("wiring", ("loose_key",), False),)),
    )


def charge_plug_shared(evidence: Evidence) -> Iterator[Judgement]:
    """An inlet that takes the plug of an outlet, or of an inlet of another voltage."""
    circuits = evidence.board.circuits
    for circuit in circuits:
        part = CONNECTORS[circuit.connector]
        inlet = circuit.need.role in INLETS or circuit.need.role == "second"
        plugged = inlet or circuit.need.role in OUTLETS
        if not plugged or not part.hole_mm or circuit.connector == "gland":
            continue
        mine = plug_class(circuit.need)
        same = [
            c
            for c in circuits
            if c.connector == circuit.connector
            and plug_class(c.need) != mine
            and ((inlet and c.need.role in OUTLETS) or c.number < circuit.number)
            and c.need.role in ({*OUTLETS, *INLETS, "second"} if inlet else set(OUTLETS))
        ]
        if not same:
            continue
        way = "goes out" if same[0].need.role in OUTLETS else "comes in"
        yield judged(
            circuit,
            "charge-plug-shared",
            "danger",
            f"it {'comes in' if inlet else 'goes out'} through a {part.name}, as "
            f"{circuit_name(same[0])} {way}.",
            f"One day {circuit.need.volts:.0f} V are plugged in where they do not belong.",
            "Give each direction and each voltage a plug of its own.",
            "inlets and outlets that must not be confused get plugs of their own [textbook]",
            Number("plugs alike", float(len(same)), ""),
            fix=left_to_tool(circuit, "connector"),
        )


def shunt_bypassed(evidence: Evidence) -> Iterator[Judgement]:
    """A negative that goes round the shunt."""
    if not evidence.board.wiring.shunt:
        return
    for circuit in evidence.board.circuits:
        if circuit.returns != "battery_side" or circuit.need.role == "battery":
            continue
        yield judged(
            circuit,
            "shunt-bypassed",
            "fault",
            "its negative goes to the battery's side of the shunt.",
            f"The counter never sees {_unseen(circuit.need.seen_a)} and reads wrong from then on.",
            "Bring every negative to the load side; only the shunt itself goes to the battery.",
            "a shunt counts what passes through it [textbook]",
            Number("uncounted", circuit.need.seen_a, "A"),
            fix=left_to_tool(circuit, "returns"),
        )


def _unseen(amps: float) -> str:
    return f"its {amps:.1f} A" if amps >= 0.05 else "what flows there"


def isolation_order(evidence: Evidence) -> Iterator[Judgement]:
    """Nothing to disconnect the solar panels separately."""
    for circuit in evidence.board.circuits:
        if circuit.need.role != "panel" or circuit.disconnect:
            continue
        yield judged(
            circuit,
            "isolation-order",
            "fault",
            "nothing disconnects these panels by themselves.",
            "With the battery switched off the sun keeps the circuit live, and some controllers "
            "do not survive that.",
            "A switch or breaker for the panels. Off: solar, then battery. On: battery, then "
            "solar.",
            "controllers are made for battery first [datasheet, textbook]",
            fix=left_to_tool(circuit, "disconnect") or left_to_tool(circuit, "protection"),
        )


def strings_unfused(evidence: Evidence) -> Iterator[Judgement]:
    """Strings of panels that together feed more into a failed one than a panel bears."""
    for circuit in evidence.board.circuits:
        need = circuit.need
        bears = need.string_bears_a or PANEL_BEARS_A
        wanted = wants_fuses(need.strings, need.string_a, bears)
        if circuit.string_fuse_a is not None or not wanted:
            continue
        back = back_a(need.strings, need.string_a)
        who = "their label allows" if need.string_bears_a else "most panels bear"
        size = string_fuse_a(need.string_a)
        remedy = (
            f"A fuse of {size:g} A in each string, made for panels"
            if size
            else "Strings of panels with less current, or a combiner with breakers"
        )
        yield judged(
            circuit,
            "strings-unfused",
            "danger",
            f"{need.strings:g} strings in parallel without a fuse each.",
            f"Where one fails, the others feed {back:.1f} A into it; {who} {bears:g} A.",
            f"{remedy}; the panel's own label says the largest.",
            "what the other strings give in strong light against the label's series fuse "
            "[textbook]",
            Number("into a failed string", back, "A"),
            Number("borne", bears, "A"),
            fix=left_to_tool(circuit, "string_fuses"),
        )


def string_fuse_over_label(evidence: Evidence) -> Iterator[Judgement]:
    """A fuse in each string that is larger than the panels' label allows."""
    for circuit in evidence.board.circuits:
        size, bears = circuit.string_fuse_a, circuit.need.string_bears_a
        if size is None or bears is None or size <= bears:
            continue
        yield judged(
            circuit,
            "string-fuse-over-label",
            "fault",
            f"{size:g} A in each string of panels whose label allows {bears:g} A.",
            f"It is the smallest that bears {circuit.need.string_a:g} A of Isc for hours, and "
            "protects them too late.",
            "Ask the panels' maker, or take panels whose label allows more.",
            "1.56 x Isc for the fuse, at most the label's own series fuse [textbook]",
            Number("fuse", size, "A"),
            Number("allowed", bears, "A"),
        )


def parallel_sources_one_fuse(evidence: Evidence) -> Iterator[Judgement]:
    """Several circuits behind one fuse that together pass it."""
    for circuit in evidence.board.circuits:
        behind = evidence.board.sharing(circuit)
        if len(behind) < 2 or circuit.fuse_a is None:
            continue
        total = sum(c.carries_a for c in behind)
        if total <= circuit.fuse_a:
            continue
        numbers = " and ".join(str(c.number) for c in behind)
        yield judged(
            circuit,
            "parallel-sources-one-fuse",
            "fault",
            f"circuits {numbers} together carry {total:.1f} A through one fuse of "
            f"{circuit.fuse_a:g} A.",
            "It blows when both give their best.",
            f"At least {at_least(LOAD_FACTOR * total):g} A with cables to match, or a fuse each.",
            "currents in parallel add [textbook]",
            Number("together", total, "A"),
            Number("fuse", circuit.fuse_a, "A"),
            fix=left_to_tool(behind[1], "fuse_with"),
        )


def nothing_suits(evidence: Evidence) -> Iterator[Judgement]:
    """A circuit for which no cable or fuse here will do."""
    for circuit in evidence.board.circuits:
        if circuit.trouble:
            yield judged(
                circuit,
                "nothing-suits",
                "danger",
                circuit.trouble,
                "It cannot be protected with what one can buy over a counter.",
                "Change the plan before anything is built.",
                "standard sizes of cables and fuses [standard series]",
                Number("current", circuit.carries_a, "A"),
                fix=left_to_tool(circuit, "run_m"),
            )


RULES = (
    no_main_fuse,
    circuit_unfused,
    cable_too_thick,
    cable_too_thin,
    isolator_key,
    drop_over,
    connector_over,
    charge_plug_shared,
    shunt_bypassed,
    isolation_order,
    strings_unfused,
    string_fuse_over_label,
    parallel_sources_one_fuse,
    nothing_suits,
)
