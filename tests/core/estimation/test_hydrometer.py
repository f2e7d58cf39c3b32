"""A hydrometer in flooded lead: the printed table both ways, its doubt, and what it is asked of."""

from __future__ import annotations

from datetime import datetime
from types import SimpleNamespace
from typing import cast

import numpy as np
import pytest

from oddkettle.core.estimation.particle_filter import Particles
from oddkettle.core.estimation.readings import READING_KINDS
from oddkettle.core.estimation.readings.hydrometer import aim, bar, gravity_of, level_of
from oddkettle.core.estimation.readings.reading import Reading
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.usecases.field.log.entries import NewEntry, check_entry
from tests.core.boxes import bank

PRINTED = {1.265: 1.0, 1.225: 0.75, 1.190: 0.5, 1.155: 0.25, 1.120: 0.0}
ENTRY = NewEntry(at=datetime(2026, 6, 8, 6, 0), kind="hydrometer", value=1.2)


@pytest.mark.parametrize(("gravity", "level"), PRINTED.items())
def test_the_printed_table_is_read_both_ways(gravity: float, level: float) -> None:
    assert float(level_of(gravity)) == pytest.approx(level)
    assert float(gravity_of(level)) == pytest.approx(gravity)


def test_a_tenth_of_the_charge_is_some_14_points_of_gravity_and_more_never_says_less() -> None:
    levels = np.linspace(0.0, 1.0, 11)
    steps = 1000 * np.diff(gravity_of(levels))
    assert (steps > 13.0).all()
    assert (steps < 17.0).all()


def test_a_reading_aims_at_what_each_level_would_show() -> None:
    levels = np.array([0.25, 0.5, 1.0])
    particles = cast("Particles", SimpleNamespace(soc=levels))
    found = aim(particles, Reading("a", 0, "gravity", 1.19))
    assert found.value == 1.19
    assert found.foreseen == pytest.approx([1.155, 1.190, 1.265])


def test_its_bar_is_as_long_as_its_doubt_and_stays_between_empty_and_full() -> None:
    _low, middle, high, _ = bar(bank(), 1.190)
    assert middle == pytest.approx(50.0)
    assert 5.0 < high - middle < 11.0
    assert bar(bank(), 1.30)[2] == 100.0
    assert bar(bank(), 1.00)[0] == 0.0


def test_it_settles_a_level_and_is_asked_of_flooded_lead_alone(moth: Plan) -> None:
    assert READING_KINDS["gravity"].tells_level
    with pytest.raises(PlanRefused) as refusal:
        check_entry(moth, ENTRY)
    assert "flooded" in refusal.value.complaints[0].limit
    flooded = moth.box.battery.model_copy(update={"chemistry": "flooded"})
    check_entry(
        moth.model_copy(update={"box": moth.box.model_copy(update={"battery": flooded})}), ENTRY
    )
