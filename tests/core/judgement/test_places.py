"""Judgements that look at places, panels, converters and guesses: each on both sides."""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.flooded import FLOODED
from oddkettle.core.battery.chemistries.gel import GEL
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.judgement import RULES, judge
from oddkettle.core.loads.demand import Appliance, Inverter, Window
from oddkettle.core.simulation.case import Case, SecondBank, Surroundings
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.panel import Label, Panel
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block
from tests.core.boxes import a_case, lamp
from tests.core.judgement.test_judgement import driven, judged, mains, sunny

ROOF = Panel(100.0, "flat", 0.0, 180.0, False)
CLOSED = Surroundings(vents=False)
LIVING, ENGINE = Surroundings("living"), Surroundings("engine")


def standing(bank: Bank, around: Surroundings) -> Case:
    return a_case(bank=bank, surroundings=around)


def array(panel: Panel = ROOF, kind: str = "tracking") -> SunInput:
    return SunInput("s", "Sun", (panel,), Controller(9.0, 1.0, kind))  # type: ignore[arg-type]


def gadget(**more: object) -> Appliance:
    window = Window(18 * 60, 22 * 60)
    return Appliance("g", "Gadget", 60.0, "inverter", (window,), **more)  # type: ignore[arg-type]


def breather(watts: float, **more: object) -> Case:
    machine = Appliance("b", "Machine", watts, "12v", (Window(0, 1440),), **more)  # type: ignore[arg-type]
    return a_case(appliances=(machine,), soc0=0.5, floor=0.0)


STRETCHED = replace(ROOF, label=Label(21.6, 18.0, 5.6, 5.5))
TWO = Bank(LIFEPO4, 50.0, parallel=2)
OTHER_CHEMISTRY = SecondBank(Bank(AGM, 100.0), 1.0)
SAME_CHEMISTRY = SecondBank(Bank(LIFEPO4, 100.0), 1.0)

BOTH_SIDES: list[tuple[str, Case, Case]] = [
    (
        "mixed-bank",
        a_case(bank=TWO, surroundings=Surroundings(alike=False)),
        a_case(bank=TWO),
    ),
    ("mixed-bank", a_case(second=OTHER_CHEMISTRY), a_case(second=SAME_CHEMISTRY)),
    (
        "flooded-in-cabin",
        standing(Bank(FLOODED, 100.0), LIVING),
        standing(Bank(AGM, 100.0), LIVING),
    ),
    (
        "agm-under-bonnet",
        standing(Bank(AGM, 100.0), ENGINE),
        standing(Bank(AGM, 100.0), LIVING),
    ),
    (
        "conductive-enclosure",
        standing(Bank(LIFEPO4, 100.0), Surroundings(metal=True, posts_covered=False)),
        standing(Bank(LIFEPO4, 100.0), Surroundings(metal=True, posts_covered=True)),
    ),
    (
        # 5.4 A at most of its light, straight to 100 Ah: 1 % of a lead bank is 1 A.
        "unregulated-panel",
        sunny(array(kind="none"), bank=Bank(AGM, 100.0)),
        sunny(array(replace(ROOF, power_w=15.0), kind="none"), bank=Bank(AGM, 100.0)),
    ),
    (
        "double-regulator",
        sunny(array(replace(ROOF, own_regulator=True)), soc0=0.2),
        sunny(array(), soc0=0.2),
    ),
    (
        "isc-is-not-imp",
        sunny(array(STRETCHED)),
        sunny(array(replace(ROOF, label=Label(21.6, 18.0, 5.9, 5.5)))),
    ),
    (
        "panel-stowed",
        sunny(array(replace(ROOF, portable=True)), soc0=0.2),
        sunny(
            array(replace(ROOF, portable=True)),
            soc0=0.2,
            blocks=(Block("panel_out", 0, 0, 0, 1440),),
        ),
    ),
    (
        "back-feed",
        driven(Relay("r", "Relay", forced=True)),
        driven(Relay("r", "Relay", forced=False)),
    ),
    (
        # 1,200 W over 0.9 and 12.8 V are 104 A of 100 Ah at one capacity an hour.
        "inverter-current",
        a_case(inverter=Inverter(1200.0, 8.0, 0.9)),
        a_case(inverter=Inverter(1100.0, 8.0, 0.9)),
    ),
    (
        "usb-through-inverter",
        a_case(inverter=Inverter(300.0, 8.0, 0.9), appliances=(gadget(adapter=True),)),
        a_case(inverter=Inverter(300.0, 8.0, 0.9), appliances=(gadget(),)),
    ),
    (
        # 20 W all day are 38 points; a quarter more moves the lowest level by ten.
        "guess-rules",
        a_case(appliances=(lamp(20.0, spread=0.25),)),
        a_case(appliances=(lamp(20.0, spread=0.02),)),
    ),
    (
        "guess-rules",
        a_case(appliances=(lamp(20.0, spread=0.25),)),
        a_case(appliances=(lamp(20.0),)),
    ),
    ("vent-missing", standing(Bank(AGM, 100.0), CLOSED), standing(Bank(AGM, 100.0), LIVING)),
    ("vent-missing", standing(Bank(AGM, 100.0), CLOSED), standing(Bank(LIFEPO4, 100.0), CLOSED)),
    (
        "air-missing",
        a_case(inverter=Inverter(300.0, 8.0, 0.9), surroundings=CLOSED),
        a_case(surroundings=CLOSED),
    ),
    (
        "ignition-with-cells",
        standing(Bank(FLOODED, 100.0), Surroundings()),
        standing(Bank(FLOODED, 100.0), Surroundings(battery_apart=True)),
    ),
    ("must-run-margin", breather(35.0, priority="must"), breather(20.0, priority="must")),
]


