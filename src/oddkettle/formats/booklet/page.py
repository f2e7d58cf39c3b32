"""The printed page: faces, styles, and the frame that every sheet shares."""

from __future__ import annotations

from collections.abc import Sequence
from io import BytesIO
from typing import Any, Literal

from reportlab.lib.colors import Color, HexColor
from reportlab.lib.enums import TA_RIGHT
from reportlab.lib.pagesizes import A4, LETTER, landscape
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import (
    BaseDocTemplate,
    Flowable,
    Frame,
    PageTemplate,
    Paragraph,
    Table,
    TableStyle,
)

from oddkettle.formats.booklet.faces import BOLD, HEAD, TEXT, load_faces, marked, put
from oddkettle.text import render

Paper = Literal["a4", "letter"]
PAPERS: dict[Paper, tuple[float, float]] = {"a4": A4, "letter": LETTER}
MARGIN_MM, HEAD_MM = 13.0, 9.0
INK, ASH, RULE, DANGER = (HexColor(c) for c in ("#1d2329", "#4d5560", "#9aa0a8", "#b3261e"))
SHADE: Color = HexColor("#eceae4")


def style(size: float = 9.0, *, bold: bool = False, **more: Any) -> ParagraphStyle:
    """A style of the text face."""
    more.setdefault("textColor", INK)
    return ParagraphStyle(
        "odd", fontName=BOLD if bold else TEXT, fontSize=size, leading=1.28 * size, **more
    )


BODY, SMALL, CELL = style(), style(7.6, textColor=ASH), style(7.8)
CELL_BOLD, CELL_RIGHT = style(7.8, bold=True), style(7.8, alignment=TA_RIGHT)
H1 = ParagraphStyle("h1", fontName=HEAD, fontSize=17, leading=21, textColor=INK, spaceAfter=3)
H2 = ParagraphStyle(
    "h2", fontName=HEAD, fontSize=11.5, leading=14, textColor=INK, spaceBefore=7, spaceAfter=3
)
BOXED = style(10.5, bold=True, textColor=DANGER)
DANGER_BOX = TableStyle(
    [
        ("BOX", (0, 0), (-1, -1), 1.8, DANGER),
        ("LINEBELOW", (0, 0), (-1, 0), 0.9, DANGER),
        ("LEFTPADDING", (0, 0), (-1, -1), 6),
        ("RIGHTPADDING", (0, 0), (-1, -1), 6),
    ]
)
"""A heavy frame, so that it stands out on a grey print, too."""
GRID = TableStyle(
    [
        ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ("LINEBELOW", (0, 0), (-1, -1), 0.3, RULE),
        ("LINEBELOW", (0, 0), (-1, 0), 0.9, INK),
        ("BACKGROUND", (0, 0), (-1, 0), SHADE),
        ("LEFTPADDING", (0, 0), (-1, -1), 2.5),
        ("RIGHTPADDING", (0, 0), (-1, -1), 2.5),
        ("TOPPADDING", (0, 0), (-1, -1), 1.6),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 2.2),
    ]
)


def safe(text: str) -> str:
    """Text for a paragraph: its own markup characters taken as they are, any script in its face."""
    return marked(render(text))


def para(text: str, how: ParagraphStyle = BODY) -> Paragraph:
    """A paragraph of plain text."""
    return Paragraph(safe(text), how)


def make_pdf(
    story: list[Flowable], title: str, paper: Paper, printed: str, first: str = "upright"
) -> bytes:
    """A document with its title at the head and page numbers at the foot of every page.

    Page templates are "upright" and "wide", and "bare" and "bare-wide" without margins for 1:1
    sheets; `first` is that of the first page.
    """
    load_faces()
    out = BytesIO()
    size = PAPERS[paper]
    document = BaseDocTemplate(out, pagesize=size, title=title, author="Odd Kettle", lang="en")

    def furnish(canvas: Any, document: Any) -> None:
        width, height = canvas._pagesize
        canvas.setFont(TEXT, 7.5)
        canvas.setFillColor(ASH)
        put(canvas, (MARGIN_MM * mm, height - HEAD_MM * mm), title, TEXT, 7.5)
        canvas.setFont(TEXT, 7.5)
        canvas.drawRightString(width - MARGIN_MM * mm, height - HEAD_MM * mm, printed)
        canvas.drawString(
            MARGIN_MM * mm, 7 * mm, "Local codes and licensed practice come before this booklet."
        )
        canvas.drawRightString(width - MARGIN_MM * mm, 7 * mm, f"page {document.page}")

    def nothing(canvas: Any, document: Any) -> None:
        pass

    templates = {
        "upright": _template("upright", size, MARGIN_MM, furnish),
        "wide": _template("wide", landscape(size), MARGIN_MM, furnish),
        "bare": _template("bare", size, 0.0, nothing),
        "bare-wide": _template("bare-wide", landscape(size), 0.0, nothing),
    }
    # The library begins with the first of its list.
    document.addPageTemplates([templates.pop(first), *templates.values()])
    document.build(story)
    return out.getvalue()


def _template(key: str, size: tuple[float, float], margin: float, furnish: Any) -> PageTemplate:
    edge = margin * mm
    frame = Frame(
        edge,
        edge,
        size[0] - 2 * edge,
        size[1] - 2 * edge,
        leftPadding=0,
        rightPadding=0,
        topPadding=0,
        bottomPadding=0,
    )
    return PageTemplate(key, [frame], onPage=furnish, pagesize=size)


def inner_mm(paper: Paper, *, wide: bool = False) -> tuple[float, float]:
    """Width and height inside the margins [mm]."""
    size = PAPERS[paper]
    width, height = landscape(size) if wide else size
    return width / mm - 2 * MARGIN_MM, height / mm - 2 * MARGIN_MM


def table(heads: Sequence[str], rows: list[list[Any]], widths_mm: Sequence[float]) -> Table:
    """A table whose heads stand again on every page; widths in millimetres."""
    return Table(
        [[para(head, CELL_BOLD) for head in heads], *rows],
        colWidths=[width * mm for width in widths_mm],
        style=GRID,
        repeatRows=1,
        hAlign="LEFT",
    )
