"""Any plan that is accepted is written and read back the same, and keeps its promises."""

from __future__ import annotations

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from oddkettle.formats.plan_json import parse_plan, plan_bytes
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.quantities import clock_minutes
from oddkettle.plan.sources.sun import PanelModel
from oddkettle.plan.use import (
    ApplianceModel,
    BurstsPattern,
    FridgePattern,
    Hours,
    RadioPattern,
)
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import example
from tests.support.tiers import examples

quick = settings(
    max_examples=examples(60),
    deadline=None,
    derandomize=True,
    suppress_health_check=list(HealthCheck),
)
MINUTES = st.integers(0, 24 * 60)
clocks = MINUTES.map(lambda m: f"{m // 60:02d}:{m % 60:02d}")
names = st.text(
    st.characters(codec="utf-8", exclude_categories=["C", "Z"]), min_size=1, max_size=80
)
appliances = st.builds(
    ApplianceModel,
    id=st.just("thing"),
    name=names,
    power_w=st.floats(0.001, 5000),
    supply=st.sampled_from(["12v", "usb", "inverter"]),
    hours=st.lists(st.builds(Hours, start=clocks, end=clocks), min_size=1, max_size=12),
    duty_percent=st.floats(1, 100),
    figure=st.sampled_from(["measured", "guess"]),
    pattern=st.sampled_from([None, FridgePattern(), RadioPattern(), BurstsPattern()]),
    draw=st.sampled_from(["power", "resistance", "current"]),
    standby_w=st.floats(0, 20),
    priority=st.sampled_from(["first", "wanted", "must"]),
    on_vehicle=st.booleans(),
)
panels = st.builds(
    PanelModel,
    id=st.just("panel"),
    name=names,
    power_w=st.floats(1, 5000),
    mount=st.sampled_from(["flat", "tilted", "aimed"]),
    count=st.integers(1, 3),
    tilt_deg=st.floats(0, 90),
    azimuth_deg=st.floats(0, 360),
    portable=st.booleans(),
)


def plan_of(name: str, appliance: ApplianceModel, panel: PanelModel) -> Plan:
    plan = example("moth-survey")
    sun = plan.box.sun[0].model_copy(update={"panels": [panel]})
    return plan.model_copy(
        update={
            "name": name,
            "use": plan.use.model_copy(update={"appliances": [appliance]}),
            "box": plan.box.model_copy(update={"sun": [sun]}),
        }
    )


@quick
@given(names, appliances, panels)
def test_any_plan_is_written_and_read_back_the_same(
    name: str, appliance: ApplianceModel, panel: PanelModel
) -> None:
    plan = plan_of(name, appliance, panel)
    data = plan_bytes(plan)
    assert parse_plan(data) == plan
    assert plan_bytes(parse_plan(data)) == data


@quick
@given(names, appliances, panels)
def test_any_plan_that_runs_reports_books_that_close(
    name: str, appliance: ApplianceModel, panel: PanelModel
) -> None:
    report = report_plan(plan_of(name, appliance, panel), advice=False)
    for period in [*report.days, report.total]:
        rest = period.used.ah + period.stored.ah + period.lost.coulombic.ah + period.lost.leaked.ah
        assert abs(period.taken.ah - rest) < 1e-6 * (1 + period.taken.ah)
        assert period.unmet.ah >= 0
    levels = [day.lowest_percent for day in report.days]
    assert report.verdict.lowest_percent == min(levels)
    assert all(0 <= level <= 100 for level in levels)


@quick
@given(st.integers(0, 10_000), st.booleans())
def test_any_cut_or_spoiled_file_is_refused_or_still_a_plan(at: int, spoil: bool) -> None:
    data = plan_bytes(example("moth-survey"))
    at %= len(data)
    broken = data[:at] + (b"#" + data[at + 1 :] if spoil else b"")
    complaints, plan = [], None
    try:
        plan = parse_plan(broken)
    except PlanRefused as refused:
        complaints = refused.complaints
    assert (plan is None) == bool(complaints)
    assert all(c.text and c.limit and c.remedy for c in complaints)


@quick
@given(MINUTES)
def test_clock_times_are_minutes_and_back(minute: int) -> None:
    assert clock_minutes(f"{minute // 60:02d}:{minute % 60:02d}") == minute
