"""Where judgements begin: each box twice, a little past the figure and a little before it."""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.judgement import Judgement, judge
from oddkettle.core.loads.demand import Appliance, Inverter, Window
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.alternator import Alternator, Feed
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.panel import Panel
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block
from tests.core.boxes import a_case, lamp
from tests.core.judgement.cases.built import closed, fridge, idling, joined, on_pwm, silent
from tests.core.judgement.test_judgement import driven, heated, mains, sunny
from tests.core.judgement.test_sentences import (
    DULL,
    LABEL,
    LEAD,
    ROOF,
    RUN,
    SMALL,
    Says,
    every,
    figures,
    generated,
    on_inverter,
    own_profile,
    profiled,
    string,
)

FULL_PANEL = replace(ROOF, label=LABEL)


EDGES: list[tuple[str, Case, Case]] = [
    ("air-missing", closed(10.0), closed(9.9)),
    ("heavy-lift", a_case(bank=Bank(AGM, 67.0)), a_case(bank=Bank(AGM, 66.5))),
    (
        "ageing",
        a_case(clearness=DULL * 3, appliances=(lamp(5.0),)),
        a_case(clearness=DULL * 2, appliances=(lamp(5.0),)),
    ),
    ("never-full", a_case(bank=LEAD, clearness=DULL * 8), a_case(bank=LEAD, clearness=DULL * 7)),
    # Pads of a bank that loses more take a larger share; a sixth and a seventh of the use.
    ("heater-costs", heated(40.0, 6.0), heated(40.0, 12.0)),
    # Four ampere-hours of a lead bank of a hundred are no cycle.
    (
        "charge-too-soft-lead",
        a_case(bank=LEAD, mains=mains(7.9), soc0=0.9, appliances=(lamp(7.0),)),
        a_case(bank=LEAD, mains=mains(7.9), soc0=0.9, appliances=(lamp(2.0),)),
    ),
    ("profile-mismatch", profiled(LEAD, Profile(14.0, 13.5)), profiled(LEAD, Profile(14.2, 13.5))),
    ("profile-mismatch", profiled(LEAD, Profile(14.4, 14.0)), profiled(LEAD, Profile(14.4, 13.7))),
    # A trickle charger on purpose holds one voltage beside another source; the box's own does not.
    (
        "profile-mismatch",
        profiled(LEAD, Profile(13.6, 13.6)),
        own_profile(LEAD, Profile(13.6, 13.6)),
    ),
    ("pwm-loss", on_pwm(18.5), on_pwm(17.0)),
    # One controller bears the string in frost: nights of -5 C have been 18 colder, 48 K under 25:
    # 2 x 1.03 x 21.6 V x (1 + .0029 x 48) = 50.7; and at 52.2 three in a hundred are left.
    (
        "array-overvoltage",
        string(LABEL, 2, input_limit_v=50.5),
        string(LABEL, 2, input_limit_v=51.0),
    ),
    (
        "array-no-margin",
        string(LABEL, 2, input_limit_v=52.0),
        string(LABEL, 2, input_limit_v=52.5),
    ),
    ("isc-is-not-imp", string(replace(LABEL, isc_a=5.6), 1), string(replace(LABEL, isc_a=5.7), 1)),
    ("fridge-on-vehicle", fridge(), fridge(15.0)),
    ("fridge-on-vehicle", fridge(), fridge(minutes=175)),
    ("fridge-on-vehicle", fridge(), fridge(on_vehicle=True)),
    ("alternator-overloaded", idling(idles=True), idling(idles=False)),
    ("noisy-in-quiet", silent(), silent(noisy=False)),
    ("inverter-idle", on_inverter(60.0, replace(SMALL, always_on=True)), on_inverter(60.0, SMALL)),
    ("inverter-too-small", on_inverter(301.0, SMALL), on_inverter(299.0, SMALL)),
    (
        "inverter-too-small",
        on_inverter(60.0, SMALL, surge_w=301.0),
        on_inverter(60.0, SMALL, surge_w=299.0),
    ),
    # 20 W for an hour: standby of a tenth of all use is 0.093 W all day.
    (
        "standby-heavy",
        a_case(appliances=(lamp(20.0, 0, 1, standby_w=0.11),)),
        a_case(appliances=(lamp(20.0, 0, 1, standby_w=0.07),)),
    ),
    ("generator-overloaded", generated(315.0), generated(316.0)),
    # 10 A of mains beside the sun: 12 A are passed by the limit of 11, not by 20.
    ("shared-limit", joined(11.0, "s", "m"), joined(20.0, "s", "m")),
    ("shared-limit", joined(11.0, "s", "m"), joined(11.0)),
]


