"""One way that a trip may go, and many: the sky, the air, and how far the guesses are off."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.label_share import level_from_shown
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.given import given_by_day
from oddkettle.core.trip.blocks import BlockKind
from oddkettle.core.trip.grid import Grid, shares_of_steps
from oddkettle.core.weather.air_temperature import air_curve, air_temperature
from oddkettle.core.weather.clear_sky import trip_sky
from oddkettle.core.weather.weather_generator import (
    WORN,
    WORN_SHARE,
    Prospect,
    Skies,
    draw_skies,
    normals,
    uniforms,
)
from oddkettle.core.weather.within_day import day_shapes, solar_days, wavering

Floats = NDArray[np.float64]

MEASURED_SPREAD = 0.05
"""How far off a measured power may be, as a share [judgement]."""
LIE_SHARE = 0.1
"""How far a folding panel's yield is off by how it is put out, as a share [judgement]."""
MIN_SHARE, MAX_SHARE = 0.6, 1.1
"""Bounds of what a battery holds of its label."""


@dataclass(frozen=True)
class Scenario:
    """One way the trip may go.

    clearness, air_c : (steps,) clearness and air temperature [C]
    load : what each appliance draws over what was typed, by its key; 1 when absent
    sun, capacity, acceptance : what the panels give, the battery holds, and how fast it takes
        absorption, over what was typed
    start : state of charge at the first midnight, 0..1
    given : (steps,) what blocks of a kind give over what was planned; 1 where absent
    """

    clearness: Floats
    air_c: Floats
    load: dict[str, float]
    sun: float
    capacity: float
    start: float
    acceptance: float = 1.0
    given: dict[BlockKind, Floats] = field(default_factory=dict)


@dataclass(frozen=True)
class Scenarios:
    """`n` ways the trip may go. `load` by the appliance's key; all arrays (n,)."""

    skies: Skies
    load: dict[str, Floats]
    sun: Floats
    capacity: Floats
    acceptance: Floats
    start: Floats

    @property
    def count(self) -> int:
        """How many there are."""
        return len(self.start)


def longitudes(case: Case, grid: Grid) -> Floats:
    """(steps,) longitude of each step's site [degrees east]."""
    if not case.day_sites:
        return np.full(grid.steps, case.site.longitude)
    return np.asarray(grid.by_step(np.array([site.longitude for site in case.day_sites])))


def expected_scenario(case: Case, grid: Grid) -> Scenario:
    """Every guess taken at its word, and the same clearness from dawn to dusk."""
    return Scenario(
        clearness=np.asarray(grid.by_step(np.asarray(case.clearness, np.float64))),
        air_c=air_temperature(grid, longitudes(case, grid), case.low_c, case.high_c),
        load={},
        sun=1.0,
        capacity=case.doubt.capacity_mean,
        start=case.begins_at,
    )


def draw_scenarios(case: Case, count: int) -> Scenarios:
    """`count` scenarios of a case. Raises PlanError for a bad count.

    The same seed gives the same skies to every variant of a box, and every appliance the same
    luck whichever others there are.
    """
    doubt = case.doubt
    skies = draw_skies(case.first_day, case.site.latitude, prospects_of(case), doubt, count)
    load = {}
    for appliance in case.appliances:
        sigma = np.log1p(max(appliance.spread, MEASURED_SPREAD))
        load[appliance.key] = np.exp(sigma * normals(doubt.seed, f"load {appliance.key}", count))
    capacity = doubt.capacity_mean + doubt.capacity * normals(doubt.seed, "capacity", count)
    capacity = np.clip(capacity, MIN_SHARE, MAX_SHARE)
    if doubt.worn:
        low, high = WORN
        is_worn = uniforms(doubt.seed, "worn", count) < WORN_SHARE
        holds = low + (high - low) * uniforms(doubt.seed, "worn to", count)
        capacity = np.where(is_worn, holds, capacity)
    shown = case.soc0 - doubt.start * normals(doubt.seed, "start", count)
    return Scenarios(
        skies=skies,
        load=load,
        sun=np.exp(panel_sd(case) * normals(doubt.seed, "panel", count)),
        capacity=capacity,
        acceptance=np.exp(
            case.bank.chemistry.acceptance_sd * normals(doubt.seed, "acceptance", count)
        ),
        start=np.clip(level_from_shown(shown, capacity * case.bank.share), 0.0, 1.0),
    )


def panel_sd(case: Case) -> float:
    """How far what the panels give may be off, as a share: labels and dirt, and how they lie.

    A folding panel is put out by hand, here in half a shadow and there turned too late; one that is
    fixed lies as it was typed.
    """
    watts = [(panel.power_w * panel.count, panel.portable) for a in case.sun for panel in a.panels]
    folding = sum(w for w, portable in watts if portable) / max(sum(w for w, _ in watts), 1e-9)
    return float(np.hypot(case.doubt.panel, LIE_SHARE * folding))


def prospects_of(case: Case) -> tuple[Prospect, ...]:
    """What is known of each day; where nothing was told, its expected clearness is its mean."""
    if case.prospects:
        return case.prospects
    lows, highs = (np.broadcast_to(np.asarray(c), case.days) for c in (case.low_c, case.high_c))
    return tuple(
        Prospect(k, float(low), float(high))
        for k, low, high in zip(case.clearness, lows, highs, strict=True)
    )


def scenario_of(case: Case, grid: Grid, scenarios: Scenarios, i: int) -> Scenario:
    """Scenario number `i`, laid on a grid."""
    skies = scenarios.skies
    ghi = trip_sky(case.sites, grid).ghi
    parts = day_shapes(grid, case.site, ghi)
    day = solar_days(grid, case.site)
    shares = shares_of_steps(grid, case.blocks)
    given = given_by_day(case, grid, shares, scenarios.count)
    return Scenario(
        clearness=wavering(skies.clearness[i], skies.shape[i], day, parts),
        air_c=air_curve(grid, longitudes(case, grid)).between(skies.low_c[i], skies.high_c[i]),
        load={key: float(factor[i]) for key, factor in scenarios.load.items()},
        sun=float(scenarios.sun[i]),
        capacity=float(scenarios.capacity[i]),
        acceptance=float(scenarios.acceptance[i]),
        start=float(scenarios.start[i]),
        given={kind: np.asarray(grid.by_step(share[i])) for kind, share in given.items()},
    )
