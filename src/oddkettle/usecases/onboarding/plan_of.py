"""A plan from a sentence: everything that was left out takes what suits place, season and box."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from math import acos, degrees, pi, radians, sin, tan
from typing import Any, Literal
from zoneinfo import ZoneInfo

from pydantic import ValidationError

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.core.trip.grid import zone_named
from oddkettle.core.units.sold_sizes import next_up
from oddkettle.plan import Plan
from oddkettle.plan.box import (
    SOURCE_GROUPS,
    BatteryModel,
    Box,
    HeaterModel,
    InverterModel,
    SourceModel,
    UnitModel,
)
from oddkettle.plan.document import Assumptions
from oddkettle.plan.plan_errors import PlanRefused, from_fault, from_validation
from oddkettle.plan.sources.mains import MainsModel
from oddkettle.plan.trip import BlockModel, Day, SiteModel, Trip
from oddkettle.plan.use import (
    ApplianceModel,
    FridgePattern,
    Hours,
    LoggerPattern,
    RadioPattern,
    Use,
)
from oddkettle.text.words import number_word
from oddkettle.usecases.onboarding.chargers import CHARGERS
from oddkettle.usecases.onboarding.sentence import Charger, Sentence, Shape, Thing
from oddkettle.usecases.onboarding.things import THINGS, UNIT, floor_of
from oddkettle.usecases.plans.places import year_at

KINDS: dict[Shape, Literal["travel", "standby", "alone"]] = {
    "trip": "travel", "which_box": "travel", "standby": "standby", "alone": "alone",
}  # fmt: skip
NOON = 12 * 60
INVERTER_W = (150, 300, 600, 1000, 1500, 2000, 3000)
"""Sizes that are sold; more than the largest is several of them side by side."""
MAX_INVERTER_W = 6000.0
"""As much as a plan takes (plan.quantities)."""
WARM_DAY_K = 7.0
STANDBY_DAYS = 3
MAINS_A = 20.0
"""The charger that a generator goes through, where none was told."""
LEAST_LIFT_K = 4.0
"""A fridge's share that was told means little where it is hardly warmer outside than in."""
HEATED_C = 18.0
"""Where people sit it is no colder [judgement]."""
DARK_BY_MIN, BED_MIN = 20 * 60, 23 * 60
PANEL_MARGIN_MIN = 90
HALF_HOUR = 30


def plan_of(sentence: Sentence) -> Plan:
    """The plan that a sentence tells. Raises PlanRefused."""
    try:
        return _plan_of(sentence)
    except ValidationError as error:
        raise PlanRefused(from_validation(error, Plan)) from error
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from fault


def _plan_of(sentence: Sentence) -> Plan:
    shape = sentence.shape
    days = days_of(sentence)
    whole = shape in {"standby", "alone"}
    appliances = [appliance_of(t, n, sentence) for n, t in enumerate(sentence.things)]
    for place, charger in enumerate(sentence.chargers):
        if charger.kind not in CHARGERS:
            raise PlanError(
                f"There is no way to charge called {charger.kind!r}.",
                where=("chargers", place, "kind"),
                value=charger.kind,
                limit=", ".join(CHARGERS),
                remedy="Take one of these.",
            )
    kept = [c for c in sentence.chargers if not (c.kind == "mains" and shape == "standby")]
    trip = Trip(
        kind=KINDS[shape],
        site=sentence.place,
        start=sentence.start,
        begins="00:00" if whole else "12:00",
        ends="24:00" if whole else "12:00",
        days=[Day()] * days,
        blocks=_blocks(sentence, kept, days),
        floor_percent=floor_of(sentence.bank.kind),
    )
    plan = Plan(
        name=_name(sentence),
        use=Use(appliances=appliances),
        box=_box(sentence, appliances),
        trip=trip,
        assumptions=Assumptions(climate="place"),
    )
    if sentence.coldest_c is None:
        return plan
    low = sentence.coldest_c
    cold = [Day(low_c=low, high_c=min(low + WARM_DAY_K, 60.0))] * days
    return plan.model_copy(update={"trip": trip.model_copy(update={"days": cold})})


def days_of(sentence: Sentence) -> int:
    """How many days the trip of a sentence has."""
    if sentence.shape == "standby":
        return STANDBY_DAYS
    if sentence.shape == "alone":
        year, month = divmod(sentence.start.month - 1 + sentence.months, 12)
        until = date(sentence.start.year + year, month + 1, 1)
        return min((until - sentence.start.replace(day=1)).days, 400)
    return sentence.nights + 1


def _name(sentence: Sentence) -> str:
    place = sentence.place.name
    if sentence.shape == "standby":
        return f"Standing by, {place}"[:80]
    if sentence.shape == "alone":
        return f"Left alone, {place}"[:80]
    count = number_word(sentence.nights).capitalize()
    return f"{count} {'night' if sentence.nights == 1 else 'nights'}, {place}"[:80]


