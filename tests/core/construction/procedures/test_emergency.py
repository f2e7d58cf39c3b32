"""What to do right now: by what the box has, and never without the emergency number."""

from __future__ import annotations

import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries.agm import AGM
from oddkettle.core.construction.procedures.emergency import emergencies
from oddkettle.core.simulation.case import Case
from oddkettle.plan.case import case_from_plan
from tests.conftest import example
from tests.core.boxes import a_case
from tests.core.construction.boxes import full_case
from tests.support.tiers import sample_boxes


def keys(case: Case) -> list[str]:
    return [one.key for one in emergencies(case)]


def test_what_a_box_cannot_do_is_not_spoken_of() -> None:
    assert keys(a_case(mains=(), vehicle=(), inverter=None)) == ["smoke", "hot", "cable", "burn"]
    assert "acid" in keys(a_case(bank=Bank(AGM, 100.0)))
    assert "shock" in keys(full_case(mains=()))  # its inverter makes mains, too
    assert "fumes" in keys(full_case())


@pytest.mark.parametrize("name", sample_boxes())
def test_fire_comes_first_and_help_is_called_early(name: str) -> None:
    found = emergencies(case_from_plan(example(name)))
    assert found[0].key == "smoke"
    assert "emergency number" in found[0].steps[1]
    for one in found:
        assert len(one.steps) >= 2
        assert "[textbook]" in one.source
