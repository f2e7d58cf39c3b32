"""Numbers worked by hand, for constants that laws alone would let drift.

Each value stands in the docs or in a table that is named; none is read back from the code.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from statistics import NormalDist

import numpy as np
import pytest

from oddkettle.core.battery.ageing import age
from oddkettle.core.battery.bank import Bank, check_bank, coulombic_efficiency
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.flooded import FLOODED
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.temperature import Housing
from oddkettle.core.estimation.measurement_update import aim_of, surprise_of
from oddkettle.core.estimation.particle_filter import Particles
from oddkettle.core.estimation.readings import Reading as Seen
from oddkettle.core.kernel.records import BULK, FLOAT
from oddkettle.core.loads.demand import (
    Appliance,
    Inverter,
    Window,
    hours_share,
    shed_levels,
    steady_draw,
)
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.loads.measurement import Reading, measured
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.ensemble import run_ensemble
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate, trip_grid
from oddkettle.core.simulation.run_metrics import autonomy_h
from oddkettle.core.simulation.scenarios import draw_scenarios, scenario_of
from oddkettle.core.sources.alternator import Alternator, Feed, engine_series
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Light, Panel, light_on, power_from_light
from oddkettle.core.sources.relay import Relay
from oddkettle.core.trip.grid import Block, lay_grid, zone_named
from oddkettle.core.weather.clear_sky import Sky
from oddkettle.results.odds import Band
from oddkettle.usecases.field.track.calibration import MIDDLE_80, one_spread_percent
from tests.core.boxes import a_case, lamp, steady
from tests.core.judgement.test_judgement import judged
from tests.core.simulation.test_ledger import BARE
from tests.core.sources.test_arrays_by_hand import array_of

MORNING = (Block("drive", 0, 480, 0, 660),)


@pytest.mark.parametrize(
    ("chemistry", "state", "stays"),
    [
        (AGM, 0.5, 0.98),
        (AGM, 0.8, 0.98),
        (AGM, 0.85, 0.96),
        (AGM, 0.9, 0.94),
        (AGM, 1.0, 0.90),
        (FLOODED, 0.9, 0.855),
    ],
)
def test_charge_stays_fully_to_four_fifths_and_less_above(
    chemistry: object, state: float, stays: float
) -> None:
    """Docs: .98 to 80 %, then a straight line to .90 at full (flooded .96 to .75)."""
    assert coulombic_efficiency(chemistry, np.array(state)) == pytest.approx(stays)  # type: ignore[arg-type]


@pytest.mark.parametrize(("z", "chance"), [(0.0, 1.0), (1.0, 0.3173), (1.96, 0.05), (-2.576, 0.01)])
def test_the_surprise_of_a_reading_is_that_of_both_tails(z: float, chance: float) -> None:
    """The table of the normal distribution, two-sided."""
    one = np.array([0.5])
    assert surprise_of(0.5 + 0.1 * z, one, np.array([0.1]), np.ones(1)) == pytest.approx(
        chance, abs=1e-4
    )


def test_surprise_counts_particles_by_their_weight() -> None:
    """Three quarters lie one spread above a reading, a quarter one below: .75*.1587 + .25*.8413."""
    found = surprise_of(0.0, np.array([1.0, -1.0]), np.ones(2), np.array([0.75, 0.25]))
    assert found == pytest.approx(2 * (0.75 * 0.15866 + 0.25 * 0.84134), abs=1e-4)


def test_past_the_end_of_a_trip_its_last_day_repeats_hour_by_hour() -> None:
    """From noon of the last day: 12 h of nothing, then 50 A for 6 h each night from midnight on.

    At 13.1 V that is 655 W. 0.9 less a floor of 0.2 is 70 Ah: 50 A take 1.4 h, from midnight on.
    """
    case = replace(BARE, clearness=(0.1,) * 3, soc0=0.9, floor=0.2, first_day=date(2026, 6, 6))
    run = simulate(case)
    hour = 12
    asked = run.world.demand.asked
    asked["power_w"][:] = 0.0
    asked["current_a"][:] = 0.0
    last = run.grid.steps - 24 * hour
    asked["current_a"][last : last + 6 * hour, :] = 50.0
    noon = last + 12 * hour
    found = autonomy_h(run, noon)
    assert found == pytest.approx(12 + (run.level[noon] - 0.2) * 100 / 50, abs=0.02)
    assert 13.3 < found < 13.5


def test_at_idle_an_alternator_gives_four_tenths() -> None:
    """Docs: idle share .4 [textbook]. 100 A at idle are 40; 15 A run the vehicle, 25 are spare."""
    grid = lay_grid(date(2026, 6, 6), 1, zone_named("UTC"), 5)
    usual = Alternator(rated_a=100.0, own_loads_a=15.0)
    for idling, spare in ((True, 25.0), (False, 85.0)):
        drive = Block("drive", 0, 600, 0, 660, idling)
        engine = engine_series(grid, (drive,), usual, 0.0)
        assert engine.spare_a[10 * 12 + 3] == pytest.approx(spare)


def test_a_measured_cool_box_s_lid_is_not_counted_twice() -> None:
    """Measured with the lid as it is opened: the plan adds a quarter for it, so it is taken off."""
    plain = Appliance("c", "Cool box", 45.0, "12v", (Window(0, 1440),), 0.5, Fridge(4.0, 25.0))
    lidded = replace(plain, pattern=Fridge(4.0, 25.0, lid=0.25))
    reading = Reading(before=0.0, after=240.0, counter="Wh", hours=24.0, bus_v=13.0, air_c=25.0)
    assert measured(plain, reading, 1.0).duty == pytest.approx(10 / 45)
    assert measured(lidded, reading, 1.0).duty == pytest.approx(10 / 45 / 1.25)


def test_a_warmer_place_is_taken_off_a_measured_share() -> None:
    """At 25 C in a place 5 K warmer, set to 4 C: 26 K of lift where the plan counts on 21."""
    box = Appliance(
        "c", "Cool box", 45.0, "12v", (Window(0, 1440),), 0.5, Fridge(4.0, 25.0, warmer_k=5.0)
    )
    reading = Reading(before=0.0, after=240.0, counter="Wh", hours=24.0, bus_v=13.0, air_c=25.0)
    assert measured(box, reading, 1.0).duty == pytest.approx(10 / 45 * 21 / 26)


def test_a_learned_doubt_is_one_spread_of_what_was_found() -> None:
    """The middle 80 % of a normal distribution are 2.563 of its spreads wide."""
    tenth = NormalDist(1.0, 0.1)
    band = Band(low=tenth.inv_cdf(0.1), middle=1.0, high=tenth.inv_cdf(0.9))
    assert one_spread_percent(band) == pytest.approx(10.0, abs=0.05)
    assert pytest.approx(NormalDist().inv_cdf(0.9), abs=1e-4) == MIDDLE_80


def test_a_charger_in_float_starts_again_three_tenths_of_a_volt_below() -> None:
    """Float 13.5 V: at 13.2 V on the bus it begins anew, which a resting bank shows at 65 %."""
    track = steady(LIFEPO4, 60, charger_a=2.0, load_a=5.0, soc0=1.0)
    stage, volts = track.stage[:, 0], track.bus_v
    begun = int(np.argmax(stage == FLOAT))
    again = begun + int(np.argmax(stage[begun:] == BULK))
    assert again > begun
    # The stage of a step is that before it; the sag was found at its end.
    assert volts[again - 1] == pytest.approx(13.2, abs=0.005)
    assert np.all(volts[begun + 1 : again - 1] >= 13.2 - 1e-9)
    assert 0.5 < track.soc[again, 0] < 0.75


@pytest.mark.parametrize(("mount", "celsius"), [("flat", 60.0), ("tilted", 20 + 800 / 29)])
def test_cells_are_as_warm_as_their_mounting_lets_them(mount: str, celsius: float) -> None:
    """Docs: 20 W/m2 a kelvin for a panel flat on a roof, 29 for one with air behind it; no wind.

    800 W/m2 of even sky light on a level panel at 20 C.
    """
    sky = Sky(*(np.array([v]) for v in (30.0, 180.0, 172.0, 1320.0, 800.0, 0.0, 800.0)))
    panel = Panel(100.0, mount, 0.0, 180.0, False)  # type: ignore[arg-type]
    light = light_on(panel, sky, 20.0, np.array([0, 1]))
    assert light.cell_c[0] == pytest.approx(celsius, abs=0.2)


def test_power_falls_by_its_coefficient_with_warmth_dirt_and_mismatch() -> None:
    """PVWatts: 100 W at 800 W/m2 and 45 C, -0.35 %/K, 3 % dirt, 2 % mismatch."""
    light = Light(np.array([800.0]), np.array([45.0]))
    watts = 100 * 0.8 * (1 - 0.0035 * 20) * 0.97 * 0.98
    assert power_from_light(100.0, -0.0035, light) == pytest.approx(watts)


def test_what_is_doubted_is_doubted_twice_as_much_when_readings_fail() -> None:
    case = a_case(appliances=(lamp(20.0, spread=0.3),))
    particles = Particles(case, 400)
    before = np.log(particles.drawn.load).std()
    particles.open_up()
    assert np.log(particles.drawn.load).std() == pytest.approx(2 * before, rel=0.03)


def test_one_battery_of_several_is_what_somebody_lifts() -> None:
    """However many are joined, the number is that of one of them."""
    for series, parallel in ((1, 1), (2, 1), (1, 2), (2, 2)):
        bank = Bank(AGM, 150.0, series=series, parallel=parallel, system_v=12.0 * series)
        said = judged(a_case(bank=bank))["heavy-lift"]
        assert said.numbers[0].value == pytest.approx(150 * AGM.kg_per_ah)


def test_the_spread_of_a_rested_voltage_goes_with_the_bank_s_volts() -> None:
    """Two 12 V batteries in series show twice the volts, and twice what they may be off."""
    spreads = []
    for series in (1, 2):
        bank = Bank(LIFEPO4, 100.0, series=series, system_v=12.0 * series)
        particles = Particles(a_case(bank=bank), 50)
        reading = Seen("a", 0, "rested_v", 13.1 * series, rested_h=8.0)
        spreads.append(aim_of(particles, reading).spread)
    assert spreads[1] == pytest.approx(2 * spreads[0], rel=1e-6)


def test_a_counter_in_watt_hours_is_off_by_as_many_amp_hours() -> None:
    """At 12.8 V nominal, before anything was counted: 1 Ah of error is 12.8 Wh."""
    particles = Particles(a_case(), 50)
    ah, wh = (aim_of(particles, Seen("a", 0, kind, 0.0)).spread for kind in ("ah_out", "wh_out"))  # type: ignore[arg-type]
    assert wh == pytest.approx(12.8 * ah)


def test_groups_go_off_in_their_order_and_must_runs_never() -> None:
    levels = {"first": 0.5, "wanted": 0.3}
    found = [
        shed_levels(replace(steady_draw("a", "A", np.ones(3)), priority=priority), levels)  # type: ignore[arg-type]
        for priority in ("first", "wanted", "must")
    ]
    assert found == [1.0, 2.0, np.inf]


def test_a_future_begins_as_warm_as_its_housing() -> None:
    """5 K above the air: a future's first step is that of a run of its own."""
    case = a_case(bank=Bank(LIFEPO4, 100.0, housing=Housing(4.0, offset_k=5.0)), soc0=0.5)
    case = replace(case, appliances=(lamp(30.0),))
    scenarios = draw_scenarios(case, 3)
    many = run_ensemble(case, 3)
    for n in range(3):
        own = simulate(case, scenario_of(case, trip_grid(case), scenarios, n))
        assert many.level[n] == pytest.approx(own.level.astype(np.float32), abs=1e-6)


