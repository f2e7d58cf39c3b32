"""Two schools, or five: what each choice would cost this very plan, by running it."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from oddkettle.core.battery.ageing import age
from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.construction.parts import prices
from oddkettle.core.simulation.run import Run
from oddkettle.core.simulation.run_metrics import lowest
from oddkettle.core.units.conversion import DAYS_PER_YEAR
from oddkettle.plan import Plan
from oddkettle.plan.box import OF_CHEMISTRY
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.quantities import LazyModel
from oddkettle.plan.sources.sun import SunModel
from oddkettle.plan.sources.vehicle import VehicleModel
from oddkettle.results.judgements import Edit, Remedy
from oddkettle.results.run import Amount, Range
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_cache import run_plan

MAX_YEARS = 30.0


class Option(LazyModel):
    """One choice, with what this plan becomes under it."""

    text: str
    chosen: bool
    refused: str | None
    """Why the plan cannot be run so; then there are no figures."""
    lowest_percent: float | None = None
    usable: Amount | None = None
    taken_a_day: Amount | None = None
    euro: Range | None = None
    """Of the parts that the choice is about."""
    kg: float | None = None
    years: Range | None = None
    """Between how many, until the bank has 80 % left, were every day like this trip's."""
    try_it: Remedy | None = None


class DesignAlternative(LazyModel):
    """A question on which practice is divided."""

    key: str
    part: str
    asks: str
    text: str
    options: list[Option]


def compare_schools(plan: Plan) -> list[DesignAlternative]:
    """Every question that this plan raises. Raises PlanRefused when it cannot be run itself."""
    run_plan(plan)
    return [
        _chemistry(plan),
        *_controllers(plan),
        *_vehicle(plan),
        *_joining(plan),
        *_fridge(plan),
    ]


Cost = Callable[[Run], tuple[float, float]]
"""Euros and kilograms of the parts that a choice is about."""


def _priced(tag: prices.Tag, size: float) -> Cost:
    return lambda _: (tag.euro(size), tag.kg(size))


def _at(pair: tuple[float, float]) -> Cost:
    return lambda _: pair


def _option(
    plan: Plan,
    text: str,
    edits: list[Edit],
    chosen: bool,
    cost: Cost,
) -> Option:
    """Run the plan under one choice."""
    try:
        run = run_plan(with_edits(plan, edits))
    except PlanRefused as refused:
        return Option(text=text, chosen=chosen, refused=refused.complaints[0].text)
    bank, days = run.case.bank, run.case.days
    aged = age(bank.chemistry, run.level, run.grid.step_h)
    unit = run.case.unit
    usable_share = min(1.0 - run.case.floor, bank.chemistry.usable_share)
    if unit is not None:
        usable_share = (1.0 - run.case.floor) * unit.usable
    taken = run.taken_a.sum(axis=0)
    euro, kg = cost(run)
    return Option(
        text=text,
        chosen=chosen,
        refused=None,
        lowest_percent=100 * max(lowest(run).soc, 0.0),
        usable=Amount(ah=bank.capacity_ah * usable_share, wh=bank.nominal_wh * usable_share),
        taken_a_day=Amount(
            ah=float(taken.sum()) * run.grid.step_h / days,
            wh=float((taken * run.track.bus_v).sum()) * run.grid.step_h / days,
        ),
        euro=Range.of(prices.between(euro)) if euro > 0.0 else None,
        kg=kg,
        years=_years(bank.chemistry.life.span(aged.life), days),
        try_it=None if chosen else Remedy(text=f"Try {text}", edits=edits),
    )


def _years(shares: tuple[float, float], days: int) -> Range:
    """Between how many years a bank lasts of which so many days take so much of its life."""
    least, most = shares
    years = days / DAYS_PER_YEAR
    low, high = (min(years / max(share, 1e-9), MAX_YEARS) for share in (most, least))
    return Range(low=low, high=high)


def _bank_cost(run: Run) -> tuple[float, float]:
    bank = run.case.bank
    return bank.chemistry.euro(bank.nominal_wh), bank.mass_kg


def _set(path: list[str | int], value: object) -> Edit:
    return Edit(path=path, value=value)


def _chemistry(plan: Plan) -> DesignAlternative:
    battery = plan.box.battery

    def edits(key: str) -> list[Edit]:
        where: list[str | int] = ["box", "battery"]
        fresh: list[tuple[str, str | None]] = [("chemistry", key)]
        if key != battery.chemistry:
            fresh += [(name, None) for name in OF_CHEMISTRY]
        return [_set([*where, name], value) for name, value in fresh]

    return DesignAlternative(
        key="chemistry",
        part="battery",
        asks="Lead or lithium?",
        text="The same amp-hours on the label, charged at each chemistry's own voltages.",
        options=[
            _option(plan, c.name, edits(c.key), c.key == battery.chemistry, _bank_cost)
            for c in CHEMISTRIES.values()
        ],
    )


