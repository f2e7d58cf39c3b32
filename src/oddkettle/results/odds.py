"""What many scenarios say of a plan, as a document."""

from __future__ import annotations

from oddkettle.plan.quantities import LazyModel


class Band(LazyModel):
    """The middle eight of ten scenarios lie between `low` and `high` [%]."""

    low: float
    middle: float
    high: float


class DayOdds(LazyModel):
    """One day over all scenarios."""

    under_percent: float
    """Share of scenarios that go under the floor on this day."""
    dark_percent: float
    """Share of scenarios in which the box is cut out on this day."""
    lowest: Band


class BandSeries(LazyModel):
    """The level's band over the trip; point i stands `i * step_min` after the start."""

    step_min: int
    low: list[float]
    middle: list[float]
    high: list[float]


class OddsReport(LazyModel):
    """What the scenarios say."""

    scenarios: int
    step_min: int
    seed: int
    headline: str
    detail: str
    lasts_percent: float
    error_points: float
    """One standard error of `lasts_percent`, for the number of scenarios alone."""
    under_percent: float
    dark_percent: float
    must_run: list[str]
    """What must run and goes without when the box is cut out."""
    lowest: Band
    tight_day: int | None
    """The day on which most scenarios go under; None where none does."""
    days: list[DayOdds]
    band: BandSeries
