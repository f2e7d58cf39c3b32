"""From the box's models to the core's parts."""

from __future__ import annotations

from itertools import pairwise

from oddkettle.core.battery.bank import Bank, check_bank, chemistry_named
from oddkettle.core.battery.datasheet import Datasheet, with_datasheet
from oddkettle.core.battery.temperature import Heater, Housing
from oddkettle.core.errors import PlanError
from oddkettle.core.simulation.case import SecondBank, Surroundings
from oddkettle.core.sources.alternator import Alternator, Feed
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import Coupling, ReadyMade
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.panel import Label, Panel, check_label
from oddkettle.core.sources.relay import Relay
from oddkettle.core.sources.solar import Controller, Shade, SunInput, check_array
from oddkettle.core.units import CLASS_V, MINUTES_PER_DAY, cable_ohm
from oddkettle.plan.box import (
    BatteryModel,
    Box,
    DatasheetModel,
    HeaterModel,
    JoiningModel,
    MainsModel,
    PanelModel,
    ProfileModel,
    SunModel,
    UnitModel,
    VehicleModel,
)
from oddkettle.plan.build import Material
from oddkettle.plan.quantities import clock_minutes

Where = tuple[str | int, ...]
SOCKET_FUSE_A = 10.0
"""What a vehicle's 12 V socket is usually fused for [textbook]."""


def percent(value: float | None) -> float | None:
    """A share from a percentage, None left alone."""
    return None if value is None else value / 100


def bank_from(box: Box, battery: BatteryModel, where: Where, link_mohm: float = 0.0) -> Bank:
    """A bank of the document's batteries in its housing. Raises PlanError."""
    chemistry = chemistry_named(battery.chemistry, where)
    usual_cells = chemistry.cells * battery.battery_v / CLASS_V
    scale = (battery.cells or usual_cells) / chemistry.cells
    capacity = battery.capacity_ah
    if box.unit is not None and where == ("box", "battery"):
        capacity = _unit_ah(box.unit, chemistry.nominal_v * scale * battery.series)
    if battery.datasheet is not None:
        sheet = _datasheet(battery.datasheet, where)
        chemistry = with_datasheet(chemistry, sheet, capacity, scale)
    bank = Bank(
        chemistry=chemistry,
        battery_ah=capacity,
        battery_v=battery.battery_v,
        series=battery.series,
        parallel=battery.parallel,
        system_v=box.system_v,
        cells=battery.cells,
        link_mohm=link_mohm,
        housing=Housing(box.housing.lag_h, box.housing.warmer_k),
    )
    check_bank(bank, where)
    return bank


def _unit_ah(unit: UnitModel, nominal_v: float) -> float:
    """A ready-made unit tells watt-hours; what of them it lets out is its capacity here."""
    return unit.capacity_wh * unit.usable_percent / 100 / nominal_v


def _datasheet(model: DatasheetModel, where: Where) -> Datasheet:
    rested = None
    if model.rested_v is not None:
        points = sorted((p.percent / 100, p.volts) for p in model.rested_v)
        rested = tuple(points)
        if points[0][0] > 0 or points[-1][0] < 1 or any(
            b[0] <= a[0] or b[1] <= a[1] for a, b in pairwise(points)
        ):  # fmt: skip
            raise PlanError(
                "A rested curve must rise from 0 % to 100 %.",
                where=(*where, "datasheet", "rested_v"),
                value=f"{len(points)} points",
                limit="percent and volts both rising, from 0 to 100 %",
                remedy="Put the points in order and give both ends.",
            )
    return Datasheet(
        internal_mohm=model.internal_mohm,
        charge_limit_a=model.charge_limit_a,
        discharge_limit_a=model.discharge_limit_a,
        coulombic=percent(model.coulombic_percent),
        self_discharge_month=percent(model.self_discharge_percent),
        cutoff_v=model.cutoff_v,
        no_charge_below_c=model.no_charge_below_c,
        cycles=model.cycles,
        years=model.years,
        weight_kg=model.weight_kg,
        rested_v=rested,
    )


