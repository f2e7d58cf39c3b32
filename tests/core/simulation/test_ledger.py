"""The ledger of small trips, worked out by hand beside the program."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.loads.demand import Appliance, Inverter, Window
from oddkettle.core.simulation.ledger import Ledger, keep_ledger
from oddkettle.core.simulation.run import Run, simulate
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Panel
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block
from tests.core.boxes import LIFEPO4, a_case, changed

BARE = a_case(first_day=date(2026, 6, 6), clearness=(1.0,), soc0=0.6, floor=0.2)


def thing(power_w: float, windows: tuple[Window, ...], duty: float = 1.0) -> Appliance:
    return Appliance("t", "Thing", power_w, "12v", windows, duty)


def booked(**change: object) -> tuple[Run, Ledger]:
    run = simulate(changed(BARE, **change))
    return run, keep_ledger(run)


def test_a_fridge_and_lights_by_the_day() -> None:
    """45 W a third of the day is 360 Wh, 10 W from 20:00 to 23:00 is 30 Wh."""
    fridge = thing(45.0, (Window(0, 0),), 1 / 3)
    lights = replace(thing(10.0, (Window(1200, 1380),)), key="l")
    run, ledger = booked(appliances=(fridge, lights))
    assert ledger.draws[0].used.wh == pytest.approx([360.0])
    assert ledger.draws[1].used.wh == pytest.approx([30.0])
    volts = run.track.bus_v.mean()
    whole = ledger.draws[0].used.ah + ledger.draws[1].used.ah
    assert whole == pytest.approx([390 / volts], rel=0.002)
    assert ledger.stored.ah + ledger.leaked.ah == pytest.approx(-whole)


def test_a_capped_charger_gives_its_rating_for_its_hours() -> None:
    """Two hours of drive at 15 A is 30 Ah; a 92 % converter makes 8.7 % of that heat."""
    drive = (Block("drive", 0, 600, 0, 720),)
    run, ledger = booked(vehicle=(DcDc("v", "DC-DC", 15.0, 0.92),), blocks=drive, soc0=0.3)
    (flow,) = ledger.sources
    assert flow.taken.ah == pytest.approx([30.0])
    assert flow.spilled.ah == pytest.approx([0.0])
    assert flow.conversion_wh == pytest.approx(flow.taken.wh * (1 / 0.92 - 1))
    assert ledger.stored.ah + ledger.leaked.ah == pytest.approx([30 * 0.995])
    assert ledger.coulombic.ah == pytest.approx([30 * 0.005])
    assert run.level[-1] == pytest.approx(0.3 + 0.3 * 0.995, abs=1e-3)


def test_resistance_turns_current_squared_into_heat() -> None:
    """15 A for two hours at 15 C, where cells have 1.5 times their 25 C resistance, is 4.5 Wh."""
    drive = (Block("drive", 0, 600, 0, 720),)
    run, ledger = booked(vehicle=(DcDc("v", "DC-DC", 15.0, 0.92),), blocks=drive, soc0=0.5)
    cold = np.exp(28000 / 8.314 * (1 / 288.15 - 1 / 298.15))
    ohm = 0.0040 * (1 + 0.6 * np.exp(-0.65 / 0.2)) * cold + 0.004
    assert ledger.resistance_wh[0] == pytest.approx(15**2 * ohm * 2, rel=0.05)
    assert run.track.bus_v.max() > 13.2


def test_what_a_full_battery_refuses_is_spilled_not_lost() -> None:
    hooked = (Block("hookup", 0, 0, 0, 1440),)
    _, ledger = booked(mains=(MainsCharger("m", "Mains", 10.0, 0.88),), blocks=hooked, soc0=1.0)
    (flow,) = ledger.sources
    assert flow.offered.ah == pytest.approx([240.0])
    assert flow.spilled.ah + flow.taken.ah == pytest.approx([240.0])
    assert flow.taken.ah[0] < 1.0


def test_a_small_controller_clips_and_says_how_much() -> None:
    """The same panel on 3 A and on 30 A: what the small one lacks is what it calls clipped."""
    panel = Panel(200.0, "flat", 0.0, 180.0, False)
    flows = []
    for amps in (3.0, 30.0):
        array = SunInput("s", "Sun", (panel,), Controller(amps, 1.0))
        _, ledger = booked(bank=Bank(LIFEPO4, 400.0), sun=(array,), soc0=0.5)
        flows.append(ledger.sources[0])
    small, large = flows
    assert large.clipped.ah == pytest.approx([0.0])
    assert small.clipped.ah[0] > 20
    assert small.taken.ah + small.clipped.ah == pytest.approx(large.taken.ah, rel=0.01)


def test_the_sun_goes_first_and_the_hook_up_waits() -> None:
    """Full sun and a charger together above the bank's 0.5 C: the charger gives way."""
    panel = Panel(900.0, "flat", 0.0, 180.0, False)
    _, ledger = booked(
        bank=Bank(LIFEPO4, 60.0),
        sun=(SunInput("s", "Sun", (panel,), Controller(60.0, 1.0)),),
        mains=(MainsCharger("m", "Mains", 30.0, 0.9),),
        blocks=(Block("hookup", 0, 660, 0, 690),),
        soc0=0.1,
    )
    sun, mains = ledger.sources
    assert mains.spilled.ah[0] > 0.9 * mains.offered.ah[0]
    assert sun.taken.ah[0] > mains.taken.ah[0]


