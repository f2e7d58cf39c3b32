"""Sums: every figure opens, and every sum comes out at its own figure."""

from __future__ import annotations

import re

import pytest

from oddkettle.plan import Plan
from oddkettle.results.run import RunReport
from oddkettle.text import Habits, render
from oddkettle.usecases.explain import OVER, WHOLE, Sum, SumLine, explain
from oddkettle.usecases.simulate.instant import report_instant
from oddkettle.usecases.simulate.missing import NoSuchFigure, NoSuchStep
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import example
from tests.support.tiers import sample_boxes

CLOSING = ["taken", "used", "net", "use", "standby", "usable"]


@pytest.fixture(scope="module")
def plan() -> Plan:
    return example("moth-survey")


@pytest.fixture(scope="module")
def report(plan: Plan) -> RunReport:
    return report_plan(plan)


def number(text: str) -> float:
    found = re.search(r"[−-]?\d+(\.\d+)?", text)
    assert found, text
    return float(found.group().replace("−", "-"))


def written(text: str, unit: str) -> float:
    return number(render(text, Habits(unit=unit)))  # type: ignore[arg-type]


def signed(line: SumLine, unit: str) -> float:
    value = written(line.value, unit)
    return {"+": value, "-": -value, "=": 0.0, "": 0.0}[line.sign]


def total(found: Sum, unit: str) -> float:
    return written(next(ln for ln in found.lines if ln.sign == "=").value, unit)


@pytest.mark.parametrize("figure", CLOSING)
@pytest.mark.parametrize("unit", ["Ah", "Wh"])
def test_what_is_written_adds_up_to_the_total_but_for_rounding(
    plan: Plan, figure: str, unit: str
) -> None:
    found = explain(plan, figure)
    rounding = 0.5 * (len(found.lines) + 1)
    assert sum(signed(line, unit) for line in found.lines) == pytest.approx(
        total(found, unit), abs=rounding
    )


def test_the_total_is_the_figure_on_the_page(plan: Plan, report: RunReport) -> None:
    friday = report.days[6]
    assert total(explain(plan, "taken", 6), "Ah") == pytest.approx(friday.taken.ah, abs=0.5)
    assert total(explain(plan, "used", 6), "Wh") == pytest.approx(friday.used.wh, abs=0.5)
    assert total(explain(plan, "use"), "Wh") == pytest.approx(report.use.a_day.wh, abs=0.5)
    assert total(explain(plan, "usable"), "Ah") == pytest.approx(report.bank.usable.ah, abs=0.5)
    assert total(explain(plan, "peak"), "Ah") == pytest.approx(report.use.peak_a, abs=0.05)
    lowest = explain(plan, "lowest", 6).lines[-1]
    assert number(lowest.value) == pytest.approx(friday.lowest_percent, abs=0.05)


def test_the_way_to_the_lowest_level_is_the_books_until_then(plan: Plan) -> None:
    lines = explain(plan, "lowest").lines
    begin = number(lines[0].value)
    stored = number(next(ln for ln in lines if ln.text.startswith("Stored")).value)
    end = number(lines[-1].value)
    assert begin + 100 * stored / plan.box.battery.capacity_ah == pytest.approx(end, abs=0.7)


def test_every_source_draw_and_appliance_opens(plan: Plan, report: RunReport) -> None:
    for source in report.total.sources:
        found = explain(plan, f"source:{source.key}")
        assert total(found, "Ah") == pytest.approx(source.taken.ah, abs=0.5)
        assert sum(signed(line, "Ah") for line in found.lines) == pytest.approx(
            source.taken.ah, abs=2.0
        )
    for draw in report.total.draws:
        assert total(explain(plan, f"draw:{draw.key}"), "Ah") == pytest.approx(
            draw.used.ah, abs=0.5
        )
    for day in report.use.draws:
        last = [ln for ln in explain(plan, f"appliance:{day.key}").lines if ln.sign == "="][-1]
        assert written(last.value, "Wh") == pytest.approx(day.a_day.wh, abs=0.5)


@pytest.mark.parametrize("name", sample_boxes())
def test_every_figure_of_every_sample_box_opens(name: str) -> None:
    plan = example(name)
    for figure in (*OVER, *WHOLE, "lowest", "guess"):
        if figure == "alone":
            continue
        found = explain(plan, figure)
        assert found.title
        assert found.lines
        assert all(constant.source for constant in found.constants)


@pytest.mark.parametrize("name", ["moth-survey", "radio-hill", "gauging-hut"])
def test_the_time_without_any_source_opens_to_the_level_it_begins_at(name: str) -> None:
    plan = example(name)
    worst = report_plan(plan).endurance.shortest_autonomy
    assert worst is not None
    level, above, lasts, *doubt = explain(plan, "alone").lines
    floor = plan.trip.floor_percent
    capacity = plan.box.battery.capacity_ah
    assert number(above.value) == pytest.approx(
        max(number(level.value) - floor, 0.0) * capacity / 100, abs=0.006 * capacity + 0.5
    )
    if worst.hours is None:
        assert lasts.value == "more than 60 days"
        return
    assert number(lasts.value) == pytest.approx(worst.hours, abs=0.05)
    assert all(number(line.value) <= worst.hours for line in doubt)
    # What is above the floor, drawn by the mean use, is about as long.
    mean_a = report_plan(plan).use.a_day.ah / 24
    assert number(lasts.value) == pytest.approx(number(above.value) / mean_a, rel=0.6, abs=2)


def test_lines_lead_on_to_sums_that_are_there(plan: Plan) -> None:
    for line in explain(plan, "ledger", 2).lines:
        if line.opens is not None:
            assert explain(plan, line.opens, 2).lines


@pytest.mark.parametrize(
    ("figure", "day"), [("nonsense", None), ("source:nobody", None), ("taken", 99), ("draw:", 1)]
)
def test_what_is_not_there_is_said(plan: Plan, figure: str, day: int | None) -> None:
    with pytest.raises(NoSuchFigure, match=re.escape(str(day) if day == 99 else figure)):
        explain(plan, figure, day)


def test_guesses_add_up_by_their_squares(plan: Plan, report: RunReport) -> None:
    offs = [
        0.01 * a.spread_percent * next(d.a_day.wh for d in report.use.draws if d.key == a.id)
        for a in plan.use.appliances
        if a.figure == "guess"
    ]
    assert report.use.spread.wh == pytest.approx(sum(off**2 for off in offs) ** 0.5)
    assert 0 < report.use.spread.wh < sum(offs)


def test_moments_add_up_to_the_day(plan: Plan) -> None:
    hourly = plan.model_copy(
        update={"assumptions": plan.assumptions.model_copy(update={"step_min": 60})}
    )
    day = report_plan(hourly, advice=False).days[1]
    moments = [report_instant(hourly, day.first_step + hour) for hour in range(24)]
    assert sum(m.taken.ah for m in moments) == pytest.approx(day.taken.ah, rel=1e-9)
    assert sum(m.used.wh for m in moments) == pytest.approx(day.used.wh, rel=1e-9)
    assert moments[0].level_percent == pytest.approx(day.start_percent)


def test_a_moment_outside_the_trip_is_refused(plan: Plan) -> None:
    with pytest.raises(NoSuchStep, match="0 to 2591"):
        report_instant(plan, 2592)
