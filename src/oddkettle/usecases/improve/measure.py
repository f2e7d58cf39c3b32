"""Measure it: two counter readings become an appliance's figure, marked as measured."""

from __future__ import annotations

from typing import Literal

from oddkettle.core.loads.demand import supply_efficiency
from oddkettle.core.loads.measurement import Reading, measured
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.units.conversion import HOURS_PER_DAY
from oddkettle.core.values.copying import copied
from oddkettle.plan import Plan, quantities
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.plan_errors import Complaint, PlanRefused, from_fault
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.judgements import Edit, Remedy


class Counted(LazyModel):
    """What was read: a counter of what went out, twice, and the time between."""

    appliance: str
    """Its id."""
    before: quantities.CounterFigure
    after: quantities.CounterFigure
    counter: Literal["Ah", "Wh"] = "Ah"
    hours: quantities.MeasuredHours
    others_w: quantities.SmallWatts = 0
    """What else ran meanwhile, at the battery."""
    air_c: quantities.Celsius | None = None
    """Around a fridge."""


class MeasuredReport(LazyModel):
    """The average, and the edits that put it in the guess's place."""

    text: str
    battery_w: float
    plug_w: float
    a_day_wh: float
    """Were it on day and night."""
    replaces: Remedy


def measure_appliance(plan: Plan, counted: Counted) -> MeasuredReport:
    """An appliance's figure from readings. Raises PlanRefused."""
    try:
        case = case_from_plan(plan)
        place = next(
            (n for n, a in enumerate(plan.use.appliances) if a.id == counted.appliance), None
        )
        found = next((a for a in case.appliances if a.key == counted.appliance), None)
        if place is None or found is None:
            raise PlanRefused([_unknown(counted.appliance)])
        dc, usable = (
            (1.0, 1.0) if case.unit is None else (case.unit.dc_efficiency, case.unit.usable)
        )
        reading = copied(Reading, counted, bus_v=case.bank.nominal_v)
        got = measured(found, reading, supply_efficiency(found.supply, case.inverter, dc, usable))
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from None
    fields: dict[str, object] = {
        "power_w": float(f"{got.power_w:.4g}"),
        "duty_percent": max(float(f"{100 * got.duty:.3g}"), 1.0),
        "figure": "measured",
    }
    if got.steady:
        fields["pattern"] = None
    return MeasuredReport(
        text=_words(found.power_w, found.duty, got.power_w, got.duty, got.battery_w),
        battery_w=got.battery_w,
        plug_w=got.plug_w,
        a_day_wh=got.battery_w * HOURS_PER_DAY,
        replaces=Remedy(
            text="Take it in place of the guess",
            edits=[
                Edit(path=["use", "appliances", place, name], value=value)
                for name, value in fields.items()
            ],
        ),
    )


def _words(power_w: float, duty: float, new_w: float, new_duty: float, battery_w: float) -> str:
    average = f"On average it took {battery_w:.3g} W from the battery."
    if abs(new_w - power_w) < 1e-9:
        return (
            f"{average} At {power_w:g} W while it runs that is {100 * new_duty:.0f} % of the time; "
            f"the plan has {100 * duty:.0f} %."
        )
    return f"{average} At its plug that is {new_w:.3g} W; the plan has {power_w * duty:.3g} W."


def _unknown(key: str) -> Complaint:
    return Complaint(
        where="appliance",
        value=key,
        limit="an appliance of this plan that is switched on",
        remedy="Choose another, or switch it on.",
        text=f"There is no appliance {key!r} that runs.",
    )
