"""Demo data: the sample plans and a log that has begun, put into an empty store."""

from __future__ import annotations

from contextlib import suppress
from datetime import datetime
from pathlib import Path

from oddkettle.store import samples
from oddkettle.store.plans import NoSuchPlan
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry
from oddkettle.usecases.field.track.tracked_trip import first_midnight
from oddkettle.usecases.plans.plans import MOTH_PLAN, import_plan, open_plan, titles

LEAD = "moth-season"
"""The demo's own plan, on which its log and its simulated monitor sit."""
SAMPLES = (
    LEAD,
    "gauging-hut",
    "winter-caravan",
    "canal-standby",
    "coast-unit",
    "coast-weekend",
    "quarry-separate",
    "quarry-combined",
    "quarry-selector",
    "quarry-relay",
    "radio-hill",
    "night-breather",
    "moth-survey",
)
MIDNIGHT = datetime(2026, 6, 6)
ENTRIES: dict[str, tuple[NewEntry, ...]] = {
    LEAD: (
    NewEntry(at=datetime(2026, 6, 6, 11, 0), kind="full", note="on the drive up"),
    NewEntry(at=datetime(2026, 6, 6, 20, 30), kind="monitor_percent", value=97, note="before dark"),
    NewEntry(at=datetime(2026, 6, 7, 6, 30), kind="monitor_percent", value=65),
    NewEntry(at=datetime(2026, 6, 7, 6, 32), kind="counters", ah_in=16.7, ah_out=44.8,
             since=MIDNIGHT, note="before the kettle"),
    NewEntry(at=datetime(2026, 6, 7, 18, 0), kind="sky", sky="some_cloud"),
    NewEntry(at=datetime(2026, 6, 7, 21, 30), kind="monitor_percent", value=86),
    NewEntry(at=datetime(2026, 6, 7, 21, 31), kind="counters", ah_in=52.2, ah_out=61.4),
    NewEntry(at=datetime(2026, 6, 8, 5, 40), kind="rested_voltage", value=13.18, rested_h=1.5,
             note="trap off since four"),
),
    "moth-survey": (
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
),
}  # fmt: skip
"""What the two of them wrote down before they put the monitor's line to the box, by the plan that
leads; it agrees with the truth that the simulated monitor sits on."""
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


def plan_file(examples: Path, plan_id: int = MOTH_PLAN) -> Path:
    """The sample that a plan of the demo came from, by its box; the lead where that is unknown."""
    with suppress(NoSuchPlan):
        found = examples / f"{open_plan(plan_id).document.box.key}.json"
        if found.is_file():
            return found
    return examples / f"{LEAD}.json"


def fill_demo(examples: Path, lead: str = LEAD) -> bool:
    """Fill an empty store, the plan with the log first; False when there are plans already."""
    if titles():
        return False
    # The other moth plan stands last, so that every sample has the same number whoever leads.
    ends = [name for name in ENTRIES if name != lead]
    names = [lead, *(name for name in SAMPLES if name not in ENTRIES), *ends]
    opened = [import_plan((examples / f"{name}.json").read_bytes()) for name in names]
    for new in ENTRIES[lead]:
        add_entry(opened[0].id, new)
    return True
