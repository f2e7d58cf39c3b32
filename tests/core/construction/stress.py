"""Boxes that ask more of the building than the samples do."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.flooded import FLOODED
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.loads.converter import Converter
from oddkettle.core.loads.demand import Inverter
from oddkettle.core.simulation.case import Case, SecondBank, Surroundings
from oddkettle.core.sources.alternator import Alternator, Feed
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import Controller
from tests.core.boxes import a_case, lamp
from tests.core.construction.boxes import DCDC, MAINS, ROOF, full_case, strings_of


def two_kilowatts() -> Case:
    """A 2,000 W inverter at 12 V, on two batteries in parallel."""
    bank = Bank(LIFEPO4, 150.0, parallel=2)
    return full_case(bank=bank, inverter=Inverter(2000.0, 18.0, 0.92, surge_w=4000.0))


def trailer() -> Case:
    """Two banks, the second behind 7 m of lead, and a relay."""
    relay = Relay("relay", "Relay", Alternator(), Feed(5.0, 25.0, 2.0))
    second = SecondBank(Bank(AGM, 95.0, parallel=2), 0.9, always=True)
    case = full_case(bank=Bank(AGM, 110.0), second=second, vehicle=(relay,))
    choice = replace(case.wiring.of("second"), run_m=7.0)
    return replace(case, wiring=replace(case.wiring, choices=(choice,)))


def twenty_four() -> Case:
    """24 V with 12 V loads behind a converter."""
    bank = Bank(LIFEPO4, 100.0, series=2, system_v=24.0)
    loads = (
        replace(lamp(36.0, priority="first"), key="pump", name="Water pump"),
        replace(lamp(60.0), key="box", name="Cool box, 40 litres, in the back"),
        replace(lamp(20.0), key="fan", name="Fan", takes_24v=True),
        replace(lamp(15.0), key="phone", name="Phones", supply="usb"),
    )
    mains = replace(MAINS, profile=None)
    return full_case(bank=bank, appliances=loads, converter=Converter(20.0), mains=(mains,))


def six_panels() -> Case:
    """2s3p panels on 12 m of cable."""
    array = replace(strings_of(6, 9.6, series=2), cable_m=12.0, cable_mm2=6.0)
    return full_case(sun=(array,), bank=Bank(LIFEPO4, 200.0))


def tiny() -> Case:
    """A 7 Ah box with one socket."""
    return a_case(bank=Bank(AGM, 7.0), appliances=(lamp(5.0),))


def flooded_van() -> Case:
    """Flooded cells in a van with a bed."""
    return full_case(
        bank=Bank(FLOODED, 105.0, parallel=2),
        surroundings=Surroundings(place="living"),
    )


def crowded() -> Case:
    """More sources and more uses than one sheet holds."""
    loads = tuple(
        replace(lamp(42.0 + n), key=f"lamp{n}", name=f"Lamp number {n}") for n in range(14)
    )
    arrays = tuple(
        replace(ROOF, key=f"roof{n}", name=f"Roof {n}", controller=Controller(10.0, 0.96))
        for n in range(4)
    )
    mains = tuple(replace(MAINS, key=f"mains{n}", name=f"Charger {n}") for n in range(2))
    return full_case(
        bank=Bank(LIFEPO4, 100.0, parallel=6),
        appliances=loads,
        sun=arrays,
        mains=mains,
        vehicle=(DCDC, replace(DCDC, key="dcdc2", name="Second DC-DC")),
    )


STRESS: dict[str, Callable[[], Case]] = {
    f.__name__: f
    for f in (two_kilowatts, trailer, twenty_four, six_panels, tiny, flooded_van, crowded)
}
