"""Banks: how batteries add up, and what is refused."""

from __future__ import annotations

import numpy as np
import pytest

from oddkettle.core.battery.bank import (
    Bank,
    alpha_factor,
    bank_tables,
    check_bank,
    chemistry_named,
    content_share,
    open_circuit_v,
    resistance_factor,
    state_grid,
)
from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.battery.chemistries.flooded import FLOODED
from oddkettle.core.battery.chemistries.gel import GEL
from oddkettle.core.battery.chemistries.nmc import NMC
from oddkettle.core.battery.datasheet import Datasheet, with_datasheet
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.run_metrics import level_from_rested_v
from tests.core.boxes import AGM, LIFEPO4


def test_parallel_adds_amp_hours_and_halves_resistance() -> None:
    one, two = (bank_tables(Bank(AGM, 100.0, parallel=n), 1 / 12) for n in (1, 2))
    assert two.bank["capacity_ah"] == 2 * one.bank["capacity_ah"]
    assert two.curves["cell_ohm"] == pytest.approx(one.curves["cell_ohm"] / 2)
    assert two.curves["ocv_v"] == pytest.approx(one.curves["ocv_v"])


def test_series_adds_volts() -> None:
    one = bank_tables(Bank(AGM, 100.0), 1 / 12)
    two = bank_tables(Bank(AGM, 100.0, series=2, system_v=24.0), 1 / 12)
    assert two.curves["ocv_v"] == pytest.approx(2 * one.curves["ocv_v"])
    assert two.bank["capacity_ah"] == one.bank["capacity_ah"]


def test_two_twelves_in_series_are_refused_on_a_twelve_volt_box() -> None:
    with pytest.raises(PlanError) as caught:
        check_bank(Bank(AGM, 100.0, series=2))
    assert str(caught.value) == (
        "Two 12 V batteries in series make 24 V, but this box runs at 12 V. "
        "Wire them in parallel, or set the box to 24 V."
    ) or str(caught.value).startswith("2 12 V batteries in series make 24 V")
    assert caught.value.where == ("box", "battery", "series")


def test_too_few_in_series_are_told_how_many() -> None:
    with pytest.raises(PlanError, match="Put 2 in series"):
        check_bank(Bank(AGM, 100.0, battery_v=6.0))


def test_an_unknown_chemistry_is_told_what_there_is() -> None:
    with pytest.raises(PlanError, match="lifepo4, agm"):
        chemistry_named("unobtainium")


@pytest.mark.parametrize("chemistry", CHEMISTRIES.values())
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
    for chemistry, mohm in ((LIFEPO4, 8.0), (AGM, 5.5), (GEL, 7.0), (FLOODED, 7.0)):
        tables = bank_tables(Bank(chemistry, 100.0), 1 / 12)
        ohm = tables.curves["cell_ohm"][at] + tables.bank["lead_ohm"]
        assert 1000 * ohm == pytest.approx(mohm, rel=0.05)


def test_three_and_four_nmc_cells_make_a_twelve_volt_box_and_two_do_not() -> None:
    check_bank(Bank(NMC, 40.0, cells=3))
    check_bank(Bank(NMC, 40.0, cells=4))
    assert Bank(NMC, 40.0, cells=3).nominal_v == pytest.approx(11.1)
    assert Bank(NMC, 40.0, cells=4).nominal_v == pytest.approx(14.8)
    with pytest.raises(PlanError, match=r"2 Li-ion .* make 7.4 V") as caught:
        check_bank(Bank(NMC, 40.0, cells=2))
    assert caught.value.limit == "3 to 4 cells in series in all"


def test_cold_swells_lithiums_resistance_nearly_threefold_at_freezing() -> None:
    """exp(28000/8.314 * (1/273.15 - 1/298.15)) = 2.81."""
    assert resistance_factor(LIFEPO4, 0.0) == pytest.approx(2.81, abs=0.01)
    assert resistance_factor(LIFEPO4, 25.0) == 1.0
    assert resistance_factor(AGM, 0.0) < resistance_factor(LIFEPO4, 0.0)


def test_lead_loses_a_fifth_of_its_content_at_freezing() -> None:
    assert content_share(AGM, 0.0) == pytest.approx(0.80)
    assert content_share(FLOODED, 0.0) == pytest.approx(0.75)
    assert content_share(AGM, 60.0) == pytest.approx(1.05)
    assert content_share(LIFEPO4, -10.0) == 1.0


def test_leads_acceptance_halves_every_fifteen_kelvin() -> None:
    assert alpha_factor(AGM, 10.0) == pytest.approx(0.5)
    assert alpha_factor(AGM, 60.0) == pytest.approx(1.3)
    assert alpha_factor(LIFEPO4, -5.0) == pytest.approx(1.0)


def test_a_datasheet_wins_over_the_generic_value_and_is_marked() -> None:
    sheet = Datasheet(internal_mohm=20.0, charge_limit_a=10.0, cycles=500, no_charge_below_c=-20.0)
    own = with_datasheet(LIFEPO4, sheet, 50.0, 1.0)
    tables = bank_tables(Bank(own, 50.0), 1 / 12)
    at = int(np.argmin(np.abs(state_grid() - 0.5)))
    assert 1000 * (tables.curves["cell_ohm"][at] + tables.bank["lead_ohm"]) == pytest.approx(20.0)
    assert own.charge_limit_c == 0.2
    assert own.cold.barred_below_c == -20.0
    assert own.life.cycles_at_full * 0.8**-1.2 == pytest.approx(500)
    assert own.sources["resistance"].mark == "datasheet"
    assert own.ocv == LIFEPO4.ocv
    assert own.sources["ocv"].mark == "textbook"


def test_a_typed_resistance_keeps_the_rise_near_empty_and_in_the_cold() -> None:
    # 3.4 x (1 + 17 exp(-0.5/0.12)) + 4 = 8.30 mOhm is the generic battery at half charge: typed,
    # it changes nothing; half of it halves cells and leads at every state.
    def ohm(typed: float | None) -> np.ndarray:
        own = with_datasheet(LIFEPO4, Datasheet(internal_mohm=typed), 100.0, 1.0)
        tables = bank_tables(Bank(own, 100.0), 1 / 12)
        return np.asarray(tables.curves["cell_ohm"] + tables.bank["lead_ohm"])

    generic = ohm(None)
    assert ohm(8.2961) == pytest.approx(generic, rel=1e-4)
    assert ohm(8.2961 / 2) == pytest.approx(generic / 2, rel=1e-4)


def test_a_twenty_four_volt_batterys_sheet_is_scaled_to_the_class() -> None:
    sheet = Datasheet(internal_mohm=30.0, rested_v=((0.0, 20.0), (1.0, 27.0)))
    own = with_datasheet(LIFEPO4, sheet, 100.0, 2.0)
    assert own.ocv == ((0.0, 10.0), (1.0, 13.5))
    big = Bank(own, 100.0, battery_v=24.0, system_v=24.0)
    tables = bank_tables(big, 1 / 12)
    at = int(np.argmin(np.abs(state_grid() - 0.5)))
    assert 1000 * (tables.curves["cell_ohm"][at] + tables.bank["lead_ohm"]) == pytest.approx(30.0)
    assert tables.curves["ocv_v"][at] == pytest.approx(23.5)
