"""Judgements about circuits: fuses, cables, connectors, the shunt, the order of switching off.

Every one defers to local codes and licensed practice.
"""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.construction.wiring.cable import ampacity_a, drop_v, size_text, sizes_of
from oddkettle.core.construction.wiring.circuits import AT_BATTERY, INLETS, OUTLETS, Circuit
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.construction.wiring.fuses import FAMILIES, LOAD_FACTOR, family_for, least_size_a
from oddkettle.core.construction.wiring.panel_strings import (
    PANEL_BEARS_A,
    back_a,
    string_fuse_a,
    wants_fuses,
)
from oddkettle.core.construction.wiring.sizing import largest_fuse_a
from oddkettle.core.judgement.evidence import Change, Evidence, Fix, Judgement, Number, Severity

MAIN_FUSE_MM = 180.0
"""Furthest that the main fuse may sit from the positive post, along the cable [textbook]."""
LOCAL = "Local codes and licensed practice come first."


def _judged(
    circuit: Circuit,
    code: str,
    severity: Severity,
    text: str,
    means: str,
    remedy: str,
    source: str,
    *numbers: Number,
    fix: Fix | None = None,
) -> Judgement:
    return Judgement(
        code,
        severity,
        f"circuit:{circuit.key}",
        f"{_name(circuit)}: {text}",
        means,
        f"{remedy} {LOCAL}",
        source,
        numbers,
        fix,
    )


def _name(circuit: Circuit) -> str:
    return f"Circuit {circuit.number}, {circuit.need.name}"


def _fix(circuit: Circuit, text: str, field: str, value: float | str | bool | None) -> Fix:
    return Fix(text, (Change(f"circuit:{circuit.key}", (field,), value),))


def _back(circuit: Circuit, field: str) -> Fix | None:
    """Leave it to the tool again, where the user had fixed it."""
    return _fix(circuit, "Leave it to the tool", field, None) if field in circuit.fixed else None


def no_main_fuse(evidence: Evidence) -> Iterator[Judgement]:
    """No over-current protection close to the battery's positive post."""
    wiring = evidence.board.wiring
    for circuit in evidence.board.circuits:
        if circuit.need.role != "battery":
            continue
        if circuit.protection == "none":
            yield _judged(
                circuit, "no-main-fuse", "danger", "nothing protects the cable at the battery.",
                f"A short on it draws about {evidence.board.short_a:.0f} A until it burns through.",
                f"A fuse within {MAIN_FUSE_MM:.0f} mm of the positive post.",
                "over-current protection within a hand's breadth of the source [textbook]",
                Number("short circuit", evidence.board.short_a, "A"),
                fix=_back(circuit, "protection"),
            )  # fmt: skip
        elif wiring.main_fuse_mm > MAIN_FUSE_MM:
            yield _judged(
                circuit, "no-main-fuse", "danger",
                f"the main fuse sits {wiring.main_fuse_mm:.0f} mm from the battery.",
                "What lies before it is protected by nothing.",
                f"Bring it within {MAIN_FUSE_MM:.0f} mm of the positive post, or into a box right "
                "beside it.",
                "over-current protection within a hand's breadth of the source [textbook]",
                Number("distance", wiring.main_fuse_mm, "mm"), Number("limit", MAIN_FUSE_MM, "mm"),
                fix=Fix(f"Set {MAIN_FUSE_MM:.0f} mm",
                        (Change("wiring", ("main_fuse_mm",), MAIN_FUSE_MM),)),
            )  # fmt: skip


def circuit_unfused(evidence: Evidence) -> Iterator[Judgement]:
    """A circuit or source with no fuse or breaker."""
    for circuit in evidence.board.circuits:
        if circuit.protection == "none" and circuit.need.role != "battery":
            yield _judged(
                circuit, "circuit-unfused", "danger", "it has no fuse or breaker.",
                "One chafed wire becomes a fire before anything else gives way.",
                f"A fuse of at least {LOAD_FACTOR * circuit.carries_a:.1f} A where it begins"
                + (f", at most {circuit.ampacity_a:.0f} A." if circuit.cable_mm2 else "."),
                "every circuit and every source is protected where it begins [textbook]",
                Number("current", circuit.carries_a, "A"),
                fix=_back(circuit, "protection"),
            )  # fmt: skip


