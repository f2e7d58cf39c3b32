"""Why a source does not charge."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from oddkettle.core.construction.procedures import expected_readings as expect
from oddkettle.core.construction.procedures.fault import Cause
from oddkettle.core.construction.wiring.circuits import Board
from oddkettle.core.kernel.records import FLOAT
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import SunInput
from oddkettle.core.units.quantity import celsius


def _without_regulator(array: SunInput) -> expect.Span:
    bare = tuple(replace(panel, own_regulator=False) for panel in array.panels)
    return expect.panel_open_v(replace(array, panels=bare))


def reversed_causes(run: Run, board: Board) -> Iterator[Cause]:
    """After work on the wires: plus and minus crossed somewhere."""
    full = expect.rested_span(run.case.bank, 0.3, 1.0).text
    yield Cause(
        "posts",
        "The battery's own leads are crossed.",
        5.0,
        "Isolator off. Meter from the isolator's battery side to the negative at the "
        "battery, red on the isolator.",
        full,
        "A minus sign: leave the isolator off, put the leads right, then try every fuse.",
    )
    for c in board.circuits:
        if c.need.role in {"panel", "feed"}:
            yield Cause(
                f"lead-{c.key}",
                f"Circuit {c.number}, {c.need.name}, is crossed.",
                4.0,
                "Its plug out; meter in the lead's end, red on plus.",
                "no minus sign",
                "Put it right. What it was plugged into may be dead: try it elsewhere first.",
            )
    yield Cause(
        "outlet",
        "An outlet is wired the wrong way round.",
        3.0,
        "Meter in each outlet, red on its centre or plus.",
        full,
        "Put its two wires right before anything is plugged in.",
    )
    if board.wiring.shunt:
        yield Cause(
            "shunt",
            "The shunt is turned round: it counts out as in.",
            2.0,
            "One known load on, a look at the monitor.",
            "a minus sign before its amps",
            "Swap the two leads at the shunt, isolator off.",
        )


def cold_causes(run: Run) -> Iterator[Cause]:
    """In frost: less goes in, or nothing."""
    bank = run.case.bank
    barred = bank.chemistry.cold.barred_below_c
    if barred >= 0.0:
        yield Cause(
            "barred",
            "Its management bars the charge of a frozen battery.",
            6.0,
            "Temperature of the case.",
            f"above {celsius(barred)}",
            "Warm it first, with pads or indoors; never charge it past the lock.",
        )
    else:
        yield Cause(
            "slow",
            "Cold lead takes charge slowly.",
            5.0,
            "Charging current and temperature of the case.",
            f"above {celsius(10)}",
            "More hours on charge; a charger with a temperature sensor.",
        )
    if run.case.heater is not None:
        watts, volts = run.case.heater.power_w, bank.nominal_v
        yield Cause(
            "pads",
            "The pads do not heat.",
            4.0,
            "Current of their circuit in the frost.",
            f"{watts / volts:.1f} A",
            "Their fuse, then their thermostat.",
            leads_to="fuse",
        )
    yield Cause(
        "meter-cold",
        "A cold battery shows less voltage under load and looks empty.",
        2.0,
        "Voltage with every load off for ten minutes.",
        f"{expect.rested_span(bank, 0.2, 1.0).text}",
        "It is nearly empty: charge it.",
    )


def vehicle_causes(run: Run, board: Board, source: DcDc | Relay) -> Iterator[Cause]:
    """No charge from the vehicle."""
    feed = board.of(f"feed-{source.key}")
    smart = source.alternator.smart
    size = "" if feed is None or feed.fuse_a is None else f"{feed.fuse_a:g} A "
    fuse = f"The feed's {size}fuse is"
    if feed is not None and feed.fuses > 1:
        fuse = f"One of the feed's two {size}fuses is"
    yield Cause(
        "fuse",
        f"{fuse} gone, or a plug is not home.",
        5.0,
        "Voltage between plus and minus at the box's end of the feed, engine running.",
        f"about {source.alternator.volts:.1f} V; nought means fuse or plug",
        "Find out why before a new fuse goes in.",
        leads_to="fuse",
    )
    if isinstance(source, DcDc):
        yield from _dcdc(run, board, source)
    if isinstance(source, Relay):
        yield Cause(
            "opens",
            "The relay does not close"
            + (": on a smart alternator it opens when the starter is full." if smart else "."),
            6.0 if smart else 3.0,
            "Voltage on both of its studs, engine running.",
            "the same within 0.1 V when it is closed",
            "A DC-DC charger copes with a smart alternator." if smart else "Check its ground wire.",
        )
    bank = run.case.bank
    if bank.chemistry.cold.barred_below_c >= 0.0:
        cold = min(run.case.low_c) + bank.housing.offset_k < 2.0
        yield Cause(
            "cold",
            "The battery is below freezing, and its management bars the charge.",
            4.0 if cold else 0.5,
            "Temperature of the case.",
            f"above {celsius(bank.chemistry.cold.barred_below_c)}",
            "Warm it first.",
        )
    yield Cause(
        "full",
        "It is full already.",
        2.0 if run.case.soc0 > 0.8 else 1.0,
        "Voltage at the battery's posts.",
        f"{run.case.profile.float_v * bank.system_v / 12:.1f} V or more",
        "It is full: nothing to mend.",
        "right",
    )


def _dcdc(run: Run, board: Board, source: DcDc) -> Iterator[Cause]:
    feed = board.of(f"feed-{source.key}")
    smart = source.alternator.smart
    if source.ignition:
        yield Cause(
            "ignition",
            "Its ignition wire gets no voltage.",
            4.5,
            "Voltage between the ignition wire and minus, key on.",
            "above 11 V with the key on, 0 V with it off",
            "Another tap in the fuse box, live with the key.",
        )
    else:
        yield Cause(
            "senses",
            "It senses the voltage, and "
            + ("a smart alternator lets that fall." if smart else "that never reaches its mark."),
            7.0 if smart else 3.0,
            "Voltage at its input, engine running for half an hour.",
            f"above {source.cut_in_v:.1f} V",
            "Connect its ignition wire.",
        )
    if feed is not None:
        starves = feed.drop_share > feed.most_share
        low_v = (source.alternator.smart_v if smart else source.alternator.volts) - feed.drop_v
        yield Cause(
            "starved",
            "Its input falls under its cut-out at full current: the feed is too thin, "
            "or a joint is bad.",
            5.5 if starves else 2.5,
            "Voltage at its input while it tries to start, then at the starter battery.",
            f"about {low_v:.1f} V at the input, not below {source.cut_out_v:.1f} V; "
            f"{feed.drop_v:.1f} V lost between the two",
            "Half current as a stopgap; thicker cable or a new joint.",
        )
    if source.delay_min:
        yield Cause(
            "delay",
            f"It waits {source.delay_min:.0f} min after each start.",
            3.0,
            "A clock.",
            f"it starts after {source.delay_min:.0f} min",
            "Drive on.",
            "right",
        )
    if max(run.case.high_c) + source.warmer_k > source.derate_from_c:
        yield Cause(
            "hot",
            "It is too hot and gives less.",
            2.5,
            "A hand on its case.",
            f"air below {celsius(source.derate_from_c)}",
            "Air, shade, or another place.",
        )


def sun_causes(run: Run, board: Board, clear: Run, key: str) -> Iterator[Cause]:
    """Little or nothing from the panels.

    clear : the run under a clear sky
    """
    array = next(a for a in run.case.sun if a.key == key)
    panel = board.of(f"panel-{key}")
    span = expect.noon_amps(clear, key)
    noon = "" if span is None else f"{span.text} in at noon of a clear day"
    portable = any(p.portable for p in array.panels)
    yield Cause(
        "shade",
        "A shadow on some cells, dust, or a panel that does not face the sun.",
        6.0 if portable else 4.5,
        "Current into the box, panel wiped and turned, nothing above it.",
        noon or "more than before",
        "A rope's shadow on one cell can halve a panel.",
    )
    full_share = 0.0
    rows = [j for j, s in enumerate(run.sources) if s.key == key]
    if rows:
        full_share = float((run.stage[rows[0]] == FLOAT).mean())
    yield Cause(
        "full",
        "The battery is nearly full, and the controller lets little through.",
        1.5 + 8.0 * full_share,
        "Battery voltage, and the stage that the controller shows.",
        f"{run.case.profile.absorption_v * run.case.bank.system_v / 12:.1f} V, or absorption or "
        "float on its face",
        "It holds back by design: shift work to noon.",
        "right",
    )
    volts = expect.panel_open_v(array)
    yield Cause(
        "lead",
        "A plug, fuse or breaker in the panels' lead is open.",
        4.0,
        "Open voltage at the box's end of the lead, unplugged, in sun.",
        volts.text,
        "Nought: measure nearer to the panel until it is there.",
    )
    if panel is not None:
        low = panel.need.full_a or panel.carries_a
        yield Cause(
            "thin",
            f"Voltage is lost in {panel.run_m:g} m of lead, or in a warm plug.",
            4.0 if panel.drop_share > panel.most_share else 1.5,
            f"Voltage at the panel and at the controller at {low:.0f} A.",
            f"{panel.drop_v:.1f} V between the two",
            "Thicker lead, clean contacts.",
        )
    if any(p.own_regulator for p in array.panels):
        yield Cause(
            "two",
            "The regulator on the panel's back works against the controller.",
            6.0,
            "Voltage at the end of the lead in sun, unplugged.",
            f"{_without_regulator(array).text}",
            "Bypass it.",
        )
    if array.controller.kind == "tracking":
        yield Cause(
            "headroom",
            "Hot panels stand too little above the battery.",
            1.0 if array.series > 1 else 1.5,
            "Voltage at the controller's input at work.",
            f"at least {array.controller.headroom_v:g} V above the battery",
            "Two panels in series.",
        )


def mains_causes(run: Run, board: Board, key: str, limit_a: float) -> Iterator[Cause]:
    """A mains charger of so many amps does not charge."""
    charge = board.of(f"charge-{key}")
    yield Cause(
        "supply",
        "The hook-up's breaker or residual-current device has opened.",
        5.0,
        "Its own lamp, or another appliance on the same lead.",
        "it works",
        "Once on again; twice is for a licensed person.",
    )
    if charge is not None and charge.fuse_a is not None:
        yield Cause(
            "fuse",
            f"Its {charge.fuse_a:g} A fuse is gone.",
            4.0,
            "Voltage on both sides of the fuse.",
            "the same on both",
            "Find out why first.",
            leads_to="fuse",
        )
    yield Cause(
        "full",
        "It is in float.",
        3.0,
        "Battery voltage.",
        f"{run.case.profile.float_v * run.case.bank.system_v / 12:.1f} V",
        "It is full: nothing to mend.",
        "right",
    )
    into = expect.charger_amps(run, 0.6, limit_a)
    yield Cause(
        "weak",
        "It gives less than its rating when warm.",
        1.0,
        "Current at 60 %.",
        into.text,
        "Air about it.",
    )
