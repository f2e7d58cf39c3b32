"""Outlets as their owner wants them, and fuses in the strings of panels."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddkettle.core.construction.parts.lines import BuiltOf
from oddkettle.core.construction.parts.parts_list import list_parts
from oddkettle.core.construction.schematic.drawing import draw_schematic
from oddkettle.core.construction.wiring.circuits import Circuit
from oddkettle.core.construction.wiring.panel_strings import (
    HOURS_FACTOR,
    LIGHT_FACTOR,
    PANEL_BEARS_A,
    SIZES_A,
    back_a,
    string_fuse_a,
    wants_fuses,
)
from oddkettle.core.loads.demand import Appliance
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.own_wiring import Choice, OwnOutlet
from tests.core.boxes import lamp
from tests.core.construction.boxes import board, full_case, ran, strings_of, wired, wiring_judged

CUT_OFF_V = 10.8


def thing(key: str, watts: float, supply: str = "12v") -> Appliance:
    return replace(lamp(watts), key=key, name=key, supply=supply)  # type: ignore[arg-type]


THINGS = (
    thing("a", 10.0),
    thing("b", 20.0),
    thing("c", 60.0),
    thing("d", 12.0, "usb"),
)


def with_outlets(*outlets: OwnOutlet) -> Case:
    case = full_case(appliances=THINGS, inverter=None)
    return replace(case, wiring=replace(case.wiring, outlets=outlets))


def plugged(*outlets: OwnOutlet) -> dict[str, tuple[str, ...]]:
    """What hangs on each outlet of a box with these of its owner's."""
    found = board(with_outlets(*outlets)).circuits
    return {c.key: c.need.appliances for c in found if c.need.role in {"outlet", "usb"}}


def of(key: str, case: Case) -> Circuit:
    found = board(case).of(key)
    assert found is not None
    return found


def test_what_is_placed_goes_there_and_the_rest_stays_with_the_tool() -> None:
    assert plugged(OwnOutlet("own-1", "Lee side", appliances=("b", "c"))) == {
        "shared-1": ("a",),
        "usb-1": ("d",),
        "own-1": ("b", "c"),
    }


def test_an_outlet_of_the_tools_can_be_taken_over_with_its_choices() -> None:
    case = with_outlets(OwnOutlet("outlet-c", "Fridge corner", appliances=("c", "a")))
    fixed = replace(case.wiring, choices=(Choice("outlet-c", run_m=2.5),))
    corner = of("outlet-c", replace(case, wiring=fixed))
    assert (corner.need.name, corner.run_m) == ("Fridge corner", 2.5)
    assert corner.need.continuous_a == pytest.approx(70.0 / CUT_OFF_V)


def test_a_key_that_is_taken_is_not_given_again() -> None:
    """The strong one was moved off the outlet that bears its name, and wants another."""
    on = plugged(OwnOutlet("outlet-c", "Corner", appliances=("a",)), OwnOutlet("shared-1", "Bow"))
    assert on == {
        "outlet-c-2": ("c",),
        "shared-1-2": ("b",),
        "usb-1": ("d",),
        "outlet-c": ("a",),
        "shared-1": (),
    }


def test_each_appliance_is_plugged_in_once_and_only_where_it_fits() -> None:
    first = OwnOutlet("own-1", "One", appliances=("a", "a", "d", "gone"))
    second = OwnOutlet("own-2", "Two", usb=True, appliances=("d", "a"))
    on = plugged(first, second)
    assert (on["own-1"], on["own-2"]) == (("a",), ("d",))


@given(
    st.lists(
        st.builds(
            OwnOutlet,
            st.sampled_from(["own-1", "own-2", "outlet-c", "shared-1", "usb-1"]),
            st.just("Mine"),
            st.booleans(),
            st.booleans(),
            st.lists(st.sampled_from("abcd"), max_size=5).map(tuple),
            st.floats(0, 20),
        ),
        max_size=4,
        unique_by=lambda outlet: outlet.key,
    )
)
def test_however_outlets_are_asked_for_everything_is_plugged_in_exactly_once(
    outlets: list[OwnOutlet],
) -> None:
    case = with_outlets(*outlets)
    circuits = board(case).circuits
    assert len({c.key for c in circuits}) == len(circuits)
    on = [key for c in circuits for key in c.need.appliances]
    assert sorted(on) == ["a", "b", "c", "d"]
    for c in circuits:
        if c.need.role in {"outlet", "usb"}:
            assert c.cable_mm2 is not None
            assert c.fuse_a is None or c.fuse_a <= c.ampacity_a


def test_what_is_foreseen_is_wired_fused_and_carried_by_the_battery() -> None:
    spare = OwnOutlet("own-1", "Spare", spare_a=8.0)
    outlet = of("own-1", with_outlets(spare))
    assert (outlet.need.continuous_a, outlet.fuse_a, outlet.need.seen_a) == (8.0, 10.0, 0.0)
    without = of("battery", with_outlets())
    more = of("battery", with_outlets(spare, replace(spare, key="own-2", spare_a=40.0)))
    together = sum(t.power_w / CUT_OFF_V for t in THINGS[:3])
    assert more.need.continuous_a >= 48.0 + together
    assert more.need.continuous_a > without.need.continuous_a


