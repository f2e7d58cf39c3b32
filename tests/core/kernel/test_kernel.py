"""What a bank does under loads and chargers."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank, bank_tables
from oddkettle.core.battery.chemistry import Chemistry
from oddkettle.core.battery.temperature import Heater, Housing
from oddkettle.core.kernel.constants import RECONNECT_HEAD
from oddkettle.core.kernel.records import FLOAT
from oddkettle.core.simulation.case import SecondBank
from oddkettle.core.simulation.kernel_inputs import Demand, Sources, Track, drive, no_sources
from oddkettle.core.simulation.run import simulate
from tests.core.boxes import (
    AGM,
    LIFEPO4,
    STEP_H,
    a_case,
    asking,
    charger,
    offering,
    resting,
    steady,
)


def boxed(
    chemistry: Chemistry,
    offers: np.ndarray,
    volts: list[tuple[float, float]],
    *,
    load_w: float = 0.0,
    soc0: float = 0.5,
    feed_s: float = 0.0,
    shared: float = 0.0,
    shared_a: float = 1e12,
) -> Track:
    """A 100 Ah bank at 25 C with sources given step by step."""
    chargers = [
        charger(up, down, feed_s=feed_s, tail_a=3.0, absorb_steps=48.0, shared=shared)
        for up, down in volts
    ]
    return drive(
        (bank_tables(Bank(chemistry, 100.0), STEP_H),),
        Sources(offers, np.concatenate(chargers), shared_a),
        Demand(asking(len(offers), load_w), np.zeros(0)),
        resting(soc0),
        np.full(len(offers), 25.0),
    )


def test_a_rested_bank_keeps_its_level_and_shows_its_rested_voltage() -> None:
    track = steady(LIFEPO4, 24, soc0=0.5)
    assert track.soc[-1, 0] == pytest.approx(0.5 - 0.025 / 30.4, abs=1e-4)
    assert track.bus_v == pytest.approx(np.full(288, 13.13), abs=1e-3)


def test_a_light_load_by_hand() -> None:
    """10 W for ten hours at about 13.1 V is 7.6 Ah of a 100 Ah bank."""
    track = steady(LIFEPO4, 10, load_w=10.0, soc0=0.6)
    assert (track.soc[0, 0] - track.soc[-1, 0]) * 100 == pytest.approx(100 / 13.15, rel=0.01)


def test_voltage_sags_by_current_times_resistance() -> None:
    """130 W on a half-full 100 Ah bank of 8.27 mOhm: about 9.97 A and 0.083 V."""
    track = steady(LIFEPO4, 1 / 12, load_w=130.0, soc0=0.5)
    ohm = 0.0034 * (1 + 17 * np.exp(-0.5 / 0.12)) + 0.004
    assert 13.13 - track.bus_v[0] == pytest.approx(track.load_a[0] * ohm, rel=0.05)


def test_the_bank_takes_no_more_than_its_charge_limit() -> None:
    track = steady(AGM, 1, charger_a=80.0, soc0=0.1)
    assert track.into_bank_a.max() == pytest.approx(30.0)


def test_absorption_tapers_and_then_floats() -> None:
    track = steady(LIFEPO4, 6, charger_a=30.0, soc0=0.5)
    assert track.into_bank_a[0] == pytest.approx(30.0)
    assert track.soc[-1, 0] > 0.985
    assert track.stage[-1, 0] == FLOAT
    assert track.bus_v.max() <= LIFEPO4.absorption_v + 1e-6


def test_lead_takes_its_last_fifth_slowly() -> None:
    """Alpha of 1.0 an hour: no faster than e^-t from 80 % on, whatever the charger."""
    track = steady(AGM, 3, charger_a=60.0, soc0=0.8)
    hours = np.arange(len(track.soc)) * STEP_H
    assert np.all(1 - track.soc[:, 0] >= 0.2 * np.exp(-hours) - 0.005)
    assert track.soc[-1, 0] == pytest.approx(1 - 0.2 * np.exp(-3), abs=0.02)


def test_a_lower_charging_voltage_fills_lead_more_slowly() -> None:
    low = steady(AGM, 4, charger_a=20.0, soc0=0.5, absorption_v=13.8)
    right = steady(AGM, 4, charger_a=20.0, soc0=0.5)
    assert low.soc[-1, 0] < right.soc[-1, 0] - 0.02


def test_an_empty_bank_cuts_its_loads_and_says_how_much_it_denied() -> None:
    track = steady(LIFEPO4, 10, load_w=100.0, soc0=0.2)
    assert track.soc.min() >= -1e-9
    assert track.served[0] == 1.0
    assert track.served[-1] == 0.0
    cut = int(np.argmax(track.served < 1.0))
    assert 0 < cut * STEP_H < 3
    assert np.all(track.load_a[cut + 1 :] == 0.0)


def test_loads_come_back_only_when_there_is_something_to_give() -> None:
    steps = 96
    offers = offering(steps, [0.0])
    offers["limit_a"][24:] = 10.0
    track = boxed(LIFEPO4, offers, [(14.2, 13.5)], load_w=60.0, soc0=0.002)
    back = 24 + int(np.argmax(track.served[24:] == 1.0))
    assert np.all(track.served[2:back] == 0.0)
    assert track.soc[back] > RECONNECT_HEAD
    assert track.soc[back - 1] <= RECONNECT_HEAD


def test_a_load_the_bank_cannot_carry_at_all_is_refused_not_imagined() -> None:
    track = steady(LIFEPO4, 0.5, load_w=5000.0, soc0=0.8, ah=2.0)
    assert track.served[0] == 0.0
    assert track.soc[-1, 0] == pytest.approx(0.8, abs=1e-4)


def test_sources_are_let_in_by_order_and_the_last_one_waits() -> None:
    """A 100 Ah AGM takes 30 A: 20 A from the first, 10 A of the second's 20 A."""
    offers = offering(3, [20.0, 20.0])
    track = boxed(AGM, offers, [(14.4, 13.6)] * 2, soc0=0.1)
    assert track.taken_a[0] == pytest.approx([20.0, 10.0])


