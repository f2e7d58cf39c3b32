"""The log of a plan: what was read, done and seen, corrected and deleted without loss."""

from __future__ import annotations

from datetime import date, datetime

from oddkettle.core.estimation.readings import READING_KINDS
from oddkettle.core.estimation.readings.reading import ReadingKind, Settled
from oddkettle.core.trip.grid import zone_named
from oddkettle.core.units.quantity import clock
from oddkettle.core.values.copying import copied
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.plan_errors import refused
from oddkettle.plan.quantities import LazyModel
from oddkettle.store import log as store
from oddkettle.store import steps
from oddkettle.store.log import Entry
from oddkettle.text.words import moment
from oddkettle.usecases.field.log.checks import (
    check_counters,
    check_time,
    check_volts,
    end_of,
    moment_on_trip,
)
from oddkettle.usecases.field.log.entries import (
    OWNER,
    TICKED,
    Detail,
    EntryKind,
    NewEntry,
    Writer,
    check_entry,
    entry_text,
)
from oddkettle.usecases.field.log.kinds import BY_KEY
from oddkettle.usecases.plans.plans import open_plan
from oddkettle.usecases.process.clock import now_utc
from oddkettle.usecases.process.events import hub
from oddkettle.usecases.simulate.run_cache import run_plan


class LogEntry(LazyModel):
    """An entry with what it says of the level, and what the plan said."""

    id: int
    at_utc: str
    at_local: str
    step: float
    """Place on the plan's grid, fractional; outside 0..steps when off the trip."""
    kind: EntryKind
    value: float
    detail: Detail
    """Its times are local."""
    text: str
    note: str
    written_at: str
    written_by: str
    replaces: int | None
    """The entry that it corrects."""
    low_percent: float | None
    mid_percent: float | None
    high_percent: float | None
    planned_percent: float | None
    worth: str
    """How much this entry is worth, in words."""
    was: str = ""
    """What the entry said that it corrects; empty where it corrects none."""
    against: str = ""
    """What another device had said of the same thing, where this one says otherwise."""


def add_entry(
    plan_id: int,
    new: NewEntry,
    writer: Writer = OWNER,
    replaces: int | None = None,
    sent_key: str | None = None,
) -> LogEntry:
    """Write an entry, or one that corrects another. Raises PlanRefused when it cannot be.

    One that comes again under the same `sent_key` is written once.
    """
    plan = open_plan(plan_id).document
    check_entry(plan, new)
    at = moment_on_trip(plan, new.at, "at")
    detail = new.detail()
    if new.until is not None:
        detail.until = end_of(plan, at, new.until)
    if new.since is not None:
        detail.since = moment_on_trip(plan, new.since, "since")
        if detail.since >= at:
            raise refused(
                "since",
                clock(new.since),
                f"before {new.at:%a} {clock(new.at)}",
                "Enter when the counters stood at zero.",
                "Counters cannot be set to zero after they were read.",
            )
    check_time(plan, new, at)
    check_volts(plan, new)
    value = 0.0 if new.value is None else new.value
    before = store.entries(plan_id)
    read_before = [
        (datetime.fromisoformat(one.at_utc), detail_of(one)) for one in before if one.id != replaces
    ]
    check_counters(plan, new, at, read_before)
    with store.one_step():
        entry = store.add(
            plan_id,
            at.isoformat(),
            new.kind,
            value,
            new.note,
            now_utc(),
            writer.name,
            device=writer.device,
            detail=detail.model_dump_json(exclude_none=True),
            replaces=replaces,
            sent_key=sent_key,
        )
        if entry.id not in {one.id for one in before}:
            text = text_of_entry(plan, entry)
            did = text if replaces is None else f"corrected: {text}"
            steps.record(plan_id, did, entry.id, replaces)
    read = _read(plan_id, plan, [entry])[0]
    hub.tell(plan_id, "log")
    return read.model_copy(update={"against": _against(plan, entry, before)})


def settle_entry(plan_id: int, entry_id: int, what: Settled, writer: Writer = OWNER) -> LogEntry:
    """Say what it is about a reading that did not fit; it stays, with what was said of it.

    Raises PlanRefused for an entry of which that cannot be said, NoSuchEntry.
    """
    plan = open_plan(plan_id).document
    found = next((one for one in store.entries(plan_id) if one.id == entry_id), None)
    if found is None:
        raise store.NoSuchEntry(f"There is no entry number {entry_id} to change.")
    kind = BY_KEY.get(found.kind)
    reading = None if kind is None or kind.reading is None else READING_KINDS[kind.reading]
    if reading is None or what not in answers_to(reading):
        raise refused(
            "what",
            what,
            "an answer that fits this reading",
            "Correct the entry, or take it out.",
            "No such answer belongs to this entry.",
        )
    detail = detail_of(found)
    detail.settled = what
    with store.one_step():
        entry = store.add(
            plan_id,
            found.at_utc,
            found.kind,
            found.value,
            found.note,
            now_utc(),
            writer.name,
            device=writer.device,
            detail=detail.model_dump_json(exclude_none=True),
            replaces=entry_id,
        )
        said = f"said of it: {SAID[what]} ({text_of_entry(plan, entry)})"
        steps.record(plan_id, said, entry.id, entry_id)
    hub.tell(plan_id, "log")
    return _read(plan_id, plan, [entry])[0]


