"""The search over sizes, with what each box costs and weighs."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.construction.parts import prices
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.planning.sizing import (
    FIRST_LOOK,
    Design,
    SizeSearch,
    certainties,
    front,
    lay_search,
    own_design,
    worth_finishing,
)
from oddkettle.core.simulation.case import Case
from oddkettle.core.sources.solar import controller_a
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.plan_errors import Complaint, PlanRefused, from_fault
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.judgements import Edit, Remedy
from oddkettle.results.run import Range
from oddkettle.usecases.improve.additions import (
    appended,
    dcdc_charger,
    mains_charger,
    roof_array,
)
from oddkettle.usecases.simulate.edits import edit
from oddkettle.usecases.simulate.remedies import with_edits

FUTURES = 100
BATCH = 168
PANEL_TIMES = (0.0, 0.35, 0.6, 0.8, 1.0, 1.25, 1.5, 1.8, 2.2, 2.7, 3.3, 4.0)
BATTERY_TIMES = (0.5, 0.65, 0.8, 1.0, 1.2, 1.45, 1.7, 2.0, 2.4, 2.9, 3.5, 4.2)
DCDC_A = (0.0, 10.0, 20.0, 30.0, 40.0, 50.0, 60.0)
MAINS_TIMES = (1.0, 2.0)
NEW_PANEL_W = (0.0, 60.0, 100.0, 160.0, 200.0, 300.0, 400.0)
NEW_MAINS_A = (0.0, 10.0)
MAX_STEPS = 120_000_000
"""More simulated steps than this are not begun: a long trip gets fewer designs."""


class Sized(LazyModel):
    """One box of the search."""

    panel_w: float
    battery_ah: float
    dcdc_a: float
    mains_a: float
    euro: float
    """Typical."""
    euro_between: Range
    """What one finds in shops."""
    kg: float
    lasts_percent: float
    scenarios: int
    """Few for those that were soon behind a cheaper, lighter and surer one."""
    front: bool = False


class SizesStart(LazyModel):
    """What comes first: how many designs follow, and the plan's own place."""

    kind: Literal["start"] = "start"
    designs: int
    scenarios: int
    step_min: int
    own: Sized


class SizesPart(LazyModel):
    """Designs as they are found; those of a later part replace the same sizes before."""

    kind: Literal["part"] = "part"
    done: float
    """Share of the work, 0..1."""
    designs: list[Sized]


class SizesEnd(LazyModel):
    """The front: no other design is as cheap, as light and as sure."""

    kind: Literal["end"] = "end"
    front: list[Sized]


def search_sizes(plan: Plan) -> Iterator[SizesStart | SizesPart | SizesEnd]:
    """Look at every mix of sizes; yields them as they are found. Raises PlanRefused."""
    if plan.box.unit is not None:
        raise PlanRefused([_ready_made()])
    try:
        case = case_from_plan(plan)
        search = lay_search(case_from_plan(with_every_source(plan)), FUTURES)
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from None
    now = own_design(case)
    designs = _grid(search, now)
    own = certainties(search, [now], 0, FUTURES)[0]
    yield SizesStart(
        designs=len(designs),
        scenarios=FUTURES,
        step_min=search.case.step_min,
        own=_sized(case, now, own),
    )
    looked: list[NDArray[np.bool_]] = []
    for at in range(0, len(designs), BATCH):
        part = designs[at : at + BATCH]
        seen = certainties(search, part, 0, FIRST_LOOK)
        looked += seen
        yield SizesPart(
            done=0.5 * len(looked) / len(designs),
            designs=[_sized(case, d, s) for d, s in zip(part, seen, strict=True)],
        )
    costs = np.array([_cost(case, design) for design in designs])
    hopeful = np.flatnonzero(worth_finishing(costs[:, 0], costs[:, 1], np.array(looked)))
    finished: list[int] = []
    for at in range(0, len(hopeful), BATCH):
        places = hopeful[at : at + BATCH].tolist()
        rest = certainties(search, [designs[n] for n in places], FIRST_LOOK, FUTURES)
        for n, more in zip(places, rest, strict=True):
            looked[n] = np.concatenate([looked[n], more])
        finished += places
        yield SizesPart(
            done=0.5 + 0.5 * len(finished) / len(hopeful),
            designs=[_sized(case, designs[n], looked[n]) for n in places],
        )
    shares = np.array([looked[n].mean() for n in finished])
    best = front(costs[finished, 0], costs[finished, 1], shares)
    yield SizesEnd(
        front=[
            _sized(case, designs[n], looked[n], front=True)
            for n, on in zip(finished, best, strict=True)
            if on
        ]
    )


def _grid(search: SizeSearch, own: Design) -> list[Design]:
    """Every mix; of a kind that the box has not got, usual sizes, where it could charge at all."""
    laid = search.own
    panels = [_round(own.panel_w * t, 5) for t in PANEL_TIMES]
    if own.panel_w == 0.0:
        panels = list(NEW_PANEL_W) if laid.panel_w > 0.0 else [0.0]
    batteries = [_round(own.battery_ah * t, 5 if own.battery_ah > 25 else 1) for t in BATTERY_TIMES]
    dcdc = [float(a) for a in DCDC_A] if laid.dcdc_a > 0.0 else [0.0]
    mains = [own.mains_a * t for t in MAINS_TIMES]
    if own.mains_a == 0.0:
        mains = list(NEW_MAINS_A) if laid.mains_a > 0.0 else [0.0]
    per_design = search.grid.steps * FUTURES
    # Every second size, until the work is bounded.
    while len(panels) * len(batteries) * len(dcdc) * len(mains) * per_design > MAX_STEPS:
        if len(batteries) <= 3:
            break
        panels, batteries, dcdc = panels[::2], batteries[1::2], dcdc[::2]
    mixes = itertools.product(panels, batteries, dcdc, mains)
    return list(dict.fromkeys(Design(*sizes) for sizes in mixes))


