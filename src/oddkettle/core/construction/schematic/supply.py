"""Sheets of batteries and sources: sources left, bars right, batteries below."""

from __future__ import annotations

from dataclasses import replace

from oddkettle.core.battery.bank import Bank
from oddkettle.core.construction.schematic.battery_rows import draw_battery
from oddkettle.core.construction.schematic.columns import (
    BAR_FUSE_X,
    CHARGER_W,
    CHARGER_X,
    FIRST_ROWS,
    FUSE_X,
    MIDDLE_X,
    MINUS_X,
    MORE_ROWS,
    OFF,
    OUT_TAG_X,
    PAST,
    PAST_X,
    PLUG_X,
    PLUS_X,
    RELAY_PLUG_X,
    SELECTOR_W,
    SELECTOR_X,
    SOURCE_W,
    SOURCE_X,
    TAG_X,
    UNIT_W,
    UNIT_X,
)
from oddkettle.core.construction.schematic.draft import (
    FUSE_W,
    HIGH,
    LOW,
    PITCH,
    RETURN,
    TOP,
    Draft,
    ink_of,
    post_words,
    two_lines,
)
from oddkettle.core.construction.schematic.figures import SMALL, Sheet
from oddkettle.core.construction.wiring.circuits import BAR, COMBINED, Board, Circuit
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.relay import Relay

Row = list[Circuit]


def supply_sheets(run: Run, board: Board, title: str) -> list[Sheet]:
    """One sheet, or more where there are many sources; the batteries are on the first."""
    rows = source_rows(board)
    ready = run.case.unit is not None
    first = MORE_ROWS if ready else FIRST_ROWS
    parts = [rows[:first]]
    parts += [rows[n : n + MORE_ROWS] for n in range(first, len(rows), MORE_ROWS)]
    sheets = []
    for n, part in enumerate(parts):
        more = f", continued ({n + 1})" if n else ""
        draft = Draft(board, f"{title}: batteries and sources{more}")
        foot = TOP + max(len(part), 2) * PITCH
        inside = _selected(run, part)
        for k, row in enumerate(part):
            _source_row(draft, run, row, TOP + 1.0 + k * PITCH, ready=ready)
        if inside:
            _selector(draft, part, inside)
        if ready:
            _unit(draft, part)
        else:
            draft.bars(PLUS_X, MINUS_X, foot)
            draft.label(PAST_X + 1.5, TOP + 4.0, "on to the")
            draft.label(PAST_X + 1.5, TOP + 8.0, "uses' sheet")
            if n == 0:
                draw_battery(draft, run, board, foot)
        past = [c for c in board.circuits if c.returns == "battery_side" and c.key != "battery"]
        numbers = ", ".join(f"circuit {c.number}" for c in past)
        notes = [f"{PAST}{numbers}."] if past else []
        sheets.append(draft.done(*notes, OFF))
    return sheets


def source_rows(board: Board) -> list[Row]:
    """What leads from one source to the bar, in one row each."""
    rows: list[Row] = []
    for circuit in board.circuits:
        role = circuit.need.role
        if role in {"panel", "feed", "second"}:
            rows.append([circuit])
        elif role == "charge":
            inside = next((r for r in rows if r[0].need.part == circuit.need.part), None)
            if inside is None:
                rows.append([circuit])
            else:
                inside.append(circuit)
    return _gathered(rows)


def _gathered(rows: list[Row]) -> list[Row]:
    """The inputs of a combined charger one below the other, its output with the first of them."""
    inputs = [row for row in rows if row[0].need.ends == COMBINED]
    outputs = [row for row in rows if row[0].need.begins == COMBINED]
    if not inputs or not outputs:
        return rows
    inputs[0].append(outputs[0][0])
    rest = [row for row in rows if row not in inputs and row not in outputs]
    return [*inputs, *rest]


def _source_row(draft: Draft, run: Run, row: Row, y: float, *, ready: bool) -> None:
    first = row[0]
    if first.need.role == "charge":
        _mains_row(draft, run, first, y)
        return
    _source(draft, run, first, y)
    if ready:
        _along(draft, first, y, UNIT_X)
    elif first.need.ends == BAR:
        _to_bar_directly(draft, run, first, y)
    else:
        _along(draft, first, y, CHARGER_X)
        _ignition(draft, run, first, y)
        charge = row[1] if len(row) > 1 else None
        if charge is None and first.need.ends == COMBINED:
            # Its charger's box was drawn with the first input and reaches down to here.
            return
        _charger(draft, first, charge, y)