def test_heat_in_a_feed_is_its_resistance_times_the_current_squared() -> None:
    """30 A of charge at 13.5 V and .92 are some 34 A through 20 mOhm: 23 W for two hours."""
    feed = Feed(length_m=0.001, area_mm2=100.0, connectors_mohm=20.0)
    dcdc = DcDc("v", "DC-DC", 30.0, 0.92, Alternator(rated_a=200.0, idle_share=1.0), feed=feed)
    case = a_case(vehicle=(dcdc,), blocks=(Block("drive", 0, 600, 0, 720),), soc0=0.3)
    run = simulate(case)
    ledger = keep_ledger(run)
    on = slice(125, 140)
    into_w = run.taken_a[0][on] * run.track.bus_v[on] / 0.92
    amps = (14.2 - np.sqrt(14.2**2 - 4 * 0.02 * into_w)) / 0.04
    assert float(np.mean(amps)) == pytest.approx(33.0, abs=2.0)
    wiring = float(ledger.sources[0].wiring_wh.sum())
    assert wiring == pytest.approx(2 * float(np.mean(amps**2)) * 0.02, rel=0.03)


def test_an_inverter_that_is_too_small_is_named_in_steps_of_fifty_watts() -> None:
    """A mixer of 420 W on an inverter of 300 W: 450 W is the next that is enough."""
    mixer = Appliance("k", "Mixer", 420.0, "inverter", (Window(600, 605),))
    case = a_case(appliances=(mixer,), inverter=Inverter(300.0, 6.0, 0.9))
    fix = judged(case)["inverter-too-small"].fix
    assert fix is not None
    assert [change.value for change in fix.changes] == [450.0]