def box_profile(battery: BatteryModel, bank: Bank) -> Profile:
    """The box's charging voltages [V at 12 V class]: its own, or the chemistry's."""
    to_class = bank.volts_scale * CLASS_V / bank.system_v
    usual_absorption = bank.chemistry.absorption_v * to_class
    usual_float = bank.chemistry.float_v * to_class
    absorption = battery.absorption_v or usual_absorption
    floating = battery.float_v or min(usual_float, absorption)
    _check_voltages(absorption, floating, ("box", "battery"), min(usual_float, absorption))
    return Profile(
        absorption,
        floating,
        percent(battery.tail_percent),
        battery.absorption_hours,
        battery.compensated,
    )


def _check_voltages(absorption: float, floating: float, where: Where, usual: float) -> None:
    if floating > absorption:
        raise PlanError(
            f"Float at {floating:g} V lies above absorption at {absorption:g} V.",
            where=(*where, "float_v"),
            value=floating,
            limit=f"at most {absorption:g} V",
            remedy=f"Set float to {min(usual, absorption):g} V.",
        )


def _profile(model: ProfileModel | None, where: Where) -> Profile | None:
    if model is None:
        return None
    _check_voltages(model.absorption_v, model.float_v, (*where, "profile"), model.absorption_v)
    return Profile(
        model.absorption_v,
        model.float_v,
        percent(model.tail_percent),
        model.absorption_hours,
        model.compensated,
        model.equalises,
    )


def arrays_from(box: Box) -> tuple[SunInput, ...]:
    """Every array that has a panel out. Raises PlanError."""
    return tuple(
        sun_from(array, ("box", "sun", place), box.system_v)
        for place, array in enumerate(box.sun)
        if array.on and any(panel.on for panel in array.panels)
    )


def sun_from(array: SunModel, where: Where, system_v: float) -> SunInput:
    """An array with its controller on a box of `system_v`. Raises PlanError."""
    controller = array.controller
    found = SunInput(
        key=array.id,
        name=array.name,
        panels=tuple(
            _panel(panel, (*where, "panels", place), system_v / array.series)
            for place, panel in enumerate(array.panels)
            if panel.on
        ),
        controller=Controller(
            limit_a=controller.limit_a,
            efficiency=controller.efficiency_percent / 100,
            kind=controller.kind,
            input_limit_w=controller.input_limit_w,
            input_limit_v=controller.input_limit_v,
            headroom_v=controller.headroom_v,
            own_w=controller.own_w,
        ),
        series=array.series,
        cable_ohm=0.0 if array.cable_m is None else cable_ohm(array.cable_m, array.cable_mm2),
        shade=tuple(
            Shade(
                clock_minutes(s.hours.start) % MINUTES_PER_DAY,
                clock_minutes(s.hours.end),
                s.loses_percent / 100,
            )
            for s in array.shade
        ),
        dirt=array.dirt_percent / 100,
        profile=_profile(array.profile, where),
        noisy=array.noisy,
        cable_m=array.cable_m,
        cable_mm2=array.cable_mm2,
    )
    check_array(found, where)
    return found


def _panel(panel: PanelModel, where: Where, class_v: float) -> Panel:
    label = panel.label
    found = Panel(
        power_w=panel.power_w,
        mount=panel.mount,
        tilt_deg=panel.tilt_deg,
        azimuth_deg=panel.azimuth_deg,
        portable=panel.portable,
        count=panel.count,
        aims=panel.aims,
        class_v=max(class_v, CLASS_V),
        own_regulator=panel.own_regulator,
        label=None
        if label is None
        else Label(
            label.voc_v,
            label.vmp_v,
            label.isc_a,
            label.imp_a,
            label.voc_percent_per_k / 100,
            label.power_percent_per_k / 100,
            label.fuse_max_a,
        ),
    )
    check_label(found, (*where, "label"))
    return found