def _box(sentence: Sentence, appliances: list[ApplianceModel]) -> Box:
    bank = sentence.bank
    pads = HeaterModel() if bank.pads else None
    inverter = None
    if bank.kind == UNIT:
        # A ready-made unit has an inverter of its own, and a controller for its panels.
        battery = BatteryModel(
            chemistry="nmc", capacity_ah=max(bank.size * bank.count / 11.1, 1), age=bank.age
        )
        unit = UnitModel(capacity_wh=bank.size * bank.count)
        inverter = InverterModel(rating_w=inverter_w(bank.size), idle_w=8)
    else:
        battery = BatteryModel(
            chemistry=bank.kind, capacity_ah=bank.size, parallel=bank.count, age=bank.age
        )
        unit = None
        on_mains = sum(a.power_w for a in appliances if a.supply == "inverter")
        if on_mains:
            rating = inverter_w(1.25 * on_mains)
            inverter = InverterModel(rating_w=rating, idle_w=max(4.0, rating / 80))
    return Box(
        battery=battery,
        unit=unit,
        heater=pads,
        inverter=inverter,
        **_sources(sentence),
    )


def _sources(sentence: Sentence) -> dict[str, Any]:
    """What charges it, by the fields of a box; with the mains charger that others go through."""
    found: dict[str, list[SourceModel]] = {group: [] for group in SOURCE_GROUPS}
    for n, charger in enumerate(sentence.chargers):
        kind = CHARGERS[charger.kind]
        found[kind.source].append(kind.part(charger, f"{charger.kind}{n + 1}", sentence))
    if sentence.shape == "standby" and not found["mains"]:
        found["mains"].append(MainsModel(id="charger", name="Mains charger", limit_a=10))
    through = [SOURCE_KINDS[group].through for group in SOURCE_GROUPS if found[group]]
    if "mains" in through and not found["mains"]:
        found["mains"].append(MainsModel(id="charger", name="Mains charger", limit_a=MAINS_A))
    return found


def inverter_w(at_least: float) -> float:
    """The size of inverter that is sold for so many watts."""
    return min(next_up(INVERTER_W, at_least), MAX_INVERTER_W)


def appliance_of(thing: Thing, place: int, sentence: Sentence) -> ApplianceModel:
    """What runs, as the plan holds it. Raises PlanError for what no shelf knows."""
    kind = THINGS.get(thing.kind)
    if kind is None:
        raise PlanError(
            f"There is no thing called {thing.kind!r} to run.",
            where=("things", place, "kind"),
            value=thing.kind,
            limit=", ".join(THINGS),
            remedy='Take "other" and say its watts.',
        )
    base = kind.appliance
    name = (
        (thing.name or kind.name or base.name)
        if thing.count == 1
        else f"{kind.many}, {number_word(thing.count)}"
    )
    hours = base.hours if thing.hours is None else [thing.hours]
    if kind.by_dark and thing.hours is None:
        hours = [Hours(start=clock_of(dusk(sentence.place, sentence.start)), end="23:00")]
    told = thing.power_w is not None or thing.wh_a_day is not None
    more: dict[str, object] = {}
    power_w = (base.power_w if thing.power_w is None else thing.power_w) * thing.count
    if thing.wh_a_day is not None:
        power_w = thing.wh_a_day * thing.count / 24
        more = {"hours": [Hours(start="00:00", end="24:00")], "pattern": None, "duty_percent": 100}
    elif isinstance(base.pattern, FridgePattern) and stands_heated(thing, sentence):
        more = {"pattern": base.pattern.model_copy(update={"room_c": HEATED_C})}
    elif isinstance(base.pattern, RadioPattern) and thing.sending_percent is not None:
        more = {
            "pattern": base.pattern.model_copy(update={"transmit_percent": thing.sending_percent})
        }
    elif isinstance(base.pattern, LoggerPattern) and thing.power_w is not None:
        more = {"pattern": None}
    if thing.duty_percent is not None and thing.wh_a_day is None:
        more |= {"duty_percent": thing.duty_percent}
        pattern = more.get("pattern", base.pattern)
        if isinstance(pattern, FridgePattern):
            # What its owner saw of it holds where and when it is used, lid and all.
            air_c = usual_air_c(sentence) + pattern.warmer_k
            seen_c = max(air_c, pattern.room_c if pattern.room_c is not None else air_c)
            told_at = {"lid_percent": 0, "reference_c": max(seen_c, pattern.set_c + LEAST_LIFT_K)}
            more["pattern"] = pattern.model_copy(update=told_at)
    supply = "inverter" if sentence.bank.kind == UNIT and base.supply == "inverter" else base.supply
    return base.model_copy(
        update={
            "id": f"{kind.key}{place + 1}",
            "name": name[0].upper() + name[1:],
            "power_w": power_w,
            "hours": hours,
            "supply": supply,
            "spread_percent": min(base.spread_percent, 10) if told else base.spread_percent,
            **more,
        }
    )


