"""Drawings on paper: the schematic, and the box in plan and side view."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

from reportlab.lib.colors import HexColor, white
from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from oddkettle.core.construction.enclosure.bodies import Enclosure
from oddkettle.core.construction.enclosure.standing import Fit
from oddkettle.core.construction.schematic.figures import (
    INSIDE,
    LINE,
    Label,
    Shape,
    Sheet,
    Wire,
)
from oddkettle.formats.booklet.faces import BOLD, HEAD, TEXT, put
from oddkettle.formats.booklet.page import ASH, INK, SHADE
from oddkettle.formats.schematic_svg import HOLLOW_MM, INKS, STROKES
from oddkettle.text import render

LABEL_MM = 3.2
ON_SHELF_MM, SHELF_MM = 1.0, 25.0
"""What stands higher is on a shelf, which is drawn so much wider than it [mm]."""


class SchematicSheet(Flowable):
    """A sheet of the wiring drawing at full size, or as large as the page allows."""

    def __init__(self, sheet: Sheet, width_mm: float, height_mm: float) -> None:
        super().__init__()
        self.sheet = sheet
        self.share = min(width_mm / sheet.width, height_mm / sheet.height, 1.08)

    def wrap(self, *_: float) -> tuple[float, float]:
        """Size on the page."""
        scale = self.share * mm
        return self.sheet.width * scale, self.sheet.height * scale

    def draw(self) -> None:
        """Draw in millimetres, y downwards as it was laid out; frames and bars lie below wires."""
        pen = self.canv
        pen.saveState()
        pen.scale(self.share * mm, self.share * mm)
        shapes = self.sheet.shapes
        for shape in (
            *(s for s in shapes if s.kind == "frame"),
            *(s for s in shapes if s.kind == "bar"),
        ):
            self._shape(pen, shape)
        for wire in self.sheet.wires:
            self._wire(pen, wire)
        for shape in shapes:
            if shape.kind not in {"frame", "bar"}:
                self._shape(pen, shape)
        for label in self.sheet.labels:
            self._label(pen, label)
        pen.restoreState()

    def _up(self, y: float) -> float:
        return self.sheet.height - y

    def _wire(self, pen: Any, wire: Wire) -> None:
        width, dash = STROKES[wire.sign]
        pen.setDash([float(part) for part in dash.split()] or [])
        for ink, wide in ((HexColor(INKS[wire.ink]), width), (white, HOLLOW_MM)):
            pen.setStrokeColor(ink)
            pen.setLineWidth(wide)
            self._way(pen, wire)
            if wire.sign != "-":
                break
        pen.setDash([])

    def _way(self, pen: Any, wire: Wire) -> None:
        path = pen.beginPath()
        path.moveTo(wire.points[0][0], self._up(wire.points[0][1]))
        for (x0, y0), (x1, y1) in pairwise(wire.points):
            inside = [h for h in wire.hops if y0 == y1 == h.y and min(x0, x1) < h.x < max(x0, x1)]
            back = x1 < x0
            for hop in sorted(inside, key=lambda h: h.x, reverse=back):
                low = self._up(hop.y) - hop.r
                start, turn = (0, 180) if back else (180, -180)
                path.arcTo(hop.x - hop.r, low, hop.x + hop.r, low + 2 * hop.r, start, turn)
            path.lineTo(x1, self._up(y1))
        pen.drawPath(path)

    def _shape(self, pen: Any, shape: Shape) -> None:
        ink = HexColor(INKS[shape.ink])
        x, w, h, low = shape.x, shape.w, shape.h, self._up(shape.y + shape.h)
        middle = low + h / 2
        solid = shape.kind == "dot" or (shape.kind == "bar" and shape.ink != "negative")
        pen.setStrokeColor(ink)
        pen.setFillColor(ink if solid else white)
        pen.setLineWidth(0.5)
        if shape.kind in {"dot", "stud"}:
            pen.circle(x + w / 2, middle, w / 2, stroke=shape.kind == "stud", fill=1)
            return
        if shape.kind == "earth":
            pen.setLineWidth(0.45)
            pen.line(x + w / 2, low + h, x + w / 2, low + 0.6 * h)
            for n, part in enumerate((1.0, 0.6, 0.25)):
                y, half = low + h * (0.6 - 0.25 * n), w / 2 * part
                pen.line(x + w / 2 - half, y, x + w / 2 + half, y)
            return
        if shape.kind in {"breaker", "switch"}:
            pen.rect(x, low, w, h + 1, stroke=0, fill=1)
            pen.setLineWidth(0.75)
            pen.line(x, middle, x + 2.5, middle)
            pen.line(x + 2.5, middle, x + 8.5, middle + 2.6)
            pen.line(x + w - 2.5, middle, x + w, middle)
            if shape.kind == "breaker":
                pen.setLineWidth(0.5)
                pen.line(x + 4, middle + 2.4, x + 5.6, middle - 0.2)
            return
        pen.setLineWidth(0.3 if shape.kind in {"frame", "plug"} else 0.5)
        pen.roundRect(x, low, w, h, 0.6, stroke=1, fill=shape.kind != "frame")
        if shape.kind == "fuse":
            pen.line(x, middle, x + w, middle)
        if shape.kind == "plug":
            pen.setLineWidth(0.5)
            for top in (low + h - 0.9, low + 3.5):
                pen.lines(
                    [(x + 1, top, x + 2.8, top - 1.3), (x + 2.8, top - 1.3, x + 1, top - 2.6)]
                )
        self._inside(pen, shape, x + w / 2, middle)

    def _inside(self, pen: Any, shape: Shape, x: float, middle: float) -> None:
        """The shape's words, centred."""
        pen.setFillColor(INK)
        face = BOLD if shape.kind == "number" else TEXT
        count = len(shape.lines)
        for n, line in enumerate(shape.lines):
            drop = (count - 1) * LINE / 2 - n * LINE
            put(pen, (x, middle + drop - 1.05), render(line), face, INSIDE, "middle")

    def _label(self, pen: Any, label: Label) -> None:
        pen.setFillColor(INK)
        face = BOLD if label.bold else TEXT
        at = (label.x, self._up(label.y))
        put(pen, at, render(label.text), face, label.size, label.anchor)


