"""The parts list as a table that any spreadsheet opens, and prices read back from one."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import replace

from oddkettle.core.construction.parts.lines import Known, Line
from oddkettle.formats.untrusted.spreadsheet import disarmed
from oddkettle.plan.plan_errors import refused
from oddkettle.text import USUAL, render
from oddkettle.text.habits import reader

COLUMNS = (
    "part", "name", "group", "count", "unit", "owned", "euro_each", "kg_each", "price_is",
    "weight_is", "length_mm", "width_mm", "height_mm",
)  # fmt: skip
MAX_EURO, MAX_KG = 100_000.0, 1_000.0
MAX_BYTES = 2_000_000
YES, NO = {"yes", "y", "1", "true", "x"}, {"no", "n", "0", "false", ""}


def parts_csv(lines: Iterable[Line]) -> bytes:
    """Every line of a parts list; a guessed price is its range's middle and is marked so."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    # For other programs, so as usual; but who buys AWG must not be sold square millimetres.
    habits = replace(USUAL, cable=reader().cable)
    for line in lines:
        part, bulk = line.article, line.article.bulk
        each = (line.euro_low + line.euro_high) / 2 / part.count
        writer.writerow(
            [
                part.key,
                disarmed(render(part.name, habits)),
                part.group,
                f"{part.count:g}",
                part.unit,
                "yes" if line.owned else "no",
                f"{each:.2f}",
                f"{part.kg:.4f}",
                "known" if line.price_known else "guess",
                "known" if line.weight_known else "guess",
                *(
                    ["", "", ""]
                    if bulk is None
                    else [f"{bulk.length_mm:g}", f"{bulk.width_mm:g}", f"{bulk.height_mm:g}"]
                ),
            ]
        )
    return out.getvalue().encode()


def read_parts_csv(text: str) -> list[Known]:
    """What a table says of each part: owned, price, weight. Raises PlanRefused.

    Needs a column `part`; reads `owned`, `euro_each` and `kg_each` where there are any. A price or
    weight marked "guess" in `price_is` or `weight_is` and an empty cell say nothing.
    """
    if len(text) > MAX_BYTES:
        raise refused(
            "file",
            f"{len(text)} letters",
            f"{MAX_BYTES}",
            "Send the parts list only.",
            "This table is too long.",
        )
    body = text.lstrip("\ufeff")
    head = body.split("\n", 1)[0]
    reader = csv.DictReader(io.StringIO(body), delimiter=";" if head.count(";") > 2 else ",")
    if "part" not in (reader.fieldnames or []):
        raise refused(
            "part",
            head[:60] or "nothing",
            "a column named part",
            "Begin with the exported list: it has the columns.",
            "This table does not name its parts.",
        )
    found: dict[str, Known] = {}
    try:
        for n, row in enumerate(reader, start=2):
            key = (row.get("part") or "").strip()
            if key:
                found[key] = _known(key, row, n)
    except csv.Error as error:
        raise refused(
            "file",
            str(error)[:80],
            "a table of cells with commas or semicolons",
            "Close its quotation marks, and bring it again.",
            "This table cannot be read to its end.",
        ) from None
    return list(found.values())


def _known(key: str, row: dict[str, str], line: int) -> Known:
    owned = (row.get("owned") or "").strip().lower()
    if owned not in YES | NO:
        raise refused(
            f"line {line}, owned",
            owned,
            "yes or no",
            "Write yes or no.",
            f"Line {line} says {owned!r} under owned.",
        )
    return Known(
        key,
        owned in YES,
        _number(row, "euro_each", "price_is", MAX_EURO, "euro", line),
        _number(row, "kg_each", "weight_is", MAX_KG, "kg", line),
    )


def _number(
    row: dict[str, str], column: str, mark: str, most: float, unit: str, line: int
) -> float | None:
    text = (row.get(column) or "").strip()
    if not text or (row.get(mark) or "").strip().lower() == "guess":
        return None
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        value = float("nan")
    if not 0.0 <= value <= most:
        raise refused(
            f"line {line}, {column}",
            text,
            f"0 to {most:g} {unit}",
            f"Enter 0 to {most:g} {unit}, or leave it empty.",
            f"Line {line} says {text!r} under {column}.",
        )
    return value
