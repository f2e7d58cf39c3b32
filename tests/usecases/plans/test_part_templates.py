"""New parts: each can be put into a plan as it is offered, and runs."""

from __future__ import annotations

import pytest

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.plan import Plan
from oddkettle.usecases.plans.part_templates import FRESH, FreshSource
from oddkettle.usecases.plans.reference import reference
from oddkettle.usecases.simulate.run_report import report_plan


def with_part(**box: object) -> Plan:
    plan = FRESH.plan
    return Plan.model_validate(
        {**plan.model_dump(), "box": {**plan.box.model_dump(), **box}},
    )


@pytest.mark.parametrize("new", FRESH.sources, ids=lambda new: new.text)
def test_every_source_runs_as_offered(new: FreshSource) -> None:
    report = report_plan(with_part(**{new.group: [new.part.model_dump()]}), series=False)
    assert [source.kind for source in report.total.sources] == [new.group]


@pytest.mark.parametrize("part", ["inverter", "heater", "second", "unit"])
def test_every_other_part_runs_as_offered(part: str) -> None:
    assert report_plan(with_part(**{part: getattr(FRESH, part).model_dump()})).days


def test_a_label_and_a_shade_suit_the_panel_they_are_offered_with() -> None:
    panel = {**FRESH.panel.model_dump(), "label": FRESH.label.model_dump()}
    sun = {
        **FRESH.sources[0].part.model_dump(),
        "panels": [panel],
        "shade": [FRESH.shade.model_dump()],
    }
    report = report_plan(with_part(sun=[sun]))
    assert report.total.sources[0].offered.ah > 0.0
    watts = FRESH.label.vmp_v * FRESH.label.imp_a
    assert watts == pytest.approx(FRESH.panel.power_w, rel=0.01)


def test_every_shelf_item_runs_on_a_plain_box_with_an_inverter() -> None:
    plan = with_part(inverter=FRESH.inverter.model_dump())
    for item in reference().shelf:
        use = plan.use.model_copy(update={"appliances": [item.appliance]})
        report = report_plan(plan.model_copy(update={"use": use}), series=False, advice=False)
        assert report.use.a_day.wh > 0.0


def test_every_chemistry_says_what_it_costs_its_owner() -> None:
    chemistries = {choice.key: choice for choice in reference().chemistries}
    assert list(chemistries) == list(CHEMISTRIES)
    assert chemistries["lifepo4"].kg_per_kwh < chemistries["agm"].kg_per_kwh
    assert chemistries["lifepo4"].cycles > chemistries["agm"].cycles
    assert chemistries["agm"].cold_limit_c < chemistries["lifepo4"].cold_limit_c
    assert all(choice.text.endswith(".") for choice in chemistries.values())
