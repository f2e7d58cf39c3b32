"""Banks: how batteries add up, and what is refused."""

from __future__ import annotations

import numpy as np
import pytest

from oddkettle.core.bank import (
    DISCHARGE_OHM,
    OCV_V,
    Bank,
    bank_tables,
    chemistry_named,
    open_circuit_v,
    state_grid,
)
from oddkettle.core.fault import PlanFault
from oddkettle.core.outlook import level_from_rested_v
from tests.core.boxes import AGM, LIFEPO4


def test_parallel_adds_amp_hours_and_halves_resistance() -> None:
    one, two = (bank_tables(Bank(AGM, 100.0, parallel=n), 1 / 12) for n in (1, 2))
    assert two.limits.capacity_ah == 2 * one.limits.capacity_ah
    assert two.curves[DISCHARGE_OHM] == pytest.approx(one.curves[DISCHARGE_OHM] / 2)
    assert two.curves[OCV_V] == pytest.approx(one.curves[OCV_V])


def test_series_adds_volts() -> None:
    one = bank_tables(Bank(AGM, 100.0), 1 / 12)
    two = bank_tables(Bank(AGM, 100.0, series=2, system_v=24.0), 1 / 12)
    assert two.curves[OCV_V] == pytest.approx(2 * one.curves[OCV_V])
    assert two.limits.capacity_ah == one.limits.capacity_ah


def test_two_twelves_in_series_are_refused_on_a_twelve_volt_box() -> None:
    with pytest.raises(PlanFault) as caught:
        bank_tables(Bank(AGM, 100.0, series=2), 1 / 12)
    assert str(caught.value) == (
        "Two 12 V batteries in series make 24 V, but this box runs at 12 V. "
        "Wire them in parallel, or set the box to 24 V."
    ) or str(caught.value).startswith("2 12 V batteries in series make 24 V")
    assert caught.value.where == ("box", "battery", "series")


def test_too_few_in_series_are_told_how_many() -> None:
    with pytest.raises(PlanFault, match="Put 2 in series"):
        bank_tables(Bank(AGM, 100.0, battery_v=6.0), 1 / 12)


def test_an_unknown_chemistry_is_told_what_there_is() -> None:
    with pytest.raises(PlanFault, match="lifepo4, agm"):
        chemistry_named("unobtainium")


@pytest.mark.parametrize("chemistry", [LIFEPO4, AGM])
def test_rested_voltage_rises_with_level_and_meets_its_knots(chemistry: object) -> None:
    volts = open_circuit_v(chemistry, state_grid())  # type: ignore[arg-type]
    inside = state_grid() <= 1.0
    assert np.all(np.diff(volts[inside]) > 0)
    knots, wanted = np.array(chemistry.ocv).T  # type: ignore[attr-defined]
    assert open_circuit_v(chemistry, knots) == pytest.approx(wanted)  # type: ignore[arg-type]


def test_a_voltmeter_says_little_of_lithium_and_much_of_lead() -> None:
    lithium = level_from_rested_v(Bank(LIFEPO4, 90.0), 13.18)
    lead = level_from_rested_v(Bank(AGM, 90.0), 12.50)
    assert lithium.high - lithium.low > 0.2
    assert lead.high - lead.low < 0.1
    assert lead.mid == pytest.approx(0.6)


def test_half_full_resistances_are_the_published_ones() -> None:
    at = int(np.argmin(np.abs(state_grid() - 0.5)))
    for chemistry, mohm in ((LIFEPO4, 8.0), (AGM, 5.5)):
        ohm = bank_tables(Bank(chemistry, 100.0), 1 / 12).curves[DISCHARGE_OHM, at]
        assert 1000 * ohm == pytest.approx(mohm, rel=0.05)
