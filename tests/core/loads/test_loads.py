"""Appliances: what they ask of the bus."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddkettle.core.loads.bursts import Bursts
from oddkettle.core.loads.demand import (
    USB_EFFICIENCY,
    Appliance,
    DrawSeries,
    Inverter,
    Setting,
    Window,
    daily_profile_w,
    draw_series,
    peak_w,
    stack_demand,
)
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.loads.logger import Logger
from oddkettle.core.loads.radio import Radio
from oddkettle.core.trip.grid import lay_grid, zone_named

EVENING = (Window(1200, 1320),)
ALL_DAY = (Window(0, 1440),)
INVERTER = Inverter(rating_w=300, idle_w=9, efficiency=0.9)
GRID = lay_grid(date(2026, 6, 6), 2, zone_named("UTC"), 5)
NONE = np.zeros(GRID.steps)


def thing(supply: str, duty: float = 1.0, **more: object) -> Appliance:
    given = {"windows": EVENING, "power_w": 45.0, **more}
    return Appliance("t", "Thing", supply=supply, duty=duty, **given)  # type: ignore[arg-type]


def drawn(
    *things: Appliance,
    inverter: Inverter | None = INVERTER,
    air_c: float = 20.0,
    driving: np.ndarray = NONE,
    quiet: np.ndarray = NONE,
) -> tuple[DrawSeries, ...]:
    around = Setting(driving, quiet, np.full(GRID.steps, air_c))
    return draw_series(things, inverter, GRID, around, 12.0)


def wh(draw: DrawSeries) -> float:
    """Watt-hours a day at the bus."""
    return float(draw.asked_w.mean() * 24)


@pytest.mark.parametrize(
    ("supply", "a_day"), [("12v", 90.0), ("usb", 90.0 / USB_EFFICIENCY), ("inverter", 100.0)]
)
def test_two_hours_at_45_watts_by_each_supply(supply: str, a_day: float) -> None:
    assert wh(drawn(thing(supply))[0]) == pytest.approx(a_day)


def test_the_inverter_idles_exactly_while_something_hangs_on_it() -> None:
    assert wh(drawn(thing("inverter"))[1]) == pytest.approx(2 * 9)


def test_an_inverter_is_poor_at_small_loads_and_good_at_half_of_its_rating() -> None:
    """AC/peak + no-load: 5 W beside 9 W of idle is 34 %, 150 W is 85 %."""
    for watts, share in ((5.0, 0.3435), (150.0, 0.8539)):
        load, idle = drawn(thing("inverter", power_w=watts))
        assert 2 * watts / (wh(load) + wh(idle)) == pytest.approx(share, abs=0.005)


def test_an_inverter_left_on_idles_all_day_without_any_load() -> None:
    (idle,) = drawn(inverter=Inverter(300, 9, 0.9, always_on=True))
    assert wh(idle) == pytest.approx(9 * 24)


def test_without_inverter_loads_it_draws_nothing() -> None:
    assert len(drawn(thing("12v"))) == 1


def test_duty_halves_the_days_use_but_not_the_peak() -> None:
    whole, half = (drawn(thing("12v", duty), inverter=None) for duty in (1.0, 0.5))
    assert wh(half[0]) == pytest.approx(wh(whole[0]) / 2)
    assert peak_w(half, GRID) == peak_w(whole, GRID) == (45.0, 240)


@pytest.mark.parametrize(
    ("set_c", "air_c", "duty"),
    # By hand: 0.4 at 25 C outside and 4 C inside, 21 K apart; then 19, 17, 32, 30, 28 K.
    [(4, 25, 0.4), (6, 25, 0.3619), (8, 25, 0.3238), (4, 36, 0.6095), (6, 36, 0.5714),
     (8, 36, 0.5333)],
)  # fmt: skip
def test_a_fridge_set_warmer_runs_less(set_c: float, air_c: float, duty: float) -> None:
    """Heat flows in by what the place is warmer than the inside; the duty's anchor stays."""
    found = Fridge(set_c=set_c).duty_at(0.4, np.array([air_c], np.float64))
    assert found[0] == pytest.approx(duty, abs=5e-5)


@given(st.floats(-20, 14), st.floats(0, 10), st.floats(-20, 45), st.floats(0.05, 1.0))
def test_a_warmer_set_point_never_takes_more(
    set_c: float, warmer: float, air_c: float, duty: float
) -> None:
    air = np.array([air_c])
    cold, warm = (Fridge(set_c=at, lid=0.1).duty_at(duty, air)[0] for at in (set_c, set_c + warmer))
    assert warm <= cold


