"""The booklet of a ready-made unit: what goes in and out, what to read on it, what voids it.

A unit is never opened: its own book comes before everything here.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from oddkettle.core.construction.procedures import expected_readings as expect
from oddkettle.core.construction.wiring.circuits import Board
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.units.quantity import celsius

SOCKET_A = 10.0
"""Many a 12 V socket is fused for this [textbook]; a vehicle's own fuse box says what it is."""


@dataclass(frozen=True)
class UnitNote:
    """One line about a unit: what it is about, what to look for, and the figure of this plan."""

    key: str
    about: str
    text: str
    figure: str = ""


@dataclass(frozen=True)
class UnitPart:
    """Some lines under a heading."""

    key: str
    title: str
    notes: tuple[UnitNote, ...]


def unit_booklet(run: Run, board: Board, clear: Run) -> tuple[UnitPart, ...]:
    """All that its owner needs; nothing for a box that is built."""
    if run.case.unit is None:
        return ()
    return (
        UnitPart("inputs", "What goes in", tuple(_inputs(run, board, clear))),
        UnitPart("outputs", "What comes out", tuple(_outputs(run))),
        UnitPart("face", "What to read on its own face", tuple(_face(run))),
        UnitPart("voids", "What voids it, or ends it", tuple(_voids(run))),
    )


def _inputs(run: Run, board: Board, clear: Run) -> Iterator[UnitNote]:
    unit = run.case.unit
    assert unit is not None
    if unit.input_w is not None:
        yield UnitNote(
            "together",
            "All inputs together",
            "What is offered beyond it is not taken.",
            f"{unit.input_w:g} W at most",
        )
    for array in run.case.sun:
        volts = expect.panel_open_v(array)
        cold = next(
            (s.volts.cold_voc_v for s in run.sources if s.key == array.key and s.volts), None
        )
        span = expect.noon_amps(clear, array.key)
        figure = f"{volts.text} open in sun"
        if cold is not None:
            figure += f", {cold:.0f} V in the coldest air on record"
        if span is not None:
            watts = span.high * run.case.bank.nominal_v
            figure += f"; about {watts:.0f} W shown at noon of a clear day"
        yield UnitNote(
            f"sun-{array.key}",
            array.name,
            "Its highest voltage must stay under what stands beside the solar input; plus is the "
            "centre or as its book draws it.",
            figure,
        )
    for source in run.case.vehicle:
        feed = board.of(f"feed-{source.key}")
        if not isinstance(source, DcDc):
            continue
        amps = source.fuse_a or SOCKET_A
        lost = "" if feed is None else f", {feed.drop_v:.1f} V lost on the lead"
        yield UnitNote(
            f"vehicle-{source.key}",
            source.name,
            "Only with the engine running; a socket's fuse must bear it for hours, or the lead "
            "gets a fuse and a plug of its own.",
            f"{source.limit_a * run.case.bank.nominal_v:.0f} W into it, on a fuse of {amps:g} A"
            f"{lost}",
        )
    for charger in run.case.mains:
        watts = charger.limit_a * run.case.bank.nominal_v
        yield UnitNote(
            f"mains-{charger.key}",
            charger.name,
            "Its own charger or lead and no other; in the dry, with air about it.",
            f"about {watts:.0f} W",
        )


def _outputs(run: Run) -> Iterator[UnitNote]:
    case = run.case
    unit = case.unit
    assert unit is not None
    supplies = (("12v", "12 V outlets"), ("usb", "USB outlets"), ("inverter", "Mains outlets"))
    for supply, word in supplies:
        on_it = [a for a in case.appliances if a.supply == supply]
        if not on_it:
            continue
        watts = sum(a.power_w for a in on_it)
        names = ", ".join(a.name for a in on_it)
        yield UnitNote(supply, word, f"On this trip: {names}.", f"{watts:.0f} W all at once")
    if case.inverter is not None:
        yield UnitNote(
            "inverter-off",
            "The inverter",
            "Its own switch: off whenever nothing of mains runs.",
            f"{case.inverter.idle_w:g} W saved",
        )
    yield UnitNote(
        "losses",
        "On the way out",
        "What its electronics keep of all that leaves by "
        "12 V and USB, and what they draw while it is on.",
        f"{100 * (1 - unit.dc_efficiency):.0f} %, and {unit.standby_w:g} W",
    )


def _face(run: Run) -> Iterator[UnitNote]:
    bank = run.case.bank
    yield UnitNote(
        "percent",
        "Percent",
        "In the morning, into the log: the tool learns from it what the unit really holds.",
        f"{bank.nominal_wh:.0f} Wh on its label, {100 * run.case.floor:.0f} % kept back",
    )
    yield UnitNote(
        "in",
        "Watts in",
        "At noon, panel square to the sun; while driving. Nought "
        "means a plug, a fuse, a shadow, or that it is full.",
    )
    standing = expect.standing_a(run) * bank.nominal_v
    yield UnitNote(
        "out", "Watts out", "With everything switched off.", f"{1.2 * standing + 1.0:.0f} W at most"
    )
    yield UnitNote(
        "hours",
        "Hours left",
        "It reckons with the draw of this minute: a cool box "
        "that rests makes it hopeful. The Trip page reckons with the day.",
    )
    if not run.case.unit.charge_in_use:  # type: ignore[union-attr]
        yield UnitNote(
            "either", "One or the other", "This plan charges it only while nothing runs from it."
        )


def _voids(run: Run) -> Iterator[UnitNote]:
    cold = run.case.bank.chemistry.cold.barred_below_c
    yield UnitNote(
        "open",
        "Opening it",
        "Its makers void their word for it, and inside stand "
        "voltages that kill after it is switched off.",
    )
    yield UnitNote(
        "second", "Joining another battery to it", "Unless its book shows a socket for it."
    )
    yield UnitNote(
        "feed",
        "Feeding mains back",
        "Never plug its outlet into a house or a van's own wiring: a licensed person decides that.",
    )
    if cold > -50.0:
        yield UnitNote(
            "frost",
            "Charging it in frost",
            "Its management should refuse; do not count on it.",
            f"above {celsius(cold)}",
        )
    yield UnitNote(
        "wet",
        "Rain, a closed bag, a hot car",
        "It wants air while it charges, and nothing stands on it.",
    )
    yield UnitNote(
        "empty",
        "Storing it empty",
        "It sleeps for good. Half full, and a look every three months.",
        "50 to 60 %",
    )
