"""Typed words: what nine people would type is understood, and what is not is told."""

from __future__ import annotations

from datetime import date
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddkettle.usecases.onboarding.grammar.read import MAX_TEXT, Reading, read_sentence
from oddkettle.usecases.onboarding.plan_of import plan_of
from oddkettle.usecases.onboarding.sentence import Sentence
from tests.usecases.onboarding.test_sentence import MOOR, sentence

TODAY = date(2026, 11, 28)


def read(text: str, **base: Any) -> Reading:
    return read_sentence(text, sentence(start=TODAY, **base), TODAY)


def kinds(found: Sentence) -> list[tuple[str, int]]:
    return [(thing.kind, thing.count) for thing in found.things]


def chargers(found: Sentence) -> list[tuple[str, float]]:
    return [(charger.kind, charger.size) for charger in found.chargers]


@pytest.mark.parametrize(
    ("text", "bank", "sources", "things"),
    [
        (
            "100 Ah AGM, 120 W folding, 40 L cool box, lights, 2 phones, 3 nights in August",
            ("agm", 100),
            [("folding", 120)],
            [("coolbox", 1), ("lights", 1), ("phone", 2)],
        ),
        (
            "120 Ah LiFePO4, 25 A from the alternator, 160 W roof, cool box, laptop, 12 nights, "
            "drives every third day",
            ("lifepo4", 120),
            [("roof", 160), ("driving", 25)],
            [("coolbox", 1), ("laptop", 1)],
        ),
        (
            "700 Wh, refilled from the 12 V socket, lights, fan, phones, 5 nights",
            ("unit", 700),
            [("socket", 5)],
            [("lights", 1), ("phone", 2), ("fan", 1)],
        ),
        (
            "100 Ah LiFePO4, mains before leaving, 50 W radio sending a quarter of 9 hours, "
            "a weekend",
            ("lifepo4", 100),
            [],
            [("radio", 1)],
        ),
        (
            "100 Ah, 45 W cpap from 22 to 6, two nights, no sun",
            ("lifepo4", 100),
            [],
            [("breathing", 1)],
        ),
        (
            "80 Ah flooded on a staged charger, lights, how long in an outage",
            ("flooded", 80),
            [("mains", 10)],
            [("lights", 1)],
        ),
        (
            "9 Ah AGM, 6 W panel, 1.5 Wh a day, a year at 54 degrees north",
            ("agm", 9),
            [("roof", 6)],
            [("logger", 1)],
        ),
        ("100 Ah LiFePO4 with pads, -10 C nights, 4 days", ("lifepo4", 100), [], []),
        (
            "I run a laptop 60w, lights and two fans, what box do I need?",
            ("lifepo4", 100),
            [],
            [("laptop", 1), ("lights", 1), ("fan", 2)],
        ),
    ],
)
def test_what_nine_people_type_is_understood_to_the_last_word(
    text: str,
    bank: tuple[str, float],
    sources: list[tuple[str, float]],
    things: list[tuple[str, int]],
) -> None:
    found = read(text)
    assert found.left == []
    assert (found.sentence.bank.kind, found.sentence.bank.size) == bank
    assert sorted(chargers(found.sentence)) == sorted(sources)
    assert sorted(kinds(found.sentence)) == sorted(things)


@pytest.mark.parametrize(
    ("text", "changes"),
    [
        ("3 nights", {"nights": 3}),
        ("a long weekend", {"nights": 3}),
        ("two weeks", {"nights": 14}),
        ("eight months", {"months": 8, "shape": "alone"}),
        ("when the mains fails", {"shape": "standby"}),
        ("June", {"start": date(2027, 6, 15)}),
        ("late may", {"start": date(2027, 5, 25)}),
        ("3 december", {"start": date(2026, 12, 3)}),
        ("2027-02-28", {"start": date(2027, 2, 28)}),
        ("summer", {"start": date(2027, 7, 15)}),
        ("tomorrow", {"start": date(2026, 11, 29)}),
        ("minus 5 degrees", {"coldest_c": -5.0}),
    ],
)
def test_how_long_when_and_how_cold_are_read(text: str, changes: dict[str, Any]) -> None:
    found = read(text)
    assert {field: getattr(found.sentence, field) for field in changes} == changes
    assert found.left == []


