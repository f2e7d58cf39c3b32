"""What an entry of the log may be, its bounds, and how it is said."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal, get_args

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from oddkettle.core.weather.sky_words import SKY_WORDS
from oddkettle.plan import Plan
from oddkettle.plan.complaints import Complaint, PlanRefused
from oddkettle.plan.trip import SkyKey

ReadingKind = Literal[
    "monitor_percent", "rested_voltage", "loaded_voltage", "counters", "net_amps", "full", "cut_out"
]
ActionKind = Literal[
    "drove", "no_drive", "hooked_up", "no_hookup", "panel_out", "panel_in", "skipped", "ran"
]
TICKED = "ticked"
"""A check of a list that was done; it says nothing of the level."""
EntryKind = Literal[ReadingKind, ActionKind, "sky", "ticked"]
READINGS: tuple[str, ...] = get_args(ReadingKind)
ACTIONS: tuple[str, ...] = get_args(ActionKind)
LIMITS: dict[str, tuple[float, float, str]] = {
    "monitor_percent": (0.0, 100.0, "%"),
    "rested_voltage": (5.0, 32.0, "V"),
    "loaded_voltage": (5.0, 32.0, "V"),
    "net_amps": (-1000.0, 1000.0, "A"),
}
SPANS = ("drove", "hooked_up", "panel_out", "panel_in", "skipped", "ran")
OF_AN_APPLIANCE = ("skipped", "ran")
MAX_COUNTED = 1e6
LONGEST_SPAN_H = 72.0
Counted = Annotated[float, Field(ge=0, le=MAX_COUNTED)]


class Detail(BaseModel):
    """What an entry says besides its value, by its kind."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    until: datetime | None = None
    """When a drive, a hook-up, a panel's time out or in, or a use ended."""
    appliance: str | None = None
    sky: SkyKey | None = None
    rested_h: float | None = Field(default=None, ge=0, le=240)
    amps: float | None = Field(default=None, ge=-1000, le=1000)
    """Into the battery, read together with a loaded voltage."""
    since: datetime | None = None
    """When the counters were set to zero; the counters read before when absent."""
    ah_in: Counted | None = None
    ah_out: Counted | None = None
    wh_in: Counted | None = None
    wh_out: Counted | None = None
    check: str | None = Field(default=None, max_length=160)
    """The check that was ticked, as list/check."""


class NewEntry(Detail):
    """An entry as it is typed; times are local to the trip's place, like 2026-06-08T21:30."""

    at: datetime
    kind: EntryKind
    value: float | None = None
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)] = ""

    def detail(self) -> Detail:
        """What it says besides its value."""
        return Detail.model_validate({name: getattr(self, name) for name in Detail.model_fields})


def refused(where: str, value: object, limit: str, remedy: str, says: str) -> PlanRefused:
    """A refusal of one field of an entry."""
    return PlanRefused(
        [Complaint(where=where, value=str(value), limit=limit, remedy=remedy, says=says)]
    )


def check_entry(plan: Plan, new: NewEntry) -> None:
    """Refuse what such an entry cannot be, with its bounds. Times are checked by the log."""
    if new.kind in LIMITS:
        low, high, unit = LIMITS[new.kind]
        if new.value is None:
            raise refused("value", "nothing", f"{low:g} to {high:g} {unit}",
                          f"Enter {low:g} to {high:g} {unit}.",
                          "A reading needs its number.")  # fmt: skip
        if not low <= new.value <= high:
            raise refused("value", f"{new.value:g}", f"{low:g} to {high:g} {unit}",
                          f"Enter {low:g} to {high:g} {unit}.",
                          f"{new.value:g} {unit} is not a reading this box can show.")  # fmt: skip
    counted = [new.ah_in, new.ah_out, new.wh_in, new.wh_out]
    if new.kind == "counters" and all(part is None for part in counted):
        raise refused("ah_out", "nothing", f"at least one of four, 0 to {MAX_COUNTED:,.0f}",
                      "Enter what the meter counts in or out, in Ah or Wh.",
                      "A counter reading needs a number.")  # fmt: skip
    if new.kind in OF_AN_APPLIANCE:
        keys = [appliance.id for appliance in plan.use.appliances]
        if new.appliance not in keys:
            raise refused("appliance", new.appliance or "nothing", "an appliance of the plan",
                          "Choose one of the plan's appliances.",
                          "This appliance is not in the plan.")  # fmt: skip
    if new.kind == "sky" and (new.sky is None or new.sky == "usual"):
        raise refused("sky", new.sky or "nothing", "clear to heavy cloud", "Choose how it was.",
                      "Say how the sky was.")  # fmt: skip
    if new.kind == TICKED:
        raise refused("kind", TICKED, "a reading, an action or a sky", "Tick it on the Build page.",
                      "Ticks are made on their checklist.")  # fmt: skip
    if new.kind in SPANS and new.until is None:
        raise refused("until", "nothing", f"up to {LONGEST_SPAN_H:g} h later", "Enter its end.",
                      "This needs an end as well.")  # fmt: skip


def says_entry(plan: Plan, kind: str, value: float, detail: Detail, ends: str) -> str:
    """An entry in words. `ends` is the local time at which it ended, where it has one."""
    names = {appliance.id: appliance.name for appliance in plan.use.appliances}
    name = names.get(detail.appliance or "", detail.appliance or "an appliance")
    rest = "" if detail.rested_h is None else f" after {detail.rested_h:g} h of rest"
    flow = "" if detail.amps is None else f" with {detail.amps:+g} A"
    counted = ", ".join(
        f"{amount:g} {unit}"
        for amount, unit in (
            (detail.ah_in, "Ah in"), (detail.ah_out, "Ah out"),
            (detail.wh_in, "Wh in"), (detail.wh_out, "Wh out"),
        )
        if amount is not None
    )  # fmt: skip
    word = SKY_WORDS.get(detail.sky or "")
    sky = "as usual" if word is None else word.says
    return {
        "monitor_percent": f"monitor says {value:g} %",
        "rested_voltage": f"rested at {value:g} V{rest}",
        "loaded_voltage": f"{value:g} V under load{flow}",
        "counters": f"counted {counted}",
        "net_amps": f"{value:+g} A at the battery",
        "full": "the charger says full",
        "cut_out": "the box cut out",
        "drove": f"drove until {ends}",
        "no_drive": "did not drive that day",
        "hooked_up": f"on mains until {ends}",
        "no_hookup": "no mains that day",
        "panel_out": f"panel out until {ends}",
        "panel_in": f"panel put away until {ends}",
        "skipped": f"{name} off until {ends}",
        "ran": f"{name} on until {ends}",
        "sky": f"the sky was {sky}",
        TICKED: "ticked off",
    }[kind]
