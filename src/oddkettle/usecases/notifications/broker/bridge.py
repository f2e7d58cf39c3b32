"""Bridges between plans and their brokers, one a plan that has one."""

from __future__ import annotations

import threading
import time
from typing import Literal

from pydantic import ValidationError

from oddkettle.core.values.copying import copied
from oddkettle.formats.samples_ndjson import BadLine
from oddkettle.links.mqtt import MqttLine
from oddkettle.plan.quantities import LazyModel
from oddkettle.store import brokers as store
from oddkettle.usecases.field.samples.samples import ingest
from oddkettle.usecases.notifications.broker.publishing import (
    Said,
    description_of,
    device_name,
    device_topic,
    values_of,
)
from oddkettle.usecases.notifications.broker.settings import BrokerSettings, check, sample_of
from oddkettle.usecases.plans.plans import open_plan
from oddkettle.usecases.process.clock import now_utc
from oddkettle.usecases.process.events import hub
from oddkettle.usecases.process.failures import failed, went_well

LOOK_S, AGAIN_S = 1.0, 60.0
"""News goes out within a second or so, and all of it once a minute."""
GOODBYE_S = 3.0
MIN_S = 5.0
"""Samples may come many times a second: no more is said than so often."""


class BrokerState(LazyModel):
    """How it stands with a plan's broker."""

    settings: BrokerSettings | None
    """Without the password, which is never told."""
    state: Literal["none", "calling", "connected", "away"]
    text: str
    stored: int
    """Samples stored since it was set."""
    said: int
    odd: str | None
    """What was last refused of what came."""
    base: str | None
    """What every topic that goes out begins with; None without a broker."""


class Bridge(threading.Thread):
    """One plan's broker: what comes in is stored, what is new goes out."""

    def __init__(self, plan_id: int, settings: BrokerSettings) -> None:
        super().__init__(name=f"broker of plan {plan_id}", daemon=True)
        self.plan_id, self.settings = plan_id, settings
        self.base = device_topic(settings.domain, plan_id)
        self.stored = self.said = 0
        self.odd: str | None = None
        self.halted = threading.Event()
        self._greet = threading.Event()
        self.line = MqttLine(
            settings.broker(),
            device_name(plan_id),
            (settings.topic,) if settings.topic else (),
            self._heard,
            (f"{self.base}/$state", "lost") if settings.publish else None,
            self._greet.set,
        )

    def run(self) -> None:
        """Say what is new until it is told to stop."""
        self.line.open()
        seen, last = -1, 0.0
        while not self.halted.wait(LOOK_S):
            if not self.settings.publish or self.line.state != "connected":
                continue
            greet = self._greet.is_set()
            news, now = hub.all_news(self.plan_id), time.monotonic()
            due = now - last >= AGAIN_S or (news != seen and now - last >= MIN_S)
            if greet or due:
                self._greet.clear()
                seen, last = news, now
                # A plan that cannot be followed just now must not end the line.
                try:
                    self._say(greet=greet)
                except Exception as error:
                    failed(self.name, error)
                else:
                    went_well(self.name)
        goodbye = (f"{self.base}/$state", "disconnected")
        self.line.close(goodbye if self.settings.publish else None)

    def _say(self, *, greet: bool) -> None:
        name = open_plan(self.plan_id).document.name
        said = description_of(self.base, name) if greet else []
        for one in (*said, *values_of(self.base, self.plan_id)):
            self._publish(one)

    def _publish(self, one: Said) -> None:
        self.line.publish(one.topic, one.payload, retain=one.retain)
        self.said += 1

    def _heard(self, _topic: str, payload: bytes, kept: bool) -> None:
        try:
            sample = sample_of(payload, self.settings.paths, kept=kept)
            done = ingest(self.plan_id, [sample], [])
        except BadLine as bad:
            self.odd = str(bad)
        except Exception as error:
            # The line's own thread must go on whatever comes.
            self.odd = str(error)[:200]
        else:
            self.stored += done.stored
            self.odd = done.refusals[-1].text if done.refusals else self.odd


_bridges: dict[int, Bridge] = {}
_lock = threading.Lock()


def start_bridges() -> None:
    """Take up every broker that the store knows."""
    for plan_id, kept in store.brokers().items():
        try:
            _follow(plan_id, BrokerSettings.model_validate_json(kept))
        except ValidationError as error:
            failed(f"broker of plan {plan_id}", error)


def stop_bridges() -> None:
    """Hang up all of them."""
    with _lock:
        halted = list(_bridges.values())
        _bridges.clear()
    for bridge in halted:
        bridge.halted.set()
    for bridge in halted:
        bridge.join(timeout=GOODBYE_S)


def set_broker(plan_id: int, settings: BrokerSettings | None) -> BrokerState:
    """Use a broker from now on, or none. Raises PlanRefused, NoSuchPlan."""
    open_plan(plan_id)
    if settings is not None:
        check(settings)
        known = _kept(plan_id)
        if settings.password is None and known is not None and known.username == settings.username:
            # It is never told, so whoever changes another field cannot send it again.
            settings = settings.model_copy(update={"password": known.password})
    kept = None if settings is None else settings.model_dump_json()
    store.set_broker(plan_id, kept, now_utc())
    _follow(plan_id, settings)
    return broker_state(plan_id)


def _kept(plan_id: int) -> BrokerSettings | None:
    kept = store.brokers().get(plan_id)
    return None if kept is None else BrokerSettings.model_validate_json(kept)


def _follow(plan_id: int, settings: BrokerSettings | None) -> None:
    with _lock:
        old = _bridges.pop(plan_id, None)
        if old is not None:
            # Its last word must not come after the first one of the next.
            old.halted.set()
            old.join(timeout=GOODBYE_S)
        if settings is not None:
            _bridges[plan_id] = Bridge(plan_id, settings)
            _bridges[plan_id].start()


def broker_state(plan_id: int) -> BrokerState:
    """How it stands with a plan's broker. Raises NoSuchPlan."""
    open_plan(plan_id)
    bridge = _bridges.get(plan_id)
    if bridge is None:
        return BrokerState(
            settings=None,
            state="none",
            text="No broker is set.",
            stored=0,
            said=0,
            odd=None,
            base=None,
        )
    state = bridge.line.state
    text = {
        "calling": "Calling the broker.",
        "connected": "The broker is on the line.",
        "away": f"The broker is away: {bridge.line.reason}. It is called again and again.",
    }[state]
    return copied(
        BrokerState,
        bridge,
        settings=bridge.settings.model_copy(update={"password": None}),
        state=state,
        text=text,
    )
