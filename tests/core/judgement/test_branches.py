"""What a judgement says in its other cases: of two things, on two days, in a unit, of nothing."""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.judgement import Judgement
from oddkettle.core.loads.demand import Appliance, Inverter, Window
from oddkettle.core.simulation.case import Case, Surroundings
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.core.simulation.run_metrics import lowest, starved_steps
from oddkettle.core.sources.alternator import Alternator, Feed
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import Coupling, ReadyMade
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Label
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block
from tests.core.boxes import a_case, lamp
from tests.core.judgement.cases.built import fridge, joined, silent
from tests.core.judgement.test_judgement import driven, heated, mains, sunny
from tests.core.judgement.test_sentences import (
    DULL,
    LEAD,
    ROOF,
    SMALL,
    SMART,
    every,
    figures,
    frost,
    generated,
    on_inverter,
    own_profile,
    profiled,
)

CLOSED = Surroundings(vents=False)


def only(case: Case, code: str) -> Judgement:
    (said,) = every(case, code)
    return said


def two_mains(*amps: float) -> tuple[MainsCharger, ...]:
    return tuple(replace(mains(a)[0], key=f"m{n}", name=f"M{n}") for n, a in enumerate(amps))


# --- Batteries.


def test_chargers_on_one_limit_give_no_more_than_it_and_none_is_set_down() -> None:
    """Twice 40 A on 55 A, and on 45: 50 are allowed."""

    def limited(limit_a: float) -> list[Judgement]:
        joining = Coupling("combined", limit_a, ("m0", "m1"))
        case = a_case(mains=two_mains(40.0, 40.0), standby=True, joining=joining)
        return every(case, "charge-too-hard")

    (said,) = limited(55.0)
    assert figures(said.text) == "55 50"
    assert said.fix is None
    assert not limited(45.0)


def test_panels_charge_by_their_watts_and_not_by_a_large_controller() -> None:
    """200 W at .96 and 12.8 V are 15 A into 20 Ah, which bear 10."""
    panel = replace(ROOF, power_w=200.0)
    array = SunInput("s", "Sun", (panel,), Controller(20.0, 0.96))
    said = only(sunny(array, bank=Bank(LIFEPO4, 20.0)), "charge-too-hard")
    assert figures(said.text) == "15 10"
    assert said.fix is not None
    (change,) = said.fix.changes
    assert change.field == ("controller", "limit_a")


def test_a_relay_charges_by_what_its_wire_lets_through() -> None:
    relay = Relay("v", "Relay", Alternator(rated_a=150.0), feed=Feed(2.0, 25.0, 2.0), fuse_a=100.0)
    case = driven(relay, bank=Bank(LIFEPO4, 60.0), mains=mains(25.0))
    case = replace(case, blocks=(*case.blocks, Block("hookup", 0, 600, 0, 720)))
    said = only(case, "charge-too-hard")
    run = simulate(case)
    by_wire = run.taken_a[[source.key for source in run.sources].index("v")]
    assert by_wire.max() > 6.0
    assert figures(said.text) == f"{by_wire.max() + 25.0:.0f} 30"
    assert said.fix is None


def test_what_frost_keeps_out_is_what_a_weak_supply_would_bring() -> None:
    """30 W by .9 for a day, at what the bus shows."""
    weak = (replace(mains(5.0)[0], supply_w=30.0),)
    case = a_case(mains=weak, standby=True, low_c=(-1.0,), high_c=(-1.0,))
    said = only(case, "cold-charge-lockout")
    kept_out = (27.0 / simulate(case).track.bus_v).sum() / 12
    assert said.numbers[1].value == pytest.approx(kept_out, rel=1e-6)
    assert "heater pads" in said.remedy
    assert "heater pads" not in only(frost(unit=ReadyMade()), "cold-charge-lockout").remedy


