"""A box outlives its trips: states, copies, deletions, history, life, one's own shelf."""

from __future__ import annotations

import json
from datetime import date, timedelta
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddkettle.formats.plan_json import parse_plan
from oddkettle.plan import Plan
from oddkettle.plan.box import CapacityReading
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.store import log as log_store
from oddkettle.store.boxes import NoSuchBox
from oddkettle.store.plans import NoSuchPlan
from oddkettle.store.shelf import NoSuchThing
from oddkettle.usecases.boxes import boxes, history, life, shelf
from oddkettle.usecases.boxes.boxes import NewTrip
from oddkettle.usecases.boxes.glance import glance_at
from oddkettle.usecases.boxes.shelf import NewThing
from oddkettle.usecases.plans.plans import create_plan, open_plan, save_plan, titles, undo
from tests.conftest import example


@pytest.fixture
def weekend(store: Path) -> Plan:
    """A plan in the store, as number 1."""
    create_plan(example("night-breather"))
    return open_plan(1).document


def larger(plan: Plan, ah: float) -> Plan:
    battery = plan.box.battery.model_copy(update={"capacity_ah": ah})
    return plan.model_copy(update={"box": plan.box.model_copy(update={"battery": battery})})


def test_a_new_trip_takes_the_box_as_it_is_now_and_leaves_the_old_trip_its_own(
    weekend: Plan,
) -> None:
    made = boxes.new_trip(1, NewTrip(name="Autumn", start=date(2026, 10, 2), nights=3))
    assert made.document.box.battery == weekend.box.battery
    assert made.document.use == weekend.use
    assert (len(made.document.trip.days), made.document.trip.begins) == (4, "12:00")
    save_plan(made.id, made.revision, larger(made.document, 150), "bought a larger battery")
    assert open_plan(1).box_behind
    assert not open_plan(made.id).box_behind
    assert open_plan(1).document.box.battery.capacity_ah == 100
    taken = boxes.take_box(1)
    assert taken.document.box.battery.capacity_ah == 150
    assert not open_plan(1).box_behind
    assert undo(1).document.box.battery.capacity_ah == 100


def test_trips_of_one_box_stand_together_and_a_copy_may_have_a_box_of_its_own(
    weekend: Plan,
) -> None:
    boxes.copy_plan(1, "The same again", same_box=True)
    boxes.copy_plan(1, "Another box", same_box=False)
    first, second = boxes.box_cards()
    assert sorted(trip.plan_id for trip in first.trips) == [1, 2]
    assert [trip.plan_id for trip in second.trips] == [3]
    assert second.name == f"{weekend.box.name}, a copy"


def test_a_box_is_renamed_in_all_its_trips(weekend: Plan) -> None:
    boxes.copy_plan(1, "The same again", same_box=True)
    boxes.rename_box(1, "The blue box")
    assert [open_plan(n).document.box.name for n in (1, 2)] == ["The blue box"] * 2
    with pytest.raises(NoSuchBox):
        boxes.rename_box(99, "No box")


def test_a_file_of_a_known_box_is_another_trip_of_it(weekend: Plan) -> None:
    create_plan(parse_plan(weekend.model_dump_json().encode()), "imported")
    (card,) = boxes.box_cards()
    assert len(card.trips) == 2


def test_a_deleted_trip_is_gone_until_it_is_brought_back(weekend: Plan) -> None:
    boxes.delete_plan(1)
    assert (titles(), boxes.box_cards()) == ([], [])
    with pytest.raises(NoSuchPlan, match="was deleted"):
        open_plan(1)
    assert [trip.name for trip in boxes.deleted_trips()] == [weekend.name]
    assert boxes.bring_back(1).document.name == weekend.name
    assert boxes.deleted_trips() == []
    with pytest.raises(NoSuchPlan):
        boxes.bring_back(1)


def test_a_trip_that_is_put_away_stays_and_is_marked(weekend: Plan) -> None:
    boxes.put_away(1, away=True)
    assert boxes.box_cards()[0].trips[0].archived
    boxes.put_away(1, away=False)
    assert not boxes.box_cards()[0].trips[0].archived


