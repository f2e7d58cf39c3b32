"""A sentence becomes a plan that its pages agree with, and any plan becomes a sentence."""

from __future__ import annotations

import math
from datetime import date
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.units.conversion import HOURS_PER_DAY
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.trip import SiteModel
from oddkettle.usecases.onboarding import answers
from oddkettle.usecases.onboarding.chargers import CHARGERS
from oddkettle.usecases.onboarding.plan_of import dusk, half_day_h, plan_of
from oddkettle.usecases.onboarding.sentence import Bank, Charger, Sentence, Thing, first_sentence
from oddkettle.usecases.onboarding.things import THINGS, choices
from oddkettle.usecases.plans.plan_words import length_words, plain_words, words_of
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_cache import ensemble_of, run_plan
from oddkettle.usecases.simulate.run_report import report_plan
from tests.conftest import example
from tests.support.tiers import examples

MOOR = SiteModel(
    name="Hollin Moor", latitude=54.4, longitude=-2.3, altitude_m=320, timezone="Europe/London"
)
JUNE = date(2027, 6, 15)
KINDS = [*CHEMISTRIES, "unit"]


def sentence(**parts: Any) -> Sentence:
    return Sentence(**{"place": MOOR, "start": JUNE, **parts})


@settings(max_examples=examples(100), deadline=None)
@given(
    shape=st.sampled_from(["trip", "standby", "alone", "which_box"]),
    bank=st.sampled_from(KINDS),
    pads=st.booleans(),
    chargers=st.lists(
        st.sampled_from(list(CHARGERS.values())), max_size=4, unique_by=lambda c: c.key
    ),
    things=st.lists(st.sampled_from(list(THINGS)), max_size=6, unique=True),
    nights=st.integers(1, 14),
    latitude=st.floats(-66, 66),
    month=st.integers(1, 12),
)
def test_whatever_is_pressed_makes_a_plan_that_runs(**p: Any) -> None:
    place = MOOR.model_copy(update={"latitude": p["latitude"]})
    told = sentence(
        shape=p["shape"],
        bank=Bank(kind=p["bank"], size=100 if p["bank"] != "unit" else 700, pads=p["pads"]),
        chargers=[Charger(kind=c.key, size=c.usual) for c in p["chargers"]],  # type: ignore[arg-type]
        things=[Thing(kind=key) for key in p["things"]],
        nights=p["nights"],
        months=2,
        place=place,
        start=date(2027, p["month"], 15),
    )
    plan = plan_of(told)
    run = run_plan(plan)
    assert np.isfinite(run.level).all()
    line = plain_words(words_of(plan))
    assert line[0].isupper()
    assert "  " not in line


def test_the_first_sentence_is_answered_at_once() -> None:
    told = answers.tell(first_sentence(MOOR, date(2026, 11, 28)))
    assert told.line == (
        "With a 100 Ah lithium box charged by a 120 W folding panel, I spend three nights near "
        "Hollin Moor in early December, and run a cool box, lights and two phones."
    )
    assert told.plan.trip.start == date(2026, 12, 4)


def test_lead_keeps_half_in_reserve_lithium_a_fifth_a_unit_a_tenth() -> None:
    floors = {
        kind: plan_of(sentence(bank=Bank(kind=kind, size=100))).trip.floor_percent
        for kind in ("agm", "gel", "flooded", "lifepo4", "unit")
    }
    assert floors == {"agm": 50, "gel": 50, "flooded": 50, "lifepo4": 20, "unit": 10}


def test_a_trip_of_nights_uses_so_many_days_of_energy_and_its_day_is_a_whole_one() -> None:
    """Four nights from noon to noon are four days: 4 times 24 h of 10 W, whole at the bus."""
    steady = Thing(kind="other", power_w=10, hours={"start": "00:00", "end": "24:00"})  # type: ignore[arg-type]
    plan = plan_of(sentence(nights=4, things=[steady]))
    report = report_plan(plan, advice=False)
    assert report.total.used.wh == pytest.approx(4 * HOURS_PER_DAY * 10, rel=1e-6)
    assert report.use.a_day.wh == pytest.approx(HOURS_PER_DAY * 10, rel=1e-6)
    first, last = report.days[0], report.days[-1]
    assert first.used.wh == pytest.approx(120) == pytest.approx(last.used.wh)
    assert length_words(plan) == "four nights"
    assert "all four nights" in report.headline


def test_the_trip_with_its_whole_days_is_as_it_was_without_the_hours() -> None:
    plan = plan_of(sentence(nights=3, things=[Thing(kind="laptop")]))
    whole = plan.model_copy(
        update={"trip": plan.trip.model_copy(update={"begins": "00:00", "ends": "24:00"})}
    )
    case = run_plan(whole).case
    assert case.away == ()
    assert report_plan(whole, advice=False).headline == "Your box lasts all four days."


