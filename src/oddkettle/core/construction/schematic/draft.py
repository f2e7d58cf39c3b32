"""A sheet while it is drawn: wires, symbols and words of circuits at their usual places."""

from __future__ import annotations

from oddkettle.core.construction.schematic.figures import (
    SMALL,
    TITLE,
    Anchor,
    Ink,
    Kind,
    Label,
    Point,
    Shape,
    Sheet,
    Sign,
    Wire,
)
from oddkettle.core.construction.wiring.cable import size_text
from oddkettle.core.construction.wiring.circuits import Board, Circuit, Role
from oddkettle.core.simulation.own_wiring import Family

PITCH, RETURN = 12.6, 6.6
"""From row to row, and how far a negative runs below its positive."""
FUSE_W, TOP = 9.5, 19.0
HIGH, LOW = 3.2, 1.3
"""What a box reaches above its positive and below its negative."""
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
    "converter": "use",
    "low": "use",
    "outlet": "use",
    "usb": "use",
    "heater": "use",
    "sense": "level",
}
LEGEND: tuple[tuple[Sign, str], ...] = (
    ("+", "positive"),
    ("-", "negative"),
    ("signal", "signal"),
    ("ac", "mains"),
)
FOOT = "A bow leaps over; a dot joins. Local codes and licensed practice come first."


def ink_of(circuit: Circuit) -> Ink:
    """A charger's output keeps its source's colour."""
    group = circuit.need.part.partition(":")[0]
    if group in {"sun", "vehicle", "mains"} and circuit.need.role in {"panel", "feed", "charge"}:
        return {"sun": "sun", "vehicle": "vehicle", "mains": "mains"}[group]  # type: ignore[return-value]
    return "level" if group == "joining" else INKS[circuit.need.role]


def fuse_words(circuit: Circuit) -> str:
    """What protects it, in a few letters."""
    if circuit.fuse_with is not None:
        return ""
    if circuit.protection == "none" or circuit.family is None:
        return "NO FUSE"
    size = "?" if circuit.fuse_a is None else f"{circuit.fuse_a:g}"
    return f"{size} A {SHORT[circuit.family]}"


def post_words(circuit: Circuit) -> str:
    """What protects each battery of a bank in parallel."""
    if circuit.post_family is None:
        return "NO FUSE"
    return f"{circuit.post_fuse_a:g} A {SHORT[circuit.post_family]}"


