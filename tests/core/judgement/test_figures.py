"""The figures that judgements name are right: what they promise is what the changed box does."""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.judgement import Judgement
from oddkettle.core.loads.demand import Appliance, Inverter, Window
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.core.simulation.run_metrics import lowest, starved_steps
from oddkettle.core.sources.alternator import Alternator, Feed
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.panel import Panel
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.units.sold_sizes import CHARGER_A
from oddkettle.text import render
from tests.core.boxes import a_case, bank, lamp
from tests.core.judgement.test_judgement import driven, judged, mains, sunny

ROOF = Panel(100.0, "flat", 0.0, 180.0, False)


def figure(said: Judgement, name: str) -> float:
    return next(number.value for number in said.numbers if number.name == name)


def edit(said: Judgement) -> float:
    """The one number that the button sets."""
    assert said.fix is not None
    (change,) = said.fix.changes
    assert isinstance(change.value, float | int)
    return float(change.value)


def test_the_controller_that_is_named_clips_nothing() -> None:
    def case(limit_a: float) -> Case:
        return sunny(SunInput("s", "Sun", (ROOF,), Controller(limit_a, 1.0)), soc0=0.2)

    said = judged(case(3.0))["controller-clips"]
    ledger = keep_ledger(simulate(case(edit(said))))
    assert ledger.sources[0].clipped.ah.sum() == pytest.approx(0.0, abs=1e-6)
    below = max(size for size in CHARGER_A if size < edit(said))
    smaller = keep_ledger(simulate(case(float(below))))
    assert smaller.sources[0].clipped.ah.sum() > 0.0


def test_the_clipped_charge_is_what_the_bigger_controller_brings() -> None:
    small = sunny(SunInput("s", "Sun", (ROOF,), Controller(3.0, 1.0)), soc0=0.2)
    large = sunny(SunInput("s", "Sun", (ROOF,), Controller(20.0, 1.0)), soc0=0.2)
    lost = figure(judged(small)["controller-clips"], "lost")
    taken = [float(simulate(case).taken_a.sum()) / 12 for case in (small, large)]
    # The same watts make a little less current at the higher voltage of a fuller battery.
    assert taken[1] - taken[0] == pytest.approx(lost, rel=0.02)


def test_the_cable_that_is_named_ends_the_starving() -> None:
    thin = DcDc("v", "DC-DC", 30.0, 0.92, Alternator(rated_a=150.0), feed=Feed(9.0, 2.5, 0.0))
    said = judged(driven(thin))["dcdc-starved"]
    mended = replace(thin, feed=replace(thin.feed, area_mm2=edit(said)))
    run = simulate(driven(mended))
    assert not starved_steps(run, 0).any()
    assert render(said.remedy).endswith(f"{edit(said):g} mm² of copper.")


def size_above(size: float) -> float:
    return float(min(one for one in CHARGER_A if one > size))


def test_the_limit_that_is_named_asks_half_of_the_alternator() -> None:
    charger = DcDc("v", "DC-DC", 60.0, 0.92, Alternator(rated_a=90.0))
    limit = edit(judged(driven(charger))["alternator-overloaded"])
    for amps, said in ((limit, False), (size_above(limit), True)):
        found = judged(driven(replace(charger, limit_a=amps)))
        assert ("alternator-overloaded" in found) is said


def test_the_socket_s_limit_is_what_its_fuse_bears_for_hours() -> None:
    charger = DcDc("v", "Socket", 14.0, 0.9, fuse_a=10.0)
    limit = edit(judged(driven(charger))["socket-fuse"])
    for amps, said in ((limit, False), (size_above(limit), True)):
        assert ("socket-fuse" in judged(driven(replace(charger, limit_a=amps)))) is said


@pytest.mark.parametrize(("output_a", "severity"), [(7.0, None), (8.0, "waste"), (10.0, "fault")])
def test_a_ten_amp_socket_bears_eight_amps_for_hours(output_a: float, severity: str | None) -> None:
    """By hand: I (14.2 - I R) = P / .92, R = 2 x 4 m x .0175 / 10 mm2 + 4 mOhm, 14.2 V out."""
    charger = DcDc("v", "Socket", output_a, 0.92, fuse_a=10.0)
    watts, ohm = output_a * 14.2 / 0.92, 2 * 4 * 0.0175 / 10 + 0.004
    amps = (14.2 - (14.2**2 - 4 * ohm * watts) ** 0.5) / (2 * ohm)
    said = judged(driven(charger)).get("socket-fuse")
    assert (None if said is None else said.severity) == severity
    assert (amps > 10, amps > 8) == (severity == "fault", severity is not None)
    if said is not None:
        assert figure(said, "input") == pytest.approx(amps, rel=0.02)