@pytest.mark.parametrize(("code", "fires", "rests"), BOTH_SIDES)
def test_each_rule_fires_past_its_threshold_and_rests_before_it(
    code: str, fires: Case, rests: Case
) -> None:
    said = judged(fires).get(code)
    assert said is not None
    assert said.text
    assert said.means
    assert said.remedy
    assert said.source
    assert said.numbers
    assert code not in judged(rests)


def test_sealed_and_vented_are_told_apart_by_what_they_do_in_a_cabin() -> None:
    assert judged(standing(Bank(FLOODED, 100.0), LIVING))["flooded-in-cabin"].severity == "danger"
    assert "agm-under-bonnet" in judged(standing(Bank(GEL, 100.0), ENGINE))
    assert "agm-under-bonnet" not in judged(standing(Bank(LIFEPO4, 100.0), ENGINE))


def test_health_makes_a_cut_a_danger() -> None:
    assert judged(breather(35.0, priority="must"))["must-run-margin"].severity == "fault"
    assert judged(breather(35.0, medical=True))["must-run-margin"].severity == "danger"


@pytest.mark.parametrize(
    ("share", "medical", "severity"),
    [(0.02, False, "fault"), (0.02, True, "danger"), (0.01, True, None), (None, True, None)],
)
def test_what_must_run_may_go_dark_in_one_future_of_a_hundred(
    share: float | None, medical: bool, severity: str | None
) -> None:
    run = simulate(breather(20.0, priority="must", medical=medical))
    said = {j.code: j.severity for j in judge(run, keep_ledger(run), share)}
    assert said.get("must-run-margin") == severity


@pytest.mark.parametrize(
    ("bank", "profile", "severity"),
    [
        (Bank(LIFEPO4, 100.0), Profile(14.2, 13.81), "fault"),
        (Bank(LIFEPO4, 100.0), Profile(14.2, 13.80), None),
        (Bank(AGM, 100.0), Profile(14.4, 13.6, equalises=True), "danger"),
        (Bank(FLOODED, 100.0), Profile(14.4, 13.5, equalises=True), None),
    ],
)
def test_float_and_equalising_have_their_windows_too(
    bank: Bank, profile: Profile, severity: str | None
) -> None:
    found = judged(a_case(bank=bank, mains=mains(10.0, profile), standby=True))
    said = found.get("profile-mismatch")
    assert (None if said is None else said.severity) == severity


def test_a_loss_is_waste_only_where_the_box_is_short() -> None:
    clipping = SunInput("s", "Sun", (ROOF,), Controller(3.0, 1.0))
    assert judged(sunny(clipping, soc0=0.15))["controller-clips"].severity == "waste"
    assert judged(sunny(clipping, soc0=0.5))["controller-clips"].severity == "note"


def test_a_panel_with_its_own_regulator_gives_what_pwm_gives() -> None:
    own = sunny(array(replace(ROOF, own_regulator=True)), soc0=0.2)
    pwm = sunny(array(kind="pwm"), soc0=0.2)
    gains = [
        judged(own)["double-regulator"].numbers[0].value,
        judged(pwm)["pwm-loss"].numbers[0].value,
    ]
    assert gains[0] == pytest.approx(gains[1], rel=1e-6)
    assert gains[0] > 1.0


def test_every_rule_is_a_function_with_a_sentence_of_its_own() -> None:
    assert len({rule.__name__ for rule in RULES}) == len(RULES)
    assert all((rule.__doc__ or "").strip() for rule in RULES)


def test_a_second_regulator_costs_nothing_where_the_battery_is_full_anyway() -> None:
    twice = array(replace(ROOF, own_regulator=True))
    hungry, full = (judged(sunny(twice, soc0=soc0))["double-regulator"] for soc0 in (0.2, 1.0))
    assert "more a day would come in" in hungry.means
    assert "costs nothing" in full.means
