"""mm2 and AWG never stand on one list: whoever goes by AWG is told AWG on every print."""

from __future__ import annotations

import re
from typing import Literal

import pypdfium2
import pytest

from oddkettle.text.habits import Habits, read_by
from oddkettle.usecases.build.prints import NAMES, PrintName, print_document
from oddkettle.usecases.build.work import written_build
from tests.conftest import EXAMPLES, example
from tests.support.tiers import NIGHTLY, SLOW

METRIC, AWG = re.compile(r"\d\s*mm²|\bmm2\b"), re.compile(r"\bAWG\b")
SAMPLES = [
    pytest.param(path.stem, marks=[] if path.stem == "moth-survey" else NIGHTLY)
    for path in sorted(EXAMPLES.glob("*.json"))
]
ASKED: tuple[tuple[Literal["mm2", "AWG"], Literal["metric", "awg"], bool], ...] = (
    ("mm2", "metric", False),
    ("AWG", "metric", True),
    ("mm2", "awg", True),
    ("AWG", "awg", True),
)
"""The reader's habit, what the plan's owner buys, and whether all is AWG then."""


def words_of(name: PrintName, data: bytes) -> str:
    if not name.endswith("pdf"):
        return data.decode()
    return "\n".join(page.get_textpage().get_text_range() for page in pypdfium2.PdfDocument(data))


@SLOW
@pytest.mark.parametrize("name", SAMPLES)
@pytest.mark.parametrize(("habit", "series", "in_awg"), ASKED)
def test_every_print_and_the_page_hold_one_system(
    name: str, habit: Literal["mm2", "AWG"], series: Literal["metric", "awg"], in_awg: bool
) -> None:
    plan = example(name)
    plan = plan.model_copy(update={"build": plan.build.model_copy(update={"cable_series": series})})
    foreign = METRIC if in_awg else AWG
    with read_by(Habits(cable=habit)):
        said = {each: words_of(each, print_document(plan, each)) for each in NAMES}
        page = written_build(plan).decode()
    for each, words in said.items():
        found = foreign.search(words)
        assert found is None, (each, words[max(0, found.start() - 60) : found.end() + 20])
    # Choices of what may be bought are listed beside what was chosen: in the same system.
    assert foreign.search(page) is None
    own = AWG if in_awg else METRIC
    assert own.search(said["circuits.pdf"]) or plan.box.unit is not None
