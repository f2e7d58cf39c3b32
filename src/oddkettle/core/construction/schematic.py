"""The schematic, laid out by rule: sources left, bars in the middle, uses right, battery below.

Lengths are millimetres on the page, y downwards. What comes out is plain shapes, so that screen,
SVG and PDF draw the very same thing.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from oddkettle.core.battery.bank import Bank
from oddkettle.core.construction.wiring.cable import size_text
from oddkettle.core.construction.wiring.circuits import BAR, COMBINED, Board, Circuit, Role
from oddkettle.core.own_wiring import Family
from oddkettle.core.simulation.run import Run

Ink = Literal["sun", "vehicle", "mains", "use", "level", "negative", "danger", "ink"]
Kind = Literal["box", "fuse", "breaker", "switch", "shunt", "battery", "bar", "dot", "number"]
Anchor = Literal["start", "middle", "end"]
Point = tuple[float, float]

WIDTH = 241.0
TOP, PITCH, RETURN = 20.0, 14.0, 3.6
"""First row, from row to row, and how far a negative runs below its positive."""
SOURCE_X, SOURCE_W = 2.0, 27.0
CHARGER_X, CHARGER_W = 67.0, 32.0
PLUS_X, MINUS_X, PAST_X = 139.0, 145.5, 149.5
FUSE_X, FUSE_W = 151.0, 9.5
USE_X, USE_W = 195.0, 44.0
BOX_H = 9.6
BATTERY_X, BATTERY_W, BATTERY_H = 30.0, 44.0, 26.0
SMALL, INSIDE, LINE, TITLE = 3.1, 3.2, 3.7, 4.4
"""Sizes of letters: beside wires, inside boxes, from line to line, and of the heading."""
SHORT: dict[Family, str] = {
    "blade": "blade",
    "strip": "strip",
    "terminal": "terminal",
    "class_t": "class T",
    "breaker": "breaker",
}
INKS: dict[Role, Ink] = {
    "battery": "level",
    "second": "level",
    "panel": "sun",
    "feed": "vehicle",
    "charge": "mains",
    "inverter": "use",
    "outlet": "use",
    "usb": "use",
    "heater": "use",
    "sense": "level",
}


@dataclass(frozen=True)
class Wire:
    """A conductor along some points; `negative` ones are drawn thin and broken."""

    points: tuple[Point, ...]
    ink: Ink
    circuit: int | None = None
    negative: bool = False


@dataclass(frozen=True)
class Shape:
    """A symbol in its rectangle, with lines of text inside."""

    kind: Kind
    x: float
    y: float
    w: float
    h: float
    ink: Ink
    circuit: int | None = None
    lines: tuple[str, ...] = ()


@dataclass(frozen=True)
class Label:
    """Text whose baseline begins, stands about, or ends at a point."""

    x: float
    y: float
    text: str
    size: float = SMALL
    anchor: Anchor = "start"
    circuit: int | None = None
    bold: bool = False


@dataclass
class Schematic:
    """All of a drawing; it grows while it is laid out and is left alone then."""

    width: float
    height: float
    title: str
    wires: list[Wire] = field(default_factory=list)
    shapes: list[Shape] = field(default_factory=list)
    labels: list[Label] = field(default_factory=list)


def draw_schematic(run: Run, board: Board, title: str) -> Schematic:
    """Lay the whole board out. Rows are as many as the longer side needs."""
    left = _left_rows(board)
    right = [c for c in board.circuits if c.need.role in _RIGHT]
    rows = max(len(left), len(right), 1)
    ready = run.case.unit is not None
    foot = TOP + rows * PITCH
    drawing = Schematic(WIDTH, foot + (14.0 if ready else BATTERY_H + 22.0), title)
    drawing.labels.append(Label(SOURCE_X, 9.0, title, TITLE, bold=True))
    for n, circuits in enumerate(left):
        _source_row(drawing, board, circuits, TOP + (n + 0.5) * PITCH, ready)
    if ready:
        _unit(drawing, left)
    else:
        _bars(drawing, foot)
        for n, circuit in enumerate(right):
            _use_row(drawing, board, circuit, TOP + (n + 0.5) * PITCH)
        _battery(drawing, run, board, foot)
    _foot(drawing)
    return drawing


_RIGHT = {"inverter", "outlet", "usb", "heater", "sense"}


def _left_rows(board: Board) -> list[list[Circuit]]:
    """What leads from one source to the bar, in one row each."""
    rows: list[list[Circuit]] = []
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


def _gathered(rows: list[list[Circuit]]) -> list[list[Circuit]]:
    """The inputs of a combined charger one below the other, its output with the first of them."""
    inputs = [row for row in rows if row[0].need.ends == COMBINED]
    outputs = [row for row in rows if row[0].need.begins == COMBINED]
    if not inputs or not outputs:
        return rows
    inputs[0].append(outputs[0][0])
    rest = [row for row in rows if row not in inputs and row not in outputs]
    return [*inputs, *rest]


def ink_of(circuit: Circuit) -> Ink:
    """A charger's output keeps its source's colour."""
    group = circuit.need.part.partition(":")[0]
    if group in {"sun", "vehicle", "mains"} and circuit.need.role in {"panel", "feed", "charge"}:
        return {"sun": "sun", "vehicle": "vehicle", "mains": "mains"}[group]  # type: ignore[return-value]
    return "level" if group == "joining" else INKS[circuit.need.role]


def _cable_text(board: Board, circuit: Circuit) -> str:
    area = circuit.cable_mm2
    size = "no size" if area is None else size_text(area, board.wiring.series)
    return f"{size}, {circuit.run_m:g} m"


def fuse_text(circuit: Circuit) -> str:
    """What protects it, in a few letters."""
    if circuit.fuse_with is not None:
        return "shared fuse"
    if circuit.protection == "none" or circuit.family is None:
        return "NO FUSE"
    word = SHORT[circuit.family]
    size = "?" if circuit.fuse_a is None else f"{circuit.fuse_a:g}"
    return f"{size} A {word}"


def _strings(circuit: Circuit) -> tuple[str, ...]:
    many = f"{circuit.need.strings:g} x {circuit.string_fuse_a or 0.0:g} A fuse"
    return (many,) if circuit.string_fuse_a else ()


def _plus(drawing: Schematic, circuit: Circuit, *points: Point) -> None:
    drawing.wires.append(Wire(points, ink_of(circuit), circuit.number))


def _minus(drawing: Schematic, circuit: Circuit, *points: Point) -> None:
    drawing.wires.append(Wire(points, "negative", circuit.number, negative=True))


def _dot(drawing: Schematic, x: float, y: float, ink: Ink, number: int) -> None:
    drawing.shapes.append(Shape("dot", x - 0.9, y - 0.9, 1.8, 1.8, ink, number))


def _box(
    drawing: Schematic,
    circuit: Circuit,
    x: float,
    w: float,
    y: float,
    *lines: str,
    rows: int = 1,
) -> None:
    tall = (rows - 1) * PITCH + BOX_H
    drawing.shapes.append(
        Shape("box", x, y - BOX_H / 2 + 1.0, w, tall, ink_of(circuit), circuit.number, lines)
    )


def _mark(drawing: Schematic, board: Board, circuit: Circuit, x: float, y: float) -> None:
    """The circuit's number and its cable, above its wire."""
    drawing.shapes.append(
        Shape(
            "number", x, y - 4.6, 4.4, 4.0, ink_of(circuit), circuit.number, (str(circuit.number),)
        )
    )
    drawing.labels.append(
        Label(x + 5.2, y - 1.4, _cable_text(board, circuit), circuit=circuit.number)
    )


