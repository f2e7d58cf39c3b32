"""A bank's tables, entry by entry, from the formulas of docs/physics.md worked anew."""

from __future__ import annotations

from dataclasses import replace
from math import exp

import numpy as np
import pytest

from oddkettle.core.battery.bank import (
    Bank,
    bank_tables,
    check_bank,
    content_share,
    open_circuit_v,
    state_grid,
)
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.flooded import FLOODED
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.chemistries.nmc import NMC
from oddkettle.core.battery.chemistry import Chemistry
from oddkettle.core.battery.temperature import Housing
from oddkettle.core.messages.errors import PlanError

STEP_H = 1 / 12
TWO_BY_TWO = {"battery_ah": 80.0, "series": 2, "parallel": 2, "system_v": 24.0}
"""160 Ah at 24 V: volts twice those of the class, ohms 2 x 100 / 160 of those per 100 Ah."""
OHMS = 2 * 100 / 160


def at(bank: Bank, soc: float, name: str) -> float:
    state = state_grid()
    return float(np.interp(soc, state, bank_tables(bank, STEP_H).curves[name]))


def warm(chemistry: Chemistry, celsius: float, name: str) -> float:
    """The row is found as the loop finds it: by tenths of a kelvin from -40 C."""
    rows = bank_tables(Bank(chemistry, 100.0), STEP_H).by_temperature
    return float(rows[name][round((celsius + 40.0) * 10)])


def test_the_grid_goes_from_a_fifth_below_empty_to_a_step_past_full() -> None:
    state = state_grid()
    assert len(state) == 1202
    assert (state[0], state[200], state[1200]) == pytest.approx((-0.2, 0.0, 1.0))


@pytest.mark.parametrize("chemistry", [LIFEPO4, AGM])
def test_single_numbers_of_a_bank(chemistry: Chemistry) -> None:
    bank = Bank(
        chemistry,
        **TWO_BY_TWO,
        link_mohm=3.0,
        share=0.9,
        acceptance=1.25,
        housing=Housing(6.0, 2.5, 4.0),
    )
    told = bank_tables(bank, STEP_H).bank
    wells = chemistry.wells
    kept = exp(-wells.rate_per_h / 12)
    mass_kg = chemistry.kg_per_ah * 80 * 4
    expected = {
        "capacity_ah": 144.0,
        "soc_per_a": 1 / 12 / 144,
        "fill_a": 144 * 12,
        "charge_limit_a": 160 * chemistry.charge_limit_c,
        "barred_c": chemistry.cold.barred_below_c,
        "gentle_c": chemistry.cold.gentle_below_c,
        "gentle_a": 160 * chemistry.cold.gentle_c,
        "cutoff_v": 2 * chemistry.cutoff_v,
        "lag_decay": kept,
        "lag_gain": (1 / wells.share - 1) / wells.rate_per_h * (1 - kept) / 144,
        "lead_ohm": chemistry.resistance.leads_mohm / 1000 * OHMS + 0.003,
        "accept_scale": 0.8,
        "heat_decay": exp(-1 / 72),
        "k_per_w": 6 * 3600 / ((mass_kg + 4) * 1000),
        "offset_k": 2.5,
    }
    assert {name: float(told[name]) for name in expected} == pytest.approx(expected)
    assert bank.mass_kg == pytest.approx(mass_kg)
    assert bank.nominal_wh == pytest.approx(160 * 2 * chemistry.nominal_v)
    assert bank.usable_ah(0.25) == pytest.approx(120.0)
    assert bank.cells_in_series == 2 * chemistry.cells


