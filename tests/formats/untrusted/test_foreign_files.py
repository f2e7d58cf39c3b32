"""Files that are made to stop a reader are refused in words, before anything is built of them."""

from __future__ import annotations

import io
import zipfile
from datetime import UTC
from zoneinfo import ZoneInfo

import gpxpy
import pytest

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.values.cancellation import GivenUp, giving_up_when
from oddkettle.formats.archive import unpack
from oddkettle.formats.calendar_ics import read_calendar
from oddkettle.formats.gpx_track import read_gpx
from oddkettle.formats.untrusted.xml_bounds import (
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
    [
        "0001-01-01T00:00:00Z",
        "9999-12-31T23:59:59Z",
        "9999-12-31T23:59:59-14:00",
        "0001-01-01T00:00:00+14:00",
    ],
)
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


RICH = """<?xml version="1.0" encoding="{encoding}"?>
<gpx version="1.1" creator="räiser" xmlns="http://www.topografix.com/GPX/1/1"
     xmlns:own="http://example.org/own">
  <metadata><name>Über den Paß</name><time>2026-06-08T05:00:00Z</time></metadata>
  <wpt lat="50.1" lon="4.1"><name>Zelt</name><ele>3</ele></wpt>
  <trk><name>ä</name>
    <trkseg>
      <trkpt lat="50.10000" lon="4.10000"><ele>120.5</ele><time>2026-06-08T10:00:00Z</time>
        <extensions><own:speed>3.1</own:speed><own:ele>9</own:ele></extensions></trkpt>
      <trkpt lat="50.20000" lon="-4.20000"><time>2026-06-08T12:00:00.500+02:00</time></trkpt>
      <trkpt lat="-50.3" lon="179.9"><ele> 121 </ele></trkpt>
    </trkseg>
    <trkseg><trkpt lat="1" lon="2"/></trkseg>
    <trkseg><trkpt lat="1" lon="2"/><trkpt lat="1.5" lon="2.5"><ele>0</ele></trkpt></trkseg>
  </trk>
  <rte><rtept lat="51" lon="5"/><rtept lat="52" lon="6"><ele>7</ele></rtept></rte>
</gpx>"""


@pytest.mark.parametrize("encoding", ["UTF-8", "ISO-8859-1", "UTF-16"])
def test_a_rich_track_is_read_as_another_reader_reads_it(encoding: str) -> None:
    text = RICH.format(encoding=encoding)
    theirs = gpxpy.parse(text.replace(f' encoding="{encoding}"', ""))
    lines = [segment.points for track in theirs.tracks for segment in track.segments]
    lines += [route.points for route in theirs.routes]
    expected = [
        [(p.latitude, p.longitude, p.elevation, p.time and p.time.astimezone(UTC)) for p in line]
        for line in lines
        if len(line) > 1
    ]
    ours = read_gpx(text.encode(encoding))
    read = [[(f.latitude, f.longitude, f.height_m, f.at) for f in line] for line in ours]
    assert read == expected
    assert len(read) == 3


def test_reading_ends_when_nobody_waits() -> None:
    points = '<trkpt lat="50" lon="4"/>' * 2000
    with giving_up_when(lambda: True), pytest.raises(GivenUp):
        read_gpx(gpx(f"<trk><trkseg>{points}</trkseg></trk>"))
