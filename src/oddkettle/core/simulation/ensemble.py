"""Many scenarios of one case: what share of them lasts, and between which levels they run."""

from __future__ import annotations

import os
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.bank import bank_tables
from oddkettle.core.kernel.constants import LEVEL_STEP, LEVELS, MAX_CLEARNESS, SD_STEP
from oddkettle.core.kernel.ensemble import empty_outputs, initial_state, run_scenarios
from oddkettle.core.kernel.ensemble_tables import (
    EnsembleInputs,
    EnsembleOutputs,
    EnsembleState,
    ScenarioDraws,
)
from oddkettle.core.loads.demand import PRIORITIES, stack_demand
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.given import given_by_day
from oddkettle.core.simulation.kernel_inputs import box_record, stacked
from oddkettle.core.simulation.run import World, build_world
from oddkettle.core.simulation.scenarios import Scenarios, draw_scenarios, longitudes
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.sources.coupling import Coupling
from oddkettle.core.sources.panel import Light, Panel, light_on
from oddkettle.core.sources.solar import SunInput, as_aimed, lit_share, offer_of, panels_out
from oddkettle.core.trip.grid import Grid, Site
from oddkettle.core.values.cache import CACHE, cached_on_disk
from oddkettle.core.values.cancellation import GivenUp, check_given_up
from oddkettle.core.weather.air_temperature import air_curve
from oddkettle.core.weather.clear_sky import Sky, grid_key, trip_sky, trip_sky_at, under_clearness
from oddkettle.core.weather.within_day import (
    QUICK_AT,
    QUICK_SD,
    SLOW_AT,
    SLOW_SD,
    day_shapes,
    solar_days,
)

Floats = NDArray[np.float64]
Singles = NDArray[np.float32]
WORKERS = min(os.cpu_count() or 1, 4)
PORTIONS = 4
"""Portions a worker: scenarios that end early leave the others to whoever is free."""
MAX_AT_A_GO = 1_000_000
"""Steps of one portion: it can be given up after each, every tenth of a second or so."""
POOL = ThreadPoolExecutor(WORKERS, thread_name_prefix="scenarios")
"""Kept, because starting threads costs as much as running forty scenarios does."""


@dataclass(frozen=True)
class Ensemble:
    """The scenarios of a case, run.

    level : (scenarios, steps + 1) state of charge of the box's own bank, 0..1; NaN after a scenario
        was stopped
    dark_h, shed_h : (scenarios, days) hours cut out, and hours with something switched off by level
    """

    case: Case
    grid: Grid
    scenarios: Scenarios
    level: Singles
    dark_h: Floats
    shed_h: Floats

    @property
    def lowest(self) -> Singles:
        """(scenarios,) lowest level of each."""
        return np.asarray(np.nanmin(self.level, axis=1))

    @property
    def lowest_by_day(self) -> Singles:
        """(scenarios, days) lowest level within each local day."""
        # What is not known (NaN, before a trip's rest begins) does not count.
        return np.fmin.reduceat(self.level[:, :-1], self.grid.day_starts[:-1], axis=1)

    @property
    def under(self) -> NDArray[np.bool_]:
        """(scenarios, steps + 1) whether the level is below what the trip must keep.

        That is the reserve, without rounding errors (`Case.fails_below`). What is not known is not
        below it.
        """
        with np.errstate(invalid="ignore"):
            return np.asarray(self.level < self.case.fails_below)

    @property
    def under_by_day(self) -> NDArray[np.bool_]:
        """(scenarios, days) whether it falls below that within each local day."""
        with np.errstate(invalid="ignore"):
            return np.asarray(self.lowest_by_day < self.case.fails_below)

    @property
    def lasts(self) -> NDArray[np.bool_]:
        """(scenarios,) whether it neither falls under the floor nor cuts out."""
        return np.asarray((self.lowest >= self.case.fails_below) & (self.dark_h.sum(axis=1) == 0.0))

    def by_rank(self) -> NDArray[np.int64]:
        """Scenarios from the worst to the best.

        Those that fall under the reserve come first, the deepest of them before all; the others,
        and what ties, by what the trip ends with.
        """
        ends = self.level[:, -1]
        depth = np.minimum(self.lowest, self.case.fails_below)
        return np.lexsort((ends, depth, -self.dark_h.sum(axis=1))).astype(np.int64)


def run_ensemble(
    case: Case, count: int, *, stop_below: float = -1.0, world: World | None = None
) -> Ensemble:
    """Run `count` scenarios of a case, the same ones for every variant of a box.

    `world` is the case's expected forcing, where that is laid already. With `stop_below` (0..1) a
    scenario ends on the day on which it falls under that level. Raises PlanError for a plan that
    cannot be and for a bad count.
    """
    scenarios = draw_scenarios(case, count)
    box, drawn, grid = lay_inputs(case, scenarios, world)
    return Ensemble(case, grid, scenarios, *run_drawn(box, drawn, grid.step_h, stop_below))