def test_what_an_empty_battery_denies_is_counted() -> None:
    """20 W for a day from a tenth of 100 Ah: what is not served is unmet, to the watt-hour."""
    run, ledger = booked(appliances=(thing(20.0, (Window(0, 0),)),), soc0=0.1)
    (flow,) = ledger.draws
    assert flow.used.wh + flow.unmet.wh == pytest.approx([480.0])
    # A little over one point of the ten lies under the cut-off voltage.
    assert flow.used.ah[0] == pytest.approx(8.8, rel=0.05)
    assert run.track.served[-1] == 0.0


def test_two_things_share_a_partly_served_step_by_what_they_ask() -> None:
    things = (thing(90.0, (Window(0, 0),)), replace(thing(30.0, (Window(0, 0),)), key="u"))
    _, ledger = booked(appliances=things, soc0=0.05)
    assert ledger.draws[0].used.wh == pytest.approx(3 * ledger.draws[1].used.wh)


def test_converters_heat_is_part_of_what_appliances_used() -> None:
    usb = replace(thing(8.8, (Window(600, 660),)), supply="usb")
    plugged = replace(thing(9.0, (Window(600, 660),)), key="i", supply="inverter")
    _, ledger = booked(appliances=(usb, plugged), inverter=Inverter(300, 9, 0.9))
    by_usb, by_inverter, idle = ledger.draws
    assert by_usb.used.wh == pytest.approx([10.0])
    assert by_usb.conversion_wh == pytest.approx([1.2])
    assert by_inverter.used.wh == pytest.approx([10.0])
    assert idle.used.wh == pytest.approx([9.0])
    assert idle.conversion_wh == pytest.approx(idle.used.wh)


def test_an_idle_box_only_leaks() -> None:
    _, ledger = booked()
    assert ledger.stored.ah == pytest.approx(-ledger.leaked.ah)
    # 2.5 % a month at 25 C, half of it at 15 C, of 100 Ah.
    assert ledger.leaked.ah == pytest.approx([2.5 / 30.44 / 2], rel=0.01)
    assert ledger.sources == ()
    assert ledger.draws == ()


def test_days_of_unequal_length_are_booked_apart() -> None:
    """Clocks go forward on the 29th: a steady 12 W uses an hour less that day."""
    steady = (thing(12.0, (Window(0, 0),)),)
    _, ledger = booked(appliances=steady, first_day=date(2026, 3, 28), clearness=(1.0, 1.0))
    assert ledger.draws[0].used.wh == pytest.approx([24 * 12, 23 * 12])
