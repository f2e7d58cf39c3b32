"""What judgements on circuits say in figures, each worked by hand from the box it is about.

The box: battery, circuit 1, 9,067 A into a short; the roof's panels 2 and their controller 3; the
vehicle 4 and 5; mains 6 of 10 A; inverter 7; a lamp 8 of 54 W, 5 A where the battery is lowest.
"""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.loads.demand import Inverter
from oddkettle.core.simulation.own_wiring import Choice
from tests.core.boxes import lamp
from tests.core.construction.boxes import (
    DCDC,
    fixed,
    full_case,
    strings_of,
    wired,
    wiring_judged,
)
from tests.core.judgement.test_sentences import Says, every, figures

TALL = (strings_of(2, 6.0, series=2),)
TWO_ON_ONE = (Choice("charge-roof", fuse_a=17.5), Choice("charge-mains", fuse_with="charge-roof"))

SAID = [
    # 13.6 V over 1.5 mOhm.
    Says("no-main-fuse", fixed("battery", protection="none"), "1 | 9067 | 180", (None,)),
    Says("no-main-fuse", wired(main_fuse_mm=181.0), "1 181 |  | 180", (180.0,)),
    # 1.25 x 5 A; its cable of 0.75 mm2 bears 10 A where it lies.
    Says("circuit-unfused", fixed("outlet-lamp", protection="none"), "8 |  | 6.3 10", (None,)),
    # 2.5 mm2 bears 30 A, in a bundle 21.
    Says(
        "fuse-over-cable",
        fixed("charge-mains", cable_mm2=2.5, fuse_a=40.0),
        "6 40 2.5 30 |  | 30",
        (30.0,),
    ),
    Says(
        "fuse-over-cable",
        fixed("charge-mains", cable_mm2=2.5, fuse_a=25.0, bundled=True),
        "6 25 2.5 21 |  | 20",
        (20.0,),
    ),
    Says(
        "fuse-under-load", fixed("charge-mains", fuse_a=12.4), "6 10.0 12.4 |  | 12.5 15", (15.0,)
    ),
    # A holder for 30 A bears four fifths of it for hours.
    Says(
        "fuse-under-load",
        full_case(
            Choice("charge-dcdc", family="blade", fuse_a=40.0),
            vehicle=(replace(DCDC, limit_a=24.1),),
        ),
        "5 24 24 |  | ",
        ("strip",),
    ),
    # Three others of 9,067 A each.
    Says("post-unfused", full_case(bank=Bank(LIFEPO4, 200.0, parallel=5)), "1 5 23652 |  | "),
    # Two of 22 V, and -0.27 % a degree from 25 down to the morning.
    Says(
        "voltage-rating",
        full_case(Choice("panel-roof", protection="fuse", family="blade"), sun=TALL),
        "2 48 32 |  | ",
        ("terminal",),
    ),
    Says(
        "voltage-rating",
        full_case(Choice("panel-roof", connector="socket"), sun=TALL),
        "2 48 12 30 |  | ",
        ("panel_pair",),
    ),
    Says(
        "cable-too-thick",
        fixed("charge-mains", connector="screw", cable_mm2=10.0),
        "6 10 6 |  | ",
        (None,),
    ),
    Says(
        "cable-too-thin",
        fixed("charge-mains", connector="keyed_50", cable_mm2=2.5),
        "6 2.5 50 4 |  | 4",
        (None,),
    ),
    # No cable keeps 3 % over 300 m: 2.5 mm2 would lose 10 A x 5.1 ohm, of which 2.26 m lose 3 %.
    Says(
        "drop-over",
        fixed("charge-mains", cable_mm2=2.5, run_m=300.0),
        "6 51.05 398.9 300 | 478.8 | 2.2",
    ),
    # 2.5 + 1.2 + 0.79 x 44.6 mOhm: 0.39 V at 10 A, and 3.9 W of them for the 48 min that it
    # takes; 3 % of 12.8 V are 0.384.
    Says(
        "drop-over",
        fixed("charge-mains", cable_mm2=1.0, run_m=0.79),
        "6 0.39 3.0 0.79 | 3.1 | 1.5",
        (1.5,),
    ),
    Says(
        "connector-over",
        full_case(Choice("outlet-lamp", connector="socket"), appliances=(lamp(163.0),)),
        "8 15.1 12 15 |  | ",
        (None,),
    ),
    # The panel works at 18 V.
    Says("charge-plug-shared", fixed("panel-roof", connector="socket"), "2 12 8 | 18 | ", (None,)),
    Says("shunt-bypassed", fixed("charge-mains", returns="battery_side"), "6 | 10.0 | ", (None,)),
    Says("shunt-bypassed", fixed("inverter", returns="battery_side"), "7 |  | ", (None,)),
    # Two others of 1.25 x 6.01 A; 1.56 x 6.01 are 9.4 A.
    Says(
        "strings-unfused",
        full_case(Choice("panel-roof", string_fuses=False), sun=(strings_of(3, 6.01),)),
        "2 3 | 15.0 15 | 10",
        (None,),
    ),
    Says(
        "string-fuse-over-label",
        full_case(sun=(strings_of(3, 6.0, fuse_max_a=9.9),)),
        "2 10 9.9 | 6 | ",
    ),
    # 8 and 10 A: 1.25 times their sum.
    Says("parallel-sources-one-fuse", full_case(*TWO_ON_ONE), "3 3 6 18.0 17.5 |  | 22.5", (None,)),
    # 350 A, the largest that a cable bears, over 1.25 at 10.8 V, but for the lamp, by 0.9.
    Says(
        "nothing-suits",
        full_case(inverter=Inverter(2680.0, 10.0, 0.9)),
        "1 400 120 370 2650 24 |  | ",
    ),
]


