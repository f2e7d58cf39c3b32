"""What the menus add, to a plain box as it comes, is not found fault with."""

from __future__ import annotations

from typing import Any

import pytest

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.judgement import judge
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.usecases.plans.part_templates import FRESH

SEALED = sorted(key for key, kind in CHEMISTRIES.items() if not kind.vented)
KNOWN = {("lto", "trickle charger")}
"""One voltage of 13.7 V is made for lead, and is too much for titanate: that is right to say."""


def plain(chemistry: str) -> dict[str, Any]:
    document = FRESH.plan.model_dump(mode="json")
    document["box"]["battery"] = {"chemistry": chemistry, "capacity_ah": 100}
    document["trip"]["floor_percent"] = 50 if CHEMISTRIES[chemistry].lead else 20
    return document


def faults(document: dict[str, Any]) -> list[tuple[str, str]]:
    run = simulate(case_from_plan(Plan.model_validate(document)))
    return [(j.code, j.part) for j in judge(run, keep_ledger(run)) if j.severity != "note"]


@pytest.mark.parametrize("chemistry", SEALED)
@pytest.mark.parametrize("source", FRESH.sources, ids=lambda source: source.text)
def test_a_source_of_the_menu_raises_nothing_above_a_note(source: Any, chemistry: str) -> None:
    document = plain(chemistry)
    if (chemistry, source.text) in KNOWN:
        assert ("profile-mismatch", "mains:new") in faults(with_source(document, source))
        return
    if source.needs is not None:
        needed = next(one for one in FRESH.sources if one.group == source.needs)
        document["box"][source.needs] = [
            needed.part.model_copy(update={"id": "first"}).model_dump(mode="json")
        ]
    assert faults(with_source(document, source)) == []


def with_source(document: dict[str, Any], source: Any) -> dict[str, Any]:
    document["box"].setdefault(source.group, []).append(source.part.model_dump(mode="json"))
    return document


@pytest.mark.parametrize("chemistry", SEALED)
@pytest.mark.parametrize("name", ["inverter", "converter", "heater", "second"])
def test_another_part_of_the_menu_raises_nothing_above_a_note(name: str, chemistry: str) -> None:
    document = plain(chemistry)
    part = getattr(FRESH, name).model_dump(mode="json")
    if name == "second":
        # The page gives it the box's own battery.
        part["battery"] = document["box"]["battery"]
    document["box"][name] = part
    assert faults(document) == []
