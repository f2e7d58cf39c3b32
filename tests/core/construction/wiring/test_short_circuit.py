"""Prospective short-circuit currents by hand, and the laws they obey."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.datasheet import Datasheet, with_datasheet
from oddkettle.core.construction.wiring.fuses import FAMILIES
from oddkettle.core.construction.wiring.short_circuit import short_circuit_a
from oddkettle.core.simulation.case import SecondBank
from oddkettle.core.simulation.own_wiring import Choice
from oddkettle.core.sources.relay import Relay
from tests.core.construction.boxes import FEED, board, full_case
from tests.support.tiers import examples


@pytest.mark.parametrize(
    ("key", "mohm"),
    [("lifepo4", 1.5), ("nmc", 1.5), ("lto", 1.5), ("agm", 2.5), ("gel", 4.0), ("flooded", 4.0)],
)
def test_what_a_hundred_amp_hours_give_is_the_textbooks(key: str, mohm: float) -> None:
    chemistry = CHEMISTRIES[key]
    full_v = chemistry.ocv[-1][1]
    assert short_circuit_a(Bank(chemistry, 100.0)) == pytest.approx(full_v / mohm * 1000, rel=1e-6)
    assert chemistry.sources["short_mohm"].mark == "textbook"


def test_the_bar_sees_the_bank_through_its_lead() -> None:
    found = board(full_case(Choice("battery", cable_mm2=10.0, run_m=0.5)))
    # 13.6 V / (1.5 + 2 x 0.5 x 1.91 mOhm)
    assert found.bar_a == pytest.approx(13.6 / 3.41e-3, rel=1e-3)
    small = next(c for c in found.circuits if c.key == "outlet-lamp")
    assert small.short_a == found.bar_a
    assert small.limited


def test_a_relay_brings_the_starter_battery_into_every_fault() -> None:
    relay = Relay("relay", "Relay", feed=FEED, fuse_a=60.0)
    choice = Choice("battery", cable_mm2=16.0, run_m=0.5)
    alone, joined = board(full_case(choice)), board(full_case(choice, vehicle=(relay,)))
    # 12.8 V / (12.8 / 3000 + 2 x 4 x 1.91 mOhm) = 12.8 / 19.55 mOhm
    assert joined.bar_a - alone.bar_a == pytest.approx(12.8 / 19.547e-3, rel=1e-3)
    feed = joined.of("feed-relay")
    assert feed is not None
    # At the vehicle's end 3 kA, at the bar what the house bank sends back: the larger counts.
    assert feed.short_a == pytest.approx(max(3000.0, alone.bar_a), rel=1e-3)
    assert feed.family == "class_t"


def test_a_small_bank_lets_every_blade_do() -> None:
    found = board(full_case(bank=Bank(AGM, 26.0), inverter=None))
    assert found.bar_a < 1000.0
    main = found.of("battery")
    assert main is not None
    assert main.family != "class_t"
    assert not any(c.limited for c in found.circuits)


# What a good builder fits: one battery of any size, or few in parallel, can be made safe.
@pytest.mark.parametrize(
    ("ah", "parallel", "series"),
    [(225, 1, 1), (280, 1, 1), (460, 1, 1), (200, 2, 1), (280, 2, 1), (100, 3, 1), (100, 4, 1),
     (280, 1, 2), (280, 2, 2)],
)  # fmt: skip
@pytest.mark.parametrize("key", ["lifepo4", "nmc", "lto"])
def test_a_usual_lithium_bank_finds_its_fuses(
    key: str, ah: float, parallel: int, series: int
) -> None:
    bank = Bank(CHEMISTRIES[key], ah, parallel=parallel, series=series, system_v=12.0 * series)
    found = board(full_case(bank=bank))
    assert [c.trouble for c in found.circuits if c.trouble] == []
    main = found.of("battery")
    assert main is not None
    # The fuse at each post breaks its own battery, and so does a lone battery's main fuse.
    breaker = main.post_family if parallel > 1 else main.family
    assert breaker is not None
    full_v = CHEMISTRIES[key].ocv[-1][1] * series
    own_a = full_v / (max(1.5 * 100 / ah, 1.0 if key == "nmc" else 0.8) * series / 1000)
    assert FAMILIES[breaker].breaks_a(15.0 * series) >= own_a


@pytest.mark.parametrize("key", ["agm", "gel", "flooded"])
@pytest.mark.parametrize(("ah", "parallel"), [(400.0, 1), (460.0, 1), (230.0, 2), (200.0, 3)])
def test_a_usual_lead_bank_finds_its_fuses(key: str, ah: float, parallel: int) -> None:
    found = board(full_case(bank=Bank(CHEMISTRIES[key], ah, parallel=parallel)))
    assert [c.trouble for c in found.circuits if c.trouble] == []


def test_a_pack_does_not_give_what_its_amp_hours_alone_would() -> None:
    """Links and posts in series: 280 Ah give 17 kA at the posts, and less behind any lead."""
    assert short_circuit_a(Bank(LIFEPO4, 280.0)) == pytest.approx(13.6 / 0.8e-3)
    assert short_circuit_a(Bank(LIFEPO4, 100.0)) == pytest.approx(13.6 / 1.5e-3)
    found = board(full_case(Choice("battery", run_m=0.5), bank=Bank(LIFEPO4, 280.0)))
    assert found.bar_a < 11_000.0


def test_a_sheets_own_resistance_counts() -> None:
    """8 mOhm on the sheet: at most twice what that lets through."""
    own = with_datasheet(LIFEPO4, Datasheet(internal_mohm=8.0), 100.0, 1.0)
    assert short_circuit_a(Bank(own, 100.0)) == pytest.approx(13.6 / 4e-3, rel=1e-6)


@settings(max_examples=examples(20), deadline=None)
@given(st.sampled_from(sorted(CHEMISTRIES)), st.floats(5, 400), st.floats(1.01, 4))
def test_more_amp_hours_give_more_and_a_cable_only_less(key: str, ah: float, more: float) -> None:
    chemistry = CHEMISTRIES[key]
    smaller, larger = (short_circuit_a(Bank(chemistry, size)) for size in (ah, ah * more))
    floor = chemistry.short_floor_mohm
    assert larger > smaller or chemistry.short_mohm * 100 / (ah * more) < floor
    found = board(full_case(bank=Bank(chemistry, ah)))
    assert found.bar_a < found.short_a


def test_two_banks_together_meet_at_the_bar() -> None:
    other = SecondBank(Bank(LIFEPO4, 100.0), 0.5)
    one = board(full_case(Choice("battery", cable_mm2=16.0)))
    both = board(full_case(Choice("battery", cable_mm2=16.0), second=other))
    second = both.of("second")
    assert second is not None
    assert both.bar_a > one.bar_a
    # Through its own fuse goes its own at the posts, which is more than the first sends to it.
    assert second.short_a == pytest.approx(13.6 / 1.5e-3, rel=1e-3)
