"""A ready-made unit's booklet: nothing is opened, its figures are this plan's."""

from __future__ import annotations

from oddkettle.core.construction.procedures.expected_readings import under_a_clear_sky
from oddkettle.core.construction.procedures.ready_made import UnitNote, unit_booklet
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.coupling import ReadyMade
from tests.core.construction.boxes import full_case


def notes(case: Case) -> dict[str, UnitNote]:
    run = simulate(case)
    parts = unit_booklet(run, board_of(run), under_a_clear_sky(run))
    return {note.key: note for part in parts for note in part.notes}


UNIT = full_case(unit=ReadyMade(input_w=200.0, dc_efficiency=0.9, standby_w=4.0))


def test_a_box_that_is_built_has_none() -> None:
    assert notes(full_case()) == {}


def test_every_input_has_a_line_with_the_voltage_or_watts_to_expect() -> None:
    found = notes(UNIT)
    assert found["together"].figure == "200 W at most"
    # 100 W panel of 22 V open: 44 V could never be.
    assert "V open in sun" in found["sun-roof"].figure
    # 20 A at 12.8 V, on a socket's usual 10 A fuse.
    assert found["vehicle-dcdc"].figure.startswith("256 W into it, on a fuse of 10 A")
    # 10 A at 12.8 V.
    assert found["mains-mains"].figure == "about 128 W"


def test_what_it_keeps_for_itself_and_what_voids_it_is_said() -> None:
    found = notes(UNIT)
    assert found["losses"].figure == "10 %, and 4 W"
    assert {"open", "second", "feed", "frost"} <= set(found)