def _controllers(plan: Plan) -> Iterator[DesignAlternative]:
    for place, array in enumerate(plan.box.sun):
        if not array.on or array.controller.kind == "none":
            continue
        limit = array.controller.limit_a
        yield DesignAlternative(
            key=f"controller:{array.id}",
            part=f"sun:{array.id}",
            asks="Tracking or PWM?",
            text="A tracking controller turns the panel's spare volts into amps.",
            options=[
                _option(
                    plan,
                    text,
                    [_set(["box", "sun", place, "controller", "kind"], kind)],
                    array.controller.kind == kind,
                    _priced(tag, limit),
                )
                for kind, text, tag in (
                    ("tracking", "a tracking controller", prices.TRACKING),
                    ("pwm", "a PWM controller", prices.PWM),
                )
            ],
        )


def _vehicle(plan: Plan) -> Iterator[DesignAlternative]:
    for place, source in enumerate(plan.box.vehicle):
        if not source.on or source.kind == "socket":
            continue
        limit = source.limit_a
        yield DesignAlternative(
            key=f"vehicle:{source.id}",
            part=f"vehicle:{source.id}",
            asks="Relay or DC-DC charger?",
            text="A relay joins the batteries by voltage; a DC-DC charger lifts and limits.",
            options=[
                _option(
                    plan,
                    text,
                    [_set(["box", "vehicle", place, "kind"], kind)],
                    source.kind == kind,
                    _priced(tag, limit),
                )
                for kind, text, tag in (
                    ("dcdc", "a DC-DC charger", prices.DCDC),
                    ("relay", "a voltage-sensitive relay", prices.RELAY),
                )
            ],
        )


def _joining(plan: Plan) -> Iterator[DesignAlternative]:
    suns = [s for s in plan.box.sun if s.on]
    vehicles = [v for v in plan.box.vehicle if v.on]
    if not suns or not vehicles:
        return
    joining = plan.box.joining
    members = joining.members or [suns[0].id, vehicles[0].id]
    most = max(joining.limit_a if joining.kind == "combined" else 0.0, vehicles[0].limit_a)
    apart = _apart(suns[0], vehicles[0])
    costs = {
        "independent": apart,
        "combined": (prices.COMBINED.euro(most), prices.COMBINED.kg(most)),
        "selector": (apart[0] + prices.SELECTOR.fixed, apart[1] + prices.SELECTOR.fixed_kg),
    }
    words = {
        "independent": "separate chargers",
        "combined": "one combined charger",
        "selector": "a selector switch",
    }
    yield DesignAlternative(
        key="joining",
        part="joining",
        asks="Separate, combined, or a selector?",
        text="How sun and alternator share the battery.",
        options=[
            _option(
                plan,
                words[kind],
                [
                    _set(["box", "joining", "kind"], kind),
                    _set(["box", "joining", "members"], members if kind == "combined" else []),
                    _set(
                        ["box", "joining", "limit_a"],
                        most if kind == "combined" else joining.limit_a,
                    ),
                ],
                joining.kind == kind,
                _at(pair),
            )
            for kind, pair in costs.items()
        ],
    )


def _apart(sun: SunModel, vehicle: VehicleModel) -> tuple[float, float]:
    tag = prices.TRACKING if sun.controller.kind == "tracking" else prices.PWM
    amps = sun.controller.limit_a
    return (
        tag.euro(amps) + prices.DCDC.euro(vehicle.limit_a),
        tag.kg(amps) + prices.DCDC.kg(vehicle.limit_a),
    )


def _fridge(plan: Plan) -> Iterator[DesignAlternative]:
    drives = any(block.kind == "drive" for block in plan.trip.blocks)
    for place, appliance in enumerate(plan.use.appliances):
        fridge = appliance.pattern is not None and appliance.pattern.type == "fridge"
        if not drives or not fridge or not appliance.on:
            continue
        yield DesignAlternative(
            key=f"fridge:{appliance.id}",
            part=f"appliance:{appliance.id}",
            asks=f"{appliance.name}: on the box, or on the vehicle while driving?",
            text="Moving it leaves its charge in the box; somebody must move the plug.",
            options=[
                _option(
                    plan,
                    text,
                    [_set(["use", "appliances", place, "on_vehicle"], moved)],
                    appliance.on_vehicle == moved,
                    _at((0.0, 0.0)),
                )
                for moved, text in ((False, "always on the box"), (True, "moved while driving"))
            ],
        )
