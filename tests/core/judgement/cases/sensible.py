"""Sensible boxes at random, by rules of thumb of their own, and mistakes to make in them.

Nothing here asks the rules under test: sizes come from ratios that any handbook gives.
"""

from __future__ import annotations

import copy
import random
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

Document = dict[str, Any]

BATTERIES = (50, 60, 80, 100, 120, 150, 200)
CHARGERS = (5, 10, 15, 20, 25, 30, 40, 50, 60)
PANELS = (50, 80, 100, 120, 160, 200, 240, 300, 400)
MAY_TAKE = {"lifepo4": 0.5, "agm": 0.25, "gel": 0.18}
KEEPS = {"lifepo4": 20, "agm": 55, "gel": 55}
PLACES = (
    ("Hollin Moor", 54.4, -2.3, 300, "Europe/London"),
    ("Karst Hill", 45.6, 14.1, 400, "Europe/Vienna"),
    ("Pine Lake", 47.2, 8.9, 600, "Europe/Zurich"),
    ("Dry Valley", 40.2, -3.4, 650, "Europe/Madrid"),
)
SUN_WH_PER_W = 2.6
"""What a watt of flat panel brings on a middling summer day, all losses counted [Wh]."""


def thing(key: str, name: str, watts: float, *hours: tuple[str, str], **more: Any) -> Document:
    return {
        "id": key,
        "name": name,
        "power_w": watts,
        "figure": "measured",
        "hours": [{"start": start, "end": end} for start, end in hours],
        **more,
    }


def _copper(amps: float, metres: float, volts: float) -> float:
    """Copper for a fiftieth of the voltage, 0.0175 ohm mm2/m there and back, a fifth for warmth."""
    area = 1.2 * 0.0175 * 2 * metres * amps / (0.02 * volts)
    return next(size for size in (4, 6, 10, 16, 25, 35, 50) if size >= area)


def _uses(rng: random.Random) -> tuple[list[Document], float]:
    """(appliances, about what they take a day [Wh])."""
    things = [thing("lights", "Lights", rng.choice([4, 6, 9]), ("19:30", "23:00"))]
    wh = 3.5 * things[0]["power_w"]
    if rng.random() < 0.7:
        watts = rng.choice([36, 42, 48])
        things.append(
            thing(
                "coolbox",
                "Cool box",
                watts,
                ("00:00", "24:00"),
                duty_percent=28,
                pattern={"type": "fridge", "set_c": 5},
            )
        )
        wh += 0.33 * 24 * watts
    if rng.random() < 0.6:
        things.append(thing("phones", "Phones", 12, ("18:00", "20:00"), supply="usb"))
        wh += 27
    if rng.random() < 0.4:
        things.append(thing("fan", "Fan", 8, ("13:00", "17:00")))
        wh += 32
    if rng.random() < 0.5:
        things.append(thing("laptop", "Laptop", 55, ("10:00", "12:00"), supply="inverter"))
        wh += 140
    return things, wh


