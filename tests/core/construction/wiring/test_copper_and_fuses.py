"""Cables and fuses against figures worked out by hand and published tables."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddkettle.core.construction.parts.catalogue import bend_mm, cable_diameter_mm
from oddkettle.core.construction.wiring.cable import (
    AMPACITY_A,
    STRAND_OHM_KM,
    ambient_share,
    ampacity_a,
    free_air_a,
    run_ohm,
    size_text,
    sizes_of,
    strand_ohm_m,
)
from oddkettle.core.construction.wiring.cable_run import CableRun
from oddkettle.core.construction.wiring.connectors import CONNECTORS, smallest_keyed
from oddkettle.core.construction.wiring.fuses import (
    FAMILIES,
    family_for,
    largest_within_a,
    least_size_a,
)
from oddkettle.core.simulation.own_wiring import Family
from oddkettle.core.units.conversion import awg_area_mm2, awg_text
from oddkettle.text import render


@pytest.mark.parametrize(
    ("amps", "run_m", "area_mm2", "volts"),
    [
        # 2 x 5 m x 3.30 mOhm/m = 33.0 mOhm; 30 + 60 (20/53)^2 = 38.5 C: x 1.0729 x 20 A
        (20.0, 5.0, 6.0, 0.7081),
        # 2 x 4 m x 1.91 = 15.28; 30 + 60 (30/75)^2 = 39.6 C: x 1.0770 x 30 A
        (30.0, 4.0, 10.0, 0.4937),
        # 2 x 0.5 m x 0.780 = 0.78; 30 + 60 (100/140)^2 = 60.6 C: x 1.1596 x 100 A
        (100.0, 0.5, 25.0, 0.0904),
    ],
)
def test_a_drop_by_hand(amps: float, run_m: float, area_mm2: float, volts: float) -> None:
    way = CableRun(run_m, bundled=False, engine_bay=False, ambient_c=30.0)
    assert way.drop_v(area_mm2, amps) == pytest.approx(volts, abs=0.0005)
    # Two good contacts of 0.6 mOhm and a battery's lead of 3 mOhm before it.
    joined = replace(way, contacts_ohm=0.0012, before_ohm=0.003)
    assert joined.drop_v(area_mm2, amps) == pytest.approx(volts + 0.0042 * amps, abs=0.0005)


@pytest.mark.parametrize(("area", "ohm_km"), STRAND_OHM_KM)
def test_a_strand_has_the_resistance_of_its_own_table(area: float, ohm_km: float) -> None:
    assert 1000 * strand_ohm_m(area) == pytest.approx(ohm_km)
    # Never less than solid copper of that area would have.
    assert 1000 * strand_ohm_m(area) > 17.0 / area


def test_an_awg_strand_is_some_hundredths_over_solid() -> None:
    assert 1000 * strand_ohm_m(awg_area_mm2(10)) == pytest.approx(1.04 * 3.28)


def test_copper_gains_two_fifths_of_a_percent_by_the_kelvin() -> None:
    assert run_ohm(1.0, 1.0, 70.0) / run_ohm(1.0, 1.0, 20.0) == pytest.approx(1.1965)


@pytest.mark.parametrize(
    ("number", "area"),
    # The standard's own table of areas.
    [(18, 0.823), (14, 2.08), (10, 5.26), (6, 13.3), (2, 33.6), (0, 53.5), (-1, 67.4)],
)
def test_awg_areas_are_the_standards(number: int, area: float) -> None:
    assert awg_area_mm2(number) == pytest.approx(area, rel=0.005)


def test_thick_awg_sizes_are_written_with_a_stroke() -> None:
    assert [awg_text(n) for n in (10, 1, 0, -1)] == ["10 AWG", "1 AWG", "1/0 AWG", "2/0 AWG"]


def test_sizes_rise_in_both_series() -> None:
    for series in ("metric", "awg"):
        areas = [size.area_mm2 for size in sizes_of(series)]
        assert areas == sorted(areas)
        assert len(areas) == 14


def test_a_size_is_called_by_its_series_and_an_odd_one_by_its_area() -> None:
    assert render(size_text(4.0, "metric")) == "4 mm²"
    assert size_text(5.26, "awg") == "10 AWG"
    assert render(size_text(5.0, "awg")) == "5 mm²"


@pytest.mark.parametrize(("area", "amps"), AMPACITY_A)
def test_a_size_of_the_table_bears_what_the_table_says(area: float, amps: float) -> None:
    assert ampacity_a(area) == pytest.approx(amps, abs=1e-4)


@given(st.floats(0.3, 110), st.floats(0.3, 110))
def test_a_thicker_cable_bears_more(a: float, b: float) -> None:
    low, high = sorted((a, b))
    assert free_air_a(low) <= free_air_a(high) + 1e-6


@given(st.floats(0.5, 100), st.booleans(), st.booleans(), st.floats(-20, 85))
def test_no_place_is_better_than_free_air(
    area: float, bundled: bool, hot: bool, ambient: float
) -> None:
    where = ampacity_a(area, bundled=bundled, engine_bay=hot, ambient_c=ambient)
    assert 0.0 <= where <= free_air_a(area)


def test_a_bundle_in_a_hot_engine_bay_by_hand() -> None:
    # 40 A x 0.7 x 0.85 x sqrt((90 - 50) / 60)
    bears = ampacity_a(4.0, bundled=True, engine_bay=True, ambient_c=50.0)
    assert bears == pytest.approx(19.43, abs=0.01)


def test_cold_air_earns_nothing() -> None:
    assert ambient_share(-10.0) == ambient_share(30.0) == 1.0


@pytest.mark.parametrize(
    ("amps", "family", "size"),
    [
        (8.0, "blade", 10.0),  # 10.0 A wanted: just met
        (8.1, "blade", 15.0),
        (24.0, "blade", 30.0),  # all that a blade's holder bears for hours
        (24.1, "blade", None),
        (48.0, "terminal", 60.0),
        (200.0, "strip", 250.0),
        (200.1, "strip", None),
    ],
)
def test_a_fuse_is_the_next_size_over_a_quarter_more(
    amps: float, family: Family, size: float | None
) -> None:
    assert least_size_a(amps, family) == size


def test_the_largest_fuse_within_a_cable() -> None:
    assert largest_within_a(53.0, "strip") == 50.0
    assert largest_within_a(25.0, "strip") is None


@pytest.mark.parametrize(
    ("amps", "short", "volts", "family"),
    [
        (5.0, 900.0, 14.6, "blade"),
        (5.0, 1500.0, 14.6, "strip"),
        (40.0, 900.0, 14.6, "strip"),
        (40.0, 3500.0, 14.6, "terminal"),
        (40.0, 15_000.0, 14.6, "class_t"),
        (40.0, 25_000.0, 14.6, None),
        # A terminal fuse breaks half as much at 24 V, and a fifth at 48 V.
        (40.0, 4_900.0, 28.8, "terminal"),
        (40.0, 5_100.0, 28.8, "class_t"),
        (5.0, 900.0, 57.6, "terminal"),
        (40.0, 2_100.0, 57.6, "class_t"),
        (40.0, 900.0, 130.0, None),
    ],
)
def test_a_fuse_at_the_battery_breaks_its_short_circuit(
    amps: float, short: float, volts: float, family: Family | None
) -> None:
    assert family_for(amps, short, volts) == family
    assert family is None or FAMILIES[family].breaks_a(volts) >= short


def test_an_inlet_is_never_given_a_plug_that_an_outlet_has() -> None:
    assert smallest_keyed(20.0) == "keyed_30"
    assert smallest_keyed(20.0, frozenset({"keyed_30"})) == "keyed_50"
    assert smallest_keyed(130.0) == "gland"


def test_what_passes_a_wall_has_a_flange_wider_than_its_hole() -> None:
    for part in CONNECTORS.values():
        if part.hole_mm:
            assert part.flange_mm > part.hole_mm
            assert part.depth_mm > 0


def test_a_cable_bends_no_tighter_than_four_diameters() -> None:
    # 10 mm2: 3.57 mm of copper, stranded and sheathed about 5.7 mm.
    assert cable_diameter_mm(10.0) == pytest.approx(5.7, abs=0.1)
    assert bend_mm(10.0) == pytest.approx(4 * cable_diameter_mm(10.0))
