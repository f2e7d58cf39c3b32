"""What a judgement is: data, with the numbers it rests on."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from oddkettle.core.ledger import Flow, Ledger
from oddkettle.core.run import Run

Severity = Literal["danger", "fault", "waste", "note"]
SEVERITIES: tuple[Severity, ...] = ("danger", "fault", "waste", "note")
"""Danger can hurt someone or start a fire; a fault breaks the trip or wears the battery; waste
loses energy or money; a note is worth knowing."""


@dataclass(frozen=True)
class Number:
    """A figure that a judgement rests on."""

    name: str
    value: float
    unit: str


@dataclass(frozen=True)
class Judgement:
    """One thing that an experienced builder would say.

    `part` is what it is about: "battery", "heater", "inverter", or the id of a source or an
    appliance. `says` tells what is so, with its numbers; `means` why it matters; `remedy` what
    satisfies it, with the figure that does; `source` where the rule comes from.
    """

    code: str
    severity: Severity
    part: str
    says: str
    means: str
    remedy: str
    source: str
    numbers: tuple[Number, ...] = ()


@dataclass(frozen=True)
class Evidence:
    """A finished run with its books: all that a rule may look at."""

    run: Run
    books: Ledger


Rule = Callable[[Evidence], Iterator[Judgement]]


def amp_hours(flow: Flow) -> float:
    """A flow's charge over the whole trip [Ah]."""
    return float(flow.ah.sum())


def used_wh(evidence: Evidence) -> float:
    """What all appliances used over the trip, heater pads apart [Wh]."""
    return float(sum(flow.used.wh.sum() for flow in evidence.books.draws))


def hours(mask: np.ndarray, run: Run) -> float:
    """Hours in which something is so."""
    return float(np.count_nonzero(mask) * run.grid.step_h)
