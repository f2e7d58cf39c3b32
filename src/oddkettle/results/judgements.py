"""Judgements as documents: with their remedies as edits of the plan."""

from __future__ import annotations

from typing import Any, Literal

from oddkettle.plan.quantities import LazyModel


class JudgedNumber(LazyModel):
    """A figure that a judgement rests on."""

    name: str
    value: float
    unit: str


class Edit(LazyModel):
    """One value of the plan document to be set: where, and to what."""

    path: list[str | int]
    value: Any


class Remedy(LazyModel):
    """A remedy that is one step: its button's words, and the edits it makes."""

    text: str
    edits: list[Edit]


class JudgementReport(LazyModel):
    """One judgement, with its remedy as edits of this plan."""

    code: str
    severity: Literal["danger", "fault", "waste", "note"]
    part: str
    text: str
    means: str
    remedy: str
    source: str
    numbers: list[JudgedNumber]
    fix: Remedy | None
