"""What a box that lasts could do without: each part left at home, and a smaller battery."""

from __future__ import annotations

from collections.abc import Iterator

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.construction.parts import prices
from oddkettle.core.construction.parts.prices import Tag
from oddkettle.core.loads.essential import sounds_medical
from oddkettle.core.units.sold_sizes import BATTERY_AH
from oddkettle.plan import Plan
from oddkettle.plan.box import SOURCE_GROUPS, SourceModel
from oddkettle.results.run import Range
from oddkettle.usecases.improve.candidate import Candidate, Group
from oddkettle.usecases.simulate.edits import edit

SMALLER = 3
"""So many usual sizes down of a battery are weighed."""


TAGS: dict[str, Tag] = {"vehicle": prices.DCDC, "mains": prices.MAINS}
"""What sources of a kind cost, where that is known."""


def removals_of(plan: Plan) -> list[Candidate]:
    """Every part that may be spared; what is saved stands in place of what is spent.

    None where health hangs on the box, or where it waits for an outage: how long is not foreseen.
    """
    medical = any(one.medical or sounds_medical(one.name) for one in plan.use.appliances if one.on)
    if medical or plan.trip.kind == "standby":
        return []
    return [*_sources(plan), *_batteries(plan), *_inverter(plan)]


def _spared(
    key: str, group: Group, text: str, cost: tuple[float, float], *edits: object
) -> Candidate:
    euro, kg = cost
    return Candidate(
        key=key,
        group=group,
        text=text,
        phrase=text[0].lower() + text[1:],
        edits=list(edits),  # type: ignore[arg-type]
        euro=Range.of(prices.between(euro)) if euro > 0.0 else None,
        kg=Range(low=round(0.8 * kg, 1), high=round(1.2 * kg, 1)) if kg > 0.0 else None,
        bought=False,
        saves=True,
    )


def _sources(plan: Plan) -> Iterator[Candidate]:
    for n, array in enumerate(plan.box.sun):
        if array.on:
            watts = sum(panel.power_w * panel.count for panel in array.panels if panel.on)
            amps = array.controller.limit_a
            tag = prices.PWM if array.controller.kind == "pwm" else prices.TRACKING
            cost = (
                prices.PANEL.euro(watts) + tag.euro(amps),
                prices.PANEL.kg(watts) + tag.kg(amps),
            )
            text = f"Leave {array.name} at home"
            yield _spared(
                f"spare:{array.id}", "sun", text, cost, edit("box", "sun", n, "on", to=False)
            )
    for group in (one for one in SOURCE_GROUPS if one != "sun"):
        if group == "mains" and any(source.on for source in plan.box.generator):
            # A generator works through it.
            continue
        for n, source in enumerate(getattr(plan.box, group)):
            if source.on:
                known, size = _tag_of(group, source), getattr(source, "limit_a", 0.0)
                cost = (0.0, 0.0) if known is None else (known.euro(size), known.kg(size))
                text = f"Leave {source.name} at home"
                yield _spared(
                    f"spare:{source.id}", group, text, cost, edit("box", group, n, "on", to=False)
                )


def _tag_of(group: str, source: SourceModel) -> Tag | None:
    """What such a source costs by its amps; None where that is not known."""
    if getattr(source, "kind", "") == "relay":
        return prices.RELAY
    return TAGS.get(group)


def _batteries(plan: Plan) -> Iterator[Candidate]:
    battery, second = plan.box.battery, plan.box.second
    if plan.box.unit is not None:
        return
    chemistry = CHEMISTRIES[battery.chemistry]
    every = battery.series * battery.parallel
    scale = battery.battery_v / 12.0
    smaller = [size for size in BATTERY_AH if size < battery.capacity_ah][-SMALLER:]
    for size in reversed(smaller):
        less = (battery.capacity_ah - size) * every
        cost = (chemistry.euro(less * battery.battery_v), chemistry.kg_per_ah * less * scale)
        yield _spared(
            f"smaller:{size:g}",
            "battery",
            f"{'Batteries' if every > 1 else 'A battery'} of {size:g} Ah in place of "
            f"{battery.capacity_ah:g}",
            cost,
            edit("box", "battery", "capacity_ah", to=float(size)),
        )
    if battery.parallel > 1:
        less = battery.capacity_ah * battery.series
        cost = (chemistry.euro(less * battery.battery_v), chemistry.kg_per_ah * less * scale)
        yield _spared(
            "fewer",
            "battery",
            "One battery fewer",
            cost,
            edit("box", "battery", "parallel", to=battery.parallel - 1),
        )
    if second is not None and second.on:
        other = CHEMISTRIES[second.battery.chemistry]
        ah = second.battery.capacity_ah * second.battery.series * second.battery.parallel
        volts = second.battery.battery_v
        cost = (other.euro(ah * volts), other.kg_per_ah * ah * volts / 12.0)
        text = "Leave the second battery at home"
        yield _spared("spare:second", "battery", text, cost, edit("box", "second", "on", to=False))


def _inverter(plan: Plan) -> Iterator[Candidate]:
    inverter = plan.box.inverter
    used = any(one.on and one.supply == "inverter" for one in plan.use.appliances)
    if inverter is None or used:
        return
    cost = (prices.INVERTER.euro(inverter.rating_w), prices.INVERTER.kg(inverter.rating_w))
    text = "Leave the inverter at home: nothing runs from it"
    yield _spared("spare:inverter", "use", text, cost, edit("box", "inverter", to=None))
