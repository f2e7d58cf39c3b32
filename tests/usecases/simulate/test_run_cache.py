"""One run a plan: the same for every page, and never another plan's."""

from __future__ import annotations

import json

import numpy as np
import pytest

from oddkettle.core.values.cache import CACHE
from oddkettle.plan import Plan
from oddkettle.plan.making.document import EnclosureModel
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.usecases.simulate import run_cache
from oddkettle.usecases.simulate.run_cache import ensemble_of, run_plan
from oddkettle.usecases.simulate.run_report import report_plan, written_report


def with_build(plan: Plan, material: str) -> Plan:
    build = plan.build.model_copy(update={"enclosure": EnclosureModel(material=material)})  # type: ignore[arg-type]
    return plan.model_copy(update={"build": build, "name": f"In {material}"})


def test_a_plan_is_laid_and_run_once_for_all_who_ask(
    moth: Plan, monkeypatch: pytest.MonkeyPatch
) -> None:
    CACHE.clear()
    laid: list[int] = []
    lay = run_cache.build_world

    def counted(case: object, *more: object) -> object:
        laid.append(1)
        return lay(case, *more)  # type: ignore[arg-type]

    monkeypatch.setattr(run_cache, "build_world", counted)
    run_plan(moth)
    ensemble_of(moth)
    report_plan(moth, odds="full")
    assert run_plan(moth).track is run_plan(moth).track
    assert len(laid) == 1


@pytest.mark.parametrize("sky", ["expected", "worst", "best"])
def test_how_the_box_is_built_changes_no_run_but_is_in_its_case(
    moth: Plan, sky: run_cache.Sky
) -> None:
    wood, metal = (with_build(moth, material) for material in ("wood", "metal"))
    CACHE.clear()
    first, second = run_plan(wood, sky), run_plan(metal, sky)
    CACHE.clear()
    alone = run_plan(metal, sky)
    assert np.array_equal(first.level, alone.level)
    assert second.case.surroundings == alone.case.surroundings
    assert second.case.surroundings != first.case.surroundings
    assert second.case.wiring == alone.case.wiring


def test_every_other_part_of_a_plan_is_another_run(moth: Plan) -> None:
    larger = moth.box.battery.model_copy(update={"capacity_ah": 91.0})
    changed = moth.model_copy(update={"box": moth.box.model_copy(update={"battery": larger})})
    assert run_plan(changed).level[-1] != run_plan(moth).level[-1]
    assert ensemble_of(moth, 20).scenarios.count == 20
    assert ensemble_of(moth, 21).scenarios.count == 21
    assert ensemble_of(moth, 20, quick=True).grid.step_min == 15
    assert ensemble_of(moth, 20, drag=True).grid.step_min == 30


def test_a_refused_plan_is_refused_again(moth: Plan) -> None:
    two = moth.box.battery.model_copy(update={"series": 2})
    changed = moth.model_copy(update={"box": moth.box.model_copy(update={"battery": two})})
    for _ in range(2):
        with pytest.raises(PlanRefused, match="24 V"):
            run_plan(changed)


def test_a_report_that_is_kept_is_the_report_and_takes_a_rest(moth: Plan) -> None:
    plain = report_plan(moth, odds="quick", advice=False)
    for _ in range(2):
        body = written_report(moth, advice=False, odds="quick", sky="expected")
        assert json.loads(body) == json.loads(plain.model_dump_json())
    assert plain.odds is not None
    with_rest = json.loads(
        written_report(moth, advice=False, odds="quick", sky="expected", rest=plain.odds)
    )
    assert with_rest.pop("rest")["headline"] == plain.odds.headline
    assert with_rest == {k: v for k, v in json.loads(body).items() if k != "rest"}
