"""Panels on a trip: when they work and what moves them."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from oddkettle.core.simulation.run import simulate
from oddkettle.core.sources.panel import Panel, power_from_light
from oddkettle.core.sources.solar import Controller, SunInput, light_series
from oddkettle.core.trip.grid import Block, Grid, Site, lay_grid, zone_named
from tests.core.simulation.test_ledger import BARE

FOLDING = Panel(100.0, "tilted", 40.0, 180.0, True)
ROOF = Panel(100.0, "flat", 0.0, 180.0, False)
OUT = Block("panel_out", 0, 600, 0, 840)
DRIVE = Block("drive", 0, 660, 0, 720)
UTC = zone_named("UTC")


def panel_series_w(
    panel: Panel, site: Site, grid: Grid, clearness: np.ndarray, celsius: float
) -> np.ndarray:
    light = light_series(panel, (site,), grid, clearness, np.full(grid.steps, celsius))
    return power_from_light(panel.power_w, panel.plate.power_per_k, light)


def raw_w(panel: Panel, *blocks: Block) -> np.ndarray:
    array = SunInput("s", "Sun", (panel,), Controller(30.0, 1.0))
    return simulate(replace(BARE, blocks=blocks).with_sources("sun", (array,))).sources[0].raw_w


def day_wh(panel: Panel, site: Site, day: date, clearness: float = 1.0) -> float:
    grid = lay_grid(day, 1, UTC, 5)
    return float(panel_series_w(panel, site, grid, np.full(288, clearness), 15.0).sum() / 12)


def test_a_folding_panel_works_only_while_it_is_out() -> None:
    power = raw_w(FOLDING, OUT)
    hours = np.arange(288) / 12
    assert np.all(power[(hours < 10) | (hours >= 14)] == 0.0)
    assert np.all(power[(hours >= 10) & (hours < 14)] > 0.0)


def test_a_folding_panel_is_stowed_while_driving_and_the_roof_is_not() -> None:
    driving = slice(11 * 12, 12 * 12)
    assert np.all(raw_w(FOLDING, OUT, DRIVE)[driving] == 0.0)
    assert np.all(raw_w(ROOF, DRIVE)[driving] > 0.0)


def test_tilting_to_the_equator_pays_in_winter_on_either_side_of_it() -> None:
    for latitude, azimuth, winter in (
        (52.0, 180.0, date(2026, 12, 15)),
        (-38.0, 0.0, date(2026, 6, 15)),
    ):
        site = Site(latitude, 0.0, 0.0, "UTC")
        tilted = Panel(100.0, "tilted", 50.0, azimuth, False)
        away = replace(tilted, azimuth_deg=180.0 - azimuth)
        assert day_wh(tilted, site, winter) > 1.4 * day_wh(ROOF, site, winter)
        assert day_wh(away, site, winter) < day_wh(ROOF, site, winter)


def test_twice_the_watts_give_twice_the_energy() -> None:
    site = Site(45.0, 8.0, 250.0, "UTC")
    day = date(2026, 6, 21)
    assert day_wh(replace(ROOF, power_w=200.0), site, day) == pytest.approx(
        2 * day_wh(ROOF, site, day)
    )


def test_a_dull_sky_costs_more_than_its_light_on_a_tilted_panel_in_winter() -> None:
    """Cloud takes the direct light first, and tilt lives on direct light."""
    site = Site(52.0, 0.0, 0.0, "UTC")
    tilted = Panel(100.0, "tilted", 50.0, 180.0, False)
    day = date(2026, 12, 15)
    assert day_wh(tilted, site, day, 0.5) < 0.5 * day_wh(tilted, site, day, 1.0)


@pytest.mark.parametrize("series", [1, 2])
def test_four_panels_are_four_panels_however_they_are_written_down(series: int) -> None:
    """One entry of four, or one of three and one of a single: the same volts and currents."""
    cable = {"series": series, "cable_ohm": 0.05}
    written = (
        (replace(ROOF, count=4),),
        (replace(ROOF, count=3), ROOF),
    )
    one, two = (
        simulate(
            BARE.with_sources(
                "sun", (SunInput("s", "Sun", panels, Controller(30.0, 0.97), **cable),)
            )
        ).sources[0]
        for panels in written
    )
    assert one.raw_w.max() > 200.0
    assert one.wire_w.max() > 0.0
    for part in ("raw_w", "wire_w", "could_w", "offer_w", "source_v", "limit_a"):
        assert getattr(one, part) == pytest.approx(getattr(two, part)), part


def test_panels_side_by_side_reach_no_more_volts_than_one_does() -> None:
    """A controller that wants 4 V over the battery's 13: a warm panel's 17 fall short at times."""
    picky = replace(Controller(60.0, 0.97), headroom_v=4.0)
    one, four, easy = (
        simulate(BARE.with_sources("sun", (SunInput("s", "Sun", (replace(ROOF, count=n),), by),)))
        .sources[0]
        .raw_w
        for n, by in ((1, picky), (4, picky), (1, replace(picky, headroom_v=0.0)))
    )
    assert four == pytest.approx(4.0 * one)
    assert one.sum() < easy.sum()


def test_a_hotter_day_gives_less() -> None:
    site = Site(45.0, 8.0, 250.0, "UTC")
    grid = lay_grid(date(2026, 6, 21), 1, UTC, 5)
    cool, hot = (panel_series_w(ROOF, site, grid, np.ones(288), c).sum() for c in (5.0, 35.0))
    assert 1 - hot / cool == pytest.approx(30 * 0.0035, rel=0.15)


def test_no_light_at_night_and_none_in_polar_night() -> None:
    assert raw_w(ROOF)[:36].max() == 0.0
    assert day_wh(ROOF, Site(75.0, 20.0, 0.0, "UTC"), date(2026, 12, 21)) == 0.0


def test_a_midnight_sun_shines_all_day() -> None:
    site = Site(75.0, 20.0, 0.0, "UTC")
    grid = lay_grid(date(2026, 6, 21), 1, UTC, 5)
    assert panel_series_w(ROOF, site, grid, np.ones(288), 5.0).min() > 0.0


def test_a_site_on_the_date_line_keeps_its_sun_in_its_own_day() -> None:
    site = Site(-16.8, 179.9, 0.0, "Pacific/Auckland")
    grid = lay_grid(date(2026, 6, 21), 1, zone_named("Pacific/Auckland"), 5)
    power = panel_series_w(ROOF, site, grid, np.ones(288), 25.0)
    assert 11 < np.average(np.arange(288) / 12, weights=power) < 13
