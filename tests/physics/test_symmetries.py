"""What must not matter: size, system voltage, the order of things, how they are cut in pieces."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from hypothesis import HealthCheck, Phase, assume, given, settings
from hypothesis import strategies as st

from oddkettle.core.battery.bank import Bank
from oddkettle.core.loads.demand import Appliance
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import simulate
from tests.core.boxes import cases, changed
from tests.support.tiers import examples

some = settings(
    max_examples=examples(60),
    deadline=None,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much],
    derandomize=True,
    phases=(Phase.explicit, Phase.generate),
)
SAME = 1e-9


def plain(case: Case) -> Case:
    """Sun and loads on one bank: what scales without a cable or an alternator of fixed size."""
    return changed(
        case,
        vehicle=(),
        mains=(),
        second=None,
        unit=None,
        heater=None,
        inverter=None,
        bank=replace(case.bank, link_mohm=0.0, housing=replace(case.bank.housing, extra_kg=0.0)),
        appliances=tuple(a for a in case.appliances if a.supply != "inverter"),
    )


def scaled_loads(appliances: tuple[Appliance, ...], by: float) -> tuple[Appliance, ...]:
    return tuple(replace(a, power_w=a.power_w * by, standby_w=a.standby_w * by) for a in appliances)


def larger(case: Case, by: int) -> Case:
    """The same box with everything `by` times as large."""
    sun = tuple(
        replace(
            array,
            cable_ohm=array.cable_ohm / by,
            panels=tuple(replace(p, count=p.count * by) for p in array.panels),
            controller=replace(
                array.controller,
                limit_a=array.controller.limit_a * by,
                input_limit_w=array.controller.input_limit_w
                and array.controller.input_limit_w * by,
                own_w=array.controller.own_w * by,
            ),
        )
        for array in case.sun
    )
    return changed(
        case,
        bank=replace(case.bank, battery_ah=case.bank.battery_ah * by),
        sun=sun,
        appliances=scaled_loads(case.appliances, by),
        joining=replace(case.joining, limit_a=case.joining.limit_a * by),
    )


@some
@given(cases(), st.sampled_from([2, 4]))
def test_a_box_twice_as_large_in_everything_has_the_same_levels(case: Case, by: int) -> None:
    case = plain(case)
    case = replace(case, appliances=tuple(replace(a, pattern=None) for a in case.appliances))
    small, large = simulate(case), simulate(larger(case, by))
    # Where a box cuts out, the last digit decides when it comes back.
    assume(np.all(small.track.served == 1.0))
    assert np.abs(small.level - large.level).max() < 1e-6
    np.testing.assert_allclose(
        large.track.bank_a, by * small.track.bank_a, rtol=1e-5, atol=1e-6 * case.bank.battery_ah
    )
    np.testing.assert_allclose(large.track.bus_v, small.track.bus_v, rtol=1e-6)


@some
@given(cases(), st.randoms(use_true_random=False))
def test_the_order_of_appliances_does_not_matter(case: Case, chance: object) -> None:
    named = [replace(a, key=f"a{n}", pattern=None) for n, a in enumerate(case.appliances)]
    case, mixed = replace(case, appliances=tuple(named)), named[:]
    chance.shuffle(mixed)  # type: ignore[attr-defined]
    one, other = simulate(case), simulate(replace(case, appliances=tuple(mixed)))
    assume(np.all(one.track.served == 1.0))
    assert np.abs(one.level - other.level).max() < SAME * one.grid.steps


@some
@given(cases())
def test_an_appliance_cut_in_two_halves_draws_what_the_whole_did(case: Case) -> None:
    whole = tuple(replace(a, pattern=None, key=f"a{n}") for n, a in enumerate(case.appliances))
    case = replace(case, appliances=whole)
    halves = scaled_loads(whole, 0.5)
    twice = (*halves, *(replace(a, key=f"{a.key}-too") for a in halves))
    one, other = simulate(case), simulate(replace(case, appliances=twice))
    assume(np.all(one.track.served == 1.0))
    assert np.abs(one.level - other.level).max() < SAME * one.grid.steps


@some
@given(cases())
def test_two_panels_are_one_panel_counted_twice(case: Case) -> None:
    assume(case.sun)

    def cut(case: Case, *, counted: bool) -> Case:
        return changed(
            case,
            sun=tuple(
                replace(
                    array,
                    series=1,
                    panels=tuple(
                        half
                        for p in array.panels
                        for half in (
                            [replace(p, count=2)]
                            if counted
                            else [replace(p, count=1), replace(p, count=1)]
                        )
                    ),
                )
                for array in case.sun
            ),
        )

    one, other = simulate(cut(case, counted=True)), simulate(cut(case, counted=False))
    assert np.abs(one.level - other.level).max() < SAME * one.grid.steps


@some
@given(cases())
def test_batteries_in_parallel_are_one_of_their_sum(case: Case) -> None:
    """Cells and leads in parallel halve like the rest; the housing holds them all."""
    four = replace(case.bank, parallel=4, battery_ah=case.bank.battery_ah / 4.0)
    one, other = simulate(case), simulate(replace(case, bank=four))
    assert np.abs(one.level - other.level).max() < SAME


@some
@given(cases(), st.integers(1, 40))
def test_books_over_any_stretches_add_up_to_the_whole(case: Case, pieces: int) -> None:
    run = simulate(case)
    edges = np.unique(np.linspace(0, run.grid.steps, pieces + 1).astype(int))
    parts, whole = keep_ledger(run, edges), keep_ledger(run)
    for name in ("heater", "stored", "coulombic", "leaked"):
        a, b = getattr(parts, name), getattr(whole, name)
        np.testing.assert_allclose(a.ah.sum(), b.ah.sum(), rtol=1e-9, atol=1e-9)
        np.testing.assert_allclose(a.wh.sum(), b.wh.sum(), rtol=1e-9, atol=1e-6)
    for some_flow, all_flow in zip(parts.sources, whole.sources, strict=True):
        for name in ("offered", "barred", "clipped", "spilled", "taken"):
            a, b = getattr(some_flow, name), getattr(all_flow, name)
            np.testing.assert_allclose(a.wh.sum(), b.wh.sum(), rtol=1e-9, atol=1e-6)


@some
@given(cases())
def test_a_box_that_nothing_draws_from_or_charges_only_leaks(case: Case) -> None:
    still = changed(
        case,
        sun=(),
        vehicle=(),
        mains=(),
        appliances=(),
        inverter=None,
        heater=None,
        second=None,
        unit=None,
    )
    run = simulate(still)
    assert np.all(run.track.bank_a == 0.0)
    assert np.all(np.diff(run.track.soc[:, 0]) <= 0.0)
    # At most what a hot month takes, however long the trip.
    assert run.track.soc[0, 0] - run.track.soc[-1, 0] < 0.05 * case.days


@some
@given(cases())
def test_twenty_four_volts_carry_half_the_amperes_of_twelve(case: Case) -> None:
    """Two batteries in series and every power as it was: the same levels, half the currents."""
    case = plain(case).with_sources("sun", ())
    wide = Bank(
        case.bank.chemistry, case.bank.battery_ah, series=1, parallel=2, housing=case.bank.housing
    )
    tall = replace(wide, series=2, parallel=1, system_v=24.0)
    low = simulate(replace(case, bank=wide))
    high = simulate(replace(case, bank=tall))
    assume(all(a.draw == "power" for a in case.appliances))
    assert np.abs(low.level - high.level).max() < 1e-6
    np.testing.assert_allclose(high.track.bus_v, 2.0 * low.track.bus_v, rtol=2e-5)
    np.testing.assert_allclose(
        high.track.bank_a, 0.5 * low.track.bank_a, rtol=1e-5, atol=1e-5 * case.bank.battery_ah
    )
