"""The odds in words and numbers, the skies that stand for many, and the odds' own sum."""

from __future__ import annotations

from typing import Any

import pytest

from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.weather import prospects_from
from oddkettle.results.sums import SumLine
from oddkettle.usecases.explain import explain
from oddkettle.usecases.simulate.odds import in_ten, odds_of
from oddkettle.usecases.simulate.run_cache import SKIES, run_plan
from oddkettle.usecases.simulate.run_report import report_plan


def with_scenarios(document: dict[str, Any], count: int = 60, **guesses: object) -> Plan:
    document["assumptions"] |= {"scenarios": count} | guesses
    return Plan.model_validate(document)


def test_odds_add_up(document: dict[str, Any]) -> None:
    odds = odds_of(with_scenarios(document))
    assert odds.scenarios == 60
    assert odds.lasts_percent <= 100 - odds.under_percent + 1e-9
    assert odds.under_percent >= max(day.under_percent for day in odds.days)
    assert odds.tight_day == max(range(9), key=lambda d: odds.days[d].under_percent)
    assert odds.lowest.low <= odds.lowest.middle <= odds.lowest.high
    assert len(odds.band.low) == 9 * 96 + 1
    assert 3.0 < odds.error_points < 8.0


def test_more_charge_is_never_less_sure(document: dict[str, Any]) -> None:
    shares = []
    for percent in (40, 70, 100):
        document["trip"]["start_percent"] = percent
        shares.append(odds_of(with_scenarios(document)).lasts_percent)
    assert shares == sorted(shares)


def shed_line(plan: Plan, day: int | None) -> SumLine | None:
    lines = explain(plan, "odds", day).lines
    return next((line for line in lines if "switched off by level" in line.text), None)


def test_hours_that_something_is_shed_are_told_where_something_can_be(
    document: dict[str, Any],
) -> None:
    assert shed_line(with_scenarios(document), None) is None
    document["use"]["shedding"] = {"first_percent": 99}
    greedy = shed_line(with_scenarios(document), None)
    document["use"]["shedding"] = {"first_percent": 1}
    shy = shed_line(with_scenarios(document), None)
    assert greedy is not None
    assert shy is not None
    # Under 99 % almost always, under 1 % hardly ever, in nine days.
    assert 100 < float(greedy.value.split()[0]) <= 9 * 24
    assert float(shy.value.split()[0]) < 10
    assert "100 % of the trips" in greedy.note


def test_the_shed_hours_of_the_days_add_up_to_those_of_the_trip(document: dict[str, Any]) -> None:
    document["use"]["shedding"] = {"first_percent": 60}
    plan = with_scenarios(document)
    lines = [shed_line(plan, day) for day in (None, *range(9))]
    whole, *days = (float(line.value.split()[0]) for line in lines if line is not None)
    assert len(days) == 9
    assert whole == pytest.approx(sum(days), abs=0.5)


@pytest.mark.parametrize(
    ("share", "words"),
    [
        (1.0, "99 of 100 tries"),
        (0.973, "97 of 100 tries"),
        (0.7, "7 of 10 tries"),
        (0.12, "1 of 10 tries"),
        (0.011, "1 of 100 tries"),
        (0.0, "fewer than 1 of 100 tries"),
    ],
)
def test_shares_are_said_as_a_camper_would(share: float, words: str) -> None:
    assert in_ten(share) == words


def test_the_answer_above_the_board_is_never_surer_than_the_odds(document: dict[str, Any]) -> None:
    report = report_plan(with_scenarios(document), odds="full", advice=False)
    assert report.odds is not None
    assert report.odds.lasts_percent < 70
    assert report.headline == report.odds.headline
    assert "lasts all" not in report.headline
    assert report_plan(with_scenarios(document), advice=False).headline == report.verdict.headline


