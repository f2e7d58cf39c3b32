"""Chargers and their feeds, worked out by hand beside the program."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.loads.demand import Window
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import SourceFlow, keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.alternator import Alternator, Feed, engine_series
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import Coupling, ReadyMade, in_order
from oddkettle.core.sources.dcdc import DcDc, feed_power_w, input_current_a
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Label, Panel
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import Controller, Shade, SunInput
from oddkettle.core.trip.grid import Block, lay_grid, zone_named
from oddkettle.core.units.conversion import cable_ohm
from tests.core.boxes import a_case, lamp

DRIVE = Block("drive", 0, 600, 0, 720)
GRID = lay_grid(date(2026, 6, 10), 1, zone_named("UTC"), 5)
ROOF = Panel(100.0, "flat", 0.0, 180.0, False)


def flows(case: Case) -> tuple[SourceFlow, ...]:
    return keep_ledger(simulate(case)).sources


def driven(charger: DcDc | Relay, **more: object) -> SourceFlow:
    case = a_case(vehicle=(charger,), blocks=(DRIVE,), soc0=0.3, **more)
    return flows(case)[0]


def test_a_drop_in_a_feed_cable_by_hand() -> None:
    """5 m of 6 mm2, there and back: 2*5*0.0172/6 = 28.7 mOhm. 30 A out at 13.2 V and 92 % is
    430 W in; V*I = 430 with V = 14.2 - 0.0287 I gives I = 32.4 A, a drop of 0.93 V and 30 W."""
    ohm = cable_ohm(5.0, 6.0)
    assert ohm == pytest.approx(0.0287, abs=1e-4)
    power_in = 30 * 13.2 / 0.92
    (amps,) = input_current_a(np.array([power_in]), np.array([14.2]), ohm)
    assert amps == pytest.approx(32.4, abs=0.1)
    assert (14.2 - amps * ohm) * amps == pytest.approx(power_in)
    flow = driven(DcDc("v", "DC-DC", 30.0, 0.92, feed=Feed(5.0, 6.0, 0.0)))
    assert flow.taken.ah[0] == pytest.approx(60.0, rel=1e-3)
    # The bus stands a little above 13.2 V while it charges.
    assert flow.wiring_wh[0] == pytest.approx(2 * amps**2 * ohm, rel=0.08)


def test_a_feed_that_drops_too_much_starves_the_charger() -> None:
    """9 m of 2.5 mm2 is 124 mOhm: at a cut-out of 11.5 V it passes (14.2-11.5)/0.124 = 21.8 A,
    250 W, of which 92 % come out: 17.3 A at 13.3 V instead of 30 A."""
    charger = DcDc("v", "DC-DC", 30.0, 0.92, feed=Feed(9.0, 2.5, 0.0), cut_out_v=11.5)
    engine = engine_series(GRID, (DRIVE,), charger.alternator, 0.0)
    assert feed_power_w(charger, engine)[125] == pytest.approx(0.92 * 21.8 * 11.5, rel=0.01)
    flow = driven(charger)
    assert flow.taken.ah[0] == pytest.approx(2 * 17.3, rel=0.02)
    assert flow.clipped.ah[0] == pytest.approx(60 - flow.taken.ah[0], rel=1e-3)


def test_an_idling_alternator_has_little_to_spare() -> None:
    """40 % of 90 A less 20 A for the vehicle leaves 16 A of input."""
    charger = DcDc("v", "DC-DC", 30.0, 1.0, feed=Feed(0.1, 95.0, 0.0))
    idling = replace(DRIVE, idling=True)
    taken = flows(a_case(vehicle=(charger,), blocks=(idling,), soc0=0.3))[0].taken.wh[0]
    assert taken == pytest.approx(2 * 16 * 14.2, rel=0.02)


def test_half_current_delay_and_heat_each_take_their_share() -> None:
    whole = DcDc("v", "DC-DC", 20.0, 0.92)
    assert driven(replace(whole, half_current=True)).taken.ah[0] == pytest.approx(20.0, rel=1e-3)
    assert driven(replace(whole, delay_min=30.0)).taken.ah[0] == pytest.approx(30.0, rel=1e-3)
    hot = driven(whole, low_c=(45.0,), high_c=(45.0,))
    # 55 C around it is 10 K over 45 C: 30 % less.
    assert hot.taken.ah[0] == pytest.approx(28.0, rel=1e-3)
    assert hot.clipped.ah[0] == pytest.approx(12.0, rel=1e-2)


def test_a_smart_alternator_stops_a_charger_without_an_ignition_wire() -> None:
    smart = Alternator(smart=True, smart_v=12.5, smart_after_min=30.0)
    with_wire = driven(DcDc("v", "DC-DC", 20.0, 0.92, alternator=smart, ignition=True))
    without = driven(DcDc("v", "DC-DC", 20.0, 0.92, alternator=smart, ignition=False))
    assert with_wire.taken.ah[0] == pytest.approx(40.0, rel=1e-3)
    assert without.taken.ah[0] == pytest.approx(10.0, rel=1e-3)


def test_a_relay_on_a_smart_alternator_opens_when_the_starter_is_full() -> None:
    for smart, hours in ((False, 2.0), (True, 0.5)):
        alternator = Alternator(smart=smart, smart_after_min=30.0)
        run = simulate(
            a_case(vehicle=(Relay("r", "Relay", alternator),), blocks=(DRIVE,), soc0=0.3)
        )
        assert np.count_nonzero(run.taken_a[0] > 0.0) / 12 == pytest.approx(hours, abs=0.1)


def test_a_relay_fills_lead_more_slowly_than_a_charger_of_its_first_current() -> None:
    """A wire tapers from the first minute; a charger holds its current."""
    bank = Bank(AGM, 100.0)
    lead = {"bank": bank, "profile": Profile(14.4, 13.6), "soc0": 0.5}
    relay = Relay("r", "Relay", feed=Feed(10.0, 6.0, 4.0))
    long_drive = (Block("drive", 0, 480, 0, 900),)
    wired = simulate(a_case(vehicle=(relay,), blocks=long_drive, **lead))
    first_a = float(wired.taken_a[0].max())
    charger = DcDc("v", "DC-DC", first_a, 0.92, alternator=Alternator(rated_a=300.0))
    held = simulate(a_case(vehicle=(charger,), blocks=long_drive, **lead))
    assert 8 < first_a < 29
    assert wired.level[-1] < held.level[-1]


def test_pwm_against_tracking_by_hand() -> None:
    """In cold sun a panel of 18 V gives a tracking controller its watts and PWM its amps: the
    gain is about Vmp/Vbattery, 18/13.2 = 1.36, a little more when cells are colder than 25 C."""
    taken = []
    for kind in ("tracking", "pwm"):
        array = SunInput("s", "Sun", (ROOF,), Controller(30.0, 1.0, kind))  # type: ignore[arg-type]
        cold = a_case(sun=(array,), soc0=0.3, low_c=(-5.0,), high_c=(5.0,), bank=Bank(AGM, 200.0))
        taken.append(flows(cold)[0])
    tracking, pwm = taken
    assert 1.3 < tracking.taken.wh[0] / pwm.taken.wh[0] < 1.6
    # What PWM cannot use is heat in the panel, and is told as its controller's loss.
    assert pwm.conversion_wh[0] == pytest.approx(tracking.taken.wh[0] - pwm.taken.wh[0], rel=0.06)


def test_a_panel_of_too_few_volts_does_not_charge() -> None:
    """Vmp 9 V on a 12 V box: nothing through either controller; two in series do."""
    small = replace(ROOF, count=2, power_w=50.0, label=Label(11.0, 9.0, 6.0, 5.56))
    for kind in ("tracking", "pwm"):
        array = SunInput("s", "Sun", (small,), Controller(30.0, 0.96, kind))  # type: ignore[arg-type]
        beside = flows(a_case(sun=(array,)))[0].taken.ah[0]
        in_series = flows(a_case(sun=(replace(array, series=2),)))[0].taken.ah[0]
        assert beside == 0.0
        assert in_series > 10.0


def test_series_and_parallel_give_a_tracking_controller_the_same() -> None:
    two = replace(ROOF, count=2)
    array = SunInput("s", "Sun", (two,), Controller(30.0, 0.96))
    parallel, series = (flows(a_case(sun=(replace(array, series=n),)))[0] for n in (1, 2))
    assert series.taken.ah == pytest.approx(parallel.taken.ah, rel=1e-6)


def test_a_thick_cable_or_a_string_of_two_loses_a_quarter_as_much() -> None:
    two = replace(ROOF, count=2)
    array = SunInput("s", "Sun", (two,), Controller(30.0, 1.0), cable_ohm=0.1)
    parallel, series = (flows(a_case(sun=(replace(array, series=n),)))[0] for n in (1, 2))
    assert series.wiring_wh[0] == pytest.approx(parallel.wiring_wh[0] / 4, rel=0.05)


def test_a_weak_panel_in_a_string_holds_the_others_to_its_current() -> None:
    north = replace(ROOF, mount="tilted", tilt_deg=60.0, azimuth_deg=0.0)
    south = replace(ROOF, mount="tilted", tilt_deg=60.0, azimuth_deg=180.0)
    array = SunInput("s", "Sun", (north, south), Controller(30.0, 1.0))
    parallel, series = (flows(a_case(sun=(replace(array, series=n),)))[0] for n in (1, 2))
    assert series.offered.wh[0] < 0.85 * parallel.offered.wh[0]


def test_a_panel_turned_to_the_sun_gives_more_the_oftener_it_is_turned() -> None:
    fixed = replace(ROOF, mount="tilted", tilt_deg=40.0)
    taken = [
        flows(a_case(sun=(SunInput("s", "Sun", (panel,), Controller(30.0, 1.0)),), soc0=0.2))[
            0
        ].offered.wh[0]
        for panel in (fixed, *(replace(fixed, mount="aimed", aims=n) for n in (1, 3, 8)))
    ]
    assert taken[1] < taken[2] < taken[3]
    assert 1.15 < taken[2] / taken[0] < 1.8


def test_shade_by_hours_takes_its_share_then_and_nothing_else() -> None:
    array = SunInput("s", "Sun", (ROOF,), Controller(30.0, 1.0))
    shady = replace(array, shade=(Shade(480, 720, 0.5),))
    raw, dim = (simulate(a_case(sun=(a,))).sources[0].raw_w for a in (array, shady))
    assert dim[96:144] == pytest.approx(0.5 * raw[96:144])
    assert dim[:96] == pytest.approx(raw[:96])


def test_dirt_takes_its_share_of_the_light() -> None:
    array = SunInput("s", "Sun", (ROOF,), Controller(30.0, 1.0))
    usual, dusty = (
        simulate(a_case(sun=(a,))).sources[0].raw_w for a in (array, replace(array, dirt=0.10))
    )
    assert dusty == pytest.approx(usual * 0.90 / 0.97)


def test_a_controllers_input_limits_hold() -> None:
    array = SunInput("s", "Sun", (replace(ROOF, count=3),), Controller(30.0, 1.0))
    by_watts = replace(array, controller=replace(array.controller, input_limit_w=60.0))
    assert simulate(a_case(sun=(by_watts,))).sources[0].raw_w.max() == pytest.approx(60.0)
    by_volts = replace(array, series=3, controller=replace(array.controller, input_limit_v=50.0))
    assert flows(a_case(sun=(by_volts,)))[0].taken.ah[0] == 0.0


def test_cold_voc_and_hot_vmp_by_hand() -> None:
    """1.03 * 22 V * (1 + 0.0029 * 35) = 25.0 V at -10 C; nights of -10 have been 18 K colder."""
    labelled = replace(ROOF, label=Label(22.0, 18.0, 6.0, 5.56))
    array = SunInput("s", "Sun", (labelled,), Controller(30.0, 1.0))
    cold = a_case(sun=(array,), low_c=(-10.0,), high_c=(-10.0,))
    volts = simulate(replace(cold, record_low_c=-10.0)).sources[0].volts
    assert volts is not None
    assert volts.cold_voc_v == pytest.approx(1.03 * 24.23, abs=0.05)
    usual = simulate(cold).sources[0].volts
    assert usual is not None
    assert usual.cold_voc_v == pytest.approx(1.03 * 22 * (1 + 0.0029 * 53), abs=0.05)
    assert volts.hot_vmp_v < 20.5


def test_a_tilted_panel_is_stowed_while_driving_and_a_roof_panel_is_not() -> None:
    for mount, works in (("flat", True), ("tilted", False)):
        panel = replace(ROOF, mount=mount)
        array = SunInput("s", "Sun", (panel,), Controller(30.0, 1.0))
        raw = simulate(a_case(sun=(array,), blocks=(DRIVE,))).sources[0].raw_w
        assert (raw[125] > 0.0) == works


def test_the_mains_supply_limits_its_charger() -> None:
    """200 W at 88 % is 176 W: 13.2 A at 13.3 V of a 30 A charger."""
    charger = MainsCharger("m", "Mains", 30.0, 0.88, supply_w=200.0)
    hooked = (Block("hookup", 0, 0, 0, 60),)
    flow = flows(a_case(mains=(charger,), blocks=hooked, soc0=0.3))[0]
    assert flow.taken.wh[0] == pytest.approx(176.0, rel=1e-3)


def test_mains_for_half_a_step_brings_half_of_what_its_supply_gives() -> None:
    """Hooked up for three minutes of a step of ten: 0.3 x 200 W x 0.88."""
    charger = MainsCharger("m", "Mains", 30.0, 0.88, supply_w=200.0)
    series = simulate(
        a_case(mains=(charger,), blocks=(Block("hookup", 0, 60, 0, 63),), soc0=0.3, step_min=10)
    ).sources[0]
    assert series.offer_w[6] == pytest.approx(0.3 * 176.0)
    assert series.offer_w[5] == series.offer_w[7] == 0.0


def test_standing_by_the_mains_is_there_but_for_outages() -> None:
    case = a_case(
        mains=(MainsCharger("m", "Mains", 10.0, 0.88),),
        appliances=(lamp(24.0),),
        standby=True,
        soc0=0.95,
        blocks=(Block("outage", 0, 600, 0, 900),),
    )
    run = simulate(case)
    out = slice(120, 180)
    assert np.all(run.taken_a[0][out] == 0.0)
    assert np.all(run.taken_a[0][:6] > 0.0)
    assert run.level[180] < run.level[120] - 0.05


def test_quiet_hours_silence_a_noisy_charger_and_count_what_it_costs() -> None:
    charger = MainsCharger("m", "Mains", 10.0, 0.88, noisy=True)
    case = a_case(mains=(charger,), standby=True, soc0=0.1, quiet=(Window(0, 120),))
    run = simulate(case)
    assert np.all(run.taken_a[0][:24] == 0.0)
    assert run.taken_a[0][30] == pytest.approx(10.0)
    assert keep_ledger(run).sources[0].barred.ah[0] == pytest.approx(20.0)


def test_a_combined_charger_gives_no_more_than_its_one_limit() -> None:
    array = SunInput("s", "Sun", (replace(ROOF, power_w=400.0),), Controller(30.0, 1.0))
    charger = DcDc("v", "DC-DC", 20.0, 0.92)
    apart = a_case(sun=(array,), vehicle=(charger,), blocks=(DRIVE,), soc0=0.1)
    joined = replace(apart, joining=Coupling("combined", 20.0, ("s", "v")))
    run = simulate(joined)
    assert run.taken_a.sum(axis=0).max() == pytest.approx(20.0)
    sun, vehicle = keep_ledger(run).sources
    # Sun first: the alternator's input is what waits, and its loss is called clipped.
    assert vehicle.clipped.ah[0] > 10.0
    assert sun.clipped.ah[0] == pytest.approx(0.0, abs=1e-6)
    other_way = simulate(replace(joined, order=("v", "s")))
    assert keep_ledger(other_way).sources[0].clipped.ah[0] == pytest.approx(0.0, abs=1e-6)


def test_a_selector_lets_one_source_in_at_a_time() -> None:
    array = SunInput("s", "Sun", (ROOF,), Controller(30.0, 1.0))
    charger = DcDc("v", "DC-DC", 20.0, 0.92)
    case = a_case(
        sun=(array,),
        vehicle=(charger,),
        blocks=(DRIVE,),
        soc0=0.1,
        joining=Coupling("selector"),
    )
    run = simulate(case)
    assert np.count_nonzero(run.taken_a > 0.0, axis=0).max() == 1
    assert keep_ledger(run).sources[0].barred.ah[0] > 1.0
    in_turn = simulate(replace(case, joining=Coupling("selector", rule="in_order")))
    assert np.all(in_turn.taken_a[1] == 0.0)


def test_a_ready_made_unit_bounds_its_inputs_and_takes_its_share() -> None:
    array = SunInput("s", "Sun", (replace(ROOF, power_w=300.0),), Controller(30.0, 1.0))
    case = a_case(
        sun=(array,),
        unit=ReadyMade(input_w=128.0, dc_efficiency=0.8, standby_w=5.0),
        soc0=0.3,
        appliances=(lamp(8.0),),
    )
    run = simulate(case)
    assert run.taken_a[0].max() == pytest.approx(10.0)
    lamp_flow, unit_flow = keep_ledger(run).draws
    assert lamp_flow.used.wh[0] == pytest.approx(8 * 24 / 0.8)
    assert unit_flow.used.wh[0] == pytest.approx(120.0)


def test_a_unit_that_is_not_charged_in_use_waits_for_rest() -> None:
    charger = MainsCharger("m", "Mains", 10.0, 0.9)
    case = a_case(
        mains=(charger,),
        standby=True,
        soc0=0.3,
        unit=ReadyMade(charge_in_use=False),
        appliances=(lamp(40.0, 6, 12),),
    )
    taken = simulate(case).taken_a[0]
    assert np.all(taken[72:144] == 0.0)
    assert taken[150] > 0.0


def test_what_the_user_does_not_order_keeps_its_place_at_the_end() -> None:
    assert in_order(("a", "b", "c"), ("c",)) == [2, 0, 1]
    assert in_order(("a", "b"), ("x", "b", "a")) == [1, 0]
