"""The bench booklet as one PDF, and each of its parts by itself."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from types import MappingProxyType

from reportlab.platypus import Flowable, NextPageTemplate, PageBreak

from oddkettle.core.construction.design import Building
from oddkettle.core.judgement import Judgement
from oddkettle.formats.booklet import SECTIONS, Section, Ticked, sheets
from oddkettle.formats.booklet.drawings import SchematicSheet
from oddkettle.formats.booklet.faces import load_faces
from oddkettle.formats.booklet.page import H1, Paper, inner_mm, make_pdf, para
from oddkettle.formats.booklet.settings_sheet import settings_sheet
from oddkettle.formats.booklet.template import Sheet, template_sheets


def print_sections(
    building: Building,
    judged: Sequence[Judgement],
    title: str,
    paper: Paper,
    printed: str,
    wanted: Sequence[Section] = SECTIONS,
    ticked: Mapping[str, Ticked] = MappingProxyType({}),
) -> bytes:
    """A PDF of some sections, in the order given.

    judged : every judgement on this box; printed : what stands at the head's right;
    ticked : the checks that are done, by `list/check`
    """
    load_faces()
    sheaf = [
        sheet
        for section in wanted
        for sheet in _section(section, building, judged, title, paper, ticked)
    ] or [("upright", [para("There is nothing to drill.", H1)])]
    story: list[Flowable] = []
    for template, flowables in sheaf:
        if story:
            story += [NextPageTemplate(template), PageBreak()]
        story += flowables
    return make_pdf(story, title, paper, printed, first=sheaf[0][0])


def _section(
    section: Section,
    building: Building,
    judged: Sequence[Judgement],
    title: str,
    paper: Paper,
    ticked: Mapping[str, Ticked],
) -> list[Sheet]:
    """Its sheets: the page template of each, and what stands on it."""
    ready = building.run.case.unit is not None
    if ready and section in {"fit", "faces"}:
        return []
    if section == "unit" and not ready:
        return []
    if section == "template":
        return [] if building.faces is None else template_sheets(building.faces, paper, title)
    if section == "schematic":
        room = inner_mm(paper, wide=True)
        return [("wide", [SchematicSheet(sheet, *room)]) for sheet in building.schematic]
    make: dict[str, Callable[[], list[Flowable]]] = {
        "cautions": lambda: sheets.cautions_sheet(building, judged),
        "circuits": lambda: sheets.circuits_sheet(building, judged),
        "parts": lambda: sheets.parts_sheet(building),
        "fit": lambda: sheets.fit_sheet(building, paper),
        "faces": lambda: sheets.faces_sheet(building),
        "settings": lambda: settings_sheet(building),
        "checks": lambda: sheets.checks_sheet(building, ticked),
        "faults": lambda: sheets.faults_sheet(building),
        "unit": lambda: sheets.unit_sheet(building),
    }
    return [("upright", make[section]())]
