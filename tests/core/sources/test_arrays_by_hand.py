"""Arrays worked by hand: current, voltage and power of a panel whose label is known."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.run import simulate, trip_grid
from oddkettle.core.simulation.scenarios import expected_scenario
from oddkettle.core.sources.panel import Label, Light, Panel, check_label
from oddkettle.core.sources.solar import (
    Controller,
    Shade,
    SunInput,
    array_volts,
    check_array,
    controller_a,
    lit_share,
    offer_of,
    panels_out,
)
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
    volts = array_volts(array_of("pwm"), hot, 5.0)
    assert volts.hot_vmp_v == pytest.approx(18.0 - 1.276)
    assert volts.cold_voc_v == pytest.approx(1.03 * 22.0 * (1 + 0.0029 * 20))


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


# --- Two panels: B is the weaker one by 5 A of Imp, of 20 V.

OTHER = Label(voc_v=24.0, vmp_v=20.0, isc_a=5.4, imp_a=5.0, voc_per_k=-0.003, power_per_k=-0.004)
BOTH = (TWO_FIFTHS[0], Light(np.array([400.0]), np.array([35.0])))
KEPT = 0.4 * 0.97 * 0.98


def pair(kind: str = "tracking", series: int = 1, **more: float) -> SunInput:
    panels = (
        Panel(99.0, "tilted", 30.0, 180.0, False, label=PLATE),
        Panel(100.0, "tilted", 30.0, 180.0, False, label=OTHER, count=2),
    )
    return SunInput("s", "Sun", panels, Controller(20.0, 0.95, kind, **more), series=series)  # type: ignore[arg-type]


def test_panels_in_parallel_add_their_watts_and_amps() -> None:
    """Twice 100 W less .4 % a kelvin of ten, at one voltage for all.

    At 18 V 99 + 18 x 10 = 279 of 299 W; at 20 V half of the first's current is gone, 255.
    """
    offer = offer_of(pair(), BOTH, (ONE, ONE), ONE, 12.8)
    assert offer.raw_w[0] == pytest.approx((99 + 200 * 0.96) * KEPT * 279 / 299)
    assert offer.could_w[0] == pytest.approx(0.95 * (99 + 200 * 0.96) * KEPT * 279 / 299)
    at_battery = offer_of(pair("pwm"), BOTH, (ONE, ONE), ONE, 12.8)
    assert at_battery.offer_a[0] == pytest.approx((5.5 + 10.0) * KEPT)
    assert at_battery.offer_w[0] == pytest.approx((5.5 + 10.0) * KEPT * 12.8)
    assert at_battery.could_w[0] == at_battery.offer_w[0]


def test_in_one_string_the_weakest_panel_rules() -> None:
    """Three in series, 5 A of the weakest beside a mean of 15.5 / 3."""
    offer = offer_of(pair(series=3), BOTH, (ONE, ONE), ONE, 12.8)
    assert offer.raw_w[0] == pytest.approx((99 + 200 * 0.96) * KEPT * 5.0 / (15.5 / 3))
    at_battery = offer_of(pair("pwm", series=3), BOTH, (ONE, ONE), ONE, 12.8)
    assert at_battery.offer_a[0] == pytest.approx(5.0 * KEPT)
    stowed = offer_of(pair(series=3), BOTH, (ONE, 0.0 * ONE), ONE, 12.8)
    assert stowed.raw_w[0] == 0.0


def test_a_string_s_volts_are_the_mean_panel_s_by_as_many_as_there_are() -> None:
    """At 5 C, 20 under 25: each Voc up by its own, and 3 % more; at 35 C each Vmp down."""
    volts = array_volts(pair(series=3), BOTH, 5.0)
    voc = (22.0 * (1 + 0.0029 * 20) + 2 * 24.0 * (1 + 0.003 * 20)) / 3
    vmp = (18.0 - 22.0 * 0.0029 * 10 + 2 * (20.0 - 24.0 * 0.003 * 10)) / 3
    assert (volts.cold_voc_v, volts.hot_vmp_v) == pytest.approx((3 * 1.03 * voc, 3 * vmp))


@pytest.mark.parametrize(("limit_v", "gives"), [(22.1, True), (21.9, False)])
def test_a_controller_takes_no_string_above_its_input_voltage(limit_v: float, gives: bool) -> None:
    one = array_of("tracking")
    held = replace(one, controller=replace(one.controller, input_limit_v=limit_v))
    offer = offer_of(held, TWO_FIFTHS, (ONE,), ONE, 12.8)
    assert bool(offer.raw_w[0] > 0.0) is gives


def test_a_controller_takes_no_more_than_its_input_watts() -> None:
    one = array_of("tracking")
    held = replace(one, controller=replace(one.controller, input_limit_w=20.0))
    offer = offer_of(held, TWO_FIFTHS, (ONE,), ONE, 12.8)
    assert offer.raw_w[0] == 20.0
    assert offer.offer_w[0] == pytest.approx(19.0)
    assert offer.could_w[0] == pytest.approx(0.95 * 99 * KEPT)


@pytest.mark.parametrize(("bus_v", "share"), [(17.0, None), (18.0, 0.75), (20.0, 0.25)])
def test_a_tracking_controller_wants_a_volt_above_the_battery(
    bus_v: float, share: float | None
) -> None:
    """Of 18 V and 22 open: at 17 V of battery all, above it the panel's current falls away."""
    offer = offer_of(array_of("tracking"), TWO_FIFTHS, (ONE,), ONE, bus_v)
    whole, direct = 99 * KEPT, 5.5 * KEPT * bus_v
    expected = whole if share is None else share * min(direct, whole)
    assert offer.raw_w[0] == pytest.approx(expected)


