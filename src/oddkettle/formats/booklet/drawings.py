"""Drawings on paper: the schematic, and the box in plan and side view."""

from __future__ import annotations

from typing import Any

from reportlab.lib.colors import HexColor, white
from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from oddkettle.core.construction.enclosure.bodies import Enclosure
from oddkettle.core.construction.enclosure.layout import Fit
from oddkettle.core.construction.schematic import INSIDE, LINE, Label, Schematic, Shape, Wire
from oddkettle.formats.booklet.page import ASH, BOLD, HEAD, INK, SHADE, TEXT
from oddkettle.formats.schematic_svg import (
    DASHES,
    INKS,
    NEGATIVE_DASH,
    NEGATIVE_MM,
    WIRE_MM,
)
from oddkettle.text import render

LABEL_MM = 3.2
ON_SHELF_MM, SHELF_MM = 1.0, 25.0
"""What stands higher is on a shelf, which is drawn so much wider than it [mm]."""


class SchematicSheet(Flowable):
    """The schematic, as large as the page allows."""

    def __init__(self, drawing: Schematic, width_mm: float, height_mm: float) -> None:
        super().__init__()
        self.drawing = drawing
        self.share = min(width_mm / drawing.width, height_mm / drawing.height)

    def wrap(self, *_: float) -> tuple[float, float]:
        """Size on the page."""
        scale = self.share * mm
        return self.drawing.width * scale, self.drawing.height * scale

    def draw(self) -> None:
        """Draw in millimetres, y downwards as it was laid out."""
        pen = self.canv
        pen.saveState()
        pen.scale(self.share * mm, self.share * mm)
        for wire in self.drawing.wires:
            self._wire(pen, wire)
        for shape in self.drawing.shapes:
            self._shape(pen, shape)
        for label in self.drawing.labels:
            self._label(pen, label)
        pen.restoreState()

    def _up(self, y: float) -> float:
        return self.drawing.height - y

    def _wire(self, pen: Any, wire: Wire) -> None:
        pen.setStrokeColor(HexColor(INKS[wire.ink]))
        pen.setLineWidth(NEGATIVE_MM if wire.negative else WIRE_MM)
        dash = NEGATIVE_DASH if wire.negative else DASHES.get(wire.ink, "")
        pen.setDash([float(part) for part in dash.split()] or [])
        path = pen.beginPath()
        (x, y), *rest = wire.points
        path.moveTo(x, self._up(y))
        for x, y in rest:
            path.lineTo(x, self._up(y))
        pen.drawPath(path)
        pen.setDash([])

    def _shape(self, pen: Any, shape: Shape) -> None:
        ink = HexColor(INKS[shape.ink])
        x, w, h, low = shape.x, shape.w, shape.h, self._up(shape.y + shape.h)
        middle = low + h / 2
        pen.setStrokeColor(ink)
        pen.setFillColor(ink if shape.kind in {"dot", "bar"} else white)
        pen.setLineWidth(0.5)
        if shape.kind == "dot":
            pen.circle(x + w / 2, middle, w / 2, stroke=0, fill=1)
            return
        if shape.kind in {"breaker", "switch"}:
            pen.rect(x, low, w, h + 2, stroke=0, fill=1)
            pen.setLineWidth(WIRE_MM)
            pen.line(x, middle, x + 2.5, middle)
            pen.line(x + 2.5, middle, x + 8.5, middle + 3)
            pen.line(x + w - 2.5, middle, x + w, middle)
            if shape.kind == "breaker":
                pen.line(x + 4, middle + 2.6, x + 5.6, middle - 0.4)
            return
        pen.roundRect(x, low, w, h, 0.6, stroke=0 if shape.kind == "bar" else 1, fill=1)
        if shape.kind == "fuse":
            pen.line(x, middle, x + w, middle)
        pen.setFillColor(INK)
        bold = shape.kind == "number"
        pen.setFont(BOLD if bold else TEXT, INSIDE)
        count = len(shape.lines)
        for n, line in enumerate(shape.lines):
            drop = (count - 1) * LINE / 2 - n * LINE
            pen.drawCentredString(x + w / 2, middle + drop - 1.05, render(line))

    def _label(self, pen: Any, label: Label) -> None:
        pen.setFillColor(INK)
        pen.setFont(BOLD if label.bold else TEXT, label.size)
        put = {
            "start": pen.drawString,
            "middle": pen.drawCentredString,
            "end": pen.drawRightString,
        }[label.anchor]
        put(label.x, self._up(label.y), render(label.text))


class FitSheet(Flowable):
    """The box in plan and side view, to one scale, parts by number."""

    def __init__(self, enclosure: Enclosure, fits: Fit, width_mm: float) -> None:
        super().__init__()
        self.enclosure, self.fits = enclosure, fits
        self.share = min((width_mm - 4) / enclosure.length_mm, 1.0)

    def wrap(self, *_: float) -> tuple[float, float]:
        """Size on the page: plan above, side view below."""
        box = self.enclosure
        height = (box.width_mm + box.height_mm) * self.share + 4 * LABEL_MM + 6
        return (box.length_mm * self.share + 4) * mm, height * mm

    def draw(self) -> None:
        """Both views, lengths true to each other."""
        pen, box, share = self.canv, self.enclosure, self.share
        pen.saveState()
        pen.scale(mm, mm)
        self._view(pen, 0.0, box.height_mm, "Side, from the front", 2)
        self._view(pen, box.height_mm * share + 2 * LABEL_MM + 4, box.width_mm, "From above", 1)
        pen.restoreState()

    def _view(self, pen: Any, base: float, tall: float, text: str, axis: int) -> None:
        box, share = self.enclosure, self.share
        pen.setStrokeColor(INK)
        pen.setLineWidth(0.6)
        pen.rect(0, base, box.length_mm * share, tall * share, stroke=1, fill=0)
        pen.setFillColor(INK)
        pen.setFont(HEAD, 3.4)
        pen.drawString(0, base + tall * share + 1.6, f"{text}: {box.length_mm:.0f} x {tall:.0f} mm")
        # What stands higher, or nearer to the front, is drawn over the rest.
        numbered = sorted(
            enumerate(self.fits.standing, start=1),
            key=lambda one: one[1].z_mm if axis == 1 else -one[1].y_mm,
        )
        for n, spot in numbered:
            x, up = spot.span[0], spot.span[axis]
            cached_on_disk = spot.z_mm > ON_SHELF_MM
            if cached_on_disk and axis != 1:
                pen.setStrokeColor(INK)
                pen.setLineWidth(0.9)
                left, right = max(x[0] - SHELF_MM, 0.0), min(x[1] + SHELF_MM, box.length_mm)
                pen.line(left * share, base + up[0] * share, right * share, base + up[0] * share)
            pen.setLineWidth(0.3)
            pen.setFillColor(SHADE)
            pen.setStrokeColor(ASH)
            pen.rect(x[0] * share, base + up[0] * share, (x[1] - x[0]) * share,
                     (up[1] - up[0]) * share, stroke=1, fill=1)  # fmt: skip
            pen.setFillColor(INK)
            pen.setFont(BOLD, LABEL_MM)
            pen.drawString(x[0] * share + 1, base + up[1] * share - LABEL_MM,
                           f"{n} shelf" if cached_on_disk and axis == 1 else str(n))  # fmt: skip