@pytest.mark.parametrize(
    ("volts", "smart", "closes"),
    [(13.25, False, False), (13.35, False, True), (12.75, True, False), (12.85, True, True)],
)
def test_a_relay_closes_at_what_its_kind_closes_at(volts: float, smart: bool, closes: bool) -> None:
    """Docs: 13.3 V; beside a smart alternator one that stays closed down to 12.8 V."""
    engine = Alternator(120.0, 1.0, 10.0, volts, smart=smart, smart_v=volts)
    case = a_case(vehicle=(Relay("v", "Relay", engine),), soc0=0.1, blocks=MORNING)
    assert bool((simulate(case).sources[0].limit_a > 0.0).any()) is closes


def test_the_heat_of_an_array_s_cable_goes_with_what_is_taken_of_the_array() -> None:
    """A full battery takes little of a sunny day: the cable loses by the share that flows."""
    array = array_of("tracking", cable_ohm=0.5)
    run = simulate(a_case(sun=(array,), soc0=0.97, appliances=(lamp(8.0),)))
    source, ledger = run.sources[0], keep_ledger(run)
    taken_w = run.taken_a[0] * run.track.bus_v / 0.95
    share = np.divide(taken_w, source.raw_w, out=np.zeros_like(taken_w), where=source.raw_w > 0)
    assert share.max() <= 1.0 + 1e-9
    assert ledger.sources[0].taken.ah.sum() < 0.8 * ledger.sources[0].offered.ah.sum()
    heat = float((source.wire_w * share).sum() * run.grid.step_h)
    assert float(ledger.sources[0].wiring_wh.sum()) == pytest.approx(heat)


