"""What holds for any box, any parts and any fittings, and where the millimetre decides."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations

import pytest
from hypothesis import assume, example, given, settings
from hypothesis import strategies as st

from oddkettle.core.construction.enclosure.bodies import Body, Enclosure
from oddkettle.core.construction.enclosure.face_plan import (
    BETWEEN_MM,
    EDGE_MM,
    FACES,
    KEYED_APART_MM,
    FaceName,
    Fitting,
    Mounted,
    behind_mm,
    face_sizes,
    free_side,
    most_on,
    plan_faces,
    with_hole,
)
from oddkettle.core.construction.enclosure.layout import fit, least_growth, place_all, proposed_case
from oddkettle.core.construction.enclosure.standing import Standing, apart_mm, gap_mm
from tests.core.construction.enclosure.test_fit import body as part
from tests.support.tiers import examples

quiet = settings(max_examples=examples(60), deadline=None)
sides = st.floats(150, 700)
boxes = st.builds(
    Enclosure, sides, sides, sides, st.floats(3, 30), st.just("wood"), st.floats(1, 12)
)
kinds = st.sampled_from(["outlet", "inlet", "meter", "switch", "breaker"])
fittings = st.lists(
    st.builds(
        Fitting,
        key=st.uuids().map(str),
        name=st.just("Thing"),
        kind=kinds,
        hole_mm=st.floats(10, 50),
        flange_mm=st.floats(51, 90),
        depth_mm=st.floats(10, 80),
    ),
    max_size=9,
).map(tuple)


blocks = st.lists(
    st.builds(
        lambda x, y, z, size: Standing(part(size=(size, size, size)), x, y, z),
        st.floats(0, 300),
        st.floats(0, 300),
        st.floats(0, 200),
        st.floats(20, 150),
    ),
    max_size=4,
).map(tuple)


@quiet
@given(boxes, fittings, blocks)
def test_no_fitting_is_lost_and_those_that_are_placed_go(
    box: Enclosure, things: tuple[Fitting, ...], inside: tuple[Standing, ...]
) -> None:
    found = plan_faces(box, things, (), inside)
    left = {key for fault in found.faults for key in fault.items}
    assert {m.fitting.key for m in found.mounted} | left == {f.key for f in things}
    assert not {m.fitting.key for m in found.mounted} & left
    sizes = face_sizes(box)
    for m in found.mounted:
        width, height = sizes[m.face]
        reach = m.fitting.flange_mm / 2 + EDGE_MM - 0.1
        assert reach <= m.x_mm <= width - reach
        assert reach <= m.y_mm <= height - reach
        assert behind_mm(box, m, inside) >= m.fitting.depth_mm - 0.1
    for a, b in combinations(found.mounted, 2):
        if a.face == b.face:
            gap = ((a.x_mm - b.x_mm) ** 2 + (a.y_mm - b.y_mm) ** 2) ** 0.5
            assert gap >= (a.fitting.flange_mm + b.fitting.flange_mm) / 2 + BETWEEN_MM - 0.2
            if {a.fitting.kind, b.fitting.kind} == {"inlet", "outlet"}:
                assert gap >= KEYED_APART_MM - 0.2


@quiet
@given(boxes, blocks, st.sampled_from(FACES), st.floats(0.2, 0.8), st.floats(0.2, 0.8))
def test_behind_a_fitting_is_never_more_than_the_box_and_less_with_more_in_it(
    box: Enclosure, inside: tuple[Standing, ...], face: FaceName, across: float, up: float
) -> None:
    width, height = face_sizes(box)[face]
    fitting = Fitting("f", "F", "outlet", 20.0, 30.0, 10.0)
    spot = Mounted(fitting, face, across * width, up * height)
    deep = box.width_mm if face in {"front", "back"} else box.length_mm
    empty = behind_mm(box, spot, ())
    assert empty == pytest.approx(deep + box.wall_mm)
    room = empty
    for n in range(len(inside)):
        less = behind_mm(box, spot, inside[: n + 1])
        assert box.wall_mm - 1e-9 <= less <= room + 1e-9
        room = less


@quiet
@given(st.floats(20, 200), st.floats(0, 100), st.floats(0.0, 1.0))
def test_a_box_turned_about_has_front_and_back_changed_over(
    size: float, near: float, along: float
) -> None:
    box = Enclosure(500.0, 400.0, 300.0, 10.0, "wood", 5.0)
    body = part(size=(size, size, size))
    x, y = along * (500.0 - size), near
    assume(y + size <= 400.0)
    here, there = Standing(body, x, y, 0.0), Standing(body, 500 - size - x, 400 - size - y, 0.0)
    fitting = Fitting("f", "F", "outlet", 20.0, 30.0, 10.0)
    front = Mounted(fitting, "front", 10.0 + x + size / 2, 60.0)
    back = replace(front, face="back")
    assert behind_mm(box, front, (here,)) == pytest.approx(behind_mm(box, back, (there,)))
    assert free_side("back", box, (y, y + size)) == pytest.approx(400.0 - y - size)


@quiet
@example(153.0, 494.0, 60.25)
@given(st.floats(30, 800), st.floats(30, 800), st.floats(20, 90))
def test_as_many_as_are_promised_really_go_on_a_face(
    width: float, height: float, flange: float
) -> None:
    most = most_on((width, height), flange)
    assume(0 < most <= 30)
    wall = 10.0
    # So deep that only the front is tried, and nothing stands behind.
    box = Enclosure(width - 2 * wall, 2000.0, height - 2 * wall, wall, "wood", 5.0)
    assume(box.length_mm > 0 and box.height_mm > 0)
    things = tuple(
        Fitting(f"f{n}", "F", "outlet", flange - 5, flange, box.length_mm + wall + 1)
        for n in range(most)
    )
    found = plan_faces(box, things, (), ())
    assert len([m for m in found.mounted if m.face in {"front", "back"}]) == most


@given(st.floats(10, 120))
def test_a_flange_grows_with_its_hole_and_never_shrinks(hole: float) -> None:
    fitting = Fitting("f", "F", "outlet", 29.0, 38.0, 45.0)
    drilled = with_hole(fitting, hole)
    assert drilled.hole_mm == hole
    assert drilled.flange_mm == pytest.approx(max(38.0, hole + 38.0 - 29.0))
    assert with_hole(fitting, None) == fitting


parts = st.lists(
    st.builds(
        part,
        st.uuids().map(str),
        st.tuples(st.floats(20, 250), st.floats(20, 200), st.floats(20, 150)),
        clear_mm=st.floats(0, 30),
        above_mm=st.floats(0, 50),
        hot=st.booleans(),
        low=st.booleans(),
    ),
    min_size=1,
    max_size=7,
).map(tuple)


@quiet
@given(parts)
def test_the_proposed_box_takes_everything_or_is_the_largest(bodies: tuple[Body, ...]) -> None:
    box = proposed_case(bodies, "wood", 12.0)
    standing, left = place_all(box, bodies, ())
    if left:
        larger = proposed_case((part("huge", (1900, 1900, 1900)),), "wood", 12.0)
        assert (box.length_mm, box.width_mm) == (larger.length_mm, larger.width_mm)
    for a, b in combinations(standing, 2):
        assert apart_mm(a, b) >= -1e-6


@quiet
@given(parts, st.floats(150, 400), st.floats(150, 400), st.floats(100, 300))
def test_the_growth_that_is_named_is_enough(
    bodies: tuple[Body, ...], length: float, width: float, height: float
) -> None:
    box = Enclosure(length, width, height, 10.0, "wood", 5.0)
    _, left = place_all(box, bodies, ())
    grown = least_growth(box, bodies, ())
    if not left or grown is None:
        return
    way, by = grown
    assert by >= 1.0
    field = f"{way}_mm"
    larger = replace(box, **{field: getattr(box, field) + by})
    assert not place_all(larger, bodies, ())[1]


@quiet
@given(parts, parts)
def test_the_gap_between_two_parts_does_not_depend_on_which_is_named_first(
    some: tuple[Body, ...], others: tuple[Body, ...]
) -> None:
    a, b = some[0], others[0]
    assert gap_mm(a, b) == gap_mm(b, a)
    here, there = Standing(a, 0.0, 0.0, 0.0), Standing(b, 400.0, 30.0, 0.0)
    assert apart_mm(here, there) == apart_mm(there, here)


@pytest.mark.parametrize(("over", "codes"), [(1.0, ["outside"]), (0.0, [])])
def test_a_part_that_sticks_out_is_told_by_the_millimetre(over: float, codes: list[str]) -> None:
    box = Enclosure(300.0, 300.0, 300.0, 10.0, "wood", 5.0)
    body = part()
    at = 300.0 - body.length_mm - body.clear_mm + over
    found = fit(box, (body,), (Standing(body, at, 50.0, 0.0, pinned=True),), 10.0)
    assert [clash.code for clash in found.clashes] == codes
    if codes:
        assert "by 1 mm" in found.clashes[0].text


def test_the_centre_of_mass_is_between_the_parts_by_their_weight() -> None:
    box = Enclosure(600.0, 300.0, 300.0, 10.0, "wood", 0.0)
    heavy, light = part("heavy", kg=30.0), part("light", kg=10.0)
    stands = (
        Standing(heavy, 20.0, 100.0, 0.0, pinned=True),
        Standing(light, 420.0, 100.0, 0.0, pinned=True),
    )
    found = fit(box, (heavy, light), stands, 40.0)
    # Middles at 70 and 470 mm: three parts to one, the empty box weighing nothing.
    assert found.centre_mm[0] == pytest.approx(70.0 + 400.0 * 10.0 / 40.0)
    assert found.centre_mm[2] == pytest.approx(30.0)
