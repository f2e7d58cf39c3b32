"""What an entry of the log may be, its bounds, and how it is said."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from oddkettle.core.estimation.readings.log_kind import MAX_COUNTED, LogKind
from oddkettle.core.weather.sky_words import SKY_WORDS
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import refused
from oddkettle.plan.quantities import Moment, Readable
from oddkettle.plan.trip import SkyKey
from oddkettle.usecases.field.log.kinds import BY_KEY, LOG_KINDS

TICKED = "ticked"
"""A check of a list that was done; it says nothing of the level."""
EntryKind = Annotated[str, Field(json_schema_extra={"enum": [*BY_KEY, TICKED]})]
"""A key of the registry of kinds, or a tick."""
BY_HAND = "by hand"
"""Who wrote an entry that was typed on the machine itself."""


@dataclass(frozen=True)
class Writer:
    """Who writes an entry: what he is called, and the number of his device, if it was let in."""

    name: str = BY_HAND
    device: int | None = None


LONGEST_SPAN_H = 72.0
Counted = Annotated[float, Field(ge=0, le=MAX_COUNTED)]


OWNER = Writer()


class Detail(BaseModel):
    """What an entry says besides its value, by its kind."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    until: Moment | None = None
    """When a drive, a hook-up, a panel's time out or in, or a use ended."""
    appliance: str | None = None
    sky: SkyKey | None = None
    rested_h: float | None = Field(default=None, ge=0, le=240)
    amps: float | None = Field(default=None, ge=-1000, le=1000)
    """Into the battery, read together with a loaded voltage."""
    since: Moment | None = None
    """When the counters were set to zero; the counters read before when absent."""
    ah_in: Counted | None = None
    ah_out: Counted | None = None
    wh_in: Counted | None = None
    wh_out: Counted | None = None
    gross_in: Counted | None = None
    """By a meter behind all chargers, what goes straight into loads counted too."""
    gross_out: Counted | None = None
    """By a meter before all loads."""
    check: str | None = Field(default=None, max_length=160)
    """The check that was ticked, as list/check."""
    settled: Literal["right", "reset", "smaller"] | None = None
    """What was said of a reading that did not fit."""
    measured: str | None = Field(default=None, max_length=40)
    """What the meter showed at a check."""


class NewEntry(Detail):
    """An entry as it is typed; times are local to the trip's place, like 2026-06-08T21:30."""

    model_config = ConfigDict(
        json_schema_extra={"x-kinds": json.loads(json.dumps([kind.form for kind in LOG_KINDS]))}
    )

    at: Moment
    kind: EntryKind
    value: float | None = None
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200), Readable] = ""

    def detail(self) -> Detail:
        """What it says besides its value."""
        return Detail.model_validate({name: getattr(self, name) for name in Detail.model_fields})


def check_entry(plan: Plan, new: NewEntry) -> None:
    """Refuse what such an entry cannot be, with its bounds. Times are checked by the log."""
    if new.kind == TICKED:
        raise refused(
            "kind",
            TICKED,
            "a reading, an action or a sky",
            "Tick it on the Build page.",
            "Ticks are made on their checklist.",
        )
    kind = BY_KEY.get(new.kind)
    if kind is None:
        raise refused(
            "kind",
            new.kind,
            ", ".join(BY_KEY),
            "Choose one of these.",
            "There is no such kind of entry.",
        )
    chemistry = plan.box.battery.chemistry
    if not kind.offered(chemistry):
        raise refused(
            "kind",
            kind.label,
            "a battery of " + ", ".join(kind.chemistries or ()),
            "Read its rested voltage, or what a monitor shows.",
            f"A battery of {chemistry} has no such reading.",
        )
    _check_value(kind, new)
    counted = [getattr(new, part) for part in kind.counters]
    if counted and all(part is None for part in counted):
        where = kind.numbers[1].key
        raise refused(
            where,
            "nothing",
            f"at least one of them, 0 to {MAX_COUNTED:,.0f}",
            "Enter what the meter counts in or out.",
            "A counter reading needs a number.",
        )
    if kind.appliance and new.appliance not in [one.id for one in plan.use.appliances]:
        raise refused(
            "appliance",
            new.appliance or "nothing",
            "an appliance of the plan",
            "Choose one of the plan's appliances.",
            "This appliance is not in the plan.",
        )
    if new.kind == "sky" and new.sky is None:
        raise refused(
            "sky",
            "nothing",
            "clear to heavy cloud, or as usual",
            "Choose how it was.",
            "Say how the sky was.",
        )
    if kind.span and new.until is None:
        raise refused(
            "until",
            "nothing",
            f"up to {LONGEST_SPAN_H:g} h later",
            "Enter its end.",
            "This needs an end as well.",
        )


def entry_text(plan: Plan, kind: str, value: float, detail: Detail, ends: str) -> str:
    """An entry in words. `ends` is the local time at which it ended, where it has one."""
    names = {appliance.id: appliance.name for appliance in plan.use.appliances}
    name = names.get(detail.appliance or "", detail.appliance or "an appliance")
    rest = "" if detail.rested_h is None else f" after {detail.rested_h:g} h of rest"
    flow = "" if detail.amps is None else f" with {detail.amps:+g} A"
    counted = ", ".join(
        f"{amount:g} {unit}"
        for amount, unit in (
            (detail.ah_in, "Ah in"),
            (detail.ah_out, "Ah out"),
            (detail.wh_in, "Wh in"),
            (detail.wh_out, "Wh out"),
            (detail.gross_in, "Ah from the sources"),
            (detail.gross_out, "Ah into the loads"),
        )
        if amount is not None
    )
    word = SKY_WORDS.get(detail.sky or "")
    sky = "as usual" if word is None else word.text
    if kind == TICKED:
        return "ticked off"
    return BY_KEY[kind].text.format(
        value=value, rest=rest, flow=flow, counted=counted, ends=ends, name=name, sky=sky
    )


def _check_value(kind: LogKind, new: NewEntry) -> None:
    """Refuse a reading's number that is not there, or that no box can show."""
    for number in kind.numbers:
        if number.key != "value":
            continue
        span = f"{number.least:g} to {number.most:g} {number.unit}"
        if new.value is None:
            raise refused("value", "nothing", span, f"Enter {span}.", "A reading needs its number.")
        if not number.least <= new.value <= number.most:
            raise refused(
                "value",
                f"{new.value:g}",
                span,
                f"Enter {span}.",
                f"{new.value:g} {number.unit} is not a reading this box can show.",
            )
