"""What must hold for any box on any trip."""

from __future__ import annotations

import os
import subprocess
import sys
from dataclasses import replace
from pathlib import Path

import numpy as np
from hypothesis import HealthCheck, Phase, assume, given, settings
from hypothesis import strategies as st

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.kernel.constants import REFERENCE_C
from oddkettle.core.kernel.records import FLOAT
from oddkettle.core.simulation.ledger import keep_ledger
from oddkettle.core.simulation.run import Run, run_world, simulate
from oddkettle.core.simulation.run_metrics import autonomy_h
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.units.conversion import CLASS_V
from tests.core.boxes import LIFEPO4, Case, cases, changed
from tests.support.tiers import OF_THE_KERNEL, examples, repeats

many = settings(
    max_examples=examples(100),
    deadline=None,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much],
    derandomize=True,
    # No shrinking: a run costs milliseconds, and minutes of it tell little more than the seed.
    phases=(Phase.explicit, Phase.generate),
)
MIN_SCALE = 1.0


def total(flows: list[np.ndarray], days: int) -> np.ndarray:
    return sum(flows, start=np.zeros(days))


@many
@given(cases())
def test_charge_closes_for_any_plan(case: Case) -> None:
    """In = used + stored + lost, and offered = barred + clipped + spilled + taken, to 1e-6."""
    run = simulate(case)
    ledger, days = keep_ledger(run), case.days
    taken = total([s.taken.ah for s in ledger.sources], days)
    used = total([d.used.ah for d in ledger.draws], days) + ledger.heater.ah
    scale = MIN_SCALE + np.abs(taken) + used
    gap = taken - used - ledger.stored.ah - ledger.coulombic.ah - ledger.leaked.ah
    assert np.all(np.abs(gap) < 1e-6 * scale)
    assert np.all(ledger.coulombic.ah > -1e-9 * scale)
    assert np.all(ledger.leaked.ah >= 0.0)
    for flow in ledger.sources:
        parts = (flow.barred, flow.clipped, flow.spilled, flow.taken)
        whole = total([part.ah for part in parts], days)
        assert np.all(np.abs(flow.offered.ah - whole) < 1e-6 * (MIN_SCALE + np.abs(whole)))
        for part in parts[:3]:
            assert np.all(part.ah > -1e-6 * (MIN_SCALE + np.abs(whole)))


@many
@given(cases())
def test_energy_closes_and_only_a_slow_well_hides_any(case: Case) -> None:
    """The line that is left over is the lag of lead's slow well; lithium has none.

    What remains for lithium is the step's own curvature: under 1.5 % of throughput, counted with
    what the two banks send to one another.
    """
    run = simulate(case)
    ledger, days = keep_ledger(run), case.days
    through = (
        np.add.reduceat(
            np.abs(run.track.bank_a).sum(axis=1) * run.track.bus_v, run.grid.day_starts[:-1]
        )
        * run.grid.step_h
    )
    if not case.bank.chemistry.lead:
        assert np.all(np.abs(ledger.lag_wh) < 0.015 * (MIN_SCALE * days + through))
    assert np.all(ledger.resistance_wh >= 0.0)


@many
@given(cases())
def test_the_bus_stands_no_higher_than_what_is_joined_to_it_can_lift_it(case: Case) -> None:
    """A set point, a relay's alternator or a full bank: nothing else can raise it."""
    run = simulate(case)
    chargers, offers = run.world.offers.chargers, run.world.offers.offers
    # A set point moves with the battery's temperature.
    off_c = np.abs(run.track.battery_c[:, 0] - REFERENCE_C).max()
    set_v = np.maximum(chargers["absorb_v"], chargers["float_v"])
    by_charger = set_v + np.abs(chargers["comp_v_per_k"]) * off_c
    full = [tables.curves["ocv_v"].max() for tables in run.world.tables]
    highest = max([*full, by_charger.max(initial=0.0), offers["emf_v"].max(initial=0.0)])
    assert run.track.bus_v.max() <= highest + 0.02


