"""The schematic as SVG: well formed, in millimetres, with every circuit marked."""

from __future__ import annotations

from xml.etree import ElementTree

from oddkettle.core.construction.schematic.drawing import draw_schematic
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.formats.schematic_svg import INKS, SHEET_GAP_MM, STROKES, schematic_svg
from tests.core.construction.boxes import full_case, ran

SVG = "{http://www.w3.org/2000/svg}"


def root(title: str = "A box") -> ElementTree.Element:
    run = ran(full_case())
    return ElementTree.fromstring(schematic_svg(draw_schematic(run, board_of(run), title)))


def test_it_is_as_large_as_it_was_laid_out() -> None:
    svg = root()
    run = ran(full_case())
    sheets = draw_schematic(run, board_of(run), "A box")
    tall = sum(sheet.height for sheet in sheets) + SHEET_GAP_MM * (len(sheets) - 1)
    assert svg.get("width") == f"{sheets[0].width:g}mm"
    assert svg.get("viewBox") == f"0 0 {sheets[0].width:g} {tall:g}"


def test_every_wire_names_its_circuit() -> None:
    marked = {line.get("data-circuit") for line in root().iter(f"{SVG}path")}
    assert marked - {None} == {str(c.number) for c in board_of(ran(full_case())).circuits}


def test_words_that_look_like_markup_stay_words() -> None:
    title = root("Tea <hot> & sweet").find(f"{SVG}title")
    assert title is not None
    assert title.text.startswith("Tea <hot> & sweet")


def test_kinds_of_line_differ_in_their_stroke_and_not_in_colour_alone() -> None:
    assert len(set(STROKES.values())) == len(STROKES)
    hollow = [p for p in root().iter(f"{SVG}path") if p.get("stroke") == "#fff"]
    negatives = [
        w
        for s in draw_schematic(ran(full_case()), board_of(ran(full_case())), "A box")
        for w in s.wires
        if w.sign == "-"
    ]
    assert len(hollow) == len(negatives)
    assert len({INKS[ink] for ink in ("sun", "vehicle", "mains", "use")}) == 4


def test_nothing_is_fetched_from_elsewhere() -> None:
    run = ran(full_case())
    text = schematic_svg(draw_schematic(run, board_of(run), "A box")).decode()
    assert "href" not in text
    assert text.count("http") == 1  # the name of SVG itself