FIT_HIGH_MM = 215.0
"""What a page leaves for the two views beneath its heading, on either paper [mm]."""


class FitSheet(Flowable):
    """The box in plan and side view, to one scale, parts by number."""

    def __init__(self, enclosure: Enclosure, fits: Fit, width_mm: float) -> None:
        super().__init__()
        self.enclosure, self.fits = enclosure, fits
        views_mm = enclosure.width_mm + enclosure.height_mm
        # An upright case is held by the page's height, a long one by its width.
        self.share = min(
            (width_mm - 4) / enclosure.length_mm,
            (FIT_HIGH_MM - 4 * LABEL_MM - 6) / views_mm,
            1.0,
        )

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
            on_shelf = spot.z_mm > ON_SHELF_MM
            if on_shelf and axis != 1:
                pen.setStrokeColor(INK)
                pen.setLineWidth(0.9)
                left, right = max(x[0] - SHELF_MM, 0.0), min(x[1] + SHELF_MM, box.length_mm)
                pen.line(left * share, base + up[0] * share, right * share, base + up[0] * share)
            pen.setLineWidth(0.3)
            pen.setFillColor(SHADE)
            pen.setStrokeColor(ASH)
            pen.rect(
                x[0] * share,
                base + up[0] * share,
                (x[1] - x[0]) * share,
                (up[1] - up[0]) * share,
                stroke=1,
                fill=1,
            )
            pen.setFillColor(INK)
            pen.setFont(BOLD, LABEL_MM)
            pen.drawString(
                x[0] * share + 1,
                base + up[1] * share - LABEL_MM,
                f"{n} shelf" if on_shelf and axis == 1 else str(n),
            )