@pytest.mark.parametrize(("lag_h", "insulates"), [(4.0, True), (14.0, False)])
def test_a_bank_that_is_insulated_is_not_told_to_be(lag_h: float, insulates: bool) -> None:
    frost = replace(heated(60.0, lag_h), low_c=(-25.0,), high_c=(-25.0,))
    fix = only(frost, "heater-costs").fix
    assert (fix is not None) is insulates
    if fix is not None:
        assert fix.changes[0].value == 12.0


def test_all_that_is_due_at_once_is_added_up() -> None:
    """700 and 650 W."""
    both = (lamp(700.0, 1, 1.1), replace(lamp(650.0, 1, 1.1), key="b"))
    assert figures(only(a_case(appliances=both), "discharge-over-limit").text) == "105 100"


# --- Voltages.


def test_who_holds_a_voltage_is_named_one_by_one_or_together() -> None:
    high = Profile(14.7, 13.5)
    one = only(profiled(LEAD, Profile(15.0, 13.5)), "profile-mismatch")
    assert one.text.startswith("Mains charges at 15 V")
    two = a_case(profile=high, mains=two_mains(5.0, 5.0), standby=True)
    assert only(two, "profile-mismatch").text.startswith("The box's chargers charge at 14.7 V")
    own = only(own_profile(Bank(LIFEPO4, 100.0), high), "profile-mismatch")
    assert own.part == "mains:m"
    stage = replace(high, absorption_v=14.2, equalises=True)
    assert only(profiled(Bank(LIFEPO4, 100.0), stage), "profile-mismatch").text.startswith(
        "Mains has an equalising stage"
    )


@pytest.mark.parametrize(("minutes", "said"), [(25, True), (10, False)])
def test_a_shared_limit_is_spoken_of_from_an_amp_hour_on(minutes: int, said: bool) -> None:
    """At noon the limit keeps some 3.5 A away."""
    hooked = (Block("hookup", 0, 720, 0, 720 + minutes),)
    case = replace(joined(11.0, "s", "m"), standby=False, blocks=hooked, appliances=())
    lost = sum(flow.clipped.ah.sum() for flow in keep_ledger(simulate(case)).sources)
    assert (0.4 < lost < 1.0, 1.0 < lost < 2.0) == (not said, said)
    assert bool(every(case, "shared-limit")) is said


# --- Sun.


def test_what_is_clipped_and_spilled_is_in_the_books() -> None:
    def flows(case: Case) -> tuple[float, float, float]:
        flow = keep_ledger(simulate(case)).sources[0]
        return tuple(float(one.ah.sum()) for one in (flow.offered, flow.clipped, flow.spilled))  # type: ignore[return-value]

    small = sunny(SunInput("s", "Sun", (ROOF,), Controller(3.0, 1.0)), soc0=0.2)
    offered, clipped, _ = flows(small)
    said = only(small, "controller-clips")
    assert figures(said.means).split()[:2] == [f"{clipped:.0f}", f"{offered:.0f}"]
    narrow = SunInput("s", "Sun", (ROOF,), Controller(9.0, 0.96, input_limit_w=40.0))
    said = only(sunny(narrow, soc0=0.2), "controller-clips")
    reach_w = simulate(sunny(narrow, soc0=0.2)).sources[0].could_w.max() / 0.96
    assert figures(said.text) == f"{reach_w:.0f} 40"
    assert figures(said.remedy) == f"{reach_w:.0f}"
    full = sunny(SunInput("s", "Sun", (ROOF,), Controller(9.0, 1.0)), soc0=0.95)
    offered, _, spilled = flows(full)
    assert figures(only(full, "sun-spilled").text) == f"{spilled:.0f} {offered:.0f}"


def out(*from_to_h: float) -> Case:
    """A panel that is put out by hand in these hours and lies stowed in the others."""
    hours = list(zip(from_to_h[::2], from_to_h[1::2], strict=True))
    blocks = tuple(Block("panel_out", 0, int(60 * a), 0, int(60 * b)) for a, b in hours)
    panel = replace(ROOF, portable=True)
    array = SunInput("s", "Sun", (panel,), Controller(9.0, 1.0))
    return sunny(array, soc0=0.1, blocks=blocks)


