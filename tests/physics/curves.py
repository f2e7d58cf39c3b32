"""Reference curves of a full electrochemical cell model, scaled to 100 Ah at 12 V class, 25 C.

Thinned to what the tests look at, from simulations with a public parameter set (Prada2013, four
LiFePO4 cells in series). Simulation, not measurement: it gives less at high rates than real cells.
"""

from __future__ import annotations

import csv
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.chemistry import Chemistry, Resistance

HERE = Path(__file__).parent / "reference"


@dataclass(frozen=True)
class Curve:
    """time_h, current_a (positive charges), voltage_v and soc, all of one length."""

    time_h: np.ndarray
    current_a: np.ndarray
    voltage_v: np.ndarray
    soc: np.ndarray


def curve(name: str) -> Curve:
    with (HERE / f"{name}.csv").open() as file:
        rows = list(csv.DictReader(file))
    columns = ("time_h", "current_A", "voltage_V", "soc")
    return Curve(*(np.array([float(row[c]) for row in rows]) for c in columns))


def own_table() -> Chemistry:
    """LiFePO4 with the reference cell's own rested curve; resistance fitted to its discharges."""
    with (HERE / "lfp_ocv_25C.csv").open() as file:
        rows = sorted((float(r["soc"]), float(r["ocv_4S_V"])) for r in csv.DictReader(file))
    return replace(
        LIFEPO4,
        ocv=tuple(rows),
        resistance=Resistance(base_mohm=4.05, swell=31.0, reach=0.077),
        coulombic_low=1.0,
        coulombic_full=1.0,
        self_discharge_month=0.0,
        cutoff_v=10.0,
    )
