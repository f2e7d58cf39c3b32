"""What the tool must notice, and say why: pure functions, one a rule."""

from __future__ import annotations

from importlib import import_module
from pkgutil import walk_packages

from oddkettle.core.judgement.evidence import (
    GRAVE,
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
    names = [module.name for module in walk_packages(__path__, f"{__name__}.")]
    return tuple(
        rule
        for name in sorted(names, key=_place)
        for rule in getattr(import_module(name), "RULES", ())
    )


def _place(module: str) -> tuple[int, str]:
    name = module.rsplit(".", 1)[-1]
    return (FIRST.index(name) if name in FIRST else len(FIRST), name)


RULES: tuple[Rule, ...] = _all_rules()
"""Every rule of every module in here that has `RULES`."""


def judge(run: Run, ledger: Ledger, dark_share: float | None = None) -> tuple[Judgement, ...]:
    """Every judgement of a run, the gravest first.

    `dark_share` is the share of scenarios in which the box is cut out, where they were run.
    """
    evidence = Evidence(run, ledger, dark_share)
    found = [judgement for rule in RULES for judgement in rule(evidence)]
    return tuple(sorted(found, key=lambda judgement: SEVERITIES.index(judgement.severity)))


__all__ = [
    "GRAVE",
    "RULES",
    "SEVERITIES",
    "Change",
    "Evidence",
    "Fix",
    "Judgement",
    "Number",
    "Severity",
    "judge",
]
