"""What is laid inside the ensemble's loop, uncompiled and by hand: air, sun, demand, banks."""

from __future__ import annotations

from collections.abc import Callable
from types import SimpleNamespace
from typing import Any

import numpy as np
import pytest

from oddkettle.core.kernel import ensemble
from oddkettle.core.kernel.constants import LEVEL_STEP, LEVELS
from oddkettle.core.kernel.records import (
    ASK,
    ASK_A,
    ASK_S,
    ASK_W,
    BANK,
    CHARGER,
    COUNTED,
    OFFER,
    STEP,
    TAKEN,
)
from tests.core.kernel.plain_kernel import several

CLEAR = np.linspace(0.0, 1.65, LEVELS + 1)
"""Clearness of each column of an array's table."""


def part(name: str) -> Callable[..., Any]:
    found = getattr(ensemble, name)
    return getattr(found, "py_func", found)  # type: ignore[no-any-return]


def test_the_air_of_a_scenario_goes_between_its_own_days_lows_and_highs() -> None:
    box = SimpleNamespace(
        low_day=np.array([0, 0, 1]), high_day=np.array([0, 0, 0]), air_part=np.array([0.0, 0.5, 1])
    )
    drawn = SimpleNamespace(
        low_c=np.array([[9.0, 9.0], [2.0, 4.0]]), high_c=np.array([[9.0, 9.0], [12.0, 20.0]])
    )
    air = np.full(3, -99.0)
    part("lay_air")(1, 0, 3, box, drawn, air)
    assert air == pytest.approx([2.0, 7.0, 12.0])
    air[:] = -99.0
    part("lay_air")(1, 1, 2, box, drawn, air)
    assert air.tolist() == [-99.0, 7.0, -99.0]


def sky(**more: Any) -> SimpleNamespace:
    """Two scenarios; the second has a clearness of .6, a shape of its own and 9 % less sun."""
    given: dict[str, Any] = {
        "clearness": np.array([[0.3, 0.3], [0.6, 0.9]]),
        "shape": np.array([[0, 0], [1, 0]]),
        "slow_sd": np.where(np.arange(150) == 60, 0.1, 0.0),
        "quick_sd": np.where(np.arange(150) == 60, 0.2, 0.0),
        "slow": np.array([[0.0, 0.0], [1.0, -1.0]]),
        "quick": np.array([[0.0, 0.0], [-0.25, 0.5]]),
        "sun": np.array([1.0, 0.91]),
    }
    return SimpleNamespace(**(given | more))


def lit(**more: Any) -> SimpleNamespace:
    """Four steps, three of them with light; arrays in rows 2 (by watts) and 0 (by amps)."""
    table = np.stack([np.tile(100 * CLEAR, (4, 1)), np.tile(10 * CLEAR, (4, 1))])
    given: dict[str, Any] = {
        "sun_rows": np.array([2, 0]),
        "sun_table": table,
        "sun_open": np.array([[1.0, 1.0, 0.5, 1.0], [1.0, 1.0, 1.0, 0.5]]),
        "sun_by_amps": np.array([0, 1]),
        "sun_rating": np.array([7.0, 5.0]),
        "sun_per_k": np.array([-0.004, 0.0]),
        "lit_steps": np.array([1, 2, 3]),
        "sky_day": np.array([0, 0, 0, 1]),
        "slot": np.array([0, 0, 1, 1]),
        "air_c": np.full(4, 20.0),
        "selector": np.zeros(0, np.int64),
        "offers": several(OFFER, {}, {}, {})[None].repeat(4, 0),
        "nominal_v": 12.5,
        "chargers": several(CHARGER, {}, {}, {}),
        "day_starts": np.array([0, 3, 4]),
    }
    return SimpleNamespace(**(given | more))


