"""What a change of a plan is made of: free ids, drives after those there, nights on mains."""

from __future__ import annotations

from oddkettle.plan import Plan
from oddkettle.plan.trip import BlockModel
from oddkettle.usecases.simulate.edits import (
    edit,
    fresh_id,
    hookup_block,
    more_blocks,
    panel_like,
    timed_block,
)


def with_blocks(plan: Plan, *blocks: BlockModel) -> Plan:
    return plan.model_copy(update={"trip": plan.trip.model_copy(update={"blocks": list(blocks)})})


def drive(day: int, start: str, end: str) -> BlockModel:
    return BlockModel(id=f"d{day}{start[:2]}", kind="drive", day=day, start=start, end=end)


def test_an_id_is_the_first_that_no_sibling_has() -> None:
    assert fresh_id("m", []) == "m1"
    assert fresh_id("m", ["m1", "m2"]) == "m3"
    assert fresh_id("m", ["m2", "x"]) == "m1"
    assert fresh_id("m", ["m1", "m3"]) == "m2"


def test_a_drive_begins_at_ten_or_after_those_of_its_day(moth: Plan) -> None:
    plan = with_blocks(moth, drive(2, "11:00", "12:30"), drive(3, "15:00", "16:00"))
    first = timed_block(plan, "drive", 1, 45)
    assert (first.start, first.end) == ("10:00", "10:45")
    after = timed_block(plan, "drive", 2, 45)
    assert (after.start, after.end) == ("12:30", "13:15")
    later = timed_block(plan, "drive", 1, 45, earliest_min=14 * 60)
    assert (later.start, later.end) == ("14:00", "14:45")
    # Another kind does not push it.
    assert timed_block(plan, "hookup", 2, 45).start == "10:00"


def test_a_drive_that_ends_on_the_next_day_counts_for_that_day(moth: Plan) -> None:
    night = BlockModel(id="n", kind="drive", day=1, start="22:00", end_day=2, end="11:30")
    plan = with_blocks(moth, night)
    assert timed_block(plan, "drive", 2, 30).start == "11:30"
    assert timed_block(plan, "drive", 1, 30).start == "10:00"


def test_a_drive_never_passes_midnight(moth: Plan) -> None:
    plan = with_blocks(moth, drive(2, "22:00", "23:50"))
    late = timed_block(plan, "drive", 2, 60)
    assert (late.start, late.end) == ("23:00", "24:00")


def test_a_night_on_mains_goes_from_evening_to_morning_and_not_past_the_trip(moth: Plan) -> None:
    night = hookup_block(moth, 2, 1)
    assert (night.day, night.start, night.end_day, night.end) == (2, "18:00", 3, "08:00")
    last = len(moth.trip.days) - 1
    end = hookup_block(moth, last, 1)
    assert (end.day, end.end_day, end.end) == (last, last, "24:00")


def test_blocks_are_added_to_those_that_are_there(moth: Plan) -> None:
    plan = with_blocks(moth, drive(2, "11:00", "12:30"))
    one = more_blocks(plan, [hookup_block(plan, 2, 1)])
    assert one.path == ["trip", "blocks"]
    assert [block["kind"] for block in one.value] == ["drive", "hookup"]
    assert edit("box", 0, to=5).path == ["box", 0]


def test_one_more_panel_lies_as_the_last_one_does(moth: Plan) -> None:
    array = moth.box.sun[0]
    last = array.panels[-1]
    more = panel_like(array, "Another", 120.0, ["more1"])
    assert (more.id, more.name, more.power_w) == ("more2", "Another", 120.0)
    for field in ("mount", "tilt_deg", "azimuth_deg", "portable"):
        assert getattr(more, field) == getattr(last, field)
