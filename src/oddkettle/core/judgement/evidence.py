"""What a judgement is: data, with the numbers it rests on."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property, wraps
from typing import Any, Literal

import numpy as np

from oddkettle.core.construction.wiring.circuits import Board
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.core.loads.demand import Appliance
from oddkettle.core.simulation.ledger import Flow, Ledger
from oddkettle.core.simulation.run import Run, simulate
from oddkettle.core.simulation.run_metrics import lowest
from oddkettle.core.sources.source_series import SourceSeries
from oddkettle.core.units.quantity import charge

Severity = Literal["danger", "fault", "waste", "note"]
SEVERITIES: tuple[Severity, ...] = ("danger", "fault", "waste", "note")
"""Danger can hurt someone or start a fire; a fault breaks the trip or wears the battery; waste
loses energy or money; a note is worth knowing."""
GRAVE: tuple[Severity, ...] = ("danger", "fault")
"""With one of these nothing is called ready."""
OF_THE_TRIP = {"must-run-margin", "over-deep", "never-full", "cold-charge-lockout"}
"""What another trip with the same box might not have."""


@dataclass(frozen=True)
class Number:
    """A figure that a judgement rests on."""

    name: str
    value: float
    unit: str


@dataclass(frozen=True)
class Change:
    """One field of one part set to a value that satisfies a rule.

    `part` is named as a judgement's; `field` leads from it to the value, as the plan names them.
    """

    part: str
    field: tuple[str, ...]
    value: float | str | bool | None


@dataclass(frozen=True)
class Fix:
    """A remedy that is one edit of the plan. `text` is short enough for a button."""

    text: str
    changes: tuple[Change, ...]


@dataclass(frozen=True)
class Judgement:
    """One thing that an experienced builder would say.

    `part` is what it is about: "battery", "second", "warmth", "inverter", "joining", "use",
    "trip", or "sun:", "vehicle:", "mains:", "appliance:" or "circuit:" and an id. `text`
    tells what is so, with its numbers; `means` why it matters; `remedy` what satisfies it, with
    the figure that does; `source` where the rule comes from; `fix` does it, where it is one edit.
    """

    code: str
    severity: Severity
    part: str
    text: str
    means: str
    remedy: str
    source: str
    numbers: tuple[Number, ...] = ()
    fix: Fix | None = None


MIN_AH = 0.1
"""Less than this a day is not spoken of: it would read as 0.0 Ah [judgement]."""
SNUG_SHARE = 0.10
"""A box that keeps less than this above its floor has nothing to give away [judgement]."""


@dataclass(frozen=True)
class Evidence:
    """A finished run with its ledger: all that a rule may look at."""

    run: Run
    ledger: Ledger
    dark_share: float | None = None
    """Share of scenarios in which the box is cut out, where they were run."""

    circuits: Board | None = None
    """The box's circuits, where they are drawn up already."""

    @cached_property
    def board(self) -> Board:
        """The box's circuits."""
        return self.circuits or board_of(self.run)

    @property
    def short(self) -> bool:
        """Whether the box comes near its floor, so that every loss counts."""
        return lowest(self.run).soc - self.run.case.floor < SNUG_SHARE

    @property
    def loss(self) -> Severity:
        """How grave a loss of energy is: waste where the box is short, else worth knowing."""
        return "waste" if self.short else "note"

    def charge(self, ah: float) -> str:
        """An amount of charge in a sentence, with its watt-hours at the bank's nominal voltage."""
        return charge(ah, ah * self.run.case.bank.nominal_v)

    def instead(self, **changes: Any) -> Run:
        """The same case with some of it changed, run again."""
        return simulate(replace(self.run.case, **changes))


def source_part(source: SourceSeries) -> str:
    """How judgements name a source."""
    return f"{source.kind}:{source.key}"


def appliance_part(appliance: Appliance) -> str:
    """How judgements name an appliance."""
    return f"appliance:{appliance.key}"


def taken_ah(run: Run, kind: str | None = None) -> float:
    """Charge that the box took from its sources, or those of one kind, over a run [Ah]."""
    rows = [j for j, source in enumerate(run.sources) if kind in {None, source.kind}]
    return float(run.taken_a[rows].sum() * run.grid.step_h) if rows else 0.0


Rule = Callable[[Evidence], Iterator[Judgement]]


def of_a_built_box(rule: Rule) -> Rule:
    """A rule about what one builds: a ready-made unit's inside is its makers' own affair."""

    @wraps(rule)
    def judges(evidence: Evidence) -> Iterator[Judgement]:
        if evidence.run.case.unit is None:
            yield from rule(evidence)

    return judges


def amp_hours(flow: Flow) -> float:
    """A flow's charge over the whole trip [Ah]."""
    return float(flow.ah.sum())


def used_wh(evidence: Evidence) -> float:
    """What all appliances used over the trip, heater pads apart [Wh]."""
    return float(sum(flow.used.wh.sum() for flow in evidence.ledger.draws))


def hours(mask: np.ndarray, run: Run) -> float:
    """Hours in which something is so."""
    return float(np.count_nonzero(mask) * run.grid.step_h)
