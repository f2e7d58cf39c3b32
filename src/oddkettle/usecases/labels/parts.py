"""What a label says, put into the part whose sheet is open."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from pydantic import BaseModel, ConfigDict, ValidationError

from oddkettle.core.sources.panel import USUAL_ISC_OVER_IMP, USUAL_VMP_V, USUAL_VOC_OVER_VMP
from oddkettle.formats.labels.kind import Note, Value
from oddkettle.formats.labels.read import Label
from oddkettle.plan.box import (
    OF_CHEMISTRY,
    BatteryModel,
    DatasheetModel,
    InverterModel,
    UnitInputModel,
    UnitModel,
)
from oddkettle.plan.plan_errors import from_validation
from oddkettle.plan.quantities import Part
from oddkettle.plan.sources.mains import MainsModel
from oddkettle.plan.sources.profile import ProfileModel
from oddkettle.plan.sources.sun import ControllerModel, PanelLabelModel, PanelModel
from oddkettle.plan.sources.vehicle import VehicleModel
from oddkettle.plan.use import ApplianceModel, FridgePattern, Hours

Model = TypeVar("Model", bound=BaseModel)
Values = dict[str, Value]
USUAL_FLOAT_V, USUAL_ABSORPTION_V = 13.6, 14.4
"""What a charger holds whose label names only the other of the two [textbook]."""
PLATE = ("vmp_v", "imp_a", "voc_v", "isc_a")
ALL_DAY = Hours(start="00:00", end="24:00")
HOURS_A_DAY = 24.0


class LabelParts(Part):
    """The part that a label is about, by its kind; the others are absent."""

    # Built at once: it is the body of a call.
    model_config = ConfigDict(defer_build=False)

    panel: PanelModel | None = None
    battery: BatteryModel | None = None
    controller: ControllerModel | None = None
    mains: MainsModel | None = None
    dcdc: VehicleModel | None = None
    inverter: InverterModel | None = None
    unit: UnitModel | None = None
    appliance: ApplianceModel | None = None


def with_label(parts: LabelParts, label: Label) -> tuple[LabelParts, list[Note]]:
    """The part as the label has it, and what could not be put in.

    What does not agree on the label, and what is out of range, is left as it was.
    """
    values = label.agreed
    notes: list[Note] = []
    changed = {
        name: PUT[name](part, values, notes)
        for name in LabelParts.model_fields
        if name in PUT and (part := getattr(parts, name)) is not None
        if name == label.kind.key or (label.kind.key, name) in BELONGS
    }
    return parts.model_copy(update=changed), notes


UNIT_INPUTS = {"Panels": ("solar_limit_w", "solar_limit_v"), "Mains": ("mains_limit_w",)}
"""What a unit's inputs are called, and what its label says of each."""
BELONGS = {("unit", "inverter"), ("unit", "battery")}
"""Parts beside the one that is meant which a label tells of, too."""


def put(model: Model, values: Values, notes: list[Note]) -> Model:
    """A part with those values that it may have; a note for each other."""
    try:
        return type(model).model_validate(model.model_dump() | values)
    except ValidationError as error:
        wrong = {str(detail["loc"][0]): detail for detail in error.errors()}
        told = {one.where.split(".")[0]: one for one in from_validation(error, type(model))}
        for name in wrong:
            one = told.get(name)
            if one is not None:
                notes.append(Note(name, f"{one.value} is out of range: {one.limit}. {one.remedy}"))
        if not wrong.keys() & values.keys():
            return model
        return put(model, {k: v for k, v in values.items() if k not in wrong}, notes)


def _panel(panel: PanelModel, values: Values, notes: list[Note]) -> PanelModel:
    found = put(panel, _only(values, "power_w", "count"), notes)
    if not any(name in values for name in PLATE):
        return found
    said = {name: _number(values, name) for name in PLATE}
    vmp = said["vmp_v"] or (said["voc_v"] or USUAL_VOC_OVER_VMP * USUAL_VMP_V) / USUAL_VOC_OVER_VMP
    imp = said["imp_a"] or (found.power_w / vmp)
    label = {
        "vmp_v": round(vmp, 2),
        "imp_a": round(imp, 3),
        "voc_v": said["voc_v"] or round(USUAL_VOC_OVER_VMP * vmp, 2),
        "isc_a": said["isc_a"] or round(USUAL_ISC_OVER_IMP * imp, 3),
    }
    # What is usual of the figure that is wanting does not fit those that are told.
    if label["vmp_v"] >= label["voc_v"] or label["imp_a"] >= label["isc_a"]:
        return found
    rest = _only(values, "voc_percent_per_k", "power_percent_per_k", "fuse_max_a")
    try:
        plate = put(PanelLabelModel.model_validate(label), rest, notes)
    except ValidationError as error:
        notes += [
            Note(one.where, f"{one.value} is out of range: {one.limit}. {one.remedy}")
            for one in from_validation(error, PanelLabelModel)
        ]
        return found
    return found.model_copy(update={"label": plate})


