"""Remedies: the button of a judgement really satisfies it, and the edits fit the document."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from oddkettle.plan import Plan
from oddkettle.results.judgements import JudgementReport
from oddkettle.usecases.simulate.check import judge_plan
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import EXAMPLES, example

Spoil = Callable[[dict[str, Any]], None]


def spoilt(change: Spoil, sample: str = "moth-survey") -> Plan:
    document = example(sample).model_dump(mode="json")
    change(document)
    return Plan.model_validate(document)


def found(plan: Plan) -> list[JudgementReport]:
    return report_plan(plan, series=False).judgements or []


def box(**parts: object) -> Spoil:
    """Set fields of the box, each named by its path with double underscores."""

    def change(document: dict[str, Any]) -> None:
        for name, value in parts.items():
            *path, last = name.split("__")
            at = document["box"]
            for step in path:
                at = at[int(step)] if step.isdigit() else at[step]
            at[last] = value

    return change


def heavy_laptop(document: dict[str, Any]) -> None:
    laptop = next(a for a in document["use"]["appliances"] if a["id"] == "laptop")
    laptop.update(supply="inverter", power_w=400, surge_w=900)


def laptop_on_its_adapter(document: dict[str, Any]) -> None:
    laptop = next(a for a in document["use"]["appliances"] if a["id"] == "laptop")
    laptop.update(supply="inverter", adapter=True)


def in_a_desert(document: dict[str, Any]) -> None:
    document["trip"]["site"].update(latitude=23, longitude=5, altitude_m=900)
    document["assumptions"]["climate"] = "temperate_maritime"


def frost(document: dict[str, Any]) -> None:
    for day in document["trip"]["days"]:
        day.update(low_c=-6, high_c=-1)


SPOILT: list[tuple[str, Spoil]] = [
    ("profile-mismatch", box(battery__absorption_v=15.0)),
    ("profile-mismatch", box(mains__0__profile={"absorption_v": 15.2, "float_v": 13.5})),
    ("controller-clips", box(sun__0__controller__limit_a=4)),
    ("pwm-loss", box(sun__0__controller__kind="pwm")),
    ("unregulated-panel", box(sun__0__controller__kind="none")),
    ("double-regulator", box(sun__0__panels__1__own_regulator=True)),
    ("charge-too-hard", box(mains__0__limit_a=70)),
    ("alternator-overloaded", box(vehicle__0__limit_a=60, vehicle__0__alternator__rated_a=90)),
    ("alternator-smart-relay", box(vehicle__0__kind="relay", vehicle__0__alternator__smart=True)),
    ("no-ignition-sense", box(vehicle__0__ignition=False, vehicle__0__alternator__smart=True)),
    ("dcdc-starved", box(vehicle__0__feed__area_mm2=2.5, vehicle__0__feed__length_m=9)),
    ("socket-fuse", box(vehicle__0__fuse_a=10)),
    ("back-feed", box(vehicle__0__kind="relay", vehicle__0__forced=True)),
    ("inverter-idle", box(inverter__switched="always")),
    ("inverter-too-small", heavy_laptop),
    ("usb-through-inverter", laptop_on_its_adapter),
    ("flooded-in-cabin", box(battery__chemistry="flooded", housing__place="living")),
    ("agm-under-bonnet", box(battery__chemistry="agm", housing__place="engine")),
    ("conductive-enclosure", box(housing__metal=True, housing__posts_covered=False)),
    ("climate-unlike-place", in_a_desert),
]


@pytest.mark.parametrize(("code", "spoil"), SPOILT, ids=[one[0] for one in SPOILT])
def test_the_button_satisfies_the_rule(code: str, spoil: Spoil) -> None:
    plan = spoilt(spoil)
    said = next(one for one in found(plan) if one.code == code)
    assert said.fix is not None
    mended = with_edits(plan, said.fix.edits)
    still = [one for one in found(mended) if (one.code, one.part) == (code, said.part)]
    assert still == []


def test_a_remedy_that_helps_without_ending_it_helps() -> None:
    plan = spoilt(frost)
    cold = next(one for one in found(plan) if one.code == "cold-charge-lockout")
    assert cold.fix is not None
    warmed = with_edits(plan, cold.fix.edits)
    assert warmed.box.heater is not None
    before = report_plan(plan, series=False).endurance.locked_h
    assert report_plan(warmed, series=False).endurance.locked_h < before / 2


def test_every_remedy_of_every_sample_box_makes_a_plan_that_runs() -> None:
    for path in EXAMPLES.glob("*.json"):
        plan = example(path.stem)
        for said in found(plan):
            if said.fix is not None:
                report_plan(with_edits(plan, said.fix.edits), series=False, advice=False)


def test_parts_are_named_so_that_a_source_and_an_appliance_of_one_id_differ() -> None:
    plan = spoilt(box(sun__0__id="laptop"))
    stowed = next(one for one in found(plan) if one.code == "panel-stowed")
    assert stowed.part == "sun:laptop"


def test_the_pages_and_the_command_say_the_same() -> None:
    plan = spoilt(box(battery__absorption_v=15.0))
    shown = report_plan(plan, series=False, odds="full").judgements
    assert shown is not None
    assert [j.code for j in judge_plan(plan)] == [j.code for j in shown]


def test_only_the_sample_boxes_that_may_fail_warn_of_what_must_run() -> None:
    warned = {
        path.stem
        for path in EXAMPLES.glob("*.json")
        if any(j.code == "must-run-margin" for j in judge_plan(example(path.stem)))
    }
    assert warned == {"moth-survey", "moth-season", "coast-unit"}


@pytest.mark.parametrize("name", sorted(path.stem for path in EXAMPLES.glob("*.json")))
def test_a_sound_sample_box_raises_nothing_above_a_note(name: str) -> None:
    grave = [one for one in found(example(name)) if one.severity != "note"]
    in_it = {
        "night-breather": [("medical-single-source", "appliance:breath")],
        "moth-season": [("inverter-idle", "inverter")],
    }
    assert [(one.code, one.part) for one in grave] == in_it.get(name, [])


def test_judging_is_left_out_while_a_shape_is_dragged() -> None:
    report = report_plan(example("moth-survey"), advice=False)
    assert report.judgements is None