def usual_air_c(sentence: Sentence) -> float:
    """The mean air of the trip's month at its place, or as its nights were told [C]."""
    if sentence.coldest_c is not None:
        return sentence.coldest_c + WARM_DAY_K / 2
    month = year_at(sentence.place.latitude, sentence.place.longitude).months[
        sentence.start.month - 1
    ]
    return (month.low_c + month.high_c) / 2


def stands_heated(thing: Thing, sentence: Sentence) -> bool:
    """Whether a cool box stands where it is heated: as was said, else wherever somebody is.

    In the cold it runs less in the open air, so that the other guess would promise too much.
    """
    return sentence.shape != "alone" if thing.stands is None else thing.stands == "heated"


def dusk(place: SiteModel, day: date) -> int:
    """Minutes after midnight at which the sun goes down, to half an hour, 22:30 at the latest.

    Where it stays up all day 20:00, where it stays down 16:00.
    """
    half = half_day_h(place.latitude, day)
    if half in (0.0, 12.0):
        return DARK_BY_MIN if half else DARK_BY_MIN - 4 * 60
    down = 60 * (solar_noon_h(place, day) + half)
    return int(min(max(round(down / HALF_HOUR) * HALF_HOUR, 15 * 60), BED_MIN - HALF_HOUR))


def half_day_h(latitude: float, day: date) -> float:
    """Hours from noon to sunset, by the sun's declination alone [Cooper 1969]; 0 to 12."""
    declination = radians(23.45) * sin(2 * pi * (284 + day.timetuple().tm_yday) / 365)
    cosine = -tan(radians(max(min(latitude, 89.0), -89.0))) * tan(declination)
    if cosine >= 1.0:
        return 0.0
    return 12.0 if cosine <= -1.0 else degrees(acos(cosine)) / 15.0


def solar_noon_h(place: SiteModel, day: date) -> float:
    """The clock's hour at which the sun stands highest, without the equation of time."""
    zone: ZoneInfo = zone_named(place.timezone)
    offset = datetime(day.year, day.month, day.day, 12, tzinfo=zone).utcoffset() or timedelta()
    return 12.0 + offset.total_seconds() / 3600 - place.longitude / 15.0


def clock_of(minute: float) -> str:
    """Minutes after midnight as HH:MM, 00:00 to 24:00."""
    bound = int(min(max(minute, 0), 1440))
    return f"{bound // 60:02d}:{bound % 60:02d}"


def _blocks(sentence: Sentence, chargers: list[Charger], days: int) -> list[BlockModel]:
    found: list[BlockModel] = []
    if any(charger.kind == "folding" for charger in chargers):
        found += _panel_out(sentence, days)
    for n, charger in enumerate(chargers):
        found += blocks_of(charger, n, days)
    return found


def _panel_out(sentence: Sentence, days: int) -> list[BlockModel]:
    """The folding panel stands out from an hour and a half after sunrise to as long before dark."""
    half = 60 * half_day_h(sentence.place.latitude, sentence.start)
    noon = 60 * solar_noon_h(sentence.place, sentence.start)
    open_min = max(half - PANEL_MARGIN_MIN, HALF_HOUR)
    start = max(round((noon - open_min) / HALF_HOUR) * HALF_HOUR, 0)
    end = min(round((noon + open_min) / HALF_HOUR) * HALF_HOUR, 1439)
    whole = sentence.shape == "alone"
    found = []
    for day in range(days):
        first = start if day or whole else max(start, NOON)
        last = end if day < days - 1 or whole else min(end, NOON)
        if last - first >= HALF_HOUR:
            found.append(
                BlockModel(
                    id=f"out{day + 1}",
                    kind="panel_out",
                    day=day,
                    start=clock_of(first),
                    end=clock_of(last),
                )
            )
    return found


def blocks_of(charger: Charger, n: int, days: int) -> list[BlockModel]:
    """Drives, nights on mains and hours of a generator, on every so many days between."""
    kind = CHARGERS[charger.kind]
    if kind.block is None:
        return []
    ends = kind.begins + (charger.minutes if kind.lasts is None else kind.lasts)
    over = ends // 1440 if ends > 1440 else 0
    return [
        BlockModel(
            id=f"{kind.key}{n + 1}-{day}",
            kind=kind.block,
            day=day,
            start=clock_of(kind.begins),
            end_day=day + over if over else None,
            end=clock_of(ends - 1440 * over),
        )
        for day in range(charger.every, days - 1, charger.every)
    ]
