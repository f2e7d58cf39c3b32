"""Appliances: what they ask of the bus."""

from __future__ import annotations

import pytest

from oddkettle.core.loads import (
    USB_EFFICIENCY,
    Appliance,
    Inverter,
    Window,
    daily_draws,
    peak_w,
    watt_hours_a_day,
)

EVENING = (Window(1200, 1320),)
INVERTER = Inverter(rating_w=300, idle_w=9, efficiency=0.9)


def thing(supply: str, duty: float = 1.0) -> Appliance:
    return Appliance("t", "Thing", 45.0, supply, EVENING, duty)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("supply", "wh"), [("12v", 90.0), ("usb", 90.0 / USB_EFFICIENCY), ("inverter", 100.0)]
)
def test_two_hours_at_45_watts_by_each_supply(supply: str, wh: float) -> None:
    assert watt_hours_a_day(daily_draws((thing(supply),), INVERTER, 5)[0]) == pytest.approx(wh)


def test_the_inverter_idles_exactly_while_something_hangs_on_it() -> None:
    draws = daily_draws((thing("inverter"),), INVERTER, 5)
    assert watt_hours_a_day(draws[1]) == pytest.approx(2 * 9 / 0.9)


def test_an_inverter_left_on_idles_all_day_without_any_load() -> None:
    always = Inverter(300, 9, 0.9, always_on=True)
    (idle,) = daily_draws((), always, 5)
    assert watt_hours_a_day(idle) == pytest.approx(240.0)


def test_without_inverter_loads_it_draws_nothing() -> None:
    assert len(daily_draws((thing("12v"),), INVERTER, 5)) == 1


def test_duty_halves_the_days_use_but_not_the_peak() -> None:
    whole, half = (daily_draws((thing("12v", duty),), None, 5) for duty in (1.0, 0.5))
    assert watt_hours_a_day(half[0]) == pytest.approx(watt_hours_a_day(whole[0]) / 2)
    assert peak_w(half) == peak_w(whole) == (45.0, 240)
