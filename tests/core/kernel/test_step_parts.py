"""The step's parts, one function at a time and uncompiled, each against a formula or by hand."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank, bank_tables
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.kernel import arithmetic, bank_step, bus
from oddkettle.core.kernel.records import (
    BANK,
    BANK_STATE,
    CHARGER,
    OFFER,
    OPERATING_POINT,
    SWITCHES,
)
from tests.core.kernel.plain_kernel import one, part, plain, several

__all__ = ["plain"]
STEP_H = 1 / 12


# --- Arithmetic.


@pytest.mark.parametrize(
    ("celsius", "row"),
    [(-40.0, 0), (-99.0, 0), (25.0, 650), (25.04, 650), (25.06, 651), (80.0, 1200), (99.0, 1200)],
)
def test_a_temperature_has_the_nearest_tenth_s_row(celsius: float, row: int) -> None:
    assert arithmetic.temperature_row(celsius) == row


@pytest.mark.parametrize(
    ("celsius", "amps"), [(-0.1, 0.0), (0.0, 10.0), (4.9, 10.0), (5.0, 1e12), (25.0, 1e12)]
)
def test_cold_bars_and_holds_back(celsius: float, amps: float) -> None:
    assert arithmetic.max_charge_a(celsius, 0.0, 5.0, 10.0) == amps


def test_pads_run_for_the_part_of_a_step_that_takes_them_to_their_mark() -> None:
    """From 4 to 8 C: free it would fall to 0 + (4 - 0) x .9 = 3.6; whole they lift it by 10 K."""
    share = part(arithmetic, "heater_share")
    assert share(4.0, 8.0, 0.0, 0.9, 10.0) == pytest.approx(0.44)
    assert share(-9.0, 8.0, -20.0, 0.9, 10.0) == 1.0
    assert share(20.0, 8.0, 20.0, 0.9, 10.0) == 0.0


@pytest.mark.parametrize(
    ("begin", "end", "share"),
    [(12.0, 11.0, 1.0), (12.0, 10.8, 1.0), (12.0, 10.0, 0.6), (10.8, 10.0, 0.0), (10.0, 9.0, 0.0)],
)
def test_a_falling_voltage_meets_its_cut_off_within_a_step(
    begin: float, end: float, share: float
) -> None:
    assert part(arithmetic, "part_above")(begin, end, 10.8) == pytest.approx(share)


# --- A bank.


def readied(soc: float, lag: float = 0.0, celsius: float = 25.0, **bank: float) -> tuple[Any, ...]:
    tables = bank_tables(Bank(AGM, 100.0, link_mohm=2.0, **bank), STEP_H)  # type: ignore[arg-type]
    point, state = one(OPERATING_POINT), one(BANK_STATE, soc=soc, lag=lag, temperature_c=celsius)
    numbers = np.zeros(1, BANK)
    numbers[0] = tables.bank
    bank_step.ready_bank(
        0, tables.curves[None], tables.by_temperature[None], numbers[0], state, point
    )
    return tables, numbers[0], state, point


@pytest.mark.parametrize(
    ("soc", "lag", "celsius"),
    [(0.6, 0.0, 25.0), (0.6234, 0.05, 4.0), (0.95, 0.02, 31.0), (0.1, -0.03, -9.0)],
)
def test_a_bank_is_readied_at_its_head_and_its_level(
    soc: float, lag: float, celsius: float
) -> None:
    """Voltage and ohms by its head, what absorption takes and what stays by its level."""
    tables, numbers, _, point = readied(soc, lag, celsius)
    row = tables.by_temperature[round((celsius + 40) * 10)]
    grid = -0.2 + 0.001 * np.arange(len(tables.curves))
    head = soc - lag

    def at(name: str, where: float) -> float:
        return float(np.interp(where, grid, tables.curves[name]))

    lead = numbers.lead_ohm
    ohm = lead + row.ohm_factor * at("cell_ohm", head)
    charge = lead + row.ohm_factor * at("charge_ohm", head)
    take = max(charge, row.accept_factor * at("accept_ohm", soc))
    slope = (at("ocv_v", head + 1e-7) - at("ocv_v", head - 1e-7)) / 2e-7
    if abs(head * 1000 - round(head * 1000)) < 1e-6:
        slope = (at("ocv_v", head + 0.001) - at("ocv_v", head)) / 0.001
    up = slope * numbers.soc_per_a
    down = up + slope * numbers.lag_gain
    recovers = slope * lag * (1 - numbers.lag_decay)
    expected = {
        "ohm": ohm,
        "charge_ohm": charge,
        "take_ohm": take,
        "head": head,
        "rest_v": at("ocv_v", head) + recovers / 2,
        "hold_v": at("ocv_v", head) + recovers,
        "give_s": 1 / (ohm + down / 2),
        "take_s": 1 / (take + up / 2),
        "hold_ohm": take + up,
        "hold_give_ohm": ohm + down,
        "drift_ohm": down,
        "empty": row.empty_head,
        "leak_soc": row.leak,
        "kept": at("coulombic", soc),
        "into_a": 0.0,
        "pinned_a": 0.0,
    }
    assert {name: float(point[name]) for name in expected} == pytest.approx(expected, rel=1e-4)


def test_absorption_is_slower_by_the_bank_s_own_acceptance_and_an_empty_one_leaks_nothing() -> None:
    usual, slow = (readied(0.9, acceptance=share)[3] for share in (1.0, 0.5))
    assert slow.take_ohm == pytest.approx(2 * usual.take_ohm)
    assert readied(0.0)[3].leak_soc == 0.0
    assert readied(1e-6)[3].leak_soc == 0.0
    assert readied(0.01)[3].leak_soc > 0.0


@pytest.mark.parametrize(
    ("soc", "celsius", "amps"),
    [
        (0.5, 25.0, 30.0),
        (0.99, 25.0, 12.0),
        (1.0, 25.0, 0.0),
        (1.01, 25.0, 0.0),
        (0.5, 3.0, 10.0),
        (0.5, -1.0, 0.0),
    ],
)
def test_a_bank_takes_no_more_than_its_limit_the_cold_and_its_room(
    soc: float, celsius: float, amps: float
) -> None:
    """Of 100 Ah a hundredth in five minutes is 12 A."""
    bank = one(BANK, charge_limit_a=30.0, fill_a=1200.0, gentle_c=5.0, gentle_a=10.0)
    state = one(BANK_STATE, soc=soc, temperature_c=celsius)
    assert part(bank_step, "most_into_a")(bank, state) == pytest.approx(amps)


@pytest.mark.parametrize("amps", [24.0, -24.0, 0.0])
def test_a_bank_moves_on_by_its_charge_its_lag_and_its_warmth(amps: float) -> None:
    """24 A for five minutes are 2 Ah: of charge nine tenths stay, of discharge the lag grows."""
    bank = one(
        BANK,
        soc_per_a=STEP_H / 100,
        lag_decay=0.8,
        lag_gain=0.0002,
        heat_decay=0.9,
        k_per_w=0.5,
        offset_k=3.0,
    )
    state = one(BANK_STATE, soc=0.5, lag=0.04, temperature_c=20.0)
    point = one(OPERATING_POINT, into_a=amps, kept=0.9, leak_soc=1e-4, charge_ohm=0.02, ohm=0.01)
    bank_step.move_bank(bank, state, point, 5.0, 10.0)
    assert state.soc == pytest.approx(0.5 + {24.0: 0.018, -24.0: -0.02, 0.0: 0.0}[amps] - 1e-4)
    assert state.lag == pytest.approx(0.032 + {24.0: 0.0, -24.0: 0.0048, 0.0: 0.0}[amps])
    warms = 5.0 + 576 * {24.0: 0.02, -24.0: 0.01, 0.0: 0.0}[amps]
    rest = 13.0 + 0.5 * warms
    assert state.temperature_c == pytest.approx(rest + 0.9 * (20.0 - rest))
    full = one(BANK_STATE, soc=0.9999)
    bank_step.move_bank(bank, full, one(OPERATING_POINT, into_a=24.0, kept=1.0), 0.0, 10.0)
    assert full.soc == 1.0


# --- The bus.

GIVES = {"rest_v": 13.0, "give_s": 100.0, "take_s": 40.0}


def found_v(
    start: float,
    load: tuple[float, float, float],
    offer_w: float = 0.0,
    banks: tuple[dict[str, float], ...] = (GIVES,),
) -> tuple[float, ...]:
    """(V, drawn, into the banks, from the sources) with one source of so many watts."""
    points = several(OPERATING_POINT, *banks)
    chargers = several(CHARGER, {"cap_a": 1e9})
    offers = several(OFFER, {"power_w": offer_w, "limit_a": 1e9})
    found = bus.find_voltage(
        start,
        0,
        offers[None],
        chargers,
        np.arange(1),
        1 if offer_w else 0,
        1e12,
        points,
        len(banks),
        *load,
        1.0,
    )
    return tuple(float(value) for value in found)


@pytest.mark.parametrize("start", [13.0, 11.0, 16.0])
@pytest.mark.parametrize("load", [(260.0, 0.0, 0.0), (0.0, 20.0, 0.0), (0.0, 0.0, 2.0)])
def test_the_bus_stands_where_what_is_drawn_is_what_the_bank_gives(
    start: float, load: tuple[float, float, float]
) -> None:
    """Constant power, current and resistance, each from 13 V behind 10 mOhm."""
    volts, drawn, into, total = found_v(start, load)
    watts, amps, siemens = load
    exact = {
        260.0: (13 + (13**2 - 4 * 0.01 * 260) ** 0.5) / 2,
        20.0: 12.8,
        2.0: 13 / 1.02,
    }[watts or amps or siemens]
    assert volts == pytest.approx(exact, abs=2e-5)
    assert drawn == pytest.approx((13 - exact) * 100, abs=0.01)
    assert (into, total) == pytest.approx((-drawn, 0.0))


@pytest.mark.parametrize("start", [13.0, 11.0, 16.0, 14.2])
def test_what_comes_lifts_the_bus_by_what_the_bank_takes(start: float) -> None:
    """260 W beside 2 A of load: V (V - 13) 40 = 260 - 2 V."""
    volts, _, into, total = found_v(start, (0.0, 2.0, 0.0), 260.0)
    root = max(np.roots([40.0, -518.0, -260.0]).real)
    assert volts == pytest.approx(root, abs=2e-5)
    assert into == pytest.approx((root - 13) * 40, abs=0.01)
    assert total == pytest.approx(into + 2.0)


@pytest.mark.parametrize("start", [12.0, 13.4, 15.0])
def test_between_two_banks_the_bus_stands_where_one_pours_into_the_other(start: float) -> None:
    """13.2 V giving by 100 S, 12.8 V taking by 40: (1320 + 512) / 140, and a load between."""
    banks = (GIVES | {"rest_v": 13.2}, GIVES | {"rest_v": 12.8})
    volts, *_ = found_v(start, (0.0, 0.0, 0.0), banks=banks)
    assert volts == pytest.approx(1832 / 140, abs=2e-5)
    volts, *_ = found_v(start, (0.0, 60.0, 0.0), banks=banks)
    assert volts == pytest.approx((1320 + 1280 - 60) / 200, abs=2e-5)
    pinned = (GIVES, GIVES | {"pinned_a": -5.0})
    volts, *_ = found_v(start, (0.0, 20.0, 0.0), banks=pinned)
    assert volts == pytest.approx(13 - 0.15, abs=2e-5)


def test_a_power_that_no_voltage_carries_collapses() -> None:
    """13 V behind 10 mOhm give 4,225 W at the very most, at 6.5 V; under 7.8 V nothing works."""
    assert found_v(13.0, (4300.0, 0.0, 0.0))[0] == 0.0
    assert found_v(13.0, (4100.0, 0.0, 0.0))[0] == 0.0
    assert found_v(13.0, (4000.0, 0.0, 0.0))[0] == pytest.approx(
        (13 + (169 - 160) ** 0.5) / 2, abs=1e-3
    )


def test_current_is_shared_by_lift_and_conductance_and_none_is_left_over() -> None:
    points = several(OPERATING_POINT, GIVES | {"rest_v": 13.2}, GIVES | {"rest_v": 12.8})
    bus.share_out(13.1, 1.0, points, 2)
    # By their own: -10 and 12 A; one less than they would is shared 100 to 40.
    assert list(points["into_a"]) == pytest.approx([-10 - 100 / 140, 12 - 40 / 140])
    points = several(OPERATING_POINT, GIVES, GIVES | {"pinned_a": -5.0})
    bus.share_out(12.8, -24.0, points, 2)
    assert list(points["into_a"]) == pytest.approx([-19.0, -5.0])
    alone = several(OPERATING_POINT, GIVES)
    bus.share_out(12.8, -7.0, alone, 1)
    assert alone[0].into_a == -7.0


def test_a_bank_that_would_run_empty_gives_what_it_has_left() -> None:
    """A hundredth above empty, of 100 Ah in five minutes with no lag: 12 A."""
    banks = several(BANK, *[{"soc_per_a": STEP_H / 100, "lag_gain": 0.0}] * 2)
    points = several(
        OPERATING_POINT,
        {"into_a": -13.0, "head": 0.01, "empty": 0.0},
        {"into_a": -11.0, "head": 0.01, "empty": 0.0},
    )
    assert bus.pin_emptying(points, banks, 2) == 1
    assert list(points["pinned_a"]) == pytest.approx([-12.0, 0.0])
    bus.let_go(points)
    assert list(points["pinned_a"]) == [0.0, 0.0]
    under = several(OPERATING_POINT, {"into_a": -1.0, "head": -0.01, "empty": 0.0})
    assert bus.pin_emptying(under, banks, 1) == 1
    assert -1e-9 < under[0].pinned_a < 0.0
    lagging = several(BANK, {"soc_per_a": STEP_H / 100, "lag_gain": STEP_H / 100})
    points = several(OPERATING_POINT, {"into_a": -7.0, "head": 0.01, "empty": 0.0})
    assert bus.pin_emptying(points, lagging, 1) == 1
    assert points[0].pinned_a == pytest.approx(-6.0)


def carried(volts: float, **point: float) -> float:
    points = several(
        OPERATING_POINT,
        {"into_a": -24.0, "head": 0.5, "empty": 0.0, "give_s": 100.0, "drift_ohm": 0.05} | point,
    )
    banks = several(BANK, {"soc_per_a": STEP_H / 100, "cutoff_v": 10.8})
    return float(bus.part_carried(volts, points, banks, 1))


def test_a_box_carries_its_loads_until_it_is_empty_or_its_voltage_meets_the_cut_off() -> None:
    """24 A for five minutes are two hundredths; they move the voltage by 24 A x .05 = 1.2 V."""
    assert carried(12.0) == 1.0
    assert carried(12.0, head=0.01) == pytest.approx(0.5)
    assert carried(12.0, head=-0.01) == 0.0
    assert carried(12.0, into_a=5.0, head=0.0) == 1.0
    assert carried(12.0, into_a=-0.5, head=0.25 * STEP_H / 100) == pytest.approx(0.5)
    assert carried(12.0, into_a=0.0, head=-0.01) == 1.0
    # From 11.4 down to 10.2 V: half of the step stands above 10.8.
    assert carried(10.8) == pytest.approx(0.5)
    assert carried(10.8, give_s=0.5) == pytest.approx(0.5)
    assert carried(10.1) == 0.0
    assert carried(0.0) == 0.0


def settled(load_w: float, *banks: dict[str, float], **switches: float) -> tuple[float, ...]:
    """(V, drawn, into the banks, served) of banks of 100 Ah each, with nothing on offer."""
    points = several(OPERATING_POINT, *banks)
    held = several(BANK, *[{"soc_per_a": STEP_H / 100, "cutoff_v": 10.8}] * len(banks))
    switched = one(SWITCHES, **{"bus_v": 13.0, **switches})
    found = bus.settle_bus(
        0,
        np.zeros((1, 0), OFFER),
        np.zeros(0, CHARGER),
        np.zeros(0, np.int64),
        0,
        points,
        held,
        len(banks),
        load_w,
        0.0,
        0.0,
        1e12,
        switched,
    )
    return (*(float(value) for value in found), float(switched.cut))


WHOLE = GIVES | {"head": 0.5, "empty": 0.0}


def test_a_load_is_served_whole_or_for_the_part_that_is_left_or_not_at_all() -> None:
    """20 A of 260 W for five minutes are 1.7 hundredths of a charge."""
    volts, drawn, into, served, cut = settled(260.0, WHOLE)
    assert (served, cut) == (1.0, 0.0)
    assert into == pytest.approx(-drawn)
    # Half of that is left: half of the step is served, as a mean over the whole, and then no more.
    half = drawn * STEP_H / 100 / 2
    volts, part_drawn, _, served, cut = settled(260.0, WHOLE | {"head": half})
    assert (served, cut) == (pytest.approx(0.5, abs=0.01), 1.0)
    assert part_drawn == pytest.approx(drawn / 2, rel=0.02)
    # What no voltage carries is not served at all: the bus stands at rest.
    volts, drawn, into, served, cut = settled(9000.0, WHOLE)
    assert (volts, drawn, into, served, cut) == (pytest.approx(13.0), 0.0, 0.0, 0.0, 1.0)
    # Cut out before, it stays so.
    assert settled(260.0, WHOLE, cut=1.0)[1:4] == (0.0, 0.0, 0.0)


def test_of_two_banks_the_emptying_one_gives_what_it_has_and_the_other_the_rest() -> None:
    """26 A between two alike; the second has 4 A of its own left for the step."""
    little = 4 * STEP_H / 100
    volts, drawn, into, served, _ = settled(338.0, WHOLE, WHOLE | {"head": little})
    assert served == 1.0
    assert into == pytest.approx(-drawn)
    assert (13.0 - volts) * 100 == pytest.approx(drawn - 4.0, abs=0.05)
    # Both empty within the step: what they have is what is served.
    *_, served, cut = settled(338.0, WHOLE | {"head": little}, WHOLE | {"head": little})
    assert (served, cut) == (pytest.approx(8 / 26.3, abs=0.02), 1.0)


# --- What is switched.
