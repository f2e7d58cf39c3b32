"""What the tool must notice, and say why: pure functions, one a rule."""

from __future__ import annotations

from oddkettle.core.judgement import battery, charging, panels, place, use, vehicle, wiring
from oddkettle.core.judgement.evidence import (
    SEVERITIES,
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    Severity,
)
from oddkettle.core.simulation.ledger import Ledger
from oddkettle.core.simulation.run import Run

RULES = (
    *battery.RULES,
    *place.RULES,
    *charging.RULES,
    *panels.RULES,
    *vehicle.RULES,
    *use.RULES,
    *wiring.RULES,
)


def judge(run: Run, books: Ledger, dark_share: float | None = None) -> tuple[Judgement, ...]:
    """Every judgement of a run, the gravest first.

    `dark_share` is the share of scenarios in which the box is cut out, where they were run.
    """
    evidence = Evidence(run, books, dark_share)
    found = [judgement for rule in RULES for judgement in rule(evidence)]
    return tuple(sorted(found, key=lambda judgement: SEVERITIES.index(judgement.severity)))


__all__ = ["RULES", "Change", "Evidence", "Fix", "Judgement", "Number", "Severity", "judge"]
