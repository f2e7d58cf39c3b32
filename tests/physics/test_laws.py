"""What must hold for any box on any trip."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from oddkettle.core.chemistry import CHEMISTRIES
from oddkettle.core.kernel import FLOAT
from oddkettle.core.ledger import keep_books
from oddkettle.core.run import Case, simulate
from tests.core.boxes import LIFEPO4, cases

many = settings(
    max_examples=120, deadline=None, suppress_health_check=[HealthCheck.too_slow], derandomize=True
)
LEAST_SCALE = 1.0


@many
@given(cases())
def test_charge_closes_for_any_plan(case: Case) -> None:
    """In = used + stored + lost, and offered = clipped + spilled + taken, by day, to 1e-6."""
    run = simulate(case)
    books = keep_books(run)
    taken = sum((s.taken.ah for s in books.sources), start=np.zeros(len(case.clearness)))
    used = sum((d.used.ah for d in books.draws), start=np.zeros(len(case.clearness)))
    scale = LEAST_SCALE + taken + used
    gap = taken - used - books.stored.ah - books.coulombic.ah
    assert np.all(np.abs(gap) < 1e-6 * scale)
    assert np.all(books.coulombic.ah > -1e-9 * scale)
    for flow in books.sources:
        whole = flow.clipped.ah + flow.spilled.ah + flow.taken.ah
        assert np.all(np.abs(flow.offered.ah - whole) < 1e-6 * (LEAST_SCALE + whole))


@many
@given(cases())
def test_energy_closes_and_only_a_slow_well_hides_any(case: Case) -> None:
    """The line that is left over is the lag of lead's slow well; lithium has none.

    What remains for lithium is the step's own curvature: under half a percent of throughput.
    """
    run = simulate(case)
    books = keep_books(run)
    used = sum((d.used.wh for d in books.draws), start=np.zeros(len(case.clearness)))
    taken = sum((s.taken.wh for s in books.sources), start=np.zeros(len(case.clearness)))
    if case.bank.chemistry is LIFEPO4:
        assert np.all(np.abs(books.lag_wh) < 0.005 * (LEAST_SCALE + used + taken))
    assert np.all(books.resistance_wh >= 0.0)
    asked = run.asked_w.sum(axis=0) if len(run.draws) else np.zeros(run.grid.steps)
    assert np.allclose(run.track.load_a * run.track.bus_v, asked * run.track.served, atol=1e-6)


@many
@given(cases())
def test_levels_and_currents_stay_in_bounds(case: Case) -> None:
    run = simulate(case)
    track, limits = run.track, run.tables.limits
    assert np.all(track.soc <= 1.0 + 1e-12)
    # Lead gives a little more than its 20 h rating when drained slowly.
    assert np.all(track.soc - track.lag >= limits.lowest_head - 1e-6) or case.soc0 < 0.01
    assert np.all(track.into_bank_a <= limits.charge_limit_a * (1 + 1e-9) + 1e-9)
    assert np.all(track.taken_a <= run.offers.limit_a + 1e-9)
    assert np.all((track.served >= 0.0) & (track.served <= 1.0))
    assert np.all(np.isfinite(track.bus_v))


@many
@given(cases(), st.floats(1.05, 3.0))
def test_more_sun_never_lowers_the_lowest_level(case: Case, more: float) -> None:
    panels = tuple(
        replace(array, panels=tuple(replace(p, power_w=p.power_w * more) for p in array.panels))
        for array in case.sun
    )
    lean, rich = simulate(case), simulate(replace(case, sun=panels))
    # Switching to float a step earlier may cost a hair near full; never below that.
    slack = 0.02 if np.any(rich.track.stage == FLOAT) else 1e-9
    if np.all(lean.track.served == 1.0):
        assert rich.track.soc.min() >= lean.track.soc.min() - slack


@many
@given(cases())
def test_the_compiled_step_agrees_with_the_plain_one(case: Case) -> None:
    """The compiled loop against the very same functions run by the interpreter."""
    from oddkettle.core import kernel

    run = simulate(replace(case, clearness=case.clearness[:1], blocks=()))
    names = [
        "curve_at",
        "operating_point",
        "set_point_v",
        "solve_free",
        "take_in_order",
        "balance",
        "share_before_cutoff",
        "advance_stages",
        "step",
        "run_steps",
    ]
    compiled = {name: getattr(kernel, name) for name in names}
    try:
        for name in names:
            setattr(kernel, name, compiled[name].py_func)
        plain = kernel.drive(run.tables, run.offers, run.asked_w.sum(axis=0), case.soc0)
    finally:
        for name in names:
            setattr(kernel, name, compiled[name])
    assert np.abs(plain.soc - run.track.soc).max() < 1e-12
    assert np.abs(plain.bus_v - run.track.bus_v).max() < 1e-9


def test_every_value_of_a_chemistry_says_where_it_comes_from() -> None:
    wanted = {"ocv", "resistance", "charge_limit_c", "alpha_per_h", "coulombic", "absorption_v"}
    for chemistry in CHEMISTRIES.values():
        assert wanted <= set(chemistry.sources)
