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


class Assumptions(Part):
    """Numbers that stand for what nobody has measured yet."""

    usual_clearness: Clearness = 0.68
    """Clearness of a day whose sky is 'usual'."""
    ambient_c: Celsius = 15
    """Air temperature around the panels."""
    step_min: StepMinutes = 5
    """Length of a simulated step; a divisor of 60."""

    @model_validator(mode="after")
    def _step_divides_the_hour(self) -> Assumptions:
        if 60 % self.step_min:
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
    version: Literal[1] = VERSION  # type: ignore[assignment]
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
            "sun inputs": [s.id for s in self.box.sun],
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
