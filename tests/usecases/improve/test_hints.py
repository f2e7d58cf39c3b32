"""Hints for a day: panels against a closed form, the drive against its own trip."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

import numpy as np
import pytest

from oddkettle.core.sources.aiming import COMPASS_DEG, TILTS_DEG, best_aims
from oddkettle.core.sources.panel import Panel
from oddkettle.core.weather.clear_sky import Sky
from oddkettle.plan import Plan
from oddkettle.text.render import render
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry
from oddkettle.usecases.field.track.today import today_of
from oddkettle.usecases.improve.schedule.hints import hints_of
from oddkettle.usecases.plans.plans import create_plan, open_plan
from tests.conftest import example
from tests.usecases.conftest import percent

PANEL = Panel(100.0, "tilted", 35.0, 180.0, portable=True)


def beam_from(zenith: float, azimuth: float, steps: int = 12) -> Sky:
    """Direct light alone, from one place in the sky."""
    full = np.full(steps, 1.0)
    dni = 800.0 * full
    ghi = dni * np.cos(np.radians(zenith))
    return Sky(zenith * full, azimuth * full, 160 * full, 1320 * full, ghi, dni, np.zeros(steps))


@pytest.mark.parametrize("azimuth", COMPASS_DEG)
@pytest.mark.parametrize("height", [30, 45, 60])
def test_a_panel_in_direct_light_alone_faces_it(azimuth: int, height: int) -> None:
    """Closed form: light falls on it in full where it stands square to the sun."""
    sky = beam_from(90.0 - height, azimuth)
    (aim,) = best_aims(PANEL, sky, np.full(12, 15.0), np.ones(12), 1, 0.25)
    assert aim.azimuth_deg == azimuth
    # Light off the ground lies in favour of standing up, by less than a step of the stand.
    steps = TILTS_DEG
    assert abs(aim.tilt_deg - (90 - height)) <= steps[1] - steps[0]


def test_turning_is_worth_nothing_to_a_panel_that_faces_the_sun_already() -> None:
    (aim,) = best_aims(PANEL, beam_from(35.0, 180.0), np.full(12, 15.0), np.ones(12), 1, 0.25)
    assert aim.wh == pytest.approx(aim.lying_wh, rel=0.01)
    away = best_aims(PANEL, beam_from(35.0, 0.0), np.full(12, 15.0), np.ones(12), 1, 0.25)[0]
    # Square to it against 35 degrees of tilt the wrong way: the angle between is 70 degrees.
    assert away.lying_wh < 0.45 * away.wh


def test_parts_follow_one_another_over_the_hours_in_which_it_is_out() -> None:
    works = np.concatenate([np.zeros(3), np.ones(9)])
    aims = best_aims(PANEL, beam_from(40.0, 90.0), np.full(12, 15.0), works, 3, 0.25)
    assert [(aim.first, aim.last) for aim in aims] == [(3, 6), (6, 9), (9, 12)]
    assert best_aims(PANEL, beam_from(95.0, 90.0), np.full(12, 15.0), works, 3, 0.25) == ()


def test_hints_of_a_day_tell_of_the_panel_that_is_out(logged: int) -> None:
    hints = hints_of(logged)
    (panel,) = hints.panels
    assert panel.name == "Folding panel"
    assert [turn.faces for turn in panel.turns] == ["south-east", "south", "south-west"]
    assert panel.turns[0].start == "09:00"
    assert panel.turns[-1].end == "17:00"
    assert "more today" in render(panel.text)
    heights = [mark.height_deg for mark in hints.sun]
    # Solstice at 54 degrees north or so: noon height is 90 - latitude + 23.
    latitude = open_plan(logged).document.trip.site.latitude
    assert max(heights) == pytest.approx(90 - latitude + 22.9, abs=0.6)


def test_a_better_hour_for_the_drive_holds_more_at_dawn(store: Path) -> None:
    """A drive at noon takes the place of the sun: the day's own forecast says so too."""
    plan_id = create_plan(driving_at("12:00", "13:15")).id
    percent(plan_id, 9, 5, 60)
    drive = hints_of(plan_id).drive
    assert drive is not None
    assert drive.was == "12:00"
    assert drive.worth.ah >= 0.5
    begins = int(drive.start[:2])
    better = create_plan(driving_at(drive.start, f"{begins + 1:02d}:15")).id
    percent(better, 9, 5, 60)
    dawn, then = (today_of(one).expected[-1].level.middle for one in (plan_id, better))
    capacity = open_plan(plan_id).document.box.battery.capacity_ah
    assert (then - dawn) / 100 * capacity == pytest.approx(drive.worth.ah, abs=1.0)