def _source(draft: Draft, run: Run, c: Circuit, y: float) -> None:
    """Where a lead comes from, and what stands there already: its fuse or its strings' fuses."""
    role = c.need.role
    if role == "panel":
        draft.box(c, SOURCE_X, SOURCE_W, y, "panels", *_panels(run, c))
        if c.string_fuse_a:
            draft.shape("fuse", (FUSE_X, y - 1.7, FUSE_W, 3.4), ink_of(c), c.number)
            words = f"{c.need.strings:g} x {c.string_fuse_a:g} A"
            draft.label(FUSE_X, y + 4.7, words, circuit=c.number)
    elif role == "feed":
        draft.box(c, SOURCE_X, SOURCE_W, y, "starter battery,", "alternator")
        # The vehicle's negative is its body.
        draft.shape("earth", (SOURCE_X + 1.5, y + RETURN - 1.6, 4.0, 4.0), "negative", c.number)
        draft.protect(c, FUSE_X, y, at_start=True)
    else:
        assert run.case.second is not None
        draft.box(c, SOURCE_X, SOURCE_W, y, "second bank", *_joined(run.case.second.bank))
        if c.need.posts > 1:
            words = f"{c.need.posts} x {post_words(c)}"
            draft.protect(c, FUSE_X, y, words=words, at_start=True)
        else:
            draft.protect(c, FUSE_X, y, at_start=True)
    draft.label(SOURCE_X + SOURCE_W + 0.8, y - 0.9, "+", circuit=c.number, bold=True)
    draft.label(SOURCE_X + SOURCE_W + 0.8, y + RETURN - 0.9, "−", circuit=c.number, bold=True)
    draft.tag(c, TAG_X, y)
    # A relay sits in the vehicle: the plug in the box's wall comes after it.
    if CONNECTORS[c.connector].hole_mm and c.connector != "gland":
        draft.plug(c, RELAY_PLUG_X if _relayed(c) else PLUG_X, y)


def _joined(bank: Bank) -> tuple[str, ...]:
    """How several batteries make the bank."""
    return (f"{bank.parallel} in parallel",) if bank.parallel > 1 else ()


def _panels(run: Run, c: Circuit) -> tuple[str, ...]:
    """How the panels are joined."""
    array = next((a for a in run.case.sun if c.need.part == f"sun:{a.key}"), None)
    if array is None:
        return ()
    count = sum(panel.count for panel in array.panels)
    if count == 1:
        return ()
    return (f"{array.series} in series x {c.need.strings:g}",)


def _along(draft: Draft, c: Circuit, y: float, end: float) -> None:
    """A lead from its source to what it feeds, with a panel's two-pole breaker on the way."""
    start = SOURCE_X + SOURCE_W
    draft.plus(c, (start, y), (end, y))
    draft.minus(c, (start, y + RETURN), (end, y + RETURN), net=f"-{c.key}")
    if c.need.role == "panel":
        draft.protect(c, MIDDLE_X, y, poles=2 if c.protection == "breaker" else 1)


def _to_bar_directly(draft: Draft, run: Run, c: Circuit, y: float) -> None:
    """A relay's feed, a second bank, or a panel without a controller."""
    start = SOURCE_X + SOURCE_W
    draft.plus(c, (start, y), (PLUS_X, y))
    draft.dot(PLUS_X, y, ink_of(c), c.number)
    _home(draft, c, start, y)
    if c.need.role == "panel":
        draft.protect(c, MIDDLE_X, y, poles=2 if c.protection == "breaker" else 1)
        return
    relay = next(
        (s for s in run.case.vehicle if isinstance(s, Relay) and c.key == f"feed-{s.key}"), None
    )
    if relay is not None:
        word = "closed by hand" if relay.forced else "by voltage"
        draft.shape(
            "box",
            (CHARGER_X, y - HIGH, CHARGER_W - 8.0, HIGH + 4.6),
            ink_of(c),
            c.number,
            ("relay", word),
        )
        draft.line("signal", f"coil-{c.key}", (MIDDLE_X + 3.0, y + 3.2), (CHARGER_X, y + 3.2))
        draft.label(MIDDLE_X + 2.0, y + 4.2, "coil", SMALL, "end", c.number)
    elif c.disconnect:
        draft.shape("switch", (MIDDLE_X, y - 1.7, FUSE_W, 3.4), ink_of(c), c.number)
        draft.label(MIDDLE_X + FUSE_W / 2, y + 4.7, "isolator", SMALL, "middle", c.number)
    if c.need.role == "second" and c.need.posts > 1:
        draft.protect(c, CHARGER_X, y)
    if c.fuses > 1:
        draft.protect(c, BAR_FUSE_X, y)


def _ignition(draft: Draft, run: Run, c: Circuit, y: float) -> None:
    """The wire that tells a DC-DC charger that the engine runs."""
    charger = next(
        (s for s in run.case.vehicle if isinstance(s, DcDc) and c.key == f"feed-{s.key}"), None
    )
    if charger is None or not charger.ignition:
        return
    draft.line("signal", f"ignition-{c.key}", (MIDDLE_X + 8.0, y + 3.3), (CHARGER_X, y + 3.3))
    draft.label(MIDDLE_X + 7.0, y + 4.3, "ignition", SMALL, "end", c.number)


