"""Lines of the ledger, each worked anew from the run's own series or from a closed form."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.integrate import quad

from oddkettle.core.battery.bank import Bank, bank_tables
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.temperature import Housing
from oddkettle.core.loads.demand import Appliance, Window
from oddkettle.core.simulation.case import Case, LoadOutput, SecondBank
from oddkettle.core.simulation.ledger import Ledger, _content_wh, keep_ledger, source_parts
from oddkettle.core.simulation.run import Run, simulate
from oddkettle.core.sources.alternator import Alternator, Feed
from oddkettle.core.sources.coupling import Coupling
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Panel
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block
from tests.core.boxes import a_case, lamp

ROOF = Panel(100.0, "flat", 0.0, 180.0, False)
DRIVE = (Block("drive", 0, 600, 0, 720),)
PLUGGED = (Block("hookup", 0, 600, 0, 720),)
MAINS = (MainsCharger("m", "Mains", 5.0, 0.9),)


def booked(case: Case) -> tuple[Run, Ledger]:
    run = simulate(case)
    return run, keep_ledger(run)


def whole(flow: object) -> float:
    return float(flow.ah.sum())  # type: ignore[attr-defined]


def test_energy_in_a_battery_is_the_integral_of_its_rested_voltage() -> None:
    """Between levels on and off the table's knots, by another library's quadrature."""
    tables = bank_tables(Bank(LIFEPO4, 100.0), 1 / 12)
    soc, volts = (np.array(one) for one in zip(*LIFEPO4.ocv, strict=True))
    levels = np.array([0.0, 0.1234, 0.5, 0.87654, 1.0])
    found = np.diff(_content_wh(tables, levels))
    for low, high, wh in zip(levels[:-1], levels[1:], found, strict=True):
        exact = quad(lambda s: np.interp(s, soc, volts), low, high, points=soc[1:-1], limit=200)[0]
        assert wh == pytest.approx(100 * exact, rel=1e-5)


def test_two_hours_of_a_mains_charger() -> None:
    """5 A for two hours; a tenth of what it takes from the wall is heat, and no wire of its own."""
    run, ledger = booked(a_case(mains=MAINS, blocks=PLUGGED, soc0=0.4))
    (flow,) = ledger.sources
    on = run.taken_a[0] > 0.0
    wh = 5 / 12 * run.track.bus_v[on].sum()
    assert whole(flow.offered) == pytest.approx(10.0, rel=1e-6)
    assert whole(flow.taken) == pytest.approx(10.0, rel=1e-6)
    assert flow.taken.wh.sum() == pytest.approx(wh)
    assert flow.offered.wh.sum() == pytest.approx(wh)
    assert flow.conversion_wh.sum() == pytest.approx(wh / 9)
    assert flow.wiring_wh.sum() == 0.0
    for other in (flow.barred, flow.clipped, flow.spilled, flow.frozen):
        assert whole(other) == pytest.approx(0.0, abs=1e-6)


def test_what_silence_keeps_away_is_barred_and_what_a_full_battery_leaves_is_spilled() -> None:
    quiet = (Window(600, 660),)
    noisy = (replace(MAINS[0], noisy=True),)
    _, ledger = booked(a_case(mains=noisy, blocks=PLUGGED, soc0=0.4, quiet=quiet))
    (flow,) = ledger.sources
    assert whole(flow.barred) == pytest.approx(5.0)
    assert whole(flow.taken) == pytest.approx(5.0)
    assert flow.barred.wh.sum() == pytest.approx(5 * 13.0, rel=0.03)
    _, ledger = booked(a_case(mains=MAINS, blocks=PLUGGED, soc0=1.0))
    (flow,) = ledger.sources
    assert whole(flow.offered) == pytest.approx(10.0)
    assert whole(flow.spilled) == pytest.approx(10.0 - whole(flow.taken))
    assert whole(flow.spilled) > 9.9
    assert flow.spilled.wh.sum() == pytest.approx(whole(flow.spilled) * 13.5, rel=0.05)
    assert whole(flow.frozen) == 0.0


def test_what_frost_keeps_out_is_told_by_the_battery_s_own_cells() -> None:
    """At 5 C of frost, though a second bank in the cabin, not joined, is warm."""
    second = SecondBank(Bank(LIFEPO4, 50.0, housing=Housing(offset_k=30.0)), 0.4)
    cold = {"low_c": (-5.0,), "high_c": (-5.0,)}
    case = a_case(mains=MAINS, blocks=PLUGGED, soc0=0.4, second=second, **cold)
    run, ledger = booked(case)
    (flow,) = ledger.sources
    assert whole(flow.frozen) == pytest.approx(whole(flow.spilled))
    assert whole(flow.frozen) == pytest.approx(10.0)
    assert run.track.battery_c[:-1, 0].max() < 0.0


def test_a_charger_s_feed_warms_by_its_current_squared() -> None:
    """14.2 V less I R at the charger's end, and so much power in as it gives by .9."""
    feed = Feed(4.0, 6.0, 4.0)
    part = DcDc("v", "Charger", 20.0, 0.9, Alternator(rated_a=150.0), feed=feed)
    run, ledger = booked(a_case(vehicle=(part,), blocks=DRIVE, soc0=0.3))
    (flow,) = ledger.sources
    on = run.taken_a[0] > 0.0
    bus_w = run.taken_a[0][on] * run.track.bus_v[on]
    volts, ohm = run.sources[0].source_v[on], feed.ohm
    amps = (volts - np.sqrt(volts**2 - 4 * ohm * bus_w / 0.9)) / (2 * ohm)
    assert flow.wiring_wh.sum() == pytest.approx((amps**2 * ohm).sum() / 12)
    assert flow.conversion_wh.sum() == pytest.approx(bus_w.sum() / 12 / 9)