@pytest.mark.parametrize(("spare_a", "plug"), [(8.0, "usb"), (15.0, "keyed_30")])
def test_what_no_usb_outlet_bears_gets_a_plug_that_does(spare_a: float, plug: str) -> None:
    case = with_outlets(OwnOutlet("own-1", "Desk", usb=True, spare_a=spare_a))
    assert of("own-1", case).connector == plug
    assert wiring_judged(case) == {}


def test_two_strings_need_no_fuse_and_three_strong_ones_do() -> None:
    # Isc 9 A: one other gives 11.25 A, two others 22.5 A; a panel bears 15 A.
    assert of("panel-roof", full_case(sun=(strings_of(2, 9.0),))).string_fuse_a is None
    three = of("panel-roof", full_case(sun=(strings_of(3, 9.0),)))
    assert three.need.strings == 3.0
    # 1.25 x 1.25 x 9 A = 14.06 A.
    assert three.string_fuse_a == 15.0


def test_the_panels_own_label_goes_before_the_usual() -> None:
    """Two others of 9 A feed 22.5 A into a failed one; one other 11.25 A."""
    careful = of("panel-roof", full_case(sun=(strings_of(2, 9.0, fuse_max_a=11.0),)))
    assert careful.string_fuse_a == 15.0
    robust = of("panel-roof", full_case(sun=(strings_of(3, 9.0, fuse_max_a=25.0),)))
    assert (robust.need.string_bears_a, robust.string_fuse_a) == (25.0, None)
    bare = full_case(
        Choice("panel-roof", string_fuses=False), sun=(strings_of(3, 9.0, fuse_max_a=20.0),)
    )
    means = wiring_judged(bare)["strings-unfused"].means
    assert "their label allows 20 A" in means


def test_the_weakest_panel_of_an_array_decides() -> None:
    one, two = strings_of(1, 9.0, fuse_max_a=30.0), strings_of(2, 9.0, fuse_max_a=20.0)
    mixed = replace(one, panels=(*one.panels, *two.panels))
    assert of("panel-roof", full_case(sun=(mixed,))).need.string_bears_a == 20.0
    unsaid = replace(one, panels=(*one.panels, *strings_of(2, 9.0).panels))
    assert of("panel-roof", full_case(sun=(unsaid,))).need.string_bears_a == PANEL_BEARS_A
    assert of("panel-roof", full_case(sun=(strings_of(2, 9.0),))).need.string_bears_a is None


def test_panels_in_series_are_one_string() -> None:
    six = of("panel-roof", full_case(sun=(strings_of(6, 9.0, series=2),)))
    assert (six.need.strings, six.need.string_a) == (3.0, 9.0)
    assert of("panel-roof", full_case(sun=(strings_of(3, 9.0, series=3),))).string_fuse_a is None


def test_the_owner_may_want_string_fuses_or_not() -> None:
    def one(count: int, wanted: bool) -> float | None:
        choice = Choice("panel-roof", string_fuses=wanted)
        found = of("panel-roof", full_case(choice, sun=(strings_of(count, 5.0),)))
        assert "string_fuses" in found.fixed
        return found.string_fuse_a

    assert one(2, True) == 8.0
    assert one(3, False) is None
    assert one(1, True) is None


@given(st.floats(1, 12), st.floats(0.1, 19))
def test_a_string_fuse_is_the_smallest_that_bears_its_string(strings: float, short: float) -> None:
    size = string_fuse_a(short)
    least = LIGHT_FACTOR * HOURS_FACTOR * short
    assert size is not None
    assert size >= least - 1e-6
    smaller = [other for other in SIZES_A if other < size]
    assert not smaller or smaller[-1] < least
    assert wants_fuses(strings, short) == (back_a(strings, short) > PANEL_BEARS_A)


def test_no_fuse_for_panels_is_larger_than_the_largest_made() -> None:
    assert string_fuse_a(19.3) is None
    judged = wiring_judged(full_case(sun=(strings_of(3, 19.3),)))
    assert "combiner" in judged["strings-unfused"].remedy


def test_string_fuses_are_bought_and_drawn() -> None:
    run = ran(full_case(sun=(strings_of(4, 9.0),)))
    found = board(run.case)
    parts = list_parts(run, found, BuiltOf("wood", 5.0, 0.1), ())
    fuses = [line.article for line in parts if line.article.key == "fuse:string-15"]
    assert [one.count for one in fuses] == [4]
    supply = draw_schematic(run, found, "Box")[0]
    assert any(label.text == "4 x 15 A" for label in supply.labels)


def test_without_own_outlets_nothing_is_foreseen() -> None:
    assert all(c.need.spare_a == 0.0 for c in board(wired()).circuits)
