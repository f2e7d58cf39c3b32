"""Open roads: tracks, calendars and places, held against files written by hand."""

from __future__ import annotations

from datetime import datetime, timedelta
from pathlib import Path
from zoneinfo import ZoneInfo

import numpy as np
import pytest
from icalendar import Calendar

from oddkettle.core.trip.track_legs import distances_km, legs_by_pace, legs_by_time
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.text.render import render
from oddkettle.usecases.exchange.calendar_file import calendar_of, look_at_calendar, stops_of
from oddkettle.usecases.exchange.track_file import Pace, look_at_track
from oddkettle.usecases.plans.plans import create_plan, open_plan
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_cache import ensemble_of

USUAL = Pace()
HOUR = 3600.0


def gpx(points: list[tuple[float, float, float, str | None]]) -> bytes:
    """A track, written out by hand: latitude, longitude, height, time."""
    lines = "".join(
        f'<trkpt lat="{lat}" lon="{lon}"><ele>{ele}</ele>'
        + (f"<time>{at}</time>" if at else "")
        + "</trkpt>"
        for lat, lon, ele, at in points
    )
    return (
        '<?xml version="1.0"?><gpx version="1.1" creator="hand" '
        f'xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>{lines}</trkseg></trk></gpx>'
    ).encode()


def northward(plan: Plan, begin: str, minutes: int, kmh: float, lat: float) -> tuple[list, float]:
    """Points a minute apart, driven due north from a latitude at the plan's longitude."""
    lon = plan.trip.site.longitude
    start, points = datetime.fromisoformat(begin), []
    for minute in range(minutes + 1):
        at = start + timedelta(minutes=minute)
        # One degree of latitude is 111.195 km on the mean sphere.
        here = lat + kmh * minute / 60 / 111.195
        points.append((round(here, 6), lon, 310.0, f"{at:%Y-%m-%dT%H:%M:%SZ}"))
    return points, points[-1][0]


def test_distances_are_those_of_the_sphere() -> None:
    # A degree of latitude, a degree of longitude at 60 degrees north, and a quarter of the earth.
    for (a, b), (c, d), km in (
        ((0, 0), (1, 0), 111.195),
        ((60, 10), (60, 11), 55.597),
        ((0, 0), (0, 90), 10007.56),
    ):
        found = distances_km(np.array([a, c], float), np.array([b, d], float))[0]
        assert found == pytest.approx(km, rel=1e-4)


def test_a_short_halt_belongs_to_the_drive_and_a_long_one_parts_it() -> None:
    drive = np.full(30, 1.0)
    for halt_min, count in ((15, 1), (30, 2)):
        km = np.concatenate([drive, np.zeros(halt_min), drive])
        seconds = np.arange(len(km) + 1) * 60.0
        legs = legs_by_time(seconds, km)
        assert len(legs) == count
        assert sum(leg.km for leg in legs) == pytest.approx(60.0)
        assert legs[0].from_s == 0.0
        assert legs[-1].until_s == seconds[-1]


def test_standing_still_and_walking_are_no_drives() -> None:
    seconds = np.arange(121) * 60.0
    assert legs_by_time(seconds, np.zeros(120)) == []
    assert legs_by_time(seconds, np.full(120, 4.0 / 60)) == []


def test_a_line_without_times_is_driven_so_many_hours_a_day() -> None:
    legs = legs_by_pace(np.full(450, 1.0), 50.0, 0.0, 24 * HOUR, 4.0)
    assert [round(leg.km) for leg in legs] == [200, 200, 50]
    assert [leg.until_s - leg.from_s for leg in legs] == pytest.approx([4 * HOUR, 4 * HOUR, HOUR])
    assert [leg.from_s for leg in legs] == [0.0, 24 * HOUR, 48 * HOUR]


