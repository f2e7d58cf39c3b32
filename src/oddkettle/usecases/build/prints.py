"""What of a box is printed or saved as a file."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import Literal, get_args

from oddkettle.core.construction.parts.lines import Known
from oddkettle.formats.booklet import SECTIONS, Section, Ticked
from oddkettle.formats.parts_csv import parts_csv, read_parts_csv
from oddkettle.formats.schematic_svg import schematic_svg
from oddkettle.plan import Plan
from oddkettle.plan.making.document import OwnedPart
from oddkettle.plan.quantities import LazyModel
from oddkettle.text.habits import reader
from oddkettle.text.render import render_bytes
from oddkettle.usecases.build.one_system import written_in_one_system
from oddkettle.usecases.build.ticks import list_ticks
from oddkettle.usecases.build.work import work_out
from oddkettle.usecases.plans.file_names import stem_of
from oddkettle.usecases.plans.plans import open_plan
from oddkettle.usecases.process.clock import now_utc

PrintName = Literal[
    "booklet.pdf", "schematic.pdf", "schematic.svg", "circuits.pdf", "parts.pdf", "parts.csv",
    "fit.pdf", "template.pdf", "settings.pdf", "checks.pdf", "faults.pdf", "unit.pdf",
]  # fmt: skip
NAMES: tuple[PrintName, ...] = get_args(PrintName)
SHEETS: dict[str, tuple[Section, ...]] = {
    "booklet.pdf": SECTIONS,
    "schematic.pdf": ("schematic",),
    "circuits.pdf": ("cautions", "circuits"),
    "parts.pdf": ("parts",),
    "fit.pdf": ("fit",),
    "template.pdf": ("template",),
    "settings.pdf": ("settings",),
    "checks.pdf": ("checks",),
    "unit.pdf": ("unit",),
    "faults.pdf": ("faults",),
}
TYPES = {"pdf": "application/pdf", "svg": "image/svg+xml", "csv": "text/csv"}


class PricesRead(LazyModel):
    """What a table of prices said of this plan's parts."""

    parts: list[OwnedPart]
    """The plan's own list, with what was read laid over it."""
    read: int
    unknown: list[str]
    """Parts of the table that this box does not have."""


def print_plan(plan_id: int, name: PrintName) -> tuple[str, str, bytes]:
    """(file name, media type, bytes) of one print of a saved plan."""
    plan = open_plan(plan_id).document
    return (
        f"{stem_of(plan.name)}-{name}",
        TYPES[name.rpartition(".")[2]],
        print_document(plan, name, _ticked(plan_id)),
    )


def _ticked(plan_id: int) -> dict[str, Ticked]:
    """When the checks were ticked and what was measured, by `list/check`."""
    return {
        f"{tick.checklist}/{tick.check}": Ticked(tick.at_local[:10], tick.measured)
        for tick in list_ticks(plan_id).now
    }


def print_document(
    plan: Plan, name: PrintName, ticked: Mapping[str, Ticked] = MappingProxyType({})
) -> bytes:
    """The bytes of one print; `ticked` are the checks that are done."""
    with written_in_one_system(plan):
        return _printed(plan, name, ticked)


def _printed(plan: Plan, name: PrintName, ticked: Mapping[str, Ticked]) -> bytes:
    building, judged = work_out(plan)
    if name == "schematic.svg":
        return render_bytes(schematic_svg(building.schematic), reader())
    if name == "parts.csv":
        return parts_csv(building.lines)
    # What prints takes a while to load and much memory: only where something is printed.
    from oddkettle.formats.booklet.booklet import print_sections

    printed = f"printed {now_utc()[:10]}"
    return print_sections(
        building, judged, plan.name, plan.build.paper, printed, SHEETS[name], ticked
    )


def read_prices(plan: Plan, table: str) -> PricesRead:
    """Lay a table's prices over the plan's. Raises PlanRefused."""
    building, _ = work_out(plan)
    mine = {line.article.key for line in building.lines}
    rows = read_parts_csv(table)
    known = {part.part: part for part in plan.build.parts}
    for row in rows:
        if row.part in mine:
            known[row.part] = _laid_over(known.get(row.part), row)
    return PricesRead(
        parts=list(known.values()),
        read=sum(1 for row in rows if row.part in mine),
        unknown=[row.part for row in rows if row.part not in mine],
    )


def _laid_over(old: OwnedPart | None, row: Known) -> OwnedPart:
    """What was read, and of what it does not say the old."""
    old = old or OwnedPart(part=row.part)
    return old.model_copy(
        update={
            "owned": row.owned,
            "euro": old.euro if row.euro is None else row.euro,
            "kg": old.kg if row.kg is None else row.kg,
        }
    )