def _protect(
    drawing: Schematic, circuit: Circuit, x: float, y: float, anchor: Anchor = "start"
) -> None:
    """The symbol of its fuse or breaker, its words below it and clear of what stands beside."""
    kind: Kind = "breaker" if circuit.protection == "breaker" else "fuse"
    bare = circuit.protection == "none" or circuit.fuse_with is not None
    if not bare:
        drawing.shapes.append(Shape(kind, x, y - 1.7, FUSE_W, 3.4, ink_of(circuit), circuit.number))
    at = x if anchor == "start" else x + FUSE_W
    drawing.labels.append(
        Label(at, y + RETURN + 3.4, fuse_text(circuit), SMALL, anchor, circuit.number,
              bold=circuit.protection == "none")
    )  # fmt: skip


def _source_row(
    drawing: Schematic, board: Board, circuits: list[Circuit], y: float, ready: bool
) -> None:
    first = circuits[0]
    into = MINUS_X if not ready else PLUS_X
    if first.need.role == "charge":
        _box(drawing, first, CHARGER_X, CHARGER_W, y, *_two_lines(first.need.begins))
        _to_bar(drawing, board, first, CHARGER_X + CHARGER_W, y, into)
        return
    name = {"panel": "panels", "feed": "starter battery", "second": "second battery"}
    _box(drawing, first, SOURCE_X, SOURCE_W, y, name[first.need.role], *_strings(first))
    gap = SOURCE_X + SOURCE_W + 2.0
    # A starter's and a second battery's fuse sits at that battery; a panel's breaker at the box.
    at_source = first.need.role != "panel"
    _mark(drawing, board, first, gap + FUSE_W + 1.6 if at_source else gap, y)
    direct = first.need.ends == BAR or ready
    end = CHARGER_X if not direct else (PLUS_X if not ready else PLUS_X - 10)
    _plus(drawing, first, (SOURCE_X + SOURCE_W, y), (end, y))
    if at_source:
        _protect(drawing, first, gap + 1.0, y)
    else:
        _protect(drawing, first, CHARGER_X - FUSE_W - 2.0, y, "end")
    if direct:
        _minus_home(drawing, first, SOURCE_X + SOURCE_W, y, into if not ready else end)
        if not ready:
            _dot(drawing, PLUS_X, y, ink_of(first), first.number)
            if first.fuses > 1:
                drawing.shapes.append(
                    Shape("fuse", PLUS_X - FUSE_W - 2.2, y - 1.7, FUSE_W, 3.4, ink_of(first),
                          first.number)
                )  # fmt: skip
        return
    _minus(drawing, first, (SOURCE_X + SOURCE_W, y + RETURN), (CHARGER_X, y + RETURN))
    charge = circuits[1] if len(circuits) > 1 else first
    rows = 1
    if first.need.ends == COMBINED:
        if charge is first:
            # Its charger's box was drawn with the first input and reaches down to here.
            return
        rows = sum(c.need.ends == COMBINED for c in board.circuits)
    box = charge.need.begins if charge is not first else first.need.ends
    _box(drawing, charge, CHARGER_X, CHARGER_W, y, *_two_lines(box), rows=rows)
    if charge is not first:
        _to_bar(drawing, board, charge, CHARGER_X + CHARGER_W, y, into)


