"""Why it goes out, why the meter is wrong, why a fuse blows."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.construction.procedures import expected_readings as expect
from oddkettle.core.construction.procedures.fault import Cause
from oddkettle.core.construction.wiring.circuits import Board
from oddkettle.core.simulation.run import Run
from oddkettle.core.simulation.run_metrics import lowest
from oddkettle.core.units.quantity import celsius


def dark_causes(run: Run, board: Board) -> Iterator[Cause]:
    """It went out at night."""
    bank, low = run.case.bank, lowest(run)
    cut = bank.chemistry.cutoff_v * bank.volts_scale
    near = low.soc < run.case.floor + 0.05
    yield Cause(
        "empty",
        "It was empty" + (f": the plan itself goes to {100 * low.soc:.0f} %." if near else "."),
        8.0 if near else 4.0,
        "Rested voltage in the morning, after some hours with nothing on.",
        f"more than {expect.rested_v(bank, 0.1):.1f} V",
        "Charge it through absorption; look at what the log says of your guesses.",
    )
    main = board.of("battery")
    amps = run.case.bank.chemistry.discharge_limit_c * bank.capacity_ah
    peak = 0.0 if main is None else main.need.peak_a
    yield Cause(
        "peak",
        f"A start, or the strongest loads together, passed what it allows: {amps:.0f} A.",
        6.0 if peak > amps else 1.5,
        "Current as the strongest load starts.",
        f"below {amps:.0f} A; this box asks {peak:.0f} A at most",
        "One strong load at a time.",
    )
    if main is not None:
        volts = expect.loaded_v(bank, 0.3, -main.need.seen_a)
        yield Cause(
            "sag",
            "The voltage sagged under load: a bad joint, cold, or a tired battery.",
            3.0,
            f"Voltage at posts and at the bar at {main.need.seen_a:.0f} A, battery at 30 %.",
            f"about {volts:.1f} V, {main.drop_v:.2f} V less at the bar; cut-off is {cut:.1f} V",
            "Between posts and bar: a joint. At the posts: cold or age.",
        )
    if run.case.inverter is not None and run.case.inverter.always_on:
        idle_a = run.case.inverter.idle_w / bank.nominal_v
        yield Cause(
            "idle",
            "The inverter was left on.",
            4.0,
            "Its switch, as it was by night.",
            "off",
            f"By itself it takes about {idle_a:.1f} A: switch it with its loads.",
        )
    draw = expect.resting_draw(run)
    yield Cause(
        "left-on",
        "Something unplanned stayed on.",
        3.5,
        "Current out while everything is switched off.",
        f"{draw.high:.2f} A at most",
        "Pull fuses one by one until it falls.",
    )
    if bank.chemistry.lead or min(run.case.low_c) < 0:
        yield Cause(
            "cold",
            "Cold: less can be had of it.",
            3.0 if min(run.case.low_c) < 0 else 1.0,
            "Temperature of the case.",
            f"above {celsius(10)}",
            "Insulate the box.",
        )


def meter_causes(run: Run, board: Board) -> Iterator[Cause]:
    """The monitor and the battery disagree."""
    past = [c for c in board.circuits if c.returns == "battery_side" and c.need.role != "battery"]
    yield Cause(
        "bypass",
        "A negative goes to the battery past the shunt"
        + (f": circuit {past[0].number} does." if past else "."),
        8.0 if past else 4.0,
        "With every fuse out but one, switch its load on: the monitor must see it.",
        "each circuit's amps on the monitor",
        "Move it to the load side.",
    )
    yield Cause(
        "drift",
        "The counter has drifted since the last full charge.",
        5.0,
        "Charge through absorption.",
        f"full at {run.case.profile.absorption_v * run.case.bank.system_v / 12:.1f} V "
        f"and below {0.03 * run.case.bank.capacity_ah:.1f} A",
        "Set it to full; do so every week or two.",
    )
    yield Cause(
        "capacity",
        "It was told another capacity.",
        3.0,
        "Its settings.",
        f"{run.case.bank.capacity_ah:g} Ah",
        "Set the true capacity.",
    )
    if not run.case.bank.chemistry.lead:
        flat = expect.rested_v(run.case.bank, 0.8) - expect.rested_v(run.case.bank, 0.4)
        yield Cause(
            "flat",
            "A voltmeter's percentage is believed on a flat curve.",
            4.0,
            "Rested voltage at what should be 40 and 80 %.",
            f"no more than {max(2 * flat, 0.1):.1f} V between them",
            "Believe the counter.",
            "right",
        )
    yield Cause(
        "small",
        "Small draws pass below its threshold.",
        2.0,
        "Current with only standby draws on.",
        f"{expect.resting_draw(run).high:.2f} A at most",
        "Count them by hand, or lower the threshold.",
    )


def fuse_causes(run: Run, board: Board) -> Iterator[Cause]:
    """A fuse blows."""
    fused = [c for c in board.circuits if c.fuse_a is not None and c.fuse_with is None]
    tight = min(fused, key=lambda c: (c.fuse_a or 1.0) / max(c.carries_a, 0.01))
    yield Cause(
        "short",
        "A chafed cable or a drop of solder shorts it.",
        5.0,
        "Ohmmeter across the circuit, fuse out, load unplugged.",
        "above 10 kohm",
        "Follow the cable; never a larger fuse.",
    )
    yield Cause(
        "tight",
        f"It carries too much for its fuse; the tightest is circuit {tight.number}, "
        f"{tight.need.name}.",
        6.0 if (tight.fuse_a or 0.0) < 1.25 * tight.carries_a else 2.0,
        "Current for some minutes at full use.",
        f"{tight.carries_a:.1f} A on {tight.fuse_a:g} A",
        f"At most {tight.ampacity_a:.0f} A for its cable: else fewer things on it.",
    )
    starts = [c for c in fused if c.need.peak_a > 1.5 * (c.fuse_a or 1e9)]
    if starts:
        c = starts[0]
        yield Cause(
            "start",
            f"The start of {c.need.name} blows it.",
            5.0,
            "Look when it blows.",
            f"at another time than as {c.need.name} starts",
            f"Its start takes about {c.need.peak_a:.0f} A: nothing else on the circuit as "
            "it starts, or a circuit of its own with cable and fuse for it. Never a larger "
            "fuse on this cable.",
        )
    yield Cause(
        "loose",
        "A loose holder heats it.",
        3.5,
        "Voltage across the fuse at full current, a finger near it.",
        "below 0.1 V, hand-warm",
        "Clean and tighten the holder.",
    )
    yield Cause(
        "old",
        "It is tired.",
        1.0,
        "A new one of the same size, once the others are ruled out.",
        "it holds",
        "It was tired: keep two spares.",
        "right",
    )