def answers_to(kind: ReadingKind) -> tuple[Settled, ...]:
    """What may be said of a reading that does not fit."""
    if not kind.tells_level or kind.anchor:
        return ()
    return ("right", "reset", "smaller") if kind.biased else ("right", "smaller")


SAID: dict[Settled, str] = {
    "right": "it is right",
    "reset": "the monitor was reset",
    "smaller": "the battery holds less than was thought",
}


def _against(plan: Plan, entry: Entry, before: list[Entry]) -> str:
    """What another device had said of the same thing on the same day, if it said otherwise."""
    kind = BY_KEY.get(entry.kind)
    if kind is None or (kind.block is None and not kind.appliance):
        return ""
    zone = zone_named(plan.trip.site.timezone)

    def day(one: Entry) -> date:
        return datetime.fromisoformat(one.at_utc).astimezone(zone).date()

    for other in reversed(before):
        said = BY_KEY.get(other.kind)
        same = said is not None and said.block == kind.block and said.appliance == kind.appliance
        if kind.appliance:
            same = same and detail_of(other).appliance == detail_of(entry).appliance
        if not same or _writer(other) == _writer(entry) or day(other) != day(entry):
            continue
        if (other.kind, other.detail) != (entry.kind, entry.detail):
            noted = text_of_entry(plan, other)
            return f"{other.written_by} had noted: {noted}. Both stand in the log."
    return ""


def _writer(entry: Entry) -> Writer:
    return Writer(entry.written_by, entry.device)


def text_of_entry(plan: Plan, entry: Entry) -> str:
    """An entry in words, as the log lists it."""
    zone = zone_named(plan.trip.site.timezone)
    until = detail_of(entry).until
    ends = "" if until is None else clock(until.astimezone(zone))
    return entry_text(plan, entry.kind, entry.value, detail_of(entry), ends)


def list_entries(plan_id: int) -> list[LogEntry]:
    """All entries of a plan, by time."""
    return _read(plan_id, open_plan(plan_id).document, store.entries(plan_id))


def withdrawn_entries(plan_id: int) -> list[LogEntry]:
    """The entries that were taken out and can be put back, by time; not those corrected."""
    corrected = {one.replaces for one in store.entries(plan_id)}
    gone = [one for one in store.withdrawn(plan_id) if one.id not in corrected]
    return _read(plan_id, open_plan(plan_id).document, gone)


def delete_entry(plan_id: int, entry_id: int) -> None:
    """Take an entry out; `restore_entry` puts it back."""
    plan = open_plan(plan_id).document
    gone = [one for one in store.entries(plan_id) if one.id == entry_id]
    with store.one_step():
        store.delete(plan_id, entry_id, now_utc())
        steps.record(plan_id, f"withdrew: {text_of_entry(plan, gone[0])}", None, entry_id)
    hub.tell(plan_id, "log")


def restore_entry(plan_id: int, entry_id: int) -> None:
    """Put a deleted entry back."""
    plan = open_plan(plan_id).document
    with store.one_step():
        store.restore(plan_id, entry_id)
        back = [one for one in store.entries(plan_id) if one.id == entry_id]
        steps.record(plan_id, f"put back: {text_of_entry(plan, back[0])}", entry_id, None)
    hub.tell(plan_id, "log")


def detail_of(entry: Entry) -> Detail:
    """What an entry says besides its value; times are UTC."""
    return Detail.model_validate_json(entry.detail)


def _read(plan_id: int, plan: Plan, entries: list[Entry]) -> list[LogEntry]:
    if not entries:
        return []
    run = run_plan(plan)
    zone = run.grid.zone
    before = {}
    if any(entry.replaces is not None for entry in entries):
        before = {one.id: one for one in store.withdrawn(plan_id)}
    read = []
    for entry in entries:
        at = datetime.fromisoformat(entry.at_utc)
        local = at.astimezone(zone)
        since = at - moment(run, 0)
        step = since.total_seconds() / (60 * run.grid.step_min)
        on_trip = 0 <= step < run.grid.steps
        detail = detail_of(entry)
        for name in ("until", "since"):
            when = getattr(detail, name)
            setattr(detail, name, None if when is None else when.astimezone(zone))
        low, mid, high, worth = _level(plan, entry)
        ends = "" if detail.until is None else clock(detail.until)
        read.append(
            copied(
                LogEntry,
                entry,
                at_local=local.isoformat(timespec="minutes"),
                step=step,
                detail=detail,
                text=entry_text(plan, entry.kind, entry.value, detail, ends),
                low_percent=low,
                mid_percent=mid,
                high_percent=high,
                planned_percent=max(100 * float(run.level[int(step)]), 0.0) if on_trip else None,
                worth=worth,
                was=text_of_entry(plan, before[entry.replaces]) if entry.replaces in before else "",
            )
        )
    return read


Worth = tuple[float | None, float | None, float | None, str]


def _level(plan: Plan, entry: Entry) -> Worth:
    """(low, mid, high, worth) of one entry, in percent; nothing where it tells no level."""
    if entry.kind == TICKED:
        return None, None, None, ""
    kind = BY_KEY[entry.kind]
    if kind.bar is None:
        return None, None, None, kind.worth
    low, middle, high, worth = kind.bar(case_from_plan(plan).bank, entry.value)
    return low, middle, high, worth or kind.worth
