"""What parts cost and weigh, typically: wide ranges to compare schools by, never an offer.

All figures are [judgement]: what plain parts of no particular maker were sold for in 2026, in
euros, by size. They say which of two choices is dearer and by about how much; a price tag beats
them.
"""

from __future__ import annotations

from dataclasses import dataclass

SOURCE = "typical of plain parts in 2026, in euros [judgement]"


@dataclass(frozen=True)
class Tag:
    """A price `fixed + per_unit * size` [euro] and a mass by the same rule [kg]."""

    fixed: float
    per_unit: float
    fixed_kg: float = 0.0
    kg_per_unit: float = 0.0

    def euro(self, size: float) -> float:
        """Price of one of this size."""
        return self.fixed + self.per_unit * size

    def kg(self, size: float) -> float:
        """Mass of one of this size."""
        return self.fixed_kg + self.kg_per_unit * size


CHEAP, DEAR = 0.7, 1.4
"""Generic parts are sold for between these shares of the typical price [judgement]."""


def between(euro: float) -> tuple[float, float]:
    """What a typical price may be in a shop, rounded to tens [euro]."""
    return round(CHEAP * euro, -1), round(DEAR * euro, -1)


TRACKING = Tag(45.0, 4.5, 0.3, 0.03)
"""By amps of output."""
PWM = Tag(12.0, 1.2, 0.1, 0.01)
DCDC = Tag(70.0, 5.0, 0.5, 0.03)
RELAY = Tag(35.0, 0.3, 0.4, 0.0)
MAINS = Tag(40.0, 6.0, 0.5, 0.08)
CONVERTER = Tag(20.0, 2.2, 0.15, 0.02)
"""By amps at 12 V."""
COMBINED = Tag(110.0, 6.0, 0.8, 0.04)
SELECTOR = Tag(25.0, 0.0, 0.3, 0.0)
READY_MADE_PER_KWH, READY_MADE_KG_PER_KWH = 650.0, 11.0
"""A ready-made unit with inverter and chargers inside, by kWh on its label."""
PANEL = Tag(25.0, 0.9, 0.5, 0.06)
"""By watts."""
CABLE_EURO_PER_MM2_M, CABLE_KG_PER_MM2_M = 0.45, 0.0105
"""Of copper cable, by mm2 and metre of single conductor."""
GENERATOR = Tag(150.0, 0.35, 6.0, 0.013)
"""By watts: a small quiet one."""
PADS_EURO, PADS_KG = 35.0, 0.3
"""Of a pad with its thermostat."""
INVERTER = Tag(50.0, 0.25, 0.6, 0.004)
"""By watts."""