@pytest.mark.parametrize(("code", "past", "before"), EDGES, ids=lambda it: getattr(it, "code", it))
def test_a_judgement_begins_where_it_says(code: str, past: Case, before: Case) -> None:
    assert every(past, code)
    assert not every(before, code)


MORE = [
    # 12.8 V and a volt of headroom; two in series reach it, and two there are.
    Says(
        "array-undervoltage",
        sunny(
            SunInput(
                "s",
                "Sun",
                (replace(ROOF, label=replace(LABEL, vmp_v=13.0), count=2),),
                Controller(9.0, 1.0),
            )
        ),
        "11.1 13.8 |  | 2",
        (2,),
    ),
    Says("array-undervoltage", string(replace(LABEL, vmp_v=13.0), 1), "11.4 13.8 |  | 2"),
    Says("array-overvoltage", string(LABEL, 2, input_limit_v=30.0), "23 50.7 30 |  | 1", (1,)),
    Says("array-overvoltage", string(LABEL, 1, input_limit_v=20.0), "23 25.3 20 |  | 26"),
    Says("array-no-margin", string(LABEL, 2, input_limit_v=52.0), "23 50.7 52 |  | "),
    # Three in series would be borne, but four panels make no whole strings of three.
    Says("array-overvoltage", string(LABEL, 4, input_limit_v=75.0), "23 101.4 75 |  | 2", (2,)),
    # 20 V of a panel are 17.8 V when hot: 5 V over a battery of 12.8 V, and of 43 Ah at 20 V the
    # battery's own voltage leaves some 31.
    Says("pwm-loss", on_pwm(20.0), "5 | 12 | ", ("tracking",)),
    # One hour of silence at 5 A.
    Says("noisy-in-quiet", silent(), " | 5.0 | "),
    Says("fridge-on-vehicle", fridge(), "3 | 5.5 | ", (True,)),
    # Mains take 10 A of the 11 and leave one to the sun: some 14 Ah of its 49.
    Says("shared-limit", joined(11.0, "s", "m"), "11 2 | 35 | ", ("independent",)),
    Says("generator-fuel", generated(900.0, blocks=RUN, soc0=0.2), "2.0 0.6 0.02 | 0.3 58 7 | "),
    Says("generator-fuel", generated(900.0, blocks=RUN, soc0=1.0), "2.0 0.4 | 0.2 58 7 | "),
]


@pytest.mark.parametrize("row", MORE, ids=lambda row: row.code)
def test_its_figures_are_those_worked_by_hand(row: Says) -> None:
    (said,) = every(row.case, row.code)
    sentences = (said.text, said.means, said.remedy)
    assert [figures(one) for one in sentences] == [one.strip() for one in row.figures.split("|")]
    assert tuple(change.value for change in (said.fix.changes if said.fix else ())) == row.sets


def test_a_generator_that_has_burnt_three_tanks_is_told_of_its_cans() -> None:
    """At .2 l/h idling and 2 l a tank: two days are five fillings, one is 2.6."""
    day = generated(900.0, blocks=(Block("generator", 0, 0, 0, 1440),), soc0=0.2)
    two = generated(
        900.0, blocks=(Block("generator", 0, 0, 1, 1440),), soc0=0.2, clearness=DULL * 2
    )
    (short,), (long,) = every(day, "generator-fuel"), every(two, "generator-fuel")
    assert "Run it when the battery is low" in short.remedy
    assert "Carry the fuel" in long.remedy


@pytest.mark.parametrize(
    ("watts", "soc0", "says", "deepest"),
    [
        (10.0, 1.0, "0.3 full cycles", True),
        (0.2, 1.0, "less than a tenth", True),
        (0.2, 0.0, "run flat", False),
    ],
)
def test_how_much_of_its_life_a_trip_is(
    watts: float, soc0: float, says: str, deepest: bool
) -> None:
    """10 W for three days are 56 Ah, half of them a cycle; .2 W take 1 % of it."""
    case = a_case(clearness=DULL * 3, soc0=soc0, floor=0.0, appliances=(lamp(watts),))
    (said,) = every(case, "ageing")
    assert says in said.text
    level = simulate(case).level
    fell = f"{100 * (level.max() - level.min()):.0f}"
    assert (figures(said.text).split()[-1:] == [fell]) is deepest


def test_what_an_adapter_costs_is_told_by_the_day() -> None:
    """On two days as on one."""
    case = on_inverter(60.0, Inverter(300.0, 8.0, 0.9), adapter=True)
    for days in (1, 2):
        (said,) = every(replace(case, clearness=DULL * days), "usb-through-inverter")
        assert figures(said.means) == "4.8"
        assert said.numbers[0].value == pytest.approx(4.796, abs=0.001)
        assert figures(said.source) == "87 88"


