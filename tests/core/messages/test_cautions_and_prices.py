"""Content that people rely on: cautions are complete, prices and weights keep their order."""

from __future__ import annotations

import pytest

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.construction.parts import prices
from oddkettle.core.judgement.cautions import CAUTIONS


def about(part: str) -> list[str]:
    return [caution.key for caution in CAUTIONS if part in caution.about]


def test_every_caution_has_a_title_a_sentence_and_a_source_of_its_own() -> None:
    assert len({caution.key for caution in CAUTIONS}) == len(CAUTIONS)
    for caution in CAUTIONS:
        assert caution.title
        assert caution.text.endswith(".")
        assert "[" in caution.source
        assert caution.about


@pytest.mark.parametrize(
    "part",
    ["battery", "second", "sun", "vehicle", "mains", "inverter", "heater", "medical", "flooded"],
)
def test_whatever_can_hurt_has_a_caution(part: str) -> None:
    assert about(part)


def test_mains_and_the_alternator_defer_to_local_codes() -> None:
    for key in ("mains", "vehicle", "battery", "sun"):
        caution = next(one for one in CAUTIONS if one.key == key)
        assert "local code" in caution.text


def test_every_lithium_chemistry_has_the_fire_caution_and_no_lead_one_does() -> None:
    for chemistry in CHEMISTRIES.values():
        fire = [key for key in about(chemistry.key) if key.startswith("lithium")]
        assert bool(fire) is not chemistry.lead


def test_every_chemistry_has_a_price_and_prices_grow_with_size() -> None:
    for kind in CHEMISTRIES.values():
        assert kind.euro(2000) == pytest.approx(2 * kind.euro(1000))
    for tag in (prices.TRACKING, prices.PWM, prices.DCDC, prices.MAINS, prices.COMBINED):
        assert tag.euro(30) > tag.euro(10) > 0
        assert tag.kg(30) > tag.kg(10) > 0


def test_the_cheap_school_is_the_cheaper_one() -> None:
    assert prices.PWM.euro(10) < prices.TRACKING.euro(10)
    assert prices.RELAY.euro(30) < prices.DCDC.euro(30)
    assert prices.COMBINED.euro(30) < prices.TRACKING.euro(30) + prices.DCDC.euro(30)