def test_a_day_that_ends_before_it_begins_is_refused_with_a_remedy() -> None:
    plan = plan_of(sentence(nights=1))
    trip = plan.trip.model_copy(update={"days": plan.trip.days[:1], "begins": "14:00"})
    with pytest.raises(PlanRefused) as caught:
        run_plan(plan.model_copy(update={"trip": trip}))
    (complaint,) = caught.value.complaints
    assert complaint.where == "trip.ends"
    assert complaint.remedy == "Let it end later, or add a day."


@pytest.mark.parametrize(
    ("latitude", "day", "hours"),
    [
        (0.0, date(2027, 3, 21), 6.0),
        (54.4, date(2027, 6, 21), 8.55),
        (54.4, date(2027, 12, 21), 3.45),
        (-33.9, date(2027, 12, 21), 7.15),
        (70.0, date(2027, 6, 21), 12.0),
        (70.0, date(2027, 12, 21), 0.0),
    ],
)
def test_half_of_a_day_is_as_almanacs_have_it(latitude: float, day: date, hours: float) -> None:
    """Half the time from sunrise to sunset; almanacs add some minutes for the air's refraction."""
    assert half_day_h(latitude, day) == pytest.approx(hours, abs=0.12)


def test_lights_burn_from_dusk_which_is_early_in_winter() -> None:
    summer, winter = (dusk(MOOR, date(2027, month, 15)) for month in (6, 12))
    assert (summer, winter) == (21 * 60 + 30, 15 * 60 + 30)


def test_standing_by_is_answered_with_hours_without_mains() -> None:
    plan = plan_of(
        sentence(shape="standby", bank=Bank(kind="flooded", size=80), things=[Thing(kind="lights")])
    )
    assert [m.limit_a for m in plan.box.mains] == [10]
    assert "Without mains your box lasts" in report_plan(plan).headline


def test_the_smallest_change_really_mends_the_plan() -> None:
    plan = plan_of(
        sentence(
            bank=Bank(size=50),
            chargers=[Charger(kind="driving", size=25, every=30)],
            things=[Thing(kind="coolbox"), Thing(kind="laptop")],
        )
    )
    found = answers.smallest_change(plan)
    assert found.change is not None
    assert found.lasts_percent is not None
    assert found.lasts_percent > found.now_percent
    sure = plan_of(sentence(things=[Thing(kind="phone")]))
    assert answers.smallest_change(sure).change is None


def test_the_box_that_is_offered_lasts_and_the_next_smaller_one_does_not() -> None:
    asked = sentence(shape="which_box", things=[Thing(kind="coolbox"), Thing(kind="laptop")])
    offers = answers.boxes_for(asked)
    assert [offer.bank.kind for offer in offers] == ["lifepo4", "agm"]
    for offer in offers:
        sizes = answers.BOX_AH[offer.bank.kind == "agm"]
        place = sizes.index(int(offer.bank.size))
        smaller = asked.model_copy(
            update={"bank": Bank(kind=offer.bank.kind, size=sizes[place - 1])}
        )
        odds = report_plan(plan_of(smaller), odds="full", advice=False).odds
        assert offer.enough
        assert odds is not None
        assert odds.lasts_percent < answers.SURE_PERCENT


def test_an_unknown_thing_is_refused_with_the_known_ones() -> None:
    with pytest.raises(PlanRefused) as caught:
        plan_of(sentence(things=[Thing(kind="teleporter")]))
    assert "coolbox" in caught.value.complaints[0].limit


@pytest.mark.parametrize(
    ("kind", "size"), [("driving", 5000.0), ("mains", 900.0), ("generator", 5.0)]
)
def test_a_size_that_no_charger_has_is_refused_by_its_limit(kind: str, size: float) -> None:
    with pytest.raises(PlanRefused) as caught:
        plan_of(sentence(chargers=[Charger(kind=kind, size=size)]))  # type: ignore[arg-type]
    assert caught.value.complaints[0].limit


@pytest.mark.parametrize("watts", [400.0, 1600.0, 3000.0])
def test_a_roof_never_brings_more_than_its_controller_takes(watts: float) -> None:
    (sun,) = plan_of(sentence(chargers=[Charger(kind="roof", size=watts)])).box.sun
    assert sun.controller.limit_a >= watts / 13.0


def test_an_inverter_carries_all_that_runs_on_it() -> None:
    things = [Thing(kind="mains_thing", power_w=1400.0, count=3)]
    made = plan_of(sentence(things=things))
    on_mains = sum(a.power_w for a in made.use.appliances if a.supply == "inverter")
    assert made.box.inverter is not None
    assert made.box.inverter.rating_w >= on_mains > 3000


