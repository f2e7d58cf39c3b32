"""What hangs elsewhere than on the bar: a load output, a socket's inverter, outlets of mains."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.construction.design import OwnBuild, build_up
from oddkettle.core.construction.wiring.circuits import Board
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.core.construction.wiring.terminals import pieces_of
from oddkettle.core.judgement import Judgement, judge
from oddkettle.core.loads.demand import Appliance, Inverter, Window
from oddkettle.core.simulation.case import Case, LoadOutput
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.own_wiring import OwnOutlet, Wiring
from oddkettle.core.simulation.run import Run, simulate
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Panel
from oddkettle.core.sources.solar import Controller, SunInput
from tests.core.boxes import a_case, lamp

ROOF = SunInput("s", "Roof", (Panel(100.0, "flat", 0.0, 180.0, False),), Controller(8.0, 0.96))
LAMP = replace(lamp(24.0), key="out", name="Lamp")
FAN = replace(lamp(12.0), key="bar", name="Fan")
LAPTOP = Appliance("pc", "Laptop", 60.0, "inverter", (Window(600, 900),))


def on_output(limit_a: float = 10.0, off_v: float = 11.4, **more: Any) -> Case:
    output = LoadOutput("s", limit_a, off_v, 12.6, ("out",))
    return a_case(sun=(ROOF,), appliances=(LAMP, FAN), load_output=output, **more)


def in_socket(fuse_a: float | None, watts: float = 60.0, rating_w: float = 150.0) -> Case:
    inverter = Inverter(rating_w, 3.0, 0.9, socket_a=fuse_a)
    return a_case(appliances=(replace(LAPTOP, power_w=watts),), inverter=inverter)


def with_mains_outlet(inverter: Inverter | None) -> Case:
    outlet = OwnOutlet("own-1", "Desk", mains=True, appliances=("pc",))
    things = (LAPTOP,) if inverter else ()
    return a_case(appliances=things, inverter=inverter, wiring=Wiring(outlets=(outlet,)))


def ran(case: Case) -> tuple[Run, Board, dict[str, Judgement]]:
    run = simulate(case)
    return run, board_of(run), {j.code: j for j in judge(run, keep_ledger(run))}


def test_what_hangs_on_a_load_output_begins_there_with_both_leads() -> None:
    run, board, _ = ran(on_output())
    (out,) = [c for c in board.circuits if "out" in c.need.appliances]
    (bar,) = [c for c in board.circuits if "bar" in c.need.appliances]
    assert out.need.begins == "Roof, load output"
    assert bar.need.begins == "positive bar"
    ends = {
        (piece.sign, piece.begins.at)
        for piece in pieces_of(run, board)
        if piece.circuit == out.number
    }
    assert ends == {("+", "Roof, load output"), ("-", "Roof, load output"), ("+", "in-line fuse")}


def test_the_controllers_lead_bears_what_its_load_output_takes_by_night() -> None:
    _, plain, _ = ran(a_case(sun=(ROOF,), appliances=(LAMP, FAN)))
    _, board, _ = ran(on_output(limit_a=20.0))
    charge = board.of("charge-s")
    usual = plain.of("charge-s")
    assert charge is not None
    assert usual is not None
    assert (usual.carries_a, charge.carries_a) == (8.0, 20.0)


def test_a_socket_binds_its_inverter_with_its_fuse() -> None:
    """10 A bear 8 A for hours, 78 W at 10.8 V through 90 %, whatever the label says."""
    _, board, said = ran(in_socket(10.0, watts=60.0))
    circuit = board.of("inverter")
    assert circuit is not None
    assert (circuit.fuse_a, circuit.connector) == (10.0, "socket")
    assert circuit.carries_a == pytest.approx(8.0)
    note = said["inverter-over-socket"]
    assert note.severity == "note"
    assert "gives 78 W" in note.text
    assert "fuse-under-load" not in said
    _, wired, _ = ran(in_socket(None))
    strong = wired.of("inverter")
    assert strong is not None
    assert strong.connector == "lug"
    assert strong.carries_a == pytest.approx(150 / 0.9 / 10.8)


@pytest.mark.parametrize(("watts", "severity"), [(79.0, "fault"), (77.0, "note")])
def test_more_on_the_inverter_than_its_socket_bears(watts: float, severity: str) -> None:
    assert ran(in_socket(10.0, watts))[2]["inverter-over-socket"].severity == severity


def test_a_small_inverter_in_a_strong_socket_is_told_nothing() -> None:
    assert "inverter-over-socket" not in ran(in_socket(20.0, 60.0, rating_w=150.0))[2]


BOTH_SIDES = [
    # 24 W at the cut-off voltage of 10.8 V are 2.2 A.
    ("load-output-over", on_output(limit_a=2.1), on_output(limit_a=2.4)),
    (
        "load-output-late",
        on_output(off_v=11.0, bank=Bank(AGM, 100.0)),
        on_output(off_v=11.4, bank=Bank(AGM, 100.0)),
    ),
    ("load-output-late", on_output(off_v=11.0, bank=Bank(AGM, 100.0)), on_output(off_v=11.0)),
    (
        "outlet-without-inverter",
        with_mains_outlet(None),
        with_mains_outlet(Inverter(300.0, 6.0, 0.9)),
    ),
    (
        "profile-mismatch",
        a_case(
            mains=(
                MainsCharger(
                    "m", "M", 5.0, 0.9, profile=Profile(14.2, 13.5, second_v=15.0, second_hours=1.0)
                ),
            )
        ),
        a_case(
            mains=(
                MainsCharger(
                    "m", "M", 5.0, 0.9, profile=Profile(14.2, 13.5, second_v=14.4, second_hours=1.0)
                ),
            )
        ),
    ),
]


@pytest.mark.parametrize(("code", "bad", "good"), BOTH_SIDES, ids=[row[0] for row in BOTH_SIDES])
def test_each_speaks_on_one_side_only(code: str, bad: Case, good: Case) -> None:
    assert code in ran(bad)[2]
    assert code not in ran(good)[2]


def test_an_outlet_of_mains_is_bought_placed_and_drawn_but_is_no_circuit() -> None:
    run, board, _ = ran(with_mains_outlet(Inverter(300.0, 6.0, 0.9)))
    assert board.of("own-1") is None
    built = build_up(run, OwnBuild(), "Box", board)
    keys = {line.article.key for line in built.lines}
    assert {"rcd", "mains-outlet:own-1"} <= keys
    assert built.faces is not None
    assert "mains-own-1" in {mounted.fitting.key for mounted in built.faces.mounted}
    words = " ".join(" ".join(shape.lines) for sheet in built.schematic for shape in sheet.shapes)
    assert "Desk" in words


def test_no_outlet_of_mains_changes_nothing() -> None:
    run, board, _ = ran(a_case(appliances=(LAPTOP,), inverter=Inverter(300.0, 6.0, 0.9)))
    keys = {line.article.key for line in build_up(run, OwnBuild(), "Box", board).lines}
    assert "rcd" not in keys
