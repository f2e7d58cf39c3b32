"""Tables of a battery monitor, as its app or a spreadsheet writes them: pure guessing and parsing.

Nobody agrees on names, units, the sign of a current, the decimal mark or the clock. What can be
guessed is guessed, and shown with the first rows, so that whoever imports can put it right.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, tzinfo
from typing import Literal, get_args

from pydantic import BaseModel

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.core.values.cancellation import while_waited_for
from oddkettle.plan.quantities import FIRST_YEAR, LAST_YEAR

Column = Literal["time", "clock", "volts", "amps", "percent", "ah_in", "ah_out"]
COLUMNS: tuple[Column, ...] = get_args(Column)
Clock = Literal["trip", "utc"]
LARGEST_BYTES = 24_000_000
MAX_ROWS, MAX_COLUMNS = 250_000, 60
"""A year of a line every two minutes; no monitor tells so many things."""
HEADER_WITHIN = 40
LOOKED_AT = 100_000
"""Bytes from which the mark between cells is guessed."""
SHOWN_ROWS = 6
MILLI = 0.001
EPOCH_MS_FROM = 1e11
"""A number of seconds as large as this is one of milliseconds."""

NAMES: dict[Column, str] = {
    "time": r"^(date\s*/?\s*time|timestamp|time\s*stamp|datetime|date|time|zeit|datum|when|at)\b",
    "clock": r"^(time|clock|uhrzeit|zeit)\b",
    "volts": r"(volt|spannung|^u\b|^v\b|\(m?v\)|\[m?v\])",
    "amps": r"(current|strom|\bamps?\b|^i\b|^a\b|\(m?a\)|\[m?a\])",
    "percent": r"(soc|state of charge|percent|charge level|ladezustand|%)",
    "ah_in": r"(charged|ah.?in\b|\bin.{0,3}ah|charge.*ah)",
    "ah_out": r"(discharged|drawn|consumed|ah.?out|out.{0,3}ah|used.*ah)",
}
ORDER: tuple[Column, ...] = ("ah_out", "ah_in", "percent", "volts", "amps", "time")


class Mapping(BaseModel):
    """Which column is which, and how its numbers are meant. Columns are places, 0-based."""

    time: int
    clock: int | None = None
    """The column of the time of day, where the date stands alone."""
    volts: int | None = None
    amps: int | None = None
    percent: int | None = None
    ah_in: int | None = None
    ah_out: int | None = None
    decimal_comma: bool = False
    day_first: bool = True
    discharge_positive: bool = False
    """The current is positive when it leaves the battery."""
    millivolts: bool = False
    milliamps: bool = False
    zone: Clock = "trip"
    """Clock of times that name none: the trip's own, or UTC."""


@dataclass(frozen=True)
class Table:
    """The cells of a file, below its header."""

    header: list[str]
    rows: list[list[str]]
    first_line: int
    delimiter: str


@dataclass(frozen=True)
class Read:
    """Samples of a table, and the lines that gave none."""

    samples: list[Sample]
    bad: list[tuple[int, str]]


class NoTable(ValueError):
    """The file is no table with a time and something measured."""


def read_table(data: bytes) -> Table:
    """The cells of a CSV file. Raises NoTable."""
    if len(data) > LARGEST_BYTES:
        raise NoTable(f"The file has {len(data):,} bytes; at most {LARGEST_BYTES:,} are read.")
    encoding = _encoding(data)
    lines = data[:LOOKED_AT].decode(encoding, "ignore").splitlines()
    delimiter = max(";\t,|", key=lambda mark: sum(line.count(mark) for line in lines[:60]))
    try:
        # Read as it goes: the whole text beside its cells would take as much again.
        text = io.TextIOWrapper(io.BytesIO(data), encoding, newline=None)
        reader = csv.reader(text, delimiter=delimiter)
        cells = [[cell.strip() for cell in row] for row in _bounded(reader)]
    except csv.Error as error:
        raise NoTable(f"The file is no table of text: {error}.") from None
    best = max(range(min(len(cells), HEADER_WITHIN)), key=lambda n: _named(cells[n]), default=None)
    if best is None or not _named(cells[best]):
        raise NoTable("No line names a time and something measured, like 'time;voltage;current'.")
    header = cells[best]
    rows = [row for row in cells[best + 1 :] if any(row)]
    if not rows:
        raise NoTable("There is a header and no row below it.")
    return Table(header, rows, best + 2, delimiter)


