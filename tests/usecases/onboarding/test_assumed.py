"""What nobody said: it is told with its effect, and can be said."""

from __future__ import annotations

from datetime import date

import numpy as np

from oddkettle.plan.trip import SiteModel
from oddkettle.text.habits import Habits
from oddkettle.text.render import render
from oddkettle.usecases.onboarding.answers import Told, tell
from oddkettle.usecases.onboarding.sentence import Bank, Sentence, Thing
from oddkettle.usecases.simulate.run_cache import run_plan

NORTH = SiteModel(
    name="Harbour", latitude=59.9, longitude=10.7, altitude_m=20, timezone="Europe/Oslo"
)
COOLBOX = Thing(kind="coolbox")


def told(day: date, *things: Thing, **more: object) -> Told:
    return tell(Sentence(place=NORTH, start=day, things=list(things), **more))  # type: ignore[arg-type]


def use_w(answer: Told) -> float:
    run = run_plan(answer.plan)
    return float(np.sum([draw.asked_w.mean() for draw in run.draws]))


def test_in_the_cold_a_cool_box_is_taken_as_indoors_and_the_other_case_is_told() -> None:
    answer = told(date(2026, 12, 4), COOLBOX)
    (one,) = [one for one in answer.assumed if one.key == "stands-0"]
    warm, outside = one.choices
    assert (warm.chosen, outside.chosen) == (True, False)
    other = tell(outside.sentence)
    assert use_w(other) < 0.5 * use_w(answer)
    # Its figure is that of the plan which the press makes.
    says = render(one.text, Habits(unit="Wh"))
    for plan in (answer, other):
        daily = 24 * use_w(plan)
        assert (f"{daily:.0f} Wh" if daily >= 1.2 else "nothing") in says


def test_what_was_pressed_can_be_pressed_back() -> None:
    answer = told(date(2026, 12, 4), COOLBOX)
    outside = tell(answer.assumed[0].choices[1].sentence)
    (again,) = [one for one in outside.assumed if one.key == "stands-0"]
    assert [choice.chosen for choice in again.choices] == [False, True]
    assert use_w(tell(again.choices[0].sentence)) == use_w(answer)


def test_in_the_heat_it_makes_no_difference_and_is_not_asked() -> None:
    south = SiteModel(
        name="Bay", latitude=36.7, longitude=-4.4, altitude_m=10, timezone="Europe/Madrid"
    )
    answer = tell(Sentence(place=south, start=date(2026, 7, 31), things=[COOLBOX]))
    assert not [one for one in answer.assumed if one.key.startswith("stands")]


def test_a_box_left_alone_is_not_heated() -> None:
    answer = told(date(2026, 12, 4), COOLBOX, shape="alone", months=2)
    assert answer.plan.use.appliances[0].pattern.room_c is None  # type: ignore[union-attr]


def test_the_age_of_the_battery_is_asked_until_it_is_said() -> None:
    keys = [one.key for one in told(date(2026, 12, 4), COOLBOX).assumed]
    assert "age" in keys
    assert "age" not in [
        one.key for one in told(date(2026, 12, 4), COOLBOX, bank=Bank(age="old")).assumed
    ]