def test_only_the_hours_in_which_a_panel_could_be_out_are_counted() -> None:
    """Out but for an hour and a half at noon; for half an hour it is not spoken of."""
    said = only(out(0, 12, 13.5, 24), "panel-stowed")
    assert said.numbers[0].value == pytest.approx(1.5)
    assert 3.0 < said.numbers[1].value < 6.0
    assert not every(out(0, 12, 12.5, 24), "panel-stowed")
    # Put away for good at dusk, it is not missed in the dark.
    assert not every(out(0, 21, 21.1, 21.2), "panel-stowed")


@pytest.mark.parametrize(("kind", "said"), [("tracking", True), ("pwm", False)])
def test_only_a_tracking_controller_wants_a_volt_to_spare(kind: str, said: bool) -> None:
    """15 V of Vmp are 13.4 when hot: over 12.8 V, under 13.8."""
    label = Label(18.0, 15.0, 7.2, 6.7)
    panel = replace(ROOF, label=label)
    array = SunInput("s", "Sun", (panel,), Controller(9.0, 1.0, kind))  # type: ignore[arg-type]
    assert bool(every(sunny(array), "array-undervoltage")) is said


def test_what_a_better_controller_gains_is_told_by_the_day() -> None:
    def gains(code: str, *, kind: str = "tracking", regulator: bool = False) -> list[str]:
        panel = replace(ROOF, own_regulator=regulator)
        array = SunInput("s", "Sun", (panel,), Controller(9.0, 1.0, kind))  # type: ignore[arg-type]
        big = Bank(LIFEPO4, 300.0)
        days = (sunny(array, soc0=0.1, bank=big, clearness=(0.98,) * n) for n in (1, 2))
        return [figures(only(case, code).means) for case in days]

    for one, two in (gains("pwm-loss", kind="pwm"), gains("double-regulator", regulator=True)):
        assert float(two) == pytest.approx(float(one), abs=1.0)
        assert float(one) > 5.0


# --- Use.


def test_in_a_ready_made_unit_nothing_is_swapped() -> None:
    case = replace(on_inverter(310.0, SMALL), unit=ReadyMade())
    said = only(case, "inverter-too-small")
    assert said.fix is None
    assert said.remedy.startswith("Leave it at home")
    assert figures(said.remedy) == "350"
    assert only(on_inverter(310.0, SMALL), "inverter-too-small").remedy.startswith("An inverter")


def test_what_waits_is_added_up_over_the_days_and_named() -> None:
    """2 W and 1 W day and night for two days, beside an hour of 20 W each."""
    first = lamp(20.0, 0, 1, standby_w=2.0)
    both = (first, replace(first, key="b", name="Radio", standby_w=1.0))
    said = only(a_case(appliances=both, clearness=DULL * 2), "standby-heavy")
    assert said.text.startswith("Lamp, waiting, Radio, waiting: 144 of")
    inverter = a_case(
        inverter=Inverter(300.0, 9.0, 0.9, always_on=True), appliances=(lamp(20.0, 0, 1),)
    )
    assert not every(inverter, "standby-heavy")


def test_a_drive_over_midnight_is_as_long_as_it_is() -> None:
    over = (Block("drive", 0, 1380, 1, 120),)
    case = replace(fridge(), blocks=over, clearness=DULL * 2)
    assert figures(only(case, "fridge-on-vehicle").text) == "3"
    short = (Block("drive", 0, 1380, 1, 115),)
    assert not every(replace(case, blocks=short), "fridge-on-vehicle")


def test_only_the_adapter_s_own_device_is_fed_from_usb() -> None:
    """Beside a heater on the inverter, which keeps it on all the same: no idling is saved."""
    case = on_inverter(60.0, Inverter(300.0, 8.0, 0.9), adapter=True)
    heater = replace(case.appliances[0], key="h", name="Heater", adapter=False)
    said = only(replace(case, appliances=(heater, *case.appliances)), "usb-through-inverter")
    saved = 4 * (60 / 0.9 - 60 * 0.87 / 0.88) / 12.8
    assert said.numbers[0].value == pytest.approx(saved)
    assert said.part == "appliance:g"


