"""The bench booklet read back: its words, its pages, and the template's own geometry."""

from __future__ import annotations

import io
from functools import lru_cache
from typing import Any

import pdfplumber
import pypdfium2
import pytest
from pdfplumber.page import Page

from oddkettle.core.construction.design import Building, OwnBuild, build_up
from oddkettle.core.construction.enclosure.face_plan import FacePlan
from oddkettle.core.judgement.cautions import CAUTIONS, cautions_for
from oddkettle.core.simulation.own_wiring import Choice
from oddkettle.formats.booklet import SECTIONS, Section
from oddkettle.formats.booklet.booklet import print_sections
from oddkettle.formats.booklet.page import Paper, safe
from oddkettle.formats.booklet.template import BAR_MM, EDGE_MM, FOOT_MM, tiling
from oddkettle.plan import Plan
from oddkettle.text import render
from oddkettle.usecases.build.prints import print_document
from oddkettle.usecases.build.work import work_out
from tests.conftest import example
from tests.core.construction.boxes import full_case, ran
from tests.support.tiers import SLOW, sample_boxes

MM = 72.0 / 25.4
TITLE = "A box to measure"
PAPER_MM = {"a4": (210.0, 297.0), "letter": (215.9, 279.4)}


@lru_cache(maxsize=1)
def building() -> Building:
    return build_up(ran(full_case()), OwnBuild(), TITLE)


def printed(paper: Paper, *sections: Section) -> list[Page]:
    data = print_sections(building(), (), TITLE, paper, "printed today", sections or SECTIONS)
    return pdfplumber.open(io.BytesIO(data)).pages


def faces() -> FacePlan:
    found = building().faces
    assert found is not None
    return found


def words(pages: list[Page]) -> str:
    """The words of pages, by the reader that is thirty times quicker than the one for shapes."""
    whole = pypdfium2.PdfDocument(pages[0].pdf.stream)
    texts = [whole[page.page_number - 1].get_textpage().get_text_bounded() for page in pages]
    return " ".join(" ".join(text.split()) for text in texts)


def millimetres(shape: dict[str, Any]) -> tuple[float, float, float, float]:
    """Left, low, right and high edge of a shape from the page's lower left corner."""
    return shape["x0"] / MM, shape["y0"] / MM, shape["x1"] / MM, shape["y1"] / MM


def circles(page: Page) -> list[tuple[float, float, float]]:
    """Middle and diameter of every circle of a page."""
    found = []
    for curve in page.curves:
        left, low, right, high = millimetres(curve)
        if right - left == pytest.approx(high - low, abs=0.01):
            found.append(((left + right) / 2, (low + high) / 2, right - left))
    return found


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_every_hole_is_on_paper_at_its_own_size_and_place(paper: Paper) -> None:
    pages = iter(printed(paper, "template"))
    for face, size in faces().sizes.items():
        items = [m for m in faces().mounted if m.face == face]
        if not items:
            continue
        tiles = tiling(size, paper, max(m.fitting.hole_mm for m in items))
        seen = set()
        for row in range(tiles.rows):
            for column in range(tiles.columns):
                left = column * (tiles.tile[0] - tiles.overlap_mm)
                low = row * (tiles.tile[1] - tiles.overlap_mm)
                whole = [m for m in items if inside(m, left, low, tiles.tile)]
                if not whole:
                    continue
                drawn = circles(next(pages))
                for m in whole:
                    x, y = m.x_mm - left + EDGE_MM, m.y_mm - low + FOOT_MM
                    at = [c for c in drawn if c[:2] == pytest.approx((x, y), abs=0.05)]
                    # Its hole and its flange, each by its own diameter.
                    assert sorted(c[2] for c in at) == pytest.approx(
                        sorted([m.fitting.hole_mm, m.fitting.flange_mm]), abs=0.05
                    )
                    seen.add(m.fitting.key)
        assert seen == {m.fitting.key for m in items}
    assert next(pages, None) is None


def inside(m: Any, left: float, low: float, tile: tuple[float, float]) -> bool:
    radius = m.fitting.hole_mm / 2
    return (
        left <= m.x_mm - radius
        and m.x_mm + radius <= left + tile[0]
        and low <= m.y_mm - radius
        and m.y_mm + radius <= low + tile[1]
    )


