"""What a box has not got and could have: a source of each kind, and warmth for its battery."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.battery.temperature import INSULATED_LAG_H
from oddkettle.core.construction.parts import prices
from oddkettle.core.sources.generator import KIND as FUEL
from oddkettle.core.sources.relay import RELAY_FUSE_A
from oddkettle.core.units.conversion import CLASS_V
from oddkettle.core.units.sold_sizes import CHARGER_A, next_up
from oddkettle.plan import Plan
from oddkettle.plan.box import HeaterModel, SourceModel
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.sources.generator import GeneratorModel
from oddkettle.plan.sources.mains import MainsModel
from oddkettle.plan.sources.sun import ControllerModel, PanelModel, SunModel
from oddkettle.plan.sources.vehicle import VehicleModel
from oddkettle.plan.trip import BlockModel
from oddkettle.plan.use import FridgePattern
from oddkettle.results.judgements import Edit
from oddkettle.results.run import Range
from oddkettle.usecases.improve.candidate import Candidate
from oddkettle.usecases.simulate.edits import (
    edit,
    fresh_id,
    hookup_block,
    more_blocks,
    said_day,
    timed_block,
)

ROOF_W, FOLDING_W = 100.0, 120.0
DCDC_A, MAINS_A = 20.0, 10.0
DRIVE_MIN = 60
OUT_FROM, OUT_TO = "09:00", "17:00"
"""A folding panel is out from breakfast until late in the afternoon [judgement]."""
CHARGING_V = 13.5
BOXED_EURO, BOXED_KG = 40.0, 2.0
GENERATED_A, GENERATOR_MIN = 20.0, 60
JACKET_LEAVES, JACKET_EURO, JACKET_KG = 0.85, 45.0, 1.0
"""So much of its running time a jacket of foam leaves a cool box [judgement]: two centimetres more
on the usual four let in a third less, and the lid and what is put in warm stay as they are."""
NEAR_FROST_K = 3.0
"""Nights so near to where charging is barred: the odds know colder ones [judgement]."""


def additions_of(plan: Plan, day: int, earliest_min: int) -> Iterator[Candidate]:
    """Everything that this box has not got; what is done on a day is put on `day`."""
    yield from _sun(plan)
    if plan.box.unit is None:
        yield from _vehicle(plan, day, earliest_min)
        yield from _relay(plan, day, earliest_min)
        yield from _mains(plan, day)
        yield from _tracking(plan)
    yield from _generator(plan, day, earliest_min)
    yield from _outputs_off(plan)
    yield from _pads(plan)
    yield from _warmth(plan)
    yield from _cooler(plan)


def appended(plan: Plan, group: str, part: SourceModel) -> Edit:
    """The edit that adds a source to a box."""
    every = [*getattr(plan.box, group), part]
    return edit("box", group, to=[one.model_dump(mode="json") for one in every])


def _free(plan: Plan, blocks: list[BlockModel]) -> list[BlockModel]:
    """The blocks under ids that the trip has not got."""
    taken = [block.id for block in plan.trip.blocks]
    found = []
    for block in blocks:
        taken.append(fresh_id("out", taken))
        found.append(block.model_copy(update={"id": taken[-1]}))
    return found


def _about(kg: float) -> Range:
    """What such a part may weigh."""
    return Range(low=max(round(0.8 * kg, 1), 0.1), high=max(round(1.2 * kg, 1), 0.2))


def roof_array(plan: Plan) -> SunModel:
    """A panel flat on the roof with a controller that passes it."""
    return _array_of(plan, PanelModel(id="roof", name="Roof panel", power_w=ROOF_W, mount="flat"))


def _array_of(plan: Plan, panel: PanelModel) -> SunModel:
    amps = next_up(CHARGER_A, panel.power_w / CHARGING_V)
    return SunModel(
        id=fresh_id(panel.id, [source.id for source in plan.box.sun]),
        name=panel.name,
        panels=[panel],
        controller=ControllerModel(kind="tracking", limit_a=amps),
    )


def dcdc_charger(plan: Plan) -> VehicleModel:
    """A DC-DC charger as it comes."""
    taken = [source.id for source in plan.box.vehicle]
    return VehicleModel(id=fresh_id("dcdc", taken), name="DC-DC charger", limit_a=DCDC_A)


def mains_charger(plan: Plan, limit_a: float = MAINS_A) -> MainsModel:
    """A mains charger as it comes."""
    taken = [source.id for source in plan.box.mains]
    return MainsModel(id=fresh_id("mains", taken), name="Mains charger", limit_a=limit_a)


def _sun(plan: Plan) -> Iterator[Candidate]:
    there = [array for array in plan.box.sun if array.on]
    if not there:
        yield _array(plan, "addpanel", "A panel of 100 W on the roof", roof_array(plan), [])
    if not any(panel.portable for array in there for panel in array.panels if panel.on):
        noon = 180.0 if plan.trip.site.latitude >= 0 else 0.0
        panel = PanelModel(
            id="folding",
            name="Folding panel",
            power_w=FOLDING_W,
            mount="aimed",
            azimuth_deg=noon,
            portable=True,
        )
        out = [
            BlockModel(id=f"out{n + 1}", kind="panel_out", day=n, start=OUT_FROM, end=OUT_TO)
            for n in range(len(plan.trip.days))
        ]
        text = "A folding panel of 120 W, out and turned by day"
        yield _array(plan, "addfolding", text, _array_of(plan, panel), out)


def _array(plan: Plan, key: str, text: str, array: SunModel, blocks: list[BlockModel]) -> Candidate:
    panel, amps = array.panels[0], array.controller.limit_a
    edits = [appended(plan, "sun", array)]
    if blocks:
        edits.append(more_blocks(plan, _free(plan, blocks)))
    euro = prices.PANEL.euro(panel.power_w) + prices.TRACKING.euro(amps)
    kg = prices.PANEL.kg(panel.power_w) + prices.TRACKING.kg(amps)
    return Candidate(
        key=key,
        group="sun",
        text=text,
        phrase=text[0].lower() + text[1:],
        edits=edits,
        euro=Range.of(prices.between(euro)),
        kg=_about(kg),
        bother=2,
    )


def _vehicle(plan: Plan, day: int, earliest_min: int) -> Iterator[Candidate]:
    if any(source.on for source in plan.box.vehicle):
        return
    edits = [appended(plan, "vehicle", dcdc_charger(plan))]
    drives = any(block.kind == "drive" for block in plan.trip.blocks)
    text = f"A DC-DC charger of {DCDC_A:g} A"
    if not drives:
        edits.append(more_blocks(plan, [timed_block(plan, "drive", day, DRIVE_MIN, earliest_min)]))
        text += f", and {DRIVE_MIN} min of driving on {said_day(plan, day)}"
    yield Candidate(
        key="adddcdc",
        group="vehicle",
        text=text,
        phrase=text[0].lower() + text[1:],
        edits=edits,
        euro=Range.of(prices.between(prices.DCDC.euro(DCDC_A))),
        kg=_about(prices.DCDC.kg(DCDC_A)),
        bother=3,
    )


def _relay(plan: Plan, day: int, earliest_min: int) -> Iterator[Candidate]:
    """Only between lead batteries of one voltage: into lithium it passes what nothing bounds."""
    lead = CHEMISTRIES[plan.box.battery.chemistry].lead
    if any(source.on for source in plan.box.vehicle) or not lead or plan.box.system_v != CLASS_V:
        return
    taken = [source.id for source in plan.box.vehicle]
    relay = VehicleModel(
        id=fresh_id("relay", taken), name="Relay", kind="relay", fuse_a=RELAY_FUSE_A
    )
    edits = [appended(plan, "vehicle", relay)]
    text = "A voltage-sensitive relay"
    if not any(block.kind == "drive" for block in plan.trip.blocks):
        edits.append(more_blocks(plan, [timed_block(plan, "drive", day, DRIVE_MIN, earliest_min)]))
        text += f", and {DRIVE_MIN} min of driving on {said_day(plan, day)}"
    yield Candidate(
        key="addrelay",
        group="vehicle",
        text=text,
        phrase=text[0].lower() + text[1:],
        edits=edits,
        euro=Range.of(prices.between(prices.RELAY.euro(RELAY_FUSE_A))),
        kg=_about(prices.RELAY.kg(RELAY_FUSE_A)),
        bother=3,
    )


def _generator(plan: Plan, day: int, earliest_min: int) -> Iterator[Candidate]:
    """A small one, through the mains charger of the box or one that comes with it."""
    own = getattr(plan.box, FUEL.key)
    if any(source.on for source in own) or plan.trip.kind == "alone":
        return
    generator = GeneratorModel(id=fresh_id(FUEL.key, [s.id for s in own]), name=FUEL.name)
    edits = [appended(plan, FUEL.key, generator)]
    euro, kg = prices.GENERATOR.euro(generator.rated_w), prices.GENERATOR.kg(generator.rated_w)
    text = f"A {FUEL.name.lower()} of {generator.rated_w:g} W"
    if not any(source.on for source in plan.box.mains):
        edits.append(appended(plan, "mains", mains_charger(plan, GENERATED_A)))
        euro += prices.MAINS.euro(GENERATED_A)
        kg += prices.MAINS.kg(GENERATED_A)
        text += f" with a mains charger of {GENERATED_A:g} A"
    block = timed_block(plan, FUEL.block or FUEL.key, day, GENERATOR_MIN, earliest_min)
    edits.append(more_blocks(plan, [block]))
    text += f", {GENERATOR_MIN} min on {said_day(plan, day)}"
    yield Candidate(
        key=f"add{FUEL.key}",
        group=FUEL.key,
        text=text,
        phrase=text[0].lower() + text[1:],
        edits=edits,
        euro=Range.of(prices.between(euro)),
        kg=_about(kg),
        bother=3,
    )


def _outputs_off(plan: Plan) -> Iterator[Candidate]:
    unit = plan.box.unit
    if unit is None or unit.off_unused or unit.standby_w <= 0.0:
        return
    yield Candidate(
        key="unitoff",
        group="use",
        text="The unit's outputs switched off while nothing runs",
        phrase="the unit's outputs off while nothing runs",
        edits=[edit("box", "unit", "off_unused", to=True)],
        euro=None,
        kg=None,
        bought=False,
        bother=1,
    )


def _mains(plan: Plan, day: int) -> Iterator[Candidate]:
    if any(source.on for source in plan.box.mains) or plan.trip.kind == "standby":
        return
    text = f"A mains charger of {MAINS_A:g} A, and one night on mains from {said_day(plan, day)}"
    yield Candidate(
        key="addmains",
        group="mains",
        text=text,
        phrase=text[0].lower() + text[1:],
        edits=[
            appended(plan, "mains", mains_charger(plan)),
            more_blocks(plan, [hookup_block(plan, day, 1)]),
        ],
        euro=Range.of(prices.between(prices.MAINS.euro(MAINS_A))),
        kg=_about(prices.MAINS.kg(MAINS_A)),
        bother=2,
    )


def _tracking(plan: Plan) -> Iterator[Candidate]:
    for n, array in enumerate(plan.box.sun):
        if not array.on or array.controller.kind != "pwm":
            continue
        amps = array.controller.limit_a
        yield Candidate(
            key=f"tracking:{array.id}",
            group="sun",
            text=f"{array.name}: a tracking controller in place of the PWM one",
            phrase=f"a tracking controller of {amps:g} A",
            edits=[edit("box", "sun", n, "controller", "kind", to="tracking")],
            euro=Range.of(prices.between(prices.TRACKING.euro(amps))),
            kg=_about(prices.TRACKING.kg(amps)),
        )


def _pads(plan: Plan) -> Iterator[Candidate]:
    """Pads and a box of foam, where frost bars a lithium battery from charging."""
    chemistry = CHEMISTRIES[plan.box.battery.chemistry]
    heater = plan.box.heater
    if plan.box.unit is not None or (heater is not None and heater.on):
        return
    if min(case_from_plan(plan).low_c) > chemistry.cold.barred_below_c + NEAR_FROST_K:
        return
    boxed = plan.box.housing.lag_h >= INSULATED_LAG_H
    edits = [edit("box", "heater", to=HeaterModel().model_dump(mode="json"))]
    if not boxed:
        edits.append(edit("box", "housing", "lag_h", to=INSULATED_LAG_H))
    text = "Heater pads under the battery" + ("" if boxed else ", boxed and insulated")
    euro = prices.PADS_EURO + (0.0 if boxed else BOXED_EURO)
    yield Candidate(
        key="addpads",
        group="battery",
        text=text,
        phrase=text[0].lower() + text[1:],
        edits=edits,
        euro=Range.of(prices.between(euro)),
        kg=_about(prices.PADS_KG + (0.0 if boxed else BOXED_KG)),
    )


def _warmth(plan: Plan) -> Iterator[Candidate]:
    """A box of foam round the battery, where pads or frost make it worth a thought."""
    pads = plan.box.heater is not None and plan.box.heater.on
    if not pads or plan.box.housing.lag_h >= INSULATED_LAG_H:
        return
    yield Candidate(
        key="insulate",
        group="battery",
        text="The battery boxed and insulated",
        phrase="the battery boxed and insulated",
        edits=[edit("box", "housing", "lag_h", to=INSULATED_LAG_H)],
        euro=Range.of(prices.between(BOXED_EURO)),
        kg=_about(BOXED_KG),
    )


def _cooler(plan: Plan) -> Iterator[Candidate]:
    """Foam round a compressor box, and shade over one that stands in the sun."""
    for n, appliance in enumerate(plan.use.appliances):
        pattern = appliance.pattern
        if not appliance.on or not isinstance(pattern, FridgePattern):
            continue
        name = f"{appliance.name[:1].lower()}{appliance.name[1:]}"
        yield Candidate(
            key=f"jacket:{appliance.id}",
            group="use",
            text=f"{appliance.name} in a jacket of foam, its grille left free",
            phrase=f"a jacket of foam for {name}",
            edits=[
                edit(
                    *("use", "appliances", n, "duty_percent"),
                    to=round(JACKET_LEAVES * appliance.duty_percent, 1),
                )
            ],
            euro=Range.of(prices.between(JACKET_EURO)),
            kg=_about(JACKET_KG),
        )
        if pattern.warmer_k <= 0.0:
            continue
        yield Candidate(
            key=f"shade:{appliance.id}",
            group="use",
            text=f"{appliance.name} in the shade and aired, no warmer than the air",
            phrase=f"{name} in the shade",
            edits=[edit("use", "appliances", n, "pattern", "warmer_k", to=0)],
            euro=None,
            kg=None,
            bought=False,
        )