def fuse_over_cable(evidence: Evidence) -> Iterator[Judgement]:
    """A fuse that lets more through than the cable bears."""
    for circuit in evidence.board.circuits:
        if circuit.fuse_a is None or circuit.fuse_a <= circuit.ampacity_a + 1e-6:
            continue
        largest = largest_fuse_a(circuit)
        cable = size_text(circuit.cable_mm2 or 0.0, evidence.board.wiring.series)
        enough = largest is not None and largest >= LOAD_FACTOR * circuit.carries_a
        thicker = _thicker(evidence, circuit)
        if enough and circuit.fuse_with is None:
            remedy, fix = (
                f"At most {largest:g} A for this cable.",
                _fix(circuit, f"Fuse it at {largest:g} A", "fuse_a", largest),
            )
        elif thicker:
            text = size_text(thicker, evidence.board.wiring.series)
            remedy = f"Use {text} for this fuse."
            fix = _fix(circuit, f"Use {text}", "cable_mm2", thicker)
        else:
            remedy, fix = "Split the load: no single cable here bears it.", None
        yield _judged(
            circuit, "fuse-over-cable", "danger",
            f"a fuse of {circuit.fuse_a:g} A protects {cable}, which bears "
            f"{circuit.ampacity_a:.0f} A.",
            "The cable becomes the fuse.", remedy,
            "a fuse protects the thinnest conductor behind it [textbook]",
            Number("fuse", circuit.fuse_a, "A"), Number("ampacity", circuit.ampacity_a, "A"),
            fix=fix,
        )  # fmt: skip


def _thicker(evidence: Evidence, circuit: Circuit) -> float | None:
    """The smallest size that bears the fuse and keeps the drop, where the circuit lies."""
    wiring = evidence.board.wiring
    need = circuit.need
    full_a = need.continuous_a if need.full_a is None else need.full_a
    for size in sizes_of(wiring.series):
        bears = ampacity_a(
            size.area_mm2,
            bundled=circuit.bundled,
            engine_bay=circuit.engine_bay,
            ambient_c=wiring.ambient_c,
        )
        keeps = drop_v(full_a, circuit.run_m, size.area_mm2) <= circuit.most_share * need.volts
        if bears >= (circuit.fuse_a or LOAD_FACTOR * circuit.carries_a) - 1e-6 and keeps:
            return size.area_mm2
    return None


def fuse_under_load(evidence: Evidence) -> Iterator[Judgement]:
    """A fuse too close to what flows for hours."""
    for circuit in evidence.board.circuits:
        if circuit.fuse_a is None or circuit.family is None or circuit.fuse_with is not None:
            continue
        if "fuse_a" in circuit.need.stated and "fuse_a" not in circuit.fixed:
            # The vehicle's own fuse: judged with its socket.
            continue
        wanted = LOAD_FACTOR * circuit.carries_a
        if circuit.fuse_a >= wanted - 1e-6:
            continue
        size = least_size_a(circuit.carries_a, circuit.family)
        yield _judged(
            circuit, "fuse-under-load", "fault",
            f"{circuit.carries_a:.1f} A for hours on a fuse of {circuit.fuse_a:g} A.",
            "It ages in the warmth and blows when nobody expects it.",
            f"At least {wanted:.1f} A" + (f": {size:g} A." if size else "."),
            "1.25 times the continuous current [textbook]",
            Number("current", circuit.carries_a, "A"), Number("fuse", circuit.fuse_a, "A"),
            fix=_fix(circuit, f"Fuse it at {size:g} A", "fuse_a", size) if size else None,
        )  # fmt: skip