@pytest.mark.parametrize("share", [0.02, 0.5])
def test_how_often_it_may_go_dark_is_told_in_the_hundred(share: float) -> None:
    def may_be_cut(machine: Appliance) -> Judgement:
        run = simulate(a_case(appliances=(machine,)))
        return {one.code: one for one in judge(run, keep_ledger(run), share)}["must-run-margin"]

    said = may_be_cut(lamp(10.0, priority="must"))
    assert [number.value for number in said.numbers] == pytest.approx([100 * share, 1.0])
    assert figures(said.text) == f"{100 * share:.0f} 100"
    assert figures(said.remedy) == "1 100"
    assert (said.severity, "Health" in said.means) == ("fault", False)
    breather = may_be_cut(lamp(10.0, medical=True))
    assert (breather.severity, "Health" in breather.means) == ("danger", True)
    assert "supplier" in breather.remedy
    cut = every(a_case(appliances=(lamp(60.0, medical=True),), floor=0.0), "must-run-margin")[0]
    assert (cut.severity, "Health" in cut.means, "supplier" in cut.remedy) == ("danger", True, True)


def test_a_stowed_panel_loses_the_day_and_not_the_night() -> None:
    """At 55 degrees north the tenth of June is some 17 hours long."""
    stowed = replace(ROOF, portable=True)
    case = sunny(SunInput("s", "Sun", (stowed,), Controller(9.0, 1.0)), soc0=0.2)
    (said,) = every(case, "panel-stowed")
    assert 16.0 < said.numbers[0].value < 17.5
    assert figures(said.text) == f"{said.numbers[0].value:.1f}"
    two = replace(case, clearness=DULL * 2)
    (again,) = every(two, "panel-stowed")
    assert 15.0 < again.numbers[0].value < 17.5


@pytest.mark.parametrize(("third", "left"), [(18.5, 1.5), (19.1, None)])
def test_no_charger_is_told_to_give_next_to_nothing(third: float, left: float | None) -> None:
    """30 A, 30 and a third into 50: the strongest would be left with what the others leave."""
    chargers = tuple(
        replace(mains(amps)[0], key=f"m{n}") for n, amps in enumerate((30.0, 30.0, third))
    )
    (said,) = every(a_case(mains=chargers, standby=True), "charge-too-hard")
    assert (said.fix and said.fix.changes[0].value) == left


def test_how_long_it_stood_too_low_is_counted() -> None:
    """60 W from full leave a tenth after some 19 h: the rest of the day it stands below."""
    case = a_case(appliances=(lamp(60.0),), soc0=1.0, floor=0.0)
    (said,) = every(case, "over-deep")
    level = simulate(case).level[:-1]
    below_h = (level < 0.1).sum() / 12
    assert 2.0 < below_h < 12.0
    assert figures(said.means) == f"{below_h:.0f}"
    lowest = max(level.min(), 0.0)
    assert figures(said.text) == f"{100 * lowest:.0f} 10"
    # The battery that is named was run: it stays above, and the next smaller one does not.
    assert figures(said.remedy) == f"{100 * (0.1 - lowest):.0f} 150"
    assert said.fix is not None
    assert said.fix.changes[0].value == 150.0

    def low(size: float) -> float:
        return float(simulate(replace(case, bank=replace(case.bank, battery_ah=size))).level.min())

    assert low(120.0) < 0.1 <= low(150.0)


@pytest.mark.parametrize(("own_a", "held"), [(20.0, True), (5.0, False)])
def test_what_the_vehicle_takes_itself_holds_its_alternator_too(own_a: float, held: bool) -> None:
    """Of 100 A half is advised; the relay's fuse lets 40 pass beside the vehicle's own."""
    part = Relay(
        "v",
        "Relay",
        Alternator(rated_a=100.0, own_loads_a=own_a),
        Feed(1.0, 50.0, 1.0),
        fuse_a=40.0,
    )
    case = replace(driven(part, bank=Bank(LIFEPO4, 200.0)), soc0=0.15)
    found = every(case, "alternator-overloaded")
    assert bool(found) is held
    if held:
        assert figures(found[0].text) == f"100 50 {found[0].numbers[0].value:.1f}"


def share_of_years(days: int) -> str:
    """Between which percents of eighteen and of eight years so many days are."""
    return " ".join(f"{100 * days / (years * 365.25):.2g}" for years in (18, 8))


