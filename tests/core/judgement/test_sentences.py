"""What judgements say in figures, each worked by hand from the box it is about.

A row gives the figures of the three sentences (what is so | why it matters | what mends it), then
what the button sets. Words may change; figures may not.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.flooded import FLOODED
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.chemistries.nmc import NMC
from oddkettle.core.battery.temperature import Heater, Housing
from oddkettle.core.judgement import Judgement, judge
from oddkettle.core.loads.demand import Appliance, Inverter, Window
from oddkettle.core.simulation.case import Case, SecondBank, Surroundings
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.alternator import Alternator
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import ReadyMade
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.generator import Generator
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Label, Panel
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block
from oddkettle.text import render
from tests.core.boxes import a_case, lamp
from tests.core.judgement.test_judgement import driven, mains, sunny

ROOF = Panel(100.0, "flat", 0.0, 180.0, False)
FIGURE = re.compile(r"(?<![\w.])\d+(?:\.\d+)?")
LEAD, LITHIUM = Bank(AGM, 100.0), Bank(LIFEPO4, 100.0)
OPEN_CELLS = Bank(FLOODED, 100.0)
BARE = Surroundings(posts_covered=False)
DULL = (0.5,)


def figures(sentence: str) -> str:
    return " ".join(FIGURE.findall(render(sentence)))


def every(case: Case, code: str) -> list[Judgement]:
    run = simulate(case)
    return [said for said in judge(run, keep_ledger(run)) if said.code == code]


@dataclass(frozen=True)
class Says:
    """A box, and the figures of what is said about it."""

    code: str
    case: Case
    figures: str
    sets: tuple[object, ...] = ()
    severity: str | None = None


def frost(**more: object) -> Case:
    """A charger of 5 A on all day at a degree of frost: 24 h, 120 Ah."""
    return a_case(mains=mains(5.0), standby=True, low_c=(-1.0,), high_c=(-1.0,), **more)


def on_inverter(watts: float, inverter: Inverter, **more: object) -> Case:
    windows = (Window(18 * 60, 22 * 60),)
    gadget = Appliance("g", "Gadget", watts, "inverter", windows, **more)  # type: ignore[arg-type]
    return a_case(inverter=inverter, appliances=(gadget,))


def profiled(bank: Bank, profile: Profile) -> Case:
    return a_case(bank=bank, profile=profile, mains=mains(5.0), standby=True)


def own_profile(bank: Bank, profile: Profile) -> Case:
    return a_case(bank=bank, profile=Profile(14.4, 13.5), mains=mains(5.0, profile), standby=True)


def string(label: Label, count: int, **controller: float) -> Case:
    panels = (replace(ROOF, label=label, count=count),)
    control = Controller(9.0, 1.0, **controller)  # type: ignore[arg-type]
    return sunny(SunInput("s", "Sun", panels, control, series=count), low_c=(-5.0,), high_c=(10.0,))


def bare(bank: Bank) -> Case:
    """A panel straight on a battery."""
    return sunny(SunInput("s", "Sun", (ROOF,), Controller(9.0, 1.0, "none")), bank=bank)


def generated(rated_w: float, amps: float = 20.0, **more: object) -> Case:
    one = Generator("g", "Generator", rated_w, idle_l_h=0.2, full_l_h=0.56, tank_l=2.0)
    return a_case(mains=(MainsCharger("m", "Charger", amps, 0.9),), generator=(one,), **more)


BATTERIES = [
    # 90 of 100 Ah above a reserve of 10 %, at 12.8 V.
    Says("usable-not-nameplate", a_case(), "100 90 | 1152 | 90"),
    Says("usable-not-nameplate", a_case(bank=LEAD, floor=0.5), "100 50 | 600 | 50"),
    Says("never-full", a_case(bank=LEAD, clearness=DULL * 8), "8 | 7 | 7"),
    # 70 A into 100 Ah at half of its capacity: 50 A; 140 Ah would bear it, 150 are sold.
    Says("charge-too-hard", a_case(mains=mains(70.0), standby=True), "70 50 |  | 50 150", (50.0,)),
    Says("charge-too-hard", a_case(mains=mains(70.25), standby=True), "70 50 |  | 50 150", (50.0,)),
    # What may flow is rounded down, what must up: .5 of 77.7 Ah, .08 of 105.
    Says(
        "charge-too-hard",
        a_case(bank=Bank(LIFEPO4, 77.7), mains=mains(60.0), standby=True),
        "60 38.8 |  | 38.8 120",
        (38.8,),
    ),
    Says(
        "charge-too-soft-lead",
        a_case(bank=Bank(AGM, 105.0), mains=mains(7.9), standby=True, soc0=0.5),
        "7.9 105 |  | 8.4",
    ),
    # 0.3 of a joined AGM bank of 100 Ah more: 80 A.
    Says(
        "charge-too-hard",
        a_case(mains=mains(90.0), second=SecondBank(LEAD, 1.0, always=True), standby=True),
        "90 80 |  | 80 180",
        (80.0,),
    ),
    Says(
        "charge-too-soft-lead",
        a_case(bank=LEAD, mains=mains(7.9), standby=True, soc0=0.5),
        "7.9 100 |  | 8",
    ),
    Says("cold-charge-lockout", frost(), "24 0 | 120 | 0", (True,)),
    Says("cold-charge-lockout", frost(heater=Heater(0.01)), "24 0 | 120 | 0", (12.0,)),
    Says(
        "cold-charge-lockout",
        frost(heater=Heater(0.01), bank=replace(LITHIUM, housing=Housing(12.0))),
        "24 0 | 120 | 0",
    ),
    Says("cold-charge-lockout", frost(unit=ReadyMade()), "24 0 | 120 | 0", (12.0,)),
    # 1,300 W at 12.8 V against one capacity an hour.
    Says("discharge-over-limit", a_case(appliances=(lamp(1300.0, 1, 1.1),)), "102 100 |  | 102"),
    Says("mixed-bank", a_case(second=SecondBank(LEAD, 1.0)), " | 0.2 | ", ("lifepo4",)),
    Says(
        "mixed-bank",
        a_case(bank=Bank(LIFEPO4, 50.0, parallel=2), surroundings=Surroundings(alike=False)),
        "2 |  | ",
    ),
]
PLACES = [
    Says(
        "flooded-in-cabin",
        a_case(bank=OPEN_CELLS, surroundings=Surroundings("living")),
        " | 4 | ",
        ("aired",),
    ),
    # Q = .05 x 6 cells x 20 mA x 100 Ah / 1000 = .6 m3/h, 28 Q = 16.8 cm2; AGM 8 mA.
    Says("ignition-with-cells", a_case(bank=OPEN_CELLS), " |  | 17", (True,)),
    Says(
        "vent-missing",
        a_case(bank=OPEN_CELLS, surroundings=Surroundings(vents=False)),
        "0.60 | | 17 60",
        (True,),
        "danger",
    ),
    Says(
        "vent-missing",
        a_case(bank=Bank(AGM, 270.0), surroundings=Surroundings(vents=False)),
        "0.65 | | 18 2 60",
        (True,),
        "fault",
    ),
    Says(
        "agm-under-bonnet",
        a_case(bank=LEAD, surroundings=Surroundings("engine")),
        " | 10 | 40",
        ("aired",),
    ),
    Says(
        "lithium-under-bonnet",
        a_case(surroundings=Surroundings("engine")),
        " | 60 40 | 40",
        ("aired",),
    ),
    # 13.6 V over 1.5 mOhm for 100 Ah, whatever the box is made of.
    Says("bare-posts", a_case(surroundings=BARE), " | 9067 | ", (True,)),
    Says(
        "conductive-enclosure",
        a_case(surroundings=replace(BARE, metal=True)),
        " | 9067 | ",
        (True,),
    ),
    Says("heavy-lift", a_case(bank=Bank(AGM, 140.0, parallel=2)), "42 |  | "),
    Says(
        "air-missing",
        a_case(inverter=Inverter(300.0, 8.0, 0.9), surroundings=Surroundings(vents=False)),
        " |  | ",
        (True,),
    ),
]
PROFILES = [
    Says(
        "profile-mismatch",
        profiled(LITHIUM, Profile(14.7, 13.5)),
        "14.7 14.6 |  | 14.2",
        (14.2,),
        "danger",
    ),
    Says(
        "profile-mismatch",
        own_profile(LITHIUM, Profile(14.7, 13.5)),
        "14.7 14.6 |  | 14.2",
        (14.2,),
        "danger",
    ),
    Says(
        "profile-mismatch",
        profiled(LITHIUM, Profile(14.2, 13.5, second_v=14.8)),
        "14.8 14.6 |  | 14.2",
        (14.2,),
        "danger",
    ),
    Says(
        "profile-mismatch",
        profiled(LEAD, Profile(14.0, 13.5)),
        "14 14.4 |  | 14.4",
        (14.4,),
        "fault",
    ),
    Says(
        "profile-mismatch",
        profiled(LITHIUM, Profile(14.2, 13.9)),
        "13.9 13.5 |  | 13.5",
        (13.5,),
        "fault",
    ),
    # Four cells of NMC in place of three: all voltages a third higher.
    Says(
        "profile-mismatch",
        profiled(Bank(NMC, 100.0, cells=4), Profile(16.9, 16.0)),
        "16.9 16.8 |  | 16.6",
        (16.6,),
        "danger",
    ),
    Says(
        "profile-mismatch",
        profiled(Bank(NMC, 100.0, cells=4), Profile(16.6, 16.6)),
        "16.6 16.2 |  | 16.2",
        (16.2,),
        "fault",
    ),
    Says(
        "profile-mismatch",
        profiled(LEAD, Profile(14.4, 13.5, equalises=True)),
        "15.5 14.8 |  | ",
        (False,),
        "danger",
    ),
]
LABEL = Label(21.6, 18.0, 5.9, 5.5)
SUNS = [
    # 100 W at 18 V in June's best light; lead bears 1 % of 100 Ah, lithium nothing.
    Says("unregulated-panel", bare(LEAD), "4.2 1.0 |  | 5", ("tracking", 5.0)),
    Says("unregulated-panel", bare(LITHIUM), "4.2 0.0 |  | 5", ("tracking", 5.0)),
    Says("isc-is-not-imp", string(replace(LABEL, isc_a=5.6), 1), "5.5 5.6 |  | 5.26"),
]
SMALL = Inverter(300.0, 9.0, 0.9)
USES = [
    # 9 W for the 20 h in which nothing hangs on it: 14 Ah.
    Says(
        "inverter-idle",
        on_inverter(60.0, replace(SMALL, always_on=True)),
        "20 | 14 | ",
        ("with_loads",),
    ),
    Says(
        "inverter-too-small",
        on_inverter(60.0, SMALL, surge_w=880.0),
        "60 880 300 300 |  | 900",
        (900.0,),
    ),
    # 880 W of start where 600 W are twice the rating: half of it, in steps of 50 W.
    Says(
        "inverter-too-small",
        on_inverter(60.0, replace(SMALL, surge_w=600.0), surge_w=880.0),
        "60 880 300 600 |  | 450",
        (450.0, 880.0),
    ),
    Says(
        "inverter-too-small",
        on_inverter(310.0, replace(SMALL, surge_w=600.0)),
        "310 310 300 600 |  | 350",
        (350.0, 350.0),
    ),
    # 2 W all day beside 20 W for an hour, but for the hour in which it waits for nothing.
    Says("standby-heavy", a_case(appliances=(lamp(20.0, 0, 1, standby_w=2.0),)), "48 66 | 73 | "),
    # 1,200 W by .9 and 12.8 V; 100 A of that are 1,152 W.
    Says("inverter-current", a_case(inverter=Inverter(1200.0, 8.0, 0.9)), "104 100 |  | 1152"),
    # 60 W by .9 and 8 W of idling, against 60 x .87 / .88 W from USB; four hours at 12.8 V.
    Says(
        "usb-through-inverter",
        on_inverter(60.0, Inverter(300.0, 8.0, 0.9), adapter=True),
        " | 4.8 | 12",
        ("usb", 52.2, False),
    ),
]
SMART = Alternator(rated_a=60.0, smart=True)
VEHICLES = [
    Says("alternator-smart-relay", driven(Relay("v", "Relay", SMART)), " | 20 | ", ("dcdc",)),
    Says(
        "no-ignition-sense",
        driven(DcDc("v", "Charger", 10.0, 0.9, SMART, ignition=False)),
        " |  | ",
        (True,),
    ),
    # Input at 14.2 V out over .9, with what 4 m of 10 mm2 and 4 mOhm drop: 34.9 A; 60 A / 2.
    Says(
        "alternator-overloaded",
        driven(DcDc("v", "Charger", 30.0, 0.9, Alternator(rated_a=60.0))),
        "35 60 |  | 25",
        (25.0,),
    ),
    Says(
        "alternator-overloaded",
        driven(DcDc("v", "Charger", 60.0, 0.9, Alternator(rated_a=60.0), half_current=True)),
        "35 60 |  | 25",
    ),
    Says(
        "socket-fuse",
        driven(DcDc("v", "Socket", 14.0, 0.9, fuse_a=10.0)),
        "15.9 10 |  | 5 20",
        (5.0,),
        "fault",
    ),
    Says(
        "socket-fuse",
        driven(DcDc("v", "Socket", 8.0, 0.92, fuse_a=10.0)),
        "8.8 10 | 10 8 | 5 20",
        (5.0,),
        "waste",
    ),
    Says("back-feed", driven(Relay("v", "Relay", forced=True)), " |  | ", (False,)),
]
RUN = (Block("generator", 0, 600, 0, 720),)
GENERATORS = [
    # 20 A at 14.2 V over .9 are 316 W; 250 W bring 15.8 A.
    Says("generator-overloaded", generated(250.0), "316 20 250 |  | 15.8", (250.0,)),
    # Two hours of 20 A at 13.2 V: .317 l/h of a tank of 2 l; 40 Ah went in.
    Says("generator-fuel", generated(900.0, blocks=RUN, soc0=0.2), "2.0 0.6 0.02 | 0.3 58 7 | "),
]


UNSAID = {
    ("ignition-with-cells", "air"): 0.6,
    ("air-missing", "charger"): 10.0,
    ("profile-mismatch", "never above"): 14.8,
    ("alternator-overloaded", "advised"): 30.0,
    ("socket-fuse", "bears for hours"): 8.0,
    ("back-feed", "flows back"): 0.0,
}
"""What stands beside the words only."""


def is_told(value: float, told: list[str]) -> bool:
    """Whether a figure is a value's own, rounded to as many places as it has."""
    return any(
        abs(float(one) - value) <= 0.5 * 10.0 ** -len(one.partition(".")[2]) + 1e-9 for one in told
    )


@pytest.mark.parametrize(
    "row",
    [*BATTERIES, *PLACES, *PROFILES, *SUNS, *USES, *VEHICLES, *GENERATORS],
    ids=lambda row: row.code,
)
def test_the_figures_of_a_judgement_are_those_worked_by_hand(row: Says) -> None:
    """And the numbers beside the words are those of the words."""
    (said,) = every(row.case, row.code)
    sentences = [figures(one) for one in (said.text, said.means, said.remedy)]
    assert sentences == [one.strip() for one in row.figures.split("|")]
    assert tuple(change.value for change in (said.fix.changes if said.fix else ())) == row.sets
    if row.severity is not None:
        assert said.severity == row.severity
    words = " ".join(sentences).split()
    for number in said.numbers:
        unsaid = UNSAID.get((row.code, number.name))
        assert is_told(number.value, words) or number.value == pytest.approx(unsaid), number
