"""Gas of lead batteries: how much air it wants, and the openings that bring it.

The rule of battery rooms [EN 62485-2 kind]: Q = 0.05 n I C / 1000 m3/h for n cells of C Ah, with
I mA of gassing current for each Ah; free area low in and high out A = 28 Q cm2 each.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

from oddkettle.core.battery.bank import Bank

SAFE_M3_PER_AH = 0.05
VENTED_MA_AH, VALVE_MA_AH = 20.0, 8.0
"""Gassing while boosting, in mA for each Ah: vented cells, and valve-regulated ones; floating
they give 5 and 1 [EN 62485-2 kind]."""
AREA_CM2_PER_M3H = 28.0
VENT_CM2 = 17.0
"""Free area of a round vent of 60 mm behind its mesh: six tenths of the hole [judgement]."""


@dataclass(frozen=True)
class Airing:
    """What a bank asks of its surroundings: air [m3/h], and free area low and high [cm2 each]."""

    m3_per_h: float
    area_cm2: float

    @property
    def vents(self) -> int:
        """Round vents of 60 mm, low and as many high."""
        return ceil(self.area_cm2 / VENT_CM2 - 1e-9)


def airing_of(*banks: Bank) -> Airing:
    """What banks in one place ask; nothing where none is of lead."""
    m3_per_h = sum(_gas_m3_per_h(bank) for bank in banks)
    return Airing(m3_per_h, AREA_CM2_PER_M3H * m3_per_h)


def _gas_m3_per_h(bank: Bank) -> float:
    chemistry = bank.chemistry
    if not chemistry.lead:
        return 0.0
    ma_ah = VENTED_MA_AH if chemistry.vented else VALVE_MA_AH
    return SAFE_M3_PER_AH * bank.cells_in_series * ma_ah * bank.capacity_ah / 1000.0
