"""Loads worked by hand: peaks behind converters, and nights that end at midnight."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest

from oddkettle.core.loads.demand import (
    Appliance,
    Inverter,
    Setting,
    Window,
    draw_series,
    window_share,
)
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.alternator import Alternator, Feed
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.panel import Label, Panel
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block, lay_grid, zone_named
from tests.core.boxes import a_case
from tests.core.judgement.test_judgement import judged

GRID = lay_grid(date(2026, 6, 6), 2, zone_named("UTC"), 60)
NONE = np.zeros(GRID.steps)
STILL = Setting(NONE, NONE, np.full(GRID.steps, 20.0))


@pytest.mark.parametrize(
    ("supply", "bus_w"), [("12v", 22.0), ("usb", 22.0 / 0.88), ("inverter", 22.0 / 0.9)]
)
def test_a_converter_takes_its_share_of_the_peak_too(supply: str, bus_w: float) -> None:
    """22 W at the plug: USB passes 88 % [textbook], this inverter 90."""
    phone = Appliance("p", "P", 22.0, supply, (Window(600, 660),), surge_w=44.0)  # type: ignore[arg-type]
    draw = draw_series((phone,), Inverter(300.0, 6.0, 0.9), GRID, STILL, 12.0)[0]
    assert draw.peak_w == pytest.approx(bus_w)
    assert draw.surge_w == pytest.approx(2 * bus_w)
    assert draw.asked_w.max() == pytest.approx(bus_w)


def test_hours_that_end_at_midnight_do_not_reach_into_the_morning() -> None:
    """20 to 24 h on a rest day: four hours of each day, none of them before noon."""
    late = Appliance(
        "l", "L", 10.0, "12v", (Window(1200, 0),), other_days=(("rest", (Window(1200, 0),)),)
    )
    share = window_share(late, GRID, ("rest", "rest")).reshape(2, 24)
    assert share.sum(axis=1) == pytest.approx([4.0, 4.0])
    assert share[:, :12].sum() == 0.0


@pytest.mark.parametrize(("idling", "advised"), [(False, 60.0), (True, 40.0)])
def test_half_of_an_alternator_is_advised_and_a_third_where_it_idles(
    idling: bool, advised: float
) -> None:
    """Of 120 A."""
    charger = DcDc("v", "DC-DC", 100.0, 0.92, Alternator(120.0), Feed(2.0, 50.0))
    drive = Block("drive", 0, 600, 0, 660, idling)
    said = judged(a_case(vehicle=(charger,), blocks=(drive,), soc0=0.3))["alternator-overloaded"]
    assert {number.name: number.value for number in said.numbers}["advised"] == advised


@pytest.mark.parametrize(("half", "said"), [(False, True), (True, False)])
def test_a_charger_set_to_half_asks_half_of_the_alternator(half: bool, said: bool) -> None:
    """50 A out are some 51 A in: over half of 90 A; half of that is not."""
    charger = DcDc("v", "DC-DC", 50.0, 0.92, Alternator(90.0), Feed(2.0, 25.0), half_current=half)
    case = a_case(vehicle=(charger,), blocks=(Block("drive", 0, 600, 0, 660),), soc0=0.3)
    assert ("alternator-overloaded" in judged(case)) is said
    assert float(simulate(case).sources[0].rating_a) == (25.0 if half else 50.0)


@pytest.mark.parametrize(("imp_a", "said"), [(5.7, False), (5.9, True)])
def test_a_label_whose_imp_is_nearly_its_isc_is_questioned(imp_a: float, said: bool) -> None:
    """Imp of real panels is .90 to .96 of Isc: 5.7 of 6.0 is .95, 5.9 is .983."""
    panel = Panel(18.0 * imp_a, "tilted", 30.0, 180.0, False, label=Label(22.0, 18.0, 6.0, imp_a))
    array = SunInput("s", "Sun", (panel,), Controller(20.0, 0.95))
    assert ("isc-is-not-imp" in judged(a_case(sun=(array,), soc0=0.3))) is said