def test_a_relay_offers_what_its_wire_would_carry_and_warms_it() -> None:
    relay = Relay("v", "Relay", Alternator(rated_a=90.0), feed=Feed(4.0, 10.0, 4.0), fuse_a=60.0)
    run, ledger = booked(a_case(vehicle=(relay,), blocks=DRIVE, soc0=0.3))
    (flow,) = ledger.sources
    taken, source = run.taken_a[0], run.sources[0]
    on = taken > 0.0
    assert flow.wiring_wh.sum() == pytest.approx((taken[on] ** 2 * relay.feed.ohm).sum() / 12)
    lift = (source.source_v[on] - run.track.bus_v[on]) / relay.feed.ohm
    offered = source_parts(run, 0).offered[on]
    assert offered == pytest.approx(np.maximum(np.minimum(lift, 60.0), taken[on]), rel=0.01)
    run, ledger = booked(a_case(vehicle=(relay,), blocks=DRIVE, soc0=0.999))
    flow, source = ledger.sources[0], run.sources[0]
    on = source.on > 0.0
    lift = (source.source_v[on] - run.track.bus_v[on]) / relay.feed.ohm
    assert source_parts(run, 0).offered[on] == pytest.approx(np.minimum(lift, 60.0))
    assert whole(flow.spilled) > 5.0
    rest = (flow.taken, flow.spilled, flow.clipped)
    assert whole(flow.offered) == pytest.approx(sum(whole(one) for one in rest))


def test_a_limit_that_two_share_clips_what_passes_it() -> None:
    """10 A of mains and the sun on 11 A: nothing is spilled while the limit is full."""
    array = SunInput("s", "Sun", (ROOF,), Controller(9.0, 1.0))
    mains = (MainsCharger("m", "Mains", 10.0, 0.9),)
    case = a_case(
        sun=(array,),
        mains=mains,
        standby=True,
        soc0=0.1,
        appliances=(lamp(110.0),),
        joining=Coupling("combined", 11.0, ("s", "m")),
    )
    run, ledger = booked(case)
    full = run.taken_a.sum(axis=0) > 11.0 - 1e-6
    for j, flow in enumerate(ledger.sources):
        parts = source_parts(run, j)
        assert parts.clipped[full] == pytest.approx(parts.offered[full] - run.taken_a[j][full])
        assert parts.spilled[full] == pytest.approx(np.zeros(full.sum()), abs=1e-9)
        assert flow.clipped.ah.sum() == pytest.approx(parts.clipped.sum() / 12)
        watts = (parts.clipped * run.track.bus_v).sum()
        assert flow.clipped.wh.sum() == pytest.approx(watts / 12)
    alone = simulate(replace(case, joining=Coupling("combined", 11.0, ("s",))))
    assert source_parts(alone, 1).clipped.sum() == pytest.approx(0.0, abs=1e-6)


def test_under_pwm_the_heat_is_what_the_panel_could_do_at_its_best() -> None:
    array = SunInput("s", "Sun", (ROOF,), Controller(9.0, 0.98, "pwm"))
    run, ledger = booked(a_case(sun=(array,), soc0=0.2))
    (flow,) = ledger.sources
    source, taken = run.sources[0], run.taken_a[0]
    lit = source.could_a > 0.0
    best = source.raw_w[lit] * taken[lit] / source.could_a[lit]
    lost = np.maximum(best - taken[lit] * run.track.bus_v[lit], 0.0)
    assert flow.conversion_wh.sum() == pytest.approx(lost.sum() / 12)
    assert flow.conversion_wh.sum() > 0.1 * flow.taken.wh.sum()


