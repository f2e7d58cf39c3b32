"""A search over sizes: many boxes for one use and trip, each over the same scenarios.

The forcing is laid once, at unit size, and scaled: a panel's table by its watts, a charger's
current by its rating. So that nothing but size differs, a larger panel gets a controller that
passes it, and a battery its chemistry's own limits at its size. Steps are an hour: the lowest
levels of the sample trips then lie within 2 points of those at 5 minutes (`search/scenarios.py`
prints it).
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.bank import BankTables, bank_tables
from oddkettle.core.kernel.ensemble import empty_outputs, initial_state, run_scenarios
from oddkettle.core.kernel.ensemble_tables import EnsembleInputs, ScenarioDraws
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import POOL, lay_inputs
from oddkettle.core.simulation.run import build_world
from oddkettle.core.simulation.scenarios import Scenarios, draw_scenarios
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.sources.solar import controller_a
from oddkettle.core.sources.source_series import SourceKind
from oddkettle.core.trip.grid import Grid

Floats = NDArray[np.float64]
STEP_MIN = 60
FIRST_LOOK = 24
"""Scenarios that every design is tried in; most are then behind a cheaper, lighter, surer one."""
CLEARLY_LESS = 0.9


@dataclass(frozen=True)
class Design:
    """Sizes of one box: panel [W], battery [Ah of the bank], DC-DC and mains [A]; 0 is none."""

    panel_w: float
    battery_ah: float
    dcdc_a: float
    mains_a: float


@dataclass(frozen=True)
class SizeSearch:
    """A case laid at its own size, ready to be scaled."""

    case: Case
    grid: Grid
    scenarios: Scenarios
    box: EnsembleInputs
    drawn: ScenarioDraws
    own: Design
    kinds: tuple[str, ...]
    tables: dict[float, BankTables] = field(default_factory=dict)


def own_design(case: Case) -> Design:
    """The sizes of the box as it is."""
    return Design(
        panel_w=sum(p.power_w * p.count for array in case.sun for p in array.panels),
        battery_ah=case.bank.capacity_ah,
        dcdc_a=sum(getattr(v, "limit_a", 0.0) for v in case.vehicle),
        mains_a=sum(m.limit_a for m in case.mains),
    )


def lay_search(case: Case, count: int) -> SizeSearch:
    """Lay a case for the search. Raises PlanError."""
    case = replace(case, step_min=STEP_MIN)
    scenarios = draw_scenarios(case, count)
    box, drawn, grid = lay_inputs(case, scenarios)
    world = build_world(case)
    kinds = tuple(world.sources[j].kind for j in world.rows)
    return SizeSearch(case, grid, scenarios, box, drawn, own_design(case), kinds)


def sized(search: SizeSearch, design: Design) -> EnsembleInputs:
    """The laid box at other sizes."""
    box, own, case = search.box, search.own, search.case
    offers = box.offers.copy()
    for row, kind in enumerate(search.kinds):
        offers["limit_a"][:, row] *= _scale(SOURCE_KINDS[kind], design, own)
    passes_a = np.full_like(box.sun_rating, controller_a(design.panel_w, case.bank.nominal_v))
    tables = _tables(search, design.battery_ah)
    curves, by_temperature, banks = box.curves.copy(), box.by_temperature.copy(), box.banks.copy()
    curves[0], by_temperature[0], banks[0] = tables.curves, tables.by_temperature, tables.bank
    chargers = box.chargers.copy()
    chargers["tail_a"] *= design.battery_ah / own.battery_ah
    return box._replace(
        curves=curves,
        by_temperature=by_temperature,
        banks=banks,
        chargers=chargers,
        offers=offers,
        sun_rating=passes_a,
        sun_table=box.sun_table * design.panel_w / max(own.panel_w, 1e-9),
    )


def _scale(kind: SourceKind, design: Design, own: Design) -> float:
    """How much larger a kind's sources are than the box's own; 1 where no size is searched."""
    if kind.design is None:
        return 1.0
    return float(getattr(design, kind.design) / max(getattr(own, kind.design), 1e-9))


def _tables(search: SizeSearch, battery_ah: float) -> BankTables:
    """The bank at another size; the same few sizes come again and again."""
    if battery_ah not in search.tables:
        bank = search.case.bank
        of_size = replace(bank, battery_ah=battery_ah / bank.parallel)
        search.tables[battery_ah] = bank_tables(of_size, search.grid.step_h)
    return search.tables[battery_ah]


def certainty(search: SizeSearch, design: Design, first: int, last: int) -> NDArray[np.bool_]:
    """(last - first,) whether the design lasts in each of these scenarios."""
    floor = search.case.fails_below
    box = sized(search, design)
    found = empty_outputs(box, last)
    standing = initial_state(box, search.drawn)
    which = np.arange(first, last)
    run_scenarios(which, box, search.drawn, standing, found, 0, search.grid.steps, floor)
    low = np.nanmin(found.level[first:last], axis=1)
    return np.asarray((low >= floor) & (found.dark[first:last].sum(axis=1) == 0.0))


def certainties(
    search: SizeSearch, designs: list[Design], first: int, last: int
) -> list[NDArray[np.bool_]]:
    """`certainty` of many designs, on all cores."""
    return list(POOL.map(lambda design: certainty(search, design, first, last), designs))


def front(euro: Floats, kg: Floats, lasts: Floats) -> NDArray[np.bool_]:
    """(n,) which designs no other beats: none is as cheap, as light and as sure, and better in one.

    O(n log n) sort, then each against the front so far.
    """
    order = np.lexsort((-lasts, kg, euro))
    kept: list[int] = []
    on = np.zeros(len(euro), bool)
    for n in order:
        beaten = any(
            kg[m] <= kg[n]
            and lasts[m] >= lasts[n]
            and (euro[m] < euro[n] or kg[m] < kg[n] or lasts[m] > lasts[n])
            for m in kept
        )
        if not beaten:
            kept.append(int(n))
            on[n] = True
    return on


def worth_finishing(euro: Floats, kg: Floats, passes: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """(n,) which designs may yet be on the front, given the first few scenarios of each.

    passes : (n, looks) whether each lasts in each of them

    One is left when another that is cheaper and lighter by a tenth lasts wherever it lasts. On
    the demo plan that leaves a fifth of 2,016 designs, and 79 of the 81 on the front of all; the
    two lost last in 2 and 3 scenarios of 100.
    """
    hopeful = np.ones(len(euro), bool)
    for n in range(len(euro)):
        rivals = np.flatnonzero((euro <= CLEARLY_LESS * euro[n]) & (kg <= CLEARLY_LESS * kg[n]))
        hopeful[n] = not np.any(np.all(passes[rivals] >= passes[n], axis=1))
    return hopeful
