"""Circuits that a plan calls for: their currents by hand, and what is chosen for them."""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.construction.wiring.cable import run_ohm
from oddkettle.core.construction.wiring.cable_run import cable_run_of
from oddkettle.core.construction.wiring.circuits import Circuit
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.construction.wiring.fuses import FAMILIES, LOAD_FACTOR
from oddkettle.core.construction.wiring.requirements import charging_a
from oddkettle.core.construction.wiring.short_circuit import short_circuit_a
from oddkettle.core.loads.demand import Inverter
from oddkettle.core.simulation.case import Case, SecondBank
from oddkettle.core.simulation.own_wiring import Choice, Wiring
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.coupling import Coupling, ReadyMade
from oddkettle.core.sources.relay import Relay
from oddkettle.core.units.conversion import CABLE_SIZES_MM2
from oddkettle.plan.case import case_from_plan
from tests.conftest import EXAMPLES, example
from tests.core.boxes import a_case, cases, lamp
from tests.core.construction.boxes import (
    DCDC,
    FEED,
    PANEL,
    ROOF,
    board,
    full_case,
    ran,
    wired,
    wiring_judged,
)
from tests.support.tiers import examples

CUT_OFF_V = 10.8


def circuit(key: str, *choices: Choice) -> Circuit:
    found = board(full_case(*choices)).of(key)
    assert found is not None
    return found


def test_circuits_are_numbered_from_the_battery_on() -> None:
    circuits = board(full_case()).circuits
    assert [c.number for c in circuits] == list(range(1, len(circuits) + 1))
    assert circuits[0].key == "battery"
    assert {c.key for c in circuits} == {
        "battery",
        "panel-roof",
        "charge-roof",
        "feed-dcdc",
        "charge-dcdc",
        "charge-mains",
        "inverter",
        "outlet-lamp",
        "sense",
    }


def test_a_lamp_draws_most_at_the_cut_off_voltage() -> None:
    assert circuit("outlet-lamp").need.continuous_a == pytest.approx(54.0 / CUT_OFF_V)


def test_a_resistance_draws_most_while_charging() -> None:
    # 54 W at 12.8 V are 3.03 ohm; at 14.2 V that is 4.68 A.
    case = full_case(appliances=(lamp(54.0, draw="resistance"),))
    heavy = board(case).of("outlet-lamp")
    assert heavy is not None
    assert heavy.need.continuous_a == pytest.approx(4.68, abs=0.01)


def test_an_inverter_is_wired_for_its_rating_and_not_for_the_day() -> None:
    # 300 W / 0.9 / 10.8 V
    inverter = circuit("inverter")
    assert inverter.need.continuous_a == pytest.approx(30.86, abs=0.01)
    assert inverter.need.seen_a < 1.0
    assert inverter.fuse_a == 40.0


def test_panels_are_wired_for_their_short_circuit_in_bright_light() -> None:
    # Isc 6.0 A x 1.25, and the drop at Imp.
    panel = circuit("panel-roof")
    assert panel.need.continuous_a == pytest.approx(7.5)
    # 5.5 A warm the copper; two latching pairs of 0.5 and lugs of 0.1 mOhm.
    copper = run_ohm(panel.run_m, panel.cable_mm2 or 1.0, panel.warm_c)
    assert panel.drop_v == pytest.approx(5.5 * (copper + 0.0012))
    assert panel.protection == "breaker"
    assert panel.disconnect


def test_panels_in_series_carry_the_current_of_one() -> None:
    two = replace(ROOF, panels=(replace(PANEL, count=2),), series=2)
    beside = replace(ROOF, panels=(replace(PANEL, count=2),))
    amps = [
        board(full_case(sun=(array,))).of("panel-roof").need.continuous_a  # type: ignore[union-attr]
        for array in (two, beside)
    ]
    assert amps == pytest.approx([7.5, 15.0])


def test_a_feed_carries_its_chargers_input() -> None:
    # 20 A x 14.2 V / 0.92 = 308.7 W through (14.2 - I R) I, R = 2 x 4 x 0.0172 / 10 + 0.004
    feed = circuit("feed-dcdc")
    amps = feed.need.continuous_a
    ohm = 2 * 4 * 0.0172 / 10 + 0.004
    assert (14.2 - amps * ohm) * amps == pytest.approx(20 * 14.2 / 0.92, rel=1e-6)
    assert feed.engine_bay
    assert feed.cable_mm2 == FEED.area_mm2


