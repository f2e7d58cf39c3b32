"""Judgements: each on both sides of its threshold, and none on a sound box."""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.gel import GEL
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.temperature import Heater, Housing
from oddkettle.core.judgement import Judgement, judge
from oddkettle.core.loads.demand import Appliance, Inverter, Window
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.alternator import Alternator, Feed
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import Coupling
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Label, Panel
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block
from oddkettle.plan.case import case_from_plan
from tests.conftest import EXAMPLES, example
from tests.core.boxes import a_case, lamp

DRIVE = (Block("drive", 0, 600, 0, 720),)
ROOF = Panel(100.0, "flat", 0.0, 180.0, False)


def labelled(label: Label, kind: str = "tracking", **more: object) -> Case:
    """A sunny day on a 100 W panel with this label."""
    panel = replace(ROOF, label=label)
    array = SunInput("s", "Sun", (panel,), Controller(9.0, 1.0, kind))  # type: ignore[arg-type]
    return a_case(sun=(array,), **more)


def judged(case: Case) -> dict[str, Judgement]:
    run = simulate(case)
    return {judgement.code: judgement for judgement in judge(run, keep_ledger(run))}


def mains(amps: float, profile: Profile | None = None) -> tuple[MainsCharger, ...]:
    return (MainsCharger("m", "Mains", amps, 0.9, profile=profile),)


def driven(charger: DcDc | Relay, **more: object) -> Case:
    return a_case(vehicle=(charger,), blocks=DRIVE, soc0=0.3, **more)


def sunny(array: SunInput, **more: object) -> Case:
    return a_case(sun=(array,), **more)


def heated(pads_w: float, lag_h: float) -> Case:
    bank = Bank(LIFEPO4, 100.0, housing=Housing(lag_h))
    return a_case(
        bank=bank,
        heater=Heater(pads_w),
        low_c=(-2.0,),
        high_c=(-2.0,),
        appliances=(lamp(30.0),),
        floor=0.0,
    )


