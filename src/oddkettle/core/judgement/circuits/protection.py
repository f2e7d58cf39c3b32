"""Judgements about fuses and breakers: against the cable, the load, the short circuit, the volts.

Every one defers to local codes and licensed practice.
"""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.construction.wiring.cable import size_text
from oddkettle.core.construction.wiring.circuits import AT_BATTERY, Board, Circuit
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.construction.wiring.fuses import FAMILIES, LOAD_FACTOR, family_for, least_size_a
from oddkettle.core.construction.wiring.short_circuit import short_at_a_post_a
from oddkettle.core.construction.wiring.shortfall import largest_fuse_a
from oddkettle.core.construction.wiring.sizing import highest_v, joins_a_battery
from oddkettle.core.judgement.circuits.record import circuit_fix, judged, thicker_mm2
from oddkettle.core.judgement.evidence import Change, Evidence, Fix, Judgement, Number


def fuse_over_cable(evidence: Evidence) -> Iterator[Judgement]:
    """A fuse that lets more through than the cable bears."""
    for circuit in evidence.board.circuits:
        if circuit.fuse_a is None or circuit.fuse_a <= circuit.ampacity_a + 1e-6:
            continue
        largest = largest_fuse_a(circuit)
        cable = size_text(circuit.cable_mm2 or 0.0, evidence.board.wiring.series)
        enough = largest is not None and largest >= LOAD_FACTOR * circuit.carries_a
        thicker = thicker_mm2(evidence, circuit)
        if enough and circuit.fuse_with is None:
            remedy, fix = (
                f"At most {largest:g} A for this cable.",
                circuit_fix(circuit, f"Fuse it at {largest:g} A", "fuse_a", largest),
            )
        elif thicker:
            text = size_text(thicker, evidence.board.wiring.series)
            remedy = f"Use {text} for this fuse."
            fix = circuit_fix(circuit, f"Use {text}", "cable_mm2", thicker)
        else:
            remedy, fix = "Split the load: no single cable here bears it.", None
        yield judged(
            circuit,
            "fuse-over-cable",
            "danger",
            f"a fuse of {circuit.fuse_a:g} A protects {cable}, which bears "
            f"{circuit.ampacity_a:.0f} A.",
            "The cable becomes the fuse.",
            remedy,
            "a fuse protects the thinnest conductor behind it [textbook]",
            Number("fuse", circuit.fuse_a, "A"),
            Number("ampacity", circuit.ampacity_a, "A"),
            fix=fix,
        )


def fuse_under_load(evidence: Evidence) -> Iterator[Judgement]:
    """A fuse too close to what flows for hours."""
    for circuit in evidence.board.circuits:
        if circuit.fuse_a is None or circuit.family is None or circuit.fuse_with is not None:
            continue
        if "fuse_a" in circuit.need.stated and "fuse_a" not in circuit.fixed:
            # The vehicle's own fuse: judged with its socket.
            continue
        wanted = LOAD_FACTOR * circuit.carries_a
        kind = FAMILIES[circuit.family]
        if circuit.fuse_a >= wanted - 1e-6 and circuit.carries_a > kind.holder_a:
            better = family_for(circuit.carries_a, 1.0, highest_v(evidence.board, circuit))
            yield judged(
                circuit,
                "fuse-under-load",
                "fault",
                f"{circuit.carries_a:.0f} A for hours through the holder of a {kind.name}, which "
                f"bears {kind.holder_a:.0f} A.",
                "Its contacts overheat, though the fuse itself is large enough.",
                f"A {FAMILIES[better].name}." if better else "Split the load.",
                kind.source,
                Number("current", circuit.carries_a, "A"),
                Number("holder", kind.holder_a, "A"),
                fix=circuit_fix(circuit, f"Use a {FAMILIES[better].name}", "family", better)
                if better
                else None,
            )
            continue
        if circuit.fuse_a >= wanted - 1e-6:
            continue
        size = least_size_a(circuit.carries_a, circuit.family)
        yield judged(
            circuit,
            "fuse-under-load",
            "fault",
            f"{circuit.carries_a:.1f} A for hours on a fuse of {circuit.fuse_a:g} A.",
            "It ages in the warmth and blows when nobody expects it.",
            f"At least {wanted:.1f} A" + (f": {size:g} A." if size else "."),
            "1.25 times the continuous current [textbook]",
            Number("current", circuit.carries_a, "A"),
            Number("fuse", circuit.fuse_a, "A"),
            fix=circuit_fix(circuit, f"Fuse it at {size:g} A", "fuse_a", size) if size else None,
        )


