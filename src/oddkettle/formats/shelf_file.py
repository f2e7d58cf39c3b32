"""One's own things as a file: JSON for everything, CSV for what a spreadsheet can hold."""

from __future__ import annotations

import csv
import io
import json
from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel, ValidationError

from oddkettle.formats import loads_json
from oddkettle.formats.untrusted.spreadsheet import disarmed
from oddkettle.plan.box import BatteryModel
from oddkettle.plan.plan_errors import PlanRefused, from_validation, refused
from oddkettle.plan.sources.sun import PanelModel
from oddkettle.plan.use import ApplianceModel

FORMAT, VERSION = "oddkettle-shelf", 1
MODELS: dict[str, type[BaseModel]] = {
    "appliance": ApplianceModel,
    "panel": PanelModel,
    "battery": BatteryModel,
}
"""What can stand on the shelf, by its kind."""
COLUMNS: dict[str, tuple[str, ...]] = {
    "appliance": ("power_w", "supply", "start", "end", "duty_percent", "figure"),
    "panel": ("power_w", "count", "mount", "portable"),
    "battery": ("chemistry", "capacity_ah", "battery_v"),
}
"""The columns of a table that each kind fills."""
HEAD = ("kind", "name", "euro", "note", *dict.fromkeys(c for cs in COLUMNS.values() for c in cs))
OTHER_JSON = (loads_json,)
"""Other documents whose things can be taken: a module each, with `knows` and `rows_of`."""
MAX_THINGS, MAX_BYTES, MAX_NAME, MAX_EURO = 500, 2_000_000, 80, 100_000.0


@dataclass(frozen=True)
class ShelfThing:
    """One thing of a file."""

    kind: str
    name: str
    euro: float | None
    note: str
    part: BaseModel


def shelf_json(things: list[ShelfThing]) -> bytes:
    """Everything of each thing."""
    body = {
        "format": FORMAT,
        "version": VERSION,
        "things": [
            {
                "kind": t.kind,
                "name": t.name,
                "euro": t.euro,
                "note": t.note,
                "part": t.part.model_dump(mode="json", exclude_none=True),
            }
            for t in things
        ],
    }
    return (json.dumps(body, indent=2, ensure_ascii=False) + "\n").encode()


def shelf_csv(things: list[ShelfThing]) -> bytes:
    """A table with the columns that matter; what they do not hold is only in the JSON."""
    out = io.StringIO()
    writer = csv.DictWriter(out, HEAD, lineterminator="\r\n")
    writer.writeheader()
    for thing in things:
        document = thing.part.model_dump(mode="json", exclude_none=True)
        hours = (document.get("hours") or [{}])[0]
        cells = {**document, **hours}
        row = {column: cells.get(column, "") for column in COLUMNS[thing.kind]}
        euro = "" if thing.euro is None else f"{thing.euro:g}"
        writer.writerow(
            {
                **row,
                "kind": thing.kind,
                "name": disarmed(thing.name),
                "euro": euro,
                "note": disarmed(thing.note),
            }
        )
    return out.getvalue().encode()


def read_shelf(data: bytes) -> list[ShelfThing]:
    """The things of a file, JSON or CSV. Raises PlanRefused; then none is taken."""
    if len(data) > MAX_BYTES:
        raise refused(
            "file",
            f"{len(data)} bytes",
            f"{MAX_BYTES} bytes",
            "Send one's own things only.",
            "This file is too long.",
        )
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise refused(
            "file", "no text", "UTF-8", "Save it as UTF-8.", "This file is not plain text."
        ) from None
    rows = _json_rows(text) if text.lstrip()[:1] in {"{", "["} else _csv_rows(text)
    if len(rows) > MAX_THINGS:
        raise refused(
            "things",
            str(len(rows)),
            f"{MAX_THINGS}",
            "Send fewer at a time.",
            "These are too many things.",
        )
    return [_thing(row, n) for n, row in enumerate(rows, start=1)]


def _json_rows(text: str) -> list[dict[str, Any]]:
    try:
        body = json.loads(text)
    except (ValueError, RecursionError):
        raise refused(
            "file", text[:40], "a whole JSON document", "Export it again.", "This file is damaged."
        ) from None
    for other in OTHER_JSON:
        if other.knows(body):
            rows: list[dict[str, Any]] = other.rows_of(body)
            return rows
    things = body.get("things") if isinstance(body, dict) else None
    if not isinstance(things, list) or body.get("format") != FORMAT:
        raise refused(
            "format",
            str(body)[:40],
            FORMAT,
            "Choose a shelf that was exported here.",
            "This is another kind of file.",
        )
    return [thing if isinstance(thing, dict) else {} for thing in things]


def _csv_rows(text: str) -> list[dict[str, Any]]:
    head = text.split("\n", 1)[0]
    reader = csv.DictReader(io.StringIO(text), delimiter=";" if head.count(";") > 2 else ",")
    if not {"kind", "name"} <= set(reader.fieldnames or []):
        raise refused(
            "columns",
            head[:60] or "nothing",
            "columns named kind and name",
            "Begin with an exported table: it has the columns.",
            "This table does not say what its things are.",
        )
    rows = []
    for row in reader:
        kind = (row.get("kind") or "").strip()
        part: dict[str, Any] = {
            column: row[column].strip()
            for column in COLUMNS.get(kind, ())
            if (row.get(column) or "").strip()
        }
        if kind == "appliance":
            hours = {"start": part.pop("start", "00:00"), "end": part.pop("end", "24:00")}
            part["hours"] = [hours]
        rows.append(
            {
                "kind": kind,
                "name": row.get("name"),
                "euro": row.get("euro") or None,
                "note": row.get("note") or "",
                "part": part,
            }
        )
    return rows


def _thing(row: dict[str, Any], n: int) -> ShelfThing:
    model = MODELS.get(str(row.get("kind")))
    if model is None:
        raise refused(
            f"things.{n}.kind",
            str(row.get("kind"))[:40],
            ", ".join(MODELS),
            "Say which of them it is.",
            f"Thing number {n} is of no known kind.",
        )
    name = str(row.get("name") or "").strip().lstrip("'")
    if not 1 <= len(name) <= MAX_NAME:
        raise refused(
            f"things.{n}.name",
            name[:40],
            f"1 to {MAX_NAME} letters",
            "Name it.",
            f"Thing number {n} has no name that can be used.",
        )
    part = row.get("part")
    body = {**(part if isinstance(part, dict) else {})}
    if "id" in model.model_fields:
        body |= {"id": "kept", "name": name}
    try:
        euro = None if row.get("euro") in {None, ""} else float(row["euro"])
    except (TypeError, ValueError):
        euro = -1.0
    if euro is not None and not 0.0 <= euro <= MAX_EURO:
        raise refused(
            f"things.{n}.euro",
            str(row.get("euro"))[:40],
            f"0 to {MAX_EURO:g}",
            "Write a price or leave it empty.",
            f"The price of {name} is none.",
        )
    try:
        told = model.model_validate(body)
    except ValidationError as error:
        raise PlanRefused(from_validation(error, model)) from None
    return ShelfThing(str(row["kind"]), name, euro, str(row.get("note") or "")[:200], told)
