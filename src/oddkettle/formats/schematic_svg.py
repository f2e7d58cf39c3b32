"""The schematic as a picture file that any browser or drawing program opens."""

from __future__ import annotations

from xml.sax.saxutils import escape

from oddkettle.core.construction.schematic import INSIDE, LINE, Label, Schematic, Shape, Wire
from oddkettle.text import render

INKS = {
    "sun": "#a86f00",
    "vehicle": "#b2512b",
    "mains": "#217f78",
    "use": "#6c4674",
    "level": "#4a6b3f",
    "negative": "#1d2329",
    "danger": "#b3261e",
    "ink": "#1d2329",
}
"""Strong enough for paper; each has its dashes too, so that grey print tells them apart."""
DASHES = {"vehicle": "6 1.2", "mains": "2.4 1", "level": "", "sun": "", "use": ""}
NEGATIVE_DASH = "1.6 1.1"
WIRE_MM, NEGATIVE_MM = 0.75, 0.4


def schematic_svg(drawing: Schematic) -> bytes:
    """A standalone SVG in millimetres."""
    parts = [
        '<svg xmlns="http://www.w3.org/2000/svg" '
        f'width="{drawing.width:g}mm" height="{drawing.height:g}mm" '
        f'viewBox="0 0 {drawing.width:g} {drawing.height:g}" '
        "font-family=\"'Atkinson Hyperlegible Next', 'DejaVu Sans', sans-serif\">",
        f"<title>{escape(render(drawing.title))}</title>",
        '<rect width="100%" height="100%" fill="#fff"/>',
        *(_wire(wire) for wire in drawing.wires),
        *(_shape(shape) for shape in drawing.shapes),
        *(_label(label) for label in drawing.labels),
        "</svg>",
    ]
    return "\n".join(parts).encode()


def _wire(wire: Wire) -> str:
    points = " ".join(f"{x:.2f},{y:.2f}" for x, y in wire.points)
    dash = NEGATIVE_DASH if wire.negative else DASHES.get(wire.ink, "")
    dashes = f' stroke-dasharray="{dash}"' if dash else ""
    width = NEGATIVE_MM if wire.negative else WIRE_MM
    return (
        f'<polyline points="{points}" fill="none" stroke="{INKS[wire.ink]}" '
        f'stroke-width="{width}"{dashes}{_data(wire.circuit)}/>'
    )


def _data(circuit: int | None) -> str:
    return "" if circuit is None else f' data-circuit="{circuit}"'


def _shape(shape: Shape) -> str:
    ink = INKS[shape.ink]
    x, y, w, h = shape.x, shape.y, shape.w, shape.h
    line = f'fill="#fff" stroke="{ink}" stroke-width="0.5"'
    middle = y + h / 2
    if shape.kind == "dot":
        return f'<circle cx="{x + w / 2:.2f}" cy="{y + h / 2:.2f}" r="{w / 2}" fill="{ink}"/>'
    if shape.kind == "bar":
        return f'<rect x="{x:.2f}" y="{y:.2f}" width="{w}" height="{h:.2f}" fill="{ink}"/>'
    body = f'<rect x="{x:.2f}" y="{y:.2f}" width="{w:g}" height="{h:g}" rx="0.8" {line}/>'
    if shape.kind == "fuse":
        body += f'<line x1="{x}" y1="{middle}" x2="{x + w}" y2="{middle}" {line}/>'
    if shape.kind in {"breaker", "switch"}:
        # An open blade, hinged at its left.
        body = (
            f'<rect x="{x}" y="{y - 2}" width="{w}" height="{h + 2}" fill="#fff"/>'
            f'<path d="M{x} {middle} h2.5 l6 -3 M{x + w} {middle} h-2.5" fill="none" '
            f'stroke="{ink}" stroke-width="0.75"/>'
            + (f'<path d="M{x + 4} {middle - 2.6} l1.6 3" stroke="{ink}" stroke-width="0.5"/>'
               if shape.kind == "breaker" else "")
        )  # fmt: skip
    return body + _lines(shape)


def _lines(shape: Shape) -> str:
    """The shape's words, centred."""
    count = len(shape.lines)
    top = shape.y + shape.h / 2 - (count - 1) * LINE / 2 + 1.05
    weight = ' font-weight="700"' if shape.kind == "number" else ""
    return "".join(
        f'<text x="{shape.x + shape.w / 2:.2f}" y="{top + n * LINE:.2f}" font-size="{INSIDE}" '
        f'text-anchor="middle" fill="#1d2329"{weight}>{escape(render(line))}</text>'
        for n, line in enumerate(shape.lines)
    )


def _label(label: Label) -> str:
    weight = ' font-weight="700"' if label.bold else ""
    text = escape(render(label.text))
    return (
        f'<text x="{label.x:.2f}" y="{label.y:.2f}" font-size="{label.size}" '
        f'text-anchor="{label.anchor}" fill="#1d2329"{weight}>{text}</text>'
    )
