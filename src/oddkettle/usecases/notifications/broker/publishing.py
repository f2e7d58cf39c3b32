"""What a broker is told of a plan, in the open Homie convention (version 5).

A home automation that knows the convention finds the box by its description: what it shows, in
which unit, and whether it is there.
"""

from __future__ import annotations

import json
from dataclasses import dataclass

from oddkettle import __version__
from oddkettle.store import alarms as alarm_store
from oddkettle.store.file.identity import data_id
from oddkettle.text import USUAL, render
from oddkettle.usecases.field.track.today import TodayReport, today_of
from oddkettle.usecases.notifications.alarms.alarms import Alarm, look
from oddkettle.usecases.process.clock import now_utc

PROPERTIES: dict[str, dict[str, object]] = {
    "level": {"name": "State of charge", "datatype": "float", "unit": "%", "format": "0:100"},
    "level-low": {"name": "Level, lowest of 8 in 10", "datatype": "float", "unit": "%"},
    "level-high": {"name": "Level, highest of 8 in 10", "datatype": "float", "unit": "%"},
    "tonight-safe": {"name": "Tonight is safe", "datatype": "boolean"},
    "tonight": {"name": "Tonight", "datatype": "string"},
    "verdict": {"name": "The rest of the trip", "datatype": "string"},
    "standing-alarms": {"name": "Alarms that stand", "datatype": "integer"},
    "alarm": {"name": "A new alarm", "datatype": "string", "retained": False},
}


@dataclass(frozen=True)
class Said:
    """One value of a topic."""

    topic: str
    payload: str
    retain: bool = True


def device_name(plan_id: int) -> str:
    """What a plan's box is called at a broker: two installations have their own names there."""
    return f"odd-kettle-{data_id()}-{plan_id}"


def device_topic(domain: str, plan_id: int) -> str:
    """What every topic of a plan's box begins with."""
    return f"{domain}/5/{device_name(plan_id)}"


def description_of(base: str, name: str) -> list[Said]:
    """That the box is there, and what it shows."""
    document = {
        "homie": "5.0",
        "version": 1,
        "name": name,
        "extensions": [],
        "nodes": {"box": {"name": "Battery box", "properties": PROPERTIES}},
        "type": f"battery box, Odd Kettle {__version__}",
    }
    return [Said(f"{base}/$description", json.dumps(document)), Said(f"{base}/$state", "ready")]


def values_of(base: str, plan_id: int) -> list[Said]:
    """Everything that is shown now, and each new alarm once. Raises PlanRefused, NoSuchPlan."""
    today, standing = today_of(plan_id), look(plan_id)
    shown = _shown(today, standing)
    said = [Said(f"{base}/box/{key}", value) for key, value in shown.items()]
    told = {one.key for one in alarm_store.alarms(plan_id) if one.told_at is not None}
    for alarm in standing:
        if alarm.tell and alarm.key not in told:
            text = render(f"{alarm.text} {alarm.remedy}", USUAL)
            said.append(Said(f"{base}/box/alarm", text, retain=False))
            alarm_store.mark(plan_id, alarm.key, told=now_utc())
    return said


def _shown(today: TodayReport, standing: list[Alarm]) -> dict[str, str]:
    return {
        "level": f"{today.level.middle:.1f}",
        "level-low": f"{today.level.low:.1f}",
        "level-high": f"{today.level.high:.1f}",
        "tonight-safe": "true" if today.safe else "false",
        "tonight": render(today.headline, USUAL),
        "verdict": render(today.rest, USUAL),
        "standing-alarms": str(len(standing)),
    }
