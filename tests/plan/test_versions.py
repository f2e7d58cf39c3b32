"""Documents of older versions are upgraded step by step, and only forwards."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from pydantic_core import PydanticCustomError, ValidationError

from oddkettle.formats.plan_json import parse_plan
from oddkettle.plan import Plan, versions
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.versions import upgraded


@pytest.fixture
def next_version(monkeypatch: pytest.MonkeyPatch) -> None:
    """As if the format had come to version 3, with two upgrades on record."""

    def rename(document: dict[str, Any]) -> dict[str, Any]:
        rest = {key: value for key, value in document.items() if key != "title"}
        return rest | {"name": document["title"], "version": 2}

    def shout(document: dict[str, Any]) -> dict[str, Any]:
        return document | {"name": document["name"].upper(), "version": 3}

    monkeypatch.setattr(versions, "VERSION", 3)
    monkeypatch.setattr(versions, "UPGRADES", {1: rename, 2: shout})


@pytest.mark.usefixtures("next_version")
def test_every_upgrade_between_is_applied_in_order() -> None:
    old = {"version": 1, "title": "moor"}
    assert upgraded(old) == {"version": 3, "name": "MOOR"}
    assert old == {"version": 1, "title": "moor"}
    assert upgraded({"version": 2, "name": "moor"}) == {"version": 3, "name": "MOOR"}


@pytest.mark.usefixtures("next_version")
def test_todays_version_is_left_alone() -> None:
    document = {"version": 3, "name": "moor"}
    assert upgraded(document) is document


@pytest.mark.parametrize("version", [0, -1, "1", None, True, 1.5, 5, 10**9])
def test_a_version_that_cannot_be_read_is_refused(version: object) -> None:
    with pytest.raises(PydanticCustomError) as caught:
        upgraded({"version": version})
    context = caught.value.context or {}
    assert context["where"] == "version"
    assert context["limit"] == "1 to 4"
    assert context["remedy"]


@pytest.mark.parametrize("odd", ["\ud800", "x\udfff"])
def test_half_of_a_pair_of_characters_is_refused_in_words_that_can_be_written(odd: str) -> None:
    for key in ("format", "version"):
        with pytest.raises(ValidationError) as caught:
            Plan.model_validate({key: odd})
        (said,) = caught.value.errors()
        assert said["ctx"]["where"] == key
        assert said["ctx"]["value"].encode()


def test_what_is_no_object_is_passed_on_to_be_refused_by_its_shape() -> None:
    assert upgraded([1]) == [1]


def test_a_plan_of_version_one_is_read_with_its_chargers_and_its_air() -> None:
    """The demo plan as the first version wrote it."""
    plan = parse_plan((Path(__file__).parent / "old" / "moth-survey-1.json").read_bytes())
    assert plan.version == 4
    assert [(v.id, v.kind, v.limit_a) for v in plan.box.vehicle] == [("vehicle", "dcdc", 30.0)]
    assert [(m.id, m.limit_a) for m in plan.box.mains] == [("mains", 10.0)]
    case = case_from_plan(plan)
    assert case.low_c[0] == case.high_c[0] == 11.0
    assert case.clearness[0] == 1.02
    assert case.step_min == 5


def test_a_broken_plan_of_version_one_is_refused_by_its_fields_not_by_the_upgrade() -> None:
    for box in (None, 7, {"dcdc": 3}):
        assert upgraded({"version": 1, "box": box, "assumptions": []})["version"] == 4  # type: ignore[index]


def test_a_plan_of_version_two_keeps_its_number_of_scenarios() -> None:
    """The demo plan as the second version wrote it."""
    plan = parse_plan((Path(__file__).parent / "old" / "moth-survey-2.json").read_bytes())
    assert plan.assumptions.scenarios == 200
    assert (plan.trip.begins, plan.trip.ends, plan.box.key) == ("00:00", "24:00", None)


def test_a_freezers_duty_stays_what_it_was_told_at() -> None:
    """Version 3 took every duty as told at the fridge's own setting."""

    def inside(set_c: float) -> object:
        pattern = {"type": "fridge", "set_c": set_c}
        cold = {"id": "c", "name": "Cold", "power_w": 45, "pattern": pattern}
        found: Any = upgraded({"version": 3, "use": {"appliances": [cold]}})
        return found["use"]["appliances"][0]["pattern"].get("duty_set_c")

    assert inside(-18) == -18
    assert inside(6) is None