def brief(text: str, most: int) -> str:
    """A text cut at a space, where it is longer than `most` letters."""
    if len(text) <= most:
        return text
    cut = text.rfind(" ", 0, most)
    return (text[:cut] if cut > most // 2 else text[: most - 1]).rstrip(",") + "…"


def two_lines(name: str, most: int) -> tuple[str, ...]:
    """A name broken once at a space, where it is long."""
    if len(name) <= most:
        return (name,)
    cut = name.rfind(" ", 0, most + 1)
    if cut <= 0:
        return (brief(name, most),)
    return name[:cut], brief(name[cut + 1 :], most)


class Draft:
    """A sheet that grows row by row."""

    def __init__(self, board: Board, title: str) -> None:
        self.board = board
        self.sheet = Sheet(title)
        self.label(2.0, 8.0, title, TITLE, bold=True)

    def label(
        self,
        x: float,
        y: float,
        text: str,
        size: float = SMALL,
        anchor: Anchor = "start",
        circuit: int | None = None,
        *,
        bold: bool = False,
    ) -> None:
        """Put words down."""
        if text:
            self.sheet.labels.append(Label(x, y, text, size, anchor, circuit, bold))

    def shape(
        self,
        kind: Kind,
        at: tuple[float, float, float, float],
        ink: Ink,
        circuit: int | None = None,
        lines: tuple[str, ...] = (),
        net: str = "",
    ) -> None:
        """Put a symbol down; `at` is x, y, width and height."""
        self.sheet.shapes.append(Shape(kind, *at, ink, circuit, lines, net))

    def plus(self, circuit: Circuit, *points: Point, net: str = "") -> None:
        """A positive conductor."""
        self.sheet.wires.append(
            Wire(points, ink_of(circuit), "+", net or f"+{circuit.key}", circuit.number)
        )

    def minus(
        self, circuit: Circuit, *points: Point, net: str = "-", ink: Ink = "negative"
    ) -> None:
        """A negative conductor: all of them are one, but for what goes past a shunt."""
        self.sheet.wires.append(Wire(points, ink, "-", net, circuit.number))

    def line(self, sign: Sign, net: str, *points: Point, ink: Ink = "ink") -> None:
        """A signal or mains line, which is nobody's circuit."""
        self.sheet.wires.append(Wire(points, ink, sign, net))

    def dot(self, x: float, y: float, ink: Ink, circuit: int) -> None:
        """Where conductors join."""
        self.shape("dot", (x - 1.0, y - 1.0, 2.0, 2.0), ink, circuit)

    def box(
        self, circuit: Circuit, x: float, w: float, y: float, *lines: str, below: float = 0.0
    ) -> None:
        """A device that a row's positive and negative enter; `below` adds rows to it [mm]."""
        self.shape(
            "box",
            (x, y - HIGH, w, HIGH + RETURN + LOW + below),
            ink_of(circuit),
            circuit.number,
            lines,
        )

    def tag(self, circuit: Circuit, x: float, y: float) -> None:
        """The circuit's number and its cable, above its wire."""
        number = (x, y - 5.0, 4.8 if circuit.number < 100 else 6.4, 4.0)
        self.shape("number", number, ink_of(circuit), circuit.number, (str(circuit.number),))
        area = circuit.cable_mm2
        size = "no size" if area is None else size_text(area, self.board.wiring.series)
        self.label(x + 5.6, y - 1.6, f"{size}, {circuit.run_m:g} m", circuit=circuit.number)

    def protect(
        self,
        circuit: Circuit,
        x: float,
        y: float,
        *,
        words: str | None = None,
        poles: int = 1,
        at_start: bool = False,
    ) -> None:
        """Its fuse or breaker on its wire, with its words below it."""
        said = fuse_words(circuit) if words is None else words
        drawn = circuit.protection != "none" and circuit.fuse_with is None
        if drawn:
            kind: Kind = "breaker" if circuit.protection == "breaker" else "fuse"
            for pole in range(poles):
                at = (x, y - 1.7 + pole * RETURN, FUSE_W, 3.4)
                self.shape(kind, at, ink_of(circuit) if pole == 0 else "negative", circuit.number)
        self.label(
            x if at_start else x + FUSE_W / 2,
            y + (4.7 if poles == 1 else 3.8),
            said,
            SMALL,
            "start" if at_start else "middle",
            circuit.number,
            bold=said == "NO FUSE",
        )

    def plug(self, circuit: Circuit, x: float, y: float) -> None:
        """A two-pole plug and its inlet, where the wires pass the wall."""
        self.shape("plug", (x, y - 2.2, 4.0, RETURN + 4.4), ink_of(circuit), circuit.number)

    def bars(self, plus_x: float, minus_x: float, low: float) -> None:
        """Both bars, from the first row down to `low`."""
        for x, net, ink, word in ((plus_x, "bar", "danger", "+"), (minus_x, "-", "negative", "−")):
            at = (x - 1.2, TOP - 4.0, 2.4, low - TOP + 4.0)
            self.shape("bar", at, ink, None, (), net)  # type: ignore[arg-type]
            self.label(x, TOP - 5.6, word, TITLE, "middle", bold=True)

    def done(self, *notes: str) -> Sheet:
        """The finished sheet, with its legend and notes at its foot."""
        sheet = self.sheet
        low = max(
            max((shape.y + shape.h for shape in sheet.shapes), default=0.0),
            max((y for wire in sheet.wires for _, y in wire.points), default=0.0),
            max((label.y for label in sheet.labels), default=0.0),
        )
        sheet.height = low + 8.0 + 4.2 * len(notes)
        y = sheet.height - 2.0
        for n, note in enumerate(notes):
            self.label(2.0, y - 4.2 * (len(notes) - n), note)
        x = 2.0
        for sign, word in LEGEND:
            self.line(sign, f"legend {word}", (x, y - 1.0), (x + 9.0, y - 1.0))
            self.label(x + 10.0, y, word)
            x += 29.0
        self.label(x + 2.0, y, FOOT)
        sheet.hop()
        return sheet
