"""Demo data: the sample plans and a log that has begun, put into an empty store."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

from oddkettle.store import samples
from oddkettle.store.plans import NoSuchPlan
from oddkettle.usecases.log.entries import NewEntry
from oddkettle.usecases.log.log import add_entry
from oddkettle.usecases.plans.plans import MOTH_PLAN, import_plan, open_plan, titles
from oddkettle.usecases.track.tracked_trip import first_midnight

SAMPLES = (
    "moth-survey.json",
    "gauging-hut.json",
    "winter-caravan.json",
    "canal-standby.json",
    "coast-unit.json",
    "coast-weekend.json",
    "quarry-separate.json",
    "quarry-combined.json",
    "quarry-selector.json",
    "quarry-relay.json",
    "radio-hill.json",
    "night-breather.json",
)
MIDNIGHT = datetime(2026, 6, 6)
ENTRIES = (
    NewEntry(at=datetime(2026, 6, 6, 11, 0), kind="full", note="on the drive up"),
    NewEntry(at=datetime(2026, 6, 6, 20, 30), kind="monitor_percent", value=97, note="before dark"),
    NewEntry(at=datetime(2026, 6, 7, 6, 30), kind="monitor_percent", value=60),
    NewEntry(at=datetime(2026, 6, 7, 6, 32), kind="counters", ah_in=20.0, ah_out=53.2,
             since=MIDNIGHT, note="before the kettle"),
    NewEntry(at=datetime(2026, 6, 7, 18, 0), kind="sky", sky="some_cloud"),
    NewEntry(at=datetime(2026, 6, 7, 21, 30), kind="monitor_percent", value=81),
    NewEntry(at=datetime(2026, 6, 7, 21, 31), kind="counters", ah_in=56.0, ah_out=70.8),
    NewEntry(at=datetime(2026, 6, 8, 5, 40), kind="rested_voltage", value=13.15, rested_h=1.5,
             note="trap off since four"),
)  # fmt: skip
"""What the two of them wrote down before they put the monitor's line to the box; it agrees with
the truth that the simulated monitor sits on."""
MONITOR_FROM_H = 60.0
"""The simulated monitor is on the line from noon of the third day."""


def monitor_from_h(plan_id: int = MOTH_PLAN) -> float | None:
    """From which hour of the trip the simulated monitor goes on; None without the demo plan."""
    try:
        plan = open_plan(plan_id).document
    except NoSuchPlan:
        return None
    newest = samples.newest(plan_id)
    if newest is None:
        return MONITOR_FROM_H
    return (newest.at_ms / 1000 - first_midnight(plan).timestamp()) / 3600.0


def fill_demo(examples: Path) -> bool:
    """Fill an empty store; False when there are plans already."""
    if titles():
        return False
    opened = [import_plan((examples / name).read_bytes()) for name in SAMPLES]
    for new in ENTRIES:
        add_entry(opened[0].id, new, "by hand")
    return True