def interrupt_rating(evidence: Evidence) -> Iterator[Judgement]:
    """A fuse or breaker that cannot break what a short sends through it."""
    board = evidence.board
    leads = [c for c in board.circuits if c.need.role in AT_BATTERY or joins_a_battery(c.need)]
    limiters = tuple(
        Change(f"circuit:{c.key}", (field,), value)
        for c in leads
        if c.family != "class_t"
        for field, value in (("protection", "fuse"), ("family", "class_t"))
        if field == "family" or c.protection == "none"
    )
    for circuit in board.circuits:
        if circuit.family is None or circuit.fuse_with is not None or circuit.limited:
            continue
        if "fuse_a" in circuit.need.stated and "fuse_a" not in circuit.fixed:
            # The vehicle's own, behind its own wiring.
            continue
        kind = FAMILIES[circuit.family]
        volts = highest_v(board, circuit)
        breaks = kind.breaks_a(volts)
        if breaks <= 0.0 or circuit.short_a <= breaks:
            continue
        better = family_for(circuit.carries_a, circuit.short_a, volts)
        lead = circuit in leads
        if better and lead and least_size_a(circuit.carries_a, "class_t"):
            # It bounds what flows behind it, too.
            better = "class_t"
        behind = circuit not in leads and circuit.need.role not in {"panel", "feed"}
        if behind and circuit.family in {"blade", "breaker"}:
            # Nobody sells a few amps in a family that breaks more.
            remedy = (
                "A class T fuse at every battery lets so little through that this one suffices."
            )
            fix: Fix | None = Fix("Put a class T fuse at every battery", limiters)
        else:
            remedy = f"A {FAMILIES[better].name}." if better else "Ask a licensed electrician."
            if not better and circuit.need.role in AT_BATTERY:
                remedy = "Divide the bank: a class T fuse at the post of each battery."
            fix = (
                circuit_fix(circuit, f"Use a {FAMILIES[better].name}", "family", better)
                if better
                else None
            )
        yield judged(
            circuit,
            "interrupt-rating",
            "danger",
            f"about {circuit.short_a:.0f} A flow into a short here; a {kind.name} breaks "
            f"{breaks:.0f} A at {volts:.0f} V.",
            "Above that it arcs on, or bursts.",
            remedy,
            kind.source,
            Number("short circuit", circuit.short_a, "A"),
            Number("breaks", breaks, "A"),
            fix=fix,
        )


def post_unfused(evidence: Evidence) -> Iterator[Judgement]:
    """A bank of several batteries in parallel, where no fuse breaks what the others feed."""
    board = evidence.board
    for circuit in board.circuits:
        posts = circuit.need.posts
        if posts < 2 or circuit.post_family is not None:
            continue
        fed_a = short_at_a_post_a(evidence.run, circuit.key)
        yield judged(
            circuit,
            "post-unfused",
            "danger",
            f"where one of the {posts} batteries fails, the others feed about {fed_a:.0f} A into "
            "it, and no fuse here breaks that.",
            "A fuse at each post is all that stops them.",
            "Fewer or smaller batteries in parallel, or a higher voltage.",
            "each battery in parallel has a fuse at its post [textbook]",
            Number("fed", fed_a, "A"),
            Number("batteries", posts, ""),
        )


def voltage_rating(evidence: Evidence) -> Iterator[Judgement]:
    """A fuse, breaker or plug at more volts than it is made for."""
    board = evidence.board
    for circuit in board.circuits:
        yield from _plug_over(board, circuit)
        if circuit.family is None or circuit.fuse_with is not None:
            continue
        kind, volts = FAMILIES[circuit.family], highest_v(board, circuit)
        if volts <= kind.rated_v:
            continue
        better = family_for(circuit.carries_a, 1.0, volts)
        yield judged(
            circuit,
            "voltage-rating",
            "danger",
            f"{volts:.0f} V stand on a {kind.name} for {kind.rated_v:.0f} V.",
            "Direct current above its rating keeps an arc alive across the open gap.",
            f"A {FAMILIES[better].name}."
            if better
            else f"Fewer panels in series, or switchgear sold for {volts:.0f} V of direct current.",
            "every device is rated for the highest voltage that it meets [textbook]",
            Number("volts", volts, "V"),
            Number("rated", kind.rated_v, "V"),
            fix=circuit_fix(circuit, f"Use a {FAMILIES[better].name}", "family", better)
            if better
            else None,
        )


def _plug_over(board: Board, circuit: Circuit) -> Iterator[Judgement]:
    part, volts = CONNECTORS[circuit.connector], highest_v(board, circuit)
    if not part.hole_mm or volts <= part.rated_v:
        return
    panel = circuit.need.role == "panel"
    yield judged(
        circuit,
        "voltage-rating",
        "danger",
        f"{volts:.0f} V stand on a {part.name} for {part.rated_v:.0f} V.",
        "Pulled under load it draws an arc that does not go out.",
        "A latching panel pair, pulled only with the breaker off."
        if panel and volts <= CONNECTORS["panel_pair"].rated_v
        else f"A plug sold for {volts:.0f} V of direct current.",
        "every device is rated for the highest voltage that it meets [textbook]",
        Number("volts", volts, "V"),
        Number("rated", part.rated_v, "V"),
        fix=circuit_fix(circuit, "Use a latching panel pair", "connector", "panel_pair")
        if panel
        else None,
    )


RULES = (fuse_over_cable, fuse_under_load, interrupt_rating, post_unfused, voltage_rating)
