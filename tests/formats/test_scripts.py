"""A box called in any script prints: no letter is lost, and no table is turned round."""

from __future__ import annotations

from io import BytesIO

import pdfplumber
import pytest

from oddkettle.formats.booklet.faces import HEAD, TEXT, UNKNOWN, as_seen, marked, runs
from oddkettle.plan import Plan
from oddkettle.usecases.build.prints import print_document
from tests.support.tiers import by_day

NAMES = {
    "Greek": "Κιβώτιο",
    "Cyrillic": "Ящик для похода",
    "Japanese": "夏のキャンプ箱",
    "Chinese": "夏天的箱子",
    "Korean": "여름 상자",
    "Georgian": "ყუთი",
    "Armenian": "Տուփ",
}


@pytest.mark.parametrize("name", by_day(NAMES.values(), list(NAMES.values())[::3]))
def test_a_name_stands_in_the_booklet_letter_for_letter(moth: Plan, name: str) -> None:
    plan = moth.model_copy(update={"name": name})
    words = name.replace(" ", "")
    with pdfplumber.open(BytesIO(print_document(plan, "booklet.pdf"))) as pdf:
        for page in pdf.pages[:2]:
            assert words in page.extract_text().replace(" ", "").replace("\n", "")
            faces = {c["fontname"].split("+")[-1] for c in page.chars if c["text"] in words}
            assert faces & {"OddKettleWide", "OddKettleEast"}


def test_an_appliance_in_arabic_stands_in_its_cell_and_turns_nothing_round(moth: Plan) -> None:
    plan = moth.model_dump(mode="json", exclude_none=True)
    plan["use"]["appliances"][0]["name"] = "ثلاجة صغيرة"
    before = print_document(moth, "booklet.pdf")
    after = print_document(Plan.model_validate(plan), "booklet.pdf")
    with pdfplumber.open(BytesIO(before)) as one, pdfplumber.open(BytesIO(after)) as other:
        assert len(one.pages) == len(other.pages)
        drawn = "".join(page.extract_text() for page in other.pages)
        seen = as_seen("ثلاجة صغيرة").replace("\N{NO-BREAK SPACE}", " ")
        assert seen.split(" ")[0] in drawn
        # The columns of the table of circuits stand where they stood.
        heads = [
            [(w["text"], round(w["x0"])) for w in pdf.pages[2].extract_words()][:20]
            for pdf in (one, other)
        ]
        assert heads[0] == heads[1]


def test_what_runs_from_right_to_left_is_joined_and_seen_in_its_order() -> None:
    # Published forms of the Unicode standard: initial, medial and final beh (U+FE91, FE92, FE90).
    assert as_seen("ببب") == "\ufe90\ufe92\ufe91"
    # Hebrew letters keep their forms; a number inside keeps its own order (UAX 9).
    assert as_seen("אבג 12") == "12 גבא" or as_seen("אבג 12") == "גבא 12"
    assert as_seen("Box אבג holds") == "Box גבא holds"


def test_latin_stays_in_its_own_face_and_markup_is_no_markup() -> None:
    assert runs("Moth box, 12 V") == [(TEXT, "Moth box, 12 V")]
    assert marked("a < b & <b>c</b>") == "a &lt; b &amp; &lt;b&gt;c&lt;/b&gt;"
    assert runs("") == []


def test_a_name_of_two_scripts_is_cut_into_runs() -> None:
    assert runs("Box ящик", HEAD) == [(HEAD, "Box "), ("OddWide", "ящик")]
    assert runs("箱 1") == [("OddEast", "箱"), (TEXT, " 1")]


def test_what_no_face_has_is_a_square_and_no_error() -> None:
    assert runs("\U0001f980") == [("OddWide", UNKNOWN)]