def _charger(draft: Draft, first: Circuit, charge: Circuit | None, y: float) -> None:
    """The charger's box, which reaches down over all inputs of a combined one, and its output."""
    rows = 1
    if first.need.ends == COMBINED:
        rows = sum(c.need.ends == COMBINED for c in draft.board.circuits)
    shown = charge or first
    name = charge.need.begins if charge is not None else first.need.ends
    draft.box(shown, CHARGER_X, CHARGER_W, y, *two_lines(name, 20), below=(rows - 1) * PITCH)
    if charge is not None:
        _out(draft, charge, y)


def _out(draft: Draft, c: Circuit, y: float) -> None:
    """From a charger to the bar, or to the fuse that it shares."""
    start = CHARGER_X + CHARGER_W
    draft.tag(c, OUT_TAG_X, y)
    draft.protect(c, BAR_FUSE_X, y)
    if c.fuse_with is not None:
        host = draft.board.of(c.fuse_with)
        draft.label(
            BAR_FUSE_X - 2.0,
            y + 4.7,
            f"fuse of circuit {host.number if host else 0}",
            SMALL,
            "middle",
            c.number,
        )
    draft.plus(c, (start, y), (PLUS_X, y))
    draft.dot(PLUS_X, y, ink_of(c), c.number)
    _home(draft, c, start, y)


def _home(draft: Draft, c: Circuit, x: float, y: float) -> None:
    """A negative to its bar; one that goes past the shunt leaves to the right, in red."""
    low = y + RETURN
    if c.returns == "battery_side":
        draft.minus(c, (x, low), (PAST_X + 20.0, low), net=f"past-{c.key}", ink="danger")
        draft.label(PAST_X + 2.0, low - 1.2, "to battery −", circuit=c.number, bold=True)
        return
    draft.minus(c, (x, low), (MINUS_X, low))
    draft.dot(MINUS_X, low, "negative", c.number)


def _mains_row(draft: Draft, run: Run, c: Circuit, y: float) -> None:
    """From the hook-up through its breaker and residual-current device to a charger."""
    number = c.number
    box_h = HIGH + RETURN + LOW
    fed = any(SOURCE_KINDS[source.group].through for source in run.case.sources)
    words = ("mains inlet", "or generator") if fed else ("mains inlet",)
    draft.shape("box", (SOURCE_X, y - HIGH, SOURCE_W, box_h), "mains", number, words)
    draft.shape("box", (48.0, y - HIGH, 30.0, box_h), "mains", number, ("breaker and", "RCD"))
    middle = y + RETURN / 2
    draft.line("ac", f"ac-{c.key}", (SOURCE_X + SOURCE_W, middle), (48.0, middle), ink="mains")
    draft.line("ac", f"ac-{c.key}", (78.0, middle), (CHARGER_X, middle), ink="mains")
    draft.label(81.0, middle - 1.6, "licensed work", circuit=number)
    draft.box(c, CHARGER_X, CHARGER_W, y, *two_lines(c.need.begins, 20))
    draft.shape("earth", (CHARGER_X + 1.5, y + RETURN - 2.4, 4.0, 4.0), "mains", number)
    _out(draft, c, y)


def _selected(run: Run, rows: list[Row]) -> list[Circuit]:
    """The circuits that a selector lets in one at a time; none where there is no selector."""
    if run.case.joining.kind != "selector" or run.case.unit is not None:
        return []
    out = [c for row in rows for c in row if c.need.role == "charge" or _relayed(c)]
    return out if len(out) > 1 else []


def _relayed(c: Circuit) -> bool:
    return c.need.role == "feed" and c.need.ends == BAR


def _selector(draft: Draft, rows: list[Row], inside: list[Circuit]) -> None:
    """A switch over the outputs of several sources: one lead goes on to the bar."""
    places = [TOP + 1.0 + n * PITCH for n, row in enumerate(rows) if set(row) & set(inside)]
    tall = places[-1] - places[0] + 2 * HIGH
    draft.shape("box", (SELECTOR_X, places[0] - HIGH, SELECTOR_W, tall), "ink")
    draft.label(SELECTOR_X + SELECTOR_W / 2, TOP - 5.2, "selector", SMALL, "middle")
    # Only the first goes on; the others end in the switch.
    sheet, later = draft.sheet, {c.number for c in inside[1:]}
    sheet.wires = [
        replace(w, points=tuple((min(x, SELECTOR_X + 1.0), y) for x, y in w.points))
        if w.circuit in later and w.sign == "+" and w.points[-1][0] == PLUS_X
        else w
        for w in sheet.wires
    ]
    sheet.shapes = [
        shape
        for shape in sheet.shapes
        if not (shape.kind == "dot" and shape.circuit in later and abs(shape.x + 1 - PLUS_X) < 0.1)
    ]


def _unit(draft: Draft, rows: list[Row]) -> None:
    tall = max(len(rows) * PITCH + 4.0, 20.0)
    draft.shape(
        "battery",
        (UNIT_X, TOP - 6.0, UNIT_W, tall),
        "level",
        None,
        ("ready-made unit", "never opened", "its own protection inside"),
    )