def test_summer_in_the_south_is_in_january() -> None:
    south = MOOR.model_copy(update={"latitude": -41.0})
    assert read("summer", place=south).sentence.start == date(2027, 1, 15)


def test_a_place_is_found_by_its_name_and_a_month_is_none() -> None:
    found = read("near Leeds in May")
    assert found.sentence.place.name == "Leeds"
    assert found.sentence.start.month == 5
    assert "Leeds in United Kingdom" in found.understood[0].taken_for


def test_watts_that_belong_to_nothing_are_asked_about_and_never_a_panel() -> None:
    found = read("100ah agm, 120w, fridge")
    assert chargers(found.sentence) == []
    (asked,) = found.asked
    assert asked.typed == "120w"
    assert [chargers(one.sentence) for one in asked.choices] == [
        [("roof", 120)],
        [("folding", 120)],
        [],
    ]
    assert asked.choices[-1].sentence.things[-1].power_w == 120


def test_a_drive_by_itself_charges_nothing_until_it_is_said_how() -> None:
    found = read("100ah agm, fridge, we drive every day")
    assert chargers(found.sentence) == []
    (asked,) = found.asked
    assert [chargers(one.sentence) for one in asked.choices] == [
        [("driving", 25)],
        [("socket", 5)],
    ]


def test_a_new_sentence_starts_from_nothing() -> None:
    before = read("9 ah agm, 6 w panel, logger, left alone for twelve months").sentence
    assert before.shape == "alone"
    found = read_sentence("100ah lithium, 3 nights", before, TODAY)
    assert found.sentence.shape == "trip"
    assert found.sentence.bank.size == 100
    assert found.sentence.chargers == []
    assert {"chargers", "things"} <= set(found.supposed)


def test_words_that_say_only_when_change_nothing_else() -> None:
    before = read("100ah agm, 120w roof panel, fridge").sentence
    found = read_sentence("5 nights in june", before, TODAY)
    assert found.sentence == before.model_copy(update={"nights": 5, "start": date(2027, 6, 15)})


def test_what_is_named_and_unknown_runs_under_its_name() -> None:
    (thing,) = read("100ah agm, soldering iron 60 W 30 min").sentence.things
    assert (thing.kind, thing.name, thing.power_w) == ("other", "Soldering iron", 60)
    plan = plan_of(read("100ah agm, soldering iron 60 W 30 min").sentence)
    assert plan.use.appliances[0].name == "Soldering iron"


@pytest.mark.parametrize("text", ["xyzzy", "3 frobs", "0 ah", "99999 ah", "80 nights", "31 feb"])
def test_what_is_not_understood_is_told_and_changes_nothing(text: str) -> None:
    found = read(text)
    assert found.left
    assert found.sentence == sentence(start=TODAY)


@given(st.text(max_size=MAX_TEXT + 50))
def test_no_text_breaks_it_and_no_letter_is_understood_twice(text: str) -> None:
    found = read(text)
    assert sum(len(one.typed) for one in found.understood) <= len(text) + 1


def test_two_panels_of_a_size_are_one_of_twice_the_watts() -> None:
    assert chargers(read("two 100w panels").sentence) == [("folding", 200)]


def test_minutes_and_days_of_driving_belong_to_what_charges_by_driving() -> None:
    (found,) = read("30 A dc-dc, driving 90 minutes every 2 days").sentence.chargers
    assert (found.size, found.every, found.minutes) == (30, 2, 90)


@pytest.mark.parametrize(("text", "degrees"), [("54 N", 54.0), ("54 S", -54.0), ("12.5 S", -12.5)])
def test_a_latitude_is_north_or_south_as_it_is_typed(text: str, degrees: float) -> None:
    assert read(f"100 Ah AGM, lights, {text}").sentence.place.latitude == degrees
