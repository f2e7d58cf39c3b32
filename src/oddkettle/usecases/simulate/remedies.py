"""Judgements as the pages get them: with their remedies as edits of the plan document."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from pydantic import ValidationError

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.ledger import Ledger, keep_ledger
from oddkettle.core.simulation.run import Run, simulate
from oddkettle.core.simulation.run_metrics import keeps_reserve
from oddkettle.core.values.copying import copied
from oddkettle.plan import Plan
from oddkettle.plan.box import ConverterModel, HeaterModel
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.sources.sun import SunModel
from oddkettle.results.judgements import Edit, JudgedNumber, JudgementReport, Remedy

Path = tuple[str | int, ...]

if TYPE_CHECKING:
    from oddkettle.core.judgement import Change, Judgement


def report_judgements(
    plan: Plan, run: Run, ledger: Ledger, dark_share: float | None = None
) -> list[JudgementReport]:
    """Every judgement of a plan's run, the gravest first, with edits."""
    # Many rules to load: only where they are asked for.
    from oddkettle.core.judgement import judge

    return with_tried_remedies(plan, run, judge(run, ledger, dark_share))


def with_tried_remedies(plan: Plan, run: Run, judged: Sequence[Judgement]) -> list[JudgementReport]:
    """Judgements of a plan's run, each with its remedy as edits where that was tried and works."""
    found = []
    for one in judged:
        edits = [] if one.fix is None else _all_edits(plan, one.fix.changes)
        works = bool(edits) and mends(plan, run, judged, one, edits)
        numbers = [JudgedNumber(**vars(number)) for number in one.numbers]
        fix = Remedy(text=one.fix.text, edits=edits) if one.fix and works else None
        found.append(copied(JudgementReport, one, numbers=numbers, fix=fix))
    return found


def _all_edits(plan: Plan, changes: tuple[Change, ...]) -> list[Edit]:
    """The edits of several changes; each is laid on the plan with those before it."""
    found: list[Edit] = []
    for change in changes:
        after = (
            plan if not found or not change.part.startswith("circuit:") else with_edits(plan, found)
        )
        found += edits_of(after, change)
    return found


def mends(
    plan: Plan, run: Run, judged: Sequence[Judgement], one: Judgement, edits: list[Edit]
) -> bool:
    """Whether a remedy was tried and works.

    With it the judgement falls silent, none as grave comes up instead, and the box does not fail
    where it did not.
    """
    from oddkettle.core.judgement import GRAVE, SEVERITIES, judge

    try:
        other = simulate(case_from_plan(with_edits(plan, edits)))
    except (PlanError, PlanRefused, ValidationError):
        return False
    own = SEVERITIES.index(one.severity)
    before = {(j.code, j.part): SEVERITIES.index(j.severity) for j in judged}
    for found in judge(other, keep_ledger(other)):
        key, rank = (found.code, found.part), SEVERITIES.index(found.severity)
        if key == (one.code, one.part):
            return False
        worse = rank < before.get(key, len(SEVERITIES))
        if found.severity in GRAVE and rank <= own and worse:
            return False
    return keeps_reserve(other) or not keeps_reserve(run)


def edits_of(plan: Plan, change: Change) -> list[Edit]:  # noqa: PLR0911  one way a kind of part
    """Where a change of the core's terms lies in the document."""
    box = plan.box
    field = change.field
    if change.part == "warmth":
        if field == ("heater",):
            return [_edit(("box", "heater"), HeaterModel().model_dump(mode="json"))]
        return [_edit(("box", "housing", *field), change.value)]
    if change.part == "converter" and box.converter is None:
        new = ConverterModel.model_validate({field[0]: change.value})
        return [_edit(("box", "converter"), new.model_dump(mode="json"))]
    if change.part in {"battery", "second", "inverter", "converter", "joining", "unit"}:
        return [_edit(("box", change.part, *field), change.value)]
    if change.part == "trip":
        return [_edit(("assumptions", *field), change.value)]
    if change.part == "enclosure":
        return [_edit(("build", "enclosure", *field), change.value)]
    if change.part == "wiring":
        return [_edit(("build", *field), change.value)]
    group, _, key = change.part.partition(":")
    if group == "circuit":
        return [_circuit_edit(plan, key, str(field[0]), change.value)]
    if group == "appliance":
        # A way to run is a part of its own, with the usual figures.
        value = {"type": change.value} if field == ("pattern",) else change.value
        places = [n for n, a in enumerate(plan.use.appliances) if a.id == key]
        return [_edit(("use", "appliances", n, *field), value) for n in places]
    sources: list[Any] = list(getattr(box, group))
    place = next(n for n, source in enumerate(sources) if source.id == key)
    where: Path = ("box", group, place)
    source = sources[place]
    if field == ("own_regulator",) and isinstance(source, SunModel):
        panels = range(len(source.panels))
        return [_edit((*where, "panels", n, *field), change.value) for n in panels]
    return [_edit((*where, *field), change.value)]


def _circuit_edit(plan: Plan, key: str, field: str, value: object) -> Edit:
    """A choice of a circuit: cables that the box states are changed there, the rest in `build`."""
    group, _, source = key.partition("-")
    if field in {"cable_mm2", "run_m"}:
        stated = {"run_m": "length_m", "cable_mm2": "area_mm2"}
        for n, vehicle in enumerate(plan.box.vehicle):
            if group == "feed" and vehicle.id == source:
                return _edit(("box", "vehicle", n, "feed", stated[field]), value)
        for n, sun in enumerate(plan.box.sun):
            if group == "panel" and sun.id == source and sun.cable_m is not None:
                return _edit(
                    ("box", "sun", n, {"run_m": "cable_m", "cable_mm2": "cable_mm2"}[field]), value
                )
    choices = [choice.model_dump(mode="json") for choice in plan.build.circuits]
    known = next((choice for choice in choices if choice["circuit"] == key), None)
    if known is None:
        known = {"circuit": key}
        choices.append(known)
    known[field] = value
    return _edit(("build", "circuits"), choices)


def _edit(path: Path, value: object) -> Edit:
    return Edit(path=list(path), value=value)


def with_edits(plan: Plan, edits: list[Edit]) -> Plan:
    """The plan with every edit made. Raises ValidationError for a value out of bounds."""
    document = plan.model_dump(mode="json")
    for edit in edits:
        at: Any = document
        for step in edit.path[:-1]:
            at = at[step]
        at[edit.path[-1]] = edit.value
    return Plan.model_validate(document)