def _bounded(rows: Iterable[list[str]]) -> Iterator[list[str]]:
    """The rows, as long as they are not too many nor too wide. Raises NoTable."""
    for n, row in enumerate(while_waited_for(rows), start=1):
        if n > MAX_ROWS:
            raise NoTable(f"The file has more than {MAX_ROWS:,} lines; send it in pieces.")
        if len(row) > MAX_COLUMNS:
            raise NoTable(f"Line {n} has {len(row):,} cells; at most {MAX_COLUMNS} are read.")
        yield row


def _encoding(data: bytes) -> str:
    likely = "utf-16" if data[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8-sig"
    try:
        data.decode(likely)
    except UnicodeDecodeError:
        return "latin-1"
    return likely


def _named(row: list[str]) -> int:
    """How many cells name a column; numbers do not."""
    return sum(
        any(re.search(NAMES[c], cell.lower()) for c in ORDER)
        for cell in row
        if cell and not re.match(r"^[-+\d]", cell)
    )


def guess_mapping(table: Table, zone: tzinfo, first_s: float, last_s: float) -> Mapping:
    """The likeliest mapping; `first_s` and `last_s` bound the trip [UTC s]. Raises NoTable."""
    found: dict[Column, int] = {}
    for column in ORDER:
        for place, name in enumerate(table.header):
            if place not in found.values() and re.search(NAMES[column], name.lower()):
                found[column] = place
                break
    if "time" not in found:
        raise NoTable("No column looks like a time.")
    rest = [p for p in range(len(table.header)) if p not in found.values()]
    clock = next((p for p in rest if re.search(NAMES["clock"], table.header[p].lower())), None)
    if clock is not None and not re.search(r"\d:\d", _cell(table.rows[0], clock)):
        clock = None
    mapping = Mapping(
        time=found["time"],
        clock=None if re.search(r"\d:\d", _cell(table.rows[0], found["time"])) else clock,
        **{c: found.get(c) for c in ("volts", "amps", "percent", "ah_in", "ah_out")},  # type: ignore[arg-type]
    )
    mapping.decimal_comma = table.delimiter != "," and any(
        re.fullmatch(r"-?\d+,\d+", cell) for row in table.rows[:50] for cell in row
    )
    mapping.millivolts = _milli(table, mapping, mapping.volts, "mv", 1000.0)
    mapping.milliamps = _milli(table, mapping, mapping.amps, "ma", None)
    mapping.day_first = _day_first(table, mapping, zone, first_s, last_s)
    mapping.discharge_positive = _discharge_positive(table, mapping)
    return mapping


def _cell(row: list[str], place: int | None) -> str:
    return row[place] if place is not None and place < len(row) else ""


def _milli(
    table: Table, mapping: Mapping, place: int | None, unit: str, above: float | None
) -> bool:
    if place is None:
        return False
    if re.search(rf"\b{unit}\b|[\[(]{unit}[\])]", table.header[place].lower()):
        return True
    values = [
        v for row in table.rows[:50] if (v := _number(_cell(row, place), mapping)) is not None
    ]
    return above is not None and bool(values) and min(values) > above


def _day_first(table: Table, mapping: Mapping, zone: tzinfo, first_s: float, last_s: float) -> bool:
    """Which order of day and month puts more rows on the trip."""

    def inside(*, day_first: bool) -> int:
        tried = mapping.model_copy(update={"day_first": day_first})
        times = (_time(row, tried, zone) for row in table.rows[:: max(len(table.rows) // 200, 1)])
        return sum(at is not None and first_s <= at.timestamp() < last_s for at in times)

    return inside(day_first=True) >= inside(day_first=False)


def _discharge_positive(table: Table, mapping: Mapping) -> bool:
    """Whether a positive current goes with a falling level; else the header's words decide."""
    if mapping.amps is None:
        return False
    agree = 0.0
    last: float | None = None
    for row in table.rows[:5000]:
        amps = _number(_cell(row, mapping.amps), mapping)
        level = _number(_cell(row, mapping.percent), mapping)
        if amps is not None and level is not None:
            if last is not None:
                agree += amps * (level - last)
            last = level
    if agree:
        return agree < 0.0
    return bool(re.search(r"discharg|load|draw|out", table.header[mapping.amps].lower()))


def read_samples(table: Table, mapping: Mapping, zone: tzinfo) -> Read:
    """Every row that has a time and something measured; the others are told by line."""
    samples: list[Sample] = []
    bad: list[tuple[int, str]] = []
    for n, row in enumerate(while_waited_for(table.rows), start=table.first_line):
        at = _time(row, mapping, zone)
        if at is None:
            bad.append((n, f"{_cell(row, mapping.time)!r} is no time"))
            continue
        volts = _number(_cell(row, mapping.volts), mapping, MILLI if mapping.millivolts else 1.0)
        amps = _number(_cell(row, mapping.amps), mapping, MILLI if mapping.milliamps else 1.0)
        percent, ah_in, ah_out = (
            _number(_cell(row, place), mapping)
            for place in (mapping.percent, mapping.ah_in, mapping.ah_out)
        )
        if all(value is None for value in (volts, amps, percent, ah_in, ah_out)):
            bad.append((n, "nothing measured"))
            continue
        if percent is not None and not 0.0 <= percent <= 100.0:
            bad.append((n, f"{percent:g} % is no level"))
            continue
        samples.append(
            Sample(
                round(at.timestamp() * 1000),
                None,
                volts,
                None if amps is None else (-amps if mapping.discharge_positive else amps),
                percent,
                # Counters out are written below zero by some.
                None if ah_in is None else abs(ah_in),
                None if ah_out is None else abs(ah_out),
            )
        )
    return Read(samples, bad)


def _number(cell: str, mapping: Mapping, scale: float = 1.0) -> float | None:
    text = re.sub(r"[^\d.,eE+-]", "", cell)
    if mapping.decimal_comma:
        text = text.replace(".", "").replace(",", ".")
    else:
        text = text.replace(",", "")
    try:
        value = float(text) * scale
    except ValueError:
        return None
    return value if abs(value) < 1e12 else None


def _time(row: list[str], mapping: Mapping, zone: tzinfo) -> datetime | None:
    text = f"{_cell(row, mapping.time)} {_cell(row, mapping.clock)}".strip()
    here = UTC if mapping.zone == "utc" else zone
    if re.fullmatch(r"\d{9,13}(\.\d+)?", text):
        seconds = float(text)
        return datetime.fromtimestamp(seconds / 1000 if seconds > EPOCH_MS_FROM else seconds, UTC)
    try:
        at = datetime.fromisoformat(text.replace("/", "-") if text[:4].isdigit() else text)
    except ValueError:
        parts = re.match(
            r"(\d{1,2})[./-](\d{1,2})[./-](\d{2,4})[ ,T]+(\d{1,2}):(\d{2})(?::(\d{2}))?"
            r"(?:\.\d+)?\s*([ap]m)?",
            text,
            re.IGNORECASE,
        )
        if parts is None:
            return None
        at_or_none = _at(parts, mapping)
        if at_or_none is None:
            return None
        at = at_or_none
    if not FIRST_YEAR <= at.year <= LAST_YEAR:
        return None
    return at if at.tzinfo else at.replace(tzinfo=here)


def _at(parts: re.Match[str], mapping: Mapping) -> datetime | None:
    one, two, year, hour, minute = (int(parts[n]) for n in range(1, 6))
    day, month = (one, two) if mapping.day_first else (two, one)
    half = (parts[7] or "").lower()
    if half:
        hour = hour % 12 + (12 if half == "pm" else 0)
    try:
        full = year + 2000 if year < 100 else year
        return datetime(full, month, day, hour, minute, int(parts[6] or 0))
    except ValueError:
        return None
