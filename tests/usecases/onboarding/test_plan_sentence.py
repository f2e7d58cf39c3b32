"""A plan's sentence tells it, and a change of the sentence changes that and nothing else."""

from __future__ import annotations

from datetime import date
from typing import Any

import pytest

from oddkettle.plan import Plan
from oddkettle.plan.quantities import clock_minutes
from oddkettle.usecases.onboarding.answers import begin_at
from oddkettle.usecases.onboarding.of_plan.editing import PlanSentence, edited
from oddkettle.usecases.onboarding.of_plan.telling import sentence_of
from oddkettle.usecases.onboarding.plan_of import plan_of
from oddkettle.usecases.onboarding.sentence import Bank, Charger, Sentence, Thing
from tests.conftest import EXAMPLES

SAMPLES = sorted(EXAMPLES.glob("*.json"))
EVERY_SAMPLE = pytest.mark.parametrize("path", SAMPLES, ids=lambda path: path.stem)


def sample(path) -> Plan:
    return Plan.model_validate_json(path.read_text())


def moth() -> Plan:
    return sample(EXAMPLES / "moth-survey.json")


def changed(plan: Plan, **parts: Any) -> Plan:
    before = sentence_of(plan)
    after = Sentence.model_validate(before.model_dump() | parts)
    return edited(PlanSentence(plan=plan, before=before, after=after))


def differing(a: Any, b: Any, where: str = "") -> set[str]:
    """The paths at which two documents differ."""
    if isinstance(a, dict) and isinstance(b, dict):
        keys = a.keys() | b.keys()
        return {p for key in keys for p in differing(a.get(key), b.get(key), f"{where}.{key}")}
    return set() if a == b else {where.lstrip(".")}


def paths(before: Plan, after: Plan) -> set[str]:
    return differing(before.model_dump(), after.model_dump())


@EVERY_SAMPLE
def test_a_sentence_that_is_not_changed_changes_nothing(path) -> None:
    plan = sample(path)
    assert paths(plan, changed(plan)) == set()


BASE = begin_at("UTC", date(2026, 6, 1))


@pytest.mark.parametrize(
    "parts",
    [
        {},
        {"bank": Bank(kind="agm", size=120, count=2, age="old")},
        {"bank": Bank(kind="unit", size=700)},
        {"chargers": [Charger(kind="roof", size=160), Charger(kind="driving", size=25, every=2)]},
        {"chargers": [Charger(kind="mains", size=10, every=2)], "nights": 12},
        {"chargers": [Charger(kind="generator", size=900, every=2, minutes=90)], "nights": 7},
        {"shape": "alone", "months": 8, "chargers": [Charger(kind="roof", size=6)]},
        {"coldest_c": -10.0},
    ],
)
def test_the_sentence_of_a_sentences_plan_is_that_sentence(parts) -> None:
    told = BASE.model_copy(update=parts)
    found = sentence_of(plan_of(told))
    assert found.bank == told.bank
    own = [(c.kind, c.size, c.every) for c in found.chargers]
    # A generator goes through a mains charger, which is then told, too.
    assert [(c.kind, c.size, c.every if c.kind not in {"folding", "roof"} else 30)
            for c in told.chargers] == [one for one in own if one[0] in {
                c.kind for c in told.chargers}]  # fmt: skip
    if told.shape == "trip":
        assert found.nights == told.nights
    else:
        assert found.months == told.months
    assert (found.place, found.start, found.coldest_c) == (told.place, told.start, told.coldest_c)
    assert [t.kind for t in found.things] == [t.kind for t in told.things]


