"""Heat, frost, and sources or batteries that do not go together: each rule on both sides."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.flooded import FLOODED
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.judgement import Judgement, judge
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.simulation.case import Case, SecondBank, Surroundings
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.own_wiring import Choice, Wiring
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Label, Panel
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import Controller, SunInput, parallel_share
from oddkettle.core.trip.grid import Block
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from tests.conftest import example
from tests.core.boxes import a_case, lamp

PLUGGED = (Block("hookup", 0, 600, 0, 900),)
DRIVEN = (Block("drive", 0, 600, 0, 720),)
CHARGER = MainsCharger("m", "Mains", 10.0, 0.9)
DCDC = DcDc("d", "DC-DC", 20.0, 0.92)
RELAY = Relay("r", "Relay")
LIT = (lamp(10.0),)


def air(degrees: float, bank: Bank, **more: object) -> Case:
    """A box in air that stays as it is."""
    return a_case(bank=bank, low_c=(degrees,), high_c=(degrees,), **more)


def charged(degrees: float, bank: Bank) -> Case:
    return air(degrees, bank, mains=(CHARGER,), blocks=PLUGGED, soc0=0.3)


def panels(*labels: Label, kind: str = "tracking") -> SunInput:
    found = tuple(
        Panel(one.vmp_v * one.imp_a, "flat", 0.0, 180.0, False, label=one) for one in labels
    )
    return SunInput("s", "Sun", found, Controller(30.0, 0.96, kind=kind))  # type: ignore[arg-type]


SMALL = Label(21.6, 18.0, 5.9, 100 / 18)
HOUSE = Label(37.2, 31.0, 10.3, 300 / 31)
OTHER = Label(22.5, 18.7, 5.9, 100 / 18.7)
LFP, ACID = Bank(LIFEPO4, 100.0), Bank(FLOODED, 100.0)

# What a good builder says, written before the rules were run.
BOLTED = Wiring((Choice(f"feed-{DCDC.key}", connector="lug"),))

BOTH_SIDES: list[tuple[str, str, Case, Case]] = [
    # Makers' sheets stop charging at 45 C, and of lead at 50.
    ("charge-hot", "fault", charged(50.0, LFP), charged(40.0, LFP)),
    ("charge-hot", "fault", charged(55.0, Bank(AGM, 100.0)), charged(46.0, Bank(AGM, 100.0))),
    # At 30 % the acid freezes at about -18 C, at 80 % not before -40.
    (
        "lead-freezes",
        "danger",
        air(-22.0, ACID, soc0=0.3, appliances=LIT),
        air(-22.0, ACID, soc0=0.8, appliances=LIT),
    ),
    ("lead-freezes", "danger", air(-12.0, ACID, soc0=0.05), air(-12.0, LFP, soc0=0.05)),
    (
        "discharge-cold",
        "fault",
        air(-25.0, LFP, soc0=0.9, appliances=LIT),
        air(-15.0, LFP, soc0=0.9, appliances=LIT),
    ),
    (
        "sources-in-a-loop",
        "fault",
        a_case(vehicle=(RELAY, DCDC), blocks=DRIVEN),
        a_case(vehicle=(DCDC,), blocks=DRIVEN),
    ),
    # A house's panel and a camper's in parallel; two of one kind, or a hair apart.
    (
        "unlike-panels",
        "waste",
        a_case(sun=(panels(SMALL, HOUSE),)),
        a_case(sun=(panels(SMALL, OTHER),)),
    ),
    (
        "unlike-panels",
        "waste",
        a_case(sun=(panels(SMALL, HOUSE),)),
        a_case(sun=(panels(SMALL, HOUSE, kind="pwm"),)),
    ),
    (
        "fridge-as-plain",
        "note",
        a_case(appliances=(replace(lamp(45.0), name="Old fridge"),)),
        a_case(appliances=(replace(lamp(45.0), name="Old fridge", pattern=Fridge()),)),
    ),
    # A socket takes whatever fits: a fuse of its owner's for a lamp alone, or one of 10 A.
    (
        "outlet-thin",
        "note",
        a_case(appliances=(lamp(20.0),), wiring=Wiring((Choice("shared-1", fuse_a=2.0),))),
        a_case(appliances=(lamp(20.0),), wiring=Wiring((Choice("shared-1", fuse_a=10.0),))),
    ),
    # A plug on the vehicle's lead, or a cable that is bolted at both ends.
    (
        "live-pin",
        "note",
        a_case(vehicle=(DCDC,), blocks=DRIVEN),
        a_case(
            vehicle=(DCDC,),
            blocks=DRIVEN,
            wiring=Wiring((Choice(f"feed-{DCDC.key}", connector="lug"),)),
        ),
    ),
    (
        "live-pin",
        "fault",
        a_case(
            vehicle=(RELAY,),
            blocks=DRIVEN,
            wiring=Wiring((Choice(f"feed-{RELAY.key}", connector="socket"),)),
        ),
        a_case(
            vehicle=(RELAY,),
            blocks=DRIVEN,
            wiring=Wiring((Choice(f"feed-{RELAY.key}", connector="lug"),)),
        ),
    ),
    (
        "live-pin",
        "note",
        a_case(vehicle=(replace(DCDC, socket=True),), blocks=DRIVEN, wiring=BOLTED),
        a_case(vehicle=(DCDC,), blocks=DRIVEN, wiring=BOLTED),
    ),
    (
        "drive-charges-nothing",
        "note",
        a_case(blocks=DRIVEN),
        a_case(blocks=DRIVEN, vehicle=(DCDC,)),
    ),
]  # fmt: skip


def judged(case: Case) -> dict[str, Judgement]:
    run = simulate(case)
    return {one.code: one for one in judge(run, keep_ledger(run))}


@pytest.mark.parametrize(("code", "severity", "past", "before"), BOTH_SIDES)
def test_it_is_said_of_the_one_and_not_of_the_other(
    code: str, severity: str, past: Case, before: Case
) -> None:
    said = judged(past)
    assert said[code].severity == severity
    assert code not in judged(before)


def test_panels_in_parallel_share_one_voltage() -> None:
    """At 31 V only the house's panel gives: 300 of 400 W. At 18 V both: 18 x 15.23 = 274 W."""
    assert parallel_share(panels(SMALL, HOUSE)) == pytest.approx(0.75, abs=0.001)
    assert parallel_share(panels(SMALL, SMALL)) == 1.0
    both, alone = (simulate(a_case(sun=(panels(*found),))) for found in ((SMALL, HOUSE), (HOUSE,)))
    assert both.sources[0].offer_w.sum() == pytest.approx(alone.sources[0].offer_w.sum(), rel=0.01)


