"""Whatever bytes come in, a parser answers with what it made of them or with a plain refusal."""

from __future__ import annotations

import contextlib
from zoneinfo import ZoneInfo

from hypothesis import given, settings
from hypothesis import strategies as st

from oddkettle.core.messages.errors import PlanError
from oddkettle.formats.archive import unpack
from oddkettle.formats.calendar_ics import read_calendar
from oddkettle.formats.gpx_track import read_gpx
from oddkettle.formats.monitor_csv import NoTable, guess_mapping, read_samples, read_table
from oddkettle.formats.samples_ndjson import BadLine, line_of, parse_line
from oddkettle.plan.plan_errors import PlanRefused
from tests.support.tiers import examples

LONDON = ZoneInfo("Europe/London")
CELLS = st.sampled_from(
    [
        "time",
        "volts",
        "amps (mA)",
        "SOC %",
        "Ah out",
        "2026-06-08 07:00",
        "08/06/26 7:00 pm",
        "1780898400",
        "13,2",
        "-3.1",
        "1.204,5",
        "NaN",
        "1e400",
        "\x00",
        "",
        "64",
        '"',
        "é°",
    ]
)
ROWS = st.lists(st.lists(CELLS, max_size=7), max_size=9)


@settings(deadline=None, max_examples=examples(150))
@given(ROWS, st.sampled_from(";,\t|"))
def test_any_table_gives_sound_samples_or_is_refused(rows: list[list[str]], delimiter: str) -> None:
    data = "\n".join(delimiter.join(row) for row in rows).encode()
    with contextlib.suppress(NoTable):
        table = read_table(data)
        read = read_samples(table, guess_mapping(table, LONDON, 0.0, 2e9), LONDON)
        assert len(read.samples) + len(read.bad) == len(table.rows)
        for sample in read.samples:
            assert sample.percent is None or 0.0 <= sample.percent <= 100.0
            assert any(value is not None for value in sample[2:])


@settings(deadline=None, max_examples=examples(150))
@given(st.binary(max_size=400))
def test_any_bytes_are_a_table_or_none(data: bytes) -> None:
    with contextlib.suppress(NoTable):
        table = read_table(data)
        guess_mapping(table, LONDON, 0.0, 2e9)


@settings(deadline=None)
@given(st.binary(max_size=300))
def test_any_bytes_are_an_archive_or_none(data: bytes) -> None:
    for body in (data, b"PK\x03\x04" + data):
        with contextlib.suppress(PlanRefused):
            unpack(body)


@settings(deadline=None)
@given(st.one_of(st.binary(max_size=200), st.text(max_size=200)))
def test_any_line_is_a_sample_or_none(line: bytes | str) -> None:
    with contextlib.suppress(BadLine):
        sample = parse_line(line)
        assert parse_line(line_of(sample)) == sample


GPX_PARTS = st.sampled_from(
    [
        '<trkpt lat="54.1" lon="-2">',
        '<trkpt lat="x">',
        "</trkpt>",
        "<ele>NaN</ele>",
        "<trkseg>",
        "</trkseg>",
        "<time>2026-06-06T07:00:00Z</time>",
        "<time>never</time>",
        "<trk>",
        "</trk>",
        '<rtept lat="91" lon="0"/>',
        "&lt;",
        "<ele>1e400</ele>",
        "<rte>",
        "</rte>",
    ]
)


@settings(deadline=None, max_examples=examples(150))
@given(st.one_of(st.binary(max_size=300), st.lists(GPX_PARTS, max_size=14)))
def test_any_bytes_are_a_track_or_none(parts: bytes | list[str]) -> None:
    data = parts if isinstance(parts, bytes) else f"<gpx>{''.join(parts)}</gpx>".encode()
    with contextlib.suppress(PlanError):
        for line in read_gpx(data):
            assert len(line) > 1
            assert all(-90 <= fix.latitude <= 90 for fix in line)


ICS_PARTS = st.sampled_from(
    [
        "BEGIN:VEVENT",
        "END:VEVENT",
        "DTSTART:20260607T070000Z",
        "DTSTART:20261345T990000",
        "UID:1",
        "DTEND:20260607T080000",
        "DTSTART;TZID=Nowhere/Town:20260607T070000",
        "DURATION:PT2H",
        "DURATION:PX",
        "SUMMARY:\\,\\;",
        "DTSTART;VALUE=DATE:20260607",
        "RRULE:FREQ=NEVER",
        ":",
        ";=",
        "CATEGORIES:DRIVE",
        "BEGIN:VALARM",
        "END:VALARM",
        "\x00",
    ]
)


@settings(deadline=None, max_examples=examples(150))
@given(st.one_of(st.binary(max_size=300), st.lists(ICS_PARTS, max_size=14)))
def test_any_bytes_are_a_calendar_or_none(parts: bytes | list[str]) -> None:
    data = parts
    if isinstance(parts, list):
        data = "\r\n".join(["BEGIN:VCALENDAR", *parts, "END:VCALENDAR", ""]).encode()
    with contextlib.suppress(PlanError):
        for one in read_calendar(data, LONDON).happenings:
            assert one.end is not None
            assert one.start < one.end
