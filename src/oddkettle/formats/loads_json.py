"""A plain JSON list of loads, as scripts and spreadsheets write one, as things for the shelf.

    [{"name": "Lamp", "watts": 5, "hours": 4}, {"name": "Fridge", "wh_per_day": 400}]

`watts` is what one draws while it is on; `hours` how long a day, from 18:00 on, or `from` and `to`
like "18:00"; `wh_per_day` or `ah_per_day` (at 12 V) stand in place of both; `count` is how many.
"""

from __future__ import annotations

from typing import Any

from oddkettle.core.units.conversion import MINUTES_PER_DAY
from oddkettle.plan.plan_errors import refused

NAMES = {"name", "watts", "hours", "from", "to", "wh_per_day", "ah_per_day", "count", "mains"}
EVENING_MIN = 18 * 60
CLASS_V = 12.0


def knows(body: object) -> bool:
    """Whether a JSON document is such a list."""
    return isinstance(body, list) and all(isinstance(one, dict) for one in body)


def rows_of(body: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """A row of the shelf for each load. Raises PlanRefused; then none is taken."""
    return [_row(load, n) for n, load in enumerate(body, start=1)]


def _row(load: dict[str, Any], n: int) -> dict[str, Any]:
    where = f"things.{n}"
    for name in load:
        if name not in NAMES:
            raise refused(
                f"{where}.{str(name)[:20]}",
                str(name)[:40],
                ", ".join(sorted(NAMES)),
                "Leave it out or call it one of these.",
                f"Load number {n} has a field that means nothing here.",
            )
    count = _number(load, "count", where, 1.0)
    daily = _daily_wh(load, where)
    if daily is not None:
        watts, hours = daily / 24.0, {"start": "00:00", "end": "24:00"}
    else:
        watts, hours = _number(load, "watts", where), _hours(load, where)
    part = {
        "power_w": watts * count,
        "hours": [hours],
        "supply": "inverter" if load.get("mains") is True else "12v",
    }
    return {"kind": "appliance", "name": load.get("name"), "euro": None, "note": "", "part": part}


def _daily_wh(load: dict[str, Any], where: str) -> float | None:
    if "wh_per_day" in load:
        return _number(load, "wh_per_day", where)
    if "ah_per_day" in load:
        return CLASS_V * _number(load, "ah_per_day", where)
    return None


def _hours(load: dict[str, Any], where: str) -> dict[str, str]:
    if "from" in load or "to" in load:
        return {"start": str(load.get("from", "00:00")), "end": str(load.get("to", "24:00"))}
    minutes = round(60 * _number(load, "hours", where, 24.0))
    if not 1 <= minutes <= MINUTES_PER_DAY:
        raise refused(
            f"{where}.hours",
            str(load.get("hours"))[:40],
            "more than 0, at most 24 hours a day",
            "Say how many hours of a day it is on.",
            f"No load is on for {str(load.get('hours'))[:40]} hours of a day.",
        )
    if minutes == MINUTES_PER_DAY:
        return {"start": "00:00", "end": "24:00"}
    end = (EVENING_MIN + minutes) % MINUTES_PER_DAY
    return {"start": "18:00", "end": f"{end // 60:02d}:{end % 60:02d}"}


def _number(load: dict[str, Any], name: str, where: str, usual: float | None = None) -> float:
    value = load.get(name, usual)
    if isinstance(value, bool) or not isinstance(value, int | float) or not 0 < value < 1e6:
        raise refused(
            f"{where}.{name}",
            "nothing" if value is None else str(value)[:40],
            "a number above 0",
            f"Write {name} as a plain number.",
            "A load needs watts, or what it takes a day."
            if value is None
            else f"{name} of {str(load.get('name'))[:40]} is no number that can be used.",
        )
    return float(value)