def test_the_cable_of_an_array_warms_by_what_is_taken_of_it() -> None:
    array = SunInput("s", "Sun", (ROOF,), Controller(9.0, 0.96), cable_ohm=0.1)
    run, ledger = booked(a_case(sun=(array,), soc0=0.9))
    source, taken = run.sources[0], run.taken_a[0]
    lit = source.raw_w > 0.0
    share = taken[lit] * run.track.bus_v[lit] / 0.96 / source.raw_w[lit]
    by_hand = (source.wire_w[lit] * np.minimum(share, 1.0)).sum() / 12
    assert ledger.sources[0].wiring_wh.sum() == pytest.approx(by_hand)
    assert by_hand > 0.0


# --- Appliances.


def thing(key: str, watts: float, **more: object) -> Appliance:
    return Appliance(key, key, watts, "12v", (Window(600, 720),), **more)  # type: ignore[arg-type]


def test_each_kind_of_load_uses_by_the_voltage_it_finds() -> None:
    """36 W at 12.8 V: constant, by the volts, or by their square."""
    kinds = ("power", "current", "resistance")
    case = a_case(appliances=tuple(thing(kind, 36.0, draw=kind) for kind in kinds), soc0=0.6)
    run, ledger = booked(case)
    volts = run.track.bus_v[120:144]
    for place, times in enumerate((1.0, volts / 12.8, (volts / 12.8) ** 2)):
        watts = 36.0 * np.broadcast_to(times, 24)
        assert ledger.draws[place].used.wh.sum() == pytest.approx(watts.sum() / 12)
        assert whole(ledger.draws[place].used) == pytest.approx((watts / volts).sum() / 12)
        assert whole(ledger.draws[place].unmet) == pytest.approx(0.0, abs=1e-9)


def test_what_a_converter_keeps_and_what_the_vehicle_carries() -> None:
    """44 W by .88 from USB for two hours, the second of which is driven."""
    plugged = replace(thing("u", 44.0, on_vehicle=True), supply="usb")
    drive = (Block("drive", 0, 660, 0, 720),)
    _, ledger = booked(a_case(appliances=(plugged,), blocks=drive))
    (flow,) = ledger.draws
    assert flow.used.wh.sum() == pytest.approx(50.0)
    assert flow.conversion_wh.sum() == pytest.approx(6.0)
    assert flow.moved.wh.sum() == pytest.approx(50.0)
    assert whole(flow.moved) == pytest.approx(50.0 / 12.8)


def test_what_is_let_go_is_denied_at_nominal_voltage() -> None:
    """A group that goes at 60 % never runs at 50; what hangs on an output that is off, neither."""
    case = a_case(
        appliances=(thing("a", 36.0, priority="first"), thing("b", 12.0)),
        soc0=0.5,
        shed={"first": 0.6},
    )
    _, ledger = booked(case)
    denied, kept = ledger.draws
    assert denied.unmet.wh.sum() == pytest.approx(72.0)
    assert whole(denied.unmet) == pytest.approx(72.0 / 12.8)
    assert whole(denied.used) == 0.0
    assert kept.used.wh.sum() == pytest.approx(24.0)
    output = LoadOutput("s", 10.0, 12.6, 13.5, ("a",))
    lead = a_case(
        bank=Bank(AGM, 100.0),
        appliances=(thing("a", 36.0), thing("b", 12.0)),
        soc0=0.5,
        floor=0.0,
        load_output=output,
    )
    _, ledger = booked(lead)
    denied, kept = ledger.draws
    assert denied.unmet.wh.sum() == pytest.approx(72.0)
    assert kept.used.wh.sum() == pytest.approx(24.0)


def test_a_load_that_the_box_cannot_serve_is_denied_for_the_part_that_is_missing() -> None:
    """10 Ah are left above empty, not all at 10 A, for 20 Ah: used and denied make these."""
    _, ledger = booked(a_case(appliances=(thing("a", 128.0),), soc0=0.1, floor=0.0))
    (flow,) = ledger.draws
    assert flow.used.wh.sum() + flow.unmet.wh.sum() == pytest.approx(256.0)
    assert 5.0 < whole(flow.used) < 10.0