def test_every_kind_of_box_source_and_thing_is_offered() -> None:
    offered = choices()
    assert {bank.key for bank in offered.banks} == set(KINDS)
    assert {thing.key for thing in offered.things} == set(THINGS)
    assert all(charger.usual in charger.sizes for charger in offered.chargers if charger.sizes)


@pytest.mark.parametrize(
    ("name", "line"),
    [
        (
            "gauging-hut",
            "With a 26 Ah AGM box charged by a 24 W fixed panel, I leave it alone for "
            "eight months near Upper Sill gauging hut from early March, while it runs a water "
            "level logger, a telemetry radio and a sensor lamp at night.",
        ),
        (
            "radio-hill",
            "With a box of two 225 Ah flooded batteries with a second bank charged by "
            "240 W folding panels, a 50 W fixed panel and driving (30 A), I spend three days near "
            "Beacon Shoulder in late August, and run a transceiver, an antenna tuner, a logging "
            "laptop, tent lamps and one more.",
        ),
        (
            "coast-unit",
            "With a 1000 Wh ready-made unit charged by a 100 W folding panel, the "
            "vehicle's 12 V socket and mains (14 A), I spend five days near Sandwick shore field "
            "in mid July, and run a cool box, two tablets, three phones, tent lamps and one more.",
        ),
    ],
)
def test_any_plan_is_said_in_one_sentence(name: str, line: str) -> None:
    assert plain_words(words_of(example(name))) == line


@pytest.mark.parametrize("latitude", [-42.0, 5.0, 30.0, 54.4])
@pytest.mark.parametrize("day", [date(2027, 1, 10), JUNE])
def test_a_folding_panel_is_out_in_the_middle_of_the_light_and_not_in_the_dark(
    latitude: float, day: date
) -> None:
    """The sun's height by a formula of its own: it is up when the panel goes out and comes in."""
    place = MOOR.model_copy(update={"latitude": latitude, "longitude": 0.0, "timezone": "UTC"})
    told = sentence(place=place, start=day, chargers=[Charger(kind="folding", size=100)])
    block = plan_of(told).trip.blocks[1]
    assert block.kind == "panel_out"
    tilt = math.radians(23.44) * math.sin(2 * math.pi * (day.timetuple().tm_yday - 81) / 365)
    for clock in (block.start, block.end):
        hour = math.radians(15 * (int(clock[:2]) + int(clock[3:]) / 60 - 12))
        high = math.sin(math.radians(latitude)) * math.sin(tilt) + math.cos(
            math.radians(latitude)
        ) * math.cos(tilt) * math.cos(hour)
        assert math.degrees(math.asin(high)) > 3.0
    begins, ends = (int(c[:2]) + int(c[3:]) / 60 for c in (block.start, block.end))
    assert abs((begins + ends) / 2 - 12.0) <= 0.5


def test_a_panel_faces_the_noon_sun_of_its_half_of_the_world() -> None:
    for latitude, azimuth in ((54.4, 180.0), (-42.0, 0.0)):
        place = MOOR.model_copy(update={"latitude": latitude})
        told = sentence(place=place, shape="alone", chargers=[Charger(kind="roof", size=20)])
        (array,) = plan_of(told).box.sun
        assert array.panels[0].azimuth_deg == azimuth


def test_an_unknown_way_to_charge_is_refused_with_those_there_are() -> None:
    with pytest.raises(PlanRefused) as refusal:
        plan_of(sentence(chargers=[Charger(kind="windmill", size=100)]))
    (complaint,) = refusal.value.complaints
    assert complaint.where == "chargers.0.kind"
    assert "folding" in complaint.limit


def test_what_is_said_to_mend_a_plan_was_run_with_it() -> None:
    """Where nothing is enough by itself, that is said, with what is still missing."""

    def found(days: int, size: int) -> answers.SmallChange:
        plan = plan_of(
            sentence(
                bank=Bank(size=size),
                chargers=[],
                nights=days,
                things=[Thing(kind="coolbox"), Thing(kind="laptop"), Thing(kind="lights")],
            )
        )
        change = answers.smallest_change(plan)
        assert change.change is not None
        with_it = ensemble_of(with_edits(plan, change.edits), quick=True)
        assert 100 * with_it.lasts.mean() == pytest.approx(change.lasts_percent)
        assert change.mends == (100 * with_it.lasts.mean() >= answers.SURE_PERCENT)
        return change

    helps, mends = found(6, 50), found(2, 50)
    assert not helps.mends
    assert helps.missing_h > 1.0
    assert mends.mends