def test_a_fridges_duty_follows_the_air() -> None:
    """Set to 4 C, 40 % at 25 C outside: 19 % at 14 C, nothing at 4 C, all of it in great heat."""
    fridge = Fridge(set_c=4.0, reference_c=25.0)
    air = np.array([25.0, 14.0, 4.0, -10.0, 80.0])
    assert fridge.duty_at(0.4, air) == pytest.approx([0.4, 0.19, 0.0, 0.0, 1.0], abs=0.001)
    assert Fridge(lid=0.1).duty_at(0.4, air[:1])[0] == pytest.approx(0.44)


def test_a_fridge_runs_in_real_blocks_whose_mean_is_its_duty() -> None:
    cool = thing("12v", 0.4, windows=ALL_DAY, pattern=Fridge(cycle_min=40.0))
    (draw,) = drawn(cool, inverter=None, air_c=25.0)
    assert wh(draw) == pytest.approx(45 * 24 * 0.4)
    assert set(np.round(draw.asked_w, 6)) == {0.0, 9.0, 45.0}
    assert draw.peak_w == 45.0


def test_a_radio_by_its_share_of_sending() -> None:
    rig = thing("12v", power_w=180.0, pattern=Radio(receive_w=14.0, transmit=0.2))
    (draw,) = drawn(rig, inverter=None)
    assert wh(draw) == pytest.approx(2 * (0.2 * 180 + 0.8 * 14))
    assert draw.peak_w == 180.0


def test_bursts_are_as_many_minutes_as_they_say() -> None:
    pump = thing("12v", windows=ALL_DAY, pattern=Bursts(times_a_day=10, minutes=3))
    (draw,) = drawn(pump, inverter=None)
    assert wh(draw) == pytest.approx(45 * 10 * 3 / 60, rel=0.01)


def test_a_logger_sleeps_and_wakes() -> None:
    logger = thing("12v", power_w=0.9, windows=ALL_DAY, pattern=Logger(0.06, 288, 12))
    (draw,) = drawn(logger, inverter=None)
    awake = 288 * 12 / 86400
    assert wh(draw) == pytest.approx(24 * (awake * 0.9 + (1 - awake) * 0.06))


def test_standby_is_drawn_outside_the_hours() -> None:
    (draw,) = drawn(thing("12v", standby_w=1.5), inverter=None)
    assert wh(draw) == pytest.approx(90 + 22 * 1.5)


def test_what_moves_to_the_vehicle_is_not_asked_of_the_box() -> None:
    driving = np.where(np.arange(GRID.steps) % 288 < 252, 0.0, 1.0)
    box, moved = (
        drawn(thing("12v", on_vehicle=moves), inverter=None, driving=driving)[0]
        for moves in (False, True)
    )
    assert wh(box) == pytest.approx(90.0)
    assert wh(moved) == pytest.approx(45.0)
    assert moved.moved_w.mean() * 24 == pytest.approx(45.0)


def test_noisy_loads_are_silent_in_quiet_hours_and_others_are_not() -> None:
    quiet = np.where(np.arange(GRID.steps) % 288 < 246, 0.0, 1.0)
    loud, calm = (
        drawn(thing("12v", noisy=noisy), inverter=None, quiet=quiet)[0] for noisy in (True, False)
    )
    assert wh(loud) == pytest.approx(22.5)
    assert wh(calm) == pytest.approx(90.0)


def test_each_kind_of_draw_is_asked_in_its_own_unit_only_on_twelve_volts() -> None:
    for draw, unit, asked in (
        ("power", 0, 45.0),
        ("current", 1, 45 / 12.8),
        ("resistance", 2, 45 / 12.8**2),
    ):
        (series,) = drawn(thing("12v", draw=draw), inverter=None)
        assert series.kind == unit
        assert series.asked.max() == pytest.approx(asked)
    assert drawn(thing("usb", draw="resistance"), inverter=None)[0].kind == 0


def test_what_is_shed_leaves_the_demand_in_its_order() -> None:
    first, wanted, must = (
        drawn(thing("12v", power_w=w, priority=p), inverter=None)[0]
        for w, p in ((10.0, "first"), (20.0, "wanted"), (40.0, "must"))
    )
    asked, below = stack_demand((first, wanted, must), GRID.steps, {"first": 0.5, "wanted": 0.3})
    assert list(below) == [0.5, 0.3]
    assert asked["power_w"][250] == pytest.approx([70.0, 60.0, 40.0])
    alone, _ = stack_demand((first, wanted, must), GRID.steps, {"wanted": 0.3})
    assert alone["power_w"][250] == pytest.approx([70.0, 50.0])


def test_the_daily_profile_is_the_mean_by_the_clock() -> None:
    (draw,) = drawn(thing("12v"), inverter=None)
    profile = daily_profile_w(draw, GRID)
    assert profile[240:264] == pytest.approx(np.full(24, 45.0))
    assert profile.sum() / 12 == pytest.approx(90.0)