def test_worst_middling_and_best_are_whole_runs_in_that_order(document: dict[str, Any]) -> None:
    plan = with_scenarios(document)
    runs = {sky: run_plan(plan, sky) for sky in SKIES}
    # By hours cut out first: once empty, their lowest levels are the same but for the last amp.
    ranks = [
        (-float((1.0 - run.track.served).sum()), round(float(run.level.min()), 2))
        for run in (runs[sky] for sky in ("worst", "middling", "best"))
    ]
    assert ranks == sorted(ranks)
    for run in runs.values():
        ledger = keep_ledger(run)
        charge = sum(float(flow.taken.ah.sum()) for flow in ledger.sources)
        charge -= sum(float(flow.used.ah.sum()) for flow in ledger.draws)
        charge -= float((ledger.stored.ah + ledger.coulombic.ah + ledger.leaked.ah).sum())
        assert charge == pytest.approx(0.0, abs=1e-6)


def test_every_figure_of_a_shown_sky_opens_to_its_own_sum(document: dict[str, Any]) -> None:
    plan = with_scenarios(document)
    expected, worst = (explain(plan, "ledger", 3, sky) for sky in ("expected", "worst"))
    assert expected.lines != worst.lines


def test_the_odds_open_to_how_they_were_made(document: dict[str, Any]) -> None:
    plan = with_scenarios(document)
    odds, total = odds_of(plan), explain(plan, "odds")
    shown = {line.text: line.value for line in total.lines}
    assert shown["trips tried"] == "60"
    assert int(shown["come through"]) == round(0.6 * odds.lasts_percent)
    assert len(total.constants) >= 8
    friday = explain(plan, "odds", 6)
    through = next(line.value for line in friday.lines if line.text == "come through")
    assert 60 - int(through) == round(0.6 * odds.days[6].under_percent)


@pytest.mark.parametrize("count", [0, 10_000_000])
def test_a_number_of_scenarios_that_cannot_be_is_refused(
    document: dict[str, Any], count: int
) -> None:
    with pytest.raises(PlanRefused) as refused:
        odds_of(Plan.model_validate(document), count)
    said = refused.value.complaints[0]
    assert said.value == str(count)
    assert said.remedy


def test_a_day_of_its_own_stop_takes_that_places_sun_and_climate(document: dict[str, Any]) -> None:
    document["trip"]["stops"] = [
        {"id": "south", "name": "South", "latitude": 37, "longitude": -2, "altitude_m": 0}
    ]
    for day in document["trip"]["days"]:
        day["stop"] = "south"
    south, north = Plan.model_validate(document), with_scenarios(document)
    home = Plan.model_validate(
        document
        | {
            "trip": document["trip"]
            | {"days": [day | {"stop": None} for day in document["trip"]["days"]]}
        }
    )
    day = report_plan(south, advice=False).days[1]
    at_home = report_plan(home, advice=False).days[1]
    assert (day.sunset_min or 0) - (day.sunrise_min or 0) < (at_home.sunset_min or 0) - (
        at_home.sunrise_min or 0
    )
    assert north.trip.days[0].stop == "south"
    document["trip"]["days"][0]["stop"] = "nowhere"
    with pytest.raises(ValueError, match="not among the trip's stops"):
        Plan.model_validate(document)


def test_a_weather_file_goes_before_the_climate(document: dict[str, Any]) -> None:
    document["assumptions"]["weather"] = {
        "source": "a file",
        "clearness": [0.31] * 12,
        "low_c": [1] * 12,
        "high_c": [2] * 12,
    }
    document["trip"]["days"][0] |= {"sky": "usual", "low_c": None, "high_c": None}
    first = prospects_from(Plan.model_validate(document))[0]
    assert (first.usual, first.low_c, first.high_c) == (0.31, 1.0, 2.0)


def test_the_mending_drive_says_how_often_the_box_lasts_with_it(document: dict[str, Any]) -> None:
    report = report_plan(with_scenarios(document), odds="full")
    mend, odds = report.verdict.mend, report.odds
    assert mend is not None
    assert odds is not None
    assert mend.lasts_percent is not None
    assert mend.lasts_percent >= odds.lasts_percent
    block = {"id": "mend", "kind": "drive", "day": mend.day, "start": mend.start, "end": mend.end}
    document["trip"]["blocks"].append(block)
    assert odds_of(with_scenarios(document)).lasts_percent == pytest.approx(mend.lasts_percent)