def test_in_float_a_charger_carries_the_loads() -> None:
    track = steady(LIFEPO4, 24, charger_a=20.0, load_w=60.0, soc0=0.95)
    late = slice(200, None)
    assert track.taken_a[late, 0] == pytest.approx(track.load_a[late], abs=0.6)
    assert abs(track.soc[-1, 0] - track.soc[200]) < 0.01


def test_a_source_with_a_lower_set_point_stops_first() -> None:
    """Both see 13.3 V and more on the way up; the one that is set to 13.25 V has stopped."""
    track = steady(LIFEPO4, 3, charger_a=[10.0, 10.0], absorption_v=[13.25, 14.2], soc0=0.6)
    late = int(np.argmax(track.bus_v > 13.3))
    assert late > 0
    assert track.taken_a[late, 0] == pytest.approx(0.0, abs=1e-6)
    assert track.taken_a[late, 1] > 0.0


def test_a_shared_output_limit_is_shared_in_order() -> None:
    offers = offering(3, [20.0, 20.0])
    track = boxed(LIFEPO4, offers, [(14.2, 13.5)] * 2, shared=1.0, shared_a=25.0)
    assert track.taken_a[0] == pytest.approx([20.0, 5.0])


def test_a_relay_passes_what_voltage_and_wire_let_through() -> None:
    """14.2 V through 20 mOhm into a half-full lithium bank of 8.3 mOhm: (14.2-13.13)/28.3 mOhm."""
    offers = offering(1, [60.0], power_w=0.0)
    offers["emf_v"] = 14.2
    track = boxed(LIFEPO4, offers, [(14.2, 13.5)], feed_s=1 / 0.020)
    ohm = 0.020 + 0.0034 * (1 + 17 * np.exp(-0.5 / 0.12)) + 0.004
    assert track.taken_a[0, 0] == pytest.approx((14.2 - 13.13) / ohm, rel=0.01)


def test_only_a_relay_that_is_forced_closed_drains_the_box() -> None:
    for forced, sign in ((0.0, 0.0), (1.0, -1.0)):
        offers = offering(1, [60.0], power_w=forced)
        offers["emf_v"] = 12.5
        track = boxed(LIFEPO4, offers, [(14.2, 13.5)], feed_s=1 / 0.020)
        assert np.sign(track.taken_a[0, 0]) == sign


@pytest.mark.parametrize("load_w", [1.0, 15.0, 60.0, 250.0, 390.0])
def test_nothing_jumps_when_a_full_bank_in_float_meets_a_load(load_w: float) -> None:
    """Nearly full a bank takes a hundredth of what it gives: the search must not overshoot."""
    track = steady(LIFEPO4, 24, charger_a=30.0, load_w=load_w, soc0=0.93)
    assert np.all(track.served == 1.0)
    assert track.stage[-1, 0] == FLOAT
    assert track.soc.min() >= 0.93


def test_resistive_and_constant_current_loads_follow_the_voltage() -> None:
    amps = steady(LIFEPO4, 1, load_a=5.0, soc0=0.6)
    assert amps.load_a == pytest.approx(np.full(12, 5.0))
    assert (amps.soc[0, 0] - amps.soc[-1, 0]) * 100 == pytest.approx(5.0, abs=0.01)