def test_a_smart_alternator_makes_the_feed_carry_more() -> None:
    smart = replace(DCDC, alternator=replace(DCDC.alternator, smart=True))
    more = board(full_case(vehicle=(smart,))).of("feed-dcdc")
    assert more is not None
    assert more.need.continuous_a > circuit("feed-dcdc").need.continuous_a * 1.1


def test_a_relays_feed_has_a_fuse_at_each_end() -> None:
    relay = Relay("relay", "Relay", feed=FEED, fuse_a=60.0)
    feed = board(full_case(vehicle=(relay,))).of("feed-relay")
    assert feed is not None
    assert feed.fuses == 2
    assert circuit("feed-dcdc").fuses == 1


def test_the_battery_bears_the_inverter_and_all_that_runs_beside_it() -> None:
    # Without mains the 28 A of the sources are less than what can go out.
    main = board(full_case(mains=())).circuits[0]
    assert main.need.continuous_a == pytest.approx((54.0 + 300.0 / 0.9) / CUT_OFF_V, rel=1e-6)
    # The bar sees more than a blade fuse breaks: only a class T at the battery bounds that.
    assert main.family == "class_t"
    assert main.disconnect


def test_without_an_inverter_the_sources_together_decide() -> None:
    case = full_case(inverter=None)
    assert charging_a(ran(case)) == pytest.approx(8.0 + 20.0 + 10.0)
    assert board(case).circuits[0].need.continuous_a == pytest.approx(38.0)


def test_a_selector_lets_one_source_in_and_a_combined_charger_its_limit() -> None:
    selector = ran(full_case(joining=Coupling("selector")))
    combined = ran(full_case(joining=Coupling("combined", 15.0, ("roof", "dcdc"))))
    assert charging_a(selector) == 20.0
    assert charging_a(combined) == 25.0


def test_a_bigger_bank_gives_more_into_a_short() -> None:
    # 13.6 V over 1.5 mOhm for 100 Ah: about 9 kA, as such banks are known to give.
    one = short_circuit_a(Bank(LIFEPO4, 100.0))
    assert one == pytest.approx(13.6 / 1.5e-3)
    assert short_circuit_a(Bank(LIFEPO4, 100.0, parallel=2)) == pytest.approx(2 * one)
    assert short_circuit_a(Bank(LIFEPO4, 100.0, series=2, system_v=24.0)) == pytest.approx(one)


def test_a_second_bank_is_fused_at_both_ends_for_its_share() -> None:
    second = SecondBank(Bank(AGM, 100.0), 1.0, always=True)
    link = board(full_case(second=second)).of("second")
    assert link is not None
    main = board(full_case()).circuits[0].need.continuous_a
    assert link.fuses == 2
    assert link.need.continuous_a == pytest.approx(main / 2)


def test_a_ready_made_unit_has_no_inside_to_wire() -> None:
    keys = {c.key for c in board(full_case(unit=ReadyMade(), mains=())).circuits}
    assert keys == {"panel-roof", "feed-dcdc"}


def test_without_a_shunt_nothing_feeds_a_monitor() -> None:
    assert board(wired(shunt=False)).of("sense") is None


def test_weak_appliances_share_an_outlet_and_strong_ones_do_not() -> None:
    def named(key: str, watts: float, supply: str = "12v") -> object:
        return replace(lamp(watts), key=key, name=key, supply=supply)

    things = (named("a", 10.0), named("b", 20.0), named("c", 60.0), named("d", 12.0, "usb"))
    circuits = board(full_case(appliances=things, inverter=None)).circuits
    on = {c.key: c.need.appliances for c in circuits if c.need.appliances}
    assert on == {"outlet-c": ("c",), "shared-1": ("a", "b"), "usb-1": ("d",)}


def test_an_outlets_fuse_lets_no_more_through_than_its_plug_bears() -> None:
    # 129 W at 10.8 V are 11.9 A: a 15 A fuse on a 15 A socket. A watt more wants 20 A.
    for watts, plug in ((129.0, "socket"), (131.0, "keyed_30")):
        outlet = board(full_case(appliances=(lamp(watts),))).of("outlet-lamp")
        assert outlet is not None
        assert outlet.connector == plug
        assert (outlet.fuse_a or 0.0) <= CONNECTORS[outlet.connector].rating_a


def test_no_outlet_carries_more_than_it_may() -> None:
    many = tuple(replace(lamp(25.0), key=f"l{n}", name=f"l{n}") for n in range(12))
    outlets = [c for c in board(full_case(appliances=many)).circuits if c.need.role == "outlet"]
    assert len(outlets) > 2
    assert all(c.carries_a <= CONNECTORS[c.connector].rating_a for c in outlets)


