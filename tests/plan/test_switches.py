"""What is switched off stays in the plan and does nothing: the same as were it not there."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

import pytest

from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import EXAMPLES, example

Document = dict[str, Any]
NAMES = sorted(path.stem for path in EXAMPLES.glob("*.json"))


def document_of(name: str) -> Document:
    return example(name).model_dump(mode="json")


def levels(document: Document) -> list[float]:
    report = report_plan(Plan.model_validate(document), advice=False)
    assert report.series is not None
    return report.series.level_percent


def without(document: Document, group: str, key: str) -> None:
    """Take a source out, and what names it."""
    box = document["box"]
    box[group] = [one for one in box[group] if one["id"] != key]
    box["order"] = [one for one in box["order"] if one != key]
    box["joining"]["members"] = [one for one in box["joining"]["members"] if one != key]


def sources() -> Iterator[tuple[str, str, int]]:
    for name in NAMES:
        box = document_of(name)["box"]
        for group in ("sun", "vehicle", "mains"):
            for place in range(len(box[group])):
                yield name, group, place


@pytest.mark.parametrize(("name", "group", "place"), list(sources()))
def test_a_source_that_is_off_is_a_source_that_is_not_there(
    name: str, group: str, place: int
) -> None:
    off, gone = document_of(name), document_of(name)
    off["box"][group][place]["on"] = False
    without(gone, group, gone["box"][group][place]["id"])
    assert levels(off) == levels(gone)


def test_a_panel_that_is_off_is_a_panel_that_is_not_there() -> None:
    off, gone = document_of("moth-survey"), document_of("moth-survey")
    off["box"]["sun"][0]["panels"][1]["on"] = False
    del gone["box"]["sun"][0]["panels"][1]
    assert levels(off) == levels(gone)


def test_an_array_whose_panels_are_all_off_is_off_with_its_controller() -> None:
    off, gone = document_of("gauging-hut"), document_of("gauging-hut")
    for panel in off["box"]["sun"][0]["panels"]:
        panel["on"] = False
    without(gone, "sun", gone["box"]["sun"][0]["id"])
    assert levels(off) == levels(gone)


@pytest.mark.parametrize("place", range(3))
def test_an_appliance_that_is_off_is_an_appliance_that_is_not_there(place: int) -> None:
    off, gone = document_of("coast-weekend"), document_of("coast-weekend")
    off["use"]["appliances"][place]["on"] = False
    del gone["use"]["appliances"][place]
    before = levels(document_of("coast-weekend"))
    # A fridge's cycles begin by its place in the list, so levels agree to a cycle's charge.
    assert levels(off) == pytest.approx(levels(gone), abs=1.5)
    assert min(levels(off)) > min(before)


def second_off(document: Document) -> None:
    document["box"]["second"]["on"] = False


def second_gone(document: Document) -> None:
    document["box"]["second"] = None


def pads_off(document: Document) -> None:
    document["box"]["heater"]["on"] = False


def pads_gone(document: Document) -> None:
    document["box"]["heater"] = None


@pytest.mark.parametrize(
    ("name", "switch", "remove"),
    [("radio-hill", second_off, second_gone), ("winter-caravan", pads_off, pads_gone)],
)
def test_a_second_bank_and_pads_can_stay_at_home(
    name: str, switch: Callable[[Document], None], remove: Callable[[Document], None]
) -> None:
    off, gone = document_of(name), document_of(name)
    switch(off)
    remove(gone)
    assert levels(off) == levels(gone)
    assert levels(off) != levels(document_of(name))


def test_what_is_off_is_not_asked_to_fit() -> None:
    document = document_of("moth-survey")
    document["box"]["inverter"] = None
    with pytest.raises(PlanRefused, match="inverter"):
        report_plan(Plan.model_validate(document))
    for appliance in document["use"]["appliances"]:
        appliance["on"] = appliance["supply"] != "inverter"
    assert report_plan(Plan.model_validate(document)).use.draws


def test_everything_off_is_a_battery_that_rests() -> None:
    document = document_of("moth-survey")
    for group in ("sun", "vehicle", "mains"):
        for source in document["box"][group]:
            source["on"] = False
    for appliance in document["use"]["appliances"]:
        appliance["on"] = False
    report = report_plan(Plan.model_validate(document))
    assert report.total.taken.ah == 0.0
    assert report.total.used.ah == 0.0
    assert report.verdict.lowest_percent == pytest.approx(96.0, abs=1.0)


@pytest.mark.parametrize("kind", ["drive", "rest"])
def test_hours_of_other_days_reach_the_core(kind: str) -> None:
    document = document_of("moth-survey")
    laptop = next(a for a in document["use"]["appliances"] if a["id"] == "laptop")
    laptop[f"{kind}_hours"] = []
    for day in document["trip"]["days"]:
        day["kind"] = kind
    case = case_from_plan(Plan.model_validate(document))
    found = next(a for a in case.appliances if a.key == "laptop")
    assert dict(found.other_days) == {kind: ()}
    report = report_plan(Plan.model_validate(document), advice=False)
    assert next(d for d in report.use.draws if d.key == "laptop").a_day.wh == 0.0


def test_a_guess_has_a_spread_and_a_measured_figure_none() -> None:
    case = case_from_plan(example("moth-survey"))
    spreads = {a.key: a.spread for a in case.appliances}
    assert spreads["laptop"] == 0.25
    assert spreads["kettle"] == 0.0
