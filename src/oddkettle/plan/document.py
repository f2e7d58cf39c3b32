"""The plan document itself, and reading one from outside."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

from oddkettle.core.units.conversion import MINUTES_PER_DAY
from oddkettle.plan.box import Box
from oddkettle.plan.making.document import Build
from oddkettle.plan.quantities import (
    Celsius,
    Clearness,
    DoubtPercent,
    Euro,
    MoreKilograms,
    Name,
    Part,
    ScenarioCount,
    Seed,
    Settled,
    StepMinutes,
)
from oddkettle.plan.trip import Trip
from oddkettle.plan.use import Use
from oddkettle.plan.versions import FORMAT, VERSION, upgraded

MAX_STEPS = 24_000_000
"""Scenarios times days times steps: 96 MB of levels, and some seconds [judgement]."""

ClimateKey = Literal[
    "place",
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


MonthlyClearness = Annotated[list[Clearness], Field(min_length=12, max_length=12)]
MonthlyCelsius = Annotated[list[Celsius], Field(min_length=12, max_length=12)]


class PlaceClimate(Part):
    """Month means read from a weather file of the place, January to December."""

    source: Name
    """The file's name and station."""
    clearness: MonthlyClearness
    low_c: MonthlyCelsius
    high_c: MonthlyCelsius
    settled: Settled = 3


class PriceTag(Part):
    """What a change really costs and weighs, in place of the typical ranges."""

    change: Annotated[str, Field(min_length=1, max_length=80)]
    euro_low: Euro
    euro_high: Euro
    kg_low: MoreKilograms = 0
    kg_high: MoreKilograms = 0


class Assumptions(Part):
    """Numbers that stand for what nobody has measured yet."""

    climate: ClimateKey | None = None
    """Month means for days of which nothing else is said: "place" takes those of the trip's own
    place from the packaged table of the world, any other key those of a kind of place."""
    weather: PlaceClimate | None = None
    """Month means from a weather file; they go before the climate's."""
    settled: Settled | None = None
    """How settled the weather is: 5 settled, 3 normal, 1.7 changeable; as the climate if absent."""
    start_doubt_percent: DoubtPercent = 3
    """How far off the level at the start may be, in points."""
    capacity_doubt_percent: DoubtPercent | None = None
    """How far off the battery's capacity may be; by its age when absent."""
    panel_doubt_percent: DoubtPercent = 5
    """How far off the panels' output may be, for dust and wear."""
    tags: list[PriceTag] = Field(default=[], max_length=100)
    """Your own prices of changes."""
    scenarios: ScenarioCount = 200
    """How many scenarios the odds are taken from."""
    seed: Seed = 1
    """Names the skies that are drawn: the same number, the same skies."""
    usual_clearness: Clearness | None = None
    """Clearness of a day whose sky is 'usual'; the climate's, or 0.68, when absent."""
    low_c: Celsius | None = None
    """Lowest air temperature of a day; the climate's, or 10 C, when absent."""
    high_c: Celsius | None = None
    """Highest air temperature of a day; the climate's, or 18 C, when absent."""
    record_low_c: Celsius | None = None
    """The coldest that the place has been in this season; estimated when absent."""
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
    """One plan: what is used, from which box, on which trip, under which assumptions, built how."""

    # The whole is built at once, and its pieces with it; alone they are seldom asked for.
    model_config = ConfigDict(defer_build=False)

    format: Literal["oddkettle-plan"] = FORMAT  # type: ignore[assignment]
    version: Literal[4] = VERSION  # type: ignore[assignment]
    name: Name
    use: Use = Use()
    box: Box
    trip: Trip
    assumptions: Assumptions = Assumptions()
    build: Build = Build()

    @model_validator(mode="before")
    @classmethod
    def _bring_up_to_date(cls, document: object) -> object:
        return upgraded(document)

    @model_validator(mode="after")
    def _can_be_reckoned(self) -> Plan:
        days, trips = len(self.trip.days), self.assumptions.scenarios
        steps = days * MINUTES_PER_DAY // step_minutes(self)
        if steps * trips > MAX_STEPS:
            most = max(MAX_STEPS // steps, 1)
            raise PydanticCustomError(
                "reckoning",
                "{trips} trips of {days} days at such a step are too much to reckon: {value} "
                "steps in all.",
                {
                    "trips": trips,
                    "days": days,
                    "value": f"{steps * trips:,}",
                    "limit": f"{MAX_STEPS:,} steps in all",
                    "remedy": f"Try {most} trips at most, or a longer step.",
                },
            )
        return self

    @model_validator(mode="after")
    def _ids_are_unique(self) -> Plan:
        groups = {
            "appliances": [a.id for a in self.use.appliances],
            "sources": [s.id for s in self.box.sources],
            "panels": [p.id for s in self.box.sun for p in s.panels],
            "blocks": [b.id for b in self.trip.blocks],
            "stops": [s.id for s in self.trip.stops],
            "circuits": [c.circuit for c in self.build.circuits],
            "outlets": [o.outlet for o in self.build.outlets],
            "parts": [p.part for p in self.build.parts],
            "placed parts": [p.part for p in self.build.placed],
            "items": [i.item for i in self.build.items],
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

    @model_validator(mode="after")
    def _days_are_at_stops(self) -> Plan:
        known = {stop.id for stop in self.trip.stops}
        for place, day in enumerate(self.trip.days):
            if day.stop is not None and day.stop not in known:
                raise PydanticCustomError(
                    "stop",
                    "Day {day} is spent at {value}, which is not among the trip's stops.",
                    {
                        "day": place + 1,
                        "value": day.stop,
                        "limit": ", ".join(sorted(known)) or "no stops are listed",
                        "remedy": "Add the stop, or leave the day at the trip's own place.",
                    },
                )
        return self


FINE_STEP_MIN, FINE_DAYS = 5, 31
MIDDLE_STEP_MIN, MIDDLE_DAYS = 15, 120
COARSE_STEP_MIN = 60


def step_minutes(plan: Plan) -> int:
    """The step asked for, or one that suits the trip's length: 5, 15 or 60 min."""
    if plan.assumptions.step_min is not None:
        return plan.assumptions.step_min
    days = len(plan.trip.days)
    if days <= FINE_DAYS:
        return FINE_STEP_MIN
    return MIDDLE_STEP_MIN if days <= MIDDLE_DAYS else COARSE_STEP_MIN