def test_what_wears_a_battery_is_named() -> None:
    """Eight to eighteen years on the shelf; what is emptied and filled each day wears by cycles."""
    cycled = a_case(
        clearness=DULL * 3,
        bank=LEAD,
        mains=mains(30.0),
        soc0=1.0,
        blocks=tuple(Block("hookup", day, 720, day, 1440) for day in range(3)),
        appliances=(lamp(80.0, 0.0, 11.0),),
    )
    idle = a_case(clearness=DULL * 3, soc0=0.5, appliances=(lamp(0.2),))
    (worn,), (shelved,) = every(cycled, "ageing"), every(idle, "ageing")
    assert worn.means.endswith("by cycles.")
    assert shelved.means.endswith("by the calendar.")
    assert figures(shelved.means) == share_of_years(3)
    (long,) = every(replace(idle, clearness=DULL * 60), "ageing")
    assert figures(long.means) == share_of_years(60) == "0.91 2.1"


def test_pads_cost_by_the_night() -> None:
    (one,) = every(heated(40.0, 4.0), "heater-costs")
    heat, nightly, use = (number.value for number in one.numbers)
    assert nightly == heat
    assert use == pytest.approx(720.0)
    assert figures(one.text) == f"{heat:.0f} 720 {heat:.0f}"
    two = replace(heated(40.0, 4.0), clearness=DULL * 2, low_c=(-2.0,) * 2, high_c=(-2.0,) * 2)
    (said,) = every(two, "heater-costs")
    assert said.numbers[1].value == pytest.approx(said.numbers[0].value / 2)


def test_half_an_hour_of_an_inverter_is_worth_a_word_and_an_amp_hour_a_tenth() -> None:
    """9 W for half an hour are .35 Ah; 2 W are .08."""

    def said(idle_w: float) -> bool:
        window = (Window(0, 23 * 60 + 30),)
        thing = Appliance("g", "Gadget", 60.0, "inverter", window)
        box = replace(SMALL, always_on=True, idle_w=idle_w)
        return bool(every(a_case(inverter=box, appliances=(thing,)), "inverter-idle"))

    assert said(9.0)
    assert not said(2.0)


def test_the_copper_that_is_wanted_is_what_leaves_the_cut_out_at_the_charger() -> None:
    """14.2 V less 11.5 over so many amps as 30 A out ask at 11.5 V in, but for the connectors."""
    part = DcDc("v", "Charger", 30.0, 0.92, Alternator(rated_a=150.0), feed=Feed(9.0, 2.5, 8.0))
    (said,) = every(driven(part), "dcdc-starved")
    run = simulate(driven(part))
    on = run.sources[0].on > 0.0
    amps = 30.0 * run.track.bus_v[on].max() / 0.92 / 11.5
    mm2 = 2 * 9 * 0.0172 / (2.7 / amps - 0.008)
    assert said.numbers[1].value == pytest.approx(mm2, rel=1e-4)


def test_a_charger_whose_cut_out_is_above_all_it_gets_is_given_a_shorter_lead() -> None:
    part = DcDc(
        "v",
        "Charger",
        30.0,
        0.92,
        Alternator(rated_a=150.0),
        feed=Feed(9.0, 2.5, 0.0),
        cut_out_v=14.5,
    )
    (said,) = every(driven(part), "dcdc-starved")
    assert said.remedy == "Use a shorter lead, or half current."


def test_a_source_that_a_sun_panel_cannot_fill_brings_its_panels_watts() -> None:
    """60 W at 12 V are 5 A, whatever the controller passes; with 3 A of mains 8 A are wanted."""
    small = SunInput("s", "Sun", (Panel(60.0, "flat", 0.0, 180.0, False),), Controller(20.0, 1.0))

    def said(amps: float) -> bool:
        case = a_case(
            bank=LEAD, sun=(small,), mains=mains(amps), soc0=0.9, appliances=(lamp(20.0),)
        )
        return bool(every(case, "charge-too-soft-lead"))

    assert said(2.9)
    assert not said(3.1)


def test_a_clipped_hour_is_one_in_which_the_panels_could_give_more() -> None:
    case = sunny(SunInput("s", "Sun", (ROOF,), Controller(3.0, 1.0)), soc0=0.2)
    run = simulate(case)
    could = run.sources[0].could_w / run.track.bus_v
    (said,) = every(case, "controller-clips")
    assert said.numbers[1].value == pytest.approx((could > 3.0).sum() / 12)
    assert figures(said.text) == f"{could.max():.1f} 3"
    assert every(driven(DcDc("v", "C", 5.0, 0.9)), "controller-clips") == []
