"""Every judgement on circuits, on both sides of its threshold."""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.judgement import judge
from oddkettle.core.judgement.circuits import protection
from oddkettle.core.judgement.circuits.wiring import RULES
from oddkettle.core.loads.demand import Inverter
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.own_wiring import Choice, Wiring
from oddkettle.core.simulation.run import simulate
from oddkettle.text import render
from tests.core.boxes import lamp
from tests.core.construction.boxes import (
    DCDC,
    board,
    fixed,
    full_case,
    strings_of,
    wired,
    wiring_judged,
)

# Circuits of the box: battery 38 A, charge-mains 10 A, inverter 31 A, outlet-lamp 5 A.
BOTH_SIDES: list[tuple[str, Case, Case]] = [
    ("no-main-fuse", wired(main_fuse_mm=181.0), wired(main_fuse_mm=180.0)),
    ("no-main-fuse", fixed("battery", protection="none"), fixed("battery", protection="fuse")),
    (
        "circuit-unfused",
        fixed("outlet-lamp", protection="none"),
        fixed("outlet-lamp", protection="breaker"),
    ),
    # 2.5 mm2 bears 30 A.
    (
        "fuse-over-cable",
        fixed("charge-mains", cable_mm2=2.5, fuse_a=40.0),
        fixed("charge-mains", cable_mm2=2.5, fuse_a=30.0),
    ),
    # In a bundle it bears 21 A.
    (
        "fuse-over-cable",
        fixed("charge-mains", cable_mm2=2.5, fuse_a=25.0, bundled=True),
        fixed("charge-mains", cable_mm2=2.5, fuse_a=20.0, bundled=True),
    ),
    # 10 A for hours want 12.5 A.
    (
        "fuse-under-load",
        fixed("charge-mains", fuse_a=12.4),
        fixed("charge-mains", fuse_a=12.5),
    ),
    # A blade's holder bears 24 A for hours.
    (
        "fuse-under-load",
        full_case(
            Choice("charge-dcdc", family="blade", fuse_a=40.0),
            vehicle=(replace(DCDC, limit_a=24.1),),
        ),
        full_case(
            Choice("charge-dcdc", family="blade", fuse_a=40.0),
            vehicle=(replace(DCDC, limit_a=24.0),),
        ),
    ),
    # Four other 200 Ah batteries: 13.6 V / ((.8 + .3) / 4 + .3 mOhm) = 23.7 kA, and nothing here
    # breaks more than 20; three of 100 Ah send 15.1.
    (
        "post-unfused",
        full_case(bank=Bank(LIFEPO4, 200.0, parallel=5)),
        full_case(bank=Bank(LIFEPO4, 100.0, parallel=4)),
    ),
    # The bank gives about 9 kA; a strip fuse breaks 2, a class T 20.
    (
        "interrupt-rating",
        fixed("battery", family="strip"),
        fixed("battery", family="class_t"),
    ),
    # A terminal fuse breaks that, and lets more through than the blades behind it can break.
    (
        "interrupt-rating",
        fixed("battery", family="terminal"),
        full_case(),
    ),
    # Two panels of 22 V in a string stand above 44 V when cold: on a fuse for 32, and for 125.
    (
        "voltage-rating",
        full_case(
            Choice("panel-roof", protection="fuse", family="blade"),
            sun=(strings_of(2, 6.0, series=2),),
        ),
        full_case(
            Choice("panel-roof", protection="fuse", family="class_t"),
            sun=(strings_of(2, 6.0, series=2),),
        ),
    ),
    # Two of 22 V are 48 V in the frost: a 12 V socket is for 30, a panel pair for 600.
    (
        "voltage-rating",
        full_case(Choice("panel-roof", connector="socket"), sun=(strings_of(2, 6.0, series=2),)),
        full_case(
            Choice("panel-roof", connector="panel_pair"), sun=(strings_of(2, 6.0, series=2),)
        ),
    ),
    (
        "cable-too-thick",
        fixed("charge-mains", connector="screw", cable_mm2=10.0),
        fixed("charge-mains", connector="screw", cable_mm2=6.0),
    ),
    (
        "cable-too-thin",
        fixed("charge-mains", connector="keyed_50", cable_mm2=2.5),
        fixed("charge-mains", connector="keyed_50", cable_mm2=4.0),
    ),
    ("isolator-key", wired(loose_key=True), wired(loose_key=False)),
    # 3 % of 12.8 V at 10 A are 38.4 mOhm: the battery's lead has 2.5, the contacts 1.2, and 1 mm2
    # at 57 C 44.6 a metre.
    (
        "drop-over",
        fixed("charge-mains", cable_mm2=1.0, run_m=0.79),
        fixed("charge-mains", cable_mm2=1.0, run_m=0.77),
    ),
    # And 5 % for a lamp of 5 A are 128: 2.5, 2.2, and 0.75 mm2 in a bundle at 61 C 60.3 a metre.
    (
        "drop-over",
        fixed("outlet-lamp", cable_mm2=0.75, run_m=2.06),
        fixed("outlet-lamp", cable_mm2=0.75, run_m=2.03),
    ),
    (
        "connector-over",
        full_case(Choice("outlet-lamp", connector="socket"), appliances=(lamp(163.0),)),
        full_case(Choice("outlet-lamp", connector="socket"), appliances=(lamp(161.0),)),
    ),
    (
        "charge-plug-shared",
        fixed("panel-roof", connector="socket"),
        fixed("panel-roof", connector="keyed_30"),
    ),
    (
        "shunt-bypassed",
        fixed("inverter", returns="battery_side"),
        fixed("inverter", returns="load_side"),
    ),
    (
        "isolation-order",
        fixed("panel-roof", disconnect=False),
        fixed("panel-roof", disconnect=True),
    ),
    # Two others of 6.01 A x 1.25 feed 15.03 A into a failed one; of 6 A just the 15 A.
    (
        "strings-unfused",
        full_case(Choice("panel-roof", string_fuses=False), sun=(strings_of(3, 6.01),)),
        full_case(Choice("panel-roof", string_fuses=False), sun=(strings_of(3, 6.0),)),
    ),
    # 1.25 x 1.25 x 6 A asks for a fuse of 10 A.
    (
        "string-fuse-over-label",
        full_case(sun=(strings_of(3, 6.0, fuse_max_a=9.9),)),
        full_case(sun=(strings_of(3, 6.0, fuse_max_a=10.0),)),
    ),
    # 8 A and 10 A behind one fuse.
    (
        "parallel-sources-one-fuse",
        full_case(
            Choice("charge-roof", fuse_a=17.5), Choice("charge-mains", fuse_with="charge-roof")
        ),
        full_case(
            Choice("charge-roof", fuse_a=18.0), Choice("charge-mains", fuse_with="charge-roof")
        ),
    ),
    # 350 A, the largest that a cable bears, / 1.25 x 10.8 V less a lamp's 54 W, x 0.9 is 2673 W.
    (
        "nothing-suits",
        full_case(inverter=Inverter(2680.0, 10.0, 0.9)),
        full_case(inverter=Inverter(2660.0, 10.0, 0.9)),
    ),
]