BOTH_SIDES: list[tuple[str, Case, Case]] = [
    (
        "over-deep",
        a_case(appliances=(lamp(45.0),), soc0=0.9),
        a_case(appliances=(lamp(35.0),), soc0=0.9),
    ),
    (
        "never-full",
        a_case(bank=Bank(AGM, 100.0), clearness=(0.5,) * 8, soc0=0.8),
        a_case(bank=Bank(AGM, 100.0), clearness=(0.5,) * 6, soc0=0.8),
    ),
    (
        "charge-too-hard",
        a_case(mains=mains(51.0), standby=True),
        a_case(mains=mains(50.0), standby=True),
    ),
    (
        "charge-too-soft-lead",
        a_case(bank=Bank(AGM, 100.0), mains=mains(7.9), standby=True, soc0=0.5),
        a_case(bank=Bank(AGM, 100.0), mains=mains(8.1), standby=True, soc0=0.5),
    ),
    (
        "cold-charge-lockout",
        a_case(mains=mains(5.0), standby=True, low_c=(-1.0,), high_c=(-1.0,)),
        a_case(mains=mains(5.0), standby=True, low_c=(1.0,), high_c=(1.0,)),
    ),
    ("heater-costs", heated(40.0, 4.0), heated(40.0, 40.0)),
    (
        "discharge-over-limit",
        a_case(appliances=(lamp(1300.0, 1, 1.1),)),
        a_case(appliances=(lamp(1250.0, 1, 1.1),)),
    ),
    ("heavy-lift", a_case(bank=Bank(AGM, 70.0)), a_case(bank=Bank(AGM, 66.0))),
    (
        "controller-clips",
        sunny(SunInput("s", "Sun", (ROOF,), Controller(3.0, 1.0)), soc0=0.2),
        sunny(SunInput("s", "Sun", (ROOF,), Controller(9.0, 1.0)), soc0=0.2),
    ),
    (
        "array-overvoltage",
        sunny(SunInput("s", "Sun", (ROOF,), Controller(9.0, 1.0, input_limit_v=21.0))),
        sunny(SunInput("s", "Sun", (ROOF,), Controller(9.0, 1.0, input_limit_v=26.5))),
    ),
    (
        "array-undervoltage",
        labelled(Label(17, 14, 7.6, 7.1)),
        labelled(Label(20, 17, 6.3, 5.9)),
    ),
    (
        "pwm-loss",
        labelled(Label(24, 20, 5.4, 5.0), "pwm", soc0=0.3),
        labelled(Label(20, 16, 6.6, 6.25), "pwm", soc0=0.3),
    ),
    # A full battery takes no more from a better controller.
    (
        "pwm-loss",
        labelled(Label(24, 20, 5.4, 5.0), "pwm", soc0=0.3),
        labelled(Label(24, 20, 5.4, 5.0), "pwm", soc0=1.0),
    ),
    (
        "alternator-smart-relay",
        driven(Relay("r", "Relay", Alternator(smart=True))),
        driven(Relay("r", "Relay", Alternator(smart=False))),
    ),
    (
        "no-ignition-sense",
        driven(DcDc("v", "DC-DC", 20.0, 0.92, Alternator(smart=True), ignition=False)),
        driven(DcDc("v", "DC-DC", 20.0, 0.92, Alternator(smart=True), ignition=True)),
    ),
    (
        "dcdc-starved",
        driven(DcDc("v", "DC-DC", 30.0, 0.92, feed=Feed(9.0, 2.5, 0.0))),
        driven(DcDc("v", "DC-DC", 30.0, 0.92, feed=Feed(9.0, 6.0, 0.0))),
    ),
    (
        "alternator-overloaded",
        driven(DcDc("v", "DC-DC", 42.0, 0.92, Alternator(rated_a=90.0))),
        driven(DcDc("v", "DC-DC", 37.0, 0.92, Alternator(rated_a=90.0))),
    ),
    (
        "socket-fuse",
        driven(DcDc("v", "Socket", 8.5, 0.92, fuse_a=10.0)),
        driven(DcDc("v", "Socket", 7.0, 0.92, fuse_a=10.0)),
    ),
    (
        "sun-spilled",
        sunny(SunInput("s", "Sun", (ROOF,), Controller(9.0, 1.0)), soc0=0.9),
        sunny(SunInput("s", "Sun", (ROOF,), Controller(9.0, 1.0)), soc0=0.4),
    ),
    (
        "inverter-idle",
        a_case(inverter=Inverter(300, 8, 0.9, always_on=True)),
        a_case(inverter=Inverter(300, 8, 0.9)),
    ),
    (
        "inverter-too-small",
        a_case(inverter=Inverter(300, 8, 0.9), appliances=(lamp(310.0, 1, 2),)),
        a_case(inverter=Inverter(300, 8, 0.9), appliances=(lamp(290.0, 1, 2),)),
    ),
    (
        "standby-heavy",
        a_case(appliances=(lamp(20.0, 20, 23, standby_w=0.5),)),
        a_case(appliances=(lamp(20.0, 20, 23, standby_w=0.2),)),
    ),
]


def on_inverter(case: Case, code: str) -> Case:
    """The two rules about inverters look at what hangs on one."""
    if code != "inverter-too-small":
        return case
    things = tuple(replace(a, supply="inverter") for a in case.appliances)
    return replace(case, appliances=things)


@pytest.mark.parametrize(("code", "fires", "rests"), BOTH_SIDES, ids=[c[0] for c in BOTH_SIDES])
def test_each_rule_fires_past_its_threshold_and_rests_before_it(
    code: str, fires: Case, rests: Case
) -> None:
    found = judged(on_inverter(fires, code))
    assert code in found
    said = found[code]
    assert said.text
    assert said.means
    assert said.remedy
    assert said.source
    assert code not in judged(on_inverter(rests, code))