def test_what_the_user_fixed_is_kept_and_named() -> None:
    choice = Choice("charge-mains", run_m=2.5, cable_mm2=6.0, fuse_a=20.0, bundled=True)
    mains = circuit("charge-mains", choice)
    assert (mains.run_m, mains.cable_mm2, mains.fuse_a) == (2.5, 6.0, 20.0)
    assert mains.fixed == {"run_m", "cable_mm2", "fuse_a", "bundled"}
    assert mains.ampacity_a == pytest.approx(53.0 * 0.7, abs=0.01)
    assert circuit("charge-mains").fixed == frozenset()


def test_a_cable_that_the_box_states_is_the_one_that_was_simulated() -> None:
    feed = circuit("feed-dcdc", Choice("feed-dcdc", cable_mm2=35.0, run_m=1.0, fuse_a=50.0))
    assert (feed.cable_mm2, feed.run_m, feed.fuse_a) == (FEED.area_mm2, FEED.length_m, 50.0)
    assert feed.fixed == {"fuse_a"}


def test_a_longer_run_gets_a_thicker_cable() -> None:
    areas = [
        circuit("charge-mains", Choice("charge-mains", run_m=metres)).cable_mm2 or 0.0
        for metres in (0.5, 2.0, 6.0, 15.0)
    ]
    assert areas == sorted(areas)
    assert areas[-1] > areas[0]


def test_the_chosen_cable_is_the_smallest_that_will_do() -> None:
    for c in board(full_case()).circuits:
        if "cable_mm2" in c.need.stated or c.cable_mm2 in {None, 1.0}:
            continue
        thinner = max(area for area in CABLE_SIZES_MM2 if area < (c.cable_mm2 or 0.0))
        full_a = c.need.continuous_a if c.need.full_a is None else c.need.full_a
        way = cable_run_of(c, Wiring())
        drops = way.drop_v(thinner, full_a) > c.most_share * c.need.volts
        weak = way.bears_a(thinner) < (c.fuse_a or 0.0)
        assert drops or weak, c.key


def test_awg_is_chosen_where_it_is_asked_for() -> None:
    for c in board(wired(series="awg")).circuits:
        if not c.need.stated:
            assert c.cable_mm2 not in {1.0, 1.5, 2.5, 4.0, 6.0, 10.0, 16.0}


def test_two_circuits_on_one_fuse_get_one_for_both() -> None:
    shared = board(full_case(Choice("charge-mains", fuse_with="charge-roof")))
    host, guest = shared.of("charge-roof"), shared.of("charge-mains")
    assert host is not None
    assert guest is not None
    assert host.fuse_a == guest.fuse_a == 25.0  # 1.25 x (8 + 10) = 22.5 A
    assert guest.fuses == 0
    assert guest.ampacity_a >= 25.0
    assert shared.sharing(host) == (host, guest)


@pytest.mark.parametrize(
    "names",
    [
        {"charge-roof": "charge-mains", "charge-mains": "charge-roof"},
        {"charge-roof": "charge-roof"},
        {"charge-roof": "charge-mains", "charge-mains": "charge-dcdc"},
    ],
)
def test_no_naming_of_fuses_leaves_a_circuit_without_one(names: dict[str, str]) -> None:
    choices = [Choice(key, fuse_with=host) for key, host in names.items()]
    found = board(full_case(*choices))
    for c in found.circuits:
        guarded = found.of(c.fuse_with) if c.fuse_with else c
        assert guarded is not None
        assert guarded.fuses >= 1


def test_a_choice_about_a_circuit_that_is_gone_does_nothing() -> None:
    with_it = board(full_case(Choice("charge-gone", fuse_a=5.0, fuse_with="nowhere")))
    without = board(full_case())
    assert with_it.circuits == without.circuits
    lost = circuit("charge-mains", Choice("charge-mains", fuse_with="charge-gone"))
    assert lost.fuses == 1


def test_an_inverter_too_strong_for_any_fuse_says_what_would_do() -> None:
    big = board(full_case(inverter=Inverter(3000.0, 20.0, 0.9))).of("inverter")
    assert big is not None
    assert big.cable_mm2 is None
    # 309 A want 386 A: a class T of 400 A, which no cable here bears.
    assert "wants a cable that bears 400 A" in big.trouble
    # 350 A / 1.25 x 10.8 V x 0.9 = 2722 W, to the next lower 50 W
    assert "An inverter of 2700 W at most or a box of 24 V." in big.trouble


