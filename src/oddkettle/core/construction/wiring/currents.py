"""What flows: currents of draws and chargers, and of a short at the battery."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.kernel.records import ASK_S, ASK_W
from oddkettle.core.loads.converter import OUTPUT_V
from oddkettle.core.loads.demand import RATED_OVER_CLASS, Appliance, DrawSeries
from oddkettle.core.simulation.run import Run
from oddkettle.core.units.conversion import CLASS_V

Floats = NDArray[np.float64]

GUESSED_M = {
    "battery": 0.5,
    "second": 3.0,
    "panel": 5.0,
    "feed": 4.0,
    "charge": 1.0,
    "inverter": 0.6,
    "converter": 0.3,
    "outlet": 1.0,
    "usb": 1.0,
    "heater": 0.8,
    "sense": 0.5,
}
"""First guesses of a run, one way [m, judgement]: to be measured with a string along the way."""
FULL = np.ones(1)


@dataclass(frozen=True)
class Amps:
    """A current over a run: its largest [A], and the sum of its square over time [A2 h]."""

    seen_a: float
    square_ah: float


def amps_over(series: Floats, step_h: float) -> Amps:
    """What a current does over a run."""
    return Amps(float(np.abs(series).max(initial=0.0)), float((series**2).sum() * step_h))


def cut_off_v(run: Run) -> float:
    """The lowest voltage at which the box still gives [V]: constant power draws most there."""
    bank = run.case.bank
    return bank.chemistry.cutoff_v * bank.volts_scale


def draw_amps(run: Run, draw: DrawSeries, watts: float) -> float:
    """Most current of a draw of so many rated watts [A].

    Constant power draws most at the cut-off voltage, a resistance at the charging voltage.
    """
    if draw.kind == ASK_W:
        return watts / cut_off_v(run)
    rated_v = run.case.bank.system_v * RATED_OVER_CLASS
    return watts / rated_v * (charging_v(run) / rated_v if draw.kind == ASK_S else 1.0)


def stepped_down_a(run: Run, watts: float) -> float:
    """Current at 12 V of a draw that takes so many watts of the bus through the converter [A]."""
    converter = run.case.converter
    assert converter is not None
    return watts * converter.efficiency / OUTPUT_V


def charging_v(run: Run) -> float:
    """The highest voltage that the chargers hold [V]."""
    return run.case.profile.absorption_v * run.case.bank.system_v / CLASS_V


def inverter_amps(run: Run, watts: float) -> float:
    """Direct current of an inverter that gives so much [A], at the cut-off voltage."""
    inverter = run.case.inverter
    return 0.0 if inverter is None else watts / inverter.efficiency / cut_off_v(run)


def dc_draws(run: Run) -> list[tuple[DrawSeries, Appliance | None]]:
    """Draws that are not behind the inverter, with their appliances; the box's own have none."""
    known = {appliance.key: appliance for appliance in run.case.appliances}
    return [
        (draw, known.get(draw.key))
        for draw in run.draws
        if draw.key not in known or known[draw.key].supply != "inverter"
    ]
