"""The guided capacity test, and what is said when readings do not agree."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.battery.chemistries.lifepo4 import LIFEPO4
from oddkettle.core.estimation.counted_capacity import capacity_from_discharge
from oddkettle.core.messages.errors import PlanError
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.results.odds import Band
from oddkettle.usecases.field.track.calibration import Learned
from oddkettle.usecases.field.track.capacity import CapacityAsked, find_capacity, guide_test
from oddkettle.usecases.field.track.suspicion import suspicions
from oddkettle.usecases.field.track.track_report import track_plan
from oddkettle.usecases.field.track.tracked_trip import follow
from oddkettle.usecases.plans.plans import create_plan, open_plan
from oddkettle.usecases.simulate.remedies import with_edits
from tests.usecases.conftest import percent

LITHIUM = Bank(LIFEPO4, 100.0)


def test_sixty_amp_hours_down_to_a_fifth_are_seventy_five() -> None:
    # 12.85 V is 20 % of the typical curve: 60 / (1 - 0.2).
    found = capacity_from_discharge(LITHIUM, 60.0, 12.85)
    assert found.ah == pytest.approx(75.0, abs=0.2)
    assert found.low_ah < 73.5
    assert found.high_ah > 76.5
    assert found.high_ah - found.low_ah < 12.0


def test_a_cut_out_tells_without_a_voltage() -> None:
    found = capacity_from_discharge(LITHIUM, 80.0, None)
    assert found.ah == pytest.approx(80.0 / 0.99, rel=0.001)
    assert found.spread < 0.04


def test_lead_is_told_by_its_steep_curve() -> None:
    # 12.38 V is half of an AGM: 40 Ah to there are 80.
    found = capacity_from_discharge(Bank(AGM, 100.0), 40.0, 12.375)
    assert found.ah == pytest.approx(80.0, rel=0.02)


@pytest.mark.parametrize(
    ("drawn", "volts", "says"),
    [(30.0, 13.2, "too full"), (5.0, 12.85, "% of the label"), (150.0, 12.85, "% of the label")],
)
def test_what_cannot_tell_is_refused_with_what_to_do(drawn: float, volts: float, says: str) -> None:
    with pytest.raises(PlanError, match=says) as told:
        capacity_from_discharge(LITHIUM, drawn, volts)
    assert told.value.remedy


def test_lead_that_ends_a_little_above_its_half_is_not_turned_away() -> None:
    """The guide sends lead to a half; 12.42 V is 53 %."""
    found = capacity_from_discharge(Bank(AGM, 100.0), 38.0, 12.42)
    assert found.ah == pytest.approx(81.0, rel=0.03)


def test_a_measured_capacity_is_not_doubted_as_a_label_again(plan_id: int) -> None:
    label = follow(plan_id).case.bank.capacity_ah
    found = find_capacity(plan_id, CapacityAsked(drawn_ah=0.6 * label, rested_v=12.85))
    doubt = case_from_plan(with_edits(open_plan(plan_id).document, found.take_over.edits)).doubt
    assert doubt.capacity_told
    assert doubt.capacity_mean == 1.0
    assert doubt.capacity == pytest.approx(found.ah.high / found.ah.middle - 1.0, abs=0.03)


def test_the_guide_has_the_figures_of_the_box(plan_id: int) -> None:
    guide = guide_test(plan_id)
    bank = follow(plan_id).case.bank
    assert f"{0.1 * bank.capacity_ah:.0f} A together" in guide.steps[2]
    assert "12.85 V is 20 %" in guide.steps[3]


def test_what_was_found_is_taken_over_with_its_own_doubt(plan_id: int) -> None:
    label = follow(plan_id).case.bank.capacity_ah
    found = find_capacity(plan_id, CapacityAsked(drawn_ah=0.6 * label, rested_v=12.85))
    assert found.of_label_percent.middle == pytest.approx(75.0, abs=0.5)
    after = with_edits(open_plan(plan_id).document, found.take_over.edits)
    assert after.box.battery.capacity_ah == pytest.approx(0.75 * label, rel=0.01)
    assert 1.5 <= after.assumptions.capacity_doubt_percent < 6
    with pytest.raises(PlanRefused, match="too full"):
        find_capacity(plan_id, CapacityAsked(drawn_ah=20, rested_v=13.3))


def learned(kind: str, low: float, middle: float, high: float, *, told: bool = True) -> Learned:
    band = Band(low=low, middle=middle, high=high)
    return Learned(
        key=kind,
        kind=kind,
        name="Cool box",
        typed="",
        before=band,
        after=band,
        told=told,
        text="",
        take_over=None,
    )  # type: ignore[arg-type]


def test_a_small_battery_is_suspected_with_the_test_that_tells(plan_id: int) -> None:
    tracked = follow(plan_id).tracked
    (said,) = suspicions(tracked, [learned("battery", 0.7, 0.8, 0.88)])
    assert said.startswith(
        "Your battery seems to hold 80 % (70 to 88) of its label, or the monitor"
    )
    assert "capacity test" in said
    assert suspicions(tracked, [learned("battery", 0.9, 0.97, 1.03)]) == []
    assert suspicions(tracked, [learned("battery", 0.7, 0.8, 0.9, told=False)]) == []


def test_an_appliance_that_draws_much_more_is_named(plan_id: int) -> None:
    tracked = follow(plan_id).tracked
    (said,) = suspicions(tracked, [learned("appliance", 1.3, 1.5, 1.7)])
    assert "Cool box seems to draw 50 % more" in said
    assert suspicions(tracked, [learned("appliance", 1.0, 1.1, 1.2)]) == []


def test_two_readings_set_aside_ask_a_question_and_one_does_not(plan_id: int) -> None:
    percent(plan_id, 7, 7, 60)
    tracked = follow(plan_id).tracked
    odd = replace(tracked.taken[0], used=False)
    assert suspicions(replace(tracked, taken=(odd,)), []) == []
    (said,) = suspicions(replace(tracked, taken=(odd, odd)), [])
    assert "2 readings of" in said
    assert "the monitor has drifted" in said


def test_a_trip_that_agrees_with_itself_raises_no_suspicion(logged: int) -> None:
    assert track_plan(logged).suspicions == []


@pytest.mark.parametrize(("chemistry", "end"), [("agm", "50 %"), ("lifepo4", "20 %")])
def test_lead_is_tested_down_to_half_and_lithium_to_a_fifth(
    store: Path, moth: Plan, chemistry: str, end: str
) -> None:
    battery = moth.box.battery.model_copy(update={"chemistry": chemistry, "datasheet": None})
    box = moth.box.model_copy(update={"battery": battery})
    made = create_plan(moth.model_copy(update={"box": box}))
    steps = guide_test(made.id).steps
    assert f"shows about {end}." in steps[2]
    assert f"V is {end}." in steps[3]
