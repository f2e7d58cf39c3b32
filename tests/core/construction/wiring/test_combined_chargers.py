"""Chargers with several inputs and one output."""

from __future__ import annotations

import pytest

from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.coupling import Coupling
from tests.core.construction.boxes import (
    board,
    full_case,
)

COMBINED = Coupling("combined", 25.0, ("roof", "dcdc"))


def test_a_combined_charger_has_several_inputs_and_one_output() -> None:
    circuits = board(full_case(joining=COMBINED)).circuits
    keys = [c.key for c in circuits]
    assert keys.count("charge-combined") == 1
    assert not {"charge-roof", "charge-dcdc"} & set(keys)
    inputs = [c for c in circuits if c.need.ends == "Combined charger"]
    assert [c.key for c in inputs] == ["panel-roof", "feed-dcdc"]
    output = next(c for c in circuits if c.key == "charge-combined")
    assert output.need.continuous_a == 25.0
    assert output.fuse_a == 40.0  # 31.25 A at least


def test_a_combined_chargers_output_carries_what_both_gave() -> None:
    run = simulate(full_case(joining=COMBINED))
    output = board(full_case(joining=COMBINED)).of("charge-combined")
    assert output is not None
    rows = [j for j, s in enumerate(run.sources) if s.key in COMBINED.members]
    assert output.need.seen_a == pytest.approx(float(run.taken_a[rows].sum(axis=0).max()))


def test_one_member_alone_is_no_combined_charger() -> None:
    alone = board(full_case(joining=Coupling("combined", 25.0, ("roof",))))
    assert alone.of("charge-roof") is not None
    assert alone.of("charge-combined") is None