def test_history_tells_what_changed_and_leads_back_without_losing_anything(weekend: Plan) -> None:
    first = open_plan(1)
    save_plan(1, first.revision, larger(weekend, 150), "bought a larger battery")
    newest, oldest = history.history(1)
    (change,) = newest.changes
    assert (change.field, change.before, change.after) == (
        "box battery capacity in Ah",
        "100",
        "150",
    )
    assert oldest.changes == []
    assert history.plan_at(1, first.revision).box.battery.capacity_ah == 100
    back = history.go_back(1, first.revision)
    assert back.document.box.battery.capacity_ah == 100
    assert len(history.history(1)) == 3
    with pytest.raises(NoSuchPlan):
        history.plan_at(1, 999)


def test_a_glance_agrees_with_the_plan_and_follows_it(weekend: Plan) -> None:
    before = glance_at(1)
    assert before.sentence.startswith("With a 100 Ah lithium box")
    save_plan(1, open_plan(1).revision, larger(weekend, 20), "took the small one")
    after = glance_at(1)
    assert after.lasts_percent < before.lasts_percent


@given(
    loss=st.floats(1.0, 15.0),
    first=st.floats(20, 300),
    months=st.lists(st.integers(0, 72), min_size=2, max_size=8, unique=True),
)
def test_a_straight_fall_is_found_with_its_date(
    loss: float, first: float, months: list[int]
) -> None:
    """Readings on a line: 80 % of the first are left after 20 over the yearly loss years."""
    begin = date(2020, 1, 1)
    at = sorted({0, *months})
    days = [round(month * 365.25 / 12) for month in at]
    readings = [
        CapacityReading(
            on=begin + timedelta(days=day),
            capacity_ah=max(first * (1 - loss / 100 * day / 365.25), 1),
        )
        for day in days
    ]
    slope, worn_on = life.trend(readings)
    if days[-1] < life.APART_DAYS:
        assert (slope, worn_on) == (None, None)
        return
    if first * (1 - loss / 100 * days[-1] / 365.25) < 1:
        return
    # A test is good to 3 %: what falls by no more than such errors make shows nothing.
    years = np.array(days) / 365.25
    error = 100 * 1.28 * 0.03 / ((years - years.mean()) ** 2).sum() ** 0.5
    if loss < error * (1 - 1e-9):
        assert (slope, worn_on) == (None, None)
        return
    assert slope == pytest.approx(loss, rel=1e-6)
    assert worn_on is not None
    assert (worn_on - begin).days == pytest.approx(365.25 * 20 / loss, abs=2)


def test_a_trip_whose_log_is_written_is_under_way_in_the_list_and_in_the_life(
    weekend: Plan,
) -> None:
    assert boxes.box_cards()[0].trips[0].when == "over"
    at = f"{weekend.trip.start + timedelta(days=1)}T09:00:00+00:00"
    log_store.add(1, at, "percent", 80.0, "", at, "owner")
    assert boxes.box_cards()[0].trips[0].when == "under_way"
    told = life.life_of(1)
    assert (told.trips[0].past, told.nights) == (False, 0)


def test_a_life_counts_nights_cycles_and_readings(weekend: Plan) -> None:
    told = life.life_of(1)
    (trip,) = told.trips
    assert (trip.nights, told.nights) == (4, 4)
    assert told.full_cycles == trip.full_cycles > 0
    assert told.worn_on is None
    life.add_reading(1, CapacityReading(on=date(2025, 5, 1), capacity_ah=100))
    after = life.add_reading(1, CapacityReading(on=date(2026, 5, 1), capacity_ah=88))
    assert [reading.capacity_ah for reading in after.readings] == [100, 88]
    assert after.percent_a_year == pytest.approx(12.0, abs=0.02)
    # 20 % at 12 % a year: a year and eight months after the first.
    assert after.worn_on is not None
    assert abs((after.worn_on - date(2026, 12, 31)).days) <= 2


def test_a_growing_battery_has_no_end() -> None:
    grown = [
        CapacityReading(on=date(2020 + 2 * n, 1, 1), capacity_ah=100 + 9 * n) for n in range(3)
    ]
    assert life.trend(grown) == (0.0, None)


def test_two_tests_that_differ_by_no_more_than_their_own_error_date_nothing(weekend: Plan) -> None:
    """98 Ah, and 96 two months later: each is good to 3 Ah."""
    life.add_reading(1, CapacityReading(on=date(2026, 3, 1), capacity_ah=98))
    told = life.add_reading(1, CapacityReading(on=date(2026, 5, 1), capacity_ah=96))
    assert (told.percent_a_year, told.worn_on) == (None, None)
    assert "From 98 to 96 Ah is no more than such a test is off by itself" in told.text