def vehicle_from(model: VehicleModel, where: Where) -> DcDc | Relay:
    """A DC-DC charger, relay or socket charger on its alternator and feed. Raises PlanError."""
    motor = model.alternator
    alternator = Alternator(
        motor.rated_a,
        motor.idle_percent / 100,
        motor.own_loads_a,
        motor.volts,
        motor.smart,
        motor.smart_v,
        motor.smart_after_min,
    )
    feed = Feed(model.feed.length_m, model.feed.area_mm2, model.feed.connectors_mohm)
    profile = _profile(model.profile, where)
    if model.cut_out_v >= motor.volts:
        raise PlanError(
            f"The charger lets go below {model.cut_out_v:g} V, but the alternator makes only "
            f"{motor.volts:g} V: it would never charge.",
            where=(*where, "cut_out_v"),
            value=model.cut_out_v,
            limit=f"below {motor.volts:g} V",
            remedy="Lower the cut-out, or correct the alternator's voltage.",
        )
    if model.kind == "relay":
        return Relay(
            key=model.id,
            name=model.name,
            alternator=alternator,
            feed=feed,
            fuse_a=model.fuse_a,
            forced=model.forced,
            delay_min=model.delay_min,
            profile=profile,
            noisy=model.noisy,
        )
    fuse = model.fuse_a
    if model.kind == "socket":
        fuse = min(fuse or SOCKET_FUSE_A, SOCKET_FUSE_A) if fuse is None else fuse
    return DcDc(
        key=model.id,
        name=model.name,
        limit_a=model.limit_a,
        efficiency=model.efficiency_percent / 100,
        alternator=alternator,
        feed=feed,
        half_current=model.half_current,
        ignition=model.ignition,
        cut_in_v=model.cut_in_v,
        cut_out_v=model.cut_out_v,
        derate_from_c=model.hot_from_c,
        fuse_a=fuse,
        delay_min=model.delay_min,
        profile=profile,
        noisy=model.noisy,
    )


def mains_from(model: MainsModel, where: Where) -> MainsCharger:
    """A mains charger."""
    return MainsCharger(
        key=model.id,
        name=model.name,
        limit_a=model.limit_a,
        efficiency=model.efficiency_percent / 100,
        supply_w=model.supply_w,
        profile=_profile(model.profile, where),
        noisy=model.noisy,
    )


def heater_from(model: HeaterModel | None) -> Heater | None:
    """The pads. Raises PlanError when the thermostat stands on its head."""
    if model is None or not model.on:
        return None
    if model.off_above_c <= model.on_below_c:
        raise PlanError(
            f"The heater goes on below {model.on_below_c:g} C and off above "
            f"{model.off_above_c:g} C.",
            where=("box", "heater", "off_above_c"),
            value=model.off_above_c,
            limit=f"above {model.on_below_c:g} C",
            remedy=f"Set it to {model.on_below_c + 4:g} C.",
        )
    return Heater(model.power_w, model.on_below_c, model.off_above_c)


def joining_from(model: JoiningModel, keys: tuple[str, ...]) -> Coupling:
    """How sources share. Raises PlanError for a member that is no source."""
    for place, key in enumerate(model.members):
        if key not in keys:
            raise PlanError(
                f"The combined charger names {key!r}, which is no source of this box.",
                where=("box", "joining", "members", place),
                value=key,
                limit=f"one of {', '.join(keys) or 'none yet'}",
                remedy="Take it out, or add the source.",
            )
    return Coupling(model.kind, model.limit_a, tuple(model.members), model.rule)


def surroundings_from(box: Box, material: Material) -> Surroundings:
    """Where the bank stands, and whether its batteries are alike.

    Its walls conduct where the housing says so, or where the case that is built is of metal.
    """
    house = box.housing
    metal = house.metal or material == "metal"
    return Surroundings(house.place, metal, house.posts_covered, box.battery.alike)


def unit_from(model: UnitModel | None) -> ReadyMade | None:
    """What a ready-made unit adds."""
    if model is None:
        return None
    return ReadyMade(
        model.input_w, model.dc_efficiency_percent / 100, model.standby_w, model.charge_in_use
    )


def second_from(box: Box) -> SecondBank | None:
    """The second bank."""
    if box.second is None or not box.second.on:
        return None
    where: Where = ("box", "second", "battery")
    bank = bank_from(box, box.second.battery, where, box.second.link_mohm)
    return SecondBank(bank, box.second.start_percent / 100, box.second.always)
