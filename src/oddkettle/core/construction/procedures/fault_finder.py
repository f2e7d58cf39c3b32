"""Fault finder: from where trouble is seen to its causes in this box, one question at a time.

How likely a cause is has no measured source: the weights are [judgement], changed by what this
box has. They set an order, not a probability.
"""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.construction.procedures.fault import WHERE, Symptom, symptom
from oddkettle.core.construction.procedures.faults_at_hand import (
    breaker_causes,
    dead_causes,
    heat_causes,
    inverter_causes,
    loose_causes,
    noise_causes,
    standing_causes,
    start_causes,
)
from oddkettle.core.construction.procedures.faults_charging import (
    cold_causes,
    mains_causes,
    reversed_causes,
    sun_causes,
    vehicle_causes,
)
from oddkettle.core.construction.procedures.faults_in_use import (
    dark_causes,
    fuse_causes,
    meter_causes,
)
from oddkettle.core.construction.wiring.circuits import Board
from oddkettle.core.simulation.run import Run


def symptoms(run: Run, board: Board, clear: Run) -> tuple[Symptom, ...]:
    """Every symptom that this box can show, by where it is seen.

    clear : the run under a clear sky
    """
    found = [*_charging(run, board, clear), *_in_use(run, board)]
    return tuple(sorted(found, key=lambda one: WHERE.index(one.where)))


def _charging(run: Run, board: Board, clear: Run) -> Iterator[Symptom]:
    case = run.case
    for source in case.vehicle:
        name = source.name if len(case.vehicle) > 1 else "the vehicle"
        yield symptom(
            f"vehicle-{source.key}",
            "charging",
            f"No charge from {name}",
            vehicle_causes(run, board, source),
        )
    for array in case.sun:
        name = array.name if len(case.sun) > 1 else "the panels"
        yield symptom(
            f"sun-{array.key}",
            "charging",
            f"Little or nothing from {name}",
            sun_causes(run, board, clear, array.key),
        )
    for charger in case.mains:
        yield symptom(
            f"mains-{charger.key}",
            "charging",
            f"{charger.name} does not charge",
            mains_causes(run, board, charger.key, charger.limit_a),
        )
    if case.sources:
        yield symptom(
            "cold", "charging", "It charges badly, or not at all, in the cold", cold_causes(run)
        )


def _in_use(run: Run, board: Board) -> Iterator[Symptom]:
    yield symptom("dark", "at night", "The power went off at night", dark_causes(run, board))
    if board.wiring.shunt and board.of("battery") is not None:
        yield symptom(
            "meter", "the meter", "The monitor and the battery disagree", meter_causes(run, board)
        )
    if any(c.fuse_a for c in board.circuits):
        yield symptom("fuse", "at switch-on", "A fuse blows", fuse_causes(run, board))
    if run.case.unit is not None:
        return
    yield symptom("dead", "nothing works", "Nothing works at all", dead_causes(run, board))
    yield symptom(
        "reversed",
        "nothing works",
        "After work on the wires something is dead",
        reversed_causes(run, board),
    )
    yield symptom("start", "at switch-on", "One thing does not start", start_causes(run, board))
    if run.case.inverter is not None:
        yield symptom(
            "inverter",
            "at switch-on",
            "The inverter switches itself off",
            inverter_causes(run, board),
        )
    yield symptom(
        "breaker", "after minutes", "A breaker opens after some minutes", breaker_causes(run, board)
    )
    yield symptom(
        "loose", "after minutes", "Lights flicker, or sink under load", loose_causes(run, board)
    )
    yield symptom(
        "standing", "at night", "It is empty after standing unused", standing_causes(run, board)
    )
    yield symptom("noise", "noise", "The radio hums or hisses", noise_causes(run, board))
    yield symptom("heat", "heat or smell", "Something is hot, or smells", heat_causes(run, board))
