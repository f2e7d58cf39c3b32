"""What a box has not got is offered, and of one that lasts anyway what it could do without."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from oddkettle.core.judgement import judge
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import UNIT_STANDBY, simulate
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.usecases.improve.candidate import Candidate
from oddkettle.usecases.improve.candidates import candidates_of
from oddkettle.usecases.improve.moves import _bought
from oddkettle.usecases.improve.removals import removals_of
from oddkettle.usecases.improve.weigh import Weighed, Weighing, weigh
from oddkettle.usecases.simulate.remedies import with_edits
from tests.conftest import example


@pytest.fixture
def bare() -> Plan:
    """Nine days on the battery alone."""
    document: dict[str, Any] = example("moth-survey").model_dump(mode="json")
    document["box"].update(sun=[], vehicle=[], mains=[], generator=[], order=[])
    document["box"]["joining"] = {"kind": "independent", "members": []}
    document["trip"]["blocks"] = []
    return Plan.model_validate(document)


def added(plan: Plan) -> dict[str, Candidate]:
    return {one.key: one for one in candidates_of(plan, 3) if one.key.startswith("add")}


def test_a_box_without_a_source_is_offered_one_of_each_kind(bare: Plan) -> None:
    found = added(bare)
    assert set(found) == {"addpanel", "addfolding", "adddcdc", "addmains", "addgenerator"}
    for one in found.values():
        assert one.euro is not None
        assert one.kg is not None
    # Who does not drive and is not hooked up would have to.
    assert "60 min of driving" in found["adddcdc"].text
    assert "one night on mains" in found["addmains"].text


def test_what_is_there_is_not_offered_again() -> None:
    assert set(added(example("moth-survey"))) <= {"addfolding", "addgenerator"}


def test_a_relay_is_offered_between_lead_batteries_alone(bare: Plan) -> None:
    document = bare.model_dump(mode="json")
    document["box"]["battery"].update(chemistry="agm", absorption_v=None, float_v=None)
    assert "addrelay" in added(Plan.model_validate(document))
    assert "addrelay" not in added(bare)


def test_pads_are_offered_where_frost_bars_a_battery_from_charging(bare: Plan) -> None:
    document = bare.model_dump(mode="json")
    days = document["trip"]["days"]
    for day in days:
        day.update(low_c=-8, high_c=2)
    cold = Plan.model_validate(document)
    assert "addpads" in added(cold)
    assert "addpads" not in added(bare)
    warm = with_edits(cold, added(cold)["addpads"].edits)
    dawn = 30 * 60 // 5
    bank_c = [simulate(case_from_plan(p)).track.battery_c[dawn, 0] for p in (cold, warm)]
    assert bank_c[0] < 0.0 < bank_c[1]


def test_a_units_outputs_are_off_while_nothing_runs_and_it_draws_less() -> None:
    plan = example("coast-unit")
    (off,) = [one for one in candidates_of(plan, 3) if one.key == "unitoff"]
    before, after = (simulate(case_from_plan(p)) for p in (plan, with_edits(plan, off.edits)))
    own = {d.key: d.asked_w for d in after.draws}[UNIT_STANDBY]
    runs = np.any([d.asked_w > 0.0 for d in after.draws if d.key != UNIT_STANDBY], axis=0)
    assert np.array_equal(own > 0.0, runs)
    asked = [sum(float(d.asked_w.sum()) for d in run.draws) for run in (before, after)]
    assert asked[1] < asked[0]
    assert after.level.min() > before.level.min()


def test_what_is_added_charges_and_raises_nothing_above_a_note(bare: Plan) -> None:
    def look(plan: Plan) -> tuple[float, set[str]]:
        run = simulate(case_from_plan(plan))
        judged = judge(run, keep_ledger(run))
        return float(run.taken_a.sum()), {j.code for j in judged if j.severity != "note"}

    _, before = look(bare)
    for one in added(bare).values():
        taken, after = look(with_edits(bare, one.edits))
        assert taken > 0.0, one.key
        assert after <= before, one.key


def test_two_additions_do_not_undo_each_other(bare: Plan) -> None:
    both = _bought(_bought(bare, "addfolding", 3), "addmains", 3)
    kinds = [block.kind for block in both.trip.blocks]
    assert kinds.count("panel_out") == len(bare.trip.days)
    assert kinds.count("hookup") == 1
    assert len(both.box.sun) == len(both.box.mains) == 1


def test_the_panel_that_is_weighed_helps_a_bare_box_most(bare: Plan) -> None:
    base, *lines = weigh(bare)
    assert isinstance(base, Weighing)
    assert not base.enough
    changes = [line for line in lines if isinstance(line, Weighed)]
    best = max(changes, key=lambda line: line.less_dark_h)
    assert best.change.key in {"addpanel", "addfolding"}


def test_of_a_box_that_lasts_what_it_can_spare_is_weighed() -> None:
    plan = example("winter-caravan")
    base, *lines = weigh(plan)
    assert isinstance(base, Weighing)
    assert base.enough
    assert base.lasts_percent >= 99.0
    changes = [line for line in lines if isinstance(line, Weighed)]
    assert {line.change.key for line in changes} == {one.key for one in removals_of(plan)}
    for line in changes:
        assert line.change.saves
        assert line.change.kg is not None
        assert line.change.kg.low > 0.0
        # Less of anything never makes it surer.
        assert line.points <= 0.5
    assert any(line.lasts_percent >= base.lasts_percent - 1 for line in changes)


@pytest.mark.parametrize("name", ["night-breather", "canal-standby"])
def test_where_health_hangs_on_it_or_an_outage_is_awaited_nothing_is_spared(name: str) -> None:
    assert removals_of(example(name)) == []
    base, *changes = weigh(example(name))
    assert isinstance(base, Weighing)
    # It is told that nothing is needed, and shown no rows that add nothing.
    assert base.enough
    assert changes == []