@pytest.mark.parametrize("chemistry", [LIFEPO4, AGM])
def test_what_a_bank_shows_and_resists_is_its_chemistry_s_by_volts_and_size(
    chemistry: Chemistry,
) -> None:
    bank = Bank(chemistry, **TWO_BY_TWO)  # type: ignore[arg-type]
    for soc, volts in chemistry.ocv:
        assert at(bank, soc, "ocv_v") == pytest.approx(2 * volts)
    (low, v0), (high, v1) = chemistry.ocv[:2]
    # Below empty it goes on straight.
    below = v0 - 0.1 * (v1 - v0) / (high - low)
    assert at(bank, low - 0.1, "ocv_v") == pytest.approx(2 * below)
    r = chemistry.resistance
    for soc in (0.0, 0.25, 1.0):
        mohm = (
            r.base_mohm * (1 + r.swell * exp(-soc / r.reach)) + r.hyperbola_mohm / (soc + r.offset)
        ) * r.scale
        assert at(bank, soc, "cell_ohm") == pytest.approx(mohm / 1000 * OHMS)
    for name in ("cell_ohm", "charge_ohm"):
        assert at(bank, -0.15, name) == pytest.approx(at(bank, 0.0, name))
        assert at(bank, 1.001, name) == pytest.approx(at(bank, 1.0, name))


@pytest.mark.parametrize("chemistry", [LIFEPO4, AGM])
def test_absorption_meets_the_resistance_that_passes_alpha_s_amps(chemistry: Chemistry) -> None:
    """At its own absorption voltage (1 - exp(-alpha h)) / h of what is missing flows."""
    bank = Bank(chemistry, **TWO_BY_TWO)  # type: ignore[arg-type]
    share_h = (1 - exp(-chemistry.alpha_per_h / 12)) * 12
    for soc in (0.3, 0.9):
        over = 2 * chemistry.absorption_v - at(bank, soc, "ocv_v")
        assert over / at(bank, soc, "accept_ohm") == pytest.approx(share_h * (1 - soc) * 160)
    # At full a ten-thousandth is left to divide by.
    over = 2 * chemistry.absorption_v - at(bank, 1.0, "ocv_v")
    assert over / at(bank, 1.0, "accept_ohm") == pytest.approx(share_h * 1e-4 * 160)
    assert at(bank, -0.1, "accept_ohm") > 0.0


@pytest.mark.parametrize("chemistry", [LIFEPO4, AGM, FLOODED])
def test_charge_is_lost_above_four_fifths(chemistry: Chemistry) -> None:
    bank = Bank(chemistry, 100.0)
    low, full = chemistry.coulombic_low, chemistry.coulombic_full
    assert at(bank, 0.1, "coulombic") == pytest.approx(low)
    assert at(bank, 0.8, "coulombic") == pytest.approx(low)
    assert at(bank, 0.9, "coulombic") == pytest.approx((low + full) / 2)
    assert at(bank, 1.0, "coulombic") == pytest.approx(full)


# --- By warmth.


def test_rows_of_a_tenth_of_a_kelvin_from_forty_below_to_eighty_above() -> None:
    assert len(bank_tables(Bank(AGM, 100.0), STEP_H).by_temperature) == 1201


@pytest.mark.parametrize("chemistry", [LIFEPO4, AGM])
def test_warmth_changes_what_the_handbooks_say(chemistry: Chemistry) -> None:
    """Arrhenius for the cells; a month's leak doubles each 10 K; alpha by its own."""
    for celsius in (-20.0, 0.0, 25.0, 40.0):
        energy = chemistry.resistance.activation_j_mol / 8.314
        ohms = exp(energy * (1 / (celsius + 273.15) - 1 / 298.15))
        assert warm(chemistry, celsius, "ohm_factor") == pytest.approx(ohms)
        leak = chemistry.self_discharge_month / 730.5 / 12 * 2 ** ((celsius - 25) / 10)
        assert warm(chemistry, celsius, "leak") == pytest.approx(leak, rel=0.005)
        cold = chemistry.cold
        faster = min(2 ** ((celsius - 25) / cold.acceptance_halving_k), cold.acceptance_most)
        alpha = chemistry.alpha_per_h
        accepts = (1 - exp(-alpha / 12)) / (1 - exp(-alpha * faster / 12))
        assert warm(chemistry, celsius, "accept_factor") == pytest.approx(accepts)


