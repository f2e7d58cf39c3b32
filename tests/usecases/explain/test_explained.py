"""What the sums say of flows, battery and use, reckoned again from the run's ledger."""

from __future__ import annotations

import re
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import pytest

from oddkettle.core.simulation.run import Run
from oddkettle.plan import Plan
from oddkettle.results.run import Amount, Period, RunReport
from oddkettle.results.sums import Sum
from oddkettle.text import Habits, render
from oddkettle.usecases.explain import bank, explain, flows, use
from oddkettle.usecases.simulate.run_cache import run_plan
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import example
from tests.usecases.explain.test_sums import number, written

NAMES = ["moth-survey", "coast-unit", "coast-weekend", "quarry-relay", "winter-caravan"]


@dataclass(frozen=True)
class Told:
    name: str
    plan: Plan
    run: Run
    report: RunReport

    @property
    def whole(self) -> Period:
        return flows.ledger_of(self.run, 0, self.run.grid.steps)


@pytest.fixture(scope="module", params=NAMES)
def told(request: pytest.FixtureRequest) -> Told:
    plan = example(request.param)
    return Told(request.param, plan, run_plan(plan), report_plan(plan))


def line(found: Sum, text: str) -> str:
    """What stands behind the first line of these words, unwritten."""
    return next(one.value for one in found.lines if one.text.startswith(text))


def amounts(found: Sum, text: str) -> tuple[float, float]:
    value = line(found, text)
    return written(value, "Ah"), written(value, "Wh")


def is_about(shown: tuple[float, float], amount: Amount) -> None:
    assert shown[0] == pytest.approx(amount.ah, abs=0.51)
    assert shown[1] == pytest.approx(amount.wh, abs=0.51)


def signs(found: Sum) -> list[str]:
    return [one.sign for one in found.lines]


def test_a_span_is_a_day_or_all(told: Told) -> None:
    grid = told.run.grid
    assert flows.span_of(told.run, None) == (0, grid.steps)
    days = [flows.span_of(told.run, day) for day in range(grid.days)]
    assert days[0][0] == 0
    assert days[-1][1] == grid.steps
    assert all(one[1] == after[0] for one, after in pairwise(days))


def test_in_out_and_what_is_left_are_the_books(told: Told) -> None:
    run, whole = told.run, told.whole
    taken, used = flows.taken_sum(run, whole, "all"), flows.used_sum(run, whole, "all")
    assert signs(taken) == ["+"] * len(whole.sources) + ["="]
    assert signs(used) == ["+"] * len(whole.draws) + ["=", ""]
    is_about(amounts(taken, "In"), whole.taken)
    is_about(amounts(used, "Out"), whole.used)
    shown = [written(one.value, "Wh") for one in used.lines[:-2]]
    assert shown == sorted(shown, reverse=True)
    assert f"{whole.lost.converters_wh:.0f} Wh" in used.lines[-1].value
    net = flows.net_sum(run, whole, "all")
    assert signs(net) == ["+", "-", "="]
    assert amounts(net, "Net")[0] == pytest.approx(whole.taken.ah - whole.used.ah, abs=0.6)


def test_the_account_closes_in_amp_hours_and_watt_hours(told: Told) -> None:
    run, whole = told.run, told.whole
    found = flows.ledger_sum(run, whole, "the trip")
    assert found.title.startswith("The trip")
    into, out = amounts(found, "In"), amounts(found, "Out")
    lost, left = amounts(found, "Lost in"), amounts(found, "Left in")
    for unit in (0, 1):
        assert into[unit] - out[unit] - lost[unit] == pytest.approx(left[unit], abs=2.1)
    draws = [one for one in found.lines if (one.opens or "").startswith("draw:")]
    assert {one.sign for one in draws} == {"-"}
    assert len(draws) == len(whole.draws)
    denied = [draw for draw in whole.draws if draw.unmet.ah > 0.05]
    assert sum("switched off" in (one.note or "") for one in draws) == len(denied)
    carried = [draw for draw in whole.draws if draw.moved.ah > 0.05]
    assert sum("vehicle" in (one.note or "") for one in draws) == len(carried)
    spilled = [s for s in whole.sources if max(s.barred.ah, s.clipped.ah, s.spilled.ah) > 0.05]
    sources = [one for one in found.lines if (one.opens or "").startswith("source:")]
    assert sum(bool(one.note) for one in sources) == len(spilled)


