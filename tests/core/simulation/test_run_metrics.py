"""What a run means: lowest, time to the floor, the shortest mending drive."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from oddkettle.core.battery.bank import Bank
from oddkettle.core.loads.demand import Appliance, Window
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.run import simulate
from oddkettle.core.simulation.run_metrics import hours_to_floor, lowest, shortest_drive
from oddkettle.core.sources.dcdc import DcDc
from tests.core.boxes import LIFEPO4, changed
from tests.core.simulation.test_ledger import BARE

STEADY = (Appliance("t", "Thing", 65.0, "12v", (Window(0, 0),)),)


def draining(days: int, **change: object) -> Case:
    """About 5 A day and night from 100 Ah: a fifth of the bank in four hours."""
    case = changed(
        BARE,
        appliances=STEADY,
        clearness=(0.1,) * days,
        soc0=0.9,
        vehicle=(DcDc("v", "DC-DC", 30.0, 0.92),),
        first_day=date(2026, 6, 6),
    )
    return changed(case, **change)


def test_hours_to_the_floor_count_down_to_nought() -> None:
    run = simulate(draining(1))
    ahead = hours_to_floor(run)
    under = int(np.argmax(run.level < run.case.fails_below))
    assert ahead[under] == 0.0
    assert ahead[0] == pytest.approx(under / 12)
    assert np.all(np.diff(ahead[:under]) == pytest.approx(-1 / 12))


def test_a_plan_that_never_gets_there_has_no_hours_to_count() -> None:
    assert np.all(np.isinf(hours_to_floor(simulate(BARE))))


def test_the_lowest_level_counts_the_very_end_too() -> None:
    run = simulate(draining(1, bank=Bank(LIFEPO4, 300.0)))
    assert lowest(run).step == run.grid.steps
    assert lowest(run).soc == run.level[-1]
    assert lowest(run, 0, 12).step == 12


def test_a_mending_drive_is_the_shortest_that_holds_the_floor() -> None:
    # 2.5 days drain 0.9 below 0.2 within the first; a bigger bank falls short on the second.
    case = draining(2, bank=Bank(LIFEPO4, 300.0))
    run = simulate(case)
    mend = shortest_drive(run)
    assert mend is not None
    assert mend.block.day == 0
    assert mend.minutes % 5 == 0
    assert lowest(simulate(replace(case, blocks=(mend.block,)))).soc >= case.floor
    less = replace(mend.block, end_min=mend.block.end_min - 5)
    assert lowest(simulate(replace(case, blocks=(less,)))).soc < case.floor


def test_no_drive_is_proposed_where_none_can_help() -> None:
    holds = simulate(BARE)
    without = simulate(draining(2, vehicle=()))
    first_day = simulate(draining(1))
    hopeless = simulate(draining(6, vehicle=(DcDc("v", "DC-DC", 1.0, 0.9),)))
    assert [shortest_drive(run) for run in (holds, without, first_day, hopeless)] == [None] * 4
