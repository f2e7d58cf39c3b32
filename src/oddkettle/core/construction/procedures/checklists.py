"""Checklists for this box: before first power, before leaving, in camp, at home, in storage.

Expected readings come from the model of this plan.
"""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.construction.procedures import expected_readings as expect
from oddkettle.core.construction.procedures.check import Check, Checklist
from oddkettle.core.construction.procedures.check_at_rest import at_home, for_storage
from oddkettle.core.construction.wiring.circuits import LOW_BAR, OUTLETS, Board, Circuit
from oddkettle.core.construction.wiring.fuses import FAMILIES
from oddkettle.core.construction.wiring.requirements import inputs_of_one
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.units.quantity import celsius, torque

TYPICAL_LEVEL = 0.6
"""Readings to expect are told for this level."""
MAX_DAYS_SAID = 10
TORQUE_NM = {"M5": 3.0, "M6": 6.0, "M8": 10.0, "M10": 20.0}
"""Where the part's own sheet says nothing [judgement]."""
MATCHED_V = 0.1
"""Batteries further apart than this pour into one another when they are joined [textbook]."""
PRECHARGED_W = 1000.0
"""From here on an inverter's capacitors draw more than contacts bear [textbook]."""


def checklists(run: Run, board: Board, clear: Run, to_set: Checklist) -> tuple[Checklist, ...]:
    """All lists of a box, in the order of its life.

    clear : the run under a clear sky, for readings at noon
    to_set : what is to be keyed in, for that is checked, too
    """
    ready = run.case.unit is not None
    lists = [
        Checklist("leaving", "Before leaving", "the evening before", tuple(_leaving(run, board))),
        Checklist(
            "morning",
            "Each morning in camp",
            "before the sun is on the panels",
            tuple(_morning(run, clear)),
        ),
        Checklist("home", "Coming home", "on the day", tuple(at_home(run, board))),
        Checklist("storage", "Storage", "for more than a month", tuple(for_storage(run))),
        Checklist("monthly", "Monthly", "in use or not", tuple(_monthly(run, board))),
    ]
    if not ready:
        first = Checklist(
            "first",
            "Before first power",
            "once, and after any change of wiring",
            tuple(_first(run, board, clear)),
        )
        lists.insert(0, first)
    lists.insert(0 if ready else 1, to_set)
    return tuple(lists)


def _first(run: Run, board: Board, clear: Run) -> Iterator[Check]:
    bank = run.case.bank
    full = expect.rested_span(bank, 0.3, 1.0)
    yield Check(
        "fuses-out",
        "All fuses out, breakers and isolator off, panels covered.",
        "0.0 V between the bars",
        "nothing is live while hands are inside",
    )
    yield Check(
        "torque",
        "Every stud and screw tightened by the part's sheet, then pulled at.",
        "without a sheet: " + ", ".join(f"{k} {torque(v)}" for k, v in TORQUE_NM.items()),
        "a loose lug burns before a fuse notices",
    )
    if run.case.mains or run.case.inverter is not None:
        yield Check(
            "mains",
            "Mains inlet, inverter's outlets, earth and protective devices checked by a "
            "licensed person, before mains or the inverter is switched on.",
            why="mains kills",
        )
    yield Check("covered", "Posts, lugs and bars covered; no tool can bridge plus and minus.")
    yield Check(
        "short",
        "Ohmmeter between the bars, battery still off.",
        "above 100 ohm, or climbing",
        "near nought means a short: find it now",
    )
    yield Check(
        "polarity",
        "Meter on the battery's posts, red on plus.",
        full.text,
        "a minus sign, or another class of voltage: stop",
    )
    for c in board.circuits:
        yield from _polarity(run, c)
    yield from _matched(run)
    main = board.of("battery")
    if main is not None and main.fuse_a is not None and main.family is not None:
        yield Check(
            "main-in",
            f"Main fuse in ({main.fuse_a:g} A {FAMILIES[main.family].name}), then the isolator on.",
            f"{full.text} between the bars, within 0.05 V of the posts",
            "a spark and a falling voltage mean something draws: off again",
        )
    for c in board.circuits:
        if c.need.role not in {"battery", "panel", "feed"}:
            yield from _circuit_on(run, c)
    if board.wiring.shunt:
        yield Check(
            "shunt-sign",
            "Switch one known load on and look at the monitor.",
            "a minus sign before its amps",
            "a plus means that the shunt is turned round",
        )
    yield from _sources_on(run, board, clear)
    yield Check(
        "warm",
        "After an hour at full use feel every lug, fuse and plug.",
        "hand-warm at most",
        "what is hot is loose, thin, or too small",
    )