def test_lead_is_emptied_by_its_wells_and_recovers_at_rest() -> None:
    """At one hour's rate AGM gives about 62 %; after a rest its head stands higher again."""
    track = steady(replace(AGM, cutoff_v=9.6), 4, load_a=62.0)
    cut = int(np.argmax(track.served < 1.0))
    assert cut * STEP_H == pytest.approx(1.0, abs=0.1)
    assert track.lag[cut, 0] > 0.2
    assert track.lag[-1, 0] < 0.5 * track.lag[cut + 1, 0]


def test_a_battery_left_alone_loses_a_few_percent_a_month() -> None:
    """2.5 % a month at 25 C, half of that at 15 C."""
    warm = steady(AGM, 30.4 * 24, step_h=1.0)
    cool = steady(AGM, 30.4 * 24, step_h=1.0, air_c=15.0)
    assert 1 - warm.soc[-1, 0] == pytest.approx(0.025, rel=0.01)
    assert 1 - cool.soc[-1, 0] == pytest.approx(0.0125, rel=0.01)


def test_lithium_below_freezing_takes_no_charge_and_little_below_five() -> None:
    for air_c, taken in ((-1.0, 0.0), (3.0, 10.0), (6.0, 30.0)):
        track = steady(LIFEPO4, 1 / 12, charger_a=30.0, soc0=0.4, air_c=air_c)
        assert track.into_bank_a[0] == pytest.approx(taken)


def test_a_barred_battery_lets_its_charger_feed_the_loads() -> None:
    track = steady(LIFEPO4, 1, charger_a=30.0, load_w=60.0, soc0=0.4, air_c=-8.0)
    assert track.into_bank_a == pytest.approx(np.zeros(12), abs=1e-9)
    assert track.taken_a[:, 0] == pytest.approx(track.load_a)
    assert track.soc[-1, 0] == pytest.approx(0.4, abs=1e-4)


def test_cold_lead_cuts_out_a_fifth_earlier() -> None:
    given = []
    for air_c in (25.0, 0.0):
        track = steady(AGM, 60, load_a=5.0, air_c=air_c)
        cut = int(np.argmax(track.served < 1.0)) + 1
        given.append(float(track.load_a[:cut].sum() * STEP_H))
    assert given[1] / given[0] == pytest.approx(0.8, abs=0.02)


def test_cold_lithium_gives_a_tenth_less_through_its_resistance_alone() -> None:
    """.85 to .90 of the rating at 0 C and C/5, before it warms itself."""
    track = steady(LIFEPO4, 8, load_a=20.0, air_c=0.0)
    cut = int(np.argmax(track.served < 1.0)) + 1
    assert 84 < float(track.load_a[:cut].sum() * STEP_H) < 94


def test_a_zero_degree_night_by_hand() -> None:
    """A battery at 20 C with 4 h lag in 0 C air stands at 20 * exp(-8/4) = 2.7 C after 8 h."""
    steps = 96
    track = drive(
        (bank_tables(Bank(LIFEPO4, 100.0), STEP_H),),
        no_sources(steps),
        Demand(asking(steps), np.zeros(0)),
        resting(0.8, celsius=20.0),
        np.zeros(steps),
    )
    assert track.battery_c[-1, 0] == pytest.approx(20 * np.exp(-2), abs=0.01)


def test_heater_pads_hold_the_battery_between_their_marks() -> None:
    track = steady(LIFEPO4, 48, air_c=-10.0, heater=(60.0, 4.0, 8.0))
    settled = track.battery_c[120:, 0]
    assert settled.min() > 3.5
    assert settled.max() < 8.01
    # In the long run the pads make up what 14 to 18 K of difference lose: R = 4 h/(12 kg kJ/K).
    ohm_k_per_w = 4 * 3600 / (12.0 * 1000)
    mean_w = float(track.heater_w[120:].mean())
    assert mean_w == pytest.approx((settled.mean() + 10.0) / ohm_k_per_w, rel=0.05)