def test_each_array_offers_by_its_clearness_its_air_and_the_scenario_s_luck() -> None:
    """Step 1: .6 + .1 - .05 = .65; step 2: .6 - .1 + .1 = .6; step 3 another day, .9 even."""
    offers = lit().offers.copy()
    offers["power_w"], offers["limit_a"] = -1.0, -1.0
    air = np.array([20.0, 30.0, 20.0, 20.0])
    part("lay_sun")(1, 0, 4, lit(), sky(), air, offers)
    watts = [65 * 0.91 * 0.96, 60 * 0.91 * 0.5, 90 * 0.91]
    assert offers["power_w"][1:, 2] == pytest.approx(watts)
    assert offers["limit_a"][1:, 2] == pytest.approx([7.0, 3.5, 7.0])
    assert offers["limit_a"][1:, 0] == pytest.approx([5.0, 5.0, 2.5])
    # What is dark, and the source that is no array, are left as they were.
    assert offers["limit_a"][0].tolist() == [-1.0] * 3
    assert offers["limit_a"][:, 1].tolist() == [-1.0] * 4
    dim = sky(sun=np.array([1.0, 0.5]))
    part("lay_sun")(1, 0, 4, lit(), dim, np.full(4, 20.0), offers)
    assert offers["limit_a"][1:, 0] == pytest.approx([3.25, 3.0, 0.5 * 4.5])


def test_only_the_steps_of_a_stretch_are_laid() -> None:
    offers = lit().offers.copy()
    offers["limit_a"] = -1.0
    part("lay_sun")(1, 2, 3, lit(), sky(), np.full(4, 20.0), offers)
    assert offers["limit_a"][:, 2].tolist() == [-1.0, -1.0, 3.5, -1.0]


@pytest.mark.parametrize(("clearness", "at"), [(5.0, 1.55), (-1.0, 0.02), (0.0, 0.02)])
def test_clearness_stays_on_its_table(clearness: float, at: float) -> None:
    drawn = sky(clearness=np.full((2, 2), clearness))
    offers = lit().offers.copy()
    part("lay_sun")(1, 1, 2, lit(), drawn, np.full(4, 20.0), offers)
    assert offers[1, 2].power_w == pytest.approx(100 * at * 0.91)
    assert CLEAR[1] == pytest.approx(LEVEL_STEP)


def test_an_array_that_gives_nothing_is_off() -> None:
    offers = lit().offers.copy()
    offers["limit_a"] = -1.0
    nothing = lit(sun_table=np.zeros((2, 4, LEVELS + 1)))
    part("lay_sun")(1, 0, 4, nothing, sky(), np.full(4, 20.0), offers)
    assert offers["limit_a"][1:, 2].tolist() == [0.0] * 3


def test_at_night_no_array_offers_anything() -> None:
    offers = lit().offers.copy()
    offers["limit_a"], offers["power_w"] = 9.0, 9.0
    part("lay_night")(1, 3, lit(), offers)
    assert offers["limit_a"][:, 2].tolist() == [9.0, 0.0, 0.0, 9.0]
    assert offers["power_w"][:, 2].tolist() == [9.0, 0.0, 0.0, 9.0]
    # By amps the watts are no limit, and another source is let be.
    assert offers["limit_a"][:, 0].tolist() == [9.0, 0.0, 0.0, 9.0]
    assert offers["power_w"][:, 0].tolist() == [9.0] * 4
    assert offers["limit_a"][:, 1].tolist() == [9.0] * 4


@pytest.mark.parametrize(
    ("strongest", "limits"),
    [(1, [[0, 8, 0], [0, 0, 4], [0, 0, 0]]), (0, [[0, 0, 4], [0, 0, 4], [0, 0, 0]])],
)
def test_a_selector_lets_in_the_strongest_or_the_first_that_gives(
    strongest: int, limits: list[list[float]]
) -> None:
    """Among an array in row 2 of 50 W, mains of 8 A and a charger of 6 A and 70 W in row 0."""
    box = lit(selector=np.array([strongest, 2, 1, 0]), sun_rows=np.array([2]))
    box.offers["limit_a"][:, 0] = 6.0
    box.offers["limit_a"][:, 1] = [8.0, 0.0, 0.0, 0.0]
    offers = box.offers.copy()
    # In the second step the mains is away and the charger has 20 W: 50 of the array are more.
    offers["power_w"] = [[70.0, 1e9, 50.0], [20.0, 1e9, 50.0], [0.0, 1e9, 0.0], [0.0, 0.0, 0.0]]
    # As they are laid anew for each scenario.
    offers["limit_a"][:, 2] = 4.0
    part("turn_selector")(0, 3, box, offers)
    assert offers["limit_a"][:3].tolist() == limits
    assert offers["limit_a"][3].tolist() == [6.0, 0.0, 4.0]