def test_cold_locks_content_in_and_warmth_frees_a_little() -> None:
    """AGM: 0.8 % a kelvin below 25 C, and what is largest in its wells beyond the label."""
    cold = AGM.cold
    for celsius in (-10.0, 0.0, 20.0):
        share = 1 + cold.content_per_k * (celsius - 25)
        assert content_share(AGM, celsius) == pytest.approx(share)
    assert content_share(AGM, 35.0) == pytest.approx(
        min(1 + 10 * cold.content_gain_per_k, cold.content_most)
    )
    assert content_share(AGM, -400.0) == pytest.approx(0.1)
    assert content_share(AGM, 400.0) == pytest.approx(cold.content_most)
    empty = 1 - float(content_share(AGM, 0.0)) - (AGM.wells.largest - 1)
    assert warm(AGM, 0.0, "empty_head") == pytest.approx(max(empty, -0.198))
    # No deeper than two knots above the grid's end: the loop looks a knot further.
    wide = replace(AGM, wells=replace(AGM.wells, largest=1.6))
    assert warm(wide, 25.0, "empty_head") == pytest.approx(-0.2 + 2 * 0.001)


# --- What is refused.


@pytest.mark.parametrize(
    ("bank", "value", "limit", "remedy"),
    [
        (Bank(LIFEPO4, 50.0, series=2), 2, "12 V in all", "or set the box to 24 V."),
        (Bank(LIFEPO4, 50.0, system_v=24.0), 1, "24 V in all", "Put 2 in series"),
        (Bank(LIFEPO4, 50.0, battery_v=24.0), 1, "12 V in all", "Choose 12 V batteries."),
        (Bank(AGM, 50.0, battery_v=6.0, series=3, system_v=24.0), 3, "24 V in all", "Put 4"),
        (Bank(AGM, 50.0, battery_v=24.0, system_v=36.0), 1, "36 V in all", "Choose 36 V"),
    ],
)
def test_a_bank_of_another_voltage_is_told_what_would_fit(
    bank: Bank, value: int, limit: str, remedy: str
) -> None:
    with pytest.raises(PlanError) as caught:
        check_bank(bank)
    assert (caught.value.value, caught.value.limit) == (value, limit)
    assert caught.value.where == ("box", "battery", "series")
    assert remedy in str(caught.value.remedy)


@pytest.mark.parametrize(
    ("cells", "system_v", "fits"),
    [
        (2, 12.0, False),
        (3, 12.0, True),
        (4, 12.0, True),
        (5, 12.0, False),
        (6, 24.0, True),
        (5, 24.0, False),
        (8, 24.0, True),
        (9, 24.0, False),
    ],
)
def test_cells_make_a_class_from_three_twentieths_below_to_a_quarter_above(
    cells: int, system_v: float, fits: bool
) -> None:
    """NMC at 3.65 V a cell: 10.2 to 15 V are 3 and 4 of them, 20.4 to 30 V 6 to 8."""
    bank = Bank(NMC, 50.0, cells=cells, system_v=system_v)
    if fits:
        check_bank(bank)
        return
    with pytest.raises(PlanError) as caught:
        check_bank(bank)
    most = {12.0: (3, 4), 24.0: (6, 8)}[system_v]
    assert caught.value.limit == f"{most[0]} to {most[1]} cells in series in all"
    assert f"Use {most[1]} cells" in str(caught.value.remedy)
    assert caught.value.where == ("box", "battery", "cells")


def test_a_curve_between_its_points_is_straight() -> None:
    (s0, v0), (s1, v1) = LIFEPO4.ocv[2:4]
    middle = np.array([(s0 + s1) / 2])
    assert open_circuit_v(LIFEPO4, middle) == pytest.approx((v0 + v1) / 2)
