"""Checklists and fault finder: made from this box, with readings that the model gives."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.flooded import FLOODED
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.chemistry import Chemistry
from oddkettle.core.construction.procedures import expected_readings as expect
from oddkettle.core.construction.procedures.check import Checklist
from oddkettle.core.construction.procedures.checklists import checklists
from oddkettle.core.construction.procedures.fault import WHERE, Symptom
from oddkettle.core.construction.procedures.fault_finder import symptoms
from oddkettle.core.construction.settings import settings_sheet, to_tick
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.core.loads.demand import Inverter
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.own_wiring import Choice
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import Coupling, ReadyMade
from tests.core.boxes import a_case, lamp
from tests.core.construction.boxes import DCDC, MAINS, ROOF, full_case

LISTS = ("first", "settings", "leaving", "morning", "home", "storage", "monthly")


def lists(case: Case) -> dict[str, Checklist]:
    run = simulate(case)
    clear, settings = expect.under_a_clear_sky(run), to_tick(settings_sheet(run))
    return {one.key: one for one in checklists(run, board_of(run), clear, settings)}


def line(case: Case, checklist: str, check: str) -> str:
    return next(c.expect for c in lists(case)[checklist].checks if c.key == check)


def found(case: Case) -> dict[str, Symptom]:
    run = simulate(case)
    return {one.key: one for one in symptoms(run, board_of(run), expect.under_a_clear_sky(run))}


def test_a_box_has_a_list_for_every_occasion_of_its_life() -> None:
    assert tuple(lists(full_case())) == LISTS
    assert "first" not in lists(full_case(unit=ReadyMade(), mains=()))


def test_checks_have_names_of_their_own() -> None:
    for one in lists(full_case()).values():
        keys = [check.key for check in one.checks]
        assert len(keys) == len(set(keys))


def test_the_first_power_goes_through_every_circuit() -> None:
    case = full_case()
    said = " ".join(check.text for check in lists(case)["first"].checks)
    for c in board_of(simulate(case)).circuits:
        assert f"Circuit {c.number}" in said or c.need.role == "battery"


def test_nothing_is_switched_on_before_polarity_is_known() -> None:
    keys = [check.key for check in lists(full_case())["first"].checks]
    first = ["fuses-out", "torque", "mains", "covered", "short", "polarity"]
    assert keys[:6] == first
    assert keys.index("open-panel-roof") < keys.index("main-in") < keys.index("on-inverter")
    assert keys.index("on-inverter") < keys.index("sun-roof")
    # A licensed eye comes before mains does, and each outlet's polarity before any plug.
    assert keys.index("mains") < keys.index("mains-mains")
    assert keys.index("pole-outlet-lamp") < keys.index("on-outlet-lamp")
    assert line(full_case(), "first", "pole-outlet-lamp") == "12.9 to 13.7 V"


def test_batteries_are_matched_before_they_are_joined() -> None:
    def keys(**changes: object) -> list[str]:
        return [check.key for check in lists(full_case(**changes))["first"].checks]

    assert "matched" not in keys()
    twice = keys(bank=Bank(LIFEPO4, 100.0, parallel=2))
    assert twice.index("matched") < twice.index("main-in")
    two = full_case(bank=Bank(LIFEPO4, 100.0, parallel=2))
    assert line(two, "first", "matched") == "all within 0.1 V of one another"


@pytest.mark.parametrize(("watts", "told"), [(999.0, False), (1000.0, True)])
def test_a_large_inverter_is_filled_before_its_fuse_goes_in(watts: float, told: bool) -> None:
    keys = [c.key for c in lists(full_case(inverter=Inverter(watts, 6.0, 0.9)))["first"].checks]
    assert ("precharge" in keys) is told
    if told:
        assert keys.index("precharge") < keys.index("on-inverter")


def test_the_voltage_under_charge_by_hand() -> None:
    # 13.18 V at 60 %; charge meets 4.0 x (1 + 0.6 exp(-0.6/0.2)) + 4.0 = 8.12 mohm, 10 A in.
    assert expect.loaded_v(Bank(LIFEPO4, 100.0), 0.6, 10.0) == pytest.approx(13.261, abs=0.001)
    assert line(full_case(), "first", "mains-mains").startswith("13.2 to 13.3 V, 9.0 to 10.0 A in")


def test_no_reading_is_above_what_the_charger_holds() -> None:
    low = full_case(profile=Profile(13.2, 13.1))
    assert line(low, "first", "drive-dcdc").startswith("13.1 to 13.2 V")


def test_an_input_of_a_combined_charger_gives_no_more_than_its_output() -> None:
    one = full_case(joining=Coupling("combined", 15.0, ("roof", "dcdc")))
    assert "13.5 to 15.0 A in" in line(one, "first", "drive-dcdc")
    assert "18 to 20 A in" in line(full_case(), "first", "drive-dcdc")


@pytest.mark.parametrize(("level", "volts"), [(0.0, 10.0), (0.5, 13.13), (1.0, 13.6)])
def test_rested_voltage_is_the_chemistrys(level: float, volts: float) -> None:
    assert expect.rested_v(Bank(LIFEPO4, 100.0), level) == pytest.approx(volts)


def test_twice_the_battery_sags_half_as_much() -> None:
    one = expect.bank_ohm(Bank(AGM, 100.0), 0.5)
    assert expect.bank_ohm(Bank(AGM, 100.0, parallel=2), 0.5) == pytest.approx(one / 2)


def test_noon_amps_are_what_the_controller_passes() -> None:
    run = simulate(full_case())
    span = expect.noon_amps(run, "roof")
    assert span is not None
    assert 0.0 < span.low <= span.high <= 8.0
    taken = run.taken_a[0]
    assert span.high >= float(np.max(taken[132:156])) * 0.8
    assert expect.noon_amps(run, "nowhere") is None


def test_the_morning_level_is_the_plans() -> None:
    run = simulate(full_case())
    (reading,) = expect.clock_levels(run, 8 * 60)
    assert reading[1] == pytest.approx(100 * run.level[96])
    assert f"{reading[0]:%a} {reading[1]:.0f}" in line(full_case(), "morning", "morning-level")


def test_open_voltage_of_panels_follows_their_label_and_their_series() -> None:
    one = expect.panel_open_v(ROOF)
    two = expect.panel_open_v(replace(ROOF, panels=(replace(ROOF.panels[0], count=2),), series=2))
    assert one.low < 22.0 < one.high
    assert (two.low, two.high) == pytest.approx((2 * one.low, 2 * one.high))


@pytest.mark.parametrize(
    ("chemistry", "words", "low", "high"),
    # 13.08 V at 40 % and 13.18 V at 60 %; a full lead battery rests at its curve's end.
    [(LIFEPO4, "40 to 60 %", 13.03, 13.23), (AGM, "100 %", AGM.ocv[-1][1] - 0.05, None)],
)
def test_storage_level_follows_the_chemistry(
    chemistry: Chemistry, words: str, low: float, high: float | None
) -> None:
    case = a_case(bank=Bank(chemistry, 100.0), profile=Profile(14.4, 13.6))
    check = next(c for c in lists(case)["storage"].checks if c.key == "store-level")
    assert words in check.text
    assert check.expect.startswith(f"{low:.1f} to ")
    assert high is None or f"to {high:.1f} V" in check.expect


def test_flooded_cells_are_watered() -> None:
    case = a_case(bank=Bank(FLOODED, 100.0), profile=Profile(14.6, 13.4))
    assert any(c.key == "month-water" for c in lists(case)["monthly"].checks)
    assert not any(c.key == "month-water" for c in lists(full_case())["monthly"].checks)


def test_a_medical_load_asks_for_a_second_source() -> None:
    case = full_case(appliances=(lamp(54.0, medical=True),))
    assert any(c.key == "second-source" for c in lists(case)["leaving"].checks)


def test_symptoms_are_those_that_this_box_can_have() -> None:
    anywhere = {
        "dark",
        "meter",
        "fuse",
        "dead",
        "reversed",
        "start",
        "breaker",
        "loose",
        "standing",
        "noise",
        "heat",
    }
    assert set(found(a_case())) == anywhere
    more = {"vehicle-dcdc", "sun-roof", "mains-mains", "cold", "inverter"}
    assert set(found(full_case())) == anywhere | more
    # A ready-made unit is not opened: nothing inside it is looked for.
    assert not {"dead", "loose"} & set(found(full_case(unit=ReadyMade(), mains=())))


def test_every_fault_is_seen_somewhere_and_leads_where_there_is_something() -> None:
    faults = found(full_case())
    assert {one.where for one in faults.values()} == set(WHERE)
    for one in faults.values():
        for cause in one.causes:
            assert not cause.leads_to or cause.leads_to in faults
            assert cause.leads_to != one.key


def test_what_is_the_cause_when_it_shows_is_marked_so() -> None:
    full = next(c for c in found(full_case())["vehicle-dcdc"].causes if c.key == "full")
    fuse = next(c for c in found(full_case())["vehicle-dcdc"].causes if c.key == "fuse")
    assert full.found_when == "right"
    assert full.shows.endswith("V or more")
    assert fuse.found_when == "wrong"
    assert fuse.leads_to == "fuse"


def test_a_sound_charger_on_lead_shows_a_risen_voltage_and_what_lead_takes() -> None:
    # 100 Ah AGM at 60 %: 12.50 V and more at rest. Absorption passes 12 x (1 - exp(-1/12)) x
    # 0.4 x 100 = 38.4 A from 14.4 V, so 10 A stand 10/38.4 of the way up from rest.
    bank = Bank(AGM, 100.0)
    rest = expect.rested_v(bank, 0.6)
    risen = rest + 10.0 / 38.4 * (14.4 - rest)
    case = full_case(bank=bank, profile=Profile(14.4, 13.6), sun=(), vehicle=())
    shown = line(case, "first", "mains-mains")
    assert shown.startswith(f"{risen - 0.05:.1f} to {risen + 0.05:.1f} V")
    # A charger of 60 A gives no more than lead takes.
    strong = full_case(
        bank=bank,
        profile=Profile(14.4, 13.6),
        sun=(),
        vehicle=(),
        mains=(replace(MAINS, limit_a=60.0),),
    )
    assert "35 to 38 A in" in line(strong, "first", "mains-mains")


def test_noon_is_that_of_a_clear_day_whatever_the_trip_expects() -> None:
    def noon(clearness: float) -> str:
        return line(full_case(clearness=(clearness,)), "first", "sun-roof").split(", ")[1]

    assert noon(0.4) == noon(0.9)


def test_a_standing_drain_is_what_is_never_off() -> None:
    # A lamp that is off by day leaves nothing; a standby of 1.28 W is a tenth of an ampere.
    assert line(a_case(appliances=(lamp(20.0),)), "morning", "morning-draw") == "0.05 A at most"
    idle = replace(lamp(20.0), standby_w=1.28)
    assert line(a_case(appliances=(idle,)), "morning", "morning-draw") == "0.17 A at most"


def test_causes_come_in_order_each_with_a_measurement() -> None:
    for symptom in found(full_case()).values():
        weights = [cause.weight for cause in symptom.causes]
        assert weights == sorted(weights, reverse=True)
        assert len(weights) > 1
        for cause in symptom.causes:
            assert cause.measure.endswith(".")
            assert cause.shows
            assert cause.then.endswith(".")


def first(case: Case, symptom: str) -> str:
    return found(case)[symptom].causes[0].key


def test_a_blind_charger_on_a_smart_alternator_is_suspected_first() -> None:
    smart = replace(DCDC, ignition=False, alternator=replace(DCDC.alternator, smart=True))
    assert first(full_case(vehicle=(smart,)), "vehicle-dcdc") == "senses"
    assert first(full_case(), "vehicle-dcdc") == "fuse"


def test_a_thin_feed_is_suspected_before_a_lost_fuse() -> None:
    thin = replace(DCDC, feed=replace(DCDC.feed, length_m=9.0, area_mm2=4.0))
    assert first(full_case(vehicle=(thin,)), "vehicle-dcdc") == "starved"


def test_a_negative_past_the_shunt_is_suspected_and_named() -> None:
    past = full_case(Choice("inverter", returns="battery_side"))
    cause = found(past)["meter"].causes[0]
    assert cause.key == "bypass"
    assert "circuit 7 does" in cause.text
    assert first(full_case(), "meter") == "drift"


def test_a_plan_that_runs_dry_is_told_that_it_does() -> None:
    dry = full_case(soc0=0.12, sun=(), vehicle=(), mains=(), blocks=())
    cause = found(dry)["dark"].causes[0]
    assert cause.key == "empty"
    assert "the plan itself goes to" in cause.text


def test_a_fuse_that_is_too_tight_is_named() -> None:
    tight = full_case(Choice("charge-mains", fuse_a=10.0))
    cause = found(tight)["fuse"].causes[0]
    assert cause.key == "tight"
    assert "circuit 6" in cause.text
    assert cause.shows == "10.0 A on 10 A"