def test_a_track_becomes_drives_in_local_time_and_places_to_stay_at(
    plan_id: int, moth: Plan
) -> None:
    first, lat = northward(moth, "2026-06-07T08:00:00", 90, 60.0, moth.trip.site.latitude)
    second, _ = northward(moth, "2026-06-09T10:30:00", 60, 40.0, lat)
    look = look_at_track(plan_id, gpx(first + second), USUAL)
    assert look.timed
    assert not look.shifted
    # British summer time is an hour ahead of the stamps.
    assert [(d.day, d.start, d.end) for d in look.drives] == [
        (1, "09:00", "10:30"),
        (3, "11:30", "12:30"),
    ]
    assert [d.km for d in look.drives] == pytest.approx([90, 40], abs=0.3)
    assert render(look.drives[0].text) == "Sun 7, 09:00 to 10:30: 90 km"
    assert [stop.days for stop in look.stops] == [[1, 2], [3, 4, 5, 6, 7, 8]]
    assert look.stops[0].altitude_m == 310
    assert look.stops[0].latitude == pytest.approx(moth.trip.site.latitude + 90 / 111.195, abs=1e-3)
    after = with_edits(moth, look.edits)
    drives = [b for b in after.trip.blocks if b.kind == "drive" and b.day in (1, 3)]
    assert [(b.start, b.end) for b in drives] == [("09:00", "10:30"), ("11:30", "12:30")]
    assert after.trip.days[2].stop == after.trip.days[1].stop != after.trip.days[3].stop
    # Other days' drives stand as they stood.
    kept = [b for b in moth.trip.blocks if b.kind != "drive" or b.day not in (1, 3)]
    assert all(b in after.trip.blocks for b in kept)


def test_a_track_of_another_year_is_laid_on_the_trip(plan_id: int, moth: Plan) -> None:
    points, _ = northward(moth, "2019-03-02T08:00:00", 60, 60.0, moth.trip.site.latitude)
    look = look_at_track(plan_id, gpx(points), USUAL)
    assert look.shifted
    assert look.drives[0].day == 0
    assert "outside the trip" in look.text


def test_a_route_without_times_takes_the_pace_that_is_typed(plan_id: int, moth: Plan) -> None:
    lat, lon = moth.trip.site.latitude, moth.trip.site.longitude
    line = [(lat + n * 0.01, lon, 100.0, None) for n in range(91)]
    look = look_at_track(plan_id, gpx(line), Pace(kmh=50.0, start="08:30", day=2, hours_a_day=1.0))
    assert not look.timed
    assert [(d.day, d.start) for d in look.drives] == [(2, "08:30"), (3, "08:30")]
    assert [d.end for d in look.drives[:2]] == ["09:30", "09:30"]
    assert sum(d.km for d in look.drives) == pytest.approx(0.9 * 111.195, rel=1e-3)


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"not xml",
        b"<gpx/>",
        b'<?xml version="1.0"?><!DOCTYPE g [<!ENTITY a "aa">]><gpx>&a;</gpx>',
        b"\xff\xfe\x00",
        gpx([(54.0, -2.0, 1.0, None)]),
        gpx([(954.0, -2.0, 1.0, None), (99.0, -2.0, 1.0, None)]),
    ],
)
def test_what_is_no_track_is_refused_with_a_remedy(plan_id: int, data: bytes) -> None:
    with pytest.raises(PlanRefused) as refused:
        look_at_track(plan_id, data, USUAL)
    assert refused.value.complaints[0].remedy.startswith("Export the track")


def test_the_calendar_says_what_the_plan_does_and_can_be_read_by_others(
    plan_id: int, moth: Plan
) -> None:
    name, data = calendar_of(plan_id)
    assert name == moth.name
    text = data.decode()
    assert text.startswith("BEGIN:VCALENDAR\r\n")
    # RFC 5545: lines end in CRLF and are folded at 75 octets.
    assert all(len(line) <= 75 for line in data.split(b"\r\n"))
    assert "\n" not in text.replace("\r\n", "")
    whole = text.replace("\r\n ", "")
    assert "DTSTART;TZID=Europe/London:20260609T093000" in whole
    assert "BEGIN:VTIMEZONE" in whole
    drives = [b for b in moth.trip.blocks if b.kind == "drive"]
    assert whole.count("CATEGORIES:DRIVE") == len(drives)
    assert "SUMMARY:Before leaving: the box's checks" in whole
    assert "BEGIN:VTODO" in whole
    assert "SUMMARY:Be back\\, or charge the box" in whole
    assert "\ue000" not in whole, "a mark of a quantity was left unwritten"
    uids = [line for line in whole.split("\r\n") if line.startswith("UID:")]
    assert len(uids) == len(set(uids))


