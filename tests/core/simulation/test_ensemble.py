"""Many scenarios against one future at a time, and the laws that odds must keep."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from hypothesis import given, settings
from numpy.typing import NDArray

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.chemistry import Chemistry, Wells
from oddkettle.core.planning.sizing import (
    Design,
    certainty,
    front,
    lay_search,
    own_design,
    worth_finishing,
)
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import run_ensemble
from oddkettle.core.simulation.ensemble_statistics import (
    band,
    difference,
    of_ten,
    quantiles,
    share_of,
)
from oddkettle.core.simulation.run import simulate, trip_grid
from oddkettle.core.simulation.scenarios import draw_scenarios, expected_scenario, scenario_of
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Panel
from oddkettle.core.sources.solar import Controller, SunInput
from oddkettle.core.trip.grid import Block, Site
from oddkettle.core.weather.weather_generator import Doubt
from oddkettle.plan.case import case_from_plan
from tests.conftest import example
from tests.core.boxes import a_case, cases, lamp
from tests.support.tiers import examples

SAMPLES = (
    "moth-survey",
    "quarry-selector",
    "quarry-combined",
    "winter-caravan",
    "coast-unit",
    "radio-hill",
)


def sunny(watts: float, kind: str = "tracking", **more: object) -> SunInput:
    panel = Panel(watts, "tilted", 35.0, 180.0, False)
    return SunInput("s", "Panel", (panel,), Controller(20.0, 0.96, kind), **more)  # type: ignore[arg-type]


def week(**more: object) -> Case:
    """Five days of middling skies with an evening lamp and a panel."""
    given: dict[str, object] = {
        "clearness": (0.7,) * 5,
        "sun": (sunny(100.0),),
        "appliances": (lamp(40.0, 18.0, 24.0, spread=0.2),),
        "soc0": 0.7,
        "floor": 0.3,
    }
    return a_case(**(given | more))


@pytest.mark.parametrize("name", SAMPLES)
def test_every_future_is_what_a_run_of_its_own_gives(name: str) -> None:
    case = case_from_plan(example(name))
    ran = run_ensemble(case, 12)
    for i in (0, 5, 11):
        alone = simulate(case, scenario_of(case, ran.grid, ran.scenarios, i))
        off = np.abs(alone.level - ran.level[i])
        # The table by clearness and the fridge's moved duty are close, not equal.
        assert off.mean() < 0.006
        assert abs(alone.level.min() - ran.lowest[i]) < 0.02


def test_a_pwm_panel_and_two_sites_agree_too() -> None:
    coast, hill = Site(54.9, -2.6, 10.0, "Europe/London"), Site(57.0, -4.0, 900.0, "Europe/London")
    case = week(sun=(sunny(120.0, "pwm"),), day_sites=(coast, coast, hill, hill, coast))
    ran = run_ensemble(case, 6)
    for i in range(6):
        alone = simulate(case, scenario_of(case, ran.grid, ran.scenarios, i))
        assert np.abs(alone.level - ran.level[i]).max() < 0.01


@settings(max_examples=examples(12), deadline=None)
@given(cases())
def test_any_box_keeps_its_levels_between_empty_and_full(case: Case) -> None:
    ran = run_ensemble(replace(case, step_min=15), 3)
    assert np.isfinite(ran.level).all()
    assert ran.level.max() <= 1.0 + 1e-6
    assert ran.level.min() >= -0.2
    assert (ran.dark_h >= 0.0).all()
    assert (ran.dark_h <= 25.0 + 1e-9).all()


def test_variants_meet_the_same_skies_and_each_appliance_its_own_luck() -> None:
    first = draw_scenarios(week(), 30)
    more = draw_scenarios(week(appliances=(lamp(5.0), lamp(40.0, 18.0, 24.0, spread=0.2))), 30)
    other = draw_scenarios(week(sun=(sunny(300.0),)), 30)
    np.testing.assert_array_equal(first.skies.clearness, other.skies.clearness)
    np.testing.assert_array_equal(first.start, more.start)


def test_guesses_spread_the_futures_and_measured_figures_less() -> None:
    calm = Doubt(place=0.0, start=0.0, capacity=0.0, panel=0.0)
    guess, known = (
        run_ensemble(
            week(sun=(), doubt=calm, soc0=1.0, appliances=(lamp(40.0, 18.0, 24.0, spread=s),)), 200
        ).lowest
        for s in (0.3, 0.0)
    )
    assert guess.std() > 3.0 * known.std() > 0.0


def test_a_larger_panel_or_battery_never_makes_it_less_sure() -> None:
    shares = [run_ensemble(week(sun=(sunny(w),)), 60).lasts for w in (40.0, 80.0, 160.0)]
    assert (shares[1] >= shares[0]).all()
    assert (shares[2] >= shares[1]).all()
    small, large = (
        run_ensemble(week(bank=Bank(week().bank.chemistry, ah)), 60).lasts.mean()
        for ah in (60.0, 150.0)
    )
    assert large >= small


def test_a_future_that_may_stop_ends_on_the_day_it_fails() -> None:
    case = week(sun=(), soc0=0.5)
    whole, cut = run_ensemble(case, 20), run_ensemble(case, 20, stop_below=case.floor)
    np.testing.assert_array_equal(whole.lasts, cut.lasts)
    failed = ~cut.lasts
    assert failed.any()
    assert np.isnan(cut.level[failed, -1]).all()
    known = ~np.isnan(cut.level)
    np.testing.assert_array_equal(cut.level[known], whole.level[known])
    # The day on which it falls under the floor is run to its midnight, and not a step further.
    starts = trip_grid(case).day_starts
    for known_steps, level in zip(known[failed], whole.level[failed], strict=True):
        under = int(np.argmax(level < case.floor))
        midnight = int(starts[starts >= under].min())
        assert known_steps.sum() == midnight + 1


@pytest.mark.parametrize(
    ("site", "day", "light"),
    [
        (Site(78.2, 15.6, 10.0, "Arctic/Longyearbyen"), date(2026, 12, 20), False),
        (Site(78.2, 15.6, 10.0, "Arctic/Longyearbyen"), date(2026, 6, 20), True),
        (Site(-16.8, 179.99, 5.0, "Pacific/Fiji"), date(2026, 1, 5), True),
        (Site(-54.8, -68.3, 20.0, "America/Argentina/Ushuaia"), date(2026, 6, 21), True),
        (Site(90.0, 0.0, 0.0, "UTC"), date(2026, 6, 21), True),
    ],
)
def test_the_ends_of_the_world_are_answered(site: Site, day: date, light: bool) -> None:
    dark = run_ensemble(week(site=site, first_day=day, sun=()), 20)
    lit = run_ensemble(week(site=site, first_day=day), 20)
    assert np.isfinite(lit.level).all()
    assert (lit.level[:, -1].mean() > dark.level[:, -1].mean() + 0.005) == light


def test_fridges_draw_more_in_warmer_futures() -> None:
    moth = case_from_plan(example("moth-survey"))
    fridge = tuple(a for a in moth.appliances if a.pattern is not None)
    calm = Doubt(place=0.0, start=0.0, capacity=0.0, panel=0.0)
    case = replace(moth, appliances=fridge, sources=(), blocks=(), doubt=calm, inverter=None)
    ran = run_ensemble(replace(case, bank=replace(case.bank, battery_ah=600.0)), 80)
    warm = 0.5 * (ran.scenarios.skies.low_c + ran.scenarios.skies.high_c).mean(axis=1)
    load = np.log(ran.scenarios.load[fridge[0].key])
    used = np.log(case.soc0 - ran.level[:, -1])
    slope = np.linalg.lstsq(np.stack([warm, load, np.ones(80)], axis=1), used, rcond=None)[0]
    # About one part in (air less inside) a kelvin, some 1/14 here, and in step with its power.
    assert 0.04 < slope[0] < 0.12
    assert slope[1] == pytest.approx(1.0, abs=0.15)


def test_a_share_of_a_few_hundred_is_never_called_certain() -> None:
    sure, even = share_of(np.ones(200, bool)), share_of(np.arange(200) % 2 == 0)
    assert sure.share == 1.0
    assert 0.003 < sure.error < 0.01
    assert even.error == pytest.approx((0.25 / 202) ** 0.5, rel=0.01)


def test_a_difference_is_clear_only_beyond_the_luck_of_the_draw() -> None:
    base = np.zeros(200, bool)
    some, many, both = base.copy(), base.copy(), base.copy()
    some[:3] = many[:30] = True
    both[:15], base[15:30] = True, True
    assert not difference(some, np.zeros(200, bool)).clear
    assert difference(many, np.zeros(200, bool)).clear
    even = difference(both, base)
    assert (even.points, even.gained, even.lost, even.clear) == (0.0, 15, 15, False)


def test_band_and_ranks_are_those_of_the_futures() -> None:
    ran = run_ensemble(week(), 101)
    low, middle, high = band(ran)
    assert (low <= middle).all()
    assert (middle <= high).all()
    inside = ((ran.level >= low) & (ran.level <= high)).mean()
    assert inside == pytest.approx(0.8, abs=0.04)
    at = of_ten(ran)
    assert ran.lowest[at["worst"]] <= ran.lowest[at["middling"]] <= ran.lowest[at["best"]]
    assert quantiles(np.arange(101.0)) == (10.0, 50.0, 90.0)


@pytest.mark.parametrize("name", ["moth-survey", "gauging-hut"])
def test_the_searchs_own_design_is_the_box_itself(name: str) -> None:
    case = case_from_plan(example(name))
    bench = lay_search(case, 24)
    hourly = run_ensemble(replace(case, step_min=60), 24)
    mine = certainty(bench, own_design(case), 0, 24)
    # The search gives the panel a controller that suits it: never worse than the box's own.
    assert (mine >= hourly.lasts).all()
    assert (mine ^ hourly.lasts).sum() <= 4


def test_sizes_do_what_sizes_do() -> None:
    bench = lay_search(week(bank=Bank(AGM, 80.0)), 24)
    own = bench.own
    small = certainty(bench, Design(own.panel_w / 3, own.battery_ah, 0.0, 0.0), 0, 24).mean()
    none = certainty(bench, Design(0.0, own.battery_ah, 0.0, 0.0), 0, 24).mean()
    large = certainty(bench, Design(own.panel_w * 3, own.battery_ah * 2, 0.0, 0.0), 0, 24).mean()
    assert none <= small <= certainty(bench, own, 0, 24).mean() <= large
    assert large > none


def test_the_front_holds_what_nothing_beats() -> None:
    rng = np.random.default_rng(3)
    euro, kg, lasts = rng.integers(1, 12, (3, 200)).astype(float)
    on = front(euro, kg, lasts)
    for n in range(200):
        beats = (euro <= euro[n]) & (kg <= kg[n]) & (lasts >= lasts[n])
        beats &= (euro < euro[n]) | (kg < kg[n]) | (lasts > lasts[n])
        assert on[n] == (not beats.any())


def test_a_design_is_given_up_only_behind_a_cheaper_lighter_one_as_sure() -> None:
    euro, kg = np.array([100.0, 200.0, 200.0]), np.array([5.0, 10.0, 10.0])
    passes = np.array([[1, 0, 1], [1, 0, 0], [0, 1, 0]], bool)
    np.testing.assert_array_equal(worth_finishing(euro, kg, passes), [True, False, True])


def test_a_grid_of_its_own_length_of_days_is_kept_over_a_clock_change() -> None:
    case = week(first_day=date(2026, 3, 27))
    ran = run_ensemble(case, 4)
    assert ran.level.shape[1] == trip_grid(case).steps + 1
    assert ran.lowest_by_day.shape == (4, 5)


def test_lead_takes_its_last_charge_surely_in_no_two_scenarios_alike() -> None:
    """On mains all night from 70 %: AGM stands wide at dawn, lithium does not."""
    hooked = (Block("hookup", 0, 0, 0, 8 * 60),)
    calm = Doubt(place=0.0, start=0.0, capacity=0.0, panel=0.0)
    charger = MainsCharger("m", "Mains", 25.0, 0.9)

    def at_dawn(chemistry: Chemistry) -> NDArray[np.float32]:
        case = a_case(bank=Bank(chemistry, 100.0), mains=(charger,), blocks=hooked, soc0=0.7)
        level = run_ensemble(replace(case, doubt=calm), 200).level[:, 4 * 12]
        # Where the site's post was dead nothing came in.
        return level[level > 0.7]

    assert at_dawn(AGM).std() > 0.01
    assert at_dawn(LIFEPO4).std() < 1e-4


def test_absorption_goes_by_how_fast_this_battery_takes_it() -> None:
    """Alpha-limited, what is missing falls by exp(-alpha t): twice as fast, twice the exponent."""
    hooked = (Block("hookup", 0, 0, 0, 8 * 60),)
    charger = MainsCharger("m", "Mains", 100.0, 0.9)
    bank = Bank(replace(AGM, charge_limit_c=2.0, wells=Wells()), 100.0)
    case = a_case(bank=bank, mains=(charger,), blocks=hooked, soc0=0.8)
    grid = trip_grid(case)

    def missing(acceptance: float) -> float:
        scenario = replace(expected_scenario(case, grid), acceptance=acceptance)
        return 1.0 - float(simulate(case, scenario).level[12])

    slow, fast = missing(0.5), missing(1.0)
    assert np.log(fast / 0.2) / np.log(slow / 0.2) == pytest.approx(2.0, rel=0.1)
