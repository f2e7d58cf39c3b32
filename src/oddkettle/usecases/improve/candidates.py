"""Changes that one might make to a plan: its own parts a size up, its habits a little other."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.construction.parts import prices
from oddkettle.core.construction.parts.prices import Tag
from oddkettle.core.loads.essential import may_be_cut
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.sources.source_series import SourceKind
from oddkettle.core.units.quantity import celsius, conductor, kelvin
from oddkettle.core.units.sold_sizes import BATTERY_AH, CHARGER_A, larger
from oddkettle.plan import Plan
from oddkettle.plan.quantities import clock_minutes
from oddkettle.plan.sources.sun import SunModel
from oddkettle.plan.sources.vehicle import VehicleModel
from oddkettle.plan.use import ApplianceModel, FridgePattern
from oddkettle.results.judgements import Edit
from oddkettle.results.run import Range
from oddkettle.usecases.improve.additions import additions_of
from oddkettle.usecases.improve.candidate import Candidate, Group
from oddkettle.usecases.simulate.edits import (
    edit,
    hookup_block,
    more_blocks,
    panel_like,
    said_day,
    timed_block,
)

CABLE_MM2 = (1.5, 2.5, 4, 6, 10, 16, 25, 35, 50, 70)
SIZES_TRIED = 2
"""So many usual sizes up of a battery and of a DC-DC charger are weighed."""
EXTRA_PANEL_W = 100.0
WARMER_K = 2.0
MAX_APPLIANCES = 8
TIMED: dict[str, SourceKind] = {
    kind.block: kind for kind in SOURCE_KINDS.values() if kind.block and kind.knob
}
"""Kinds of source of which more is had by the minute, by their block."""
Moment = tuple[int, int]
"""A day of the trip, and minutes after its midnight."""


def candidates_of(plan: Plan, tight_day: int, after: Moment = (0, 0)) -> list[Candidate]:
    """Every change that this plan offers; `tight_day` is where driving and mains would help.

    They are put on the day before it, and not before the moment `after`.
    """
    day = max(tight_day - 1, after[0])
    earliest_min = after[1] if day == after[0] else 0
    found = [
        *_sun(plan),
        *_vehicle(plan, day, earliest_min),
        *_minutes_more(plan, day, earliest_min),
        *_mains(plan, day),
        *_battery(plan),
        *_use(plan),
        *additions_of(plan, day, earliest_min),
    ]
    own = {tag.change: tag for tag in plan.assumptions.tags}
    return [_own_price(c, own.get(c.key)) for c in found]


def _own_price(candidate: Candidate, tag: Any) -> Candidate:
    if tag is None:
        return candidate
    return candidate.model_copy(
        update={
            "euro": Range(low=tag.euro_low, high=tag.euro_high),
            "kg": Range(low=tag.kg_low, high=tag.kg_high),
        }
    )


def next_size(sizes: tuple[float, ...], now: float) -> float | None:
    """The next larger of the usual sizes."""
    return next((float(size) for size in sizes if size > now * 1.02), None)


def cost_range(euro: float) -> Range:
    """What a typical price may be in a shop."""
    return Range.of(prices.between(euro))


def _swap(tag: Tag, size: float) -> tuple[Range, Range]:
    """Price and mass of a part that takes the place of another: the old one is not sold."""
    kg = tag.kg(size)
    return cost_range(tag.euro(size)), Range(low=round(0.8 * kg, 1), high=round(1.2 * kg, 1))


def _sun(plan: Plan) -> Iterator[Candidate]:
    taken = [p.id for s in plan.box.sun for p in s.panels]
    for n, array in enumerate(plan.box.sun):
        if not array.on:
            continue
        where = ("box", "sun", n)
        yield _more_panel(n, array, taken)
        bigger = next_size(CHARGER_A, array.controller.limit_a)
        if bigger is not None and array.controller.kind != "none":
            tag = prices.PWM if array.controller.kind == "pwm" else prices.TRACKING
            euro, kg = _swap(tag, bigger)
            yield Candidate(
                key=f"controller:{array.id}",
                group="sun",
                text=f"{array.name}: a controller of {bigger:g} A",
                phrase=f"a controller of {bigger:g} A for {_inside(array.name)}",
                edits=[edit(*where, "controller", "limit_a", to=bigger)],
                euro=euro,
                kg=kg,
            )
        thicker = next_size(CABLE_MM2, array.cable_mm2)
        if array.cable_m is not None and thicker is not None:
            yield _cable(
                f"cable:{array.id}",
                "sun",
                array.name,
                thicker,
                array.cable_m,
                edit(*where, "cable_mm2", to=thicker),
            )
        for p, panel in enumerate(array.panels):
            if panel.on and panel.mount == "tilted" and panel.portable:
                yield Candidate(
                    key=f"aim:{panel.id}",
                    group="sun",
                    text=f"{panel.name}: turned to the sun three times a day",
                    phrase=f"{_inside(panel.name)} turned to the sun three times a day",
                    edits=[
                        edit(*where, "panels", p, "mount", to="aimed"),
                        edit(*where, "panels", p, "aims", to=3),
                    ],
                    euro=None,
                    kg=None,
                    bought=False,
                )


def _more_panel(n: int, array: SunModel, taken: list[str]) -> Candidate:
    like = array.panels[-1]
    panel = panel_like(array, f"Another {EXTRA_PANEL_W:g} W", EXTRA_PANEL_W, taken)
    panels = [*array.panels, panel]
    return Candidate(
        key=f"panel:{array.id}",
        group="sun",
        text=f"{array.name}: another {EXTRA_PANEL_W:g} W beside {like.name.lower()}",
        phrase=f"another {EXTRA_PANEL_W:g} W of panel",
        edits=[
            edit("box", "sun", n, "panels", to=[p.model_dump(mode="json") for p in panels]),
            edit("box", "sun", n, "series", to=1),
        ],
        euro=cost_range(prices.PANEL.euro(EXTRA_PANEL_W)),
        kg=Range(low=3.0, high=8.0),
    )


def _cable(
    key: str, group: Group, name: str, area_mm2: float, length_m: float, change: Edit
) -> Candidate:
    metres = 2.0 * length_m
    kg = prices.CABLE_KG_PER_MM2_M * area_mm2 * metres
    return Candidate(
        key=key,
        group=group,
        text=f"{name}: cable of {conductor(area_mm2)}",
        phrase=f"cable of {conductor(area_mm2)} for {_inside(name)}",
        edits=[change],
        euro=cost_range(prices.CABLE_EURO_PER_MM2_M * area_mm2 * metres),
        kg=Range(low=round(0.9 * kg, 1), high=round(1.2 * kg, 1)),
    )


def _vehicle(plan: Plan, day: int, earliest_min: int) -> Iterator[Candidate]:
    for n, source in enumerate(plan.box.vehicle):
        if not source.on:
            continue
        yield from _charger(n, source)


def _minutes_more(plan: Plan, day: int, earliest_min: int) -> Iterator[Candidate]:
    """Minutes of driving, of a generator: of what the box has and more can be had by the minute."""
    for block, kind in TIMED.items():
        if kind.knob is None or not any(source.on for source in getattr(plan.box, kind.key)):
            continue
        for minutes in kind.knob.usual_min:
            yield Candidate(
                key=f"{block}:{minutes}",
                group=kind.key,
                text=f"{kind.knob.does} {minutes} min on {said_day(plan, day)}",
                phrase=f"{minutes} minutes of {kind.knob.noun} on {said_day(plan, day)}",
                edits=[more_blocks(plan, [timed_block(plan, block, day, minutes, earliest_min)])],
                euro=_by_the_hour(kind.knob.euro_h, minutes),
                kg=None,
                bought=False,
                bother=kind.knob.bother,
                slot=block,
                minutes=minutes,
            )


def _charger(n: int, source: VehicleModel) -> Iterator[Candidate]:
    where = ("box", "vehicle", n)
    sizes = [] if source.kind == "relay" else larger(CHARGER_A, source.limit_a, SIZES_TRIED)
    for place, bigger in enumerate(sizes):
        euro, kg = _swap(prices.DCDC, bigger)
        yield Candidate(
            key=f"dcdc:{source.id}" if place == 0 else f"dcdc:{source.id}:{bigger:g}",
            group="vehicle",
            text=f"{source.name}: one of {bigger:g} A",
            phrase=f"a charger of {bigger:g} A in place of {_inside(source.name)}",
            edits=[edit(*where, "limit_a", to=bigger)],
            euro=euro,
            kg=kg,
        )
    thicker = next_size(CABLE_MM2, source.feed.area_mm2)
    if thicker is not None:
        yield _cable(
            f"feed:{source.id}",
            "vehicle",
            source.name,
            thicker,
            source.feed.length_m,
            edit(*where, "feed", "area_mm2", to=thicker),
        )


def _by_the_hour(euro_h: tuple[float, float] | None, minutes: int) -> Range | None:
    if euro_h is None:
        return None
    low, high = (round(euro * minutes / 60, 1) for euro in euro_h)
    return Range(low=low, high=high)


def _mains(plan: Plan, night: int) -> Iterator[Candidate]:
    if not any(m.on for m in plan.box.mains) or plan.trip.kind == "standby":
        return
    yield Candidate(
        key="hookup:1",
        group="mains",
        text=f"One night on mains, from {said_day(plan, night)}",
        phrase=f"one night on mains, from {said_day(plan, night)},",
        edits=[more_blocks(plan, [hookup_block(plan, night, 1)])],
        euro=Range(low=5.0, high=15.0),
        kg=None,
        bought=False,
        bother=1,
        slot="hookup",
    )
    for n, charger in enumerate(plan.box.mains):
        bigger = next_size(CHARGER_A, charger.limit_a)
        if charger.on and bigger is not None:
            euro, kg = _swap(prices.MAINS, bigger)
            yield Candidate(
                key=f"mains:{charger.id}",
                group="mains",
                text=f"{charger.name}: one of {bigger:g} A",
                phrase=f"a mains charger of {bigger:g} A",
                edits=[edit("box", "mains", n, "limit_a", to=bigger)],
                euro=euro,
                kg=kg,
            )


def _battery(plan: Plan) -> Iterator[Candidate]:
    battery = plan.box.battery
    if plan.box.unit is not None:
        return
    euro_per_ah = CHEMISTRIES[battery.chemistry].euro(battery.battery_v)
    for n, bigger in enumerate(larger(BATTERY_AH, battery.capacity_ah, SIZES_TRIED)):
        euro = euro_per_ah * bigger * battery.series * battery.parallel
        yield Candidate(
            key="battery" if n == 0 else f"battery:{bigger:g}",
            group="battery",
            text=f"A battery of {bigger:g} Ah",
            phrase=f"a battery of {bigger:g} Ah",
            edits=[edit("box", "battery", "capacity_ah", to=bigger)],
            euro=cost_range(euro),
            kg=_battery_kg(plan, (bigger - battery.capacity_ah) * battery.parallel),
        )
    yield Candidate(
        key="battery:two",
        group="battery",
        text="The same battery once more, in parallel",
        phrase="the same battery once more",
        edits=[edit("box", "battery", "parallel", to=battery.parallel + 1)],
        euro=cost_range(euro_per_ah * battery.capacity_ah * battery.series),
        kg=_battery_kg(plan, battery.capacity_ah),
    )


def _battery_kg(plan: Plan, more_ah: float) -> Range:
    from oddkettle.core.battery.chemistries import CHEMISTRIES

    battery = plan.box.battery
    kg = CHEMISTRIES[battery.chemistry].kg_per_ah * more_ah * battery.battery_v / 12.0
    kg *= battery.series
    return Range(low=round(0.9 * kg, 1), high=round(1.2 * kg, 1))


def _use(plan: Plan) -> Iterator[Candidate]:
    inverter = plan.box.inverter
    if inverter is not None and inverter.switched == "always":
        yield Candidate(
            key="inverter",
            group="use",
            text="The inverter switched with what runs from it",
            phrase="the inverter switched with what runs from it",
            edits=[edit("box", "inverter", "switched", to="with_loads")],
            euro=None,
            kg=None,
            bought=False,
        )
    heaviest = sorted(
        (a for a in plan.use.appliances if a.on and may_be_cut(a)), key=_rough_wh, reverse=True
    )[:MAX_APPLIANCES]
    for appliance in heaviest:
        where = ("use", "appliances", plan.use.appliances.index(appliance))
        slot = f"appliance:{appliance.id}"
        if isinstance(appliance.pattern, FridgePattern):
            warmer = appliance.pattern.set_c + WARMER_K
            yield Candidate(
                key=f"warmer:{appliance.id}",
                group="use",
                text=f"{appliance.name}: {kelvin(WARMER_K)} warmer, {celsius(warmer)}",
                phrase=f"{_inside(appliance.name)} {kelvin(WARMER_K)} warmer",
                edits=[edit(*where, "pattern", "set_c", to=warmer)],
                euro=None,
                kg=None,
                bought=False,
                slot=slot,
            )
        else:
            yield Candidate(
                key=f"half:{appliance.id}",
                group="use",
                text=f"{appliance.name}: half as long",
                phrase=f"half the hours of {_inside(appliance.name)}",
                edits=[edit(*where, "duty_percent", to=max(appliance.duty_percent / 2, 1.0))],
                euro=None,
                kg=None,
                bought=False,
                bother=2,
                slot=slot,
            )
        yield Candidate(
            key=f"without:{appliance.id}",
            group="use",
            text=f"Without {_inside(appliance.name)}",
            phrase=f"doing without {_inside(appliance.name)}",
            edits=[edit(*where, "on", to=False)],
            euro=None,
            kg=None,
            bought=False,
            bother=4,
            slot=slot,
        )


def _inside(name: str) -> str:
    """A name as it stands within a sentence: small, unless it begins with an abbreviation."""
    first = name.split(maxsplit=1)[0]
    return name[0].lower() + name[1:] if first.isalpha() and first[1:].islower() else name


def _rough_wh(appliance: ApplianceModel) -> float:
    open_min = sum(
        (clock_minutes(h.end) - clock_minutes(h.start)) % 1440 or 1440 for h in appliance.hours
    )
    return appliance.power_w * appliance.duty_percent * open_min