def test_every_appliance_asks_by_its_own_draw_in_its_own_unit_and_levels() -> None:
    """Two groups that may go; 10 W goes with the first, 2 A with the second, .5 S never."""
    box = SimpleNamespace(
        asked=several(ASK, *[{"power_w": 1.0}] * 3)[None].repeat(2, 0),
        shed_below=np.array([0.5, 0.3]),
        draw_asked=np.array([[10.0, 0.0], [2.0, 2.0], [0.0, 0.5]]),
        draw_kind=np.array([ASK_W, ASK_A, ASK_S]),
        draw_last=np.array([0, 1, 2]),
        draw_output=np.zeros(3, np.int64),
        draw_steps=np.array([0, 0, 1, 1]),
        draw_ends=np.array([0, 1, 3, 4]),
        fridge=np.array([0, -1, -1]),
        fridge_per_k=np.array([[0.05, 0.05]]),
        air_c=np.array([20.0, 20.0]),
    )
    drawn = SimpleNamespace(load=np.array([[9.0, 9.0, 9.0], [1.5, 0.5, 2.0]]))
    asked, draws = np.zeros((2, 3), ASK), np.zeros((3, 2))
    part("lay_demand")(1, 0, 2, box, drawn, np.array([24.0, 24.0]), asked, draws)
    # A fridge in 4 K warmer air: 10 x 1.5 x 1.2.
    assert draws.tolist() == pytest.approx(np.array([[18.0, 0.0], [1.0, 1.0], [0.0, 1.0]]))
    assert asked["power_w"] == pytest.approx(np.array([[19.0, 1.0, 1.0], [1.0, 1.0, 1.0]]))
    assert asked["current_a"] == pytest.approx(np.array([[1.0, 1.0, 0.0], [1.0, 1.0, 0.0]]))
    assert asked["conductance_s"] == pytest.approx(np.array([[0.0] * 3, [1.0] * 3]))
    # Only the steps of a stretch: what was asked before and after it is left as it was.
    for begin, end in ((0, 1), (1, 2)):
        once = np.full((3, 2), -1.0)
        part("lay_demand")(1, begin, end, box, drawn, np.array([24.0, 24.0]), asked.copy(), once)
        assert (once[1, begin], once[1, 1 - begin]) == (1.0, -1.0)
    # Much colder air: a fridge asks nothing, and no less.
    part("lay_demand")(1, 0, 1, box, drawn, np.array([-20.0, 24.0]), asked, draws)
    assert draws[0, 0] == 0.0
    assert asked["power_w"][0].tolist() == [1.0, 1.0, 1.0]


def test_with_a_load_output_what_hangs_on_it_is_asked_once_and_the_rest_twice() -> None:
    """One group that may go: levels 0 and 1 with the output on, 2 and 3 with it off."""
    box = SimpleNamespace(
        asked=np.zeros((1, 4), ASK),
        shed_below=np.array([0.5]),
        draw_asked=np.array([[10.0], [3.0]]),
        draw_kind=np.array([ASK_W, ASK_W]),
        draw_last=np.array([1, 0]),
        draw_output=np.array([1, 0]),
        draw_steps=np.array([0, 0]),
        draw_ends=np.array([0, 1, 2]),
        fridge=np.array([-1, -1]),
        fridge_per_k=np.zeros((0, 1)),
        air_c=np.zeros(1),
    )
    asked, draws = np.zeros((1, 4), ASK), np.zeros((2, 1))
    drawn = SimpleNamespace(load=np.ones((1, 2)))
    part("lay_demand")(0, 0, 1, box, drawn, np.zeros(1), asked, draws)
    assert asked["power_w"][0].tolist() == [13.0, 10.0, 3.0, 0.0]