def _round(value: float, to: float) -> float:
    return max(round(value / to) * to, 0.0)


def _cost(case: Case, design: Design) -> tuple[float, float]:
    """Typical price [euro] and mass [kg] of what the search varies."""
    volts = case.bank.nominal_v
    bank_wh = design.battery_ah * volts
    euro = case.bank.chemistry.euro(bank_wh)
    kg = case.bank.chemistry.kg_per_ah * design.battery_ah * case.bank.volts_scale
    amps = controller_a(design.panel_w, volts)
    for tag, size in (
        (prices.PANEL, design.panel_w),
        (prices.TRACKING, amps if design.panel_w > 0.0 else 0.0),
        (prices.DCDC, design.dcdc_a),
        (prices.MAINS, design.mains_a),
    ):
        if size > 0.0:
            euro, kg = euro + tag.euro(size), kg + tag.kg(size)
    return euro, kg


def _sized(case: Case, design: Design, lasts: NDArray[np.bool_], *, front: bool = False) -> Sized:
    euro, kg = _cost(case, design)
    return Sized(
        **vars(design),
        euro=round(euro),
        euro_between=Range.of(prices.between(euro)),
        kg=round(kg, 1),
        lasts_percent=round(100 * float(lasts.mean()), 1),
        scenarios=len(lasts),
        front=front,
    )


def size_edits(plan: Plan, design: Design) -> Remedy:
    """What makes a plan's box that of a design; a kind of source that it lacks is put in."""
    lacked = _lacking(plan, design)
    plan = with_edits(plan, lacked)
    case = case_from_plan(plan)
    edits: list[Edit] = [
        *lacked,
        edit("box", "battery", "capacity_ah", to=design.battery_ah / plan.box.battery.parallel),
    ]
    now_w = sum(p.power_w * p.count for s in case.sun for p in s.panels)
    for n, array in enumerate(plan.box.sun):
        if not array.on or now_w <= 0.0:
            continue
        if design.panel_w == 0.0:
            edits.append(edit("box", "sun", n, "on", to=False))
            continue
        scale = design.panel_w / now_w
        watts = 0.0
        for p, panel in enumerate(array.panels):
            if panel.on:
                watts += panel.power_w * scale * panel.count
                power_w = round(panel.power_w * scale, 1)
                edits.append(edit("box", "sun", n, "panels", p, "power_w", to=power_w))
                edits.append(edit("box", "sun", n, "panels", p, "label", to=None))
        amps = round(controller_a(watts, case.bank.nominal_v), 1)
        edits.append(edit("box", "sun", n, "controller", "limit_a", to=amps))
    edits += _charger_edits(plan, "vehicle", design.dcdc_a)
    edits += _charger_edits(plan, "mains", design.mains_a)
    return Remedy(text="Make the box so", edits=edits)


def with_every_source(plan: Plan) -> Plan:
    """The plan with a source of each kind whose size is searched and which could charge on it."""
    return with_edits(plan, _lacking(plan, Design(1.0, 1.0, 1.0, 1.0)))


def _lacking(plan: Plan, wanted: Design) -> list[Edit]:
    """What adds the kinds of source that are wanted and not there.

    Panels charge anywhere; a DC-DC charger where there are drives, a mains one where there are
    hook-ups. A relay is no size: a box that has one is left its own way of charging on drives.
    """
    blocks = {block.kind for block in plan.trip.blocks}
    edits = []
    if wanted.panel_w > 0.0 and not _there(plan, "sun"):
        edits.append(appended(plan, "sun", roof_array(plan)))
    if wanted.dcdc_a > 0.0 and "drive" in blocks and not _there(plan, "vehicle"):
        edits.append(appended(plan, "vehicle", dcdc_charger(plan)))
    hooked = "hookup" in blocks or plan.trip.kind == "standby"
    if wanted.mains_a > 0.0 and hooked and not _there(plan, "mains"):
        edits.append(appended(plan, "mains", mains_charger(plan)))
    return edits


def _there(plan: Plan, group: Literal["sun", "vehicle", "mains"]) -> bool:
    if group == "sun":
        return any(array.on and any(p.on for p in array.panels) for array in plan.box.sun)
    return any(source.on for source in getattr(plan.box, group))


def _charger_edits(plan: Plan, group: Literal["vehicle", "mains"], amps: float) -> list[Edit]:
    sources = [(n, s) for n, s in enumerate(getattr(plan.box, group)) if s.on]
    now = sum(source.limit_a for _, source in sources)
    if now <= 0.0:
        return []
    if amps == 0.0:
        return [edit("box", group, n, "on", to=False) for n, _ in sources]
    return [
        edit("box", group, n, "limit_a", to=round(source.limit_a * amps / now, 1))
        for n, source in sources
    ]


def _ready_made() -> Complaint:
    return Complaint(
        where="box.unit",
        value="a ready-made unit",
        limit="a box of parts",
        remedy="Compare units side by side as variants instead.",
        text="A ready-made unit comes in one size: there is nothing to search over.",
    )
