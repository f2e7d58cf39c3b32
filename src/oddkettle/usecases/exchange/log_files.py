"""Files of the log: a monitor's table in; log, samples, tracked series and archive out."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from typing import Literal

from oddkettle.core.trip.grid import zone_named
from oddkettle.formats import archive as packing
from oddkettle.formats.monitor_csv import (
    SHOWN_ROWS,
    Mapping,
    NoTable,
    Table,
    guess_mapping,
    read_samples,
    read_table,
)
from oddkettle.formats.plan_json import parse_plan, plan_bytes
from oddkettle.formats.samples_ndjson import SampleLine, line_of
from oddkettle.formats.untrusted.spreadsheet import disarmed
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import refused
from oddkettle.plan.quantities import LazyModel
from oddkettle.store import log as log_store
from oddkettle.store import samples as sample_store
from oddkettle.store.file.tables import in_one_go
from oddkettle.text import USUAL, render
from oddkettle.usecases.field.log.log import list_entries
from oddkettle.usecases.field.log.stored import stored_entry
from oddkettle.usecases.field.samples.samples import Ingested, Refused, ingest, trip_span_ms
from oddkettle.usecases.field.track.tracked_trip import follow
from oddkettle.usecases.plans.file_names import stem_of
from oddkettle.usecases.plans.plans import OpenPlan, create_plan, must_run, open_plan
from oddkettle.usecases.process.clock import now_utc

Shape = Literal["csv", "json"]
What = Literal["log", "samples", "tracked"]


class TablePreview(LazyModel):
    """What a table seems to be, before anything of it is stored."""

    columns: list[str]
    rows: list[list[str]]
    """The first ones, as they stand in the file."""
    mapping: Mapping
    first: list[SampleLine]
    """The same rows as they would be stored."""
    readable: int
    unreadable: int
    on_trip: int
    """How many of the readable ones lie on the trip."""
    troubles: list[Refused]


def preview_table(plan_id: int, data: bytes, mapping: Mapping | None = None) -> TablePreview:
    """Guess what a monitor's table means, or read it as told. Raises PlanRefused."""
    plan = open_plan(plan_id).document
    table, mapping = _mapped(plan, data, mapping)
    read = read_samples(table, mapping, zone_named(plan.trip.site.timezone))
    first, last = trip_span_ms(plan)
    return TablePreview(
        columns=table.header,
        rows=table.rows[:SHOWN_ROWS],
        mapping=mapping,
        first=[SampleLine.model_validate_json(line_of(s)) for s in read.samples[:SHOWN_ROWS]],
        readable=len(read.samples),
        unreadable=len(read.bad),
        on_trip=sum(first <= sample.at_ms < last for sample in read.samples),
        troubles=[Refused(line=n, text=text) for n, text in read.bad[:5]],
    )


def import_table(plan_id: int, data: bytes, mapping: Mapping | None = None) -> Ingested:
    """Store the rows of a monitor's table. Raises PlanRefused for what is no table."""
    plan = open_plan(plan_id).document
    table, mapping = _mapped(plan, data, mapping)
    read = read_samples(table, mapping, zone_named(plan.trip.site.timezone))
    return ingest(plan_id, read.samples, [Refused(line=n, text=text) for n, text in read.bad])


def _mapped(plan: Plan, data: bytes, mapping: Mapping | None) -> tuple[Table, Mapping]:
    first, last = trip_span_ms(plan)
    try:
        table = read_table(data)
        if mapping is None:
            zone = zone_named(plan.trip.site.timezone)
            mapping = guess_mapping(table, zone, first / 1000, last / 1000)
    except NoTable as error:
        raise refused(
            "file",
            "this file",
            "rows of time and volts, amps, percent or Ah",
            "Export it from the monitor as CSV, with a line of column names.",
            str(error),
        ) from None
    places = [
        mapping.time,
        mapping.clock,
        mapping.volts,
        mapping.amps,
        mapping.percent,
        mapping.ah_in,
        mapping.ah_out,
    ]
    for place in places:
        if place is not None and not 0 <= place < len(table.header):
            raise refused(
                "mapping",
                str(place),
                f"0 to {len(table.header) - 1}",
                "Choose a column that the file has.",
                f"The file has no column {place + 1}.",
            )
    return table, mapping


