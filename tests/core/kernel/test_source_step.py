"""Sources within one step, uncompiled and by hand: their order, what each gives, their stages."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from oddkettle.core.kernel import source_step
from oddkettle.core.kernel.records import (
    ABSORPTION,
    BULK,
    CHARGER,
    FLOAT,
    OFFER,
    OPERATING_POINT,
    SECOND,
)
from tests.core.kernel.plain_kernel import one, plain, several

__all__ = ["plain"]


CHARGES = {"absorb_v": 14.4, "float_v": 13.6, "second_v": 14.0}


@pytest.mark.parametrize(
    ("stage", "volts"), [(BULK, 14.4), (ABSORPTION, 14.4), (FLOAT, 13.6), (SECOND, 14.0)]
)
def test_a_charger_holds_its_stage_s_voltage(stage: float, volts: float) -> None:
    assert source_step.stage_v(one(CHARGER, **CHARGES, stage=stage)) == volts


def lined_up(chargers: Any, offers: Any, celsius: float = 25.0, most_a: float = 50.0) -> list[int]:
    points = several(
        OPERATING_POINT,
        {"hold_v": 12.9, "hold_ohm": 0.1, "hold_give_ohm": 0.02},
        {"hold_v": 15.0, "hold_ohm": 0.1, "hold_give_ohm": 0.5},
    )
    active = np.zeros(len(chargers), np.int64)
    count = source_step.line_up(0, offers[None], chargers, points, 2, most_a, celsius, active)
    return [int(j) for j in active[:count]]


def test_sources_line_up_by_what_they_hold_and_equals_by_their_order() -> None:
    chargers = several(
        CHARGER,
        CHARGES | {"absorb_v": 14.0},
        CHARGES,
        CHARGES | {"feed_s": 50.0},
        CHARGES,
        CHARGES | {"taken_a": 9.0, "waited": 5.0, "stage": FLOAT},
    )
    offers = several(OFFER, *[{"limit_a": 20.0}] * 4, {"limit_a": 0.0})
    assert lined_up(chargers, offers) == [2, 1, 3, 0]
    assert (chargers[4].taken_a, chargers[4].waited, chargers[4].stage) == (0.0, 0.0, BULK)
    # 14.4 V lifts the first bank's 12.9 by 1.5 V over .1 ohm; the second's 15 V give .6 over .5.
    assert chargers[1].cap_a == pytest.approx(15.0 - 1.2)
    assert chargers[0].cap_a == pytest.approx(11.0 - 2.0)
    assert chargers[2].cap_a == 50.0
    assert lined_up(chargers, offers, most_a=5.0)[0] == 2
    assert chargers[1].cap_a == 5.0


def test_a_charger_that_reckons_with_warmth_holds_less_above_25_degrees() -> None:
    """-24 mV a kelvin at 35 C: .24 V less."""
    charger = several(CHARGER, CHARGES | {"comp_v_per_k": -0.024})
    lined_up(charger, several(OFFER, {"limit_a": 20.0}), celsius=35.0)
    assert charger[0].set_v == pytest.approx(14.16)


def given(volts: float, chargers: Any, offers: Any, **more: float) -> tuple[float, float]:
    told = {"shared_a": 1e12, "drawn": 2.0, "d_drawn": -0.1, "served": 1.0} | more
    active = np.arange(len(chargers), dtype=np.int64)
    total, slope = source_step.sources_at(
        volts, 0, offers[None], chargers, active, len(chargers), *told.values()
    )
    return float(total), float(slope)


def test_a_source_gives_its_power_within_its_amps_and_what_there_is_room_for() -> None:
    """130 W at 13 V; 5 A of a limit; and 4 A into the bank beside 2 of loads."""
    wide = several(CHARGER, {"cap_a": 99.0})
    assert given(13.0, wide, several(OFFER, {"power_w": 130.0, "limit_a": 30.0})) == pytest.approx(
        (10.0, -10.0 / 13.0)
    )
    assert given(13.0, wide, several(OFFER, {"power_w": 130.0, "limit_a": 5.0})) == (5.0, 0.0)
    assert wide[0].held == 0.0
    tight = several(CHARGER, {"cap_a": 4.0})
    offer = several(OFFER, {"power_w": 130.0, "limit_a": 30.0})
    assert given(13.0, tight, offer) == pytest.approx((6.0, -0.1))
    assert (tight[0].held, tight[0].taken_a) == (1.0, 6.0)
    # Where the bank gives what the loads take there is room for nothing.
    none = several(CHARGER, {"cap_a": -3.0})
    assert given(13.0, none, offer) == (0.0, 0.0)


def test_the_second_source_gives_what_the_first_leaves_room_for() -> None:
    two = several(CHARGER, {"cap_a": 8.0}, {"cap_a": 8.0})
    offers = several(OFFER, *[{"power_w": 78.0, "limit_a": 30.0}] * 2)
    total, slope = given(13.0, two, offers)
    assert total == pytest.approx(10.0)
    assert list(two["taken_a"]) == pytest.approx([6.0, 4.0])
    # What all together give stays what the loads and the cap make it.
    assert slope == pytest.approx(-0.1)


def test_one_limit_for_two_goes_to_the_first_and_what_it_cannot_use_to_the_next() -> None:
    """7 A for both: 6 and 1. Where the first is held to 3, the second has 4 of them."""
    offers = several(OFFER, *[{"power_w": 78.0, "limit_a": 30.0}] * 2)
    two = several(CHARGER, *[{"cap_a": 99.0, "shared": 1.0}] * 2)
    # The second one's current is the limit's, whatever the voltage: only the first one's moves.
    assert given(13.0, two, offers, shared_a=7.0) == pytest.approx((7.0, -6.0 / 13.0))
    assert list(two["taken_a"]) == pytest.approx([6.0, 1.0])
    first_held = several(CHARGER, {"cap_a": 1.0, "shared": 1.0}, {"cap_a": 99.0, "shared": 1.0})
    given(13.0, first_held, offers, shared_a=7.0)
    assert list(first_held["taken_a"]) == pytest.approx([3.0, 4.0])
    hardly = several(CHARGER, {"cap_a": -1.6, "shared": 1.0}, {"cap_a": 99.0, "shared": 1.0})
    given(13.0, hardly, offers, shared_a=6.0)
    assert list(hardly["taken_a"]) == pytest.approx([0.4, 5.6])
    apart = several(CHARGER, {"cap_a": 99.0, "shared": 1.0}, {"cap_a": 99.0})
    given(13.0, apart, offers, shared_a=5.0)
    assert list(apart["taken_a"]) == pytest.approx([5.0, 6.0])


@pytest.mark.parametrize(
    ("emf_v", "forced", "served", "amps", "slope"),
    [
        (13.4, 0.0, 1.0, 8.0, -20.0),
        (12.5, 0.0, 1.0, 0.0, 0.0),
        (12.5, 1.0, 1.0, -10.0, -20.0),
        (11.0, 1.0, 1.0, -30.0, 0.0),
        (12.5, 1.0, 0.5, 0.0, 0.0),
        (15.0, 0.0, 1.0, 30.0, 0.0),
    ],
)
def test_a_relay_passes_by_its_wire_and_back_only_where_it_is_forced(
    emf_v: float, forced: float, served: float, amps: float, slope: float
) -> None:
    """20 S of wire at a bus of 13 V, fused for 30 A."""
    relay = several(CHARGER, {"feed_s": 20.0, "cap_a": 99.0})
    offer = several(OFFER, {"emf_v": emf_v, "limit_a": 30.0, "power_w": forced})
    assert given(13.0, relay, offer, served=served) == pytest.approx((amps, slope))


def moved(volts: float = 14.4, level: float = 0.9, into: float = 5.0, **charger: float) -> Any:
    now = one(CHARGER, **{"tail_a": 3.0, "absorb_steps": 4.0, **CHARGES, **charger})
    source_step.move_stage(now, volts, level, into)
    return now.stage, now.waited


def test_a_charger_s_stages_follow_the_current_and_the_clock() -> None:
    assert moved() == (BULK, 0.0)
    assert moved(held=1.0) == (ABSORPTION, 1.0)
    assert moved(level=0.9901) == (ABSORPTION, 1.0)
    assert moved(level=0.99) == (BULK, 0.0)
    # Absorption ends under the tail current or after its steps; a second one follows if there is.
    assert moved(held=1.0, stage=ABSORPTION, waited=1.0, into=2.9) == (FLOAT, 0.0)
    assert moved(held=1.0, stage=ABSORPTION, waited=1.0, into=3.0) == (ABSORPTION, 2.0)
    assert moved(held=1.0, stage=ABSORPTION, waited=3.0) == (FLOAT, 0.0)
    assert moved(held=1.0, stage=ABSORPTION, waited=3.0, second_steps=2.0) == (SECOND, 0.0)
    assert moved(stage=SECOND, waited=0.0, second_steps=2.0) == (SECOND, 1.0)
    assert moved(stage=SECOND, waited=1.0, second_steps=2.0) == (FLOAT, 0.0)
    # Float ends when the bus sags three tenths, or when it is time for a refresh.
    assert moved(stage=FLOAT, volts=13.31) == (FLOAT, 1.0)
    assert moved(stage=FLOAT, volts=13.29) == (BULK, 0.0)
    assert moved(stage=FLOAT, volts=13.5, waited=8.0, refresh_steps=10.0) == (FLOAT, 9.0)
    assert moved(stage=FLOAT, volts=13.5, waited=9.0, refresh_steps=10.0) == (BULK, 0.0)
