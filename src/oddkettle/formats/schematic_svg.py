"""The wiring drawing as a picture file that any browser or drawing program opens."""

from __future__ import annotations

import re
from collections.abc import Iterable
from itertools import pairwise
from xml.sax.saxutils import escape

from oddkettle.core.construction.schematic.figures import (
    INSIDE,
    LINE,
    Label,
    Shape,
    Sheet,
    Sign,
    Wire,
)
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
"""Strong enough for paper; in grey the kind of line tells what it is."""
STROKES: dict[Sign, tuple[float, str]] = {
    "+": (0.8, ""),
    "-": (1.1, ""),
    "signal": (0.35, "0.4 1"),
    "ac": (0.5, "3 0.8 0.6 0.8"),
}
"""Width [mm] and dashes of a line; a negative is hollow."""
HOLLOW_MM = 0.55
SHEET_GAP_MM = 8.0


NO_XML = re.compile("[^\t\n\r\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")
"""Characters that no XML may hold, however they are written (XML 1.0, section 2.2)."""


def _written(text: str) -> str:
    """A text as XML takes it."""
    return escape(NO_XML.sub("\N{REPLACEMENT CHARACTER}", text))


def schematic_svg(sheets: Iterable[Sheet]) -> bytes:
    """A standalone SVG in millimetres, its sheets one below the other."""
    sheets = tuple(sheets)
    width = max(sheet.width for sheet in sheets)
    height = sum(sheet.height for sheet in sheets) + SHEET_GAP_MM * (len(sheets) - 1)
    parts = [
        '<svg xmlns="http://www.w3.org/2000/svg" '
        f'width="{width:g}mm" height="{height:g}mm" '
        f'viewBox="0 0 {width:g} {height:g}" '
        "font-family=\"'Atkinson Hyperlegible Next', 'DejaVu Sans', sans-serif\">",
        f"<title>{_written(render(sheets[0].title))}</title>",
        '<rect width="100%" height="100%" fill="#fff"/>',
    ]
    down = 0.0
    for sheet in sheets:
        parts += [
            f'<g transform="translate(0 {down:g})">',
            *(_shape(shape) for shape in sheet.shapes if shape.kind == "frame"),
            *(_shape(shape) for shape in sheet.shapes if shape.kind == "bar"),
            *(_wire(wire) for wire in sheet.wires),
            *(_shape(shape) for shape in sheet.shapes if shape.kind not in {"frame", "bar"}),
            *(_label(label) for label in sheet.labels),
            "</g>",
        ]
        down += sheet.height + SHEET_GAP_MM
    parts.append("</svg>")
    return "\n".join(parts).encode()


def wire_path(wire: Wire) -> str:
    """Its way as an SVG path, with a bow over what it crosses."""
    (x, y), *_ = wire.points
    way = [f"M{x:.2f} {y:.2f}"]
    for (x0, y0), (x1, y1) in pairwise(wire.points):
        right = x1 > x0
        inside = [h for h in wire.hops if y0 == y1 == h.y and min(x0, x1) < h.x < max(x0, x1)]
        for hop in sorted(inside, key=lambda h: h.x, reverse=not right):
            before, after = (-hop.r, hop.r) if right else (hop.r, -hop.r)
            way.append(f"L{hop.x + before:.2f} {y0:.2f}")
            way.append(f"A{hop.r} {hop.r} 0 0 {1 if right else 0} {hop.x + after:.2f} {y0:.2f}")
        way.append(f"L{x1:.2f} {y1:.2f}")
    return "".join(way)


def _wire(wire: Wire) -> str:
    width, dash = STROKES[wire.sign]
    way, data = wire_path(wire), _data(wire.circuit)
    dashes = f' stroke-dasharray="{dash}"' if dash else ""
    line = (
        f'<path d="{way}" fill="none" stroke="{INKS[wire.ink]}" '
        f'stroke-width="{width}"{dashes}{data}/>'
    )
    if wire.sign == "-":
        line += f'<path d="{way}" fill="none" stroke="#fff" stroke-width="{HOLLOW_MM}"/>'
    return line


def _data(circuit: int | None) -> str:
    return "" if circuit is None else f' data-circuit="{circuit}"'


