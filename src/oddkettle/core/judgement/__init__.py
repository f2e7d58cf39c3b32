"""What the tool must notice, and say why: pure functions, one a rule."""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from oddkettle.core.judgement.evidence import (
    SEVERITIES,
    Change,
    Evidence,
    Fix,
    Judgement,
    Number,
    Rule,
    Severity,
)
from oddkettle.core.simulation.ledger import Ledger
from oddkettle.core.simulation.run import Run

FIRST = ("battery", "place", "charging", "panels", "vehicle", "use", "protection", "wiring")
"""Of equally grave judgements, these rooms speak first; then the others by name."""


def _all_rules() -> tuple[Rule, ...]:
    names = [module.name for module in iter_modules(__path__)]
    order = sorted(names, key=lambda name: (FIRST.index(name) if name in FIRST else 99, name))
    return tuple(
        rule for name in order for rule in getattr(import_module(f"{__name__}.{name}"), "RULES", ())
    )


RULES: tuple[Rule, ...] = _all_rules()
"""Every rule of every module in here that has `RULES`."""


def judge(run: Run, ledger: Ledger, dark_share: float | None = None) -> tuple[Judgement, ...]:
    """Every judgement of a run, the gravest first.

    `dark_share` is the share of scenarios in which the box is cut out, where they were run.
    """
    evidence = Evidence(run, ledger, dark_share)
    found = [judgement for rule in RULES for judgement in rule(evidence)]
    return tuple(sorted(found, key=lambda judgement: SEVERITIES.index(judgement.severity)))


__all__ = ["RULES", "Change", "Evidence", "Fix", "Judgement", "Number", "Severity", "judge"]