def test_a_bank_of_less_fills_sooner_and_takes_by_its_own_acceptance() -> None:
    names = ("capacity_ah", "fill_a", "soc_per_a", "lag_gain", "accept_scale")
    box = SimpleNamespace(banks=several(BANK, *[dict.fromkeys(names, 10.0)] * 2))
    drawn = SimpleNamespace(capacity=np.array([1.0, 0.8]), acceptance=np.array([1.0, 1.25]))
    banks = np.zeros(2, BANK)
    part("lay_banks")(1, box, drawn, banks)
    for bank in banks:
        assert [float(bank[name]) for name in names] == pytest.approx([8.0, 8.0, 12.5, 12.5, 8.0])


def test_a_meter_counts_what_goes_in_and_out_and_each_thing_what_it_used() -> None:
    """Steps of half an hour, the second and third of the day's: 6 A in at 13 V, 4 out at 12.5."""
    box = SimpleNamespace(
        draw_last=np.array([0, 1, 1]),
        draw_output=np.array([0, 0, 1]),
        draw_kind=np.array([ASK_W, ASK_A, ASK_S]),
    )
    steps = several(
        STEP,
        {},
        {"into_bank_a": 6.0, "bus_v": 13.0, "load_a": 2.0, "served": 1.0},
        {
            "into_bank_a": -4.0,
            "bus_v": 12.5,
            "load_a": 3.0,
            "served": 0.5,
            "shed": 1.0,
            "output_off": 1.0,
        },
        {},
    )
    taken = several(TAKEN, {}, {"taken_a": 8.0}, {"taken_a": 1.0}, {})[:, None]
    draws = np.array([[0.0, 26.0, 26.0, 0.0], [0.0, 1.0, 1.0, 0.0], [0.0, 0.1, 0.1, 0.0]])
    found = SimpleNamespace(
        counted=np.zeros(2, COUNTED), gave=np.zeros((2, 2, 1)), used=np.zeros((2, 2, 3))
    )
    part("count_day")(1, 1, 1, 3, box, 0.5, steps, taken, draws, found)
    counted = found.counted[1]
    told = {name: float(counted[name]) for name in COUNTED.names or ()}
    assert told == pytest.approx(
        {
            "ah_in": 3.0,
            "wh_in": 39.0,
            "ah_out": 2.0,
            "wh_out": 25.0,
            "gross_out": 2.5,
            "gross_in": 4.0,
            "now_a": -4.0,
            "now_load_a": 3.0,
        }
    )
    assert found.gave[1, 1, 0] == pytest.approx(4.5)
    # 26 W at 13 V while it is not shed; 1 A, half of it served; .1 S while its output is on.
    assert found.used[1, 1] == pytest.approx([1.0, 0.75, 0.65])
    assert found.counted[0] == np.zeros((), COUNTED)
    assert found.used[0].sum() + found.used[1, 0].sum() == 0.0


def test_what_is_dark_has_used_nothing() -> None:
    box = SimpleNamespace(
        draw_last=np.array([0]), draw_output=np.array([0]), draw_kind=np.array([ASK_W])
    )
    steps = several(STEP, {"bus_v": 0.0, "served": 0.0})
    found = SimpleNamespace(
        counted=np.zeros(1, COUNTED), gave=np.zeros((1, 1, 0)), used=np.zeros((1, 1, 1))
    )
    part("count_day")(0, 0, 0, 1, box, 0.5, steps, np.zeros((1, 0), TAKEN), np.ones((1, 1)), found)
    assert found.used[0, 0, 0] == 0.0


def test_a_drive_gives_so_much_of_what_was_planned_and_the_sun_is_let_be() -> None:
    """Day one of scenario 1 at half, a relay's mark of being held closed untouched."""
    box = lit()
    box.offers["limit_a"], box.offers["power_w"] = 10.0, 200.0
    box.chargers["feed_s"][1] = 5.0
    offers = box.offers.copy()
    sources = len(box.chargers)
    given = np.ones((2, len(box.day_starts) - 1, sources))
    given[1, 0] = 0.5
    part("lay_given")(1, 0, 4, box, sky(given=given), offers)
    first = slice(int(box.day_starts[0]), int(box.day_starts[1]))
    suns = set(box.sun_rows.tolist())
    for row in range(sources):
        half = row not in suns
        assert set(offers["limit_a"][first, row]) == {5.0 if half else 10.0}
        relay = row == 1
        assert set(offers["power_w"][first, row]) == {100.0 if half and not relay else 200.0}
