"""Situations to practise: what is called right is what the engine finds best."""

from __future__ import annotations

import pytest

from oddkettle.usecases.practise import practise
from oddkettle.usecases.practise.practise import Situation, answer, base_plan, outcome, situations
from oddkettle.usecases.simulate.missing import NoSuchSituation
from oddkettle.usecases.simulate.remedies import with_edits
from tests.support.tiers import by_day

KEYS = list(situations())


def test_there_are_ten_and_each_has_a_right_choice() -> None:
    assert len(KEYS) == 10
    assert all(sum(choice.right for choice in one.choices) == 1 for one in situations().values())
    assert [one.key for one in practise.all_asked()] == KEYS


def worth(situation: Situation, place: int) -> tuple[float, float]:
    """How often it lasts after a choice, and its lowest level in dull weather."""
    found = outcome(with_edits(base_plan(situation), situation.choices[place].edits))
    dull = next(line for line in found.lines if line.weather == "dull")
    return found.lasts_percent, min(dull.level_percent)


ACTING = [k for k in KEYS if any(c.edits for c in situations()[k].choices)]


@pytest.mark.parametrize("key", by_day(ACTING, ACTING[::3]))
def test_no_other_act_helps_more_often_than_the_right_one(key: str) -> None:
    situation = situations()[key]
    acts = [n for n, choice in enumerate(situation.choices) if choice.edits]
    right = next(n for n in acts if situation.choices[n].right)
    best, _ = worth(situation, right)
    assert best > outcome(base_plan(situation)).lasts_percent
    assert all(worth(situation, n)[0] <= best for n in acts)


def test_the_thin_cable_holds_the_booster_near_eight_amps() -> None:
    """A closed form: 14.2 V less I times the loop, down to the charger's 11.5 V cut-out."""
    plan = base_plan(situations()["eight-amps"])
    feed = plan.box.vehicle[0].feed
    loop_ohm = 2 * 0.0175 * feed.length_m / feed.area_mm2 + feed.connectors_mohm / 1000
    amps = (14.2 - 11.5) / loop_ohm
    assert 6.0 < amps * 11.5 * 0.92 / 13.3 < 9.0


def test_the_inverter_left_on_takes_eighteen_amp_hours_a_day() -> None:
    plan = base_plan(situations()["always-on"])
    assert plan.box.inverter is not None
    assert plan.box.inverter.idle_w * 24 / 13.0 == pytest.approx(18.5, abs=0.5)


def test_an_answer_tells_before_and_after() -> None:
    told = answer("dull-thursday", 0)
    assert told.right
    assert told.after is not None
    assert told.after.lasts_percent > told.before.lasts_percent
    assert any("DC-DC charger brings" in line for line in told.after.sums)
    assert answer("which-is-imp", 1).after is None


@pytest.mark.parametrize(("key", "choice"), [("nothing", 0), ("dull-thursday", 9)])
def test_what_is_not_asked_is_said_so(key: str, choice: int) -> None:
    with pytest.raises(NoSuchSituation):
        answer(key, choice)