def _to_bar(
    drawing: Schematic, board: Board, circuit: Circuit, x: float, y: float, into: float
) -> None:
    _mark(drawing, board, circuit, x + 1.0, y)
    _plus(drawing, circuit, (x, y), (PLUS_X, y))
    _protect(drawing, circuit, PLUS_X - FUSE_W - 2.2, y, "end")
    _dot(drawing, PLUS_X, y, ink_of(circuit), circuit.number)
    _minus_home(drawing, circuit, x, y, into)


def _minus_home(drawing: Schematic, circuit: Circuit, x: float, y: float, into: float) -> None:
    """A negative to the bar, or past the shunt."""
    if circuit.returns == "battery_side":
        foot = drawing.height - BATTERY_H - 22.0
        shunt_y = foot + 8.0 + BATTERY_H - 6.0
        past = (BATTERY_X + BATTERY_W + 5.0, shunt_y)
        drawing.wires.append(
            Wire(((x, y + RETURN), (PAST_X, y + RETURN), (PAST_X, shunt_y + 7.0),
                  (past[0], shunt_y + 7.0), past), "danger", circuit.number, negative=True)
        )  # fmt: skip
        _dot(drawing, past[0], past[1], "danger", circuit.number)
        return
    _minus(drawing, circuit, (x, y + RETURN), (into, y + RETURN))
    if into == MINUS_X:
        _dot(drawing, MINUS_X, y + RETURN, "negative", circuit.number)


def _use_row(drawing: Schematic, board: Board, circuit: Circuit, y: float) -> None:
    _plus(drawing, circuit, (PLUS_X, y), (USE_X, y))
    _dot(drawing, PLUS_X, y, ink_of(circuit), circuit.number)
    _protect(drawing, circuit, FUSE_X, y)
    _mark(drawing, board, circuit, FUSE_X + FUSE_W + 3.0, y)
    _box(drawing, circuit, USE_X, USE_W, y, *_two_lines(circuit.need.name, 24))
    _minus_home(drawing, circuit, USE_X, y, MINUS_X)