def _matched(run: Run) -> Iterator[Check]:
    """Batteries that are to be joined side by side."""
    bank = run.case.bank
    if bank.parallel < 2 and run.case.second is None:
        return
    how = "fully charged and rested" if not bank.chemistry.lead else "charged and rested"
    yield Check(
        "matched",
        f"Batteries that are joined in parallel: each {how}, its own fuse out, measured "
        "one by one.",
        f"all within {MATCHED_V:g} V of one another",
        "the fuller one pours into the other, as hard as its fuse lets it",
    )


def _polarity(run: Run, circuit: Circuit) -> Iterator[Check]:
    if circuit.need.role == "panel":
        array = next(a for a in run.case.sun if f"panel-{a.key}" == circuit.key)
        yield Check(
            f"open-{circuit.key}",
            f"Circuit {circuit.number}: open voltage of the panels' lead in "
            "sun, before it is plugged in.",
            expect.panel_open_v(array).text,
            "reversed it kills the controller at once",
        )
    if circuit.need.role == "feed":
        source = next(s for s in run.case.vehicle if f"feed-{s.key}" == circuit.key)
        volts = source.alternator.volts
        yield Check(
            f"open-{circuit.key}",
            f"Circuit {circuit.number}: voltage of the vehicle's lead at "
            "the box, engine off, then running.",
            f"{0.86 * volts:.1f} to {0.91 * volts:.1f} V, then about {volts:.1f} V",
        )


def _circuit_on(run: Run, circuit: Circuit) -> Iterator[Check]:
    fuse = "" if circuit.fuse_a is None else f" fuse in ({circuit.fuse_a:g} A),"
    if circuit.need.role == "low":
        yield Check(
            f"on-{circuit.key}",
            f"Circuit {circuit.number}, {circuit.need.name}:{fuse} meter on "
            "the 12 V block, its ways still empty.",
            "11.5 to 14.0 V",
            "the box's own voltage there would burn all that hangs on it",
        )
        return
    if circuit.need.role == "charge":
        yield Check(
            f"on-{circuit.key}",
            f"Circuit {circuit.number}, {circuit.need.name}:{fuse} its lamp lights.",
            "the battery's voltage at its terminals",
            "battery first, source after",
        )
        return
    inverter = run.case.inverter
    if circuit.need.role == "inverter" and inverter and inverter.rating_w >= PRECHARGED_W:
        yield Check(
            "precharge",
            "Inverter's capacitors filled first: some seconds through a resistor of "
            "some 20 ohm or a lamp across the open fuse, then its fuse.",
            "no spark",
            "empty they draw hundreds of amps for a moment, and pit every contact on the way",
        )
    if circuit.need.role in OUTLETS:
        full = expect.rested_span(run.case.bank, 0.3, 1.0).text
        volts = "5 V at its USB" if circuit.need.role == "usb" else full
        if circuit.need.begins == LOW_BAR:
            volts = "11.5 to 14.0 V"
        yield Check(
            f"pole-{circuit.key}",
            f"Circuit {circuit.number}, {circuit.need.name}:{fuse} meter in "
            "the outlet, red on its centre or plus, before anything is plugged in.",
            volts,
            "a minus sign: its wires are crossed, and would kill what is plugged in",
        )
        fuse = ""
    yield Check(
        f"on-{circuit.key}",
        f"Circuit {circuit.number}, {circuit.need.name}:{fuse} switched on.",
        f"{circuit.need.continuous_a:.1f} A at most; "
        f"{expect.drop_expected(circuit).high:.2f} V at most lost on the way",
    )


def _sources_on(run: Run, board: Board, clear: Run) -> Iterator[Check]:
    for array in run.case.sun:
        span = expect.noon_amps(clear, array.key)
        if span is None:
            continue
        top = expect.charger_amps(run, TYPICAL_LEVEL, span.high).high
        span = expect.Span(min(span.low, top), top, "A")
        volts = expect.charger_volts(run, TYPICAL_LEVEL, (span.low + span.high) / 2)
        yield Check(
            f"sun-{array.key}",
            f"{array.name} at noon of a clear day, battery at {100 * TYPICAL_LEVEL:.0f} %.",
            f"{volts.text}, {span.text} in",
            "on: battery, then panels; off: panels, then battery",
        )
    for source in run.case.vehicle:
        if isinstance(source, DcDc):
            amps = source.limit_a * (0.5 if source.half_current else 1.0)
            if source.key in inputs_of_one(run):
                amps = min(amps, run.case.joining.limit_a)
            into = expect.charger_amps(run, TYPICAL_LEVEL, amps)
            volts = expect.charger_volts(run, TYPICAL_LEVEL, into.high)
            feed = board.of(f"feed-{source.key}")
            lost = "" if feed is None else f"; {feed.drop_v:.1f} V lost on its feed"
            yield Check(
                f"drive-{source.key}",
                f"{source.name}, engine running, battery at {100 * TYPICAL_LEVEL:.0f} %.",
                f"{volts.text}, {into.text} in{lost}",
            )
    for charger in run.case.mains:
        into = expect.charger_amps(run, TYPICAL_LEVEL, charger.limit_a)
        volts = expect.charger_volts(run, TYPICAL_LEVEL, into.high)
        yield Check(
            f"mains-{charger.key}",
            f"{charger.name} on, battery at {100 * TYPICAL_LEVEL:.0f} %.",
            f"{volts.text}, {into.text} in",
        )


