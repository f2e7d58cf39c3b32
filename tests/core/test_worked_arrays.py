"""Arrays worked by hand: current, voltage and power of a panel whose label is known."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddkettle.core.simulation.run import simulate, trip_grid
from oddkettle.core.simulation.scenarios import expected_scenario
from oddkettle.core.sources.panel import Label, Light, Panel
from oddkettle.core.sources.solar import Controller, SunInput, array_volts, offer_of
from tests.core.boxes import a_case

PLATE = Label(voc_v=22.0, vmp_v=18.0, isc_a=6.0, imp_a=5.5)
TWO_FIFTHS = (Light(np.array([400.0]), np.array([25.0])),)
ONE = np.ones(1)


def array_of(kind: str, **more: object) -> SunInput:
    panel = Panel(99.0, "tilted", 30.0, 180.0, False, label=PLATE)
    return SunInput("s", "Sun", (panel,), Controller(20.0, 0.95, kind), **more)  # type: ignore[arg-type]


def test_a_panel_at_the_battery_s_voltage_gives_its_imp_by_the_light() -> None:
    """5.5 A x 0.4 x .97 x .98 at 12.8 V; none is lost by reach, for Vmp is well above."""
    offer = offer_of(array_of("pwm"), TWO_FIFTHS, (ONE,), ONE, 12.8)
    assert offer.offer_a[0] == pytest.approx(5.5 * 0.4 * 0.97 * 0.98)


@pytest.mark.parametrize(("bus_v", "share"), [(18.0, 1.0), (19.0, 0.75), (21.0, 0.25), (22.5, 0.0)])
def test_between_best_and_open_voltage_a_panel_s_current_falls_to_nothing(
    bus_v: float, share: float
) -> None:
    """Vmp 18 V, Voc 22 V: a straight line between."""
    offer = offer_of(array_of("pwm"), TWO_FIFTHS, (ONE,), ONE, bus_v)
    assert offer.offer_a[0] == pytest.approx(share * 5.5 * 0.4 * 0.97 * 0.98)


def test_a_tracking_controller_loses_the_cable_and_its_own_share() -> None:
    """99 W x .4 x .97 x .98 less I2R of 0.5 ohm, then 95 %."""
    amps = 5.5 * 0.4 * 0.97 * 0.98
    raw = 99 * 0.4 * 0.97 * 0.98 - amps**2 * 0.5
    offer = offer_of(array_of("tracking", cable_ohm=0.5), TWO_FIFTHS, (ONE,), ONE, 12.8)
    assert offer.raw_w[0] == pytest.approx(raw)
    assert offer.offer_w[0] == pytest.approx(0.95 * raw)
    assert offer.wire_w[0] == pytest.approx(amps**2 * 0.5)


def test_hot_cells_work_at_a_lower_voltage() -> None:
    """20 K over 25 C at -.29 %/K of 22 V: 1.276 V less, of Vmp as of Voc.

    Half way from 16.72 to 20.72 V half of the current is left.
    """
    hot = (Light(np.array([400.0]), np.array([45.0])),)
    offer = offer_of(array_of("pwm"), hot, (ONE,), ONE, 18.724)
    assert offer.offer_a[0] == pytest.approx(0.5 * 5.5 * 0.4 * 0.97 * 0.98)
    volts = array_volts(array_of("pwm"), hot, np.array([5.0, 15.0]))
    assert volts.hot_vmp_v == pytest.approx(18.0 - 1.276)
    assert volts.cold_voc_v == pytest.approx(22.0 * (1 + 0.0029 * 20))


def test_a_panel_without_a_label_has_the_usual_one() -> None:
    """100 W for 12 V boxes: 18 V by 5.56 A, Voc 1.2 and Isc 1.06 times those [textbook]."""
    plate = Panel(100.0, "tilted", 30.0, 180.0, False).plate
    assert [plate.vmp_v, plate.voc_v] == pytest.approx([18.0, 21.6])
    assert [plate.imp_a, plate.isc_a] == pytest.approx([100 / 18, 1.06 * 100 / 18])


def test_panels_that_give_half_of_what_was_typed_give_half() -> None:
    """A scenario's own share of sun counts on the light, before cable and controller."""
    case = a_case(sun=(array_of("tracking"),), soc0=0.2)
    grid = trip_grid(case)
    usual = expected_scenario(case, grid)
    whole, half = (simulate(case, replace(usual, sun=s)).sources[0] for s in (1.0, 0.5))
    assert half.raw_w == pytest.approx(0.5 * whole.raw_w)
    assert whole.raw_w.max() > 50.0