@many
@given(cases())
def test_levels_and_currents_stay_in_bounds(case: Case) -> None:
    run = simulate(case)
    track = run.track
    assert np.all(track.soc <= 1.0 + 1e-12)
    # Lead gives a little more than its 20 h rating when drained slowly, less in the cold: there
    # the level at which it is empty rises above where it may stand.
    assert track.soc.min() > -0.2
    limits = np.array([float(t.bank["charge_limit_a"]) for t in run.world.tables]).sum()
    assert np.all(track.into_bank_a <= limits * (1 + 1e-9) + 1e-6)
    for j, source in enumerate(run.sources):
        assert np.all(run.taken_a[j] <= source.limit_a + 1e-9)
    assert np.all((track.served >= 0.0) & (track.served <= 1.0))
    assert np.all(np.isfinite(track.bus_v))


@many
@given(cases())
def test_a_box_cuts_out_only_when_it_is_nearly_empty_or_asked_too_much(case: Case) -> None:
    """Never for the sake of the search for its voltage: not full, not in float, not at a kink."""
    case = replace(case, second=None)
    run = simulate(case)
    track = run.track
    head = track.soc[:-1, 0] - track.lag[:-1, 0]
    asked_w = sum((draw.asked_w for draw in run.draws), start=np.zeros(run.grid.steps))
    gentle = asked_w + 80.0 < 0.3 * case.bank.nominal_wh
    cut = (track.served < 1.0) & (head > 0.5) & gentle & (track.battery_c[:-1, 0] > -15.0)
    assert not cut.any()


@many
@given(cases())
def test_the_shared_limit_of_a_combined_charger_is_kept(case: Case) -> None:
    assume(case.joining.kind == "combined" or (case.unit and case.unit.input_w))
    run = simulate(case)
    offers = run.world.offers
    members = [j for r, j in enumerate(run.world.rows) if offers.chargers["shared"][r] > 0.0]
    assume(members)
    assert run.taken_a[members].sum(axis=0).max() <= offers.shared_a + 1e-9


@settings(many, max_examples=examples(50))
@given(cases(), st.floats(1.05, 3.0))
def test_more_sun_never_lowers_the_lowest_level(case: Case, more: float) -> None:
    """A selector may let a stronger sun shut another source out, and a unit's input is shared.

    Voltages are those of the chemistry: a float under the rested voltage gives nothing, and a
    stronger sun comes to it sooner.
    """
    to_class = case.bank.volts_scale * CLASS_V / case.bank.system_v
    chemistry = case.bank.chemistry
    usual = Profile(chemistry.absorption_v * to_class, chemistry.float_v * to_class)
    case = changed(
        case,
        second=None,
        profile=usual,
        sun=tuple(replace(source, profile=None) for source in case.sun),
        vehicle=tuple(replace(source, profile=None) for source in case.vehicle),
        mains=tuple(replace(source, profile=None) for source in case.mains),
    )
    assume(case.joining.kind == "independent" and case.unit is None and not case.shed)
    panels = tuple(
        replace(array, panels=tuple(replace(p, power_w=p.power_w * more) for p in array.panels))
        for array in case.sun
    )
    lean, rich = simulate(case), simulate(case.with_sources("sun", panels))
    # Switching to float a step earlier may cost a hair near full; never below that.
    slack = 0.02 if np.any(rich.stage == FLOAT) else 1e-6
    if np.all(lean.track.served == 1.0):
        assert rich.level.min() >= lean.level.min() - slack


@many
@given(cases(), st.floats(1.1, 3.0))
def test_a_bigger_battery_of_the_kind_never_shortens_autonomy(case: Case, more: float) -> None:
    case = replace(case, sources=(), second=None, floor=0.1, shed={}, soc0=0.9)
    case = replace(case, low_c=(20.0,), high_c=(20.0,), heater=None)
    bigger = replace(case, bank=replace(case.bank, battery_ah=case.bank.battery_ah * more))
    small, big = autonomy_h(simulate(case), 0), autonomy_h(simulate(bigger), 0)
    # Self-discharge is a share of what is there: nearly unloaded, both fall together.
    assert big >= small * 0.999 - 0.1


