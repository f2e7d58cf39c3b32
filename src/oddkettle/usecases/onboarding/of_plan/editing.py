"""A plan as a changed sentence has it.

A plan knows far more than its sentence. So what is changed in the sentence alone is changed in the
plan, and everything else stays as it was.
"""

from __future__ import annotations

from datetime import date
from typing import Any

from pydantic import ConfigDict, ValidationError

from oddkettle.core.messages.errors import PlanError
from oddkettle.plan import Plan
from oddkettle.plan.box import OF_CHEMISTRY, Box, HeaterModel, InverterModel, UnitModel
from oddkettle.plan.plan_errors import PlanRefused, from_fault, from_validation
from oddkettle.plan.quantities import LONGEST_TRIP_DAYS, Part
from oddkettle.plan.trip import BlockModel, Day, Trip
from oddkettle.plan.use import ApplianceModel, Hours
from oddkettle.usecases.onboarding.of_plan.charging import Charging
from oddkettle.usecases.onboarding.plan_of import (
    KINDS,
    STANDBY_DAYS,
    WARM_DAY_K,
    appliance_of,
    days_of,
    inverter_w,
)
from oddkettle.usecases.onboarding.sentence import Bank, Sentence, Thing
from oddkettle.usecases.onboarding.things import UNIT

HOURS_A_DAY = 24.0
UNIT_CHEMISTRY, UNIT_IDLE_W = "nmc", 8.0
ALL_DAY = Hours(start="00:00", end="24:00")


class PlanSentence(Part):
    """A plan, and the sentence of it that was changed into another one."""

    # Built at once: it is the body of a call.
    model_config = ConfigDict(defer_build=False)

    plan: Plan
    before: Sentence
    after: Sentence


def edited(asked: PlanSentence) -> Plan:
    """The plan with what differs between the two sentences. Raises PlanRefused."""
    try:
        return _edited(asked.plan, asked.before, asked.after)
    except ValidationError as error:
        raise PlanRefused(from_validation(error, Plan)) from error
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from fault


def _edited(plan: Plan, before: Sentence, after: Sentence) -> Plan:
    trip = _trip(plan.trip, before, after)
    chargers = Charging(plan.box, trip, after)
    chargers.change(before.chargers, after.chargers)
    box = _bank(chargers.box, before.bank, after.bank)
    use = plan.use.model_copy(
        update={"appliances": _appliances(plan.use.appliances, before, after)}
    )
    changed = plan.model_copy(update={"box": box, "trip": chargers.trip, "use": use})
    return Plan.model_validate(changed.model_dump())


def _bank(box: Box, before: Bank, after: Bank) -> Box:
    if before == after:
        return box
    changes: dict[str, Any] = {}
    battery = box.battery
    if after.kind == UNIT:
        wh = after.size * after.count
        unit = box.unit or UnitModel(capacity_wh=wh)
        changes["unit"] = unit.model_copy(update={"capacity_wh": wh})
        if before.kind != UNIT:
            battery = battery.model_copy(
                update={"chemistry": UNIT_CHEMISTRY, **dict.fromkeys(OF_CHEMISTRY)}
            )
            rating = inverter_w(after.size)
            changes["inverter"] = box.inverter or InverterModel(rating_w=rating, idle_w=UNIT_IDLE_W)
    else:
        changes["unit"] = None
        if after.kind != battery.chemistry:
            # Charging voltages, cells and the sheet belong to the chemistry.
            battery = battery.model_copy(
                update={"chemistry": after.kind, **dict.fromkeys(OF_CHEMISTRY)}
            )
        if after.size != before.size or before.kind == UNIT:
            battery = battery.model_copy(update={"capacity_ah": after.size})
        if after.count != before.count:
            parallel = max(round(after.count / battery.series), 1)
            battery = battery.model_copy(update={"parallel": parallel})
    if after.age != before.age:
        battery = battery.model_copy(update={"age": after.age})
    if after.pads != before.pads:
        heater = box.heater or HeaterModel()
        changes["heater"] = heater.model_copy(update={"on": after.pads})
    return box.model_copy(update={"battery": battery, **changes})


