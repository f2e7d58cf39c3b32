"""The schools: each option is what the plan becomes when it is tried."""

from __future__ import annotations

import pytest

from oddkettle.usecases.improve.design_alternatives import DesignAlternative, compare_schools
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import example
from tests.support.tiers import sample_boxes


@pytest.fixture(scope="module")
def schools() -> dict[str, DesignAlternative]:
    return {school.key: school for school in compare_schools(example("moth-survey"))}


def test_trying_an_option_brings_what_it_promised(schools: dict[str, DesignAlternative]) -> None:
    plan = example("moth-survey")
    tried = 0
    for school in schools.values():
        for option in school.options:
            if option.try_it is None or option.refused:
                continue
            got = report_plan(with_edits(plan, option.try_it.edits), series=False, advice=False)
            assert got.verdict.lowest_percent == pytest.approx(option.lowest_percent, abs=0.01)
            tried += 1
    assert tried > 8


def test_what_the_plan_has_is_marked_and_costs_no_edit(
    schools: dict[str, DesignAlternative],
) -> None:
    for school in schools.values():
        assert sum(option.chosen for option in school.options) == 1
        chosen = next(option for option in school.options if option.chosen)
        assert chosen.try_it is None


def test_lead_is_cheaper_heavier_and_half_usable(schools: dict[str, DesignAlternative]) -> None:
    by_name = {option.text: option for option in schools["chemistry"].options}
    lithium, agm = by_name["LiFePO4"], by_name["AGM lead-acid"]
    assert lithium.usable is not None
    assert agm.usable is not None
    assert agm.euro is not None
    assert lithium.euro is not None
    assert agm.euro.high < lithium.euro.high
    assert (agm.kg or 0) > 2 * (lithium.kg or 0)
    assert agm.usable.ah < 0.7 * lithium.usable.ah
    assert agm.years is not None
    assert lithium.years is not None
    assert agm.years.low < agm.years.high < lithium.years.high


@pytest.mark.parametrize("name", sample_boxes())
def test_every_sample_box_can_be_compared(name: str) -> None:
    for school in compare_schools(example(name)):
        assert any(option.refused is None for option in school.options)