@many
@given(cases())
def test_half_the_step_moves_the_lowest_level_by_under_half_a_point(case: Case) -> None:
    """For boxes whose loads together stay under half a capacity an hour; two points with a float.

    A selector and an owner who unplugs things switch by whole steps, and a thermostat or the frost
    line may be met by a hair on one grid and not on the other; they are left out. So are a relay
    forced closed and a charger that senses its voltage: a smart alternator's fall turns a hundred
    amps round, or meets the charger's mark, at the step's edge.
    """
    case = replace(case, unit=None, shed={}, heater=None, low_c=(12.0,), high_c=(18.0,))
    assume(not any(getattr(source, "forced", False) for source in case.vehicle))
    assume(not any(s.alternator.smart and not getattr(s, "ignition", True) for s in case.vehicle))
    assume(case.joining.kind != "selector")
    watts = sum(a.power_w for a in case.appliances) + 40.0
    case = replace(case, bank=replace(case.bank, battery_ah=max(case.bank.battery_ah, watts / 5.0)))
    coarse = simulate(replace(case, step_min=4))
    assume(np.all(coarse.track.served == 1.0) and np.all(coarse.track.shed == 0.0))
    fine = simulate(replace(case, step_min=2))
    # A charger that goes to float a step earlier leaves a hair to a bank that is drawn on at once.
    slack = 0.02 if np.any(coarse.stage == FLOAT) or np.any(fine.stage == FLOAT) else 0.005
    assert abs(coarse.level.min() - fine.level.min()) < slack


@many
@given(cases())
def test_it_does_not_matter_which_parallel_bank_is_first(case: Case) -> None:
    assume(case.second is not None)
    assert case.second is not None
    here = replace(case.bank, link_mohm=5.0)
    there = replace(case.second.bank, link_mohm=5.0, housing=case.bank.housing)
    plain = replace(
        case,
        bank=here,
        second=replace(case.second, bank=there, always=True),
        heater=None,
        unit=None,
    )
    swapped = replace(
        plain,
        bank=there,
        second=replace(plain.second, bank=here, soc0=case.soc0),  # type: ignore[type-var]
        soc0=case.second.soc0,
    )
    one, two = _run(plain), _run(swapped)
    assume(np.all(one.track.served == 1.0))
    # The search for the bus begins at another voltage: a hundredth of a millivolt may remain.
    gap = np.abs(one.track.soc - two.track.soc[:, ::-1]).max()
    assert gap < 1e-5


def _run(case: Case) -> Run:
    """The tail current goes by the first bank's size: hold it equal for the comparison."""
    run = simulate(case)
    run.world.offers.chargers["tail_a"] = 0.5
    return run_world(case, run.world)


@OF_THE_KERNEL
def test_the_compiled_step_agrees_with_the_plain_one() -> None:
    """The compiled loop against the very same function run by the interpreter, to 1e-12."""
    script = Path(__file__).with_name("plain_step.py")
    runs = {}
    # Every switch of the compiler is another folder of machine code: set none for the usual one.
    usual = {k: v for k, v in os.environ.items() if k != "NUMBA_DISABLE_JIT"}
    for switch, environment in (("0", usual), ("1", usual | {"NUMBA_DISABLE_JIT": "1"})):
        done = subprocess.run(
            [sys.executable, str(script), str(repeats(1, 1, 4))],
            env=environment,
            capture_output=True,
            check=True,
        )
        runs[switch] = np.frombuffer(done.stdout, np.float64)
    assert len(runs["0"]) > 1000
    assert np.abs(runs["0"] - runs["1"]).max() < 1e-12


def test_every_value_of_a_chemistry_says_where_it_comes_from() -> None:
    wanted = {"ocv", "resistance", "cold", "life", "charge_limit_c", "alpha_per_h", "coulombic"}
    for chemistry in CHEMISTRIES.values():
        assert wanted <= set(chemistry.sources)
    assert LIFEPO4.sources["ocv"].mark == "textbook"