def _bars(drawing: Schematic, foot: float) -> None:
    height = foot - TOP + 1.0
    drawing.shapes.append(Shape("bar", PLUS_X - 1.2, TOP - 2.0, 2.4, height, "danger"))
    drawing.shapes.append(Shape("bar", MINUS_X - 1.2, TOP - 2.0, 2.4, height, "negative"))
    drawing.labels.append(Label(PLUS_X, TOP - 4.0, "+", TITLE, "middle", bold=True))
    drawing.labels.append(Label(MINUS_X, TOP - 4.0, "−", TITLE, "middle", bold=True))


def _battery(drawing: Schematic, run: Run, board: Board, foot: float) -> None:
    main = board.of("battery")
    assert main is not None
    bank, top, right = run.case.bank, foot + 8.0, BATTERY_X + BATTERY_W
    plus_y, minus_y = top + 6.0, top + BATTERY_H - 6.0
    drawing.shapes.append(
        Shape("battery", BATTERY_X, top, BATTERY_W, BATTERY_H, "level", main.number,
              (bank.chemistry.name, f"{bank.capacity_ah:g} Ah, {bank.nominal_v:.1f} V",
               *_joined(bank)))
    )  # fmt: skip
    _plus(drawing, main, (right, plus_y), (PLUS_X, plus_y), (PLUS_X, foot - 1.0))
    kind: Kind = "breaker" if main.protection == "breaker" else "fuse"
    if main.protection != "none":
        drawing.shapes.append(
            Shape(kind, right + 3.0, plus_y - 1.7, FUSE_W, 3.4, "level", main.number)
        )
    drawing.labels.append(Label(right + 3.0, plus_y + 5.0, fuse_text(main), circuit=main.number))
    _mark(drawing, board, main, right + FUSE_W + 6.0, plus_y)
    if main.disconnect:
        drawing.shapes.append(
            Shape("switch", right + 46.0, plus_y - 1.7, FUSE_W, 3.4, "level", main.number)
        )
        drawing.labels.append(
            Label(right + 46.0 + FUSE_W / 2, plus_y + 5.0, "isolator", SMALL, "middle", main.number)
        )
    _minus(drawing, main, (right, minus_y), (MINUS_X, minus_y), (MINUS_X, foot - 1.0))
    if board.wiring.shunt:
        drawing.shapes.append(
            Shape("shunt", right + 16.0, minus_y - 2.6, 18.0, 5.2, "negative", main.number,
                  ("shunt",))
        )  # fmt: skip
        drawing.labels.append(Label(right + 1.5, minus_y + 6.0, "battery side"))
        drawing.labels.append(Label(right + 36.0, minus_y + 6.0, "load side"))


def _joined(bank: Bank) -> tuple[str, ...]:
    """How several batteries make the bank."""
    words = []
    if bank.series > 1:
        words.append(f"{bank.series} in series")
    if bank.parallel > 1:
        words.append(f"{bank.parallel} in parallel")
    return (", ".join(words),) if words else ()


def _unit(drawing: Schematic, left: list[list[Circuit]]) -> None:
    height = len(left) * PITCH + 4.0
    drawing.shapes.append(
        Shape("battery", PLUS_X - 10.0, TOP - 2.0, 70.0, max(height, 16.0), "level", None,
              ("ready-made unit", "its own protection inside"))
    )  # fmt: skip


def _foot(drawing: Schematic) -> None:
    y = drawing.height - 3.0
    drawing.labels.append(
        Label(SOURCE_X, y, "Off: solar first, then battery. On: battery first, then solar. "
              "Negatives are drawn broken. Local codes and licensed practice come first.")
    )  # fmt: skip


def _two_lines(name: str, most: int = 17) -> tuple[str, ...]:
    """A name broken once at a space or comma, where it is long."""
    if len(name) <= most:
        return (name,)
    cut = name.rfind(" ", 0, most + 1)
    if cut <= 0:
        return (name[: most - 1] + "…",)
    rest = name[cut + 1 :]
    return name[:cut], rest if len(rest) <= most else rest[: most - 1] + "…"
