"""From the document to what the core runs."""

from __future__ import annotations

from datetime import timedelta

from oddkettle.core.loads.converter import Converter
from oddkettle.core.loads.demand import Appliance, DayKind, Inverter, Priority, Window
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.case import Case, LoadOutput
from oddkettle.core.simulation.own_wiring import Choice, OwnOutlet, Wiring
from oddkettle.core.trip.grid import Block, local_moment, zone_named
from oddkettle.core.units.conversion import CLASS_V, MINUTES_PER_DAY
from oddkettle.core.units.quantity import clock
from oddkettle.core.values.copying import copied
from oddkettle.plan.box import ConverterModel, InverterModel
from oddkettle.plan.document import Plan, step_minutes
from oddkettle.plan.flexible import runs_of
from oddkettle.plan.making.document import Build
from oddkettle.plan.parts import (
    bank_from,
    box_profile,
    heater_from,
    joining_from,
    second_from,
    sources_from,
    surroundings_from,
    unit_from,
)
from oddkettle.plan.quantities import clock_minutes
from oddkettle.plan.trip import BlockModel
from oddkettle.plan.use import (
    ApplianceModel,
    Hours,
    Shedding,
)
from oddkettle.plan.weather import (
    day_sites_from,
    doubt_from,
    kind_of_place,
    prospects_from,
    site_from,
)


def case_from_plan(plan: Plan) -> Case:
    """The core's case of a plan. Raises PlanError where parts contradict each other."""
    box, trip = plan.box, plan.trip
    bank = bank_from(box, box.battery, ("box", "battery"))
    _check_inverter(plan)
    skies = prospects_from(plan)
    return Case(
        bank=bank,
        profile=box_profile(box.battery, bank),
        sources=sources_from(box),
        inverter=_inverter(box.inverter),
        converter=_converter(box.converter),
        appliances=tuple(_appliance(plan, a, n) for n, a in enumerate(plan.use.appliances) if a.on),
        site=site_from(plan),
        first_day=trip.start,
        clearness=tuple(s.usual if s.word is None else s.word.mean for s in skies),
        low_c=tuple(sky.low_c for sky in skies),
        high_c=tuple(sky.high_c for sky in skies),
        record_low_c=plan.assumptions.record_low_c,
        blocks=tuple(_block(block) for block in trip.blocks),
        soc0=trip.start_percent / 100,
        floor=trip.floor_percent / 100,
        step_min=step_minutes(plan),
        second=second_from(box),
        heater=heater_from(box.heater),
        joining=joining_from(box),
        load_output=_load_output(plan),
        unit=unit_from(box.unit),
        order=tuple(box.order),
        quiet=_windows(plan.use.quiet_hours),
        shed=_shed(plan.use.shedding),
        standby=trip.kind == "standby",
        day_kinds=tuple(day.kind for day in trip.days),
        surroundings=surroundings_from(box, plan.build.enclosure),
        day_sites=day_sites_from(plan),
        prospects=skies,
        kind_of_place=kind_of_place(plan),
        doubt=doubt_from(plan),
        wiring=wiring_from(plan.build),
        away=_away(plan),
    )


def _away(plan: Plan) -> tuple[tuple[int, int], ...]:
    """UTC seconds before the trip begins on its first day, and after it ends on its last."""
    trip = plan.trip
    begins, ends = clock_minutes(trip.begins), clock_minutes(trip.ends)
    last = len(trip.days) - 1
    if last == 0 and begins >= ends:
        raise PlanError(
            f"This trip of one day begins at {clock(begins)} and ends at {clock(ends)}.",
            where=("trip", "ends"),
            value=trip.ends,
            limit=f"after {clock(begins)}",
            remedy="Let it end later, or add a day.",
        )
    zone = zone_named(trip.site.timezone)

    def second(day: int, minute: int) -> int:
        return int(local_moment(trip.start + timedelta(days=day), minute, zone).timestamp())

    spans = (
        (second(0, 0), second(0, begins)),
        (second(last, ends), second(last, MINUTES_PER_DAY)),
    )
    return tuple(span for span in spans if span[0] < span[1])


