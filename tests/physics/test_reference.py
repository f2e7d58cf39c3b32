"""The battery model held against reference curves and capacity tables."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddkettle.core.battery.bank import cell_ohm, charge_ohm, open_circuit_v
from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.chemistry import Chemistry
from tests.core.boxes import HELD_WARM, steady
from tests.physics.curves import Curve, curve, own_table

MINUTE_H = 1 / 60
DISCHARGES = {"lfp_dis_C20_25C": 20.0, "lfp_dis_C5_25C": 5.0, "lfp_dis_C2_25C": 2.0}


def drained(chemistry: Chemistry, reference: Curve) -> tuple[float, float]:
    """(error of delivered Ah as a share, RMS error of voltage between 10 and 95 % [V])."""
    amps = -reference.current_a[0]
    ends_v = float(reference.voltage_v[-1])
    track = steady(
        replace(chemistry, cutoff_v=ends_v),
        1.2 * float(reference.time_h[-1]),
        load_a=float(amps),
        housing=HELD_WARM,
        step_h=MINUTE_H,
    )
    middles = (np.arange(len(track.bus_v)) + 0.5) * MINUTE_H
    volts = np.interp(reference.time_h, middles, track.bus_v)
    inside = (reference.soc > 0.10) & (reference.soc < 0.95)
    given = float(track.load_a.sum() * MINUTE_H)
    wanted = abs(float(np.trapezoid(reference.current_a, reference.time_h)))
    gap = (volts - reference.voltage_v)[inside]
    return given / wanted - 1.0, float(np.sqrt(np.mean(gap**2)))


@pytest.mark.parametrize("name", DISCHARGES)
def test_lithium_given_the_cells_own_table_follows_it_down(name: str) -> None:
    """Delivered charge within 2 % and voltage within 60 mV from C/20 to C/2."""
    charge, volts = drained(own_table(), curve(name))
    assert abs(charge) < 0.02
    assert volts < 0.060


@pytest.mark.parametrize(
    ("name", "charge_share", "volts"),
    [
        ("lfp_dis_C20_25C", 0.03, 0.15),
        ("lfp_dis_C5_25C", 0.05, 0.15),
        ("lfp_dis_C2_25C", 0.07, 0.24),
    ],
)
def test_the_generic_lithium_table_is_as_far_off_as_the_docs_say(
    name: str, charge_share: float, volts: float
) -> None:
    """Another maker's cell: within 3 % at C/20, 5 % at C/5, 7 % at C/2."""
    cells_alone = replace(LIFEPO4, resistance=replace(LIFEPO4.resistance, leads_mohm=0.0))
    charge, error_v = drained(cells_alone, curve(name))
    assert abs(charge) < charge_share
    assert error_v < volts


@pytest.mark.parametrize(
    ("name", "soc0"), [("lfp_chg_0.2C_from20_25C", 0.2), ("lfp_chg_0.5C_from10_25C", 0.1)]
)
@pytest.mark.parametrize("step_h", [1 / 12, MINUTE_H])
def test_lithium_reaches_95_percent_within_two_minutes_of_the_reference(
    name: str, soc0: float, step_h: float
) -> None:
    reference = curve(name)
    track = steady(
        own_table(),
        1.3 * float(reference.time_h[-1]),
        charger_a=float(reference.current_a[0]),
        soc0=soc0,
        absorption_v=float(reference.voltage_v.max()),
        housing=HELD_WARM,
        step_h=step_h,
    )
    hours = np.arange(len(track.soc)) * step_h
    reached = np.interp(0.95, track.soc[:, 0], hours)
    wanted = np.interp(0.95, reference.soc, reference.time_h)
    assert 60 * abs(reached - wanted) < 2.0


@pytest.mark.parametrize("name", ["lfp_chg_0.2C_from20_25C", "lfp_chg_0.5C_from10_25C"])
def test_generic_lithium_rises_under_charge_as_the_reference_does(name: str) -> None:
    """Above the cell's own rested curve: 1.8 mOhm rms from 20 to 90 %, the shape of charge.

    The law of discharge, swollen towards empty, misses by half as much again and more.
    """
    reference, (at, volts) = curve(name), np.array(own_table().ocv).T
    inside = (reference.soc > 0.2) & (reference.soc < 0.9)
    lift = (reference.voltage_v - np.interp(reference.soc, at, volts))[inside]
    level, amps = reference.soc[inside], reference.current_a[inside]
    as_charge = charge_ohm(LIFEPO4, level) - lift / amps
    as_discharge = cell_ohm(LIFEPO4, level) - lift / amps
    assert np.sqrt(np.mean(as_charge**2)) < 0.0018
    assert np.sqrt(np.mean(as_discharge**2)) > 1.5 * np.sqrt(np.mean(as_charge**2))


