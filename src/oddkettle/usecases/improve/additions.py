"""What a box has not got and could have: a source of each kind, and warmth for its battery."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.battery.temperature import INSULATED_LAG_H
from oddkettle.core.construction.parts import prices
from oddkettle.core.units.sold_sizes import CHARGER_A, next_up
from oddkettle.plan import Plan
from oddkettle.plan.sources.mains import MainsModel
from oddkettle.plan.sources.sun import ControllerModel, PanelModel, SunModel
from oddkettle.plan.sources.vehicle import VehicleModel
from oddkettle.plan.trip import BlockModel
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
BOXED_EURO = 40.0


def additions_of(plan: Plan, day: int, earliest_min: int) -> Iterator[Candidate]:
    """Everything that this box has not got; what is done on a day is put on `day`."""
    yield from _sun(plan)
    if plan.box.unit is None:
        yield from _vehicle(plan, day, earliest_min)
        yield from _mains(plan, day)
        yield from _tracking(plan)
    yield from _warmth(plan)
    yield from _shade(plan)


def _appended(plan: Plan, group: str, part: SunModel | VehicleModel | MainsModel) -> Edit:
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


def _sun(plan: Plan) -> Iterator[Candidate]:
    there = [array for array in plan.box.sun if array.on]
    if not there:
        panel = PanelModel(id="roof", name="Roof panel", power_w=ROOF_W, mount="flat")
        yield _array(plan, "addpanel", "A panel of 100 W on the roof", panel, [])
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
        yield _array(plan, "addfolding", text, panel, out)


def _array(
    plan: Plan, key: str, text: str, panel: PanelModel, blocks: list[BlockModel]
) -> Candidate:
    amps = next_up(CHARGER_A, panel.power_w / CHARGING_V)
    taken = [source.id for source in plan.box.sun]
    array = SunModel(
        id=fresh_id(panel.id, taken),
        name=panel.name,
        panels=[panel],
        controller=ControllerModel(kind="tracking", limit_a=amps),
    )
    edits = [_appended(plan, "sun", array)]
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
    taken = [source.id for source in plan.box.vehicle]
    charger = VehicleModel(id=fresh_id("dcdc", taken), name="DC-DC charger", limit_a=DCDC_A)
    edits = [_appended(plan, "vehicle", charger)]
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


def _mains(plan: Plan, day: int) -> Iterator[Candidate]:
    if any(source.on for source in plan.box.mains) or plan.trip.kind == "standby":
        return
    taken = [source.id for source in plan.box.mains]
    charger = MainsModel(id=fresh_id("mains", taken), name="Mains charger", limit_a=MAINS_A)
    text = f"A mains charger of {MAINS_A:g} A, and one night on mains from {said_day(plan, day)}"
    yield Candidate(
        key="addmains",
        group="mains",
        text=text,
        phrase=text[0].lower() + text[1:],
        edits=[
            _appended(plan, "mains", charger),
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
        kg=Range(low=1.0, high=3.0),
    )


def _shade(plan: Plan) -> Iterator[Candidate]:
    for n, appliance in enumerate(plan.use.appliances):
        pattern = appliance.pattern
        if pattern is None or pattern.type != "fridge" or pattern.warmer_k <= 0.0:
            continue
        yield Candidate(
            key=f"shade:{appliance.id}",
            group="use",
            text=f"{appliance.name} in the shade and aired, no warmer than the air",
            phrase=f"{appliance.name[:1].lower()}{appliance.name[1:]} in the shade",
            edits=[edit("use", "appliances", n, "pattern", "warmer_k", to=0)],
            euro=None,
            kg=None,
            bought=False,
        )