def test_life_is_told_in_percent() -> None:
    """Three days of a tenth of the battery a day, and no charge: half a cycle of 30 %."""
    case = replace(BARE, clearness=(0.1,) * 3, appliances=(lamp(5.3),), soc0=0.9)
    said = judged(case)["ageing"]
    cycles, life = (number.value for number in said.numbers)
    aged = age(LIFEPO4, simulate(case).level, 1 / 12)
    assert cycles == pytest.approx(0.5 * 0.3, abs=0.01)
    assert life == pytest.approx(100 * max(aged.cycle_share, aged.calendar_share))
    # Three days of the calendar life beside 0.3 ** exponent half cycles of the cycle life.
    assert 100 * aged.calendar_share == pytest.approx(
        100 * 3 / 365.25 / LIFEPO4.life.calendar_years, rel=1e-3
    )
    assert 100 * aged.cycle_share == pytest.approx(
        100 * 0.5 * 0.3**LIFEPO4.life.exponent / LIFEPO4.life.cycles_at_full, rel=0.1
    )


def test_what_waits_all_day_counts_by_its_own_hours() -> None:
    """1 W waiting all day beside 24 Wh of use: a half, and it is named with its energy."""
    case = replace(BARE, appliances=(lamp(24.0, 0.0, 1.0, standby_w=1.0),))
    said = judged(case)["standby-heavy"]
    assert said.numbers[0].value == pytest.approx(24.0, abs=1.1)


def test_hours_that_overlap_count_once() -> None:
    """20 to 22 and 21 to 23 h are three hours, not four."""
    share = hours_share((Window(1200, 1320), Window(1260, 1380)), 60)
    assert share.sum() == pytest.approx(3.0)
    assert share.max() == 1.0


def test_a_noisy_charger_that_silence_costs_nothing_is_not_spoken_of() -> None:
    charger = MainsCharger("m", "Mains", 10.0, 0.9, noisy=True)
    hooked = (Block("hookup", 0, 600, 0, 660),)
    elsewhere, there = (Window(60, 120),), (Window(600, 630),)
    for quiet, said in ((elsewhere, False), (there, True)):
        case = a_case(mains=(charger,), blocks=hooked, quiet=quiet, soc0=0.3)
        assert ("noisy-in-quiet" in judged(case)) is said


def test_what_nobody_said_is_silent_and_starts_gently() -> None:
    """A charger that makes noise, or an appliance that surges, is one that somebody told so."""
    assert not MainsCharger("m", "Mains", 10.0, 0.9).noisy
    assert Appliance("a", "A", 5.0, "12v", ()).surge_w == 0.0


def test_how_deep_it_fell_is_told_in_percent() -> None:
    """50 W for a day of 100 Ah from 30 %: empty; what it told is what the run says."""
    case = a_case(appliances=(lamp(20.0),), soc0=0.4, floor=0.0)
    said = judged(case)["over-deep"]
    low = float(simulate(case).level.min())
    assert [n.value for n in said.numbers] == pytest.approx([100 * low, 10.0])


def test_a_load_that_draws_more_draws_more_of_everything() -> None:
    once = steady_draw("a", "A", np.full(3, 10.0))
    more = once.times(1.5)
    assert [more.asked[0], more.asked_w[0], more.peak_w, more.surge_w] == [15.0] * 4


@pytest.mark.parametrize(
    ("series", "battery_v", "system_v", "remedy"),
    [
        (2, 12.0, 12.0, "Wire them in parallel, or set the box to 24 V."),
        (1, 24.0, 12.0, "Choose 12 V batteries."),
        (1, 12.0, 24.0, "Put 2 in series, or set the box to 12 V."),
    ],
)
def test_a_bank_of_the_wrong_voltage_is_told_how_to_mend_it(
    series: int, battery_v: float, system_v: float, remedy: str
) -> None:
    with pytest.raises(PlanError) as refused:
        check_bank(Bank(AGM, 100.0, battery_v, series=series, system_v=system_v))
    assert refused.value.remedy == remedy