def _leaving(run: Run, board: Board) -> Iterator[Check]:
    bank, start = run.case.bank, run.case.soc0
    low = max(start - 0.03, 0.0)
    yield Check(
        "level",
        f"The battery stands where the plan begins: {100 * start:.0f} %.",
        f"{expect.rested_span(bank, low, start).text} after some hours of rest",
        "the plan counts on it",
    )
    kinds = sorted(
        {f"{c.fuse_a:g} A" for c in board.circuits if c.fuse_a is not None},
        key=lambda text: float(text[:-2]),
    )
    if kinds:
        yield Check("spares", "A spare of every fuse in the bag.", ", ".join(kinds))
    yield Check("lugs", "Lugs, plugs and glands tight; no chafed cable.")
    yield Check(
        "fastened",
        "The box strapped down, each strap pulled at.",
        "nothing moves",
        "in a hard stop it weighs twice what it does now",
    )
    portable = [p for a in run.case.sun for p in a.panels if p.portable]
    if portable:
        yield Check(
            "panel",
            "Folding panel, its lead and its stand packed.",
            f"{sum(p.power_w * p.count for p in portable):g} W",
        )
    for source in run.case.vehicle:
        yield Check(
            f"lead-{source.key}",
            f"{source.name}: charges with the engine running, stops some minutes after.",
        )
    yield Check("meter", "A meter and the bench booklet in the box.")
    if any(a.medical for a in run.case.appliances):
        yield Check(
            "second-source",
            "A second source for what must not stop, tried out.",
            why="this tool keeps nobody breathing",
        )
    if run.case.inverter is not None:
        yield Check(
            "inverter-off",
            "Inverter off until it is wanted.",
            f"saves {run.case.inverter.idle_w:g} W",
        )


def _morning(run: Run, clear: Run) -> Iterator[Check]:
    levels = expect.clock_levels(run, 8 * 60)
    by_plan = ", ".join(f"{day:%a} {level:.0f}" for day, level in levels)
    if len(levels) > MAX_DAYS_SAID:
        low, high = (pick(level for _, level in levels) for pick in (min, max))
        by_plan = f"{low:.0f} to {high:.0f}"
    yield Check(
        "morning-level",
        "Read the monitor at eight and enter it in the log.",
        f"by the plan {by_plan} %",
    )
    draw = expect.resting_draw(run)
    yield Check(
        "morning-draw",
        "Look at what flows out while everything is switched off.",
        f"{draw.high:.2f} A at most",
        "more means something was left on",
    )
    for array in run.case.sun:
        if any(p.portable for p in array.panels):
            yield Check(
                f"out-{array.key}",
                f"{array.name}: panel out, square to the sun, no shadow on any cell.",
            )
        span = expect.noon_amps(clear, array.key)
        if span is not None:
            yield Check(
                f"noon-{array.key}",
                f"{array.name}: a look at a clear noon, battery not full.",
                f"{span.text} in",
                "less means shade, dirt, or a bad lead",
            )
    if run.case.bank.chemistry.cold.barred_below_c >= 0 and min(run.case.low_c) < 5:
        yield Check(
            "frost",
            "Battery above freezing before the sun or the engine charges it.",
            f"above {celsius(0)}",
            "charging lithium below freezing ruins it",
        )
    yield Check("dry", "Box dry, air moves through its vents.")


def _monthly(run: Run, board: Board) -> Iterator[Check]:
    full = expect.rested_v(run.case.bank, 1.0)
    yield Check(
        "month-full",
        "One full charge, and the counter set to full.",
        f"{expect.volts_about(full).text} some hours after",
    )
    main = board.of("battery")
    if main is not None:
        bears = main.need.seen_a
        drop = expect.drop_expected(main)
        yield Check(
            "month-drop",
            f"Voltage lost between post and bar at {bears:.0f} A or so.",
            f"{drop.high:.2f} V at most",
            "more means a bad joint",
        )
    yield Check("month-screws", "Screws and lugs tried; dust out of vents and fans.")
    if run.case.bank.chemistry.vented:
        yield Check("month-water", "Electrolyte above the plates in every cell.")
    if run.case.surroundings.place == "living":
        yield Check("month-alarm", "Smoke alarm tried where people sleep.")
