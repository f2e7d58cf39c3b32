"""What appliances ask of the bus, worked by hand: converters, hours over midnight, absence."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from oddkettle.core.loads.converter import Converter, size_for
from oddkettle.core.loads.demand import (
    CONVERTER_KEY,
    DAY_KINDS,
    INVERTER_KEY,
    Appliance,
    DrawSeries,
    Inverter,
    Setting,
    Window,
    by_the_clock,
    draw_series,
    hours_share,
    is_stepped_down,
    peak_w,
    share_there,
    shed_levels,
    stack_demand,
    supply_efficiency,
    window_share,
)
from oddkettle.core.trip.grid import lay_grid, zone_named

GRID = lay_grid(date(2026, 6, 6), 3, zone_named("UTC"), 60)
BEGIN_S = int(GRID.starts_utc[0].astype(np.int64))
NONE = np.zeros(GRID.steps)
NOON = (Window(720, 840),)
INVERTER = Inverter(rating_w=300.0, idle_w=9.0, efficiency=0.9)


def thing(supply: str = "12v", watts: float = 48.0, **more: object) -> Appliance:
    given = {"windows": NOON, **more}
    return Appliance("t", "Thing", watts, supply, **given)  # type: ignore[arg-type]


def around(**more: object) -> Setting:
    return Setting(NONE, NONE, np.full(GRID.steps, 20.0), **more)  # type: ignore[arg-type]


def by_key(
    *things: Appliance,
    inverter: Inverter | None = None,
    system_v: float = 12.0,
    converter: Converter | None = None,
    setting: Setting | None = None,
    **unit: float,
) -> dict[str, DrawSeries]:
    draws = draw_series(things, inverter, GRID, setting or around(), system_v, converter, **unit)
    return {draw.key: draw for draw in draws}


def hours(*windows: tuple[int, int]) -> list[float]:
    return hours_share(tuple(Window(*window) for window in windows), 60).tolist()


# --- When.


def test_hours_open_by_the_share_of_a_step_and_never_more_than_whole() -> None:
    assert hours((90, 150)) == [0.0, 0.5, 0.5] + [0.0] * 21
    assert hours((60, 120), (60, 180)) == [0.0, 1.0, 1.0] + [0.0] * 21
    # Over midnight on one clock: 23:00 to 01:30.
    assert hours((1380, 90)) == [1.0, 0.5] + [0.0] * 21 + [1.0]


def opened(appliance: Appliance, *kinds: str) -> list[int]:
    """Hours of each day in which it is open."""
    share = window_share(appliance, GRID, kinds)  # type: ignore[arg-type]
    return [[h for h in range(24) if share[24 * d + h]] for d in range(3)]  # type: ignore[misc]


@pytest.mark.parametrize(
    ("windows", "on_rest", "after_rest"),
    [
        # Two hours of the evening and two after midnight, which belong to the day before.
        ((1320, 120), [22, 23], [0, 1, 12, 13]),
        ((1320, 0), [22, 23], [12, 13]),
        ((0, 1440), list(range(24)), [12, 13]),
        ((300, 300), list(range(24)), [12, 13]),
        ((360, 420), [6], [12, 13]),
        ((1260, 1440), [21, 22, 23], [12, 13]),
        ((0, 120), [0, 1], [12, 13]),
    ],
)
def test_what_begins_on_another_kind_of_day_goes_on_over_its_midnight(
    windows: tuple[int, int], on_rest: list[int], after_rest: list[int]
) -> None:
    resting = thing(other_days=(("rest", (Window(*windows),)),))
    assert opened(resting, "site", "rest", "site") == [[12, 13], on_rest, after_rest]
    assert opened(resting, "site", "site", "drive") == [[12, 13]] * 3


def test_before_the_first_day_lies_one_like_it() -> None:
    late = thing(other_days=(("drive", (Window(1380, 60),)),))
    assert opened(late, "drive", "site", "site") == [[0, 23], [0, 12, 13], [12, 13]]
    assert DAY_KINDS == ("site", "drive", "rest")


def test_nothing_runs_while_one_is_away() -> None:
    """From noon of the first day for a day and a half."""
    away = ((BEGIN_S + 43_200, BEGIN_S + 43_200 + 129_600),)
    there = share_there(GRID, away)
    assert there.tolist() == [1.0] * 12 + [0.0] * 36 + [1.0] * 24
    half = ((BEGIN_S, BEGIN_S + 1800),)
    assert share_there(GRID, half)[0] == pytest.approx(0.5)
    found = by_key(
        thing(standby_w=2.0), inverter=replace(INVERTER, always_on=True), setting=around(away=away)
    )
    assert found["t"].asked_w.sum() == pytest.approx(48 * 2 + 2 * 34)
    assert found[INVERTER_KEY].asked_w.sum() == pytest.approx(9 * 36)
    # Two of three noons are missed: by the clock one is there, and its mean is whole.
    assert by_the_clock(found["t"].asked_w, GRID, away)[12] == pytest.approx(48.0)
    assert by_the_clock(found["t"].asked_w, GRID)[12] == pytest.approx(16.0)


# --- How much.


def test_converters_on_the_way_take_their_share() -> None:
    assert supply_efficiency("12v", None) == 1.0
    assert supply_efficiency("usb", None) == pytest.approx(0.88)
    assert supply_efficiency("inverter", INVERTER) == pytest.approx(0.9)
    assert supply_efficiency("inverter", None) == 1.0
    assert supply_efficiency("inverter", INVERTER, 0.95, 0.8) == pytest.approx(0.72)
    assert supply_efficiency("12v", INVERTER, 0.95, 0.8) == pytest.approx(0.76)
    assert supply_efficiency("usb", INVERTER, 0.95, 0.8) == pytest.approx(0.76 * 0.88)


def test_an_inverter_s_idling_is_drawn_before_what_its_unit_loses() -> None:
    """48 W by .9 and .8 at noon for two hours, and 9 W by .8 beside it."""
    found = by_key(thing("inverter"), inverter=INVERTER, usable=0.8)
    assert found["t"].asked_w[12] == pytest.approx(48 / 0.72)
    assert found["t"].peak_w == pytest.approx(48 / 0.72)
    assert found[INVERTER_KEY].asked_w[12:15] == pytest.approx([11.25, 11.25, 0.0])
    assert found[INVERTER_KEY].peak_w == pytest.approx(11.25)
    assert (found[INVERTER_KEY].plug_share, found[INVERTER_KEY].priority) == (0.0, "must")


STEP_DOWN = Converter(10.0)


@pytest.mark.parametrize(
    ("appliance", "system_v", "stepped"),
    [
        (thing(), 24.0, True),
        (thing(takes_24v=True), 24.0, False),
        (thing("usb"), 24.0, False),
        (thing("inverter"), 24.0, False),
        (thing(), 12.0, False),
    ],
)
def test_only_what_is_made_for_12_v_runs_behind_the_converter_of_a_24_v_box(
    appliance: Appliance, system_v: float, stepped: bool
) -> None:
    assert is_stepped_down(appliance, STEP_DOWN, system_v) is stepped
    assert not is_stepped_down(appliance, None, system_v)


def test_behind_a_converter_a_heater_is_constant_power_and_its_idling_goes_on() -> None:
    """48 W by .92, and .6 W day and night; a 12 V box has no use for one."""
    found = by_key(thing(draw="resistance"), system_v=24.0, converter=STEP_DOWN)
    assert (found["t"].kind, found["t"].asked[12]) == (0, pytest.approx(48 / 0.92))
    assert found[CONVERTER_KEY].asked_w == pytest.approx(np.full(72, 0.6))
    assert CONVERTER_KEY not in by_key(thing(), converter=STEP_DOWN)
    quiet = replace(STEP_DOWN, idle_w=0.0)
    assert CONVERTER_KEY not in by_key(thing(), system_v=24.0, converter=quiet)


def test_a_heater_on_24_v_itself_draws_by_those_volts() -> None:
    """Its rated watts at 25.6 V."""
    hot = by_key(thing(draw="resistance", takes_24v=True), system_v=24.0)["t"]
    pull = by_key(thing(draw="current", takes_24v=True), system_v=24.0)["t"]
    assert (hot.kind, hot.asked[12]) == (2, pytest.approx(48 / 25.6**2))
    assert (pull.kind, pull.asked[12]) == (1, pytest.approx(48 / 25.6))


@pytest.mark.parametrize(("amps", "size"), [(4.0, 5.0), (4.1, 10.0), (48.0, 60.0), (48.1, None)])
def test_a_converter_has_a_quarter_to_spare(amps: float, size: float | None) -> None:
    assert size_for(amps) == size


def test_a_draw_that_is_larger_is_larger_in_everything() -> None:
    one = by_key(thing("inverter", surge_w=90.0), inverter=INVERTER)["t"]
    more = one.times(1.5)
    for field in ("asked", "asked_w", "moved_w"):
        assert getattr(more, field) == pytest.approx(1.5 * getattr(one, field))
    assert (more.peak_w, more.surge_w) == pytest.approx((80.0, 150.0))
    assert one.times(1.0) is one


# --- Together.


def three(output: tuple[str, ...] = ()) -> tuple[DrawSeries, ...]:
    return tuple(
        by_key(replace(thing(watts=w, priority=p), key=p), setting=around(output=output))[p]
        for w, p in ((10.0, "first"), (20.0, "wanted"), (40.0, "must"))
    )


def test_with_a_load_output_every_level_stands_twice() -> None:
    asked, below = stack_demand(three(("wanted",)), 72, {"first": 0.5, "wanted": 0.3}, twice=True)
    assert below.tolist() == [0.5, 0.3]
    assert asked["power_w"][12].tolist() == [70.0, 60.0, 40.0, 50.0, 40.0, 40.0]
    assert asked["power_w"][11].tolist() == [0.0] * 6


def test_how_many_groups_must_be_off_before_a_thing_is() -> None:
    first, wanted, must = three()
    shed = {"first": 0.5, "wanted": 0.3}
    assert [shed_levels(draw, shed) for draw in (first, wanted, must)] == [1.0, 2.0, np.inf]  # type: ignore[arg-type]
    assert shed_levels(wanted, {"wanted": 0.3}) == 1.0


def test_the_largest_load_is_when_all_that_is_due_runs_at_once() -> None:
    noon = by_key(thing(duty=0.5))["t"]
    long = by_key(replace(thing(watts=30.0, windows=(Window(780, 900),)), key="l"))["l"]
    assert peak_w((noon, long), GRID) == (78.0, 13)
    assert peak_w((), GRID) == (0.0, 0)
    rare = by_key(thing(watts=90.0, duty=0.01))["t"]
    assert peak_w((rare,), GRID) == (90.0, 12)
