"""From the document to what the core runs."""

from __future__ import annotations

from oddkettle.core.bank import Bank, check_bank, chemistry_named
from oddkettle.core.fault import PlanFault
from oddkettle.core.loads import Appliance, Inverter, Window
from oddkettle.core.run import Case, Profile
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.solar import Controller, Panel, SunInput
from oddkettle.core.sources.vehicle import DcDc
from oddkettle.core.trip import Block, Site
from oddkettle.core.units import MINUTES_PER_DAY
from oddkettle.core.weather.words import SKY_WORDS
from oddkettle.plan.box import BatteryModel, Box, SunModel
from oddkettle.plan.document import Plan
from oddkettle.plan.quantities import clock_minutes
from oddkettle.plan.trip import BlockModel
from oddkettle.plan.use import ApplianceModel


def case_from_plan(plan: Plan) -> Case:
    """The core's case of a plan. Raises PlanFault where parts contradict each other."""
    box, trip, guess = plan.box, plan.trip, plan.assumptions
    bank = _bank(box)
    check_bank(bank)
    _check_inverter(plan)
    return Case(
        bank=bank,
        profile=_profile(box.battery, bank),
        sun=tuple(_sun(array) for array in box.sun),
        vehicle=DcDc(box.dcdc.limit_a, box.dcdc.efficiency_percent / 100) if box.dcdc else None,
        mains=MainsCharger(box.mains.limit_a, box.mains.efficiency_percent / 100)
        if box.mains
        else None,
        inverter=Inverter(
            box.inverter.rating_w,
            box.inverter.idle_w,
            box.inverter.efficiency_percent / 100,
            box.inverter.switched == "always",
        )
        if box.inverter
        else None,
        appliances=tuple(_appliance(a) for a in plan.use.appliances),
        site=Site(
            trip.site.latitude, trip.site.longitude, trip.site.altitude_m, trip.site.timezone
        ),
        first_day=trip.start,
        clearness=tuple(
            guess.usual_clearness if day.sky == "usual" else SKY_WORDS[day.sky].mean
            for day in trip.days
        ),
        blocks=tuple(_block(block) for block in trip.blocks),
        soc0=trip.start_percent / 100,
        floor=trip.floor_percent / 100,
        ambient_c=guess.ambient_c,
        step_min=guess.step_min,
    )


def _bank(box: Box) -> Bank:
    battery = box.battery
    return Bank(
        chemistry=chemistry_named(battery.chemistry),
        battery_ah=battery.capacity_ah,
        battery_v=battery.battery_v,
        series=battery.series,
        parallel=battery.parallel,
        system_v=box.system_v,
    )


def _profile(battery: BatteryModel, bank: Bank) -> Profile:
    chemistry = bank.chemistry
    absorption = battery.absorption_v or chemistry.absorption_v
    floating = battery.float_v or min(chemistry.float_v, absorption)
    if floating > absorption:
        raise PlanFault(
            f"Float at {floating:g} V lies above absorption at {absorption:g} V.",
            where=("box", "battery", "float_v"),
            value=floating,
            limit=f"at most {absorption:g} V",
            remedy=f"Set float to {min(chemistry.float_v, absorption):g} V.",
        )
    return Profile(absorption, floating)


def _sun(array: SunModel) -> SunInput:
    return SunInput(
        key=array.id,
        name=array.name,
        panels=tuple(
            Panel(p.power_w, p.mount, p.tilt_deg, p.azimuth_deg, p.portable) for p in array.panels
        ),
        controller=Controller(array.controller.limit_a, array.controller.efficiency_percent / 100),
    )


def _appliance(model: ApplianceModel) -> Appliance:
    return Appliance(
        key=model.id,
        name=model.name,
        power_w=model.power_w,
        supply=model.supply,
        windows=tuple(
            Window(clock_minutes(h.start) % MINUTES_PER_DAY, clock_minutes(h.end))
            for h in model.hours
        ),
        duty=model.duty_percent / 100,
    )


def _check_inverter(plan: Plan) -> None:
    for index, appliance in enumerate(plan.use.appliances):
        if appliance.supply == "inverter" and plan.box.inverter is None:
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
    )