def test_every_sheet_has_a_bar_of_100_mm_and_a_cross_through_each_hole() -> None:
    whole = 0
    for page in printed("a4", "template"):
        wide, tall = float(page.width) / MM, float(page.height) / MM
        flat = [line for line in page.lines if abs(line["y1"] - line["y0"]) < 0.01]
        lengths = [(line["x1"] - line["x0"]) / MM for line in flat]
        assert any(length == pytest.approx(BAR_MM, abs=0.01) for length in lengths)
        for x, y, across in circles(page):
            holes = {m.fitting.hole_mm for m in faces().mounted}
            if not any(across == pytest.approx(hole, abs=0.02) for hole in holes):
                continue
            # A flange may be as wide as another part's hole: the innermost circle is the hole.
            if any(abs(x - u) + abs(y - v) < 1.5 and a < across - 0.1 for u, v, a in circles(page)):
                continue
            inside = min(x, wide - x, y - FOOT_MM, tall - y) - across / 2
            if inside < EDGE_MM:
                # Cut by the sheet's edge: it stands whole on the next one.
                continue
            whole += 1
            crossing = [
                (line["x0"] + line["x1"]) / 2 / MM
                for line in flat
                if line["y0"] / MM == pytest.approx(y, abs=0.05)
                and line["x0"] / MM < x - across / 2
                and line["x1"] / MM > x + across / 2
            ]
            assert crossing == [pytest.approx(x, abs=0.05)]
    assert whole >= len(faces().mounted)


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_sheets_are_of_the_paper_that_was_chosen(paper: Paper) -> None:
    for page in printed(paper):
        size = sorted((float(page.width) / MM, float(page.height) / MM))
        assert size == pytest.approx(PAPER_MM[paper], abs=0.2)


def test_a_face_takes_the_fewest_sheets() -> None:
    # A4 lying shows 277 x 176 mm of it; upright 190 x 263.
    assert tiling((270.0, 170.0), "a4").sheets == 1
    assert tiling((270.0, 170.0), "a4").wide
    assert not tiling((180.0, 260.0), "a4").wide
    assert tiling((360.0, 260.0), "a4").sheets == 2


def test_sheets_overlap_by_more_than_the_largest_hole() -> None:
    tiles = tiling((600.0, 400.0), "a4", 52.0)
    assert tiles.overlap_mm > 52.0
    step = tiles.tile[0] - tiles.overlap_mm
    assert tiles.tile[0] + (tiles.columns - 1) * step >= 600.0


def test_the_booklet_has_every_circuit_in_its_words() -> None:
    text = words(printed("a4", "circuits"))
    for c in building().board.circuits:
        assert safe(c.need.name).split(",")[0] in text
        assert f"{c.drop_v:.2f} V" in text
    assert "Nothing about this box is judged unsafe" in text


def test_the_booklet_has_every_caution_that_the_box_calls_for() -> None:
    pages = printed("a4")
    text = words(pages)
    wanted = cautions_for(building().run.case, building().totals.carried_kg)
    assert {"battery", "lithium", "sun", "vehicle", "mains", "inverter"} <= {c.key for c in wanted}
    for caution in wanted:
        assert caution.title in text
        assert render(caution.text).split(".")[0].split(":")[0][:40] in text
    # And they come first.
    assert wanted[0].title in words(pages[:1])


def test_cautions_follow_what_the_box_has() -> None:
    from tests.core.boxes import a_case

    bare = {c.key for c in cautions_for(a_case(), 10.0)}
    assert bare == {"battery", "lithium"}
    assert "lifting" in {c.key for c in cautions_for(a_case(), 25.0)}
    assert bare < {c.key for c in CAUTIONS}


def test_every_page_defers_to_local_codes_but_the_template() -> None:
    for page in printed("a4", "cautions", "schematic", "circuits", "parts", "fit", "checks"):
        assert "Local codes and licensed practice" in (page.extract_text() or "")


def test_each_section_stands_by_itself() -> None:
    heads = {
        "cautions": "Before you begin",
        "circuits": "Circuits",
        "parts": "Parts",
        "fit": "Box fit",
        "faces": "Faces",
        "settings": "What to set",
        "checks": "Checklists",
        "faults": "Fault finder",
        "schematic": TITLE,
        "template": "This bar is 100 mm",
        "unit": "The unit",
    }
    for section in SECTIONS:
        if section == "unit":
            continue
        pages = printed("a4", section)
        assert heads[section] in words(pages)
        assert words(pages[:1])


