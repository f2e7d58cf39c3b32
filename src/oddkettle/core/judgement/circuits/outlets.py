"""Judgements about where things are plugged in: a load output, a socket, an outlet of mains."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.construction.wiring.currents import (
    cut_off_v,
    draw_amps,
    inverter_amps,
)
from oddkettle.core.construction.wiring.fuses import LOAD_FACTOR
from oddkettle.core.construction.wiring.outlets import ANYTHING_A
from oddkettle.core.judgement.circuits.record import judged, left_to_tool
from oddkettle.core.judgement.evidence import (
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    of_a_built_box,
)
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.relay import Relay
from oddkettle.core.units.conversion import CLASS_V

LOW_FOR_LEAD_V = 11.4
"""Under a light load a 12 V lead battery that shows less is below its healthy half by far
[textbook]."""
STARTER_SPARES_AH = 30.0
"""Half of a usual starter battery [judgement]: with less the engine may not start."""


@of_a_built_box
def load_output_over(evidence: Evidence) -> Iterator[Judgement]:
    """What hangs on a controller's load output takes more at once than it gives."""
    run, output = evidence.run, evidence.run.case.load_output
    if output is None:
        return
    together = np.zeros(run.grid.steps)
    starts = 0.0
    for draw in run.draws:
        if draw.on_output:
            together += np.where(draw.asked > 0.0, draw_amps(run, draw, draw.peak_w), 0.0)
            starts = max(starts, draw_amps(run, draw, draw.surge_w - draw.peak_w))
    peak = float(together.max(initial=0.0))
    if peak + max(starts, 0.0) <= output.limit_a:
        return
    yield Judgement(
        code="load-output-over",
        severity="fault",
        part=f"sun:{output.source}",
        text=f"On the controller's load output {peak:.1f} A run at once"
        + (f", {peak + starts:.1f} A at a start" if starts > 0.0 else "")
        + f"; it gives {output.limit_a:g} A.",
        means="It switches itself off, or its switch burns.",
        remedy="Hang the strongest on the box's own outlets, each behind its fuse.",
        source="the controller's label",
        numbers=(
            Number("at once", peak + max(starts, 0.0), "A"),
            Number("it gives", output.limit_a, "A"),
        ),
    )


@of_a_built_box
def load_output_late(evidence: Evidence) -> Iterator[Judgement]:
    """A load output that lets go of a lead battery too late to spare it."""
    case = evidence.run.case
    output = case.load_output
    if output is None or not output.appliances or not case.bank.chemistry.lead:
        return
    least = LOW_FOR_LEAD_V * case.bank.system_v / CLASS_V
    if output.off_v >= least - 1e-9:
        return
    # The plan names its volts in the 12 V class.
    yield Judgement(
        code="load-output-late",
        severity="fault",
        part=f"sun:{output.source}",
        text=f"The load output lets go at {output.off_v:g} V.",
        means="A lead battery that shows so little under a light load is all but empty, and each "
        "time costs it months.",
        remedy=f"Set it to {least:g} V or more.",
        source="11.4 V under light load is below a fifth of charge [textbook]",
        numbers=(Number("lets go", output.off_v, "V"), Number("at least", least, "V")),
        fix=Fix(
            f"Set it to {least:g} V",
            (
                Change(
                    f"sun:{output.source}", ("controller", "load_output", "off_v"), LOW_FOR_LEAD_V
                ),
            ),
        ),
    )


@of_a_built_box
def inverter_over_socket(evidence: Evidence) -> Iterator[Judgement]:
    """A small inverter in a 12 V socket: the socket's fuse binds it, not its rating."""
    run = evidence.run
    inverter = run.case.inverter
    if inverter is None or inverter.socket_a is None:
        return
    bears = inverter.socket_a / LOAD_FACTOR
    per_w = inverter_amps(run, 1.0)
    passes_w = bears / per_w
    on_it = [a for a in run.case.appliances if a.supply == "inverter"]
    together = np.zeros(run.grid.steps)
    for draw in run.draws:
        if any(a.key == draw.key for a in on_it):
            together += np.where(draw.asked_w > 0.0, draw.peak_w, 0.0) * draw.plug_share
    asks_w = float(together.max(initial=0.0))
    if asks_w > passes_w:
        yield Judgement(
            code="inverter-over-socket",
            severity="fault",
            part="inverter",
            text=f"Through a socket fused for {inverter.socket_a:g} A the inverter can give "
            f"{passes_w:.0f} W for hours; {asks_w:.0f} W run on it at once.",
            means="The fuse blows, or the plug and its thin lead run hot.",
            remedy="Wire the inverter to the bar with a fuse and a cable of its own, or load it "
            f"with at most {passes_w:.0f} W.",
            source="a fuse carries four fifths of its rating for hours, at the cut-off voltage of "
            f"{cut_off_v(run):.1f} V [textbook]",
            numbers=(Number("at once", asks_w, "W"), Number("passes", passes_w, "W")),
            fix=Fix("Wire it to the bar", (Change("inverter", ("socket_fuse_a",), None),)),
        )
    elif inverter.rating_w > passes_w:
        yield Judgement(
            code="inverter-over-socket",
            severity="note",
            part="inverter",
            text=f"The inverter's label says {inverter.rating_w:.0f} W; through a socket fused for "
            f"{inverter.socket_a:g} A it gives {passes_w:.0f} W for hours.",
            means="More than that blows the fuse, or heats the plug.",
            remedy="Plug nothing larger into it.",
            source="a fuse carries four fifths of its rating for hours [textbook]",
            numbers=(Number("rated", inverter.rating_w, "W"), Number("passes", passes_w, "W")),
        )


