"""From the box's models to the core's parts."""

from __future__ import annotations

from itertools import pairwise

from oddkettle.core.battery.bank import Bank, check_bank, chemistry_named
from oddkettle.core.battery.datasheet import Datasheet, with_datasheet
from oddkettle.core.battery.label_share import label_share
from oddkettle.core.battery.temperature import Heater, Housing
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.case import SecondBank, Surroundings
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.sources.coupling import Coupling, ReadyMade, UnitInput
from oddkettle.core.sources.source_series import ChargeSource
from oddkettle.core.sources.unit_input import through_input
from oddkettle.core.units.conversion import CLASS_V
from oddkettle.core.units.quantity import celsius
from oddkettle.core.values.copying import copied
from oddkettle.plan.box import (
    SOURCE_GROUPS,
    BatteryModel,
    Box,
    DatasheetModel,
    HeaterModel,
    UnitModel,
)
from oddkettle.plan.making.document import EnclosureModel
from oddkettle.plan.quantities import Where, percent
from oddkettle.plan.sources.profile import check_voltages


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
    bank = copied(
        Bank,
        battery,
        chemistry=chemistry,
        battery_ah=capacity,
        system_v=box.system_v,
        link_mohm=link_mohm,
        housing=Housing(box.housing.lag_h, box.housing.warmer_k),
    )
    check_bank(bank, where)
    return bank


def _unit_ah(unit: UnitModel, nominal_v: float) -> float:
    """A ready-made unit tells watt-hours; what of them is lost is lost on the way out."""
    return unit.capacity_wh / nominal_v


def _datasheet(model: DatasheetModel, where: Where) -> Datasheet:
    rested = None
    if model.rested_v is not None:
        points = sorted((p.percent / 100, p.volts) for p in model.rested_v)
        rested = tuple(points)
        if (
            points[0][0] > 0
            or points[-1][0] < 1
            or any(b[0] <= a[0] or b[1] <= a[1] for a, b in pairwise(points))
        ):
            raise PlanError(
                "A rested curve must rise from 0 % to 100 %.",
                where=(*where, "datasheet", "rested_v"),
                value=f"{len(points)} points",
                limit="percent and volts both rising, from 0 to 100 %",
                remedy="Put the points in order and give both ends.",
            )
    return copied(
        Datasheet,
        model,
        coulombic=percent(model.coulombic_percent),
        self_discharge_month=percent(model.self_discharge_percent),
        rested_v=rested,
    )


def sources_from(box: Box) -> tuple[ChargeSource, ...]:
    """Every source that is there. Raises PlanError."""
    found = (
        source.to_core(("box", group, place), box.system_v)
        for group in SOURCE_GROUPS
        for place, source in enumerate(getattr(box, group))
        if source.on
    )
    sources = tuple(source for source in found if source is not None)
    if box.unit is None:
        return sources
    own = {key: one for one in box.unit.inputs for key in one.members}
    return tuple(
        through_input(source, own[source.key].limit_w, own[source.key].limit_v, box.system_v)
        if source.key in own
        else source
        for source in sources
    )


def box_profile(battery: BatteryModel, bank: Bank) -> Profile:
    """The box's charging voltages [V at 12 V class]: its own, or the chemistry's."""
    to_class = bank.volts_scale * CLASS_V / bank.system_v
    usual_absorption = bank.chemistry.absorption_v * to_class
    usual_float = bank.chemistry.float_v * to_class
    absorption = battery.absorption_v or usual_absorption
    floating = battery.float_v or min(usual_float, absorption)
    check_voltages(absorption, floating, ("box", "battery"), min(usual_float, absorption))
    return Profile(
        absorption,
        floating,
        percent(battery.tail_percent),
        battery.absorption_hours,
        battery.compensated,
    )


def heater_from(model: HeaterModel | None) -> Heater | None:
    """The pads. Raises PlanError when the thermostat stands on its head."""
    if model is None or not model.on:
        return None
    if model.off_above_c <= model.on_below_c:
        raise PlanError(
            f"The heater goes on below {celsius(model.on_below_c)} and off above "
            f"{celsius(model.off_above_c)}.",
            where=("box", "heater", "off_above_c"),
            value=model.off_above_c,
            limit=f"above {celsius(model.on_below_c)}",
            remedy=f"Set it to {celsius(model.on_below_c + 4)}.",
        )
    return Heater(model.power_w, model.on_below_c, model.off_above_c)


