"""The schematic as SVG: well formed, in millimetres, with every circuit marked."""

from __future__ import annotations

from xml.etree import ElementTree

from oddkettle.core.construction.schematic import draw_schematic
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.formats.schematic_svg import DASHES, INKS, schematic_svg
from tests.core.construction.boxes import full_case, ran

SVG = "{http://www.w3.org/2000/svg}"


def root(title: str = "A box") -> ElementTree.Element:
    run = ran(full_case())
    return ElementTree.fromstring(schematic_svg(draw_schematic(run, board_of(run), title)))


def test_it_is_as_large_as_it_was_laid_out() -> None:
    svg = root()
    run = ran(full_case())
    drawing = draw_schematic(run, board_of(run), "A box")
    assert svg.get("width") == f"{drawing.width:g}mm"
    assert svg.get("viewBox") == f"0 0 {drawing.width:g} {drawing.height:g}"


def test_every_wire_names_its_circuit() -> None:
    marked = {line.get("data-circuit") for line in root().iter(f"{SVG}polyline")}
    assert marked == {str(c.number) for c in board_of(ran(full_case())).circuits}


def test_words_that_look_like_markup_stay_words() -> None:
    title = root("Tea <hot> & sweet").find(f"{SVG}title")
    assert title is not None
    assert title.text == "Tea <hot> & sweet"


def test_sources_differ_in_dashes_and_not_in_colour_alone() -> None:
    sources = [DASHES.get(ink, "") for ink in ("sun", "vehicle", "mains")]
    assert len(set(sources)) == 3
    assert len({INKS[ink] for ink in ("sun", "vehicle", "mains", "use")}) == 4


def test_nothing_is_fetched_from_elsewhere() -> None:
    run = ran(full_case())
    text = schematic_svg(draw_schematic(run, board_of(run), "A box")).decode()
    assert "href" not in text
    assert text.count("http") == 1  # the name of SVG itself
