"""Faces: room in front and behind, keyed inlets kept apart, too many fittings refused."""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddkettle.core.construction.enclosure.bodies import Body, Enclosure
from oddkettle.core.construction.enclosure.face_plan import (
    BETWEEN_MM,
    EDGE_MM,
    KEYED_APART_MM,
    Fitting,
    Mounted,
    behind_mm,
    face_sizes,
    fittings_of,
    most_on,
    plan_faces,
    with_hole,
)
from oddkettle.core.construction.enclosure.standing import Standing
from tests.core.construction.boxes import board, full_case

BOX = Enclosure(400.0, 300.0, 250.0, 10.0, "wood", 5.0)
SOCKET = Fitting("s1", "Socket", "outlet", 29.0, 38.0, 45.0)
INLET = Fitting("i1", "Inlet", "inlet", 28.0, 40.0, 40.0)


def sockets(count: int) -> tuple[Fitting, ...]:
    return tuple(replace(SOCKET, key=f"s{n}", name=f"Socket {n}") for n in range(count))


def block(x: float, y: float, z: float, size: float = 100.0) -> Standing:
    body = Body("b", "Battery", size, size, size, 10.0, 0.0, 0.0, hot=False, low=True)
    return Standing(body, x, y, z)


def text(*mounted: Mounted, standing: tuple[Standing, ...] = ()) -> list[str]:
    fittings = tuple(m.fitting for m in mounted)
    return [fault.text for fault in plan_faces(BOX, fittings, mounted, standing).faults]


def test_a_face_is_as_large_as_the_box_from_outside() -> None:
    assert face_sizes(BOX)["front"] == (420.0, 270.0)
    assert face_sizes(BOX)["left"] == (320.0, 270.0)


def test_what_the_tool_lays_out_has_room_all_round() -> None:
    found = plan_faces(BOX, (*sockets(6), INLET), (), (block(50, 50, 0),))
    assert found.faults == ()
    assert len(found.mounted) == 7


@pytest.mark.parametrize(("apart", "faults"), [(38 + BETWEEN_MM - 1, 1), (38 + BETWEEN_MM, 0)])
def test_two_flanges_and_room_for_fingers(apart: float, faults: int) -> None:
    a, b = sockets(2)
    assert len(text(Mounted(a, "front", 100, 150), Mounted(b, "front", 100 + apart, 150))) == faults


@pytest.mark.parametrize(("apart", "faults"), [(KEYED_APART_MM - 1, 1), (KEYED_APART_MM, 0)])
def test_an_inlet_is_kept_away_from_an_outlet(apart: float, faults: int) -> None:
    found = text(Mounted(SOCKET, "front", 100, 150), Mounted(INLET, "front", 100 + apart, 150))
    assert len(found) == faults
    assert all("an inlet and an outlet are kept apart" in one for one in found)


def test_on_different_faces_nothing_is_too_close() -> None:
    assert text(Mounted(SOCKET, "front", 100, 150), Mounted(INLET, "left", 100, 150)) == []


@pytest.mark.parametrize(("x", "faults"), [(19 + EDGE_MM - 1, 1), (19 + EDGE_MM, 0)])
def test_a_flange_keeps_off_the_edge(x: float, faults: int) -> None:
    assert len(text(Mounted(SOCKET, "front", x, 150))) == faults


@pytest.mark.parametrize(
    ("face", "x", "stand"),
    [
        # A block 30 mm behind the inner wall: 40 mm from outside, 45 wanted.
        ("front", 110.0, block(50, 30, 100)),
        ("back", 310.0, block(50, 300 - 130, 100)),
        ("left", 210.0, block(30, 50, 100)),
        ("right", 110.0, block(400 - 130, 50, 100)),
    ],
)
def test_what_stands_behind_a_fitting_is_in_its_way(face: str, x: float, stand: Standing) -> None:
    spot = Mounted(SOCKET, face, x, 160.0)  # type: ignore[arg-type]
    assert behind_mm(BOX, spot, (stand,)) == pytest.approx(40.0)
    (said,) = text(spot, standing=(stand,))
    assert "reaches 45 mm in; behind it are 40 mm" in said


def test_what_stands_beside_or_below_is_not() -> None:
    spot = Mounted(SOCKET, "front", 110.0, 160.0)
    for stand in (block(250, 0, 100), block(50, 0, 0, 90.0)):
        assert behind_mm(BOX, spot, (stand,)) == pytest.approx(310.0)


def test_forty_outlets_on_a_small_box_are_refused_in_numbers() -> None:
    small = Enclosure(200.0, 140.0, 120.0, 10.0, "plastic", 2.0)
    found = plan_faces(small, sockets(40), (), ())
    (fault,) = [fault for fault in found.faults if fault.face is None]
    left = 40 - len(found.mounted)
    assert left > 0
    assert fault.text.startswith(f"{left} of 40 fittings find no room: the front, 220 x 140 mm")
    assert f"takes {most_on((220.0, 140.0), 38.0)} of 38 mm flange at most" in fault.text
    assert "larger box" in fault.remedy


def test_how_many_a_face_takes_by_hand() -> None:
    # 220 - 24 - 38 = 158, one more each 46 mm: 4; 140 - 62 = 78: 2.
    assert most_on((220.0, 140.0), 38.0) == 8
    assert most_on((50.0, 140.0), 38.0) == 0


def test_a_hole_from_the_sheet_widens_its_flange() -> None:
    wider = with_hole(SOCKET, 40.0)
    assert (wider.hole_mm, wider.flange_mm) == (40.0, 49.0)
    assert with_hole(SOCKET, 20.0).flange_mm == SOCKET.flange_mm
    assert with_hole(SOCKET, None) == SOCKET


def test_every_plug_breaker_and_lead_of_a_box_passes_some_wall() -> None:
    fittings = fittings_of(board(full_case()), 1, vents=1, ready=False)
    assert {f.kind for f in fittings} == {
        "meter",
        "switch",
        "outlet",
        "inlet",
        "breaker",
        "gland",
        "vent",
    }
    assert fittings_of(board(full_case()), 1, vents=1, ready=True) == ()


def test_a_pinned_fitting_stays_where_it_was_put() -> None:
    pin = Mounted(SOCKET, "back", 200.0, 100.0, pinned=True)
    found = plan_faces(BOX, (SOCKET, INLET), (pin,), ())
    assert found.mounted[0] == pin