def _trip(trip: Trip, before: Sentence, after: Sentence) -> Trip:
    changes: dict[str, Any] = {}
    days = list(trip.days)
    if after.shape not in (before.shape, "which_box"):
        changes["kind"] = KINDS[after.shape]
        whole = after.shape != "trip"
        changes["begins"], changes["ends"] = ("00:00", "24:00") if whole else ("12:00", "12:00")
        wanted = STANDBY_DAYS if after.shape == "standby" else days_of(after)
        days = _so_many(days, wanted)
    elif after.shape == "alone":
        if after.months != before.months:
            days = _so_many(days, days_of(after))
    elif after.nights != before.nights:
        days = _so_many(days, after.nights + 1)
    if after.coldest_c != before.coldest_c:
        low = after.coldest_c
        high = None if low is None else min(low + WARM_DAY_K, 60.0)
        days = [day.model_copy(update={"low_c": low, "high_c": high}) for day in days]
    if after.place != before.place:
        changes["site"] = after.place
    if after.start != before.start:
        changes["start"] = after.start
        days = [_moved(day, before.start, after.start) for day in days]
    if len(days) != len(trip.days):
        changes["blocks"] = [b for b in (_within(b, len(days)) for b in trip.blocks) if b]
    return trip.model_copy(update={"days": days, **changes})


def _so_many(days: list[Day], wanted: int) -> list[Day]:
    count = min(max(wanted, 1), LONGEST_TRIP_DAYS)
    last = days[-1]
    # What was said or forecast of the last day's sky is not said of those after it.
    more = Day(stop=last.stop, low_c=last.low_c, high_c=last.high_c)
    if last.forecast:
        more = Day(stop=last.stop)
    return [*days[:count], *[more] * (count - len(days))]


def _moved(day: Day, before: date, after: date) -> Day:
    """A day of another date: its forecast was not for that."""
    if day.forecast:
        return day.model_copy(
            update={
                "sky": "usual", "said_on": None, "forecast": False, "low_c": None, "high_c": None,
            }
        )  # fmt: skip
    if day.said_on is None:
        return day
    return day.model_copy(update={"said_on": day.said_on + (after - before)})


def _within(block: BlockModel, days: int) -> BlockModel | None:
    """A block as far as it lies within so many days."""
    if block.day >= days:
        return None
    if block.end_day is None or block.end_day < days:
        return block
    return block.model_copy(update={"end_day": days - 1, "end": "24:00"})


def _appliances(
    all_of_them: list[ApplianceModel], before: Sentence, after: Sentence
) -> list[ApplianceModel]:
    had = {thing.id: thing for thing in before.things if thing.id}
    has = {thing.id: thing for thing in after.things if thing.id}
    found = [
        _changed(one, had[one.id], has[one.id]) if one.id in has and one.id in had else one
        for one in all_of_them
        if not (one.id in had and one.id not in has)
    ]
    taken = {one.id for one in all_of_them}
    # Those that were new before are in the plan by now.
    known = sum(thing.id is None for thing in before.things)
    new = [thing for thing in after.things if thing.id is None][known:]
    for place, thing in enumerate(new):
        made = appliance_of(thing, place, after)
        n = next(n for n in range(1, len(taken) + 2) if f"{thing.kind}{n}" not in taken)
        taken.add(f"{thing.kind}{n}")
        found.append(made.model_copy(update={"id": f"{thing.kind}{n}"}))
    return found


def _changed(one: ApplianceModel, before: Thing, after: Thing) -> ApplianceModel:
    changes: dict[str, Any] = {}
    if after.wh_a_day is not None and after.wh_a_day != before.wh_a_day:
        # So much a day, told by a meter, is no pattern any more.
        changes = {
            "power_w": after.wh_a_day / HOURS_A_DAY, "hours": [ALL_DAY], "duty_percent": 100.0,
            "pattern": None, "flexible": None, "drive_hours": None, "rest_hours": None,
        }  # fmt: skip
    elif after.power_w is not None and after.power_w != before.power_w:
        changes["power_w"] = after.power_w
    if after.count != before.count:
        changes["power_w"] = changes.get("power_w", one.power_w) * after.count / before.count
    if after.hours is not None and after.hours != before.hours:
        changes["hours"] = [after.hours]
    if after.duty_percent is not None and after.duty_percent != before.duty_percent:
        changes["duty_percent"] = after.duty_percent
    return one.model_copy(update=changes) if changes else one
