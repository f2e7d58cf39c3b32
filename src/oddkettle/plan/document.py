"""The plan document itself, and reading one from outside."""

from __future__ import annotations

from typing import Literal

from pydantic import model_validator
from pydantic_core import PydanticCustomError

from oddkettle.plan.box import Box
from oddkettle.plan.quantities import Celsius, Clearness, Name, Part, StepMinutes
from oddkettle.plan.trip import Trip
from oddkettle.plan.use import Use
from oddkettle.plan.versions import FORMAT, VERSION, upgraded

ClimateKey = Literal[
    "hot_dry_interior",
    "mediterranean",
    "temperate_maritime",
    "high_latitude_coast",
    "humid_subtropical",
    "cool_continental",
    "dry_highland",
    "alpine",
    "monsoon_tropics",
    "equatorial_wet",
    "subarctic_interior",
]


class Assumptions(Part):
    """Numbers that stand for what nobody has measured yet."""

    climate: ClimateKey | None = None
    """Month means for days of which nothing else is said."""
    usual_clearness: Clearness | None = None
    """Clearness of a day whose sky is 'usual'; the climate's, or 0.68, when absent."""
    low_c: Celsius | None = None
    """Lowest air temperature of a day; the climate's, or 10 C, when absent."""
    high_c: Celsius | None = None
    """Highest air temperature of a day; the climate's, or 18 C, when absent."""
    step_min: StepMinutes | None = None
    """Length of a simulated step, a divisor of 60; by the trip's length when absent."""

    @model_validator(mode="after")
    def _step_divides_the_hour(self) -> Assumptions:
        if self.step_min is not None and 60 % self.step_min:
            raise PydanticCustomError(
                "step",
                "{value} min does not divide the hour.",
                {
                    "value": self.step_min,
                    "limit": "1, 2, 3, 4, 5, 6, 10, 12, 15, 20, 30 or 60 min",
                    "remedy": "Use 5 min.",
                },
            )
        return self


class Plan(Part):
    """One plan: what is used, from which box, on which trip, under which assumptions."""

    format: Literal["oddkettle-plan"] = FORMAT  # type: ignore[assignment]
    version: Literal[2] = VERSION  # type: ignore[assignment]
    name: Name
    use: Use = Use()
    box: Box
    trip: Trip
    assumptions: Assumptions = Assumptions()

    @model_validator(mode="before")
    @classmethod
    def _bring_up_to_date(cls, document: object) -> object:
        return upgraded(document)

    @model_validator(mode="after")
    def _ids_are_unique(self) -> Plan:
        groups = {
            "appliances": [a.id for a in self.use.appliances],
            "sources": [s.id for s in self.box.sources],
            "panels": [p.id for s in self.box.sun for p in s.panels],
            "blocks": [b.id for b in self.trip.blocks],
        }
        for noun, ids in groups.items():
            twice = sorted({key for key in ids if ids.count(key) > 1})
            if twice:
                raise PydanticCustomError(
                    "twice",
                    "Two {noun} have the id {value}.",
                    {
                        "noun": noun,
                        "value": twice[0],
                        "limit": "each id once",
                        "remedy": "Give one of them another id.",
                    },
                )
        return self