def test_loads_are_shed_by_level_and_come_back_five_points_above() -> None:
    steps = 240
    offers = offering(steps, [0.0])
    offers["limit_a"][120:] = 20.0
    track = drive(
        (bank_tables(Bank(LIFEPO4, 100.0), STEP_H),),
        Sources(offers, charger(14.2, 13.5, tail_a=3.0, absorb_steps=48.0)),
        Demand(asking(steps, [90.0, 30.0]), np.array([0.5])),
        resting(0.6),
        np.full(steps, 25.0),
    )
    gone = int(np.argmax(track.shed > 0))
    back = gone + int(np.argmax(track.shed[gone:] == 0))
    assert track.soc[gone, 0] < 0.5 <= track.soc[gone - 1, 0]
    assert track.soc[back, 0] > 0.55 >= track.soc[back - 1, 0]
    assert track.load_a[gone] * track.bus_v[gone] == pytest.approx(30.0, rel=1e-4)


def test_a_fuller_bank_fills_an_emptier_one_through_the_lead_between() -> None:
    """13.31 against 13.00 V over 7.4 out, 8.5 in and 20 mOhm is 8.6 A; charge is kept."""
    steps = 288
    full, low = Bank(LIFEPO4, 100.0), Bank(LIFEPO4, 100.0, link_mohm=20.0)
    track = drive(
        tuple(bank_tables(bank, STEP_H) for bank in (full, low)),
        no_sources(steps),
        Demand(asking(steps), np.zeros(0)),
        resting(0.9, 0.3),
        np.full(steps, 25.0),
    )
    assert track.bank_a[0, 1] == pytest.approx(0.31 / 0.0359, rel=0.03)
    assert track.bank_a[:, 0] == pytest.approx(-track.bank_a[:, 1])
    assert track.soc[-1, 1] > 0.5
    assert track.soc[-1, 0] + track.soc[-1, 1] == pytest.approx(1.2, abs=0.01)


def test_a_bank_that_is_not_joined_only_rests() -> None:
    steps = 48
    track = drive(
        tuple(bank_tables(Bank(LIFEPO4, 100.0), STEP_H) for _ in range(2)),
        no_sources(steps),
        Demand(asking(steps, 60.0), np.zeros(0)),
        resting(0.9, 0.5),
        np.full(steps, 25.0),
        np.repeat([1, 2], steps // 2),
    )
    assert np.all(track.bank_a[:24, 1] == 0.0)
    assert track.soc[24, 1] == pytest.approx(0.5, abs=1e-3)
    assert track.bank_a[24, 1] != 0.0


def test_an_emptying_second_bank_gives_what_it_has_and_no_more() -> None:
    steps = 96
    track = drive(
        (bank_tables(Bank(LIFEPO4, 100.0), STEP_H), bank_tables(Bank(LIFEPO4, 10.0), STEP_H)),
        no_sources(steps),
        Demand(asking(steps, 120.0), np.zeros(0)),
        resting(0.9, 0.02),
        np.full(steps, 25.0),
    )
    assert track.soc[:, 1].min() > -1e-6
    assert np.all(track.served == 1.0)


def test_a_compensated_charger_holds_more_volts_in_the_cold() -> None:
    """-24 mV/K: 14.4 V at 25 C is 14.88 V at 5 C."""
    track = drive(
        (bank_tables(Bank(AGM, 100.0), STEP_H),),
        Sources(
            offering(12, [30.0]),
            charger(14.4, 13.6, tail_a=1.5, absorb_steps=48.0, comp_v_per_k=-0.024),
        ),
        Demand(asking(12), np.zeros(0)),
        resting(0.9, celsius=5.0),
        np.full(12, 5.0),
    )
    assert track.bus_v.max() == pytest.approx(14.88, abs=0.05)


def test_what_half_an_ampere_of_charge_meets_is_what_absorption_meets() -> None:
    """Nearly full a bank takes less than it gives: its ohms are more than those of discharge."""
    into, out_of = steady(AGM, 0.5, charger_a=0.5, soc0=0.9), steady(AGM, 0.5, load_a=0.5, soc0=0.9)
    assert into.into_bank_a.max() == pytest.approx(0.5)
    assert into.met_ohm[:, 0].min() > 2.0 * out_of.met_ohm[:, 0].max()


@pytest.mark.parametrize(("warmer_k", "other_k", "runs"), [(0.0, 40.0, True), (40.0, 0.0, False)])
def test_pads_go_by_the_first_bank_s_warmth(warmer_k: float, other_k: float, runs: bool) -> None:
    """One bank in the frost and one in a cabin, joined."""
    own, other = (
        Bank(LIFEPO4, 100.0, housing=Housing(offset_k=kelvin)) for kelvin in (warmer_k, other_k)
    )
    run = simulate(
        a_case(
            bank=own,
            second=SecondBank(other, 0.8, always=True),
            heater=Heater(30.0),
            low_c=(-10.0,),
            high_c=(-10.0,),
        )
    )
    assert bool(run.track.heater_w.sum() > 0.0) is runs
