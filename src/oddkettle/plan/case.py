"""From the document to what the core runs."""

from __future__ import annotations

from datetime import timedelta

from oddkettle.core.case import Case
from oddkettle.core.fault import PlanFault
from oddkettle.core.loads import Appliance, DayKind, Inverter, Priority, Window
from oddkettle.core.patterns import Bursts, Fridge, Logger, Pattern, Radio
from oddkettle.core.trip import Block, Site
from oddkettle.core.units import MINUTES_PER_DAY
from oddkettle.core.weather.climate import CLIMATES, typical_day
from oddkettle.core.weather.words import SKY_WORDS
from oddkettle.plan.box import InverterModel
from oddkettle.plan.document import Plan
from oddkettle.plan.parts import (
    arrays_from,
    bank_from,
    box_profile,
    heater_from,
    joining_from,
    mains_from,
    second_from,
    surroundings_from,
    unit_from,
    vehicle_from,
)
from oddkettle.plan.quantities import clock_minutes
from oddkettle.plan.trip import BlockModel, Day
from oddkettle.plan.use import (
    ApplianceModel,
    BurstsPattern,
    FridgePattern,
    Hours,
    RadioPattern,
    Shedding,
)

USUAL_CLEARNESS, USUAL_LOW_C, USUAL_HIGH_C = 0.68, 10.0, 18.0
"""A day of which nothing is known [judgement]."""
FINE_STEP_MIN, FINE_DAYS = 5, 31
MIDDLE_STEP_MIN, MIDDLE_DAYS = 15, 120
COARSE_STEP_MIN = 60


def case_from_plan(plan: Plan) -> Case:
    """The core's case of a plan. Raises PlanFault where parts contradict each other."""
    box, trip = plan.box, plan.trip
    bank = bank_from(box, box.battery, ("box", "battery"))
    _check_inverter(plan)
    skies = [_sky(plan, place, day) for place, day in enumerate(trip.days)]
    return Case(
        bank=bank,
        profile=box_profile(box.battery, bank),
        sun=arrays_from(box),
        vehicle=tuple(
            vehicle_from(v, ("box", "vehicle", n)) for n, v in enumerate(box.vehicle) if v.on
        ),
        mains=tuple(mains_from(m, ("box", "mains", n)) for n, m in enumerate(box.mains) if m.on),
        inverter=_inverter(box.inverter),
        appliances=tuple(
            _appliance(a, ("use", "appliances", n))
            for n, a in enumerate(plan.use.appliances)
            if a.on
        ),
        site=Site(
            trip.site.latitude, trip.site.longitude, trip.site.altitude_m, trip.site.timezone
        ),
        first_day=trip.start,
        clearness=tuple(sky[0] for sky in skies),
        low_c=tuple(sky[1] for sky in skies),
        high_c=tuple(sky[2] for sky in skies),
        blocks=tuple(_block(block) for block in trip.blocks),
        soc0=trip.start_percent / 100,
        floor=trip.floor_percent / 100,
        step_min=step_minutes(plan),
        second=second_from(box),
        heater=heater_from(box.heater),
        joining=joining_from(box.joining, tuple(s.id for s in box.sources)),
        unit=unit_from(box.unit),
        order=tuple(box.order),
        quiet=_windows(plan.use.quiet_hours),
        shed=_shed(plan.use.shedding),
        standby=trip.kind == "standby",
        day_kinds=tuple(day.kind for day in trip.days),
        surroundings=surroundings_from(box),
    )


def step_minutes(plan: Plan) -> int:
    """The step asked for, or one that suits the trip's length: 5, 15 or 60 min."""
    if plan.assumptions.step_min is not None:
        return plan.assumptions.step_min
    days = len(plan.trip.days)
    if days <= FINE_DAYS:
        return FINE_STEP_MIN
    return MIDDLE_STEP_MIN if days <= MIDDLE_DAYS else COARSE_STEP_MIN