def test_stored_and_lost_add_up(told: Told) -> None:
    run, whole = told.run, told.whole
    stored = flows.stored_sum(run, whole, "all")
    assert signs(stored) == ["+", "-", "-", "-", "-", "="]
    wh = [written(one.value, "Wh") for one in stored.lines]
    assert wh[0] - sum(wh[1:5]) == pytest.approx(wh[5], abs=3.1)
    is_about(amounts(stored, "Stored"), whole.stored)
    chemistry = run.case.bank.chemistry
    shown = {one.text: number(one.value) for one in stored.constants}
    assert shown["Of charge comes back"] == pytest.approx(100 * chemistry.coulombic_low, abs=0.06)
    assert shown["Self-discharge"] == pytest.approx(100 * chemistry.self_discharge_month, abs=0.06)
    lost = flows.lost_sum(run, whole, "all")
    parts = [number(one.value) for one in lost.lines]
    assert sum(parts[:-1]) == pytest.approx(parts[-1], abs=3.1)
    of_all = whole.lost
    assert parts[3] == pytest.approx(of_all.resistance_wh + of_all.lag_wh, abs=0.51)
    passes = [one for one in lost.constants if one.text.endswith(" passes")]
    own = [s for s in run.sources if s.feed_s == 0.0 and not s.pwm]
    # The last is that of converters to USB.
    assert [number(one.value) for one in passes[:-1]] == [
        pytest.approx(100 * s.efficiency, abs=0.51) for s in own
    ]


def test_the_way_to_the_lowest_point_is_that_of_the_level(told: Told) -> None:
    run = told.run
    found = flows.lowest_sum(run, 0, run.grid.steps, "all")
    assert number(found.lines[0].value) == pytest.approx(100 * float(run.level[0]), abs=0.06)
    assert number(found.lines[-1].value) == pytest.approx(100 * float(np.min(run.level)), abs=0.06)
    assert found.lines[-1].sign == "="
    floor = next(one for one in found.constants if one.text == "Your floor")
    assert number(floor.value) == pytest.approx(told.plan.trip.floor_percent)


def test_each_source_from_what_it_offers_to_what_was_taken(told: Told) -> None:
    for source in told.whole.sources:
        found = flows.source_sum(told.run, told.whole, source.key, "all")
        assert found is not None
        is_about(amounts(found, "It could give"), source.offered)
        is_about(amounts(found, "Taken"), source.taken)
        missing = sum(written(one.value, "Wh") for one in found.lines if one.sign == "-")
        assert source.offered.wh - missing == pytest.approx(source.taken.wh, abs=2.1)
        assert any(one.text.startswith("and in its cable") for one in found.lines) == (
            source.wiring_wh >= 0.5
        )
        limit = next(one for one in found.constants if one.text == "Its limit")
        assert number(limit.value) > 0
    assert flows.source_sum(told.run, told.whole, "nobody", "all") is None
    assert flows.draw_sum(told.run, told.whole, "nobody", "all") is None


def test_each_draw_tells_what_it_drew_lost_and_was_denied(told: Told) -> None:
    for draw in told.whole.draws:
        found = flows.draw_sum(told.run, told.whole, draw.key, "all")
        assert found is not None
        is_about(amounts(found, "Drawn"), draw.used)
        texts = " ".join(one.text for one in found.lines)
        assert ("lost in its converter" in texts) == (draw.lost_wh >= 0.05)
        assert ("Denied" in texts) == (draw.unmet.ah > 0.005)
        assert ("Carried" in texts) == (draw.moved.ah > 0.005)


def test_what_of_the_label_can_be_used(told: Told) -> None:
    battery, case = told.run.case.bank, told.run.case
    found = bank.usable_sum(told.run, told.report)
    label, reserve = amounts(found, "On the label"), amounts(found, "Kept as")
    usable = amounts(found, "Usable")
    inside = 1.0 if case.unit is None else case.unit.usable
    assert label[0] == pytest.approx(battery.capacity_ah, abs=0.51)
    assert label[1] == pytest.approx(battery.capacity_ah * battery.nominal_v, abs=0.51)
    # Nobody told the age of some of them: those hold less than their label.
    holds_ah = battery.capacity_ah * case.doubt.capacity_mean
    assert reserve[0] == pytest.approx(holds_ah * case.floor, abs=0.51)
    assert usable[0] == pytest.approx(holds_ah * (1 - case.floor) * inside, abs=0.51)
    assert any("inside the unit" in one.text for one in found.lines) == (case.unit is not None)


