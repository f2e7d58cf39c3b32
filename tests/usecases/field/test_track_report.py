"""Where the battery stands, in words; what is learned; the rest from here; plan against actual."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.store.log import Entry
from oddkettle.store.samples import QUARTER_MS, Quarter
from oddkettle.text import render
from oddkettle.usecases.field.log.entries import Detail, NewEntry
from oddkettle.usecases.field.log.log import add_entry, delete_entry, list_entries
from oddkettle.usecases.field.samples.samples import ingest, readings_of_samples, view
from oddkettle.usecases.field.track import tracked_trip as whereabouts
from oddkettle.usecases.field.track.case_from_log import readings_of
from oddkettle.usecases.field.track.today import today_of
from oddkettle.usecases.field.track.track_report import TrackReport, rest_of, track_plan
from oddkettle.usecases.field.track.trip_report import report_trip
from oddkettle.usecases.improve.onward import seek_onward
from oddkettle.usecases.improve.seek import Goal
from oddkettle.usecases.plans.plans import create_plan
from oddkettle.usecases.simulate.remedies import with_edits
from tests.conftest import example
from tests.usecases.conftest import percent, sought_of


def test_before_anything_is_logged_it_is_the_plan(plan_id: int) -> None:
    report = track_plan(plan_id)
    assert (report.why, report.begun, report.readings) == ("start", False, 0)
    assert report.learned == []
    assert report.now == "2026-06-06T00:00+01:00"


def test_now_is_the_last_that_is_known_of_a_trip_that_is_over(plan_id: int) -> None:
    percent(plan_id, 8, 7, 55)
    percent(plan_id, 7, 7, 60)
    report = track_plan(plan_id)
    assert (report.why, report.now) == ("last", "2026-06-08T07:00+01:00")
    at_ms = round(datetime.fromisoformat("2026-06-09T12:00+01:00").timestamp() * 1000)
    ingest(plan_id, [Sample(at_ms, volts=13.1)], [])
    assert track_plan(plan_id).now == "2026-06-09T12:00+01:00"


def test_now_is_the_clock_while_the_trip_is_under_way(
    plan_id: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    percent(plan_id, 7, 7, 60)
    monkeypatch.setattr(whereabouts, "now_utc", lambda: "2026-06-10T11:00:00+00:00")
    report = track_plan(plan_id)
    assert (report.why, report.now) == ("clock", "2026-06-10T12:00+01:00")


def test_any_moment_may_be_chosen_and_later_readings_are_not_known_then(plan_id: int) -> None:
    percent(plan_id, 7, 7, 60)
    percent(plan_id, 9, 7, 20)
    early = track_plan(plan_id, datetime(2026, 6, 8, 7))
    assert (early.why, early.readings) == ("chosen", 1)
    assert track_plan(plan_id, datetime(2030, 1, 1)).rest.days[-1] is not None


def test_the_band_runs_over_the_whole_trip_and_narrows_where_it_was_read(logged: int) -> None:
    report = track_plan(logged)
    band = report.rest.band
    steps = 9 * 24 * 60 // band.step_min
    assert len(band.low) == len(band.middle) == len(band.high) == steps + 1
    now = round(report.now_step * 5 / band.step_min)
    wide = [high - low for low, high in zip(band.low, band.high, strict=True)]
    assert wide[now] < 22 < max(wide[now:])
    assert band.middle[now] == pytest.approx(report.level.middle, abs=1)
    for low, middle, high in zip(band.low, band.middle, band.high, strict=True):
        assert low <= middle <= high


def test_the_demo_log_teaches_its_hidden_truth(logged: int) -> None:
    """The trap draws .72 of what was typed, the laptop 1.15 times."""
    report = track_plan(logged)
    learned = {one.key: one for one in report.learned}
    assert report.aside == 0
    assert learned["appliance:trap"].after.middle < 0.95
    assert learned["use"].told
    assert learned["use"].after.high - learned["use"].after.low < 0.3
    assert [one.told for one in report.learned] == sorted(
        (one.told for one in report.learned), reverse=True
    )


def test_what_is_taken_over_makes_a_plan_that_runs(logged: int, moth: Plan) -> None:
    taken = [one for one in track_plan(logged).learned if one.take_over is not None]
    assert taken
    for one in taken:
        assert one.told
        changed = with_edits(moth, one.take_over.edits)
        assert changed != moth
        if one.kind == "appliance":
            place = next(e.path[2] for e in one.take_over.edits)
            appliance = changed.use.appliances[place]
            # Learned, and no measurement: it keeps a spread of its own.
            assert appliance.figure == "learned"
            assert appliance.spread_percent >= 15
            narrower = (one.after.high - one.after.low) / (one.before.high - one.before.low)
            assert narrower < 0.8
            typed = moth.use.appliances[place].power_w
            assert appliance.power_w == pytest.approx(typed * one.after.middle, rel=0.01)


def test_an_odd_reading_is_marked_and_said(logged: int) -> None:
    odd = percent(logged, 8, 6, 3)
    report = track_plan(logged)
    (mark,) = [mark for mark in report.marks if mark.entry == odd]
    assert mark.state == "aside"
    assert mark.text.startswith("Not used yet:")
    assert report.aside == 1
    delete_entry(logged, odd)
    assert track_plan(logged).aside == 0


def test_a_drive_that_was_not_driven_leaves_less(plan_id: int) -> None:
    percent(plan_id, 8, 20, 60)
    at = datetime(2026, 6, 9, 20)
    drove = track_plan(plan_id, at).level.middle
    add_entry(plan_id, NewEntry(at=datetime(2026, 6, 9, 12), kind="no_drive"))
    assert track_plan(plan_id, at).level.middle < drove - 10


def test_hours_to_the_floor_are_told_where_it_is_reached(plan_id: int) -> None:
    percent(plan_id, 8, 21, 30)
    percent(plan_id, 8, 22, 27)
    report = track_plan(plan_id)
    assert report.to_floor.percent > 50
    assert report.to_floor.hours is not None
    assert report.to_floor.hours.middle < 12
    assert "goes under 20 %" in report.detail
    sure = _tracked_at(plan_id, 14, 23)
    assert sure.to_floor.percent < 10


def _tracked_at(plan_id: int, day: int, hour: int) -> TrackReport:
    return track_plan(plan_id, datetime(2026, 6, day, hour))


def test_the_trip_that_is_over_says_so(plan_id: int) -> None:
    percent(plan_id, 7, 7, 60)
    report = track_plan(plan_id, datetime(2026, 6, 20))
    assert report.detail == "The trip is over."


def test_plan_and_actual_add_up(logged: int) -> None:
    report = report_trip(logged)
    assert [day.done for day in report.days] == [True, True, False]
    assert str(report.days[0].date) == "2026-06-06"
    for day in report.days:
        planned = sum(p.planned_ah for p in day.parts if p.kind == "use")
        assert planned == pytest.approx(day.planned_out_ah)
        middles = sum(p.actual_ah.middle for p in day.parts if p.kind == "use")
        assert middles == pytest.approx(day.actual_out_ah.middle, abs=2.0)
        assert day.actual_in_ah.low <= day.actual_in_ah.middle <= day.actual_in_ah.high
    for total in report.total:
        by_day = sum(p.planned_ah for day in report.days for p in day.parts if p.key == total.key)
        assert total.planned_ah == pytest.approx(by_day)


def test_what_was_counted_is_what_is_reported(logged: int) -> None:
    """By the evening of the second day the shunt had counted 70.8 Ah out."""
    report = report_trip(logged)
    net = [d.actual_in_ah.middle - d.actual_out_ah.middle for d in report.days[:2]]
    # 56.0 in less 70.8 out up to 21:31, and some hours of night after it.
    assert -35 < sum(net) < -14.8


def test_lessons_are_of_what_was_clearly_otherwise(logged: int, plan_id: int) -> None:
    lessons = report_trip(logged).lessons
    assert lessons
    assert not any(lesson.startswith("The battery") for lesson in lessons)
    assert len(lessons) <= 5


def test_without_a_log_there_is_nothing_to_compare(plan_id: int) -> None:
    report = report_trip(plan_id)
    assert report.days == report.total == report.entries == []
    assert report.headline == "Nothing has happened yet."


def quarter(n: int, percent: float | None, ah_in: float | None, ah_out: float | None) -> Quarter:
    return Quarter((n + 100_000) * QUARTER_MS, percent, ah_in, ah_out)


def test_samples_are_read_every_six_hours_and_their_percent_every_twelve() -> None:
    rows = [quarter(n, 80 - n / 4, 0.0, n / 2) for n in range(4 * 24 + 1)]
    found = readings_of_samples(rows)
    out = [r for r in found if r.kind == "ah_out"]
    assert [r.value for r in out] == [12.0] * 4
    assert all(r.since_s is not None and r.at_s - r.since_s == 6 * 3600 for r in out)
    assert len([r for r in found if r.kind == "percent"]) == 3


def test_over_a_reset_of_the_counters_nothing_is_said() -> None:
    rows = [quarter(n, None, 0.0, float(n)) for n in range(20)]
    rows += [quarter(n, None, 0.0, float(n - 20)) for n in range(20, 50)]
    assert [r.value for r in readings_of_samples(rows)] == [0.0, 24.0]


def test_a_monitor_without_counters_says_only_its_percent() -> None:
    rows = [quarter(n, 50.0, None, None) for n in range(60)]
    assert {r.kind for r in readings_of_samples(rows)} == {"percent"}


def test_samples_off_the_trip_are_not_stored_and_the_clock_is_asked_about(plan_id: int) -> None:
    inside = round(datetime.fromisoformat("2026-06-08T12:00+00:00").timestamp() * 1000)
    done = ingest(plan_id, [Sample(0, volts=13.0), Sample(inside, volts=13.0)], [])
    assert (done.stored, done.duplicates, done.refused) == (1, 0, 1)
    assert "1970" in done.refusals[0].text
    assert "clock" in done.refusals[0].text
    assert view(plan_id).total == 1


def test_today_says_that_a_monitor_on_the_line_is_what_the_level_rests_on(plan_id: int) -> None:
    begin = datetime.fromisoformat("2026-06-07T08:00+00:00")
    add_entry(plan_id, NewEntry(at=datetime(2026, 6, 7, 7), kind="monitor_percent", value=58))
    told = today_of(plan_id, datetime(2026, 6, 7, 8)).read
    assert told is not None
    assert "58 %" in render(told.text)
    minutes = range(0, 14 * 60, 5)
    ingest(
        plan_id,
        [
            Sample(round(1000 * (begin.timestamp() + 60 * n)), volts=13.2, percent=58 + n / 60)
            for n in minutes
        ],
        [],
    )
    live = today_of(plan_id, datetime(2026, 6, 7, 22)).read
    assert live is not None
    assert "monitor, live" in render(live.text)
    assert begin < live.at <= begin + timedelta(hours=14)


def test_entries_of_every_kind_are_said_in_words(plan_id: int) -> None:
    at, until = datetime(2026, 6, 8, 9), datetime(2026, 6, 8, 11, 30)
    for new, text in (
        (NewEntry(at=at, kind="rested_voltage", value=13.1, rested_h=3), "after 3 h of rest"),
        (
            NewEntry(at=at, kind="loaded_voltage", value=12.9, amps=-6),
            "12.9 V under load with -6 A",
        ),
        (NewEntry(at=at, kind="net_amps", value=4.5), "+4.5 A at the battery"),
        (NewEntry(at=at, kind="counters", wh_in=300), "counted 300 Wh in"),
        (
            NewEntry(at=at, kind="two_meters", gross_in=40, gross_out=52.5),
            "two meters counted 40 Ah from the sources, 52.5 Ah into the loads",
        ),
        (NewEntry(at=at, kind="hooked_up", until=until), "on mains until 11:30"),
        (NewEntry(at=at, kind="ran", until=until, appliance="trap"), "Light trap on until 11:30"),
        (NewEntry(at=at, kind="sky", sky="heavy"), "heavy overcast or rain"),
    ):
        assert text in render(add_entry(plan_id, new).text)
    assert len(list_entries(plan_id)) == 8


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"kind": "monitor_percent"}, "value"),
        ({"kind": "net_amps", "value": 5000}, "value"),
        ({"kind": "counters"}, "ah_out"),
        ({"kind": "two_meters"}, "gross_out"),
        ({"kind": "drove"}, "until"),
        ({"kind": "drove", "until": datetime(2026, 6, 8, 8)}, "until"),
        ({"kind": "drove", "until": datetime(2026, 6, 12, 8)}, "until"),
        ({"kind": "skipped", "until": datetime(2026, 6, 8, 10), "appliance": "tv"}, "appliance"),
        ({"kind": "sky"}, "sky"),
        ({"kind": "counters", "ah_out": 3, "since": datetime(2026, 6, 8, 12)}, "since"),
    ],
)
def test_an_entry_that_cannot_be_is_refused_at_its_field(
    plan_id: int, change: dict, where: str
) -> None:
    with pytest.raises(PlanRefused) as caught:
        add_entry(plan_id, NewEntry(at=datetime(2026, 6, 8, 9), **change))
    (complaint,) = caught.value.complaints
    assert complaint.where == where
    assert complaint.remedy
    assert complaint.limit
    assert list_entries(plan_id) == []


def test_a_correction_takes_the_place_of_what_it_corrects(plan_id: int) -> None:
    wrong = percent(plan_id, 8, 9, 64)
    right = add_entry(
        plan_id,
        NewEntry(at=datetime(2026, 6, 8, 9), kind="monitor_percent", value=46),
        replaces=wrong,
    )
    (only,) = list_entries(plan_id)
    assert (only.id, only.replaces, only.value) == (right.id, wrong, 46)


def test_the_rest_of_the_saved_plan_is_that_of_its_track(logged: int, moth: Plan) -> None:
    whole = track_plan(logged).rest
    assert rest_of(logged, moth) == whole
    quick = rest_of(logged, moth, quick=True)
    assert quick.scenarios < whole.scenarios
    assert quick.lasts_percent == pytest.approx(whole.lasts_percent, abs=20)


def test_a_variant_starts_where_the_saved_plan_stands(logged: int, moth: Plan) -> None:
    sought = sought_of(list(seek_onward(logged, Goal(knob="drive", sure_percent=80))))
    assert sought.try_it is not None
    rest = rest_of(logged, with_edits(moth, sought.try_it.edits))
    assert rest.lasts_percent == pytest.approx(sought.lasts_percent)
    now = round(track_plan(logged).now_step * 5 / rest.band.step_min)
    assert rest.band.middle[: now + 1] == track_plan(logged).rest.band.middle[: now + 1]


def test_now_stands_on_the_plans_own_grid_whatever_its_step(store: Path) -> None:
    """Eight months are run by the hour: the fortieth day begins at step 960."""
    hut = example("gauging-hut")
    made = create_plan(hut).id
    at = datetime.combine(hut.trip.start + timedelta(days=40), datetime.min.time())
    entry = add_entry(made, NewEntry(at=at, kind="monitor_percent", value=60))
    report = track_plan(made)
    assert report.now_step == pytest.approx(entry.step)
    assert report.now_step == pytest.approx(960, abs=2)


def test_counters_set_to_zero_before_the_trip_count_from_its_beginning() -> None:
    """What ran through before it is none of the trip's: nothing is simulated there."""
    midnight = datetime(2026, 6, 6, tzinfo=UTC)
    noon = datetime(2026, 6, 7, 12, tzinfo=UTC)

    def since(moment: datetime) -> list[tuple[str, float, int | None]]:
        detail = Detail(ah_in=12.0, ah_out=20.0, since=moment)
        entry = Entry(1, noon.isoformat(), "counters", 0.0, "", "", "", detail.model_dump_json())
        return [(r.kind, r.value, r.since_s) for r in readings_of([entry], midnight)]

    begins = int(midnight.timestamp())
    before, after = midnight - timedelta(days=3), midnight + timedelta(hours=5)
    assert since(before) == [("ah_in", 12.0, begins), ("ah_out", 20.0, begins)]
    assert since(after) == [
        ("ah_in", 12.0, begins + 5 * 3600),
        ("ah_out", 20.0, begins + 5 * 3600),
    ]


def test_what_ran_in_between_is_what_a_counter_stands_at_less_what_it_stood_at() -> None:
    rows = [quarter(n, None, 100.0 + n, 40.0 + n / 2) for n in range(4 * 12 + 1)]
    found = readings_of_samples(rows)
    assert [r.value for r in found if r.kind == "ah_in"] == [24.0, 24.0]
    assert [r.value for r in found if r.kind == "ah_out"] == [12.0, 12.0]