def _sky(plan: Plan, place: int, day: Day) -> tuple[float, float, float]:
    """(clearness, low, high) of a day: what is said of it, else assumed, else the climate's."""
    guess, trip = plan.assumptions, plan.trip
    clearness, low, high = USUAL_CLEARNESS, USUAL_LOW_C, USUAL_HIGH_C
    if guess.climate is not None:
        typical = typical_day(
            CLIMATES[guess.climate],
            trip.start + timedelta(days=place),
            trip.site.latitude,
            trip.site.altitude_m,
        )
        clearness, low, high = typical.clearness, typical.low_c, typical.high_c
    if guess.usual_clearness is not None:
        clearness = guess.usual_clearness
    if day.sky != "usual":
        clearness = SKY_WORDS[day.sky].mean
    low = _first(day.low_c, guess.low_c, low)
    high = _first(day.high_c, guess.high_c, max(high, low))
    if high < low:
        raise PlanFault(
            f"Day {place + 1} is to be {low:g} C at its coldest and {high:g} C at its warmest.",
            where=("trip", "days", place, "high_c"),
            value=high,
            limit=f"at least {low:g} C",
            remedy="Swap the two, or leave one out.",
        )
    return clearness, low, high


def _first(*values: float | None) -> float:
    return next(value for value in values if value is not None)


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
    )


def _appliance(model: ApplianceModel, where: tuple[str | int, ...]) -> Appliance:
    return Appliance(
        key=model.id,
        name=model.name,
        power_w=model.power_w,
        supply=model.supply,
        windows=_windows(model.hours),
        duty=model.duty_percent / 100,
        pattern=_pattern(model, where),
        draw=model.draw,
        standby_w=model.standby_w,
        priority=model.priority,
        on_vehicle=model.on_vehicle,
        noisy=model.noisy,
        surge_w=model.surge_w,
        other_days=_other_days(model),
        spread=model.spread_percent / 100 if model.figure == "guess" else 0.0,
        adapter=model.adapter,
        medical=model.medical,
    )


def _other_days(model: ApplianceModel) -> tuple[tuple[DayKind, tuple[Window, ...]], ...]:
    given: list[tuple[DayKind, list[Hours] | None]] = [
        ("drive", model.drive_hours),
        ("rest", model.rest_hours),
    ]
    return tuple((kind, _windows(hours)) for kind, hours in given if hours is not None)


def _pattern(model: ApplianceModel, where: tuple[str | int, ...]) -> Pattern | None:
    pattern = model.pattern
    if pattern is None:
        return None
    if isinstance(pattern, FridgePattern):
        if pattern.reference_c <= pattern.set_c:
            raise PlanFault(
                f"{model.name} is set to {pattern.set_c:g} C, but its duty was told for "
                f"{pattern.reference_c:g} C outside.",
                where=(*where, "pattern", "reference_c"),
                value=pattern.reference_c,
                limit=f"above {pattern.set_c:g} C",
                remedy="Give the duty at a warmer temperature outside, often 25 C.",
            )
        return Fridge(
            pattern.set_c,
            pattern.reference_c,
            pattern.warmer_k,
            pattern.lid_percent / 100,
            pattern.cycle_min,
        )
    if isinstance(pattern, RadioPattern):
        return Radio(pattern.receive_w, pattern.transmit_percent / 100)
    if isinstance(pattern, BurstsPattern):
        return Bursts(pattern.times_a_day, pattern.minutes)
    return Logger(pattern.sleep_w, pattern.events_a_day, pattern.seconds)


def _shed(model: Shedding) -> dict[Priority, float]:
    shed: dict[Priority, float] = {}
    if model.first_percent is not None:
        shed["first"] = model.first_percent / 100
    if model.wanted_percent is not None:
        shed["wanted"] = model.wanted_percent / 100
    if shed.get("wanted", 0.0) > shed.get("first", 1.0):
        raise PlanFault(
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
            raise PlanFault(
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