@pytest.mark.parametrize(
    ("parts", "where"),
    [
        ({"bank": Bank(kind="lifepo4", size=200)}, {"box.battery.capacity_ah"}),
        ({"bank": Bank(kind="lifepo4", size=90, age="old")}, {"box.battery.age"}),
        ({"start": date(2026, 9, 1)}, {"trip.start", "trip.days"}),
        ({"place": BASE.place}, {"trip.site"}),
        ({"nights": 3}, {"trip.days", "trip.blocks"}),
        ({"nights": 12}, {"trip.days"}),
        ({"coldest_c": -5.0}, {"trip.days"}),
        ({"chargers": []}, {"box.sun", "box.vehicle", "box.mains"}),
        ({"things": []}, {"use.appliances"}),
    ],
)
def test_only_what_was_said_differs(parts, where) -> None:
    plan = moth()
    own = sentence_of(plan).bank
    if "bank" in parts:
        parts = {"bank": parts["bank"].model_copy(update={"pads": own.pads, "count": own.count})}
    found = {
        ".".join(path.split(".")[:3]) if path.startswith("box.battery") else
        ".".join(path.split(".")[:2]) for path in paths(plan, changed(plan, **parts))
    }  # fmt: skip
    assert found
    assert found <= where


@EVERY_SAMPLE
def test_what_is_taken_out_and_put_back_is_as_it_was(path) -> None:
    plan = sample(path)
    without = changed(plan, chargers=[])
    assert not sentence_of(without).chargers
    before = sentence_of(without)
    again = edited(
        PlanSentence(
            plan=without,
            before=before,
            after=before.model_copy(
                update={"chargers": [
                    c.model_copy(update={"every": c.every}) for c in sentence_of(plan).chargers
                ]}
            ),
        )
    )  # fmt: skip
    on = [source for source in plan.box.sources if source.on]
    back = [source for source in again.box.sources if source.on]
    assert [source.id for source in back] == [source.id for source in on]


def test_more_nights_go_on_at_the_same_stop_under_a_usual_sky() -> None:
    plan = moth()
    longer = changed(plan, nights=len(plan.trip.days) + 2)
    assert len(longer.trip.days) == len(plan.trip.days) + 3
    assert longer.trip.days[: len(plan.trip.days)] == plan.trip.days
    assert {day.sky for day in longer.trip.days[len(plan.trip.days) :]} == {"usual"}


def test_fewer_nights_leave_no_block_beyond_the_end() -> None:
    shorter = changed(moth(), nights=2)
    assert len(shorter.trip.days) == 3
    for block in shorter.trip.blocks:
        assert max(block.day, block.end_day or 0) <= 2
        assert clock_minutes(block.end) <= 1440


def test_two_panels_grow_in_the_same_proportion() -> None:
    plan = moth()
    roof = next(c for c in sentence_of(plan).chargers if c.kind == "roof")
    others = [c for c in sentence_of(plan).chargers if c.kind != "roof"]
    double = changed(plan, chargers=[roof.model_copy(update={"size": 2 * roof.size}), *others])
    assert next(c.size for c in sentence_of(double).chargers if c.kind == "roof") == pytest.approx(
        2 * roof.size
    )
    assert [c.size for c in sentence_of(double).chargers if c.kind != "roof"] == [
        c.size for c in others
    ]


def test_a_generator_that_is_added_comes_with_the_charger_that_it_goes_through() -> None:
    plan = plan_of(BASE)
    added = changed(
        plan, chargers=[*sentence_of(plan).chargers, Charger(kind="generator", size=900)]
    )
    assert [one.on for one in added.box.generator] == [True]
    assert any(one.on for one in added.box.mains)


def test_a_day_of_watt_hours_is_what_it_takes_and_another_thing_stays() -> None:
    plan = moth()
    before = sentence_of(plan)
    things = [
        thing.model_copy(update={"wh_a_day": 240.0}) if n == 0 else thing
        for n, thing in enumerate(before.things)
    ]
    after = changed(plan, things=[thing.model_dump() for thing in things])
    one = after.use.appliances[0]
    assert one.power_w * 24 * one.duty_percent / 100 == 240
    assert after.use.appliances[1:] == plan.use.appliances[1:]


def test_a_thing_that_is_added_has_an_id_of_its_own() -> None:
    plan = moth()
    things = [t.model_dump() for t in sentence_of(plan).things]
    fan = Thing(kind="fan").model_dump()
    after = changed(plan, things=[*things, fan, fan])
    ids = [one.id for one in after.use.appliances]
    assert len(set(ids)) == len(ids) == len(plan.use.appliances) + 2