@pytest.mark.parametrize(("spread", "said"), [(0.06, True), (0.05, False)])
def test_a_guess_is_spoken_of_from_two_points_on(spread: float, said: bool) -> None:
    """20 W all day are 37 points: six hundredths of them 2.2, five 1.8; a small load is silent."""
    small = replace(lamp(2.0, spread=0.9), key="s", name="Small")
    case = a_case(appliances=(small, lamp(20.0, spread=spread)))
    found = every(case, "guess-rules")
    assert bool(found) is said
    if said:
        more = replace(case, appliances=(small, lamp(20.0 * (1 + spread))))
        levels = [100 * lowest(simulate(one)).soc for one in (more, case)]
        assert found[0].text == "The biggest load, Lamp, is a guess."
        assert figures(found[0].means) == f"6 {levels[0]:.0f} {levels[1]:.0f}"


def test_what_must_run_goes_dark_or_is_switched_off() -> None:
    breather = lamp(35.0, priority="must")
    dark = only(a_case(appliances=(breather,), soc0=0.5, floor=0.0), "must-run-margin")
    run = simulate(a_case(appliances=(breather,), soc0=0.5, floor=0.0))
    unmet = keep_ledger(run).draws[0].unmet.wh.sum()
    hours = (run.track.served < 1.0).sum() / 12
    assert figures(dark.text) == f"{unmet:.0f} {hours:.0f}"
    off = a_case(appliances=(breather,), soc0=0.8, shed={"must": 0.9})
    said = only(off, "must-run-margin")
    assert said.text.endswith("it is switched off.")
    assert figures(said.text) == "840"


@pytest.mark.parametrize(("minutes", "said"), [(2, True), (1, False)])
def test_silence_is_spoken_of_from_a_tenth_of_an_amp_hour_on(minutes: int, said: bool) -> None:
    assert bool(every(silent(minutes=minutes), "noisy-in-quiet")) is said
    assert not every(silent(joining=Coupling("selector")), "noisy-in-quiet")


# --- The vehicle.


def test_a_relay_that_is_forced_and_a_charger_with_its_wire_follow_a_smart_alternator() -> None:
    assert not every(driven(Relay("v", "R", SMART, forced=True)), "alternator-smart-relay")
    assert not every(driven(Relay("v", "R", Alternator())), "alternator-smart-relay")
    assert not every(driven(DcDc("v", "C", 10.0, 0.9, SMART)), "no-ignition-sense")
    assert not every(driven(DcDc("v", "C", 9.0, 0.9, ignition=False)), "no-ignition-sense")


def test_where_no_cable_is_thick_enough_half_the_current_is_advised() -> None:
    part = DcDc("v", "C", 60.0, 0.92, Alternator(rated_a=150.0), feed=Feed(150.0, 2.5, 0.0))
    said = only(driven(part), "dcdc-starved")
    assert said.remedy == "Use a shorter lead, or half current."
    assert said.fix is not None
    assert [(c.field, c.value) for c in said.fix.changes] == [(("half_current",), True)]
    run = simulate(driven(part))
    starved_h = starved_steps(run, 0).sum() / 12
    clipped = keep_ledger(run).sources[0].clipped.ah.sum()
    assert figures(said.text) == f"{starved_h:.1f} 60"
    assert figures(said.means) == f"{clipped:.0f}"


def test_a_small_alternator_is_no_fault_of_its_cable() -> None:
    part = DcDc("v", "C", 60.0, 0.92, Alternator(rated_a=50.0), feed=Feed(1.0, 50.0, 0.0))
    assert not every(driven(part), "dcdc-starved")


def test_an_alternator_for_nothing_is_to_be_larger() -> None:
    said = only(driven(DcDc("v", "C", 10.0, 0.9, Alternator(rated_a=2.0))), "alternator-overloaded")
    assert said.remedy == "Take a larger alternator."
    assert said.fix is None