def test_two_thousand_watts_at_twelve_volts_get_a_sound_answer() -> None:
    large = board(full_case(inverter=Inverter(2000.0, 20.0, 0.9), bank=Bank(LIFEPO4, 300.0)))
    feed, main = large.of("inverter"), large.of("battery")
    assert feed is not None
    assert main is not None
    # 2000 / 10.8 / 0.9 = 206 A x 1.25 = 257 A.
    assert (feed.fuse_a, feed.cable_mm2, feed.trouble) == (300.0, 95.0, "")
    assert (main.family, main.trouble) == ("class_t", "")
    assert main.short_a == pytest.approx(13.6 / 0.8e-3)  # 17 kA: its posts and links keep a floor


def test_a_run_no_cable_can_bridge_says_how_far_one_can() -> None:
    far = circuit("charge-mains", Choice("charge-mains", run_m=60.0, cable_mm2=None))
    near = circuit("charge-dcdc", Choice("charge-dcdc", run_m=80.0))
    assert far.cable_mm2 == 70.0
    assert near.cable_mm2 is None
    assert "loses more than allowed over 80 m" in near.trouble
    # 0.384 V at 20 A are 19.2 mOhm: the battery's lead and contacts leave some 50 m of 0.32 mOhm/m.
    (reach,) = re.findall(r"At most ([\d.]+) m", near.trouble)
    assert 45.0 < float(reach) < 19.2 / 0.322


def test_a_circuits_heat_is_its_current_squared_over_the_run() -> None:
    main = circuit("battery")
    run = simulate(full_case())
    amps = run.track.bank_a[:, 0]
    ohm = run_ohm(main.run_m, main.cable_mm2 or 1.0)
    assert main.lost_wh == pytest.approx(float((amps**2).sum()) / 12 * ohm)
    assert main.need.seen_a == pytest.approx(float(np.abs(amps).max()))


@settings(max_examples=examples(60), deadline=None, suppress_health_check=list(HealthCheck))
@given(cases())
def test_for_any_box_what_the_tool_chooses_is_sound_or_told(case: Case) -> None:
    """A bank of 221 Ah and more gives more than any fuse that is sold breaks: that is a danger."""
    for c in board(case).circuits:
        if c.trouble or c.cable_mm2 is None:
            assert c.trouble
            continue
        assert c.fuse_a is not None
        assert c.family is not None
        stated_fuse = "fuse_a" in c.need.stated
        assert stated_fuse or c.fuse_a >= LOAD_FACTOR * c.carries_a - 1e-6
        if not (c.limited or stated_fuse or c.short_a <= FAMILIES[c.family].breaks_a(14.6)):
            assert wiring_judged(case)["interrupt-rating"].severity == "danger"
        if "cable_mm2" not in c.need.stated:
            assert c.fuse_a <= c.ampacity_a + 1e-6
            assert c.drop_share <= c.most_share + 1e-9
        assert c.carries_a <= CONNECTORS[c.connector].rating_a + 1e-6


@pytest.mark.parametrize("name", sorted(path.stem for path in EXAMPLES.glob("*.json")))
def test_each_sample_box_gets_a_complete_sound_set(name: str) -> None:
    case = case_from_plan(example(name))
    circuits = board(case).circuits
    for c in circuits:
        assert c.trouble == ""
        assert c.cable_mm2 is not None
        assert c.fuse_a is not None
        assert c.fuse_a <= c.ampacity_a + 1e-6
        assert c.drop_share <= c.most_share + 1e-9
        assert not c.fixed
    parts = {c.need.part for c in circuits}
    kinds = {"sun": case.sun, "vehicle": case.vehicle, "mains": case.mains}
    if case.unit is None:
        wanted = {f"{kind}:{source.key}" for kind, all_ in kinds.items() for source in all_}
        assert wanted <= parts
        on_outlets = {key for c in circuits for key in c.need.appliances}
        assert on_outlets == {appliance.key for appliance in case.appliances}
        assert board(replace(case, wiring=Wiring())).of("battery") is not None
    assert a_case().wiring == Wiring()


def test_the_largest_fuse_that_is_named_is_the_largest_there_is() -> None:
    big = board(full_case(inverter=Inverter(3000.0, 20.0, 0.9))).of("inverter")
    assert big is not None
    assert "bears 370 A" in big.trouble
    huge = board(full_case(inverter=Inverter(4000.0, 20.0, 0.9))).of("inverter")
    assert huge is not None
    assert "the largest class T fuse here is 400 A" in huge.trouble