@pytest.mark.parametrize(("code", "over", "within"), BOTH_SIDES)
def test_a_rule_fires_on_one_side_of_its_threshold_only(
    code: str, over: Case, within: Case
) -> None:
    assert code in wiring_judged(over)
    assert code not in wiring_judged(within)


def test_every_rule_is_tried_on_both_sides() -> None:
    tried = {code.replace("-", "_") for code, _, _ in BOTH_SIDES}
    assert tried == {rule.__name__ for rule in (*RULES, *protection.RULES)}


def test_a_sound_box_is_told_nothing() -> None:
    assert wiring_judged(full_case()) == {}


@pytest.mark.parametrize(("code", "over", "_within"), BOTH_SIDES)
def test_a_judgement_says_its_numbers_and_defers_to_local_codes(
    code: str, over: Case, _within: Case
) -> None:
    said = wiring_judged(over)[code]
    assert said.part.startswith("circuit:")
    assert said.text.startswith("Circuit ")
    assert "Local codes and licensed practice come first." in said.remedy
    assert said.source
    assert said.means


DANGERS = {
    "no-main-fuse",
    "circuit-unfused",
    "fuse-over-cable",
    "interrupt-rating",
    "connector-over",
    "charge-plug-shared",
    "strings-unfused",
    "nothing-suits",
    "voltage-rating",
    "post-unfused",
}


@pytest.mark.parametrize(("code", "over", "_within"), BOTH_SIDES)
def test_what_can_start_a_fire_is_a_danger(code: str, over: Case, _within: Case) -> None:
    assert (wiring_judged(over)[code].severity == "danger") == (code in DANGERS)


def mended(case: Case, code: str) -> Case:
    """The case with a judgement's remedy made."""
    fix = wiring_judged(case)[code].fix
    assert fix is not None, code
    wiring = case.wiring
    for change in fix.changes:
        name = change.field[0]
        if change.part == "wiring":
            wiring = replace(wiring, **{name: change.value})
            continue
        key = change.part.removeprefix("circuit:")
        choice = replace(wiring.of(key), **{name: change.value})
        others = tuple(one for one in wiring.choices if one.circuit != key)
        wiring = replace(wiring, choices=(*others, choice))
    return replace(case, wiring=wiring)


WITHOUT_AN_EDIT = {"nothing-suits", "post-unfused", "string-fuse-over-label"}
"""What only another part mends."""
FIXED_BY_AN_EDIT = [(code, over) for code, over, _ in BOTH_SIDES if code not in WITHOUT_AN_EDIT]


