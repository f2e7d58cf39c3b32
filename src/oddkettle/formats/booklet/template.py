"""The drilling template: every face at 1:1 on tiles of paper, with a bar to check the printer."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil
from typing import Any

from reportlab.lib.pagesizes import landscape
from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from oddkettle.core.construction.enclosure.face_plan import FaceName, FacePlan, Mounted
from oddkettle.formats.booklet.faces import BOLD, HEAD, TEXT, put
from oddkettle.formats.booklet.page import ASH, INK, PAPERS, Paper

EDGE_MM, FOOT_MM, SPARE_MM = 10.0, 24.0, 2.0
"""What no printer reaches, room for the bar, and what two sheets share beyond the largest hole."""
BAR_MM = 100.0
CROSS_MM = 5.0
"""How far the cross reaches beyond its hole."""


@dataclass(frozen=True)
class Tiling:
    """How a face is cut into sheets: columns, rows, the part of the face on each [mm].

    Neighbours overlap by more than the largest hole, so that every hole is whole on some sheet.
    """

    wide: bool
    columns: int
    rows: int
    tile: tuple[float, float]
    overlap_mm: float

    @property
    def sheets(self) -> int:
        """Sheets in all."""
        return self.columns * self.rows


def tiling(size: tuple[float, float], paper: Paper, largest_mm: float = 0.0) -> Tiling:
    """The way of laying the paper that needs the fewest sheets; `largest_mm` is of the holes."""
    overlap = largest_mm + SPARE_MM
    found = [_tiles(size, paper, overlap, wide=wide) for wide in (False, True)]
    return min(found, key=lambda tiles: tiles.sheets)


def _tiles(size: tuple[float, float], paper: Paper, overlap: float, *, wide: bool) -> Tiling:
    page = landscape(PAPERS[paper]) if wide else PAPERS[paper]
    tile = (page[0] / mm - 2 * EDGE_MM, page[1] / mm - EDGE_MM - FOOT_MM)

    def count(side: float, part: float) -> int:
        return max(ceil((side - overlap) / (part - overlap)), 1)

    return Tiling(wide, count(size[0], tile[0]), count(size[1], tile[1]), tile, overlap)


Sheet = tuple[str, list[Flowable]]


def template_sheets(faces: FacePlan, paper: Paper, title: str) -> list[Sheet]:
    """Sheets of every face that has something on it."""
    found: list[Sheet] = []
    for face, size in faces.sizes.items():
        items = [m for m in faces.mounted if m.face == face]
        if not items:
            continue
        tiles = tiling(size, paper, max(item.fitting.hole_mm for item in items))
        for row in range(tiles.rows):
            for column in range(tiles.columns):
                sheet = TileSheet(face, size, items, tiles, (column, row), paper, title)
                if not any(sheet.shows(item) for item in items):
                    # Nothing is drilled there, and each sheet says where its corner lies.
                    continue
                found.append(("bare-wide" if tiles.wide else "bare", [sheet]))
    return found


class TileSheet(Flowable):
    """One sheet of one face. Nothing on it is scaled."""

    def __init__(
        self,
        face: FaceName,
        size: tuple[float, float],
        items: list[Mounted],
        tiles: Tiling,
        at: tuple[int, int],
        paper: Paper,
        title: str,
    ) -> None:
        super().__init__()
        self.face, self.size, self.items = face, size, items
        self.tiles, self.at, self.title = tiles, at, title
        self.page = landscape(PAPERS[paper]) if tiles.wide else PAPERS[paper]

    def wrap(self, *_: float) -> tuple[float, float]:
        """The whole page."""
        return self.page[0], self.page[1] - 0.1

    @property
    def corner(self) -> tuple[float, float]:
        """Where the sheet's lower left corner lies on the face [mm]."""
        return (
            self.at[0] * (self.tiles.tile[0] - self.tiles.overlap_mm),
            self.at[1] * (self.tiles.tile[1] - self.tiles.overlap_mm),
        )

    def shows(self, item: Mounted) -> bool:
        """Whether a fitting's whole hole is on this sheet."""
        radius = item.fitting.hole_mm / 2
        return all(
            low - 1e-6 <= at - radius and at + radius <= low + side + 1e-6
            for at, low, side in zip(
                (item.x_mm, item.y_mm), self.corner, self.tiles.tile, strict=True
            )
        )

    def draw(self) -> None:
        """The face behind a window, then the bar and the words outside it."""
        pen = self.canv
        width, height = self.tiles.tile
        left, low = self.corner
        pen.saveState()
        pen.translate(EDGE_MM * mm, FOOT_MM * mm)
        path = pen.beginPath()
        path.rect(0, 0, width * mm, height * mm)
        pen.clipPath(path, stroke=0, fill=0)
        pen.setStrokeColor(INK)
        pen.setLineWidth(0.8)
        pen.rect(-left * mm, -low * mm, self.size[0] * mm, self.size[1] * mm)
        for item in self.items:
            self._hole(pen, item, left, low)
        pen.restoreState()
        self._glue(pen, width, height)
        self._bar(pen)

    def _hole(self, pen: Any, item: Mounted, left: float, low: float) -> None:
        x, y = item.x_mm - left, item.y_mm - low
        fitting = item.fitting
        radius, arm = fitting.hole_mm / 2, fitting.hole_mm / 2 + CROSS_MM
        if not (-arm < x < self.tiles.tile[0] + arm and -arm < y < self.tiles.tile[1] + arm):
            return
        pen.setLineWidth(0.5)
        pen.setStrokeColor(INK)
        pen.circle(x * mm, y * mm, radius * mm, stroke=1, fill=0)
        pen.line((x - arm) * mm, y * mm, (x + arm) * mm, y * mm)
        pen.line(x * mm, (y - arm) * mm, x * mm, (y + arm) * mm)
        pen.setStrokeColor(ASH)
        pen.setDash([2, 2])
        pen.circle(x * mm, y * mm, fitting.flange_mm / 2 * mm, stroke=1, fill=0)
        pen.setDash([])
        pen.setFillColor(INK)
        pen.setFont(BOLD, 7)
        pen.drawCentredString(x * mm, (y - arm - 3) * mm, f"{fitting.hole_mm:g} mm")
        pen.setFont(TEXT, 5.5)
        number = "" if fitting.circuit is None else f"{fitting.circuit} "
        name = fitting.name if len(fitting.name) < 22 else fitting.name[:21] + "…"
        put(pen, (x * mm, (y - arm - 5.6) * mm), f"{number}{name}", TEXT, 5.5, "middle")
        pen.setFont(TEXT, 5.5)
        pen.drawCentredString(x * mm, (y - arm - 8) * mm, f"x {item.x_mm:g}, y {item.y_mm:g}")

    def _glue(self, pen: Any, width: float, height: float) -> None:
        """Ticks where the next sheet lies over this one."""
        pen.setStrokeColor(ASH)
        pen.setLineWidth(0.4)
        for x in (EDGE_MM, EDGE_MM + width):
            for y in (FOOT_MM, FOOT_MM + height):
                pen.line((x - 3) * mm, y * mm, (x + 3) * mm, y * mm)
                pen.line(x * mm, (y - 3) * mm, x * mm, (y + 3) * mm)

    def _bar(self, pen: Any) -> None:
        column, row = self.at
        left, low = self.corner
        pen.setStrokeColor(INK)
        pen.setFillColor(INK)
        pen.setLineWidth(1.0)
        y = 9.0
        pen.line(EDGE_MM * mm, y * mm, (EDGE_MM + BAR_MM) * mm, y * mm)
        for tick in range(11):
            tall = 2.5 if tick % 5 == 0 else 1.4
            x = (EDGE_MM + 10 * tick) * mm
            pen.line(x, y * mm, x, (y + tall) * mm)
        pen.setFont(TEXT, 7)
        text = "This bar is 100 mm. Measure it before you drill; print at 100 %, not fitted."
        pen.drawString(EDGE_MM * mm, (y - 3.6) * mm, text)
        measures = f"{self.size[0]:.0f} x {self.size[1]:.0f} mm"
        text = f"{self.title}: {self.face}, from outside, {measures}"
        put(pen, (EDGE_MM * mm, (y + 5.5) * mm), text, HEAD, 9)
        pen.setFont(TEXT, 7)
        pen.drawRightString(
            self.page[0] - EDGE_MM * mm,
            (y - 3.6) * mm,
            f"sheet {row * self.tiles.columns + column + 1} of {self.tiles.sheets}: its window's "
            f"lower left corner lies {left:.0f} mm from the left and {low:.0f} mm from below",
        )
