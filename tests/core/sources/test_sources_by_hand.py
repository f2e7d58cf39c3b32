"""What alternators, chargers, relays, mains and generators could give, worked by hand by step."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from oddkettle.core.loads.demand import Window
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.sources.alternator import Alternator, Feed, engine_series
from oddkettle.core.sources.dcdc import (
    DcDc,
    dcdc_series,
    feed_power_w,
    heat_share,
    input_current_a,
)
from oddkettle.core.sources.generator import Generator, charger_of, fuel_l, fuel_l_h
from oddkettle.core.sources.mains import MainsCharger, mains_on, mains_series
from oddkettle.core.sources.relay import Relay, relay_series
from oddkettle.core.sources.source_series import ChargeSource, SourceContext
from oddkettle.core.trip.grid import Block, lay_grid, zone_named
from tests.core.boxes import MOOR, a_case

GRID = lay_grid(date(2026, 6, 6), 1, zone_named("UTC"), 60)
NONE = np.zeros(24)
WIDE = Feed(4.0, 10.0, 4.0)
OHM = 2 * 4 * 0.0172 / 10 + 0.004
"""4 m there and back of 10 mm2 of copper, 13.8 mOhm, and 4 of connectors."""


def hours(*from_to: float) -> np.ndarray:
    """(24,) one in the hours from and up to."""
    share = NONE.copy()
    share[int(from_to[0]) : int(from_to[1])] = 1.0
    return share


def drive(start_h: float, end_h: float, *, idling: bool = False) -> Block:
    return Block("drive", 0, int(60 * start_h), 0, int(60 * end_h), idling)


def around(
    *blocks: Block,
    sources: tuple[ChargeSource, ...] = (),
    standby: bool = False,
    air_c: float = 20.0,
    **shares: np.ndarray,
) -> SourceContext:
    every = dict.fromkeys(("drive", "hookup", "outage", "generator", "panel_out"), NONE)
    return SourceContext(
        GRID,
        (MOOR,),
        blocks,
        every | shares,
        np.full(24, air_c),
        np.ones(24),
        1.0,
        12.8,
        standby,
        sources,
        coldest_c=-20.0,
    )


# --- The engine.


def test_an_engine_runs_in_its_drives_and_a_charger_waits_its_delay() -> None:
    """From half past ten to half past twelve, the first quarter for the starter battery."""
    engine = engine_series(GRID, (drive(10.5, 12.5),), Alternator(rated_a=90.0), 15.0)
    assert engine.on[9:14] == pytest.approx([0.0, 0.25, 1.0, 0.5, 0.0])
    assert engine.volts[9:14] == pytest.approx([0.0, 14.2, 14.2, 14.2, 0.0])
    assert engine.spare_a[10:13] == pytest.approx([70.0] * 3)
    hooked = Block("hookup", 0, 600, 0, 720)
    assert not engine_series(GRID, (hooked,), Alternator(), 0.0).on.any()


def test_at_a_standstill_an_alternator_gives_four_tenths() -> None:
    engine = engine_series(GRID, (drive(10, 11, idling=True),), Alternator(rated_a=90.0), 0.0)
    assert engine.spare_a[10] == pytest.approx(16.0)
    small = engine_series(GRID, (drive(10, 11, idling=True),), Alternator(rated_a=40.0), 0.0)
    assert small.spare_a[10] == 0.0


def test_a_smart_alternator_falls_after_twenty_minutes() -> None:
    """A third of the first hour at 14.2 V, the rest at 12.5; waiting thirty, none."""
    smart = Alternator(rated_a=90.0, smart=True)
    engine = engine_series(GRID, (drive(10, 12),), smart, 0.0)
    assert engine.on[10:12] == pytest.approx([1.0, 1.0])
    assert engine.volts[10:12] == pytest.approx([14.2 / 3 + 12.5 * 2 / 3, 12.5])
    late = engine_series(GRID, (drive(10, 12),), smart, 30.0)
    assert late.on[10] == pytest.approx(0.5)
    assert late.volts[10] == pytest.approx(12.5)
    short = engine_series(GRID, (drive(10, 10.25),), smart, 0.0)
    assert short.on[10] == pytest.approx(0.25)
    assert short.volts[10] == pytest.approx(14.2)


def test_two_drives_that_overlap_are_one_engine() -> None:
    both = (drive(10, 11), drive(10, 11, idling=True))
    engine = engine_series(GRID, both, Alternator(rated_a=90.0), 0.0)
    assert engine.on[10] == 1.0
    assert engine.volts[10] == pytest.approx(14.2)
    assert engine.spare_a[10] == pytest.approx((70.0 + 16.0) / 2)


# --- A DC-DC charger.


def passes(charger: DcDc, alternator: Alternator | None = None, *, idling: bool = False) -> float:
    part = charger if alternator is None else replace(charger, alternator=alternator)
    engine = engine_series(GRID, (drive(10, 11, idling=idling),), part.alternator, 0.0)
    return float(feed_power_w(part, engine)[10])


def test_a_feed_passes_until_its_drop_or_its_alternator_or_its_fuse_ends_it() -> None:
    """Some 18 mOhm; 14.2 V less 11.5 leave 152 A, the alternator 70 of 90, the fuse 30."""
    charger = DcDc("v", "Charger", 60.0, 0.9, feed=WIDE)
    assert WIDE.ohm == pytest.approx(OHM)
    assert passes(charger) == pytest.approx(0.9 * 70 * (14.2 - 70 * OHM))
    assert passes(charger, Alternator(rated_a=300.0)) == pytest.approx(0.9 * 2.7 / OHM * 11.5)
    assert passes(replace(charger, fuse_a=30.0)) == pytest.approx(0.9 * 30 * (14.2 - 30 * OHM))
    assert passes(charger, Alternator(rated_a=60.0), idling=True) == pytest.approx(
        0.9 * 4 * (14.2 - 4 * OHM)
    )
    assert passes(charger, Alternator(volts=11.0)) == 0.0
    # A cut-out of next to nothing: past half of the voltage more amps carry less power.
    low = replace(charger, cut_out_v=1.0)
    assert passes(low, Alternator(rated_a=900.0)) == pytest.approx(0.9 * 14.2**2 / (4 * OHM))


@pytest.mark.parametrize(("volts", "starts"), [(12.81, True), (12.79, False), (13.3, True)])
def test_one_that_senses_holds_on_to_four_tenths_below_its_mark(volts: float, starts: bool) -> None:
    sensing = DcDc("v", "Charger", 60.0, 0.9, Alternator(volts=volts), WIDE, ignition=False)
    assert bool(passes(sensing) > 0.0) is starts
    assert passes(replace(sensing, ignition=True)) > 0.0


@pytest.mark.parametrize(
    ("air_c", "share"), [(20.0, 1.0), (35.0, 1.0), (45.0, 0.7), (60.0, 0.25), (90.0, 0.0)]
)
def test_heat_takes_three_hundredths_a_kelvin_from_forty_five_on(
    air_c: float, share: float
) -> None:
    """Its place is ten kelvins warmer than the air."""
    charger = DcDc("v", "Charger", 60.0, 0.9)
    assert heat_share(charger, np.array([air_c]))[0] == pytest.approx(share)


def test_what_a_charger_draws_is_the_smaller_root() -> None:
    """(14 - .1 I) I = 130: 10 A and 130 A."""
    watts, volts = np.array([130.0, 600.0, 0.0]), np.full(3, 14.0)
    assert input_current_a(watts, volts, 0.1) == pytest.approx([10.0, 70.0, 0.0])
    assert input_current_a(watts, np.array([13.0, 12.0, 0.0]), 0.0) == pytest.approx([10, 50, 0])


def test_half_current_is_half_of_its_rating_and_hot_air_less() -> None:
    charger = DcDc("v", "Charger", 60.0, 0.9, feed=WIDE, half_current=True)
    found = dcdc_series(charger, around(drive(10, 11.5), air_c=45.0))
    assert found.rating_a == 30.0
    assert found.could_a[10:12] == pytest.approx([30.0, 15.0])
    assert found.limit_a[10:12] == pytest.approx([21.0, 10.5])
    whole = 0.9 * 70 * (14.2 - 70 * OHM)
    assert found.offer_w[10:12] == pytest.approx([whole, whole / 2])


# --- A relay.


def relayed(alternator: Alternator, **more: object) -> tuple[float, float, float]:
    """(share closed, limit, whether power may flow back) in the hour of a drive."""
    relay = Relay("r", "Relay", alternator, WIDE, **more)  # type: ignore[arg-type]
    found = relay_series(relay, around(drive(10, 11)))
    assert found.feed_s == pytest.approx(1 / OHM)
    return float(found.on[10]), float(found.limit_a[10]), float(found.offer_w[10])


def test_a_relay_closes_by_voltage_and_passes_what_the_alternator_spares() -> None:
    assert relayed(Alternator(rated_a=90.0)) == (1.0, 60.0, 0.0)
    assert relayed(Alternator(rated_a=90.0), fuse_a=None) == (1.0, 70.0, 0.0)
    assert relayed(Alternator(rated_a=90.0), fuse_a=40.0) == (1.0, 40.0, 0.0)
    assert relayed(Alternator(rated_a=90.0, volts=13.29)) == (0.0, 0.0, 0.0)
    assert relayed(Alternator(rated_a=90.0, volts=13.3)) == (1.0, 60.0, 0.0)
    assert relayed(Alternator(rated_a=90.0, volts=12.0), forced=True) == (1.0, 60.0, 1.0)
    # A smart one that has just fallen holds it closed down to 12.8 V.
    fallen = Alternator(rated_a=90.0, smart=True, smart_v=12.8, smart_after_min=0.0)
    assert relayed(fallen)[0] == 1.0
    assert relayed(replace(fallen, smart_v=12.79))[0] == 0.0


# --- Mains and a generator.


def test_mains_is_there_on_a_hook_up_or_standing_by_but_not_in_an_outage() -> None:
    hookup, outage = hours(8, 12), hours(10, 11)
    assert mains_on(hookup, outage, standby=False).sum() == 3.0
    assert mains_on(NONE, outage, standby=True).sum() == 23.0
    charger = MainsCharger("m", "Mains", 10.0, 0.9, supply_w=100.0)
    found = mains_series(charger, around(hookup=hookup, outage=outage))
    assert found.limit_a[8:13].tolist() == [10.0, 10.0, 0.0, 10.0, 0.0]
    assert found.offer_w[8:13] == pytest.approx([90.0, 90.0, 0.0, 90.0, 0.0])
    assert mains_series(replace(charger, supply_w=None), around()).offer_w.min() > 1e9


SMALL = Generator("g", "Generator", 900.0, idle_l_h=0.2, full_l_h=0.56, tank_l=2.0)
PLUGS = (MainsCharger("a", "A", 10.0, 0.9), MainsCharger("b", "B", 20.0, 0.8, supply_w=500.0))


def test_a_generator_feeds_the_first_charger_or_the_one_that_is_named() -> None:
    assert charger_of(SMALL, PLUGS) is PLUGS[0]
    assert charger_of(replace(SMALL, feeds="b"), PLUGS) is PLUGS[1]
    assert charger_of(replace(SMALL, feeds="c"), PLUGS) is None
    assert charger_of(SMALL, (DcDc("v", "V", 5.0, 0.9),)) is None


def test_it_gives_while_it_runs_and_there_is_no_mains() -> None:
    given = around(generator=hours(8, 12), hookup=hours(10, 11), sources=PLUGS)
    found = SMALL.forcing(given)
    assert found.on[7:13].tolist() == [0.0, 1.0, 1.0, 0.0, 1.0, 0.0]
    assert found.limit_a[8] == found.could_a[8] == found.rating_a == 10.0
    assert found.offer_w[8] == pytest.approx(810.0)
    held = replace(SMALL, feeds="b").forcing(given)
    assert held.offer_w[8] == pytest.approx(400.0)
    weak = replace(SMALL, feeds="b", rated_w=300.0).forcing(given)
    assert weak.offer_w[8] == pytest.approx(240.0)
    nothing = SMALL.forcing(around(generator=hours(8, 12)))
    assert nothing.rating_a == 0.0
    assert not nothing.on.any()


def test_it_burns_by_its_load_for_the_part_of_the_hour_that_it_runs() -> None:
    """Half an hour at 450 W of 900 and a whole hour idling: .19 and .2 l."""
    assert fuel_l_h(SMALL, np.array([-50.0, 0.0, 450.0, 900.0, 1800.0])) == pytest.approx(
        [0.2, 0.2, 0.38, 0.56, 0.56]
    )
    on = hours(8, 10) - 0.5 * hours(8, 9)
    series = SMALL.forcing(around(generator=on, sources=PLUGS))
    taken_w = 0.5 * 450.0 * 0.9 * hours(8, 9)
    assert fuel_l(SMALL, series, taken_w, 1.0) == pytest.approx(0.5 * 0.38 + 0.2)
    quiet = replace(series, barred=hours(9, 10))
    assert fuel_l(SMALL, quiet, taken_w, 1.0) == pytest.approx(0.5 * 0.38)


def test_what_nobody_typed_of_a_generator_is_a_small_one_s() -> None:
    """docs/physics.md: .18 to .55 l/h, 2.1 l, 58 dB(A), silent in quiet hours, in the open."""
    one = Generator("g", "G", 900.0)
    told = (one.idle_l_h, one.full_l_h, one.tank_l, one.noise_db, one.noisy, one.stands)
    assert told == (0.18, 0.55, 2.1, 58.0, True, "open")


def test_kinds_stand_in_their_order_and_offer_usual_minutes() -> None:
    """Sun, vehicle, mains, generator, and what comes later; an hour of a generator costs fuel."""
    places = [kind.place for kind in SOURCE_KINDS.values()]
    assert places == sorted(set(places))
    assert list(SOURCE_KINDS)[:4] == ["sun", "vehicle", "mains", "generator"]
    knobs = {key: kind.knob for key, kind in SOURCE_KINDS.items() if kind.knob}
    assert knobs["vehicle"].usual_min == (30, 60)
    assert knobs["generator"].usual_min == (60, 120)
    assert {key for key, knob in knobs.items() if knob.euro_h} == {"generator"}
    assert knobs["generator"].euro_h == (0.4, 1.5)


def test_a_hook_up_in_quiet_hours_is_heard_only_of_a_noisy_charger() -> None:
    quiet = (Window(0, 1440),)
    for noisy in (True, False):
        charger = replace(PLUGS[0], noisy=noisy)
        run = simulate(a_case(mains=(charger,), standby=True, soc0=0.2, quiet=quiet))
        assert bool(run.taken_a.sum() == 0.0) is noisy
