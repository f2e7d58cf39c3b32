"""How judgements on circuits are worded, and what their buttons do."""

from __future__ import annotations

from oddkettle.core.construction.wiring.cable import sizes_of
from oddkettle.core.construction.wiring.cable_run import cable_run_of
from oddkettle.core.construction.wiring.circuits import Circuit
from oddkettle.core.construction.wiring.fuses import LOAD_FACTOR
from oddkettle.core.judgement.evidence import Change, Evidence, Fix, Judgement, Number, Severity

LOCAL = "Local codes and licensed practice come first."


def judged(
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
    """A judgement on one circuit: it names it first, and defers to local codes."""
    return Judgement(
        code,
        severity,
        f"circuit:{circuit.key}",
        f"{circuit_name(circuit)}: {text}",
        means,
        f"{remedy} {LOCAL}",
        source,
        numbers,
        fix,
    )


def circuit_name(circuit: Circuit) -> str:
    """A circuit as its wires are marked."""
    return f"Circuit {circuit.number}, {circuit.need.name}"


def circuit_fix(circuit: Circuit, text: str, field: str, value: float | str | bool | None) -> Fix:
    """A remedy that fixes one thing of a circuit."""
    return Fix(text, (Change(f"circuit:{circuit.key}", (field,), value),))


def left_to_tool(circuit: Circuit, field: str) -> Fix | None:
    """Let the tool choose again, where the user had fixed it."""
    return (
        circuit_fix(circuit, "Let the tool choose", field, None) if field in circuit.fixed else None
    )


def thicker_mm2(evidence: Evidence, circuit: Circuit) -> float | None:
    """The smallest size that bears the fuse and keeps the drop, where the circuit lies."""
    wiring = evidence.board.wiring
    need = circuit.need
    full_a = need.continuous_a if need.full_a is None else need.full_a
    way = cable_run_of(circuit, wiring)
    for size in sizes_of(wiring.series):
        keeps = way.drop_v(size.area_mm2, full_a) <= circuit.most_share * need.volts
        bears = way.bears_a(size.area_mm2)
        if bears >= (circuit.fuse_a or LOAD_FACTOR * circuit.carries_a) - 1e-6 and keeps:
            return size.area_mm2
    return None
