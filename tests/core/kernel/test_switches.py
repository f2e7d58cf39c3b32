"""What switches itself: groups, a load output, pads."""

from __future__ import annotations

from math import exp

import numpy as np

from oddkettle.core.kernel import loop
from oddkettle.core.kernel.records import (
    BANK,
    BOX,
    SWITCHES,
)
from tests.core.kernel.plain_kernel import one, part


def test_groups_go_at_their_levels_and_come_back_five_points_above() -> None:
    below = np.array([0.5, 0.3])
    off = part(loop, "groups_off")
    assert [off(0, level, below) for level in (0.6, 0.49, 0.31, 0.29)] == [0, 1, 1, 2]
    assert [off(2, level, below) for level in (0.29, 0.34, 0.36, 0.54, 0.56)] == [2, 2, 1, 1, 0]
    assert off(0, 0.5, below) == 0
    assert off(0, 0.0, np.zeros(0)) == 0


def test_a_load_output_waits_between_its_two_voltages() -> None:
    box, switches = one(BOX, output_off_v=11.8, output_on_v=12.6), one(SWITCHES)
    for volts, off in ((12.0, 0), (11.7, 1), (12.5, 1), (12.7, 0), (11.8, 0)):
        switches.bus_v = volts
        assert loop.output_off(box, switches) == off
    switches.output_off = 1.0
    assert loop.output_off(one(BOX), switches) == 0


def test_pads_go_by_a_thermostat_with_two_marks() -> None:
    """60 W on under 4 C and off from 8; between, as they were."""
    box = one(BOX, heater_w=60.0, heat_below_c=4.0, heat_until_c=8.0)
    bank, switches = one(BANK, heat_decay=exp(-1 / 48), k_per_w=1.0, offset_k=0.0), one(SWITCHES)

    def watts(celsius: float, air_c: float = -10.0) -> float:
        return float(loop.pads_w(box, bank, celsius, air_c, switches))

    assert watts(5.0) == 0.0
    assert watts(3.9) > 0.0
    assert watts(-9.0, -60.0) == 60.0
    assert watts(7.0) > 0.0
    assert watts(8.0) == 0.0
    assert watts(7.0) == 0.0
    box.heater_w = 0.5
    assert watts(-20.0, -30.0) == 0.5
    box.heater_w = 0.0
    assert watts(-20.0) == 0.0