def run_drawn(
    box: EnsembleInputs, drawn: ScenarioDraws, step_h: float, stop_below: float = -1.0
) -> tuple[Singles, Floats, Floats]:
    """(level, dark_h, shed_h) of laid scenarios, on all cores."""
    found = empty_outputs(box, len(drawn.soc0))
    steps = box.asked.shape[0]
    run_stretch(box, drawn, initial_state(box, drawn), found, (0, steps), stop_below)
    return found.level, found.dark * step_h, found.shed * step_h


def run_stretch(
    box: EnsembleInputs,
    drawn: ScenarioDraws,
    standing: EnsembleState,
    found: EnsembleOutputs,
    stretch: tuple[int, int],
    stop_below: float = -1.0,
) -> None:
    """Take all scenarios through steps `stretch` (first, past the last), on all cores."""
    count = len(drawn.soc0)
    begin, end = stretch
    # Neighbours in one thread: their states share cache lines, over which two cores would fight.
    portions = max(PORTIONS * WORKERS, count * (end - begin) // MAX_AT_A_GO)
    shares = np.array_split(np.arange(count), min(portions, count))
    underway = [
        POOL.submit(run_scenarios, share, box, drawn, standing, found, begin, end, stop_below)
        for share in shares
    ]
    try:
        for done in underway:
            check_given_up()
            done.result()
    except GivenUp:
        # What runs already writes into arrays that nobody will read; the rest never begins.
        for later in underway:
            later.cancel()
        raise


def lay_inputs(
    case: Case, scenarios: Scenarios, world: World | None = None
) -> tuple[EnsembleInputs, ScenarioDraws, Grid]:
    """Lay a case and its scenarios for the compiled loop."""
    chooses = case.joining.kind == "selector"
    # A selector's choice hangs on the sky: it is made anew in every scenario.
    if chooses:
        world = build_world(replace(case, joining=Coupling()))
    elif world is None:
        world = build_world(case)
    grid = world.grid
    arrays = {array.key: array for array in case.sun}
    rows = [row for row, j in enumerate(world.rows) if world.sources[j].kind == "sun"]
    suns = [world.sources[world.rows[row]] for row in rows]
    selector = np.zeros(0, np.int64)
    if chooses:
        by_order = [
            world.rows.index(j)
            for j, source in enumerate(world.sources)
            if case.joining.takes_turns(source.key)
        ]
        selector = np.array([int(case.joining.rule == "strongest"), *by_order], np.int64)
    table = np.zeros((len(rows), grid.steps, LEVELS + 1))
    for a, sun in enumerate(suns):
        out = panels_out(arrays[sun.key], world.shares)
        table[a, :, :LEVELS] = sun_table(case, arrays[sun.key], grid, out, world.air_c).T
    table[:, :, LEVELS] = table[:, :, LEVELS - 1]
    demand = _demand(case, world)
    curve = air_curve(grid, longitudes(case, grid))
    slow, quick, slot = _shapes(case.site, case.sites, grid)
    box = EnsembleInputs(
        # As labelled: the expected world holds what such a battery holds on average, and here each
        # scenario has its own share of the label.
        *stacked(tuple(bank_tables(bank, grid.step_h) for bank in case.banks)),
        start=world.start,
        joined=world.joined,
        offers=world.offers.offers,
        chargers=world.offers.chargers,
        shed_below=world.demand.shed_below,
        settings=box_record(world.demand, world.offers.shared_a),
        nominal_v=case.bank.nominal_v,
        sun_rows=np.array(rows, np.int64),
        sun_by_amps=np.array([int(sun.pwm) for sun in suns], np.int64),
        sun_rating=np.array([sun.rating_a for sun in suns], np.float64),
        sun_per_k=np.array([_power_per_k(arrays[sun.key]) for sun in suns], np.float64),
        sun_table=table,
        sun_open=np.array([1.0 - sun.barred for sun in suns]).reshape(len(suns), grid.steps),
        lit_steps=np.flatnonzero((table > 0.0).any(axis=(0, 2))),
        selector=selector,
        **demand,
        air_c=world.air_c,
        low_day=curve.low_day,
        high_day=curve.high_day,
        air_part=curve.part,
        sky_day=solar_days(grid, case.site),
        slot=slot,
        day_starts=grid.day_starts.astype(np.int64),
    )
    return box, _luck(case, scenarios, world, slow, quick), grid


def _shapes(
    site: Site, sites: tuple[Site, ...], grid: Grid
) -> tuple[Floats, Floats, NDArray[np.int64]]:
    """The day shapes of a trip, kept: the box does not change them."""
    return CACHE.ask(
        ("day shapes", site, sites, grid_key(grid)),
        lambda: day_shapes(grid, site, trip_sky(sites, grid).ghi),
    )


def _given(case: Case, world: World, count: int) -> Floats:
    """(count, days, sources) what each source gives on a day over what was planned."""
    by_kind = given_by_day(case, world.grid, world.shares, count)
    found = np.ones((count, len(world.grid.day_starts) - 1, len(world.rows)))
    for row, j in enumerate(world.rows):
        block = SOURCE_KINDS[world.sources[j].kind].block
        if block in by_kind:
            found[:, :, row] = by_kind[block]
    return found


def _luck(
    case: Case, scenarios: Scenarios, world: World, slow: Floats, quick: Floats
) -> ScenarioDraws:
    at = np.arange(0.0, MAX_CLEARNESS + SD_STEP, SD_STEP)
    skies = scenarios.skies
    scaled = [draw.key for draw in world.draws if draw.key in scenarios.load]
    load = [scenarios.load[key] for key in scaled]
    return ScenarioDraws(
        clearness=skies.clearness,
        shape=skies.shape,
        low_c=skies.low_c,
        high_c=skies.high_c,
        load=np.ascontiguousarray(np.array(load).reshape(len(scaled), scenarios.count).T),
        sun=scenarios.sun,
        capacity=scenarios.capacity,
        acceptance=scenarios.acceptance,
        soc0=scenarios.start,
        given=_given(case, world, scenarios.count),
        slow=slow,
        quick=quick,
        slow_sd=np.interp(at, SLOW_AT, SLOW_SD),
        quick_sd=np.interp(at, QUICK_AT, QUICK_SD),
    )


def _demand(case: Case, world: World) -> dict[str, Any]:
    """What is asked, split into what drawn scales and what it does not."""
    appliances = {appliance.key: appliance for appliance in case.appliances}
    scaled = [draw for draw in world.draws if draw.key in appliances]
    steady = tuple(draw for draw in world.draws if draw.key not in appliances)
    going = [priority for priority in PRIORITIES if priority in case.shed]
    steps = world.grid.steps
    fridge = np.full(len(scaled), -1, np.int64)
    growth: list[Floats] = []
    for a, draw in enumerate(scaled):
        appliance = appliances[draw.key]
        if appliance.pattern is None:
            continue
        per_kelvin = appliance.pattern.per_kelvin(appliance.duty, world.air_c)
        if per_kelvin is not None:
            fridge[a] = len(growth)
            growth.append(per_kelvin)
    draw_asked = np.array([draw.asked for draw in scaled]).reshape(len(scaled), steps)
    whose, when = np.nonzero(draw_asked)
    return {
        "asked": stack_demand(steady, steps, case.shed, twice=case.load_output is not None)[0],
        "draw_output": np.array([int(draw.on_output) for draw in scaled], np.int64),
        "draw_asked": draw_asked,
        "draw_steps": when,
        "draw_ends": np.searchsorted(whose, np.arange(len(scaled) + 1)),
        "draw_kind": np.array([draw.kind for draw in scaled], np.int64),
        "draw_last": np.array(
            [going.index(d.priority) if d.priority in going else len(going) for d in scaled],
            np.int64,
        ),
        "fridge": fridge,
        "fridge_per_k": np.array(growth).reshape(len(growth), steps),
    }


def sun_table(
    case: Case, array: SunInput, grid: Grid, out: tuple[Floats, ...], air_c: Floats
) -> Floats:
    """(LEVELS, steps) what an array offers by clearness: power [W], or current [A] for PWM.

    Laid at the expected air; the loop corrects power for the air that came.
    """
    lit = np.flatnonzero(trip_sky(case.sites, grid).ghi > 0.0)
    table = np.zeros((LEVELS, grid.steps))
    if not len(lit):
        return table
    lights = tuple(light_table(panel, case.sites, grid, air_c) for panel in array.panels)
    works = tuple(np.tile(share[lit], LEVELS) for share in out)
    clean = np.tile(lit_share(array, grid)[lit], LEVELS)
    offer = offer_of(array, lights, works, clean, case.bank.nominal_v)
    table[:, lit] = (offer.offer_a if array.at_battery else offer.offer_w).reshape(LEVELS, -1)
    return table


def _power_per_k(array: SunInput) -> float:
    """Growth of an array's power a kelvin, as a share; nil where only its current counts."""
    if array.at_battery:
        return 0.0
    watts = sum(panel.power_w * panel.count for panel in array.panels)
    return sum(p.plate.power_per_k * p.power_w * p.count for p in array.panels) / watts


def light_table(panel: Panel, sites: tuple[Site, ...], grid: Grid, air_c: Floats) -> Light:
    """What reaches a panel's cells at every level of clearness; both (LEVELS x lit steps,)."""
    return _light_table(as_aimed(panel), sites, *grid_key(grid), air_c.tobytes())


@cached_on_disk(Light)
def _light_table(
    panel: Panel, sites: tuple[Site, ...], first_s: int, step_s: int, days: bytes, air: bytes
) -> Light:
    sky = trip_sky_at(sites, first_s, step_s, days)
    lit = np.flatnonzero(sky.ghi > 0.0)
    tiled = Sky(**{name: np.tile(getattr(sky, name)[lit], LEVELS) for name in vars(sky)})
    clearness = np.repeat(LEVEL_STEP * np.arange(LEVELS), len(lit))
    starts = np.searchsorted(lit, np.frombuffer(days, np.int64))
    day_starts = (starts[None, :] + len(lit) * np.arange(LEVELS)[:, None]).ravel()
    air_c = np.tile(np.frombuffer(air, np.float64)[lit], LEVELS)
    return light_on(panel, under_clearness(tiled, clearness), air_c, day_starts)
