"""Lithium titanate: what sets it apart."""

from __future__ import annotations

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank, open_circuit_v
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.chemistries.lto import LTO
from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.mains import MainsCharger
from tests.core.boxes import a_case, lamp, steady
from tests.core.judgement.test_judgement import judged


def test_half_full_it_rests_at_two_volts_three_a_cell() -> None:
    """Cell datasheets: 2.3 V nominal, 1.9 to 2.65 V from empty to full."""
    assert open_circuit_v(LTO, np.array([0.0, 0.5, 1.0])) == pytest.approx([9.5, 11.5, 13.25])


def test_it_charges_in_a_frost_that_bars_other_lithium() -> None:
    gained = {
        kind.key: steady(kind, 2, charger_a=20.0, soc0=0.3, air_c=-15.0).soc[-1, 0] - 0.3
        for kind in (LTO, LIFEPO4)
    }
    assert gained["lifepo4"] <= 0.0
    # 40 Ah in, but for half a percent.
    assert gained["lto"] == pytest.approx(0.398, abs=0.005)


def test_what_the_cold_bars_it_names() -> None:
    assert steady(LTO, 2, charger_a=20.0, soc0=0.3, air_c=-35.0).soc[-1, 0] <= 0.3


@pytest.mark.parametrize(("volts", "said"), [(13.9, False), (14.4, True)])
def test_a_charger_set_for_another_lithium_is_refused_by_its_profile(
    volts: float, said: bool
) -> None:
    """2.8 V a cell are 14.0 V: 14.4 V would be too much."""
    charger = MainsCharger("m", "Mains", 20.0, 0.9, profile=Profile(volts, 13.0))
    case = a_case(bank=Bank(LTO, 100.0), mains=(charger,), profile=Profile(13.5, 13.0))
    assert ("profile-mismatch" in judged(case)) is said


def test_a_night_takes_more_amperes_at_its_lower_volts() -> None:
    """100 W for 8 h: at some 11.3 V about 70 Ah, where LiFePO4 gives 61."""
    run = simulate(a_case(bank=Bank(LTO, 100.0), soc0=0.9, appliances=(lamp(100.0, 0.0, 8.0),)))
    used = float(run.track.load_a.sum() / 12)
    assert 68 < used < 72
