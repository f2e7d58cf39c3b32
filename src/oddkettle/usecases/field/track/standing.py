"""How a trip stands at one moment: the one answer that every page, file and alarm tells.

Tracked from the log while the trip is under way, the plan's own before; it says which.
"""

from __future__ import annotations

from oddkettle.core.simulation.ensemble import Ensemble
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.odds import Band, OddsReport
from oddkettle.usecases.field.track.tonight import Answer, tonight
from oddkettle.usecases.field.track.track_report import WHY, report_odds_from
from oddkettle.usecases.field.track.tracked_trip import TrackedTrip, Why, follow
from oddkettle.usecases.simulate.odds import report_odds
from oddkettle.usecases.simulate.run_cache import ensemble_of


class Standing(LazyModel):
    """Level now, the coming night, and the rest of the trip with its chance and lowest level."""

    why: Why
    why_text: str
    begun: bool
    """Whether it is tracked; before, all of it is the plan's."""
    level: Band
    tonight: Answer
    rest: OddsReport

    @property
    def safe(self) -> bool:
        """Whether one may go to sleep on it."""
        return self.tonight == "safe"


def standing_of(plan_id: int) -> Standing:
    """How a trip stands now. Raises PlanRefused, NoSuchPlan."""
    return standing_at(follow(plan_id))


def standing_at(here: TrackedTrip) -> Standing:
    """How a trip stands that was followed."""
    low, middle, high = (100 * float(line[-1]) for line in here.tracked.band)
    return Standing(
        why=here.why,
        why_text=WHY[here.why],
        begun=here.begun,
        level=Band(low=low, middle=middle, high=high),
        tonight=tonight(here).answer,
        rest=report_odds_from(here) if here.begun else report_odds(ensemble_of(here.plan)),
    )


def scenarios_ahead(here: TrackedTrip) -> Ensemble:
    """The scenarios of what is ahead: of the rest, or of the whole plan before it has begun."""
    return here.rest if here.begun else ensemble_of(here.plan)
