"""Fault finder: from a symptom to its likely causes in this box, each with a measurement.

How likely a cause is has no measured source: the weights are [judgement], changed by what this
box has. They set an order, not a probability.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from oddkettle.core.construction.procedures import expected_readings as expect
from oddkettle.core.construction.wiring.circuits import Board
from oddkettle.core.kernel.records import FLOAT
from oddkettle.core.quantity import celsius
from oddkettle.core.simulation.run import Run
from oddkettle.core.simulation.run_metrics import lowest
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.relay import Relay


@dataclass(frozen=True)
class Cause:
    """`weight` orders causes; `measure` is what to do with the meter and `shows` what is right."""

    key: str
    text: str
    weight: float
    measure: str
    shows: str
    then: str


@dataclass(frozen=True)
class Symptom:
    """What is wrong, and its causes, the likeliest first."""

    key: str
    text: str
    causes: tuple[Cause, ...]


def symptoms(run: Run, board: Board) -> tuple[Symptom, ...]:
    """Every symptom that this box can show."""
    found = []
    for source in run.case.vehicle:
        name = source.name if len(run.case.vehicle) > 1 else "the vehicle"
        found.append(_symptom(f"vehicle-{source.key}", f"No charge from {name}",
                              _vehicle(run, board, source)))  # fmt: skip
    for array in run.case.sun:
        name = array.name if len(run.case.sun) > 1 else "the panels"
        found.append(_symptom(f"sun-{array.key}", f"Little or nothing from {name}",
                              _sun(run, board, array.key)))  # fmt: skip
    found += [
        _symptom(f"mains-{charger.key}", f"{charger.name} does not charge",
                 _mains(run, board, charger.key, charger.limit_a))
        for charger in run.case.mains
    ]  # fmt: skip
    found.append(_symptom("dark", "It cut out at night", _dark(run, board)))
    if board.wiring.shunt:
        found.append(_symptom("meter", "The monitor and the battery disagree", _meter(run, board)))
    if any(c.fuse_a for c in board.circuits):
        found.append(_symptom("fuse", "A fuse blows", _fuse(run, board)))
    return tuple(found)


def _symptom(key: str, text: str, causes: Iterator[Cause]) -> Symptom:
    return Symptom(key, text, tuple(sorted(causes, key=lambda cause: -cause.weight)))


def _vehicle(run: Run, board: Board, source: DcDc | Relay) -> Iterator[Cause]:
    feed = board.of(f"feed-{source.key}")
    smart = source.alternator.smart
    size = "" if feed is None or feed.fuse_a is None else f"{feed.fuse_a:g} A "
    fuse = f"The feed's {size}fuse is"
    if feed is not None and feed.fuses > 1:
        fuse = f"One of the feed's two {size}fuses is"
    yield Cause(
        "fuse", f"{fuse} gone, or a plug is not home.", 5.0,
        "Voltage between plus and minus at the box's end of the feed, engine running.",
        f"about {source.alternator.volts:.1f} V; nought means fuse or plug",
        "Find out why before a new fuse goes in.",
    )  # fmt: skip
    if isinstance(source, DcDc):
        yield from _dcdc(run, board, source)
    if isinstance(source, Relay):
        yield Cause(
            "opens", "The relay does not close"
            + (": on a smart alternator it opens when the starter is full." if smart else "."),
            6.0 if smart else 3.0,
            "Voltage on both of its studs, engine running.",
            "the same within 0.1 V when it is closed",
            "A DC-DC charger mends a smart alternator." if smart else "Check its ground wire.",
        )  # fmt: skip
    bank = run.case.bank
    if bank.chemistry.cold.barred_below_c >= 0.0:
        cold = min(run.case.low_c) + bank.housing.offset_k < 2.0
        yield Cause(
            "cold", "The battery is below freezing, and its management bars the charge.",
            4.0 if cold else 0.5, "Temperature of the case.",
            f"above {celsius(bank.chemistry.cold.barred_below_c)}", "Warm it first.",
        )  # fmt: skip
    yield Cause(
        "full", "It is full already.", 2.0 if run.case.soc0 > 0.8 else 1.0,
        "Voltage at the battery's posts.",
        f"{run.case.profile.float_v * bank.system_v / 12:.1f} V or more means full",
        "Nothing to mend.",
    )  # fmt: skip


def _dcdc(run: Run, board: Board, source: DcDc) -> Iterator[Cause]:
    feed = board.of(f"feed-{source.key}")
    smart = source.alternator.smart
    if source.ignition:
        yield Cause(
            "ignition", "Its ignition wire gets no voltage.", 4.5,
            "Voltage between the ignition wire and minus, key on.",
            "above 11 V with the key on, 0 V with it off",
            "Another tap in the fuse box, live with the key.",
        )  # fmt: skip
    else:
        yield Cause(
            "senses", "It senses the voltage, and "
            + ("a smart alternator lets that fall." if smart else "that never reaches its mark."),
            7.0 if smart else 3.0,
            "Voltage at its input, engine running for half an hour.",
            f"above {source.cut_in_v:.1f} V", "Connect its ignition wire.",
        )  # fmt: skip
    if feed is not None:
        starves = feed.drop_share > feed.most_share
        low_v = (source.alternator.smart_v if smart else source.alternator.volts) - feed.drop_v
        yield Cause(
            "starved", "Its input falls under its cut-out at full current: the feed is too thin, "
            "or a joint is bad.", 5.5 if starves else 2.5,
            "Voltage at its input while it tries to start, then at the starter battery.",
            f"about {low_v:.1f} V at the input, not below {source.cut_out_v:.1f} V; "
            f"{feed.drop_v:.1f} V lost between the two",
            "Half current as a stopgap; thicker cable or a new joint.",
        )  # fmt: skip
    if source.delay_min:
        yield Cause("delay", f"It waits {source.delay_min:.0f} min after each start.", 3.0,
                    "A clock.", f"it starts after {source.delay_min:.0f} min",
                    "Drive on.")  # fmt: skip
    if max(run.case.high_c) + source.warmer_k > source.derate_from_c:
        yield Cause("hot", "It is too hot and gives less.", 2.5, "A hand on its case.",
                    f"air below {celsius(source.derate_from_c)}",
                    "Air, shade, or another place.")  # fmt: skip


def _sun(run: Run, board: Board, key: str) -> Iterator[Cause]:
    array = next(a for a in run.case.sun if a.key == key)
    panel = board.of(f"panel-{key}")
    span = expect.noon_amps(run, key)
    noon = "" if span is None else f"{span.text} in about noon on this trip"
    portable = any(p.portable for p in array.panels)
    yield Cause(
        "shade", "A shadow on some cells, dust, or a panel that does not face the sun.",
        6.0 if portable else 4.5, "Current into the box, panel wiped and turned, nothing above it.",
        noon or "more than before", "A rope's shadow on one cell can halve a panel.",
    )  # fmt: skip
    full_share = 0.0
    rows = [j for j, s in enumerate(run.sources) if s.key == key]
    if rows:
        full_share = float((run.stage[rows[0]] == FLOAT).mean())
    yield Cause(
        "full", "The battery is nearly full, and the controller lets little through.",
        1.5 + 8.0 * full_share, "Battery voltage, and the stage that the controller shows.",
        f"at {run.case.profile.absorption_v * run.case.bank.system_v / 12:.1f} V it holds back by "
        "design", "Shift work to noon.",
    )  # fmt: skip
    volts = expect.panel_open_v(array)
    yield Cause(
        "lead", "A plug, fuse or breaker in the panels' lead is open.", 4.0,
        "Open voltage at the box's end of the lead, unplugged, in sun.", volts.text,
        "Nought: measure nearer to the panel until it is there.",
    )  # fmt: skip
    if panel is not None:
        low = panel.need.full_a or panel.carries_a
        yield Cause(
            "thin", f"Voltage is lost in {panel.run_m:g} m of lead, or in a warm plug.",
            4.0 if panel.drop_share > panel.most_share else 1.5,
            f"Voltage at the panel and at the controller at {low:.0f} A.",
            f"{panel.drop_v:.1f} V between the two", "Thicker lead, clean contacts.",
        )  # fmt: skip
    if any(p.own_regulator for p in array.panels):
        yield Cause("two", "The regulator on the panel's back works against the controller.", 6.0,
                    "Voltage at the end of the lead in sun, unplugged.",
                    f"{volts.text} is the panel's own regulator; near 20 V is without",
                    "Bypass it.")  # fmt: skip
    if array.controller.kind == "tracking":
        yield Cause("headroom", "Hot panels stand too little above the battery.",
                    1.0 if array.series > 1 else 1.5, "Voltage at the controller's input at work.",
                    f"at least {array.controller.headroom_v:g} V above the battery",
                    "Two panels in series.")  # fmt: skip


def _mains(run: Run, board: Board, key: str, limit_a: float) -> Iterator[Cause]:
    charge = board.of(f"charge-{key}")
    yield Cause("supply", "The hook-up's breaker or residual-current device has opened.", 5.0,
                "Its own lamp, or another appliance on the same lead.", "it works",
                "Once on again; twice is for a licensed person.")  # fmt: skip
    if charge is not None and charge.fuse_a is not None:
        yield Cause("fuse", f"Its {charge.fuse_a:g} A fuse is gone.", 4.0,
                    "Voltage on both sides of the fuse.", "the same on both",
                    "Find out why first.")  # fmt: skip
    yield Cause("full", "It is in float.", 3.0, "Battery voltage.",
                f"{run.case.profile.float_v * run.case.bank.system_v / 12:.1f} V",
                "Nothing to mend.")  # fmt: skip
    yield Cause("weak", "It gives less than its rating when warm.", 1.0, "Current at 60 %.",
                f"{0.9 * limit_a:.0f} to {limit_a:.0f} A", "Air about it.")  # fmt: skip


def _dark(run: Run, board: Board) -> Iterator[Cause]:
    bank, low = run.case.bank, lowest(run)
    cut = bank.chemistry.cutoff_v * bank.volts_scale
    near = low.soc < run.case.floor + 0.05
    yield Cause(
        "empty", "It was empty"
        + (f": the plan itself goes to {100 * low.soc:.0f} %." if near else "."),
        8.0 if near else 4.0, "Rested voltage in the morning, after some hours with nothing on.",
        f"{expect.rested_v(bank, 0.1):.1f} V or less is nearly empty",
        "Charge it through absorption; look at what the log says of your guesses.",
    )  # fmt: skip
    main = board.of("battery")
    amps = run.case.bank.chemistry.discharge_limit_c * bank.capacity_ah
    peak = 0.0 if main is None else main.need.peak_a
    yield Cause(
        "peak", f"A start, or the strongest loads together, passed what it allows: {amps:.0f} A.",
        6.0 if peak > amps else 1.5, "Current as the strongest load starts.",
        f"below {amps:.0f} A; this box asks {peak:.0f} A at most", "One strong load at a time.",
    )  # fmt: skip
    if main is not None:
        volts = expect.loaded_v(bank, 0.3, -main.need.seen_a)
        yield Cause(
            "sag", "The voltage sagged under load: a bad joint, cold, or a tired battery.", 3.0,
            f"Voltage at posts and at the bar at {main.need.seen_a:.0f} A, battery at 30 %.",
            f"about {volts:.1f} V, {main.drop_v:.2f} V less at the bar; cut-off is {cut:.1f} V",
            "Between posts and bar: a joint. At the posts: cold or age.",
        )  # fmt: skip
    if run.case.inverter is not None and run.case.inverter.always_on:
        yield Cause("idle", "The inverter was left on.", 4.0, "Current with only it on.",
                    f"{run.case.inverter.idle_w / bank.nominal_v:.2f} A",
                    "Switch it with its loads.")  # fmt: skip
    draw = expect.resting_draw(run)
    yield Cause("left-on", "Something unplanned stayed on.", 3.5,
                "Current out while nothing seems to run.", draw.text,
                "Pull fuses one by one until it falls.")  # fmt: skip
    if bank.chemistry.lead or min(run.case.low_c) < 0:
        yield Cause("cold", "Cold: less can be had of it.", 3.0 if min(run.case.low_c) < 0 else 1.0,
                    "Temperature of the case.", f"above {celsius(10)}",
                    "Insulate the box.")  # fmt: skip


def _meter(run: Run, board: Board) -> Iterator[Cause]:
    past = [c for c in board.circuits if c.returns == "battery_side" and c.need.role != "battery"]
    yield Cause(
        "bypass", "A negative goes to the battery past the shunt"
        + (f": circuit {past[0].number} does." if past else "."), 8.0 if past else 4.0,
        "With every fuse out but one, switch its load on: the monitor must see it.",
        "each circuit's amps on the monitor", "Move it to the load side.",
    )  # fmt: skip
    yield Cause("drift", "The counter has drifted since the last full charge.", 5.0,
                "Charge through absorption.",
                f"full at {run.case.profile.absorption_v * run.case.bank.system_v / 12:.1f} V "
                f"and below {0.03 * run.case.bank.capacity_ah:.1f} A",
                "Set it to full; do so every week or two.")  # fmt: skip
    yield Cause("capacity", "It was told another capacity.", 3.0, "Its settings.",
                f"{run.case.bank.capacity_ah:g} Ah", "Correct it.")  # fmt: skip
    if not run.case.bank.chemistry.lead:
        flat = expect.rested_v(run.case.bank, 0.8) - expect.rested_v(run.case.bank, 0.4)
        yield Cause("flat", "A voltmeter's percentage is believed on a flat curve.", 4.0,
                    "Rested voltage at what should be 40 and 80 %.",
                    f"only {flat:.2f} V between them", "Believe the counter.")  # fmt: skip
    yield Cause("small", "Small draws pass below its threshold.", 2.0,
                "Current with only standby draws on.", expect.resting_draw(run).text,
                "Count them by hand, or lower the threshold.")  # fmt: skip


def _fuse(run: Run, board: Board) -> Iterator[Cause]:
    fused = [c for c in board.circuits if c.fuse_a is not None and c.fuse_with is None]
    tight = min(fused, key=lambda c: (c.fuse_a or 1.0) / max(c.carries_a, 0.01))
    yield Cause(
        "short", "A chafed cable or a drop of solder shorts it.", 5.0,
        "Ohmmeter across the circuit, fuse out, load unplugged.", "above 10 kohm",
        "Follow the cable; never a larger fuse.",
    )  # fmt: skip
    yield Cause(
        "tight", f"It carries too much for its fuse; the tightest is circuit {tight.number}, "
        f"{tight.need.name}.",
        6.0 if (tight.fuse_a or 0.0) < 1.25 * tight.carries_a else 2.0,
        "Current for some minutes at full use.",
        f"{tight.carries_a:.1f} A on {tight.fuse_a:g} A",
        f"At most {tight.ampacity_a:.0f} A for its cable: else fewer things on it.",
    )  # fmt: skip
    starts = [c for c in fused if c.need.peak_a > 1.5 * (c.fuse_a or 1e9)]
    if starts:
        c = starts[0]
        yield Cause("start", f"The start of {c.need.name} blows it.", 5.0,
                    "Look when it blows.", f"{c.need.peak_a:.0f} A for a moment",
                    "A slow fuse of the same size.")  # fmt: skip
    yield Cause("loose", "A loose holder heats it.", 3.5,
                "Voltage across the fuse at full current, a finger near it.",
                "below 0.1 V, hand-warm", "Clean and tighten the holder.")  # fmt: skip
    yield Cause("old", "It is tired.", 1.0, "A new one of the same size.", "it holds",
                "Keep two spares.")  # fmt: skip