def test_the_shelf_comes_back_from_its_json_as_it_went(store: Path) -> None:
    plan = example("moth-survey")
    appliance, panel = plan.use.appliances[0], plan.box.sun[0].panels[1]
    shelf.keep_thing(NewThing(name="My cool box", euro=420, appliance=appliance))
    shelf.keep_thing(NewThing(name="My panel", panel=panel))
    shelf.keep_thing(NewThing(name="My battery", battery=plan.box.battery))
    before = shelf.own_things()
    for thing in before:
        shelf.forget_thing(thing.id)
    assert shelf.own_things() == []
    after = shelf.bring_shelf(shelf.shelf_file("json") if before == [] else _as_json(before))
    assert [(t.kind, t.name, t.euro) for t in after] == [(t.kind, t.name, t.euro) for t in before]
    assert after[0].appliance is not None
    assert after[0].appliance.pattern == appliance.pattern


def _as_json(things: list[shelf.OwnThing]) -> bytes:
    body = {
        "format": "oddkettle-shelf",
        "version": 1,
        "things": [
            {
                "kind": t.kind,
                "name": t.name,
                "euro": t.euro,
                "note": t.note,
                "part": getattr(t, t.kind).model_dump(mode="json", exclude_none=True),
            }
            for t in things
        ],
    }
    return json.dumps(body).encode()


def test_one_of_the_same_name_gives_way(store: Path) -> None:
    battery = example("moth-survey").box.battery
    for ah in (90, 88):
        told = battery.model_copy(update={"capacity_ah": ah})
        shelf.keep_thing(NewThing(name="My battery", battery=told))
    (kept,) = shelf.own_things()
    assert kept.battery is not None
    assert kept.battery.capacity_ah == 88


def test_a_table_carries_the_figures_that_matter_and_no_formula(store: Path) -> None:
    appliance = example("moth-survey").use.appliances[1]
    shelf.keep_thing(NewThing(name="=cmd()", appliance=appliance))
    table = shelf.shelf_file("csv").decode()
    assert "'=cmd()" in table
    (kept,) = shelf.bring_shelf(table.encode())
    assert kept.name == "=cmd()"
    assert kept.appliance is not None
    assert (kept.appliance.power_w, kept.appliance.hours) == (appliance.power_w, appliance.hours)


@pytest.mark.parametrize(
    ("data", "where"),
    [
        (b"\xff\xfe", "file"),
        (b"{", "file"),
        (b'{"format": "else"}', "format"),
        (b"name,watts\nx,1\n", "columns"),
        (b"kind,name\nspoon,x\n", "things.1.kind"),
        (b"kind,name\nbattery,\n", "things.1.name"),
        (b"kind,name,euro,chemistry,capacity_ah\nbattery,x,-3,agm,100\n", "things.1.euro"),
        (b"kind,name,chemistry,capacity_ah\nbattery,x,agm,9999\n", "capacity_ah"),
    ],
)
def test_a_bad_shelf_is_refused_whole_with_value_limit_and_remedy(
    data: bytes, where: str, store: Path
) -> None:
    with pytest.raises(PlanRefused) as caught:
        shelf.bring_shelf(data)
    (complaint,) = caught.value.complaints
    assert complaint.where == where
    assert complaint.limit
    assert complaint.remedy
    assert shelf.own_things() == []


def test_what_is_not_on_the_shelf_cannot_be_taken_off(store: Path) -> None:
    with pytest.raises(NoSuchThing):
        shelf.forget_thing(7)
    with pytest.raises(NoSuchThing):
        shelf.keep_thing(NewThing(name="Nothing"))


@pytest.mark.usefixtures("weekend")
def test_a_box_whose_trips_are_all_deleted_says_so_until_one_is_back() -> None:
    boxes.delete_plan(1)
    with pytest.raises(NoSuchBox, match="was deleted; bring one back"):
        life.life_of(1)
    with pytest.raises(NoSuchBox, match="was deleted"):
        boxes.new_trip(1, NewTrip(name="Autumn", start=date(2026, 10, 2), nights=3))
    with pytest.raises(NoSuchBox, match="was deleted"):
        boxes.rename_box(1, "Another")
    boxes.bring_back(1)
    assert life.life_of(1).nights >= 0