@pytest.mark.parametrize("idles", [True, False])
def test_an_alternator_that_also_idles_is_said_to(idles: bool) -> None:
    blocks = (Block("drive", 0, 600, 0, 720, idles),)
    case = replace(driven(DcDc("v", "C", 30.0, 0.9, Alternator(rated_a=40.0))), blocks=blocks)
    assert ("that also idles" in only(case, "alternator-overloaded").text) is idles


def test_a_fuse_for_nothing_wants_a_lead_of_its_own() -> None:
    """1.4 A bear 1.1 A for hours, and the smallest charger draws 1.12; 1.5 A bear it."""
    for fuse_a, left in ((1.0, None), (2.0, 1.0)):
        said = only(driven(DcDc("v", "C", 14.0, 0.9, fuse_a=fuse_a)), "socket-fuse")
        assert (said.fix and said.fix.changes[0].value) == left
        assert said.remedy.startswith("Take a lead" if left is None else "Set it to 1 A")


def test_what_a_forced_relay_lets_back_is_counted() -> None:
    """An alternator that holds 12.5 V beside a full box."""
    relay = Relay("v", "Relay", Alternator(volts=12.5), forced=True)
    case = replace(driven(relay), soc0=0.9)
    said = only(case, "back-feed")
    back = -simulate(case).taken_a.clip(max=0.0).sum() / 12
    assert back > 1.0
    assert figures(said.means) == (f"{back:.0f}" if back >= 10 else f"{back:.1f}")


# --- Where it stands.


@pytest.mark.parametrize("things", [1, 2])
def test_cables_through_bare_holes_are_counted(things: int) -> None:
    lamps = tuple(replace(lamp(20.0), key=f"l{n}", name=f"L{n}") for n in range(things))
    around = Surroundings(metal=True, grommets=False)
    said = only(a_case(appliances=lamps, surroundings=around), "bare-metal-pass")
    count = int(said.numbers[0].value)
    assert said.text == f"{count} cable{'s' if count > 1 else ''} through bare holes in metal."


def test_one_battery_is_like_itself_and_a_bank_apart_is_aired_apart() -> None:
    assert not every(a_case(surroundings=Surroundings(alike=False)), "mixed-bank")
    assert not every(a_case(surroundings=CLOSED), "vent-missing")
    apart = replace(CLOSED, battery_apart=True)
    assert not every(a_case(bank=LEAD, surroundings=apart), "vent-missing")


def test_what_gets_hot_is_named() -> None:
    chargers = a_case(mains=two_mains(9.0, 12.0), surroundings=CLOSED)
    assert "the M1 in it gets hot" in only(chargers, "air-missing").text
    both = replace(chargers, inverter=SMALL)
    assert "the inverter in it gets hot" in only(both, "air-missing").text


@pytest.mark.parametrize(("stands", "words"), [("inside", "inside something"), ("near", "a tent")])
def test_where_a_generator_must_not_stand_is_said(stands: str, words: str) -> None:
    case = generated(900.0)
    one = replace(case.sources[1], stands=stands)  # type: ignore[type-var]
    moved = replace(case, sources=(case.sources[0], one))
    assert words in only(moved, "generator-indoors").text
    assert not every(case, "generator-indoors")


def test_a_charger_that_knows_its_supply_does_not_trip_a_generator() -> None:
    case = generated(250.0)
    told = replace(case.sources[0], supply_w=240.0)  # type: ignore[type-var]
    assert not every(replace(case, sources=(told, case.sources[1])), "generator-overloaded")
    alone = replace(case, sources=case.sources[1:])
    assert every(alone, "generator-feeds-nothing")
    assert not every(case, "generator-feeds-nothing")


def test_hours_of_an_appliance_on_the_inverter_are_the_ones_it_idles_less() -> None:
    """Two things, 18 to 22 and 20 to 24: eighteen hours are free."""
    case = on_inverter(60.0, replace(SMALL, always_on=True))
    late = Appliance("l", "Late", 10.0, "inverter", (Window(20 * 60, 24 * 60),))
    said = only(replace(case, appliances=(*case.appliances, late)), "inverter-idle")
    assert figures(said.text) == "18"
