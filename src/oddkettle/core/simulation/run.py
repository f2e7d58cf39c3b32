"""One run: a case becomes forcing, goes through the loop, and comes out as series."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.bank import BankTables, bank_tables
from oddkettle.core.battery.label_share import level_from_shown
from oddkettle.core.kernel.records import BANK_STATE, Records
from oddkettle.core.loads.demand import (
    DrawSeries,
    Setting,
    draw_series,
    hours_share,
    stack_demand,
    steady_draw,
)
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.forcing import lay_sources, loop_sources
from oddkettle.core.simulation.kernel_inputs import Demand, Sources, Track, drive, no_sources
from oddkettle.core.simulation.scenarios import Scenario, expected_scenario
from oddkettle.core.sources.source_series import SourceSeries
from oddkettle.core.trip.blocks import BlockKind
from oddkettle.core.trip.grid import Grid, lay_grid, shares_of_steps, zone_named

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

UNIT_STANDBY = "unit-standby"
"""The key of what a ready-made unit draws for itself."""


@dataclass(frozen=True)
class World:
    """The forcing of a case before the loop: everything but the battery's own behaviour."""

    grid: Grid
    tables: tuple[BankTables, ...]
    sources: tuple[SourceSeries, ...]
    offers: Sources
    rows: list[int]
    draws: tuple[DrawSeries, ...]
    demand: Demand
    air_c: Floats
    joined: Ints
    start: Records
    shares: dict[BlockKind, Floats]


@dataclass(frozen=True)
class Run:
    """A finished run: its forcing, and the track through it.

    taken_a, stage : (sources, steps) in the order of `sources`
    """

    case: Case
    world: World
    track: Track
    taken_a: Floats
    stage: Floats

    @property
    def grid(self) -> Grid:
        """The time grid."""
        return self.world.grid

    @property
    def sources(self) -> tuple[SourceSeries, ...]:
        """Sources in the order in which they are let in."""
        return self.world.sources

    @property
    def draws(self) -> tuple[DrawSeries, ...]:
        """What hangs on the bus."""
        return self.world.draws

    @property
    def level(self) -> Floats:
        """(steps + 1,) state of charge of the box's own bank, 0..1."""
        return self.track.soc[:, 0]


def trip_grid(case: Case) -> Grid:
    """The time grid of a case. Raises PlanError for a zone that is none."""
    return lay_grid(case.first_day, case.days, zone_named(case.site.timezone), case.step_min)


def build_world(case: Case, scenario: Scenario | None = None) -> World:
    """Lay everything that does not depend on the battery. Raises PlanError.

    Without a `scenario` the expected one.
    """
    grid = trip_grid(case)
    shares = shares_of_steps(grid, case.blocks)
    scenario = expected_scenario(case, grid) if scenario is None else scenario
    air = scenario.air_c
    quiet = np.maximum(
        shares["quiet"],
        hours_share(case.quiet, case.step_min)[grid.clock_min // case.step_min],
    )
    output = case.load_output
    on_output = () if output is None else output.appliances
    around = Setting(
        shares["drive"], quiet, air, case.day_kinds, case.overrides, case.away, on_output
    )
    draws = _draws(case, grid, around)
    draws = tuple(draw.times(scenario.load.get(draw.key, 1.0)) for draw in draws)
    sources = lay_sources(case, grid, shares, quiet, scenario, draws)
    offers, rows = loop_sources(case, sources, grid.step_h)
    if not sources:
        offers = no_sources(grid.steps)
    asked, shed_below = stack_demand(draws, grid.steps, case.shed, twice=output is not None)
    heater = (
        (0.0, 4.0, 8.0)
        if case.heater is None
        else (case.heater.power_w, case.heater.on_below_c, case.heater.off_above_c)
    )
    banks = case.banks
    start = np.zeros(len(banks), BANK_STATE)
    start["soc"][0] = scenario.start
    if case.second:
        shown = level_from_shown(case.second.soc0, case.second.bank.share * scenario.capacity)
        start["soc"][1] = max(float(shown), 0.0)
    start["temperature_c"] = [air[0] + bank.housing.offset_k for bank in banks]
    return World(
        grid=grid,
        tables=tuple(
            bank_tables(
                replace(bank, share=bank.share * scenario.capacity, acceptance=scenario.acceptance),
                grid.step_h,
            )
            for bank in banks
        ),
        sources=sources,
        offers=offers,
        rows=rows,
        draws=draws,
        demand=Demand(
            asked, shed_below, heater, (0.0, 0.0) if output is None else (output.off_v, output.on_v)
        ),
        air_c=air,
        joined=_joined(case, shares),
        start=start,
        shares=shares,
    )


def _draws(case: Case, grid: Grid, around: Setting) -> tuple[DrawSeries, ...]:
    unit = case.unit
    draws = draw_series(
        case.appliances,
        case.inverter,
        grid,
        around,
        case.bank.system_v,
        case.converter if unit is None else None,
        1.0 if unit is None else unit.dc_efficiency,
        1.0 if unit is None else unit.usable,
    )
    always = np.ones(grid.steps)
    if unit is not None and unit.standby_w > 0.0:
        on = always
        if unit.off_unused:
            # A draw's asked power is nought where nothing of it runs.
            on = 1.0 * np.any([draw.asked_w > 0.0 for draw in draws] or [always < 0.0], axis=0)
        draws += (steady_draw(UNIT_STANDBY, "The unit itself", on * unit.standby_w),)
    for array in case.sun:
        if array.controller.own_w > 0.0:
            name = "Solar controller" if len(case.sun) == 1 else f"{array.name}, controller"
            own_w = always * array.controller.own_w
            draws += (steady_draw(f"{array.key}-own", name, own_w),)
    return draws


def _joined(case: Case, shares: dict[BlockKind, Floats]) -> Ints:
    if case.second is None or case.second.always:
        return np.full(len(shares["drive"]), 1 if case.second is None else 2, np.int64)
    return np.where(shares["second_bank"] >= 0.5, 2, 1).astype(np.int64)


def run_world(case: Case, world: World) -> Run:
    """Send a world through the loop."""
    track = drive(world.tables, world.offers, world.demand, world.start, world.air_c, world.joined)
    count = len(world.rows)
    taken, stage = np.empty((count, world.grid.steps)), np.empty((count, world.grid.steps))
    for row, j in enumerate(world.rows):
        taken[j], stage[j] = track.taken_a[:, row], track.stage[:, row]
    return Run(case, world, track, taken, stage)


def simulate(case: Case, scenario: Scenario | None = None) -> Run:
    """Run one case from start to end, as expected or in one scenario.

    Raises PlanError for a plan that cannot be.
    """
    return run_world(case, build_world(case, scenario))
