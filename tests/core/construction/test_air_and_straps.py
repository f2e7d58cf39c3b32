"""Air for gas and heat, straps, a battery apart: figures by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.flooded import FLOODED
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.construction.design import Building, OwnBuild, Shell, build_up
from oddkettle.core.construction.restraint import strap_n
from oddkettle.core.construction.ventilation import airing_of
from oddkettle.core.simulation.case import Case
from tests.core.construction.boxes import full_case, ran


def built(case: Case, **shell: object) -> Building:
    return build_up(ran(case), OwnBuild(shell=Shell(**shell)), "A box")  # type: ignore[arg-type]


def vents(building: Building) -> list[str]:
    assert building.faces is not None
    return [m.fitting.key for m in building.faces.mounted if m.fitting.kind == "vent"]


@pytest.mark.parametrize(
    ("bank", "m3_per_h", "cm2"),
    [
        # 0.05 x 6 cells x 8 mA/Ah x 110 Ah / 1000 and x 28.
        (Bank(AGM, 110.0), 0.264, 7.392),
        # 0.05 x 6 x 20 x 210 / 1000: two in parallel gas twice.
        (Bank(FLOODED, 105.0, parallel=2), 1.26, 35.28),
        # Twelve cells at 24 V.
        (Bank(AGM, 110.0, series=2, system_v=24.0), 0.528, 14.784),
        (Bank(LIFEPO4, 300.0), 0.0, 0.0),
    ],
)
def test_air_by_the_gas_rule(bank: Bank, m3_per_h: float, cm2: float) -> None:
    airing = airing_of(bank)
    assert airing.m3_per_h == pytest.approx(m3_per_h)
    assert airing.area_cm2 == pytest.approx(cm2)


def test_a_gassing_bank_gets_as_many_vents_as_its_gas_wants() -> None:
    # 35.3 cm2 at 17 a vent are three low and three high; an AGM bank's 7.4 are one of each.
    flooded = full_case(bank=Bank(FLOODED, 105.0, parallel=2))
    assert len(vents(built(flooded))) == 6
    assert len(vents(built(full_case(bank=Bank(AGM, 110.0))))) == 2
    assert vents(built(flooded, vented=False)) == []
    bought = {line.article.key: line.article.count for line in built(flooded).lines}
    assert bought["vents"] == 6


def test_a_battery_in_its_own_box_is_neither_carried_nor_placed_with_the_rest() -> None:
    case = full_case(bank=Bank(FLOODED, 105.0, parallel=2))
    whole, apart = built(case), built(case, battery_apart=True)
    assert apart.fits is not None
    assert not any(s.body.is_battery for s in apart.fits.standing)
    carried = whole.totals.carried_kg - apart.totals.carried_kg
    assert carried > 0.9 * case.bank.mass_kg
    keys = {line.article.key for line in apart.lines}
    assert {"battery", "battery-box", "straps", "straps:battery"} <= keys
    box = next(line.article.name for line in apart.lines if line.article.key == "battery-box")
    assert "35 cm² low and high" in box


def test_two_boxes_are_proposed_where_two_people_could_not_lift_one() -> None:
    heavy = built(full_case(bank=Bank(AGM, 200.0)))
    assert heavy.fits is not None
    assert "Make two boxes of it: the battery apart is" in heavy.fits.lift
    light = built(full_case())
    assert light.fits is not None
    assert "two boxes" not in light.fits.lift


@pytest.mark.parametrize(("kg", "newton"), [(40.0, 400.0), (20.4, 300.0), (10.0, 100.0)])
def test_a_strap_holds_twice_a_hard_stop_shared_by_two(kg: float, newton: float) -> None:
    # 2 x 9.81 m/s2 x 40 kg / 2 straps = 392 N, sold by the hundred.
    assert strap_n(kg) == newton


def test_shelves_that_a_layout_stands_on_are_bought() -> None:
    building = built(full_case())
    assert building.fits is not None
    heights = {s.z_mm for s in building.fits.standing if s.z_mm > 1.0}
    bought = [line.article.count for line in building.lines if line.article.key == "shelf"]
    assert bought == ([len(heights)] if heights else [])
    assert heights


def test_a_part_too_large_by_itself_is_told_by_how_much() -> None:
    building = built(full_case(), length_mm=300.0, width_mm=380.0, height_mm=600.0)
    assert building.fits is not None
    clash = next(c for c in building.fits.clashes if c.code == "missing")
    battery = next(line.article.bulk for line in building.lines if line.article.key == "battery")
    assert battery is not None
    assert "even by itself" in clash.text or "no room is left" in clash.text
    assert replace(battery) == battery