def _shape(shape: Shape) -> str:
    ink = INKS[shape.ink]
    x, y, w, h = shape.x, shape.y, shape.w, shape.h
    line = f'fill="#fff" stroke="{ink}" stroke-width="0.5"'
    middle = y + h / 2
    if shape.kind == "dot":
        return f'<circle cx="{x + w / 2:.2f}" cy="{middle:.2f}" r="{w / 2}" fill="{ink}"/>'
    if shape.kind == "stud":
        return f'<circle cx="{x + w / 2:.2f}" cy="{middle:.2f}" r="{w / 2}" {line}/>'
    if shape.kind == "bar":
        hollow = shape.ink == "negative"
        fill = "#fff" if hollow else ink
        return (
            f'<rect x="{x:.2f}" y="{y:.2f}" width="{w}" height="{h:.2f}" fill="{fill}" '
            f'stroke="{ink}" stroke-width="0.5"/>'
        )
    if shape.kind == "frame":
        return (
            f'<rect x="{x:.2f}" y="{y:.2f}" width="{w:.2f}" height="{h:.2f}" rx="1.5" fill="none" '
            f'stroke="{ink}" stroke-width="0.3"/>'
        )
    if shape.kind == "earth":
        return _earth(x, y, w, h, ink)
    body = f'<rect x="{x:.2f}" y="{y:.2f}" width="{w:g}" height="{h:g}" rx="0.8" {line}/>'
    if shape.kind == "fuse":
        body += f'<line x1="{x}" y1="{middle}" x2="{x + w}" y2="{middle}" {line}/>'
    if shape.kind == "plug":
        body = (
            f'<rect x="{x}" y="{y}" width="{w}" height="{h}" fill="#fff" stroke="{ink}" '
            f'stroke-width="0.3"/><path d="M{x + 1} {y + 0.9} l1.8 1.3 l-1.8 1.3 '
            f'M{x + 1} {y + h - 3.5} l1.8 1.3 l-1.8 1.3" fill="none" stroke="{ink}" '
            'stroke-width="0.5"/>'
        )
    if shape.kind in {"breaker", "switch"}:
        # An open blade, hinged at its left.
        body = (
            f'<rect x="{x}" y="{y - 1}" width="{w}" height="{h + 1}" fill="#fff"/>'
            f'<path d="M{x} {middle} h2.5 l6 -2.6 M{x + w} {middle} h-2.5" fill="none" '
            f'stroke="{ink}" stroke-width="0.75"/>'
            + (
                f'<path d="M{x + 4} {middle - 2.4} l1.6 2.6" stroke="{ink}" stroke-width="0.5"/>'
                if shape.kind == "breaker"
                else ""
            )
        )
    return body + _lines(shape)


def _earth(x: float, y: float, w: float, h: float, ink: str) -> str:
    """A stem and three strokes, each shorter than the one above."""
    middle = x + w / 2
    strokes = "".join(
        f"M{middle - w / 2 * part:.2f} {y + h * (0.4 + 0.25 * n):.2f} h{w * part:.2f}"
        for n, part in enumerate((1.0, 0.6, 0.25))
    )
    return (
        f'<path d="M{middle:.2f} {y:.2f} v{h * 0.4:.2f}{strokes}" fill="none" stroke="{ink}" '
        'stroke-width="0.45"/>'
    )


def _lines(shape: Shape) -> str:
    """The shape's words, centred."""
    count = len(shape.lines)
    top = shape.y + shape.h / 2 - (count - 1) * LINE / 2 + 1.05
    weight = ' font-weight="700"' if shape.kind == "number" else ""
    return "".join(
        f'<text x="{shape.x + shape.w / 2:.2f}" y="{top + n * LINE:.2f}" font-size="{INSIDE}" '
        f'text-anchor="middle" fill="#1d2329"{weight}>{_written(render(line))}</text>'
        for n, line in enumerate(shape.lines)
    )


def _label(label: Label) -> str:
    weight = ' font-weight="700"' if label.bold else ""
    text = _written(render(label.text))
    return (
        f'<text x="{label.x:.2f}" y="{label.y:.2f}" font-size="{label.size:g}" '
        f'text-anchor="{label.anchor}" fill="#1d2329"{weight}>{text}</text>'
    )
