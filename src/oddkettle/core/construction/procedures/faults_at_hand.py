"""Why nothing works, why it fails at switch-on or after minutes, what is hot, what hums."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.construction.procedures import expected_readings as expect
from oddkettle.core.construction.procedures.fault import Cause
from oddkettle.core.construction.wiring.circuits import OUTLETS, Board
from oddkettle.core.simulation.run import Run
from oddkettle.core.units.quantity import celsius

BREAKER_C = 40.0
"""Thermal breakers are rated at this; they open earlier in the heat [textbook]."""


def dead_causes(run: Run, board: Board) -> Iterator[Cause]:
    """Nothing works at all."""
    bank = run.case.bank
    full = expect.rested_span(bank, 0.1, 1.0).text
    yield Cause(
        "isolator",
        "The isolator is off.",
        6.0,
        "A look at the isolator's key.",
        "on",
        "On, when nobody has hands inside.",
    )
    if bank.chemistry.lead:
        yield Cause(
            "flat",
            "The battery is flat.",
            5.0,
            "Voltage at its posts.",
            full,
            "Charge it soon: lead that stays flat is lost.",
            leads_to="standing",
        )
    else:
        yield Cause(
            "asleep",
            "The battery sleeps behind its management system: too low, too cold, or a short once.",
            5.0,
            "Voltage at its posts.",
            full,
            "Nought or a few volts: loads off, then a charger for lithium that wakes it, or the "
            "maker's way of waking it. Never by hand past its management.",
            leads_to="standing",
        )
    main = board.of("battery")
    if main is not None and main.fuse_a is not None:
        yield Cause(
            "main",
            f"The main fuse of {main.fuse_a:g} A is gone.",
            4.0,
            "Voltage before and behind it, against minus.",
            "the same on both sides",
            "Find the short before a new one goes in.",
            leads_to="fuse",
        )
    yield Cause(
        "lug",
        "A lug on the main lead is loose.",
        3.0,
        "Voltage at the posts, then between the bars, with a lamp on.",
        "the same within 0.1 V",
        "Isolator off; clean it and tighten it by its sheet.",
        leads_to="loose",
    )


def start_causes(run: Run, board: Board) -> Iterator[Cause]:
    """One thing does not start."""
    full = expect.rested_span(run.case.bank, 0.2, 1.0).text
    yield Cause(
        "fuse",
        "Its fuse is gone.",
        5.0,
        "Voltage on both sides of its fuse.",
        "the same on both",
        "Find out why first.",
        leads_to="fuse",
    )
    low = any(c.need.role == "low" for c in board.circuits)
    yield Cause(
        "polarity",
        "Its outlet or plug is the wrong way round.",
        4.0,
        "Meter in its outlet, red on its centre or plus.",
        "11.5 to 14.0 V" if low else full,
        "Put the wires right; what was plugged in may be dead.",
        leads_to="reversed",
    )
    yield Cause(
        "sag",
        "The voltage falls as it starts: a thin cable or a loose lug.",
        3.5,
        "Voltage in its outlet while it tries to start.",
        f"no more than {1.0 * run.case.bank.system_v / 12:.1f} V lower than before",
        "Its cable and its joints.",
        leads_to="loose",
    )
    yield Cause(
        "itself",
        "It is the thing itself.",
        2.0,
        "Try it on another supply.",
        "it fails there, too",
        "Have it looked at.",
        "right",
    )


def inverter_causes(run: Run, board: Board) -> Iterator[Cause]:
    """The inverter switches itself off."""
    inverter, circuit = run.case.inverter, board.of("inverter")
    if inverter is None:
        return
    on_it = [a for a in run.case.appliances if a.supply == "inverter"]
    start_w = max((max(a.surge_w, a.power_w) for a in on_it), default=0.0)
    able_w = inverter.surge_w or inverter.rating_w
    yield Cause(
        "start",
        f"What starts asks more than the {able_w:g} W that it gives for a moment.",
        6.0 if start_w > able_w else 4.0,
        "Switch on the smallest thing alone.",
        "it stays on",
        "It bears the small one and not what starts: one thing at a time, or a larger inverter.",
        "right",
    )
    if circuit is not None:
        cut = run.case.bank.chemistry.cutoff_v * run.case.bank.volts_scale
        yield Cause(
            "dip",
            "Its input falls under its cut-off as it starts.",
            5.0,
            "Voltage on its own studs at that moment.",
            f"above {cut:.1f} V; {circuit.drop_v:.2f} V less than at the bar at full load",
            "Its lead and lugs; a battery that is low, cold or tired.",
            leads_to="loose",
        )
    yield Cause(
        "hot",
        "It is hot.",
        2.5,
        "A hand near its case, its fan.",
        "warm at most",
        "Air about it; less on it.",
        leads_to="heat",
    )


def breaker_causes(run: Run, board: Board) -> Iterator[Cause]:
    """A breaker opens, or a thing goes off, after some minutes."""
    breakers = [c for c in board.circuits if c.protection == "breaker" and c.fuse_a is not None]
    hot = max(run.case.high_c) + 10.0 > BREAKER_C
    yield Cause(
        "heat",
        f"A thermal breaker opens early in the heat: it is rated at {celsius(BREAKER_C)}.",
        5.0 if hot else 2.0,
        "Temperature about it, at the time.",
        f"below {celsius(BREAKER_C)}",
        "Shade and air; a fuse in its place does not mind heat as much.",
    )
    for c in breakers:
        yield Cause(
            f"load-{c.key}",
            f"Circuit {c.number}, {c.need.name}, carries too much for it.",
            4.0,
            "Its current after some minutes.",
            f"{0.8 * (c.fuse_a or 0.0):.0f} A at most on {c.fuse_a:g} A",
            "Fewer things on it; never a larger one on the same cable.",
        )
    yield Cause(
        "clamp",
        "A loose clamp heats it from outside.",
        3.5,
        "Voltage across it at full current.",
        "below 0.1 V",
        "Off; clean the wire, tighten the clamp.",
        leads_to="loose",
    )


def standing_causes(run: Run, board: Board) -> Iterator[Cause]:
    """Empty after standing: something draws."""
    draw = expect.resting_draw(run)
    yield Cause(
        "drain",
        "Something draws all the time.",
        6.0,
        "Current out with everything switched off.",
        f"{draw.high:.2f} A at most",
        "Fuses out one by one until it falls: that circuit has it.",
    )
    if run.case.vehicle:
        yield Cause(
            "back",
            "The vehicle draws from the box through its lead.",
            3.5,
            "Current in the vehicle's lead, engine off for an hour.",
            "0.0 A",
            "A relay that sticks, or a charger that leaks back: unplug it, have it changed.",
        )
    if run.case.inverter is not None:
        yield Cause(
            "inverter",
            "The inverter idles.",
            4.0,
            "Its switch.",
            "off",
            f"Off: it takes {run.case.inverter.idle_w / run.case.bank.nominal_v:.2f} A by itself.",
        )
    month = 100.0 * run.case.bank.chemistry.self_discharge_month
    yield Cause(
        "itself",
        "The battery discharges by itself.",
        2.0,
        "Its voltage now and in a week, its leads off.",
        f"{month / 4:.1f} points lower at most",
        "A cell is failing: have it tested.",
    )


def heat_causes(run: Run, board: Board) -> Iterator[Cause]:
    """Something is hot, or smells."""
    yield Cause(
        "battery",
        "The battery itself is hot, swollen or smells.",
        7.0,
        "A hand near its case, never on it; its shape.",
        "no warmer than the room, flat",
        "Stop: see the emergencies above.",
    )
    yield Cause(
        "lug",
        "A loose lug or plug.",
        6.0,
        "Voltage across each joint at full current, a finger near it.",
        "below 0.05 V, hand-warm at most",
        "Off; clean it to bright metal and tighten it. What was burnt is changed.",
        leads_to="loose",
    )
    tight = [c for c in board.circuits if c.cable_mm2 is not None and c.carries_a > c.ampacity_a]
    for c in tight:
        yield Cause(
            f"thin-{c.key}",
            f"Circuit {c.number}'s cable is too thin.",
            8.0,
            "Its current at full use.",
            f"{c.ampacity_a:.0f} A at most",
            "A thicker cable, or less on it.",
        )
    yield Cause(
        "coil",
        "A cable lies coiled, or in a bundle under something soft.",
        3.0,
        "A look along its way.",
        "loose, in air",
        "Lay it out.",
    )
    yield Cause(
        "air",
        "A charger or the inverter gets no air.",
        3.5,
        "A hand at its fan or fins.",
        "air moves there",
        "Free its vents; both vents of the box.",
    )


def loose_causes(run: Run, board: Board) -> Iterator[Cause]:
    """Lights flicker or sink under load: a joint."""
    main = board.of("battery")
    drop = 0.1 if main is None else max(main.drop_v, 0.05)
    yield Cause(
        "plus",
        "A joint in the main positive.",
        5.0,
        "At full load: meter from the battery's plus post to the positive bar.",
        f"{1.2 * drop / 2 + 0.02:.2f} V at most",
        "Measure from joint to joint: the one with the volts is loose.",
    )
    yield Cause(
        "minus",
        "A joint in the main negative, or at the shunt.",
        4.5,
        "At full load: meter from the minus post to the negative bar.",
        f"{1.2 * drop / 2 + 0.07:.2f} V at most",
        "As above, on this side.",
    )
    worst = max(
        (c for c in board.circuits if c.need.role in {*OUTLETS, "inverter"}),
        key=lambda c: c.drop_share,
        default=None,
    )
    if worst is not None:
        yield Cause(
            "circuit",
            "A joint in the circuit itself; the longest drop here is circuit "
            f"{worst.number}, {worst.need.name}.",
            4.0,
            "At full load: meter from the bar to the outlet, each pole.",
            f"{1.2 * worst.drop_v / 2 + 0.02:.2f} V at most on each",
            "Its crimps, its fuse's holder, its plug.",
        )
    yield Cause(
        "tired",
        "The battery is tired or cold.",
        2.0,
        "Voltage at its posts at full load.",
        f"above {run.case.bank.chemistry.cutoff_v * run.case.bank.volts_scale + 0.7:.1f} V",
        "A full charge, then a slow discharge to see what it holds.",
    )


def noise_causes(run: Run, board: Board) -> Iterator[Cause]:
    """A hum or hiss on the radio."""
    weight = 6.0
    for source in run.case.sources:
        word = {"sun": "controller", "vehicle": "charger", "mains": "charger"}.get(source.group)
        if word is None:
            continue
        yield Cause(
            f"source-{source.key}",
            f"{source.name}'s {word} chops its current.",
            weight,
            "Switch it off and listen."
            if source.group != "sun"
            else "Cover the panels and listen.",
            "the noise stays",
            "Ferrites on both its leads, twisted together and short; quiet hours for it on "
            "the Use page.",
        )
        weight -= 0.3
    if run.case.inverter is not None:
        yield Cause(
            "inverter",
            "The inverter.",
            5.5,
            "Switch it off and listen.",
            "the noise stays",
            "Off while you listen; a sine-wave one with filters; distance.",
        )
    yield Cause(
        "usb",
        "A USB outlet or an adapter in a plug.",
        5.0,
        "Unplug each and listen.",
        "the noise stays",
        "A better one; ferrites on its lead.",
    )
    yield Cause(
        "ground",
        "The radio's own lead picks it up along the way.",
        3.0,
        "Feed the radio from the battery's posts with a fused lead of its own.",
        "the noise stays",
        "It stays as it is.",
    )