def test_what_goes_out_as_a_calendar_comes_back_as_the_same_blocks(store: Path, moth: Plan) -> None:
    _, data = calendar_of(create_plan(moth).id)
    bare = moth.model_copy(update={"trip": moth.trip.model_copy(update={"blocks": []})})
    bare_id = create_plan(bare).id
    look = look_at_calendar(bare_id, data)
    after = with_edits(bare, look.edits)

    def spans(plan: Plan) -> set[tuple[str, int, str, int, str]]:
        kinds = {"drive", "hookup", "generator", "panel_out"}
        return {
            (b.kind, b.day, b.start, b.end_day or b.day, b.end)
            for b in plan.trip.blocks
            if b.kind in kinds
        }

    assert spans(after) == spans(moth)
    # Read once more into a plan that has them all, nothing is new.
    again = look_at_calendar(create_plan(after).id, data)
    assert again.edits == []


def calendar(*events: str) -> bytes:
    """A calendar, written out by hand."""
    whole = "".join(f"BEGIN:VEVENT\r\n{event}\r\nEND:VEVENT\r\n" for event in events)
    return (
        f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//hand//EN\r\n{whole}END:VCALENDAR\r\n".encode()
    )


def test_a_calendars_entries_come_in_as_drives(plan_id: int) -> None:
    look = look_at_calendar(
        plan_id,
        calendar(
            # In UTC: an hour earlier than the trip's clock.
            "UID:1\r\nSUMMARY:To the ferry\r\nDTSTART:20260607T070000Z\r\nDTEND:20260607T084500Z",
            "UID:2\r\nSUMMARY:Over night\r\nDTSTART:20260608T233000\r\nDURATION:PT2H",
            "UID:3\r\nSUMMARY:Day off\r\nDTSTART;VALUE=DATE:20260607",
            "UID:4\r\nSUMMARY:Later\r\nDTSTART:20270607T070000Z\r\nDTEND:20270607T084500Z",
            "UID:5\r\nSUMMARY:Weekly\r\nDTSTART:20260610T070000Z\r\nDTEND:20260610T073000Z\r\n"
            "RRULE:FREQ=WEEKLY",
        ),
    )
    assert [render(entry.text) for entry in look.entries] == [
        "Sun 7, 08:00 to 09:45: To the ferry (drive)",
        "Mon 8, 23:30 to 01:30: Over night (drive)",
        "Wed 10, 08:00 to 08:30: Weekly (drive)",
    ]
    assert (look.outside, look.all_day, look.again) == (1, 1, 1)
    document = open_plan(plan_id).document
    after = with_edits(document, look.edits)
    night = next(b for b in after.trip.blocks if b.start == "23:30")
    assert (night.day, night.end_day, night.end) == (2, 3, "01:30")


@pytest.mark.parametrize("data", [b"", b"BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n", b"\x00\xff"])
def test_what_is_no_calendar_is_refused_with_a_remedy(plan_id: int, data: bytes) -> None:
    with pytest.raises(PlanRefused) as refused:
        look_at_calendar(plan_id, data)
    assert "iCalendar" in refused.value.complaints[0].remedy


def test_places_go_out_as_geojson_longitude_first(plan_id: int, moth: Plan) -> None:
    _, document = stops_of(plan_id)
    assert document["type"] == "FeatureCollection"
    (home,) = document["features"]  # type: ignore[misc]
    site = moth.trip.site
    # RFC 7946: longitude, latitude, height.
    assert home["geometry"]["coordinates"] == [site.longitude, site.latitude, site.altitude_m]
    assert home["properties"]["days"][0] == "2026-06-06"
    assert len(home["properties"]["days"]) == len(moth.trip.days)


def test_be_back_by_is_when_one_trip_of_ten_has_been_under_the_reserve(
    plan_id: int, moth: Plan
) -> None:
    """By hand: each trip's first step under it, in order; the one at the tenth of all."""
    ensemble = ensemble_of(moth)
    count = ensemble.level.shape[0]
    firsts = []
    for level in ensemble.level:
        under = [n for n, one in enumerate(level) if one < ensemble.case.fails_below]
        if under:
            firsts.append(under[0])
    at_tenth = sorted(firsts)[-(-count // 10) - 1]
    zone = ZoneInfo(moth.trip.site.timezone)
    first = datetime.combine(moth.trip.start, datetime.min.time(), zone)
    expected = first + timedelta(hours=at_tenth * ensemble.grid.step_h)
    told = Calendar.from_ical(calendar_of(plan_id)[1])
    back = [one for one in told.walk() if "Be back" in str(one.get("summary"))]
    assert [(one["dtstart"].dt, one["dtend"].dt) for one in back] == [
        (expected - timedelta(hours=1), expected)
    ]