def interrupt_rating(evidence: Evidence) -> Iterator[Judgement]:
    """A fuse at the battery that cannot break its short circuit."""
    for circuit in evidence.board.circuits:
        if circuit.need.role not in AT_BATTERY or circuit.family is None:
            continue
        breaks = FAMILIES[circuit.family].breaks_a
        if circuit.short_a <= breaks:
            continue
        better = family_for(circuit.carries_a, circuit.short_a)
        yield _judged(
            circuit, "interrupt-rating", "danger",
            f"this bank gives about {circuit.short_a:.0f} A into a short; a "
            f"{FAMILIES[circuit.family].name} breaks {breaks:.0f} A.",
            "Above that the fuse arcs on, or bursts.",
            f"A {FAMILIES[better].name}." if better else "Ask a licensed electrician.",
            FAMILIES[circuit.family].source,
            Number("short circuit", circuit.short_a, "A"), Number("breaks", breaks, "A"),
            fix=_fix(circuit, f"Use a {FAMILIES[better].name}", "family", better)
            if better else None,
        )  # fmt: skip


def drop_over(evidence: Evidence) -> Iterator[Judgement]:
    """A cable that loses more of the voltage than it should at full current."""
    for circuit in evidence.board.circuits:
        if circuit.cable_mm2 is None or circuit.drop_share <= circuit.most_share + 1e-9:
            continue
        better = _thicker(evidence, circuit)
        text = size_text(better, evidence.board.wiring.series) if better else ""
        reach = circuit.run_m * circuit.most_share / circuit.drop_share
        yield _judged(
            circuit, "drop-over", "fault" if circuit.need.must else "waste",
            f"{circuit.drop_v:.2f} V, {100 * circuit.drop_share:.1f} %, are lost over "
            f"{circuit.run_m:g} m.",
            f"{circuit.lost_wh:.1f} Wh become heat on this trip, and what is at its end sees the "
            "lower voltage.",
            f"Use {text}." if better else f"At most {reach:.1f} m in the thickest cable.",
            f"{100 * circuit.most_share:.0f} % for "
            + ("charging and what must run" if circuit.most_share < 0.04 else "other circuits")
            + " [textbook]",
            Number("drop", circuit.drop_v, "V"),
            Number("limit", circuit.most_share * circuit.need.volts, "V"),
            fix=_fix(circuit, f"Use {text}", "cable_mm2", better) if better else None,
        )  # fmt: skip


def connector_over(evidence: Evidence) -> Iterator[Judgement]:
    """A current above what the connector bears."""
    for circuit in evidence.board.circuits:
        part = CONNECTORS[circuit.connector]
        if circuit.carries_a <= part.rating_a + 1e-6:
            continue
        yield _judged(
            circuit, "connector-over", "danger",
            f"{circuit.carries_a:.1f} A through a {part.name} for {part.rating_a:g} A.",
            "Contacts heat, oxidise and melt their housing.",
            "A connector for the current, or a ring lug.",
            "the connector's continuous rating [textbook]",
            Number("current", circuit.carries_a, "A"), Number("rating", part.rating_a, "A"),
            fix=_back(circuit, "connector"),
        )  # fmt: skip


def charge_plug_shared(evidence: Evidence) -> Iterator[Judgement]:
    """An unregulated input that fits an ordinary outlet's plug."""
    circuits = evidence.board.circuits
    for circuit in circuits:
        part = CONNECTORS[circuit.connector]
        if circuit.need.role not in INLETS or not part.hole_mm or circuit.connector == "gland":
            continue
        same = [c for c in circuits if c.need.role in OUTLETS and c.connector == circuit.connector]
        if not same:
            continue
        yield _judged(
            circuit, "charge-plug-shared", "danger",
            f"it comes in through a {part.name}, as {_name(same[0])} goes out.",
            f"One day {circuit.need.volts:.0f} V, unregulated, are plugged into an appliance or "
            "past the controller.",
            "Key the inlet, or at least colour it.",
            "unregulated inlets get plugs of their own [textbook]",
            Number("outlets alike", float(len(same)), ""),
            fix=_back(circuit, "connector"),
        )  # fmt: skip