@pytest.mark.parametrize("row", SAID, ids=lambda row: row.code)
def test_the_figures_of_a_judgement_on_a_circuit_are_those_worked_by_hand(row: Says) -> None:
    said = wiring_judged(row.case)[row.code]
    sentences = (said.text, said.means, said.remedy)
    assert [figures(one) for one in sentences] == [one.strip() for one in row.figures.split("|")]
    assert tuple(change.value for change in (said.fix.changes if said.fix else ())) == row.sets


def test_of_two_inlets_with_one_plug_the_later_one_is_told() -> None:
    alike = full_case(
        Choice("panel-roof", connector="keyed_50"), Choice("feed-dcdc", connector="keyed_50")
    )
    told = [one for one in every(alike, "charge-plug-shared") if "comes in" in one.text]
    assert [one.part for one in told] == ["circuit:feed-dcdc"]


def test_a_loose_key_names_what_must_run() -> None:
    breather = lamp(20.0, medical=True)
    pump = replace(lamp(20.0, priority="must"), key="p", name="Pump")
    for things, must in (((breather, pump), 2), ((breather,), 1), ((lamp(20.0),), 0)):
        said = wiring_judged(
            replace(full_case(appliances=things), wiring=wired(loose_key=True).wiring)
        )["isolator-key"]
        assert [number.value for number in said.numbers] == [must]
        assert said.severity == ("fault" if must else "note")
        assert ("Lamp must run" in said.means) == bool(must)


@pytest.mark.parametrize(
    ("code", "numbers"),
    [
        ("no-main-fuse", [181.0, 180.0]),
        ("cable-too-thick", [10.0, 6.0]),
        ("cable-too-thin", [2.5, 4.0]),
        ("drop-over", [0.39, 0.384]),
        ("connector-over", [15.1, 15.0]),
        ("strings-unfused", [15.025, 15.0]),
        ("parallel-sources-one-fuse", [18.0, 17.5]),
        ("fuse-under-load", [24.1, 24.0]),
        ("shunt-bypassed", [0.0]),
    ],
)
def test_the_numbers_beside_the_words_are_the_same(code: str, numbers: list[float]) -> None:
    case = [row.case for row in SAID if row.code == code][-1]
    said = wiring_judged(case)[code]
    assert [n.value for n in said.numbers] == pytest.approx(numbers, abs=0.01)