@pytest.mark.parametrize(
    ("bank", "volts", "severity"),
    [
        (Bank(GEL, 100.0), 14.3, "danger"),
        (Bank(GEL, 100.0), 14.2, None),
        (Bank(LIFEPO4, 100.0), 14.7, "danger"),
        (Bank(LIFEPO4, 100.0), 14.6, None),
        (Bank(AGM, 100.0), 14.0, "fault"),
        (Bank(AGM, 100.0), 14.2, None),
    ],
)
def test_a_profile_that_does_not_suit_the_chemistry(
    bank: Bank, volts: float, severity: str | None
) -> None:
    profile = Profile(volts, 13.5)
    found = judged(a_case(bank=bank, profile=profile, mains=mains(10.0), standby=True))
    said = found.get("profile-mismatch")
    assert (None if said is None else said.severity) == severity


def test_a_trickle_charger_beside_a_staged_one_is_no_mismatch() -> None:
    trickle = replace(mains(1.0, Profile(13.7, 13.7))[0], key="t")
    case = a_case(
        bank=Bank(AGM, 100.0),
        profile=Profile(14.4, 13.6),
        mains=(*mains(10.0), trickle),
        standby=True,
    )
    assert "profile-mismatch" not in judged(case)


def test_a_combined_charger_says_what_its_one_limit_costs() -> None:
    array = SunInput("s", "Sun", (replace(ROOF, power_w=300.0),), Controller(30.0, 1.0))
    case = driven(DcDc("v", "DC-DC", 20.0, 0.92), sun=(array,))
    joined = replace(case, joining=Coupling("combined", 20.0, ("s", "v")))
    assert judged(joined)["shared-limit"].numbers[0].value > 1.0
    assert "shared-limit" not in judged(case)


def test_a_fridge_on_long_drives_with_a_weak_charger_is_told_what_it_would_keep() -> None:
    fridge = Appliance("f", "Fridge", 45.0, "12v", (Window(0, 1440),), 0.4, Fridge())
    long_drive = (Block("drive", 0, 480, 0, 780),)
    weak = a_case(
        vehicle=(DcDc("v", "DC-DC", 10.0, 0.92),), blocks=long_drive, appliances=(fridge,)
    )
    strong = weak.with_sources("vehicle", (DcDc("v", "DC-DC", 30.0, 0.92),))
    moved = replace(weak, appliances=(replace(fridge, on_vehicle=True),))
    assert "fridge-on-vehicle" in judged(weak)
    assert "fridge-on-vehicle" not in judged(strong)
    assert "fridge-on-vehicle" not in judged(moved)


def test_silence_is_told_in_amp_hours() -> None:
    noisy = replace(mains(10.0)[0], noisy=True)
    case = a_case(mains=(noisy,), standby=True, soc0=0.2, quiet=(Window(0, 120),))
    assert judged(case)["noisy-in-quiet"].numbers[0].value == pytest.approx(20.0)
    assert "noisy-in-quiet" not in judged(case.with_sources("mains", mains(10.0)))


def test_the_gravest_comes_first() -> None:
    case = a_case(
        bank=Bank(GEL, 100.0), profile=Profile(14.8, 13.5), mains=mains(60.0), standby=True
    )
    run = simulate(case)
    severities = [judgement.severity for judgement in judge(run, keep_ledger(run))]
    assert severities[0] == "danger"
    assert severities == sorted(severities, key=["danger", "fault", "waste", "note"].index)


@pytest.mark.parametrize("name", sorted(path.stem for path in EXAMPLES.glob("*.json")))
def test_no_sample_box_has_a_danger_or_a_fault(name: str) -> None:
    found = judged(case_from_plan(example(name)))
    # One feeds a machine on which health hangs, from nothing but this box: never sound.
    wanted = ["medical-single-source"] if name == "night-breather" else []
    assert [j.code for j in found.values() if j.severity in ("danger", "fault")] == wanted