def shunt_bypassed(evidence: Evidence) -> Iterator[Judgement]:
    """A negative that goes round the shunt."""
    if not evidence.board.wiring.shunt:
        return
    for circuit in evidence.board.circuits:
        if circuit.returns != "battery_side" or circuit.need.role == "battery":
            continue
        yield _judged(
            circuit, "shunt-bypassed", "fault",
            "its negative goes to the battery's side of the shunt.",
            f"The counter never sees its {circuit.need.seen_a:.1f} A and reads wrong from then on.",
            "Bring every negative to the load side; only the shunt itself goes to the battery.",
            "a shunt counts what passes through it [textbook]",
            Number("uncounted", circuit.need.seen_a, "A"),
            fix=_back(circuit, "returns"),
        )  # fmt: skip


def isolation_order(evidence: Evidence) -> Iterator[Judgement]:
    """Nothing to disconnect the solar panels separately."""
    for circuit in evidence.board.circuits:
        if circuit.need.role != "panel" or circuit.disconnect:
            continue
        yield _judged(
            circuit, "isolation-order", "fault", "nothing disconnects these panels by themselves.",
            "With the battery switched off the sun keeps the circuit live, and some controllers "
            "do not survive that.",
            "A switch or breaker for the panels. Off: solar, then battery. On: battery, then "
            "solar.",
            "controllers are made for battery first [datasheet, textbook]",
            fix=_back(circuit, "disconnect") or _back(circuit, "protection"),
        )  # fmt: skip


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
        yield _judged(
            circuit, "strings-unfused", "danger",
            f"{need.strings:g} strings in parallel without a fuse each.",
            f"Where one fails, the others feed {back:.1f} A into it; {who} {bears:g} A.",
            f"{remedy}; the panel's own label says the largest.",
            "what the other strings give in strong light against the label's series fuse "
            "[textbook]",
            Number("into a failed string", back, "A"), Number("borne", bears, "A"),
            fix=_back(circuit, "string_fuses"),
        )  # fmt: skip


def string_fuse_over_label(evidence: Evidence) -> Iterator[Judgement]:
    """A fuse in each string that is larger than the panels' label allows."""
    for circuit in evidence.board.circuits:
        size, bears = circuit.string_fuse_a, circuit.need.string_bears_a
        if size is None or bears is None or size <= bears:
            continue
        yield _judged(
            circuit, "string-fuse-over-label", "fault",
            f"{size:g} A in each string of panels whose label allows {bears:g} A.",
            f"It is the smallest that bears {circuit.need.string_a:g} A of Isc for hours, and "
            "protects them too late.",
            "Ask the panels' maker, or take panels whose label allows more.",
            "1.56 x Isc for the fuse, at most the label's own series fuse [textbook]",
            Number("fuse", size, "A"), Number("allowed", bears, "A"),
        )  # fmt: skip


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
        yield _judged(
            circuit, "parallel-sources-one-fuse", "fault",
            f"circuits {numbers} together carry {total:.1f} A through one fuse of "
            f"{circuit.fuse_a:g} A.",
            "It blows when both give their best.",
            f"At least {LOAD_FACTOR * total:.0f} A with cables to match, or a fuse each.",
            "currents in parallel add [textbook]",
            Number("together", total, "A"), Number("fuse", circuit.fuse_a, "A"),
            fix=_back(behind[1], "fuse_with"),
        )  # fmt: skip


def nothing_suits(evidence: Evidence) -> Iterator[Judgement]:
    """A circuit for which no cable or fuse here will do."""
    for circuit in evidence.board.circuits:
        if circuit.trouble:
            yield _judged(
                circuit, "nothing-suits", "danger", circuit.trouble,
                "It cannot be protected with what one can buy over a counter.",
                "Change the plan before anything is built.",
                "standard sizes of cables and fuses [standard series]",
                Number("current", circuit.carries_a, "A"),
                fix=_back(circuit, "run_m"),
            )  # fmt: skip


RULES = (
    no_main_fuse,
    circuit_unfused,
    fuse_over_cable,
    fuse_under_load,
    interrupt_rating,
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
