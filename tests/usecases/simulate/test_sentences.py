"""What the tool says, and that it is true of the run."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from oddkettle.core.simulation.ensemble import run_ensemble
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.results.run import RunReport
from oddkettle.text import Habits, render
from oddkettle.text.words import duration_words, number_word, percent_words
from oddkettle.usecases.plans.reference import reference
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import example
from tests.plan.test_document import put


def said(document: dict[str, Any], **changes: object) -> RunReport:
    for path, value in changes.items():
        document = put(document, path.replace("__", "."), value)
    return report_plan(Plan.model_validate(document), series=False)


def test_a_plan_with_room_to_spare_says_so(document: dict[str, Any]) -> None:
    verdict = said(document, box__battery__capacity_ah=300).verdict
    assert verdict.headline == "Your box lasts all nine days."
    assert verdict.detail.startswith("As planned its lowest point is")
    assert verdict.lasts
    assert verdict.mend is None


def test_a_plan_that_falls_short_names_the_day_and_the_depth(document: dict[str, Any]) -> None:
    verdict = said(document).verdict
    assert verdict.headline == "It goes under your reserve on Fri 12."
    assert f"{verdict.lowest_percent:.0f} %" in verdict.detail
    assert "your reserve is 20 %" in verdict.detail
    assert not verdict.lasts
    assert verdict.below_floor_min > 0


def test_a_battery_that_cuts_out_is_said_before_anything_else(document: dict[str, Any]) -> None:
    report = said(document, box__battery__capacity_ah=40, box__sun=[])
    assert report.verdict.headline.startswith("The battery cuts out on ")
    assert report.total.unmet.ah > 0
    assert f"{report.total.unmet.ah:.0f} Ah" in render(report.verdict.detail)


def test_the_controller_is_called_the_neck_when_it_clips_most(document: dict[str, Any]) -> None:
    report = said(document, box__sun__0__controller__limit_a=3)
    assert report.bottleneck.headline == "The solar controller is the limit."
    clipped = sum(source.clipped.ah for source in report.total.sources)
    assert f"{clipped:.0f} Ah" in render(report.bottleneck.detail)


def test_too_little_coming_in_is_called_the_neck_when_nothing_is_wasted(
    document: dict[str, Any],
) -> None:
    report = said(document, box__sun__0__panels__0__power_w=20, trip__blocks=[])
    assert report.bottleneck.headline == "What comes in is the limit."


def test_each_limit_is_the_number_that_the_run_shows(document: dict[str, Any]) -> None:
    limits = {limit.key: limit for limit in said(document, box__vehicle__0__limit_a=5).limits}
    assert limits["panels"].binds
    assert "the controller passes 8 A" in limits["panels"].text
    assert limits["dcdc"].binds
    assert "its rating is the limit" in limits["dcdc"].text


def test_sources_that_never_run_say_why(document: dict[str, Any]) -> None:
    limits = {limit.key: limit.text for limit in said(document, trip__blocks=[]).limits}
    assert limits["dcdc"] == "No drive on this trip, so it never starts."
    assert limits["mains"] == "No hook-up on this trip, so it never starts."


def test_use_adds_up_and_knows_what_is_guessed(document: dict[str, Any]) -> None:
    use = said(document).use
    assert use.a_day.wh == pytest.approx(sum(draw.a_day.wh for draw in use.draws))
    guessed = {a["id"] for a in document["use"]["appliances"] if a["figure"] == "guess"}
    wanted = sum(draw.a_day.wh for draw in use.draws if draw.key in guessed)
    assert use.guess_percent == pytest.approx(100 * wanted / use.a_day.wh)
    mean_a = sum(sum(draw.profile_a) / len(draw.profile_a) for draw in use.draws)
    assert mean_a * 24 == pytest.approx(use.a_day.ah, rel=0.01)
    assert 0 < use.night_percent < 100


def test_a_box_without_anything_still_gets_an_answer(document: dict[str, Any]) -> None:
    document["use"]["appliances"] = []
    report = said(document, box__sun=[], box__vehicle=[], box__mains=[], box__inverter=None)
    assert report.verdict.lasts
    assert report.use.peak_a == 0
    assert report.limits == []


def test_a_single_day_is_one_day(document: dict[str, Any]) -> None:
    report = said(document, trip__days=[{"sky": "clear"}], trip__blocks=[])
    assert report.verdict.headline.startswith("Your box lasts the day")


@pytest.mark.parametrize(
    ("hours", "words"), [(0.25, "15 min"), (1.4, "84 min"), (2.0, "2.0 h"), (30.4, "30 h")]
)
def test_durations_are_said_shortly(hours: float, words: str) -> None:
    assert duration_words(hours) == words


def test_numbers_are_words_while_small() -> None:
    assert [number_word(n) for n in (1, 9, 12, 13)] == ["one", "nine", "twelve", "13"]
    assert percent_words(0.104) == "10 %"


def test_the_shelf_starts_inside_its_own_ranges_and_as_a_guess() -> None:
    for item in reference().shelf:
        assert item.low_w <= item.appliance.power_w <= item.high_w
        assert item.appliance.figure == "guess"
    skies = {sky.key: sky.clearness for sky in reference().skies}
    assert skies["clear"] == 1.02
    assert skies["usual"] is None


def test_every_sentence_comes_in_either_unit(document: dict[str, Any]) -> None:
    report = said(document)
    for words in (report.bottleneck.detail, *(limit.text for limit in report.limits)):
        assert " Ah" in render(words)
        assert " Wh" in render(words, Habits(unit="Wh"))
        assert " Ah" not in render(words, Habits(unit="Wh"))


def test_frost_is_named_where_it_keeps_the_charge_out() -> None:
    plan = example("winter-caravan")
    box = plan.box.model_copy(update={"heater": None})
    cold = [day.model_copy(update={"low_c": -18.0, "high_c": -9.0}) for day in plan.trip.days]
    frozen = plan.model_copy(
        update={"box": box, "trip": plan.trip.model_copy(update={"days": cold})}
    )
    report = report_plan(frozen, advice=False)
    assert report.bottleneck.headline == "Frost is the limit."
    assert "Heater pads or a warmer place let them in." in report.bottleneck.detail
    sun = next(source for source in report.total.sources if source.kind == "sun")
    assert 0 < sun.frozen.ah <= sun.spilled.ah + 1e-9
    assert report_plan(example("moth-survey"), advice=False).total.sources[0].frozen.ah == 0


@pytest.mark.parametrize("percent", [10, 20, 30, 50, 70, 90])
def test_standing_at_the_reserve_is_not_under_it(document: dict[str, Any], percent: int) -> None:
    """Nothing runs and next to nothing leaks: the level stays where it began."""
    document["box"]["battery"].update(age="measured", datasheet={"self_discharge_percent": 0.1})
    document["use"]["appliances"] = []
    document["box"]["sun"], document["box"]["vehicle"], document["box"]["mains"] = [], [], []
    document["trip"]["blocks"] = []
    document["trip"]["days"] = document["trip"]["days"][:1]
    document["assumptions"].update(start_doubt_percent=0, capacity_doubt_percent=0)
    report = said(
        document, trip__start_percent=percent, trip__floor_percent=percent, box__inverter=None
    )
    assert report.verdict.lasts
    case = case_from_plan(Plan.model_validate(document))
    at_floor = replace(case, soc0=percent / 100, floor=percent / 100, inverter=None)
    assert run_ensemble(at_floor, 8).lasts.all()


def test_a_trip_that_begins_at_its_reserve_says_so(document: dict[str, Any]) -> None:
    document["box"]["sun"], document["box"]["vehicle"], document["box"]["mains"] = [], [], []
    document["trip"]["blocks"] = []
    report = said(document, trip__start_percent=20, trip__floor_percent=20)
    first, second = report.headline, said(document, trip__start_percent=40).headline
    assert first in {"It begins at your reserve, with nothing to spend."} or "cuts out" in first
    assert "begins" not in second


def test_a_battery_that_is_kept_flat_is_not_told_of_no_cycles(document: dict[str, Any]) -> None:
    document["box"]["sun"], document["box"]["vehicle"], document["box"]["mains"] = [], [], []
    document["trip"]["blocks"] = []
    flat = said(document, trip__start_percent=3)
    ageing = next(j for j in flat.judgements or [] if j.code == "ageing")
    assert "0.0" not in ageing.text
    assert "run flat" in ageing.text
    full = said(document, trip__start_percent=100)
    assert "full cycles" in next(j for j in full.judgements or [] if j.code == "ageing").text


def test_the_worst_of_ten_ends_no_fuller_than_the_best() -> None:
    for name in ("moth-survey", "coast-weekend", "night-breather"):
        found = run_ensemble(case_from_plan(example(name)), 60)
        order = found.by_rank()
        lasting = found.lasts[order]
        # Those that fail come first, and of the others each ends at least as full as the last.
        assert np.all(np.diff(lasting.astype(int)) >= 0)
        ends = found.level[order][lasting][:, -1]
        assert np.all(np.diff(ends) >= 0.0)