def test_a_relay_into_an_emptier_lithium_bank_passes_more() -> None:
    """14.2 V through 20 mOhm: the less is in it, the more flows, as on a real relay."""
    levels = np.array([0.1, 0.3, 0.6, 0.9])
    drawn = (14.2 - open_circuit_v(LIFEPO4, levels)) / (0.024 + charge_ohm(LIFEPO4, levels))
    assert np.all(np.diff(drawn) < 0.0)
    assert drawn[1] == pytest.approx(1.2 / (0.024 + 0.00454), rel=0.01)


# Published capacity by hours of discharge, as a share of the 20 h rating [textbook].
HOURS = (1, 3, 5, 10, 20, 100)
TABLES = {
    "agm": (0.62, 0.79, 0.86, 0.94, 1.0, 1.07),
    "gel": (0.58, 0.76, 0.84, 0.92, 1.0, 1.10),
    "flooded": (0.52, 0.73, 0.81, 0.90, 1.0, 1.12),
}
TWO_WELLS_MISS = {"agm": 0.03, "gel": 0.03, "flooded": 0.04}
"""No choice of the model's three numbers comes closer to all of the flooded column than 3.4 %
at its own hours, 3.8 % between them."""


@pytest.mark.parametrize("kind", TABLES)
@pytest.mark.parametrize("place", range(len(HOURS)))
def test_lead_gives_what_its_capacity_table_says_at_each_rate(kind: str, place: int) -> None:
    """At the hours that the discharge really took, with the cut-off of a datasheet's fast rates."""
    hours, share = HOURS[place], TABLES[kind][place]
    step_h = MINUTE_H if hours < 5 else 1 / 12
    chemistry = replace(CHEMISTRIES[kind], cutoff_v=9.0, self_discharge_month=0.0)
    track = steady(
        chemistry, 1.4 * hours, load_a=100 * share / hours, step_h=step_h, housing=HELD_WARM
    )
    cut = int(np.argmax(track.served < 1.0)) + 1
    took = float(track.served[:cut].sum() * step_h)
    given = float(track.load_a[:cut].sum() * step_h) / 100
    wanted = np.interp(np.log(took), np.log(HOURS), TABLES[kind])
    assert given == pytest.approx(wanted, rel=TWO_WELLS_MISS[kind])


@pytest.mark.parametrize("name", ["lead_dis_C20_25C", "lead_dis_C5_25C"])
def test_lead_keeps_near_its_reference_in_voltage(name: str) -> None:
    """Another battery than the textbook's: within a fifth of a volt over most of the discharge."""
    reference = curve(name)
    track = steady(
        AGM,
        float(reference.time_h[-1]),
        load_a=-float(reference.current_a[0]),
        housing=HELD_WARM,
    )
    middles = (np.arange(len(track.bus_v)) + 0.5) / 12
    inside = (reference.soc > 0.35) & (reference.soc < 0.98)
    volts = np.interp(reference.time_h, middles, track.bus_v)
    assert np.sqrt(np.mean((volts - reference.voltage_v)[inside] ** 2)) < 0.2


def test_long_steps_agree_with_short_ones_over_a_season() -> None:
    """The gauging hut's eight months in 60-minute steps against 5-minute ones: under a point."""
    from oddkettle.core.simulation.run import simulate
    from oddkettle.plan.case import case_from_plan
    from tests.conftest import example

    case = replace(case_from_plan(example("gauging-hut")), shed={})
    coarse, fine = simulate(case), simulate(replace(case, step_min=5))
    assert case.step_min == 60
    assert coarse.level.min() == pytest.approx(fine.level.min(), abs=0.01)
    noons = coarse.level[12::24] - fine.level[144::288]
    assert np.abs(noons).max() < 0.02