def _battery(battery: BatteryModel, values: Values, notes: list[Note]) -> BatteryModel:
    if values.get("chemistry", battery.chemistry) != battery.chemistry:
        # Charging voltages, cells and the sheet belong to the chemistry.
        battery = battery.model_copy(update=dict.fromkeys(OF_CHEMISTRY))
    found = put(
        battery,
        _only(values, "chemistry", "capacity_ah", "battery_v", "absorption_v", "float_v"),
        notes,
    )
    sheet = {k: v for k, v in values.items() if k in DatasheetModel.model_fields}
    if not sheet:
        return found
    return found.model_copy(
        update={"datasheet": put(found.datasheet or DatasheetModel(), sheet, notes)}
    )


def _controller(one: ControllerModel, values: Values, notes: list[Note]) -> ControllerModel:
    return put(one, values, notes)


def _mains(one: MainsModel, values: Values, notes: list[Note]) -> MainsModel:
    found = put(one, _only(values, "limit_a", "efficiency_percent"), notes)
    return found.model_copy(update={"profile": _profile(found.profile, values, notes)})


def _dcdc(one: VehicleModel, values: Values, notes: list[Note]) -> VehicleModel:
    plain = _only(values, "limit_a", "efficiency_percent", "fuse_a", "cut_in_v")
    kind: Values = {"kind": "dcdc"} if one.kind == "relay" else {}
    found = put(one, plain | kind, notes)
    return found.model_copy(update={"profile": _profile(found.profile, values, notes)})


def _profile(now: ProfileModel | None, values: Values, notes: list[Note]) -> ProfileModel | None:
    said = _only(values, "absorption_v", "float_v")
    if not said:
        return now
    absorption, floating = _number(values, "absorption_v"), _number(values, "float_v")
    if absorption is None:
        absorption = max(floating or 0.0, now.absorption_v if now else USUAL_ABSORPTION_V)
        notes.append(Note("absorption_v", f"It names no absorption: {absorption:g} V is supposed."))
    if floating is None:
        floating = min(absorption, now.float_v if now else USUAL_FLOAT_V)
        notes.append(Note("float_v", f"It names no float: {floating:g} V is supposed."))
    if floating > absorption:
        notes.append(Note("float_v", f"Float of {floating:g} V lies above {absorption:g} V."))
        return now
    held = now or ProfileModel(absorption_v=USUAL_ABSORPTION_V, float_v=USUAL_FLOAT_V)
    return put(held, {"absorption_v": absorption, "float_v": floating}, notes)


def _inverter(one: InverterModel, values: Values, notes: list[Note]) -> InverterModel:
    return put(one, {k: v for k, v in values.items() if k in InverterModel.model_fields}, notes)


def _unit(unit: UnitModel, values: Values, notes: list[Note]) -> UnitModel:
    found = put(unit, _only(values, "capacity_wh", "dc_output_w"), notes)
    inputs = list(found.inputs)
    for name, ways in (
        ("Panels", ("solar_limit_w", "solar_limit_v")),
        ("Mains", ("mains_limit_w",)),
    ):
        limits = {way.split("_", 1)[1]: values[way] for way in ways if way in values}
        if not limits:
            continue
        place = next((n for n, one in enumerate(inputs) if one.name == name), None)
        fresh = UnitInputModel(name=name) if place is None else inputs[place]
        made = put(fresh, limits, notes)
        if place is None:
            inputs.append(made)
        else:
            inputs[place] = made
    return found.model_copy(update={"inputs": inputs})


def _appliance(one: ApplianceModel, values: Values, notes: list[Note]) -> ApplianceModel:
    supply = values.get("supply")
    changes: Values = _only(values, "power_w")
    if supply == "mains":
        changes["supply"] = "inverter"
    elif supply == "direct" and one.supply == "inverter":
        changes["supply"] = "12v"
    found = put(one, changes, notes)
    daily = _number(values, "wh_a_day")
    if daily is None:
        return found
    power = found.power_w if "power_w" in values else max(found.power_w, daily / HOURS_A_DAY)
    share = min(100.0, max(1.0, 100.0 * daily / (HOURS_A_DAY * power)))
    day = put(found, {"power_w": power, "duty_percent": round(share, 2)}, notes)
    hours = {"hours": [ALL_DAY], "flexible": None, "drive_hours": None, "rest_hours": None}
    if isinstance(day.pattern, FridgePattern):
        # Labels give a fridge's use at its own setting in a room of 25 C.
        pattern = day.pattern.model_copy(
            update={"duty_set_c": day.pattern.set_c, "reference_c": 25}
        )
        return day.model_copy(update=hours | {"pattern": pattern})
    return day.model_copy(update=hours)


def _only(values: Values, *names: str) -> Values:
    return {name: values[name] for name in names if name in values}


def _number(values: Values, name: str) -> float | None:
    value = values.get(name)
    return value if isinstance(value, float) else None


Putting = Callable[..., BaseModel]
PUT: dict[str, Putting] = {
    "panel": _panel,
    "battery": _battery,
    "controller": _controller,
    "mains": _mains,
    "dcdc": _dcdc,
    "inverter": _inverter,
    "unit": _unit,
    "appliance": _appliance,
}
