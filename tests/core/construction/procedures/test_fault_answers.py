"""Steps of the fault finder whose answers once stood the wrong way round, walked with a meter.

For each: what a box that has the fault shows, and one that has not. "Does it show this?" is
answered by hand; it must be found in the one and not in the other.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from dataclasses import replace

import pytest

from oddkettle.core.construction.procedures.fault import Cause
from oddkettle.core.construction.procedures.faults_at_hand import inverter_causes
from oddkettle.core.construction.procedures.faults_charging import reversed_causes
from oddkettle.core.construction.procedures.faults_in_use import (
    dark_causes,
    fuse_causes,
    meter_causes,
)
from oddkettle.core.construction.wiring.circuits import Board
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.core.simulation.run import Run
from oddkettle.plan import Plan
from oddkettle.usecases.simulate.run_cache import run_plan
from tests.conftest import example


@pytest.fixture(scope="module")
def built() -> tuple[Run, Board]:
    run = run_plan(example("moth-survey"))
    return run, board_of(run)


def cause(causes: Iterable[Cause], key: str) -> Cause:
    return next(one for one in causes if one.key == key)


def found(one: Cause, shows: bool) -> bool:
    """Whether the finder ends here after the answer: as the page does it."""
    return shows == (one.found_when == "right")


def number(text: str) -> float:
    match = re.search(r"\d+(?:\.\d+)?", text)
    assert match is not None, text
    return float(match.group())


def above(volts: float) -> Callable[[Cause], bool]:
    """A meter at so many volts, held against "more than ... V"."""

    def shows(one: Cause) -> bool:
        assert one.shows.startswith("more than ")
        return volts > number(one.shows)

    return shows


def test_an_empty_battery_is_found_and_a_charged_one_is_not(built: tuple[Run, Board]) -> None:
    """Rested LiFePO4: 12.0 V at 5 %, 13.1 V at half."""
    empty = cause(dark_causes(*built), "empty")
    assert found(empty, above(12.0)(empty))
    assert not found(empty, above(13.1)(empty))


def test_a_flat_curve_is_found_where_forty_and_eighty_percent_read_alike(
    built: tuple[Run, Board],
) -> None:
    """LiFePO4 reads 13.08 and 13.26 V there; lead 12.26 and 12.71."""
    flat = cause(meter_causes(*built), "flat")
    most = number(flat.shows)
    assert found(flat, most >= 13.26 - 13.08)
    assert not found(flat, most >= 12.71 - 12.26)


def test_a_tired_fuse_is_found_when_a_new_one_holds(built: tuple[Run, Board]) -> None:
    old = cause(fuse_causes(*built), "old")
    assert old.shows == "it holds"
    assert found(old, True)
    assert not found(old, False)


def test_a_start_that_blows_the_fuse_is_found_when_it_blows_as_it_starts(
    built: tuple[Run, Board],
) -> None:
    run, board = built
    circuits = [
        replace(c, need=replace(c.need, peak_a=10 * c.fuse_a)) if c.fuse_a else c
        for c in board.circuits
    ]
    start = cause(fuse_causes(run, replace(board, circuits=tuple(circuits))), "start")
    assert start.shows.startswith("at another time than as ")
    assert found(start, False)
    assert not found(start, True)
    assert "slow" not in start.then


def test_an_inverter_that_bears_the_small_thing_alone_is_asked_too_much_by_the_large(
    built: tuple[Run, Board],
) -> None:
    start = cause(inverter_causes(*built), "start")
    assert start.shows == "it stays on"
    assert found(start, True)
    assert not found(start, False)
    assert "not the start" not in start.then


def test_an_inverter_left_on_is_found_when_its_switch_is_not_off() -> None:
    document = example("moth-survey").model_dump(mode="json")
    document["box"]["inverter"]["switched"] = "always"
    run = run_plan(Plan.model_validate(document))
    idle = cause(dark_causes(run, board_of(run)), "idle")
    assert idle.shows == "off"
    assert found(idle, False)
    assert not found(idle, True)


def test_crossed_leads_are_looked_for_with_the_isolator_off(built: tuple[Run, Board]) -> None:
    posts = cause(reversed_causes(*built), "posts")
    assert posts.measure.startswith("Isolator off.")
    assert "isolator on" not in posts.measure.lower()
    assert found(posts, False)