def test_the_judgement_says_what_the_run_lost() -> None:
    said = judged(a_case(sun=(panels(SMALL, HOUSE),)))["unlike-panels"]
    assert "about 25 %" in said.means


def test_a_relay_switched_off_ends_the_loop() -> None:
    said = judged(a_case(vehicle=(RELAY, DCDC), blocks=DRIVEN))["sources-in-a-loop"]
    assert said.fix is not None
    (change,) = said.fix.changes
    assert (change.part, change.field, change.value) == ("vehicle:r", ("on",), False)


def second(own: str | None, other: str | None) -> Plan:
    document = example("moth-survey").model_dump(mode="json")
    document["box"]["battery"]["age"] = own
    battery = {"chemistry": "lifepo4", "capacity_ah": 100, "age": other}
    document["box"]["second"] = {"battery": battery, "always": True}
    return Plan.model_validate(document)


@pytest.mark.parametrize(
    ("own", "other", "unlike"),
    [("new", "old", True), ("years", "new", True), ("new", "new", False), ("new", None, False)],
)
def test_an_old_battery_beside_a_new_one(own: str, other: str | None, unlike: bool) -> None:
    case = case_from_plan(second(own, other))
    assert case.surroundings.unlike_ages == unlike


def test_unlike_ages_are_told() -> None:
    joined = a_case(second=SecondBank(LFP, 0.9, always=True))
    old = replace(joined, surroundings=replace(Surroundings(), unlike_ages=True))
    assert judged(old)["unlike-age"].severity == "fault"
    assert "unlike-age" not in judged(joined)


def test_the_hotter_the_faster_it_ages() -> None:
    """Ten kelvins more, half the life: at 55 C eight times as fast as at 25."""
    said = judged(charged(55.0, LFP))["charge-hot"]
    assert "about 8 times" in said.means
    assert np.isclose(said.numbers[0].value, 55.0, atol=0.5)