def test_a_relay_into_a_large_bank_holds_the_alternator_and_into_a_small_one_does_not() -> None:
    """The figure is the relay's own current and the vehicle's loads, over half of the rating."""
    relay = Relay("v", "Relay", Alternator(rated_a=60.0), feed=Feed(2.0, 25.0, 2.0), fuse_a=100.0)
    empty = replace(driven(relay), soc0=0.15)
    said = judged(empty)["alternator-overloaded"]
    assert figure(said, "held for") >= 0.5
    assert figure(said, "passes at most") <= 60.0
    assert "alternator-overloaded" not in judged(replace(driven(relay), soc0=0.99))


@pytest.mark.parametrize(("panel_w", "said"), [(20.0, True), (60.0, True), (120.0, False)])
def test_a_small_panel_on_a_large_controller_is_soft_for_lead(panel_w: float, said: bool) -> None:
    """8 A are wanted for 100 Ah; a panel brings its watts over 12 V, whatever its controller."""
    panel = replace(ROOF, power_w=panel_w, count=1)
    array = SunInput("s", "Sun", (panel,), Controller(20.0, 1.0))
    lead = sunny(array, soc0=0.9, bank=bank(AGM), appliances=(lamp(40.0),))
    assert ("charge-too-soft-lead" in judged(lead)) is said


def test_the_chargers_limit_that_is_named_is_just_allowed() -> None:
    case = a_case(mains=mains(70.0), standby=True)
    said = judged(case)["charge-too-hard"]
    assert edit(said) == pytest.approx(figure(said, "allowed"))


def test_the_battery_that_is_named_stays_above_its_healthy_floor() -> None:
    case = a_case(appliances=(lamp(52.0),), soc0=1.0)
    said = judged(case)["over-deep"]
    bigger = replace(case, bank=replace(case.bank, battery_ah=edit(said)))
    assert "over-deep" not in judged(bigger)


def test_the_guess_moves_the_level_by_what_is_said() -> None:
    case = a_case(appliances=(lamp(20.0, spread=0.25),))
    said = judged(case)["guess-rules"]
    more = replace(case, appliances=(lamp(25.0),))
    moved = lowest(simulate(case)).soc - lowest(simulate(more)).soc
    assert figure(said, "moves the lowest level") == pytest.approx(100 * moved)


def test_two_conversions_cost_the_sum_of_both_and_the_idling() -> None:
    gadget = Appliance("g", "Gadget", 60.0, "inverter", (Window(1080, 1320),), adapter=True)
    case = a_case(inverter=Inverter(300.0, 8.0, 0.9), appliances=(gadget,))
    saved = figure(judged(case)["usb-through-inverter"], "saved")
    through_inverter = (60.0 / 0.9 + 8.0) * 4
    from_usb = 60.0 * 0.87 / 0.88 * 4
    assert saved == pytest.approx((through_inverter - from_usb) / 12.8, rel=1e-6)


def test_an_hour_of_a_stowed_panel_is_worth_what_the_day_gains() -> None:
    stowed = SunInput("s", "Sun", (replace(ROOF, portable=True),), Controller(9.0, 1.0))
    said = judged(sunny(stowed, soc0=0.2))["panel-stowed"]
    out = simulate(sunny(SunInput("s", "Sun", (ROOF,), Controller(9.0, 1.0)), soc0=0.2))
    gain = float(out.taken_a.sum()) / 12
    assert figure(said, "stowed") * figure(said, "worth") == pytest.approx(gain, rel=1e-6)


def test_the_inverter_idles_only_while_nothing_hangs_on_it() -> None:
    def case(*windows: Window) -> Case:
        thing = Appliance("t", "Thing", 50.0, "inverter", windows)
        return a_case(inverter=Inverter(300.0, 9.0, 0.9, always_on=True), appliances=(thing,))

    night = judged(case(Window(20 * 60, 4 * 60)))["inverter-idle"]
    assert figure(night, "lost") == pytest.approx(9.0 * 16 / 12.8)
    assert "inverter-idle" not in judged(case(Window(0, 1440)))
