"""How choices answer to what is asked of them: more never makes anything weaker."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from oddkettle.core.battery.bank import Bank
from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.construction.parts.cable_parts import cable_metres
from oddkettle.core.construction.parts.lines import BuiltOf, totals_of
from oddkettle.core.construction.parts.parts_list import list_parts
from oddkettle.core.construction.procedures.expected_readings import bank_ohm, loaded_v, rested_v
from oddkettle.core.construction.wiring.cable import run_ohm, sizes_of
from oddkettle.core.construction.wiring.cable_run import CableRun
from oddkettle.core.construction.wiring.circuits import Circuit
from oddkettle.core.construction.wiring.fuses import (
    FAMILIES,
    LOAD_FACTOR,
    family_for,
    largest_within_a,
)
from oddkettle.core.construction.wiring.fuses import least_size_a as least
from oddkettle.core.simulation.own_wiring import Choice
from tests.core.boxes import lamp
from tests.core.construction.boxes import board, full_case, ran
from tests.support.tiers import examples

few = settings(max_examples=examples(25), deadline=None)
chemistries = st.sampled_from(sorted(CHEMISTRIES))


def mains(**fields: object) -> Circuit:
    found = board(full_case(Choice("charge-mains", **fields))).of("charge-mains")  # type: ignore[arg-type]
    assert found is not None
    return found


@few
@given(st.floats(0.2, 12), st.floats(1.0, 3.0))
def test_a_longer_run_never_gets_a_thinner_cable(run_m: float, more: float) -> None:
    short, long = mains(run_m=run_m), mains(run_m=run_m * more)
    assert (long.cable_mm2 or 99.0) >= (short.cable_mm2 or 99.0)
    assert long.fuse_a == short.fuse_a


@few
@given(st.floats(0.2, 8), st.floats(60, 80))
def test_warmer_air_and_a_bundle_never_get_a_thinner_cable(run_m: float, ambient: float) -> None:
    case = full_case(Choice("charge-mains", run_m=run_m))
    hot = replace(case, wiring=replace(case.wiring, ambient_c=ambient))
    plain, warm = board(case).of("charge-mains"), board(hot).of("charge-mains")
    bundled = mains(run_m=run_m, bundled=True)
    assert plain is not None
    assert warm is not None
    assert plain.cable_mm2 is not None
    for other in (warm, bundled):
        assert (other.cable_mm2 or 99.0) >= plain.cable_mm2
    assert warm.ampacity_a >= (warm.fuse_a or 0.0)


@few
@given(st.floats(5, 120), st.floats(1.0, 2.0))
def test_a_stronger_lamp_never_gets_a_smaller_fuse(watts: float, more: float) -> None:
    def fuse(power: float) -> float:
        outlet = board(full_case(appliances=(lamp(power),))).circuits
        return next(c.fuse_a or 999.0 for c in outlet if c.need.appliances == ("lamp",))

    assert fuse(watts * more) >= fuse(watts)


@given(st.floats(0.1, 180), st.sampled_from(sorted(FAMILIES)))
def test_a_size_is_enough_and_the_next_smaller_is_not(amps: float, family: str) -> None:
    sizes = FAMILIES[family].sizes_a  # type: ignore[index]
    size = least(amps, family)  # type: ignore[arg-type]
    if size is None:
        assert sizes[-1] < LOAD_FACTOR * amps or amps > FAMILIES[family].holder_a  # type: ignore[index]
        return
    assert size >= LOAD_FACTOR * amps - 1e-6
    smaller = [s for s in sizes if s < size]
    assert not smaller or smaller[-1] < LOAD_FACTOR * amps
    assert largest_within_a(size, family) == size  # type: ignore[arg-type]


@given(st.floats(1, 150), st.floats(100, 25_000), st.floats(1.0, 4.0))
def test_a_harder_short_never_allows_a_weaker_family(
    amps: float, short: float, more: float
) -> None:
    gentle, hard = family_for(amps, short, 14.6), family_for(amps, short * more, 14.6)
    assume(hard is not None)
    assert gentle is not None
    assert FAMILIES[gentle].breaks_a(14.6) >= short
    assert FAMILIES[hard].breaks_a(14.6) >= short * more  # type: ignore[index]


@given(st.floats(0.1, 200), st.floats(0.1, 30), st.sampled_from(["metric", "awg"]))
def test_drop_is_ohms_law_and_thicker_drops_less(amps: float, run_m: float, series: str) -> None:
    way = CableRun(run_m, bundled=False, engine_bay=False, ambient_c=30.0)
    drops = [way.drop_v(size.area_mm2, amps) for size in sizes_of(series)]  # type: ignore[arg-type]
    assert drops == sorted(drops, reverse=True)
    for size, drop in zip(sizes_of(series), drops, strict=True):  # type: ignore[arg-type]
        warm = way.warm_c(size.area_mm2, amps)
        assert 30.0 <= warm <= 90.0
        assert drop == pytest.approx(amps * run_ohm(run_m, size.area_mm2, warm), rel=1e-9)


@given(chemistries, st.floats(0.05, 0.95), st.floats(0.0, 40.0), st.floats(20, 300))
def test_a_battery_reads_higher_while_it_takes_and_lower_while_it_gives(
    key: str, level: float, amps: float, ah: float
) -> None:
    bank = Bank(CHEMISTRIES[key], ah)
    rested = rested_v(bank, level)
    assert loaded_v(bank, level, amps) >= rested >= loaded_v(bank, level, -amps)
    assert rested_v(bank, min(level + 0.05, 1.0)) >= rested
    assert bank_ohm(bank, level, -10.0) >= bank_ohm(bank, level, 25.0) > 0.0


@few
@given(st.floats(0, 1), st.floats(0, 1))
def test_waste_buys_more_cable_and_weighs_more(less: float, more: float) -> None:
    less, more = sorted((less, more))
    run = ran(full_case())
    circuits = board(run.case)
    small, large = (
        totals_of(list_parts(run, circuits, BuiltOf("wood", 5.0, w), ())) for w in (less, more)
    )
    assert small.kg <= large.kg
    assert small.buy_low <= large.buy_low
    bought = {
        line.article.key: line.article.count
        for line in list_parts(run, circuits, BuiltOf("wood", 5.0, more), ())
        if line.article.key.startswith("cable:")
    }
    for size, metres in cable_metres(circuits).items():
        for colour in ("red", "black"):
            assert bought[f"cable:{size:.3g}-{colour}"] >= metres * (1.0 + more) - 1e-6


@few
@given(st.floats(50, 400), st.floats(1.0, 3.0))
def test_a_bigger_inverter_never_weakens_the_battery_circuit(watts: float, more: float) -> None:
    def main_of(power: float) -> Circuit:
        inverter = replace(full_case().inverter, rating_w=power)  # type: ignore[type-var]
        found = board(full_case(inverter=inverter)).of("battery")
        assert found is not None
        return found

    small, large = main_of(watts), main_of(watts * more)
    assert large.need.continuous_a >= small.need.continuous_a
    assert (large.fuse_a or 999.0) >= (small.fuse_a or 999.0)
    assert (large.cable_mm2 or 999.0) >= (small.cable_mm2 or 999.0)