def sensible(seed: int) -> Document:
    """One box that a careful person would build, on a summer trip of three to five days."""
    rng = random.Random(seed)
    chemistry = rng.choice(["lifepo4", "lifepo4", "lifepo4", "agm", "gel"])
    things, use_wh = _uses(rng)
    usable = 1 - KEEPS[chemistry] / 100
    # Two days of use without any sun, and room for the chargers that it gets.
    capacity = next((ah for ah in BATTERIES if ah * 12.5 * usable >= 2.0 * use_wh), BATTERIES[-1])
    watts = next((w for w in PANELS if w * SUN_WH_PER_W >= 1.35 * use_wh), PANELS[-1])
    may_a = MAY_TAKE[chemistry] * capacity
    controller = next(a for a in CHARGERS if a >= watts / 12.0 * 1.1)
    while watts / 12.5 > 0.6 * may_a:
        capacity = next(ah for ah in (*BATTERIES, 280, 400) if ah > capacity)
        may_a = MAY_TAKE[chemistry] * capacity
    left_a = may_a - watts / 12.5
    mains = max((a for a in CHARGERS if a <= left_a / 2), default=0)
    drive = max((a for a in CHARGERS if a <= min(left_a / 2, 30)), default=0)
    days = rng.randint(3, 5)
    name, latitude, longitude, height, zone = rng.choice(PLACES)
    box: Document = {
        "battery": {"chemistry": chemistry, "capacity_ah": capacity, "age": "new"},
        "sun": [
            {
                "id": "sun",
                "name": "Roof panels",
                "panels": [{"id": "p", "name": "Roof", "power_w": watts / 2, "count": 2}],
                "controller": {"limit_a": controller},
                "cable_m": 4,
                "cable_mm2": _copper(watts / 17.0, 4, 17.0),
            }
        ],
        "vehicle": [],
        "mains": [],
    }
    blocks = []
    if drive:
        area = 10 if drive <= 15 else 16 if drive <= 20 else 25
        box["vehicle"].append(
            {
                "id": "drive",
                "name": "DC-DC charger",
                "limit_a": drive,
                "alternator": {"rated_a": 150},
                "feed": {"length_m": 4, "area_mm2": area},
            }
        )
        blocks.extend(
            {"id": f"d{day}", "kind": "drive", "day": day, "start": "10:00", "end": "11:00"}
            for day in range(0, days, 2)
        )
    lead_wants = chemistry != "lifepo4"
    if mains and (lead_wants or rng.random() < 0.4):
        box["mains"].append({"id": "plug", "name": "Mains charger", "limit_a": mains})
        blocks.append(
            {"id": "h", "kind": "hookup", "day": days - 1, "start": "12:00", "end": "22:00"}
        )
    if any(thing.get("supply") == "inverter" for thing in things):
        box["inverter"] = {"rating_w": 250, "idle_w": 4}
    _variety(rng, box, things, use_wh)
    return {
        "format": "oddkettle-plan",
        "version": 4,
        "name": f"Sensible {seed}",
        "use": {"appliances": things},
        "box": box,
        "trip": {
            "site": {
                "name": name,
                "latitude": latitude,
                "longitude": longitude,
                "altitude_m": height,
                "timezone": zone,
            },
            "start": f"2026-0{rng.randint(5, 8)}-{rng.randint(1, 20):02d}",
            "days": [{"sky": "usual"} for _ in range(days)],
            "start_percent": 100,
            "floor_percent": KEEPS[chemistry] - 5,
            "blocks": blocks,
        },
        "assumptions": {"climate": "place"},
    }


def _variety(rng: random.Random, box: Document, things: list[Document], use_wh: float) -> None:
    """What else careful people have: a pair, PWM, a relay, a machine, a unit, a generator."""
    battery, sun = box["battery"], box["sun"][0]
    lead = battery["chemistry"] != "lifepo4"
    if rng.random() < 0.25 and battery["capacity_ah"] >= 100:
        battery.update(capacity_ah=battery["capacity_ah"] / 2, parallel=2)
    if rng.random() < 0.2:
        # Panels of 36 cells suit a PWM controller, which wants room for strong light.
        sun["controller"]["kind"] = "pwm"
        watts = sum(panel["power_w"] * panel["count"] for panel in sun["panels"])
        sun["cable_mm2"] = _copper(watts / 17.0, 4, 12.5)
    if rng.random() < 0.2 and lead and box["vehicle"]:
        # A relay into lead of the vehicle's own size: what an old alternator is made for.
        box["vehicle"][0].update(
            name="Relay",
            kind="relay",
            fuse_a=60,
            alternator={"rated_a": 150, "volts": 14.1},
            feed={"length_m": 5, "area_mm2": _copper(48.0, 5, 13.0)},
        )
    if rng.random() < 0.15 and not lead:
        machine = thing(
            "machine",
            "Breathing machine",
            25,
            ("22:00", "06:00"),
            priority="must",
            medical=True,
            backup=True,
        )
        things.append(machine)
        battery["capacity_ah"] = round(battery["capacity_ah"] + 60 / battery.get("parallel", 1))
    if rng.random() < 0.15 and not lead and battery.get("parallel", 1) == 1:
        box["unit"] = {
            "capacity_wh": round(battery["capacity_ah"] * 15),
            "standby_w": 2,
            "dc_efficiency_percent": 95,
        }
    if rng.random() < 0.1 and box["mains"]:
        box["generator"] = [{"id": "gen", "name": "Generator", "rated_w": 1000, "stands": "open"}]


@dataclass(frozen=True)
class Mistake:
    """A known mistake: what it must raise, how it is made, and what box it needs first."""

    name: str
    raises: str
    make: Callable[[Document], None]
    needs: Callable[[Document], bool] = lambda document: True


def made(mistake: Mistake, document: Document) -> Document:
    """A copy with the mistake in it."""
    spoiled = copy.deepcopy(document)
    mistake.make(spoiled)
    return spoiled
