"""The sentence of any plan: what its pickers show."""

from __future__ import annotations

from itertools import pairwise
from statistics import median

from oddkettle.plan import Plan
from oddkettle.plan.box import SOURCE_GROUPS, Box, SourceModel
from oddkettle.plan.quantities import clock_minutes
from oddkettle.plan.sources.sun import PanelModel, SunModel
from oddkettle.plan.trip import Trip
from oddkettle.plan.use import ApplianceModel
from oddkettle.usecases.onboarding.chargers import CHARGERS, ChargerKind
from oddkettle.usecases.onboarding.sentence import (
    MAX_MONTHS,
    MAX_NIGHTS,
    Bank,
    Charger,
    Sentence,
    Shape,
    Thing,
)
from oddkettle.usecases.onboarding.things import THINGS, UNIT

MOST_THINGS, MOST_CHARGERS, MOST_BATTERIES = 60, 6, 8
MONTH_DAYS, MINUTES_A_DAY = 30.44, 1440
SHAPES: dict[str, Shape] = {"travel": "trip", "standby": "standby", "alone": "alone"}
NEVER_EVERY = 30
"""What is never done on the trip is done every so many days at the earliest."""


def sentence_of(plan: Plan) -> Sentence:
    """The sentence of a plan: what its pickers show."""
    trip = plan.trip
    days = len(trip.days)
    return Sentence(
        shape=SHAPES[trip.kind],
        bank=_bank_of(plan.box),
        chargers=list(_chargers_of(plan))[:MOST_CHARGERS],
        nights=min(max(days - 1, 1), MAX_NIGHTS),
        months=min(max(round(days / MONTH_DAYS), 1), MAX_MONTHS),
        place=trip.site,
        start=trip.start,
        coldest_c=_coldest(trip),
        things=[_thing_of(one) for one in plan.use.appliances if one.on][:MOST_THINGS],
    )


def _bank_of(box: Box) -> Bank:
    battery = box.battery
    pads = box.heater is not None and box.heater.on
    age = battery.age if battery.age in {"new", "years", "old"} else None
    if box.unit is not None:
        return Bank(kind=UNIT, size=box.unit.capacity_wh, pads=pads, age=age)
    count = min(battery.series * battery.parallel, MOST_BATTERIES)
    return Bank(kind=battery.chemistry, size=battery.capacity_ah, count=count, pads=pads, age=age)


def sources_of(box: Box) -> list[SourceModel]:
    """Every source of a box."""
    return [source for group in SOURCE_GROUPS for source in getattr(box, group)]


def panels_of(source: SourceModel, portable: bool | None) -> list[PanelModel]:
    """The panels of a source that are out, of those put out by hand or of the others."""
    if not isinstance(source, SunModel):
        return []
    return [panel for panel in source.panels if panel.on and panel.portable == portable]


def size_in(kind: ChargerKind, box: Box) -> float:
    """What all sources of a kind come to; 0 where none is there."""
    own = [source for source in sources_of(box) if source.on and kind.is_of(source)]
    if kind.portable is not None:
        return sum(p.power_w * p.count for s in own for p in panels_of(s, kind.portable))
    return sum(float(getattr(source, kind.rated) or kind.usual) for source in own)


def _chargers_of(plan: Plan) -> list[Charger]:
    found = []
    for kind in CHARGERS.values():
        size = size_in(kind, plan.box)
        if size <= 0:
            continue
        every, minutes = _often(kind, plan.trip)
        found.append(Charger(kind=kind.key, size=max(size, 1.0), every=every, minutes=minutes))
    return found


def _often(kind: ChargerKind, trip: Trip) -> tuple[int, int]:
    """Every how many days it is done on the trip, and for how many minutes."""
    blocks = [block for block in trip.blocks if block.kind == kind.block]
    if not blocks:
        return NEVER_EVERY, 60
    lasts = median(
        clock_minutes(b.end) - clock_minutes(b.start)
        + MINUTES_A_DAY * ((b.end_day if b.end_day is not None else b.day) - b.day)
        for b in blocks
    )  # fmt: skip
    done = sorted({block.day for block in blocks})
    gaps = [after - before for before, after in pairwise([0, *done]) if after > before]
    every = min(max(round(median(gaps or [1])), 1), NEVER_EVERY)
    return every, int(min(max(lasts, 5), 720))


def _coldest(trip: Trip) -> float | None:
    """The night that every day of the trip was told to have; None where the climate tells."""
    lows = {day.low_c for day in trip.days}
    return next(iter(lows)) if len(lows) == 1 else None


def _thing_of(one: ApplianceModel) -> Thing:
    hours = one.hours[0] if len(one.hours) == 1 else None
    return Thing(
        kind=_kind_of(one),
        id=one.id,
        name=one.name,
        power_w=one.power_w,
        hours=hours,
        duty_percent=one.duty_percent,
    )


def _kind_of(one: ApplianceModel) -> str:
    """Which thing of the shelf it is, by its name; "other" where none is called so."""
    name = one.name.partition(",")[0].strip().lower()
    for kind in THINGS.values():
        if name in {(kind.name or kind.appliance.name).lower(), kind.many.lower()}:
            return kind.key
    return "other"
