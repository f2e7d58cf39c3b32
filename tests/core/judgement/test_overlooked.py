"""What is easily overlooked in a box: each rule on both sides of its threshold."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.core.judgement import Judgement, judge
from oddkettle.core.simulation.case import Case, Surroundings
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.own_wiring import Choice, Wiring
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import Coupling, ReadyMade
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Panel
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block
from oddkettle.plan.case import case_from_plan
from tests.conftest import EXAMPLES, example
from tests.core.boxes import a_case, lamp

LAMP = lamp(10.0)
ROOF = SunInput("s", "Sun", (Panel(100.0, "flat", 0.0, 180.0, False),), Controller(10.0, 0.96))
PLUGGED = (Block("hookup", 0, 600, 0, 900),)
COUNTER = replace(lamp(0.5), key="c", name="Battery monitor", medical=False)
LEAD = Bank(AGM, 100.0)


def judged(case: Case) -> dict[str, Judgement]:
    run = simulate(case)
    return {judgement.code: judgement for judgement in judge(run, keep_ledger(run))}


def around(**more: object) -> Surroundings:
    return replace(Surroundings(), **more)  # type: ignore[arg-type]


def two_chargers(first_v: float, second_v: float, **more: object) -> Case:
    """Two mains chargers on a low battery, each with its own absorption."""
    chargers = tuple(
        MainsCharger(key, key, 8.0, 0.9, profile=Profile(volts, 13.5))
        for key, volts in (("one", first_v), ("two", second_v))
    )
    return a_case(mains=chargers, blocks=PLUGGED, soc0=0.3, **more)


BOTH_SIDES: list[tuple[str, Case, Case]] = [
    (
        "level-unseen",
        a_case(wiring=Wiring(shunt=False, voltmeter=False)),
        a_case(wiring=Wiring(shunt=False, voltmeter=True)),
    ),
    (
        "level-by-volts",
        a_case(wiring=Wiring(shunt=False)),
        a_case(wiring=Wiring(shunt=False), bank=LEAD),
    ),
    (
        "counted-without-shunt",
        a_case(appliances=(COUNTER,), wiring=Wiring(shunt=False)),
        a_case(appliances=(COUNTER,), wiring=Wiring(shunt=True)),
    ),
    (
        "cable-too-thin",
        a_case(sun=(ROOF,), wiring=Wiring((Choice("panel-s", cable_mm2=1.5),))),
        a_case(sun=(ROOF,), wiring=Wiring((Choice("panel-s", cable_mm2=2.5),))),
    ),
    (
        "isolator-key",
        a_case(wiring=Wiring(loose_key=True)),
        a_case(wiring=Wiring(loose_key=False)),
    ),
    (
        "lithium-under-bonnet",
        a_case(surroundings=around(place="engine")),
        a_case(surroundings=around(place="living")),
    ),
    (
        "bare-posts",
        a_case(surroundings=around(posts_covered=False)),
        a_case(surroundings=around(posts_covered=True)),
    ),
    (
        "bare-metal-pass",
        a_case(surroundings=around(metal=True, grommets=False)),
        a_case(surroundings=around(metal=False, grommets=False)),
    ),
    (
        "chargers-in-parallel",
        two_chargers(14.2, 14.2),
        two_chargers(14.2, 14.2, joining=Coupling("selector")),
    ),
    (
        "panel-feeds-loads",
        a_case(sun=(ROOF,), appliances=(LAMP,)),
        a_case(sun=(ROOF,)),
    ),
]


@pytest.mark.parametrize(("code", "bad", "good"), BOTH_SIDES, ids=[row[0] for row in BOTH_SIDES])
def test_each_speaks_on_one_side_only(code: str, bad: Case, good: Case) -> None:
    assert code in judged(bad)
    assert code not in judged(good)


OF_ITS_INSIDE = [row for row in BOTH_SIDES if row[0] != "cable-too-thin"]


@pytest.mark.parametrize(("code", "bad", "good"), OF_ITS_INSIDE, ids=lambda one: str(one)[:22])
def test_a_ready_made_unit_is_asked_none_of_it(code: str, bad: Case, good: Case) -> None:
    assert code not in judged(replace(bad, unit=ReadyMade()))


def test_bare_posts_in_metal_are_told_once_and_as_what_they_are() -> None:
    said = judged(a_case(surroundings=around(metal=True, posts_covered=False)))
    assert "conductive-enclosure" in said
    assert "bare-posts" not in said


def test_lead_beside_an_engine_has_its_own_rule() -> None:
    said = judged(a_case(surroundings=around(place="engine"), bank=LEAD))
    assert "agm-under-bonnet" in said
    assert "lithium-under-bonnet" not in said


def test_a_loose_key_is_a_fault_where_something_must_run() -> None:
    key = Wiring(loose_key=True)
    must = replace(LAMP, priority="must", name="Night lamp")
    assert judged(a_case(wiring=key, appliances=(LAMP,)))["isolator-key"].severity == "note"
    grave = judged(a_case(wiring=key, appliances=(must,)))["isolator-key"]
    assert grave.severity == "fault"
    assert grave.means.startswith("Night lamp must run")


def test_two_chargers_are_harmless_alike_and_told_apart_by_their_volts() -> None:
    alike = judged(two_chargers(14.2, 14.3))["chargers-in-parallel"]
    assert alike.severity == "note"
    assert "harmless" in alike.means
    assert "16 A of the 50 A" in alike.means
    apart = judged(two_chargers(14.2, 13.7))["chargers-in-parallel"]
    assert "two holds 0.5 V less" in apart.means


@pytest.mark.parametrize("path", sorted(EXAMPLES.glob("*.json")), ids=lambda path: path.stem)
def test_what_the_tool_chooses_is_gripped_by_its_own_terminals(path: Path) -> None:
    board = board_of(simulate(case_from_plan(example(path.stem))))
    chosen = [c for c in board.circuits if "cable_mm2" not in c.fixed | c.need.stated]
    assert chosen
    for circuit in chosen:
        part = CONNECTORS[circuit.connector]
        assert circuit.cable_mm2 is None or (
            0.95 * part.least_mm2 <= circuit.cable_mm2 <= 1.05 * part.most_mm2
        )