def driving_at(start: str, end: str) -> Plan:
    """The moth plan with the drive of its fourth day at another time."""
    plan = example("moth-survey")
    blocks = [
        b.model_copy(update={"start": start, "end": end}) if b.kind == "drive" and b.day == 3 else b
        for b in plan.trip.blocks
    ]
    return plan.model_copy(update={"trip": plan.trip.model_copy(update={"blocks": blocks})})


def test_a_use_is_listed_and_ticked_like_a_drive(store: Path) -> None:
    plan_id = create_plan(example("moth-season")).id
    percent(plan_id, 8, 12, 60)
    (use,) = [t for t in today_of(plan_id).things if t.appliance == "cameras"]
    assert render(use.text) == "Camera chargers, 13:00 to 14:30"
    assert (use.appliance, use.state, use.did, use.did_not) == (
        "cameras",
        "ahead",
        "ran",
        "skipped",
    )
    assert use.worth.ah == pytest.approx(3.0, abs=0.2)
    for kind, at, said in (("skipped", 14, "part"), ("skipped", 13, "did_not"), ("ran", 13, "did")):
        begun = use.at.replace(hour=at, minute=0, tzinfo=None)
        entry = NewEntry(
            at=begun, kind=kind, appliance="cameras", until=use.until.replace(tzinfo=None)
        )  # type: ignore[arg-type]
        one = create_plan(example("moth-season")).id
        percent(one, 8, 12, 60)
        add_entry(one, entry)
        (after,) = [t for t in today_of(one).things if t.appliance == "cameras"]
        assert after.state == said


def test_the_evenings_large_uses_are_told_of_while_ahead_and_nobody_is_asked_after(
    store: Path,
) -> None:
    plan_id = create_plan(example("moth-season")).id
    percent(plan_id, 8, 12, 80)

    def uses(hour: int) -> dict[str, str]:
        today = today_of(plan_id, datetime(2026, 6, 8, hour))
        return {t.appliance or "": t.state for t in today.things if t.kind == "use"}

    assert uses(14) == {"cameras": "now", "laptop": "ahead", "trap": "ahead"}
    assert uses(21) == {"cameras": "to_tick", "laptop": "now", "trap": "ahead"}
    assert uses(23) == {"cameras": "to_tick", "trap": "now"}
    asked = today_of(plan_id, datetime(2026, 6, 9, 8)).yesterday
    assert {t.appliance for t in asked if t.kind == "use"} == {"cameras"}


def test_a_use_that_passes_midnight_may_be_done_in_part_after_it(store: Path) -> None:
    plan_id = create_plan(example("moth-season")).id
    percent(plan_id, 8, 22, 80)
    off = NewEntry(
        at=datetime(2026, 6, 9, 1),
        kind="skipped",
        appliance="trap",
        until=datetime(2026, 6, 9, 3, 45),
    )
    add_entry(plan_id, off)
    evening = today_of(plan_id, datetime(2026, 6, 8, 22)).things
    assert next(t.state for t in evening if t.appliance == "trap") == "part"


@pytest.mark.parametrize("now_h", [9, 13])
def test_no_hour_that_is_past_is_advised_for_the_drive(store: Path, now_h: int) -> None:
    """The morning's dark would be best for it; what is over by the clock is not told of."""
    plan_id = create_plan(driving_at("17:00", "18:15")).id
    percent(plan_id, 9, now_h, 60)
    drive = hints_of(plan_id).drive
    assert drive is None or int(drive.start[:2]) > now_h
    # A drive that has begun or is over is asked after and not moved.
    over = create_plan(driving_at("06:00", "07:15")).id
    percent(over, 9, now_h, 60)
    assert hints_of(over).drive is None
