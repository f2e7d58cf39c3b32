"""Demo data: the sample plans and a few readings, put into an empty store."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

from oddkettle.services.log import NewEntry, add_entry
from oddkettle.services.plans import import_plan, titles

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
READINGS = (
    (datetime(2026, 6, 6, 20, 30), "monitor_percent", 92.0, "after the drive up"),
    (datetime(2026, 6, 7, 6, 30), "monitor_percent", 66.0, "before the kettle"),
    (datetime(2026, 6, 8, 5, 40), "rested_voltage", 13.16, "trap off since four"),
)


def fill_demo(examples: Path) -> bool:
    """Fill an empty store; False when there are plans already."""
    if titles():
        return False
    opened = [import_plan((examples / name).read_bytes()) for name in SAMPLES]
    for at, kind, value, note in READINGS:
        new = NewEntry(at=at, kind=kind, value=value, note=note)  # type: ignore[arg-type]
        add_entry(opened[0].id, new, "by hand")
    return True
