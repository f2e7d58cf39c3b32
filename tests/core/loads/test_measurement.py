"""Measuring by counter: closed-form cases by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddkettle.core.loads.bursts import Bursts
from oddkettle.core.loads.demand import Appliance, Window
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.loads.measurement import Reading, measured
from oddkettle.core.messages.errors import PlanError

LAPTOP = Appliance("l", "Laptop", 58.0, "usb", (Window(0, 1440),))
COOL = Appliance("c", "Cool box", 45.0, "12v", (Window(0, 1440),), 0.5, Fridge(4.0, 25.0))
DAY = Reading(before=10.0, after=30.0, counter="Ah", hours=24.0, bus_v=12.8)


def test_amp_hours_over_hours_are_an_average() -> None:
    got = measured(LAPTOP, DAY, 0.88)
    assert got.battery_w == pytest.approx(20 * 12.8 / 24)
    assert got.plug_w == pytest.approx(20 * 12.8 / 24 * 0.88)
    assert (got.power_w, got.duty) == (got.plug_w, 1.0)


def test_watt_hours_need_no_voltage_and_others_are_taken_off() -> None:
    reading = replace(DAY, counter="Wh", after=250.0, others_w=4.0)
    assert measured(LAPTOP, reading, 1.0).battery_w == pytest.approx(240 / 24 - 4)


def test_a_compressor_keeps_its_power_and_gets_its_share() -> None:
    got = measured(COOL, DAY, 1.0)
    assert got.power_w == 45.0
    assert got.duty == pytest.approx(20 * 12.8 / 24 / 45)


def test_a_share_measured_in_the_cool_is_carried_to_the_reference_temperature() -> None:
    warm = measured(COOL, replace(DAY, air_c=25.0), 1.0).duty
    cool = measured(COOL, replace(DAY, air_c=14.5), 1.0).duty
    assert cool == pytest.approx(2 * warm)


def test_more_than_its_running_power_is_a_new_power() -> None:
    reading = replace(DAY, after=130.0)
    got = measured(COOL, reading, 1.0)
    assert (got.power_w, got.duty) == (pytest.approx(120 * 12.8 / 24), 1.0)


def test_an_average_takes_the_place_of_bursts() -> None:
    pump = replace(LAPTOP, pattern=Bursts(6, 2))
    assert measured(pump, DAY, 1.0).steady
    assert not measured(LAPTOP, DAY, 1.0).steady


@pytest.mark.parametrize(
    ("reading", "value"),
    [
        (replace(DAY, after=10.0), 10.0),
        (replace(DAY, hours=0.0), 0.0),
        (replace(DAY, others_w=50.0), 50.0),
    ],
)
def test_readings_that_cannot_be_are_refused(reading: Reading, value: float) -> None:
    with pytest.raises(PlanError) as caught:
        measured(LAPTOP, reading, 1.0)
    assert caught.value.value == value
    assert caught.value.limit
    assert caught.value.remedy