def _load_output(plan: Plan) -> LoadOutput | None:
    """The one controller's load output of a box. Raises PlanError for two, or for odd volts."""
    found: LoadOutput | None = None
    suits = {a.id for a in plan.use.appliances if a.on and a.supply == "12v"}
    for n, array in enumerate(plan.box.sun):
        model = array.controller.load_output
        if model is None or not array.on or plan.box.unit is not None:
            continue
        where = ("box", "sun", n, "controller", "load_output")
        if found is not None:
            raise PlanError(
                f"{array.name} is the second controller whose load output is in use.",
                where=where,
                value=2,
                limit="one load output in a box",
                remedy="Let everything hang on one of them, or on the box's own outlets.",
            )
        if model.on_v <= model.off_v:
            raise PlanError(
                f"The load output goes off at {model.off_v:g} V and comes back at "
                f"{model.on_v:g} V: it would chatter.",
                where=(*where, "on_v"),
                value=model.on_v,
                limit=f"above {model.off_v:g} V",
                remedy=f"Set it to {model.off_v + 1.2:g} V.",
            )
        scale = plan.box.system_v / CLASS_V
        hang = tuple(key for key in dict.fromkeys(model.appliances) if key in suits)
        found = LoadOutput(array.id, model.limit_a, model.off_v * scale, model.on_v * scale, hang)
    return found


def wiring_from(build: Build) -> Wiring:
    """What the owner fixed of the circuits."""
    return copied(
        Wiring,
        build,
        choices=tuple(Choice(**dict(choice)) for choice in build.circuits),
        outlets=tuple(
            OwnOutlet(o.outlet, o.name, o.usb, o.mains, tuple(o.appliances), o.spare_a)
            for o in build.outlets
        ),
        series=build.cable_series,
    )


def _windows(hours: list[Hours]) -> tuple[Window, ...]:
    return tuple(
        Window(clock_minutes(h.start) % MINUTES_PER_DAY, clock_minutes(h.end)) for h in hours
    )


def _inverter(model: InverterModel | None) -> Inverter | None:
    if model is None:
        return None
    return Inverter(
        model.rating_w,
        model.idle_w,
        model.efficiency_percent / 100,
        model.switched == "always",
        model.surge_w,
        model.socket_fuse_a,
    )


def _converter(model: ConverterModel | None) -> Converter | None:
    if model is None:
        return None
    return Converter(model.limit_a, model.efficiency_percent / 100, model.idle_w)


def _appliance(plan: Plan, model: ApplianceModel, n: int) -> Appliance:
    where = ("use", "appliances", n)
    return copied(
        Appliance,
        model,
        key=model.id,
        windows=_windows(model.hours),
        duty=model.duty_percent / 100,
        pattern=None if model.pattern is None else model.pattern.to_core(model.name, where),
        other_days=_other_days(model),
        spread=model.spread_percent / 100 if model.figure != "measured" else 0.0,
        runs=runs_of(plan, model, n),
    )


def _other_days(model: ApplianceModel) -> tuple[tuple[DayKind, tuple[Window, ...]], ...]:
    given: list[tuple[DayKind, list[Hours] | None]] = [
        ("drive", model.drive_hours),
        ("rest", model.rest_hours),
    ]
    return tuple((kind, _windows(hours)) for kind, hours in given if hours is not None)


def _shed(model: Shedding) -> dict[Priority, float]:
    shed: dict[Priority, float] = {}
    if model.first_percent is not None:
        shed["first"] = model.first_percent / 100
    if model.wanted_percent is not None:
        shed["wanted"] = model.wanted_percent / 100
    if shed.get("wanted", 0.0) > shed.get("first", 1.0):
        raise PlanError(
            f"Wanted loads go at {model.wanted_percent:g} %, before those that go first "
            f"({model.first_percent:g} %).",
            where=("use", "shedding", "wanted_percent"),
            value=model.wanted_percent,
            limit=f"at most {model.first_percent:g} %",
            remedy="Let what goes first go at a higher level.",
        )
    return shed


def _check_inverter(plan: Plan) -> None:
    for index, appliance in enumerate(plan.use.appliances):
        if appliance.on and appliance.supply == "inverter" and plan.box.inverter is None:
            raise PlanError(
                f"{appliance.name} runs from an inverter, but the box has none.",
                where=("use", "appliances", index, "supply"),
                value="inverter",
                limit="12v or usb without an inverter",
                remedy="Add an inverter on the Box page, or run it from 12 V or USB.",
            )


def _block(model: BlockModel) -> Block:
    return Block(
        kind=model.kind,
        day=model.day,
        start_min=clock_minutes(model.start),
        end_day=model.day if model.end_day is None else model.end_day,
        end_min=clock_minutes(model.end),
        idling=model.idling,
    )
