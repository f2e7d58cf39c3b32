"""What each kind of battery is like: one sourced data file a chemistry."""

from oddkettle.core.chemistry.agm import AGM
from oddkettle.core.chemistry.data import Chemistry, Cold, Life, Resistance, Source, Wells
from oddkettle.core.chemistry.flooded import FLOODED
from oddkettle.core.chemistry.gel import GEL
from oddkettle.core.chemistry.lifepo4 import LIFEPO4
from oddkettle.core.chemistry.nmc import NMC

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
