"""What each kind of battery is like: one sourced data file a chemistry."""

from oddkettle.core.chemistry.agm import AGM
from oddkettle.core.chemistry.data import Chemistry, Resistance, Wells
from oddkettle.core.chemistry.lifepo4 import LIFEPO4

CHEMISTRIES: dict[str, Chemistry] = {"lifepo4": LIFEPO4, "agm": AGM}

__all__ = ["AGM", "CHEMISTRIES", "LIFEPO4", "Chemistry", "Resistance", "Wells"]
