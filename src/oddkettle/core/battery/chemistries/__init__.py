"""What each kind of battery is like: one sourced data file a chemistry."""

from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.flooded import FLOODED
from oddkettle.core.battery.chemistries.gel import GEL
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.battery.chemistries.nmc import NMC
from oddkettle.core.battery.chemistry import Chemistry, Cold, Life, Resistance, Source, Wells

CHEMISTRIES: dict[str, Chemistry] = {
    chemistry.key: chemistry for chemistry in (LIFEPO4, AGM, GEL, FLOODED, NMC)
}

__all__ = [
    "AGM",
    "CHEMISTRIES",
    "FLOODED",
    "GEL",
    "LIFEPO4",
    "NMC",
    "Chemistry",
    "Cold",
    "Life",
    "Resistance",
    "Source",
    "Wells",
]