def export(plan_id: int, what: What, shape: Shape) -> Iterator[str]:
    """Log, samples or tracked series as CSV or JSON, piece by piece."""
    rows = {"log": _log_rows, "samples": _sample_rows, "tracked": _tracked_rows}[what](plan_id)
    if shape == "json":
        yield from _as_json(rows)
        return
    for row in rows:
        yield _csv_line([disarmed(cell) if isinstance(cell, str) else cell for cell in row])


Cells = list[object]


def _as_json(rows: Iterator[Cells]) -> Iterator[str]:
    header = [str(name) for name in next(rows)]
    begin = "[\n"
    for row in rows:
        yield begin + json.dumps(dict(zip(header, row, strict=True)))
        begin = ",\n"
    yield "[]\n" if begin == "[\n" else "\n]\n"


def _csv_line(cells: Cells) -> str:
    out = io.StringIO()
    csv.writer(out, lineterminator="\n").writerow(["" if c is None else c for c in cells])
    return out.getvalue()


def _log_rows(plan_id: int) -> Iterator[Cells]:
    yield ["at_utc", "at_local", "kind", "value", "text", "note", "written_at", "written_by"]
    for e in list_entries(plan_id):
        # A table for other programs: written as usual, whoever asks for it.
        text = render(e.text, USUAL)
        yield [e.at_utc, e.at_local, e.kind, e.value, text, e.note, e.written_at, e.written_by]


def _sample_rows(plan_id: int) -> Iterator[Cells]:
    open_plan(plan_id)
    yield ["at_utc", "seq", "volts", "amps", "percent", "ah_in", "ah_out"]
    for sample in sample_store.every(plan_id):
        at = datetime.fromtimestamp(sample.at_ms / 1000, UTC)
        yield [at.isoformat(), *sample[1:]]


def _tracked_rows(plan_id: int) -> Iterator[Cells]:
    here = follow(plan_id)
    grid = here.tracked.grid
    yield ["at_utc", "low_percent", "middle_percent", "high_percent"]
    first = datetime.fromtimestamp(int(grid.starts_utc[0].astype("int64")), UTC)
    for n, levels in enumerate(here.tracked.band.T):
        at = first + timedelta(minutes=grid.step_min * n)
        yield [at.isoformat(), *(round(100 * float(level), 2) for level in levels)]


def export_archive(plan_id: int) -> bytes:
    """The plan with its log and samples in one file."""
    plan = open_plan(plan_id).document
    entries = [vars(entry) for entry in log_store.entries(plan_id)]
    return packing.pack(plan_bytes(plan), entries, sample_store.every(plan_id))


def import_archive(data: bytes) -> OpenPlan:
    """Add the plan of an archive with its log and samples. Raises PlanRefused.

    All of it is read first; then all of it is written, or nothing.
    """
    found = packing.unpack(data)
    plan = parse_plan(found.plan)
    entries = [stored_entry(plan, n, entry) for n, entry in enumerate(found.entries, start=1)]
    first, last = trip_span_ms(plan)
    inside = [first <= sample.at_ms < last for sample in found.samples()]
    outside = inside.count(False)
    if outside:
        raise refused(
            "samples",
            f"{outside} of {len(inside)}",
            "within the trip's days",
            "Export it again, or import the plan alone.",
            f"{outside} samples lie outside the trip.",
        )
    must_run(plan)
    with in_one_go():
        opened = create_plan(plan, "imported")
        log_store.add_all(opened.id, entries)
        sample_store.put_all(opened.id, found.samples())
    return opened


def file_stem(plan_id: int, what: str) -> str:
    """A file's name without its ending."""
    return f"{stem_of(open_plan(plan_id).document.name)}-{what}-{now_utc()[:10]}"