def test_the_drawing_is_lying_pages_at_full_size_with_every_number() -> None:
    pages = printed("a4", "schematic")
    assert len(pages) == len(building().schematic) == 3
    assert all(page.width > page.height for page in pages)
    text = " ".join(page.extract_text() or "" for page in pages)
    sizes = [char["size"] for page in pages for char in page.chars if char["text"].strip()]
    assert min(sizes) >= 7.0
    for c in building().board.circuits:
        assert str(c.number) in text
    assert "mm²" in text


def test_what_is_judged_is_printed_first_in_words_and_not_in_colour_alone() -> None:
    from oddkettle.core.judgement import judge
    from oddkettle.core.simulation.ledger import keep_ledger

    run = ran(full_case(Choice("outlet-lamp", protection="none")))
    judged = [j for j in judge(run, keep_ledger(run)) if j.part.startswith("circuit:")]
    bad = build_up(run, OwnBuild(), TITLE)
    data = print_sections(bad, judged, TITLE, "a4", "today", ("circuits", "schematic"))
    pages = pdfplumber.open(io.BytesIO(data)).pages
    assert "DANGER: Circuit" in words(pages[:1])
    assert "NO FUSE" in words(pages)


def test_a_name_with_marks_of_the_language_is_printed_whole() -> None:
    run = ran(full_case())
    title = "Łódź & <kettle> ñandú"
    pages = pdfplumber.open(
        io.BytesIO(print_sections(build_up(run, OwnBuild(), title), (), title, "a4", "today"))
    ).pages
    assert title in words(pages[:1])


@SLOW
@pytest.mark.parametrize("name", sample_boxes())
def test_every_sample_box_prints_a_whole_booklet(name: str) -> None:
    plan = example(name)
    worked, judged = work_out(plan)
    pages = pdfplumber.open(
        io.BytesIO(print_sections(worked, judged, plan.name, plan.build.paper, "today"))
    ).pages
    text = words(pages)
    for one in worked.lists:
        assert one.title in text
    for symptom in worked.symptoms:
        assert symptom.text in text
    assert plan.name in text


def test_what_stands_on_a_shelf_says_so_and_has_its_board_drawn() -> None:
    fits = building().fits
    assert fits is not None
    shelved = {n for n, spot in enumerate(fits.standing, start=1) if spot.z_mm > 1.0}
    assert shelved
    (page,) = printed("a4", "fit")
    said = words([page])
    for n in range(1, len(fits.standing) + 1):
        assert (f"{n} shelf" in said) == (n in shelved)
    thick = [line for line in page.lines if line["linewidth"] > 0.8 * MM]
    assert len(thick) == len(shelved)


def test_dangers_and_faults_stand_boxed_on_the_first_page_and_sound_nowhere() -> None:
    built, judged = work_out(example("night-breather"))
    with pdfplumber.open(
        io.BytesIO(print_sections(built, judged, "Night", "a4", "today"))
    ) as found:
        first = words(found.pages[:1])
        assert "DO NOT BUILD IT YET" in first
        assert "and this box is its only source" in first
        assert " sound" not in words(found.pages)
        edges = [*found.pages[0].lines, *found.pages[0].rects]
        assert max(edge["linewidth"] or 0.0 for edge in edges) >= 1.5


def test_a_box_with_nothing_against_it_has_no_such_frame() -> None:
    assert "DO NOT BUILD" not in words(printed("a4"))


@pytest.mark.parametrize("paper", ["a4", "letter"])
@pytest.mark.parametrize("size", [(300, 200, 400), (200, 200, 900), (1200, 400, 350)])
def test_a_case_of_any_shape_is_printed(size: tuple[float, float, float], paper: Paper) -> None:
    """Upright, very tall and long cases: both views on one page."""
    document = example("moth-survey").model_dump(mode="json")
    document["build"]["enclosure"] = dict(
        zip(("length_mm", "width_mm", "height_mm"), size, strict=True)
    )
    document["build"]["paper"] = paper
    data = print_document(Plan.model_validate(document), "fit.pdf")
    assert data.startswith(b"%PDF")
