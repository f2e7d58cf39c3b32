"""A battery's own curve: what is read of it, held against cells that another model made."""

from __future__ import annotations

import numpy as np
import pytest

from oddkettle.core.battery.bank import open_circuit_v
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.curve import rested_from_points
from oddkettle.plan.box import BatteryModel
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.usecases.plans.battery_curve import CurveAsked, CurveRead, read_curve
from tests.physics.curves import curve, own_table

LITHIUM = BatteryModel(chemistry="lifepo4", capacity_ah=100)
TWENTY_FOUR = BatteryModel(chemistry="lifepo4", capacity_ah=100, battery_v=24)
AGM = BatteryModel(chemistry="agm", capacity_ah=100)


def read(text: str, battery: BatteryModel = LITHIUM, **more: object) -> CurveRead:
    return read_curve(CurveAsked(battery=battery, text=text, **more))  # type: ignore[arg-type]


def at(found: CurveRead, percent: float) -> float:
    points = found.points
    return float(np.interp(percent, [p.percent for p in points], [p.volts for p in points]))


def test_three_points_move_the_typical_curve_and_lie_on_it() -> None:
    found = read("90 13.36\n50 13.20\n20 12.90")
    assert at(found, 90) == pytest.approx(13.36, abs=0.005)
    assert at(found, 50) == pytest.approx(13.20, abs=0.005)
    assert at(found, 20) == pytest.approx(12.90, abs=0.005)
    # Typical is 13.13 at a half: all that lies between moves with its neighbours.
    assert at(found, 40) - 13.08 == pytest.approx(0.07 * 2 / 3 + 0.05 / 3, abs=0.01)
    assert (found.points[0].percent, found.points[-1].percent) == (0.0, 100.0)
    assert "mV above the typical" in found.text[1]


def test_points_of_the_typical_curve_change_nothing() -> None:
    levels = np.linspace(0, 1, 11)
    volts = open_circuit_v(LIFEPO4, levels)
    same = rested_from_points(LIFEPO4, levels, volts)
    assert same[:, 1] == pytest.approx(open_circuit_v(LIFEPO4, same[:, 0]), abs=0.02)


def test_a_24_volt_battery_is_read_in_its_own_volts() -> None:
    found = read("50 26.3\n90 26.7", TWENTY_FOUR)
    assert at(found, 50) == pytest.approx(26.3, abs=0.01)


def test_a_discharge_gives_back_the_rested_curve_of_another_models_cell() -> None:
    """C/5 of the reference cell: its own rested voltage to 0.1 V from 30 to 95 %."""
    down, (rested_at, rested_v) = curve("lfp_dis_C5_25C"), np.array(own_table().ocv).T
    drawn = (1.0 - down.soc) * 100.0
    text = "Ah,V\n" + "\n".join(
        f"{ah:.3f},{v:.4f}" for ah, v in zip(drawn, down.voltage_v, strict=True)
    )
    found = read(text, kind="discharge", amps=-float(down.current_a[0]))
    levels = np.linspace(30, 95, 14)
    true = np.interp(levels / 100, rested_at, rested_v)
    gap = np.array([at(found, level) for level in levels]) - true
    typical = open_circuit_v(LIFEPO4, levels / 100) - true
    assert np.sqrt(np.mean(gap**2)) < 0.1
    assert np.sqrt(np.mean(gap**2)) < np.sqrt(np.mean(typical**2))


def test_a_curve_that_falls_is_refused_with_both_ends() -> None:
    with pytest.raises(PlanRefused, match=r"falls from 13\.30 V at 20 % to 12\.90 V at 90 %"):
        read("20 13.30\n90 12.90")


def test_another_number_of_cells_is_refused() -> None:
    with pytest.raises(PlanRefused, match="not a rested LiFePO4"):
        read("50 25.9\n90 26.6")


def test_what_is_refused_of_a_24_volt_battery_is_told_in_its_own_volts() -> None:
    with pytest.raises(PlanRefused, match=r"falls from 26\.60 V at 20 % to 25\.80 V at 90 %"):
        read("20 26.6\n90 25.8", TWENTY_FOUR)
    with pytest.raises(PlanRefused, match=r"13\.30 V at 90 % .* stands at 26\.62 V"):
        read("50 13.2\n90 13.3", TWENTY_FOUR)


def test_charge_drawn_is_not_taken_for_a_level() -> None:
    with pytest.raises(PlanRefused, match="run from"):
        read("0 13.3\n110 12.1")
    with pytest.raises(PlanRefused, match="run from"):
        read("Ah,V\n0,13.3\n50,13.1")


def test_a_discharge_without_its_current_says_what_is_missing() -> None:
    with pytest.raises(PlanRefused, match="current of the discharge"):
        read("0 13.3\n50 13.1", kind="discharge")


def test_a_discharge_beyond_the_label_alone_is_refused() -> None:
    with pytest.raises(PlanRefused, match="beyond the label: 200 Ah"):
        read("200 13.1", kind="discharge", amps=5)


def test_lead_under_load_tells_nothing_of_rest() -> None:
    with pytest.raises(PlanRefused, match="does not tell"):
        read(
            "0 12.7\n50 12.1",
            AGM,
            kind="discharge",
            amps=5,
        )
