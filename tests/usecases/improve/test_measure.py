"""Measure it, as the page asks for it."""

from __future__ import annotations

import pytest

from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.usecases.improve.measure import Counted, measure_appliance
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import example


def counted(**more: object) -> Counted:
    given = {"appliance": "laptop", "before": 3, "after": 13, "hours": 2, **more}
    return Counted.model_validate(given)


def test_the_measured_figure_takes_the_guess_s_place_and_its_doubt() -> None:
    plan = example("moth-survey")
    got = measure_appliance(plan, counted())
    mended = with_edits(plan, got.replaces.edits)
    laptop = next(a for a in mended.use.appliances if a.id == "laptop")
    assert laptop.figure == "measured"
    assert laptop.power_w == pytest.approx(10 * 12.8 / 2 * 0.88, rel=1e-3)
    before, after = (report_plan(p, advice=False).use for p in (plan, mended))
    assert after.spread.wh < before.spread.wh
    assert after.guess_percent < before.guess_percent


def test_what_it_draws_in_the_plan_is_then_what_was_counted() -> None:
    plan = example("moth-survey")
    got = measure_appliance(plan, counted())
    day = report_plan(with_edits(plan, got.replaces.edits), advice=False).use
    laptop = next(d for d in day.draws if d.key == "laptop")
    # Two hours a day, as long as was measured: 10 Ah at nominal voltage.
    assert laptop.a_day.wh == pytest.approx(10 * 12.8, rel=1e-3)


@pytest.mark.parametrize("more", [{"appliance": "nobody"}, {"after": 3}, {"others_w": 900}])
def test_impossible_readings_are_refused_with_value_limit_and_remedy(more: dict) -> None:
    with pytest.raises(PlanRefused) as caught:
        measure_appliance(example("moth-survey"), counted(**more))
    complaint = caught.value.complaints[0]
    assert complaint.value
    assert complaint.limit
    assert complaint.remedy