@of_a_built_box
def outlet_without_inverter(evidence: Evidence) -> Iterator[Judgement]:
    """An outlet of mains voltage in a box that makes none."""
    case = evidence.run.case
    outlets = [outlet for outlet in case.wiring.outlets if outlet.mains]
    if case.inverter is not None or not outlets:
        return
    yield Judgement(
        code="outlet-without-inverter",
        severity="fault",
        part=f"outlet:{outlets[0].key}",
        text=f"{outlets[0].name} is an outlet of mains, and the box has no inverter.",
        means="Nothing comes out of it; and a plug from a wall must never feed it.",
        remedy="Add an inverter, or take the outlet out.",
        source="the plan",
    )


@of_a_built_box
def outlet_thin(evidence: Evidence) -> Iterator[Judgement]:
    """An outlet that its owner made for today's appliance only."""
    for circuit in evidence.board.circuits:
        if circuit.need.role != "outlet" or circuit.need.output or not circuit.fixed:
            continue
        bears = min(circuit.fuse_a or ANYTHING_A, circuit.ampacity_a)
        if bears >= ANYTHING_A - 0.05 or circuit.connector != "socket":
            continue
        thin = circuit.ampacity_a < ANYTHING_A
        yield judged(
            circuit,
            "outlet-thin",
            "note",
            f"its 12 V socket bears {bears:.1f} A.",
            "Something else is plugged in one day: "
            + ("its cable is not made for it." if thin else "its fuse blows."),
            f"A cable that bears {ANYTHING_A:g} A, and a fuse of {ANYTHING_A:g} A.",
            "a socket invites whatever fits [judgement]",
            Number("bears", bears, "A"),
            Number("at least", ANYTHING_A, "A"),
            fix=left_to_tool(circuit, "cable_mm2" if thin else "fuse_a"),
        )


@of_a_built_box
def live_pin(evidence: Evidence) -> Iterator[Judgement]:
    """A plug whose half stays live when it is pulled, from a battery at the far end."""
    relays = {s.key for s in evidence.run.case.vehicle if isinstance(s, Relay)}
    for circuit in evidence.board.circuits:
        plug = CONNECTORS[circuit.connector]
        if circuit.need.role not in {"feed", "second"} or not plug.hole_mm or plug.key == "gland":
            continue
        both = circuit.need.role == "second" or circuit.need.part.partition(":")[2] in relays
        half = "both halves stay" if both else "the far half stays"
        # The pin of a socket's plug is bare; keyed plugs cover their contacts.
        bare = both and plug.key == "socket"
        yield judged(
            circuit,
            "live-pin",
            "fault" if bare else "note",
            f"{half} live when its {plug.name} is pulled, and while parked.",
            "A pin that touches metal makes a short of hundreds of amps.",
            "Whatever stays live is a covered, female half, with its fuse at the battery behind it"
            + (": at both ends." if both else "; the bare pins are on the dead side."),
            "live parts are covered on the side that feeds [IEC 60364 kind]",
            fix=left_to_tool(circuit, "connector") if bare else None,
        )


def socket_parked(evidence: Evidence) -> Iterator[Judgement]:
    """A charger in a vehicle's socket, which the plan takes as dead while parked."""
    for source in evidence.run.case.vehicle:
        if not isinstance(source, DcDc) or not source.socket:
            continue
        gives = source.limit_a * evidence.run.case.bank.nominal_v
        takes_a = gives / source.efficiency / source.alternator.volts
        hours = STARTER_SPARES_AH / takes_a
        yield Judgement(
            code="live-pin",
            severity="note",
            part=f"vehicle:{source.key}",
            text=f"{source.name}: the plan takes the vehicle's socket as dead while parked.",
            means=f"Where it stays live, {takes_a:.1f} A empty the starter battery by half in "
            f"{hours:.0f} h.",
            remedy="Try it with the key out; where it is live, pull the plug at every stop, or "
            "take a charger that starts by the engine.",
            source=f"{STARTER_SPARES_AH:g} Ah are half of a usual starter battery [judgement]",
            numbers=(Number("it takes", takes_a, "A"),),
        )


RULES = (
    load_output_over,
    load_output_late,
    inverter_over_socket,
    outlet_without_inverter,
    outlet_thin,
    live_pin,
    socket_parked,
)