def test_a_label_with_little_between_best_and_open_falls_as_steeply() -> None:
    """Half way from 18 to 18.5 V half of the current is left."""
    steep = Panel(99.0, "tilted", 30.0, 180.0, False, label=replace(PLATE, voc_v=18.5))
    offer = offer_of(replace(array_of("pwm"), panels=(steep,)), TWO_FIFTHS, (ONE,), ONE, 18.25)
    assert offer.offer_a[0] == pytest.approx(0.5 * 5.5 * KEPT)


def test_the_cable_never_turns_more_into_heat_than_there_is() -> None:
    offer = offer_of(array_of("tracking", cable_ohm=99.0), TWO_FIFTHS, (ONE,), ONE, 12.8)
    assert offer.wire_w[0] == pytest.approx(99 * KEPT)
    assert offer.raw_w[0] == 0.0


def test_shade_and_dirt_take_their_share_by_the_clock() -> None:
    """Half from 10 to 12 and a fifth from 11 to 13; a tenth of dust where 3 % are usual."""
    grid = trip_grid(a_case())
    shade = (Shade(600, 720, 0.5), Shade(660, 780, 0.2))
    lit = lit_share(array_of("tracking", shade=shade, dirt=0.1), grid)
    clean = 0.9 / 0.97
    hours = [9, 10, 11, 12, 13]
    at = [int(np.flatnonzero(grid.clock_min == 60 * hour)[0]) for hour in hours]
    assert lit[at] == pytest.approx([clean, 0.5 * clean, 0.4 * clean, 0.8 * clean, clean])
    assert lit_share(array_of("tracking"), grid) == pytest.approx(np.ones(grid.steps))


@pytest.mark.parametrize(
    ("mount", "portable", "out"),
    [
        ("flat", False, [1, 1, 1]),
        ("tilted", False, [1, 0, 0.5]),
        ("aimed", False, [1, 0, 0.5]),
        ("flat", True, [1, 0, 0]),
        ("tilted", True, [1, 0, 0]),
    ],
)
def test_which_panels_work_while_driving_and_while_stowed(
    mount: str, portable: bool, out: list[float]
) -> None:
    """Standing and out; driving and out; half driven and stowed."""
    panel = Panel(100.0, mount, 30.0, 180.0, portable)  # type: ignore[arg-type]
    array = SunInput("s", "Sun", (panel,), Controller(20.0, 0.95))
    shares = {"drive": np.array([0.0, 1.0, 0.5]), "panel_out": np.array([1.0, 1.0, 0.0])}
    (found,) = panels_out(array, shares)  # type: ignore[arg-type]
    assert found.tolist() == out


def test_a_controller_for_so_many_watts_has_a_tenth_to_spare() -> None:
    assert controller_a(128.0, 12.8) == pytest.approx(11.0)


def test_strings_must_come_out_even() -> None:
    check_array(pair(series=3), ("box", "sun", 0))
    with pytest.raises(PlanError) as caught:
        check_array(pair(series=2), ("box", "sun", 0))
    assert (caught.value.value, caught.value.limit) == (2, "a divisor of 3")


@pytest.mark.parametrize(
    ("figures", "field"),
    [
        ({"vmp_v": 22.0}, "vmp_v"),
        ({"imp_a": 6.0}, "imp_a"),
        ({"fuse_max_a": 6.0}, "fuse_max_a"),
        ({"imp_a": 4.3}, "imp_a"),
        ({"vmp_v": 14.3}, "imp_a"),
    ],
)
def test_a_label_that_contradicts_itself_is_refused(figures: dict[str, float], field: str) -> None:
    """Vmp under Voc, Imp under Isc, the fuse above it, and their watts within a fifth of 99."""
    panel = Panel(99.0, "flat", 0.0, 180.0, False, label=PLATE)
    check_label(panel, ())
    check_label(replace(panel, label=replace(PLATE, imp_a=4.5)), ())
    check_label(replace(panel, label=replace(PLATE, fuse_max_a=6.1)), ())
    with pytest.raises(PlanError) as caught:
        check_label(replace(panel, label=replace(PLATE, **figures)), ("p",))
    assert caught.value.where == ("p", field)
    if field == "imp_a" and figures.get("imp_a") != 6.0:
        volts = figures.get("vmp_v", 18.0)
        assert caught.value.limit == f"about {99 / volts:.2f} A at {volts:g} V"