def test_charge_limit_weight_and_wear_are_shares_of_the_capacity(told: Told) -> None:
    battery, chemistry = told.run.case.bank, told.run.case.bank.chemistry
    limit = bank.charge_limit_sum(told.run, told.report).lines[-1]
    assert number(limit.value) == pytest.approx(
        chemistry.charge_limit_c * battery.capacity_ah, abs=0.51
    )
    weight = bank.mass_sum(told.run, told.report).lines[-1]
    assert number(render(weight.value, Habits())) == pytest.approx(battery.mass_kg, rel=0.06)
    aged = told.report.endurance.ageing
    *lines, doubt = bank.ageing_sum(told.run, told.report).lines
    leads = max(aged.cycle_share_percent, aged.calendar_share_percent)
    low, high = (float(found) for found in re.findall(r"[\d.e-]+", doubt.value))
    assert low < leads < high
    assert low * high == pytest.approx(leads**2, rel=0.1)
    wear = [number(one.value) for one in lines]
    assert wear == [
        pytest.approx(aged.full_cycles, abs=0.006),
        pytest.approx(aged.deepest_percent, abs=0.51),
        pytest.approx(aged.cycle_share_percent, abs=0.006),
        pytest.approx(aged.calendar_share_percent, abs=0.006),
    ]


def test_the_peak_is_what_is_due_at_its_quarter(told: Told) -> None:
    found = use.peak_sum(told.run, told.report)
    parts = [number(one.value) for one in found.lines]
    assert signs(found) == ["+"] * (len(parts) - 1) + ["="]
    assert parts[:-1] == sorted(parts[:-1], reverse=True)
    assert parts[-1] == pytest.approx(told.report.use.peak_a, abs=0.06)
    assert sum(parts[:-1]) >= parts[-1] - 0.1


def test_night_and_day_are_the_whole_day(told: Told) -> None:
    found = use.night_sum(told.run, told.report)
    assert signs(found) == ["+", "+", "=", "="]
    night, day, whole = (written(one.value, "Wh") for one in found.lines[:3])
    assert night + day == pytest.approx(whole, abs=1.6)
    a_day, share = told.report.use.a_day, told.report.use.night_percent
    assert night == pytest.approx(a_day.wh * share / 100, abs=0.51)
    assert number(found.lines[3].value) == pytest.approx(share, abs=0.51)


def test_standby_and_guesses_add_up_each_in_its_way(told: Told) -> None:
    report = told.report.use
    standby = use.standby_sum(told.run, told.report)
    shown = [written(one.value, "Wh") for one in standby.lines]
    assert sum(shown[:-1]) == pytest.approx(shown[-1], abs=0.51 * len(shown))
    assert shown[-1] == pytest.approx(report.standby_a_day.wh, abs=0.51)
    guesses = use.guess_sum(told.run, told.report, told.plan)
    off = {a.key: a.spread for a in told.run.case.appliances if a.spread > 0.0}
    parts = [d.a_day.wh * off[d.key] for d in report.draws if d.key in off]
    together = next(one for one in guesses.lines if one.text.startswith("Together"))
    assert written(together.value, "Wh") == pytest.approx(
        float(np.sqrt(np.sum(np.square(parts)))), rel=0.02, abs=0.11
    )


def test_an_appliance_from_its_plug_to_the_battery(told: Told) -> None:
    """What it takes at its plug, less what the vehicle carries, with its converter's loss."""
    for draw in told.report.use.draws:
        found = explain(told.plan, f"appliance:{draw.key}")
        plug = [one for one in found.lines if one.text == "At its plug"]
        if not plug:
            continue
        moved = [one for one in found.lines if one.text.startswith("on the vehicle")]
        lost = [one for one in found.lines if one.text.startswith("lost in its converter")]
        battery = next(one for one in found.lines if one.text.startswith("From the battery"))
        sums = [sum(number(one.value) for one in some) for some in (plug, moved, lost)]
        assert sums[0] - sums[1] + sums[2] == pytest.approx(written(battery.value, "Wh"), abs=0.7)
        assert bool(lost) == (draw.lost_wh > 0.0)


def test_the_series_begin_where_the_trip_does(told: Told) -> None:
    series = told.report.series
    assert series is not None
    assert series.first_utc == f"{told.run.grid.starts_utc[0]}Z"