def joining_from(box: Box) -> Coupling:
    """How sources share. Raises PlanError for a member that is no source."""
    model, keys = box.joining, tuple(source.id for source in box.sources)
    for place, key in enumerate(model.members):
        if key not in keys:
            raise PlanError(
                f"The combined charger names {key!r}, which is no source of this box.",
                where=("box", "joining", "members", place),
                value=key,
                limit=f"one of {', '.join(keys) or 'none yet'}",
                remedy="Take it out, or add the source.",
            )
    shared = () if box.unit is None else _shared_input(box.unit, keys)
    if shared and model.kind == "independent":
        return Coupling("selector", members=shared)
    members = tuple(model.members) if model.kind == "combined" else ()
    return Coupling(model.kind, model.limit_a, members, model.rule)


def _shared_input(unit: UnitModel, keys: tuple[str, ...]) -> tuple[str, ...]:
    """Sources of the one input that takes several. Raises PlanError for what cannot be."""
    taken: set[str] = set()
    shared: tuple[str, ...] = ()
    for n, one in enumerate(unit.inputs):
        for place, key in enumerate(one.members):
            where: Where = ("box", "unit", "inputs", n, "members", place)
            if key not in keys:
                raise PlanError(
                    f"{one.name} names {key!r}, which is no source of this box.",
                    where=where,
                    value=key,
                    limit=f"one of {', '.join(keys) or 'none yet'}",
                    remedy="Take it out, or add the source.",
                )
            if key in taken:
                raise PlanError(
                    f"{key!r} is plugged in twice.",
                    where=where,
                    value=key,
                    limit="one input for each source",
                    remedy=f"Take it out of {one.name}, or out of the other.",
                )
            taken.add(key)
        if len(one.members) > 1:
            if shared:
                raise PlanError(
                    f"{one.name} is the second input that several sources share.",
                    where=("box", "unit", "inputs", n, "members"),
                    value=len(one.members),
                    limit="one shared input",
                    remedy="Give each of them an input of its own, or switch one off.",
                )
            shared = tuple(one.members)
    return shared


def surroundings_from(box: Box, enclosure: EnclosureModel) -> Surroundings:
    """Where the bank stands, and whether its batteries are alike.

    Its walls conduct where the housing says so, or where the case that is built is of metal.
    """
    house = box.housing
    metal = house.metal or enclosure.material == "metal"
    return Surroundings(
        house.place,
        metal,
        house.posts_covered,
        box.battery.alike,
        enclosure.vented,
        enclosure.battery_apart,
        enclosure.grommets,
        _unlike_ages(box),
    )


UNLIKE_SHARE = 0.08
"""One that holds so much less of its label than another is not like it [judgement]."""


def _unlike_ages(box: Box) -> bool:
    """Whether both banks' ages are told, and are far apart."""
    if box.second is None or not box.second.on:
        return False
    ages = [(one.chemistry, one.age) for one in (box.battery, box.second.battery)]
    if any(age in {None, "unknown", "measured"} for _, age in ages):
        return False
    own, other = (label_share(chemistry_named(kind), age).mean for kind, age in ages)
    return abs(own - other) >= UNLIKE_SHARE


def unit_from(model: UnitModel | None) -> ReadyMade | None:
    """What a ready-made unit adds."""
    if model is None:
        return None
    return ReadyMade(
        model.input_w,
        model.dc_efficiency_percent / 100,
        model.standby_w,
        model.charge_in_use,
        usable=model.usable_percent / 100,
        inputs=tuple(
            UnitInput(one.name, tuple(one.members), one.limit_w, one.limit_v)
            for one in model.inputs
        ),
        dc_output_w=model.dc_output_w,
        off_unused=model.off_unused,
    )


def second_from(box: Box) -> SecondBank | None:
    """The second bank."""
    if box.second is None or not box.second.on:
        return None
    where: Where = ("box", "second", "battery")
    bank = bank_from(box, box.second.battery, where, box.second.link_mohm)
    return SecondBank(bank, box.second.start_percent / 100, box.second.always)
