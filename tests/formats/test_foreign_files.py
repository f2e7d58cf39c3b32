"""Files that are made to stop a reader are refused in words, before anything is built of them."""

from __future__ import annotations

import io
import zipfile
from zoneinfo import ZoneInfo

import pytest

from oddkettle.core.foundation.errors import PlanError
from oddkettle.formats.archive import unpack
from oddkettle.formats.calendar_ics import read_calendar
from oddkettle.formats.gpx_track import read_gpx
from oddkettle.formats.xml_bounds import (
    MAX_ATTRIBUTES,
    MAX_DEPTH,
    MAX_NAMES,
    OutOfBounds,
    check_bounds,
)
from oddkettle.plan.plan_errors import PlanRefused

LONDON = ZoneInfo("Europe/London")


def gpx(inside: str, more: str = "") -> bytes:
    return f'<gpx version="1.1" creator="hand"{more}>{inside}</gpx>'.encode()


def track(time: str = "") -> str:
    at = f"<time>{time}</time>" if time else ""
    points = "".join(f'<trkpt lat="54.{n}" lon="-2.1">{at}</trkpt>' for n in range(3))
    return f"<trk><trkseg>{points}</trkseg></trk>"


def calendar(*lines: str) -> bytes:
    inside = ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:hand", *lines, "END:VCALENDAR", ""]
    return "\r\n".join(inside).encode()


def event(start: str, end: str) -> list[str]:
    return ["BEGIN:VEVENT", "UID:1", "SUMMARY:Drive", start, end, "END:VEVENT"]


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (gpx("<extensions>" + "<a>" * 200_000 + "</a>" * 200_000 + "</extensions>"), "nested"),
        (gpx("".join(f'<trk xmlns:n{n}="u{n}"/>' for n in range(60_000))), "namespaces"),
        (gpx("", "".join(f' xmlns:n{n}="u{n}"' for n in range(60_000))), "namespaces"),
        (gpx("", "".join(f' a{n}="{n}"' for n in range(100_000))), "attributes"),
        (b'<!DOCTYPE gpx [<!ENTITY a "aaaa">]>' + gpx("&a;"), "entities"),
        (b" " * 5000 + b'<!DOCTYPE gpx [<!ENTITY a "aaaa">]>' + gpx("&a;"), "entities"),
        (gpx(track())[:-20], "no XML"),
        (b"\xff\xfe\x00", "no XML"),
    ],
)
def test_a_track_that_would_stop_its_reader_is_refused_in_words(data: bytes, said: str) -> None:
    with pytest.raises(PlanError, match=said):
        read_gpx(data)


def test_bounds_are_passed_by_one_and_not_by_none() -> None:
    def nested(depth: int) -> bytes:
        return ("<a>" * depth + "</a>" * depth).encode()

    check_bounds(nested(MAX_DEPTH))
    with pytest.raises(OutOfBounds):
        check_bounds(nested(MAX_DEPTH + 1))
    for count, one in ((MAX_ATTRIBUTES, "a{n}"), (MAX_ATTRIBUTES, "xmlns:n{n}")):
        whole = " ".join(f'{one.format(n=n)}="u"' for n in range(count))
        check_bounds(f"<a {whole}/>".encode())
        with pytest.raises(OutOfBounds):
            check_bounds(f'<a {whole} more="u"/>'.encode())
    names = "".join(f'<b xmlns:n{n}="u"/>' for n in range(MAX_NAMES))
    check_bounds(f"<a>{names}</a>".encode())
    with pytest.raises(OutOfBounds):
        check_bounds(f'<a xmlns="u">{names}</a>'.encode())


def test_a_track_as_receivers_write_it_is_read() -> None:
    names = ' xmlns="http://example.org/gpx" xmlns:x="http://example.org/x"'
    (line,) = read_gpx(gpx(f"<metadata><time/></metadata>{track('2026-06-08T10:00:00Z')}", names))
    assert [fix.latitude for fix in line] == [54.0, 54.1, 54.2]
    assert line[0].at is not None


@pytest.mark.parametrize(
    "time",
    ["0001-01-01T00:00:00Z", "9999-12-31T23:59:59Z", "9999-12-31T23:59:59-14:00",
     "0001-01-01T00:00:00+14:00"],
)  # fmt: skip
def test_a_moment_at_the_calendars_ends_is_no_moment(time: str) -> None:
    (line,) = read_gpx(gpx(track(time)))
    assert all(fix.at is None for fix in line)
    stamp = time.replace("-", "").replace(":", "")[:15]
    found = read_calendar(calendar(*event(f"DTSTART:{stamp}Z", f"DTEND:{stamp}Z")), LONDON)
    assert found.happenings == []


@pytest.mark.parametrize(
    "lines",
    [
        ["A:1"] * 700_000,
        ["BEGIN:VEVENT"] * 20_000,
        ["BEGIN:VEVENT", "END:VEVENT"] * 20_000,
        ["SUMMARY:" + "x" * 30_000],
        event(f"DTSTART;TZID={'a' * 5000}:20260608T100000", "DTEND:20260608T110000"),
        event(f"DTSTART;TZID={'a/' * 2000}:20260608T100000", "DTEND:20260608T110000"),
        event("DTSTART;TZID=../../etc/passwd:20260608T100000", "DTEND:20260608T110000"),
    ],
    ids=["lines", "nested", "many", "long line", "long zone", "deep zone", "path as zone"],
)
def test_a_calendar_that_would_stop_its_reader_is_refused_or_read_without_it(
    lines: list[str],
) -> None:
    said: tuple[str, ...] = ()
    try:
        found = read_calendar(calendar(*lines), LONDON).happenings
    except PlanError as refused:
        found, said = [], (refused.limit, refused.remedy)
    assert len(found) <= 1
    assert all(said)


@pytest.mark.parametrize("spoil", [52, 80])
def test_a_damaged_lzma_archive_is_refused(spoil: int) -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_LZMA) as packed:
        packed.writestr("plan.json", b"{}" * 400)
    data = bytearray(out.getvalue())
    data[spoil : spoil + 8] = b"\xff" * 8
    with pytest.raises(PlanRefused):
        unpack(bytes(data))
