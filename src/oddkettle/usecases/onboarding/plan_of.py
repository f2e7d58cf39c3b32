"""A plan from a sentence: everything that was left out takes what suits place, season and box."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from math import acos, degrees, pi, radians, sin, tan
from typing import Literal
from zoneinfo import ZoneInfo

from pydantic import ValidationError

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.trip.grid import zone_named
from oddkettle.core.units.sold_sizes import next_up
from oddkettle.plan import Plan
from oddkettle.plan.box import (
    BatteryModel,
    Box,
    HeaterModel,
    InverterModel,
    UnitModel,
)
from oddkettle.plan.document import Assumptions
from oddkettle.plan.plan_errors import PlanRefused, from_fault, from_validation
from oddkettle.plan.sources.generator import GeneratorModel
from oddkettle.plan.sources.mains import MainsModel
from oddkettle.plan.sources.sun import ControllerModel, PanelModel, SunModel
from oddkettle.plan.sources.vehicle import FeedModel, VehicleModel
from oddkettle.plan.trip import BlockModel, Day, SiteModel, Trip
from oddkettle.plan.use import ApplianceModel, Hours, LoggerPattern, RadioPattern, Use
from oddkettle.text.words import number_word
from oddkettle.usecases.onboarding.sentence import Charger, Sentence, Shape, Thing
from oddkettle.usecases.onboarding.things import THINGS, UNIT, floor_of

KINDS: dict[Shape, Literal["travel", "standby", "alone"]] = {
    "trip": "travel", "which_box": "travel", "standby": "standby", "alone": "alone",
}  # fmt: skip
NOON, DRIVE_AT_MIN, GENERATOR_AT_MIN = 12 * 60, 10 * 60, 17 * 60
AMPS = (5, 10, 15, 20, 30, 40, 50, 60, 80, 100)
INVERTER_W = (150, 300, 600, 1000, 1500, 2000, 3000)
"""Sizes that are sold; more than the largest is several of them side by side."""
MAX_INVERTER_W, MAX_CONTROLLER_A = 6000.0, 300.0
"""As much as a plan takes (plan.quantities)."""
CONTROLLER_ROOM = 1.1
CHARGING_V = 13.0
SMALL_PANEL_W = 30.0
"""A smaller panel comes with a simple (PWM) controller."""
WARM_DAY_K = 7.0
STANDBY_DAYS = 3
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
    days = _days(sentence)
    whole = shape in {"standby", "alone"}
    appliances = [_appliance(t, n, sentence) for n, t in enumerate(sentence.things)]
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


def _days(sentence: Sentence) -> int:
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
        battery = BatteryModel(chemistry="nmc", capacity_ah=max(bank.size * bank.count / 11.1, 1))
        unit = UnitModel(capacity_wh=bank.size * bank.count)
        inverter = InverterModel(rating_w=_inverter_w(bank.size), idle_w=8)
    else:
        battery = BatteryModel(chemistry=bank.kind, capacity_ah=bank.size, parallel=bank.count)
        unit = None
        on_mains = sum(a.power_w for a in appliances if a.supply == "inverter")
        if on_mains:
            rating = _inverter_w(1.25 * on_mains)
            inverter = InverterModel(rating_w=rating, idle_w=max(4.0, rating / 80))
    sun, vehicle, mains, generator = [], [], [], []
    for n, charger in enumerate(sentence.chargers):
        key = f"{charger.kind}{n + 1}"
        if charger.kind in {"folding", "roof"}:
            sun.append(_sun(charger, key, sentence))
        elif charger.kind == "mains":
            mains.append(MainsModel(id=key, name="Mains charger", limit_a=charger.size))
        elif charger.kind == "generator":
            generator.append(GeneratorModel(id=key, name="Generator", rated_w=charger.size))
        else:
            vehicle.append(_vehicle(charger, key))
    if sentence.shape == "standby" and not mains:
        mains.append(MainsModel(id="charger", name="Mains charger", limit_a=10))
    if generator and not mains:
        mains.append(MainsModel(id="charger", name="Mains charger", limit_a=20))
    return Box(
        battery=battery,
        unit=unit,
        heater=pads,
        inverter=inverter,
        sun=sun,
        vehicle=vehicle,
        mains=mains,
        generator=generator,
    )


def _sun(charger: Charger, key: str, sentence: Sentence) -> SunModel:
    watts = charger.size
    folding = charger.kind == "folding"
    alone = sentence.shape == "alone"
    south = 180.0 if sentence.place.latitude >= 0 else 0.0
    panel = PanelModel(
        id=key,
        name="Folding panel" if folding else ("Panel" if alone else "Roof panel"),
        power_w=watts,
        # Left alone it stands steep towards the noon sun, for the winter; a roof is flat.
        mount="aimed" if folding else ("tilted" if alone else "flat"),
        tilt_deg=min(round(abs(sentence.place.latitude) / 5) * 5 + 10, 90) if alone else 35,
        azimuth_deg=south,
        portable=folding,
    )
    simple = watts < SMALL_PANEL_W
    return SunModel(
        id=key,
        name=panel.name,
        panels=[panel],
        controller=ControllerModel(
            kind="pwm" if simple else "tracking",
            limit_a=min(next_up(AMPS, CONTROLLER_ROOM * watts / CHARGING_V), MAX_CONTROLLER_A),
            efficiency_percent=98 if simple else 96,
        ),
    )


def _vehicle(charger: Charger, key: str) -> VehicleModel:
    if charger.kind == "relay":
        return VehicleModel(id=key, name="Relay", kind="relay", fuse_a=charger.size)
    if charger.kind == "socket":
        return VehicleModel(
            id=key, name="Vehicle socket", kind="socket", limit_a=charger.size,
            efficiency_percent=90, fuse_a=10, cut_out_v=11,
            feed=FeedModel(length_m=3, area_mm2=1.5, connectors_mohm=15),
        )  # fmt: skip
    return VehicleModel(id=key, name="DC-DC charger", limit_a=charger.size)


def _inverter_w(at_least: float) -> float:
    return min(next_up(INVERTER_W, at_least), MAX_INVERTER_W)


def _appliance(thing: Thing, place: int, sentence: Sentence) -> ApplianceModel:
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
        (kind.name or base.name) if thing.count == 1 else f"{kind.many}, {number_word(thing.count)}"
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
    elif isinstance(base.pattern, RadioPattern) and thing.sending_percent is not None:
        more = {
            "pattern": base.pattern.model_copy(update={"transmit_percent": thing.sending_percent})
        }
    elif isinstance(base.pattern, LoggerPattern) and thing.power_w is not None:
        more = {"pattern": None}
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
        found += _timed(charger, n, days)
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
                BlockModel(id=f"out{day + 1}", kind="panel_out", day=day, start=clock_of(first),
                           end=clock_of(last))
            )  # fmt: skip
    return found


def _timed(charger: Charger, n: int, days: int) -> list[BlockModel]:
    """Drives, nights on mains and hours of a generator, on every so many days between."""
    between = range(charger.every, days - 1, charger.every)
    if charger.kind in {"driving", "socket", "relay"}:
        return [
            BlockModel(id=f"drive{n + 1}-{day}", kind="drive", day=day,
                       start=clock_of(DRIVE_AT_MIN), end=clock_of(DRIVE_AT_MIN + charger.minutes))
            for day in between
        ]  # fmt: skip
    if charger.kind == "generator":
        return [
            BlockModel(id=f"gen{n + 1}-{day}", kind="generator", day=day,
                       start=clock_of(GENERATOR_AT_MIN),
                       end=clock_of(min(GENERATOR_AT_MIN + charger.minutes, 1440)))
            for day in between
        ]  # fmt: skip
    if charger.kind == "mains":
        return [
            BlockModel(id=f"mains{n + 1}-{day}", kind="hookup", day=day, start="18:00",
                       end_day=day + 1, end="08:00")
            for day in between
        ]  # fmt: skip
    return []
