"""What a bank does under loads and chargers."""

from __future__ import annotations

import numpy as np
import pytest

from oddkettle.core.bank import RECONNECT_HEAD, Bank, bank_tables
from oddkettle.core.kernel import FLOAT, Sources, drive
from tests.core.boxes import AGM, LIFEPO4, STEP_H, steady


def test_a_rested_bank_keeps_its_level_and_shows_its_rested_voltage() -> None:
    track = steady(LIFEPO4, 24, soc0=0.5)
    assert track.soc[-1] == pytest.approx(0.5, abs=1e-12)
    assert track.bus_v == pytest.approx(np.full(288, 13.13), abs=1e-6)


def test_a_light_load_by_hand() -> None:
    """10 W for ten hours at about 13.1 V is 7.6 Ah of a 100 Ah bank."""
    track = steady(LIFEPO4, 10, load_w=10.0, soc0=0.6)
    assert (track.soc[0] - track.soc[-1]) * 100 == pytest.approx(100 / 13.15, rel=0.01)


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
    assert track.soc[-1] > 0.985
    assert track.stage[0, -1] == FLOAT
    assert track.bus_v.max() <= LIFEPO4.absorption_v + 1e-6


def test_lead_takes_its_last_fifth_slowly() -> None:
    """Alpha of 1.0 an hour: no faster than e^-t from 80 % on, whatever the charger."""
    track = steady(AGM, 3, charger_a=60.0, soc0=0.8)
    hours = np.arange(len(track.soc)) * STEP_H
    assert np.all(1 - track.soc >= 0.2 * np.exp(-hours) - 0.005)
    assert track.soc[-1] == pytest.approx(1 - 0.2 * np.exp(-3), abs=0.02)


def test_a_lower_charging_voltage_fills_lead_more_slowly() -> None:
    low = steady(AGM, 4, charger_a=20.0, soc0=0.5, absorption_v=13.8)
    right = steady(AGM, 4, charger_a=20.0, soc0=0.5)
    assert low.soc[-1] < right.soc[-1] - 0.02


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
    limit = np.zeros((1, steps))
    limit[0, 24:] = 10.0
    sources = Sources(np.full((1, steps), 1e12), limit, np.array([[14.2, 13.5, 3.0, 48.0]]))
    track = drive(bank_tables(Bank(LIFEPO4, 100.0), STEP_H), sources, np.full(steps, 60.0), 0.002)
    back = 24 + int(np.argmax(track.served[24:] == 1.0))
    assert np.all(track.served[2:back] == 0.0)
    assert track.soc[back] > RECONNECT_HEAD
    assert track.soc[back - 1] <= RECONNECT_HEAD


def test_a_load_the_bank_cannot_carry_at_all_is_refused_not_imagined() -> None:
    track = steady(LIFEPO4, 0.5, load_w=5000.0, soc0=0.8, ah=2.0)
    assert track.served[0] == 0.0
    assert track.soc[-1] == pytest.approx(0.8)


def test_sources_are_let_in_by_order_and_the_last_one_waits() -> None:
    """A 100 Ah AGM takes 30 A: 20 A from the first, 10 A of the second's 20 A."""
    steps = 3
    sources = Sources(
        np.full((2, steps), 1e12),
        np.full((2, steps), 20.0),
        np.array([[14.4, 13.6, 1.5, 48.0]] * 2),
    )
    track = drive(bank_tables(Bank(AGM, 100.0), STEP_H), sources, np.zeros(steps), 0.1)
    assert track.taken_a[:, 0] == pytest.approx([20.0, 10.0])


def test_in_float_a_charger_carries_the_loads() -> None:
    track = steady(LIFEPO4, 24, charger_a=20.0, load_w=60.0, soc0=0.95)
    late = slice(200, None)
    assert track.taken_a[0, late] == pytest.approx(track.load_a[late], abs=0.6)
    assert abs(track.soc[-1] - track.soc[200]) < 0.01
