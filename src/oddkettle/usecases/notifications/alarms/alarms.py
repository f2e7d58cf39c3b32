"""Alarms of a trip: looked for, kept, told once, quiet by night unless they are urgent."""

from __future__ import annotations

import threading
from datetime import UTC, datetime, timedelta
from typing import cast

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.values.cache import cached
from oddkettle.core.values.copying import copied
from oddkettle.formats.plan_json import parse_plan
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.quantities import LazyModel
from oddkettle.store import alarms as store
from oddkettle.store import plans as plan_store
from oddkettle.store import samples
from oddkettle.store.alarms import StoredAlarm
from oddkettle.usecases.field.track.tracked_trip import first_midnight, follow
from oddkettle.usecases.notifications.alarms.conditions import AlarmKind, conditions
from oddkettle.usecases.plans.plans import open_plan
from oddkettle.usecases.process.clock import now_utc
from oddkettle.usecases.process.events import hub
from oddkettle.usecases.process.failures import failed, went_well

LOOK_S = 60.0
GOODBYE_S = 5.0
NIGHT_FROM_H, NIGHT_TO_H = 22, 7


class Alarm(LazyModel):
    """One alarm that stands."""

    key: str
    """Names the thing that it is about: of each a device tells once."""
    kind: AlarmKind
    urgent: bool
    text: str
    remedy: str
    raised_at: datetime
    """UTC."""
    tell: bool
    """Whether it is told aloud now: by night only what is urgent."""
    seen: bool


def look(plan_id: int) -> list[Alarm]:
    """Look at a trip now, keep what is found, and say what stands. Raises NoSuchPlan."""
    try:
        here = follow(plan_id)
        found = conditions(here) if here.begun else []
    except (PlanRefused, PlanError):
        # A plan that cannot be run has no alarms; its own page says why.
        return []
    now = now_utc()
    new = [
        store.raise_alarm(
            plan_id,
            StoredAlarm(one.key, one.kind, one.urgent, one.text, one.remedy, raised_at=now),
        )
        for one in found
    ]
    ended = store.end_others(plan_id, {one.key for one in found}, now)
    if any(new) or ended:
        hub.tell(plan_id, "alarms")
    return standing(here.plan, plan_id)


def read(plan_id: int, key: str) -> list[Alarm]:
    """Somebody read an alarm; what stands then. Raises NoSuchPlan."""
    plan = open_plan(plan_id).document
    store.mark(plan_id, key, seen=now_utc())
    hub.tell(plan_id, "alarms")
    return standing(plan, plan_id)


def standing(plan: Plan, plan_id: int) -> list[Alarm]:
    """What stood when it was last looked, and what of it is told aloud at this hour of the trip."""
    zone = first_midnight(plan).tzinfo
    hour = datetime.fromisoformat(now_utc()).astimezone(zone).hour
    night = hour >= NIGHT_FROM_H or hour < NIGHT_TO_H
    return [
        copied(
            Alarm,
            one,
            kind=cast("AlarmKind", one.kind),
            raised_at=datetime.fromisoformat(one.raised_at),
            tell=one.seen_at is None and (one.urgent or not night),
            seen=one.seen_at is not None,
        )
        for one in store.alarms(plan_id)
    ]


class Watch(threading.Thread):
    """Looks at every trip that is under way, every so many seconds, until it is told to stop."""

    def __init__(self, every_s: float) -> None:
        super().__init__(name="watch over the trips", daemon=True)
        self.every_s = every_s
        self.halted = threading.Event()

    def run(self) -> None:
        """Wait, look, wait again."""
        while not self.halted.wait(self.every_s):
            # Neither a store that is busy nor one plan that cannot be followed ends the watch.
            try:
                plans = _under_way()
            except Exception as error:
                failed("watch", error)
                continue
            for plan_id in plans:
                if self.halted.is_set():
                    return
                self._look(plan_id)
            went_well("watch")

    def _look(self, plan_id: int) -> None:
        part = f"watch of plan {plan_id}"
        try:
            look(plan_id)
        except Exception as error:
            failed(part, error)
        else:
            went_well(part)


def _under_way() -> list[int]:
    """Plans with a monitor on the line, and those whose trip is now."""
    now = datetime.fromisoformat(now_utc())
    trips = set()
    for stored in plan_store.all_plans():
        begin, end = _span(stored.document)
        if begin <= now < end:
            trips.add(stored.plan_id)
    return sorted(trips | set(samples.monitors()))


NEVER = (datetime.max.replace(tzinfo=UTC), datetime.max.replace(tzinfo=UTC))


@cached
def _span(document: str) -> tuple[datetime, datetime]:
    """From when until when a trip lasts; it is asked for each minute."""
    try:
        plan = parse_plan(document.encode())
    except PlanRefused:
        return NEVER
    begin = first_midnight(plan)
    return begin, begin + timedelta(days=len(plan.trip.days))


_watch: list[Watch] = []


def start_watch(every_s: float = LOOK_S) -> None:
    """Watch from now on."""
    _watch.append(Watch(every_s))
    _watch[-1].start()


def stop_watch() -> None:
    """Watch no more: what is under way comes to its end."""
    while _watch:
        watch = _watch.pop()
        watch.halted.set()
        watch.join(GOODBYE_S)
