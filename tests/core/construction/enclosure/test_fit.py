"""Does it go in: laws of placing, and refusals by the millimetre."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oddkettle.core.construction.enclosure.bodies import Body, Enclosure, bodies_of, empty_kg
from oddkettle.core.construction.enclosure.layout import fit, least_growth, place_all, proposed_case
from oddkettle.core.construction.enclosure.standing import Standing, apart_mm, gap_mm
from oddkettle.core.construction.parts.lines import BuiltOf
from oddkettle.core.construction.parts.parts_list import list_parts
from oddkettle.plan.case import case_from_plan
from tests.conftest import EXAMPLES, example
from tests.core.construction.boxes import board, full_case, ran
from tests.support.tiers import examples

BOX = Enclosure(500.0, 300.0, 300.0, 10.0, "wood", 5.0)


def body(key: str = "a", size: tuple[float, float, float] = (100, 80, 60), **more: object) -> Body:
    given: dict[str, object] = {
        "key": key,
        "name": key,
        "length_mm": size[0],
        "width_mm": size[1],
        "height_mm": size[2],
        "kg": 1.0,
        "clear_mm": 10.0,
        "above_mm": 20.0,
        "hot": False,
        "low": False,
    }
    return Body(**{**given, **more})  # type: ignore[arg-type]


BATTERY = body("battery", (300, 160, 200), kg=11.0, low=True)


def codes(enclosure: Enclosure, bodies: tuple[Body, ...], *pinned: Standing) -> list[str]:
    return [clash.code for clash in fit(enclosure, bodies, pinned, 20.0).clashes]


def test_nothing_live_is_placed_above_a_battery() -> None:
    fuse = body("block", (300, 160, 40))
    # Only the shelf over the battery would take it: the tool rather asks for a longer box.
    narrow = Enclosure(330.0, 190.0, 320.0, 10.0, "wood", 5.0)
    placed, left = place_all(narrow, (BATTERY, fuse), ())
    assert [spot.body.key for spot in placed] == ["battery"]
    assert left == (fuse,)
    assert codes(narrow, (BATTERY, fuse)) == ["missing"]


def test_what_the_owner_puts_above_a_battery_is_told() -> None:
    fuse = body("block", (100, 80, 40))
    over = Standing(fuse, 50, 50, 240, pinned=True)
    beside = Standing(fuse, 340, 50, 0, pinned=True)
    at = Standing(BATTERY, 10, 10, pinned=True)
    assert "above" in codes(BOX, (BATTERY, fuse), at, over)
    assert "above" not in codes(BOX, (BATTERY, fuse), at, beside)
    # A battery on a battery is heavy, and no spark.
    second = body("battery.2", (300, 160, 60), kg=4.0)
    stacked = Standing(second, 10, 10, 230, pinned=True)
    assert "above" not in codes(BOX, (BATTERY, second), at, stacked)


@pytest.mark.parametrize("name", sorted(path.stem for path in EXAMPLES.glob("*.json")))
def test_in_no_sample_box_anything_hangs_over_a_battery(name: str) -> None:
    run = ran(case_from_plan(example(name)))
    if run.case.unit is not None:
        return
    bodies = bodies_of(list_parts(run, board(run.case), BuiltOf("wood", 0.0, 0.1), ()))
    standing, left = place_all(proposed_case(bodies, "wood", 12.0), bodies, ())
    assert left == ()
    batteries = [s for s in standing if s.body.is_battery]
    assert batteries
    for spot in standing:
        for below in batteries:
            (ax, ay, az), (bx, by, bz) = spot.span, below.span
            over = min(ax[1], bx[1]) > max(ax[0], bx[0]) and min(ay[1], by[1]) > max(ay[0], by[0])
            assert spot.body.is_battery or not (over and az[0] >= bz[1])


any_body = st.builds(
    body,
    st.uuids().map(str),
    st.tuples(st.floats(10, 200), st.floats(10, 150), st.floats(10, 120)),
    clear_mm=st.floats(0, 30),
    above_mm=st.floats(0, 50),
    hot=st.booleans(),
    low=st.booleans(),
)


@settings(max_examples=examples(80), deadline=None)
@given(st.lists(any_body, max_size=8).map(tuple))
def test_what_the_tool_places_never_collides_and_nothing_is_lost(bodies: tuple[Body, ...]) -> None:
    standing, left = place_all(BOX, bodies, ())
    assert sorted(b.key for b in (*left, *(s.body for s in standing))) == sorted(
        b.key for b in bodies
    )
    found = fit(BOX, bodies, (), 20.0)
    assert {clash.code for clash in found.clashes} <= {"missing"}
    for spot in standing:
        for (low, high), side in zip(
            spot.span, (BOX.length_mm, BOX.width_mm, BOX.height_mm), strict=True
        ):
            assert -1e-6 <= low <= high <= side + 1e-6


def test_heavy_parts_stand_on_the_floor() -> None:
    standing, _ = place_all(BOX, (BATTERY, body("b"), body("c")), ())
    assert next(s for s in standing if s.body.key == "battery").z_mm == 0.0


def test_a_box_smaller_than_the_battery_is_refused_by_the_millimetre() -> None:
    # 300 long with 10 beside it on both sides want 320.
    small = Enclosure(308.0, 300.0, 300.0, 10.0, "wood", 5.0)
    found = fit(small, (BATTERY,), (), 20.0)
    (clash,) = found.clashes
    assert clash.code == "missing"
    assert clash.by_mm == pytest.approx(12.0)
    assert "does not fit by 12 mm" in found.verdict
    assert "does not fit by 12 mm in length, even by itself" in found.verdict


def test_a_box_too_small_on_every_side_is_told_a_usual_one() -> None:
    tiny = Enclosure(200.0, 100.0, 120.0, 10.0, "wood", 5.0)
    (clash,) = fit(tiny, (BATTERY,), (), 20.0).clashes
    # Along the box 320 in 200; turned 180 in 200 and 320 in 100.
    assert clash.text == "battery does not fit by 120 mm in length, even by itself."
    assert "400 x 300 x 280 mm inside" in clash.remedy


def test_the_least_growth_is_the_least() -> None:
    small = Enclosure(308.0, 300.0, 300.0, 10.0, "wood", 5.0)
    way, by = least_growth(small, (BATTERY,), ()) or ("", 0.0)
    larger = Enclosure(308.0 + by, 300.0, 300.0, 10.0, "wood", 5.0)
    not_yet = Enclosure(308.0 + by - 1.0, 300.0, 300.0, 10.0, "wood", 5.0)
    assert way == "length"
    assert place_all(larger, (BATTERY,), ())[1] == ()
    assert place_all(not_yet, (BATTERY,), ())[1] == (BATTERY,)


def test_two_parts_in_one_place_overlap_by_so_much() -> None:
    a = Standing(body("a"), 50, 50)
    b = Standing(body("b"), 110, 60)
    found = fit(BOX, (a.body, b.body), (a, b), 20.0)
    assert [clash.code for clash in found.clashes] == ["overlap"]
    # From 110 to 150 along x: 40 mm.
    assert found.clashes[0].by_mm == pytest.approx(40.0)
    assert apart_mm(a, b) == pytest.approx(-40.0)


@pytest.mark.parametrize(("gap", "said"), [(9.0, ["close"]), (10.0, [])])
def test_air_and_cables_want_their_room(gap: float, said: list[str]) -> None:
    a = Standing(body("a"), 20, 50)
    b = Standing(body("b"), 120 + gap, 50)
    assert codes(BOX, (a.body, b.body), a, b) == said


@pytest.mark.parametrize(("gap", "said"), [(29.0, ["heat"]), (30.0, [])])
def test_what_gets_hot_keeps_off_the_battery(gap: float, said: list[str]) -> None:
    hot = body("hot", hot=True)
    battery = Standing(BATTERY, 20, 20)
    charger = Standing(hot, 320 + gap, 20)
    assert codes(BOX, (BATTERY, hot), battery, charger) == said
    assert gap_mm(BATTERY, hot) == 30.0


def test_a_part_through_a_wall_says_which_way() -> None:
    out = Standing(body("a"), 450, 50)
    found = fit(BOX, (out.body,), (out,), 20.0)
    (clash,) = found.clashes
    # 450 + 100 + 10 of room is 60 more than 500.
    assert (clash.code, clash.by_mm) == ("outside", pytest.approx(60.0))
    assert "60 mm in length" in clash.text


def test_a_turned_part_lies_the_other_way() -> None:
    lying, turned = Standing(body("a"), 10, 10), Standing(body("a"), 10, 10, turned=True)
    assert lying.span[0] == (10, 110)
    assert turned.span[0] == (10, 90)


def test_a_battery_on_a_shelf_is_told_to_come_down() -> None:
    up = Standing(BATTERY, 20, 20, 40.0)
    assert "high" in codes(BOX, (BATTERY,), up)


def test_pinned_parts_stay_and_the_rest_goes_round_them() -> None:
    pinned = Standing(body("a"), 200, 100, pinned=True)
    standing, left = place_all(BOX, (pinned.body, body("b"), BATTERY), (pinned,))
    assert standing[0] == pinned
    assert [b.key for b in left] in ([], ["battery"])


def test_the_centre_of_mass_by_hand() -> None:
    # 11 kg at (170, 100, 100) and the box's own 5 kg at (250, 150, 100).
    found = fit(BOX, (BATTERY,), (Standing(BATTERY, 20, 20),), 16.0)
    assert found.centre_mm == pytest.approx(
        ((11 * 170 + 5 * 250) / 16, (11 * 100 + 5 * 150) / 16, 100.0)
    )


@pytest.mark.parametrize(
    ("kg", "words"), [(20.0, "one person"), (20.1, "two people, or wheels"), (40.1, "do not lift")]
)
def test_who_should_lift_it(kg: float, words: str) -> None:
    assert words in fit(BOX, (), (), kg).lift


def test_an_empty_box_weighs_its_walls_or_what_is_typed() -> None:
    # 2 x (0.5 x 0.3 + 0.5 x 0.3 + 0.3 x 0.3) m2 x 10 mm x 0.6 kg/l
    assert empty_kg((500, 300, 300), "wood", 10.0) == pytest.approx(4.68)
    assert empty_kg((500, 300, 300), "wood", 10.0, 3.0) == 3.0
    assert empty_kg((500, 300, 300), "metal", 10.0) < 4.5


@pytest.mark.parametrize("name", sorted(path.stem for path in EXAMPLES.glob("*.json")))
def test_the_proposed_case_takes_everything_of_a_sample_box(name: str) -> None:
    case = case_from_plan(example(name))
    if case.unit is not None:
        pytest.skip("a ready-made unit is not built")
    bodies = bodies_of(list_parts(ran(case), board(case), BuiltOf("wood", 0.0, 0.1), ()))
    found = fit(proposed_case(bodies, "wood", 12.0), bodies, (), 20.0)
    assert found.clashes == ()


def test_a_smaller_usual_case_would_not_do() -> None:
    from oddkettle.core.construction.enclosure.bodies import CASES_MM

    case = full_case()
    bodies = bodies_of(list_parts(ran(case), board(case), BuiltOf("wood", 0.0, 0.1), ()))
    chosen = proposed_case(bodies, "wood", 12.0)
    at = [size[0] for size in CASES_MM].index(chosen.length_mm)
    assert at > 0
    smaller = Enclosure(*CASES_MM[at - 1], 12.0, "wood", 5.0)
    assert place_all(smaller, bodies, ())[1]


def test_too_close_is_told_by_how_much_lacks_of_the_gap_between() -> None:
    charger = body("charger", (100, 80, 60), clear_mm=30.0)
    block = body("block", (100, 80, 60), clear_mm=10.0)
    wanted = gap_mm(charger, block)
    for apart in (wanted - 12.0, wanted - 1.0, wanted):
        standing = (
            Standing(charger, 10, 10, pinned=True),
            Standing(block, 110 + apart, 10, pinned=True),
        )
        told = [c for c in fit(BOX, (charger, block), standing, 20.0).clashes if c.code == "close"]
        if apart == wanted:
            assert told == []
        else:
            assert [c.by_mm for c in told] == [pytest.approx(wanted - apart)]
            assert f"{wanted - apart:.0f} mm too close" in told[0].text
            assert f"Leave {wanted:.0f} mm" in told[0].remedy