@pytest.mark.parametrize(("code", "over"), FIXED_BY_AN_EDIT)
def test_a_remedy_satisfies_its_own_rule_and_raises_no_danger(code: str, over: Case) -> None:
    after = wiring_judged(mended(over, code))
    assert code not in after
    assert not {one.code for one in after.values() if one.severity == "danger"}


def test_a_fuse_over_its_cable_is_told_the_largest_that_is_allowed() -> None:
    said = wiring_judged(fixed("charge-mains", cable_mm2=2.5, fuse_a=40.0))["fuse-over-cable"]
    assert "40 A protects 2.5 mm², which bears 30 A" in render(said.text)
    assert "At most 30 A for this cable." in said.remedy
    assert [(n.name, n.value) for n in said.numbers] == [("fuse", 40.0), ("ampacity", 30.0)]


def test_where_no_fuse_suits_a_cable_a_thicker_one_is_named() -> None:
    # 20 A for hours want 25 A; 1 mm2 bears 15.
    said = wiring_judged(fixed("charge-dcdc", cable_mm2=1.0))["fuse-over-cable"]
    assert "Use 4 mm² for this fuse." in render(said.remedy)


def test_a_larger_bank_asks_for_a_fuse_that_breaks_more() -> None:
    large = full_case(Choice("battery", family="terminal"), bank=Bank(LIFEPO4, 200.0))
    assert "class T" in wiring_judged(large)["interrupt-rating"].remedy
    assert "interrupt-rating" not in wiring_judged(full_case(bank=Bank(LIFEPO4, 200.0)))


def test_two_inlets_of_different_voltage_never_take_one_plug() -> None:
    case = full_case(Choice("panel-roof", connector="keyed_50"))
    plugs = {c.key: c.connector for c in board(case).circuits}
    assert plugs["panel-roof"] != plugs["feed-dcdc"]
    alike = full_case(
        Choice("panel-roof", connector="keyed_50"), Choice("feed-dcdc", connector="keyed_50")
    )
    said = wiring_judged(alike)["charge-plug-shared"]
    assert "as Circuit 2, Roof, from the panels comes in" in said.text


def test_a_bank_that_no_fuse_breaks_is_to_be_divided() -> None:
    # One whose posts leave nothing: 2.5 mOhm of 100 Ah in 460, 12.9 V over 0.543 mOhm are 23.7 kA,
    # and a class T breaks 20.
    bare = replace(AGM, short_floor_mohm=0.0)
    said = wiring_judged(full_case(bank=Bank(bare, 460.0)))["interrupt-rating"]
    assert said.numbers[0].value == pytest.approx(AGM.ocv[-1][1] / (2.5e-3 * 100 / 460))
    assert "a class T fuse at the post of each battery" in said.remedy


def test_a_drop_says_what_its_share_is_for() -> None:
    """3 % where it charges, 5 % elsewhere."""
    charging, lamp_lead = (
        wiring_judged(fixed(circuit, cable_mm2=0.75, run_m=3.0))["drop-over"].source
        for circuit in ("charge-mains", "outlet-lamp")
    )
    assert charging.startswith("3 % for charging and what must run")
    assert lamp_lead.startswith("5 % for other circuits")


def test_a_drop_is_a_fault_where_something_must_run_on_it() -> None:
    def severity(priority: str, soc0: float) -> str:
        case = full_case(
            Choice("outlet-lamp", cable_mm2=0.75, run_m=3.5),
            appliances=(lamp(54.0, priority=priority),),
            soc0=soc0,
        )
        return wiring_judged(case)["drop-over"].severity

    assert severity("must", 0.9) == "fault"
    # Waste where it is wanted: a box that has plenty loses nothing by it.
    assert severity("first", 0.3) == "waste"
    assert severity("first", 1.0) == "note"


def test_a_thin_feed_that_the_box_states_is_judged_as_well() -> None:
    thin = replace(DCDC, feed=replace(DCDC.feed, length_m=9.0, area_mm2=6.0))
    said = wiring_judged(full_case(vehicle=(thin,)))["drop-over"]
    assert said.part == "circuit:feed-dcdc"
    assert said.fix is not None


def test_without_a_shunt_nothing_goes_past_it() -> None:
    case = full_case(Choice("inverter", returns="battery_side"), wiring=Wiring(shunt=False))
    assert "shunt-bypassed" not in wiring_judged(case)


def test_a_vehicles_own_socket_fuse_is_judged_with_the_socket() -> None:
    socket = replace(DCDC, limit_a=9.0, fuse_a=10.0)
    assert "fuse-under-load" not in wiring_judged(full_case(vehicle=(socket,)))


def test_wiring_stands_among_all_the_judgements_of_a_box() -> None:
    run = simulate(fixed("outlet-lamp", protection="none"))
    codes = [one.code for one in judge(run, keep_ledger(run))]
    assert "circuit-unfused" in codes
