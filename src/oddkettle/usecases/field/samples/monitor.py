"""Listening to a plan's monitor: through its absence, restarts and odd clocks."""

from __future__ import annotations

import datetime as dt
import threading
import time
from datetime import UTC, datetime
from typing import Literal

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.core.units.quantity import clock
from oddkettle.formats.samples_ndjson import BadLine, parse_line
from oddkettle.links.monitor import MonitorAway, listen, parse_address
from oddkettle.plan.plan_errors import refused
from oddkettle.plan.quantities import LazyModel
from oddkettle.store import samples as store
from oddkettle.usecases.field.samples.samples import Refused, ingest
from oddkettle.usecases.process.clock import now_utc
from oddkettle.usecases.process.events import hub

FIRST_WAIT_S, LONGEST_WAIT_S = 0.5, 8.0
MAX_AT_ONCE = 2_000
GOODBYE_S = 2.0
JUMP_MS = 6 * 3600 * 1000
"""A sample this far from the one before it is a monitor's clock that jumped, or was set."""


class SampleNow(LazyModel):
    """The newest sample."""

    at_utc: dt.datetime
    seq: int | None
    volts: float | None
    amps: float | None
    percent: float | None
    ah_in: float | None
    ah_out: float | None


class MonitorState(LazyModel):
    """How it stands with a plan's monitor."""

    address: str | None
    state: Literal["none", "calling", "listening", "away"]
    text: str
    newest: SampleNow | None
    stored: int
    """Samples stored of this plan."""
    odd: str | None
    """What was last refused of what it sent."""
    silent_s: float | None
    """For so long nothing has come from it; None without a monitor."""
    alarm_news: int
    """How often the plan's alarms changed since the start, likewise."""
    log_news: int
    """How often the plan's log changed since the start; another number than before means: again."""


class Follower(threading.Thread):
    """Listens to one monitor and stores what it says, until it is told to stop."""

    def __init__(self, plan_id: int, address: str) -> None:
        super().__init__(name=f"monitor of plan {plan_id}", daemon=True)
        self.plan_id, self.address = plan_id, address
        self.state: Literal["calling", "listening", "away"] = "calling"
        self.reason = ""
        self.odd: str | None = None
        self.last_ms: int | None = None
        self.held: Sample | None = None
        self.halted = threading.Event()
        self.heard_at = time.monotonic()

    def run(self) -> None:
        """Call, listen, store; after a break call again, more patiently each time."""
        wait_s = FIRST_WAIT_S
        while not self.halted.is_set():
            try:
                # Since what came last, not since the latest moment: a clock that had run ahead
                # would keep all silent until that moment has come.
                newest = store.newest(self.plan_id)
                if self.last_ms is None and newest is not None:
                    self.last_ms = newest.at_ms
                self.held = None
                for lines in listen(self.address, self.last_ms):
                    if self.halted.is_set():
                        return
                    self._change("listening", "")
                    self.heard_at = time.monotonic()
                    wait_s = FIRST_WAIT_S
                    self._store(lines)
            except MonitorAway as away:
                self._change("away", str(away))
            except Exception as error:
                self._change("away", f"it could not be read ({error})")
            self.halted.wait(wait_s)
            wait_s = min(2 * wait_s, LONGEST_WAIT_S)

    def _store(self, lines: list[bytes]) -> None:
        for begin in range(0, len(lines), MAX_AT_ONCE):
            samples: list[Sample] = []
            refusals: list[Refused] = []
            for n, line in enumerate(lines[begin : begin + MAX_AT_ONCE], start=1):
                try:
                    samples += self._believed(parse_line(line))
                except BadLine as bad:
                    refusals.append(Refused(line=n, text=str(bad)))
            done = ingest(self.plan_id, samples, refusals)
            if done.refusals:
                self.odd = done.refusals[-1].text
                hub.tell(self.plan_id)

    def _believed(self, sample: Sample) -> list[Sample]:
        """The sample, with one that was held back before it; nothing while it is held itself.

        One that is hours ahead of the one before waits for the next: if time goes on from there,
        the monitor had been away or its clock was set; if it does not, the clock had jumped.
        """
        believed: list[Sample] = []
        held, self.held = self.held, None
        if held is not None and sample.at_ms >= held.at_ms:
            self.last_ms = held.at_ms
            believed.append(held)
        elif held is not None:
            when = datetime.fromtimestamp(held.at_ms / 1000, UTC)
            self.odd = f"one sample of {when:%d %b %Y} {clock(when)} UTC, for its clock had jumped"
        if self.last_ms is not None and sample.at_ms > self.last_ms + JUMP_MS:
            self.held = sample
            return believed
        self.last_ms = sample.at_ms
        return [*believed, sample]

    def _change(self, state: Literal["calling", "listening", "away"], reason: str) -> None:
        if (state, reason) != (self.state, self.reason):
            self.state, self.reason = state, reason
            hub.tell(self.plan_id)


_followers: dict[int, Follower] = {}
_lock = threading.Lock()


def start_followers() -> None:
    """Listen to every monitor that the store knows."""
    for plan_id, address in store.monitors().items():
        _follow(plan_id, address)


def stop_followers() -> None:
    """Stop listening to all of them."""
    with _lock:
        halted = list(_followers.values())
        _followers.clear()
    for follower in halted:
        follower.halted.set()
    for follower in halted:
        follower.join(GOODBYE_S)


def set_monitor(plan_id: int, address: str | None) -> MonitorState:
    """Listen to a monitor from now on, or to none. Raises PlanRefused for no address."""
    if address is not None:
        try:
            parse_address(address)
        except ValueError as error:
            raise refused(
                "address", address, "host:port", "Write it like 127.0.0.1:8770.", str(error)
            ) from None
    store.set_monitor(plan_id, address, now_utc())
    _follow(plan_id, address)
    return monitor_state(plan_id)


def _follow(plan_id: int, address: str | None) -> None:
    with _lock:
        old = _followers.pop(plan_id, None)
        if old is not None:
            old.halted.set()
        if address is not None:
            _followers[plan_id] = Follower(plan_id, address)
            _followers[plan_id].start()
    hub.tell(plan_id)


def monitor_state(plan_id: int) -> MonitorState:
    """How it stands with a plan's monitor, and its newest sample."""
    follower = _followers.get(plan_id)
    sample = store.newest(plan_id)
    state: Literal["none", "calling", "listening", "away"]
    if follower is None:
        state, text = "none", "No monitor is set."
    else:
        state = follower.state
        text = {
            "calling": "Calling the monitor.",
            "listening": "The monitor is on the line.",
            "away": f"The monitor is away: {follower.reason}. It is called again and again.",
        }[state]
    return MonitorState(
        address=None if follower is None else follower.address,
        state=state,
        text=text,
        newest=None if sample is None else _now(sample),
        stored=store.count(plan_id),
        odd=None if follower is None else follower.odd,
        silent_s=None if follower is None else time.monotonic() - follower.heard_at,
        alarm_news=hub.news(plan_id, "alarms"),
        log_news=hub.news(plan_id, "log"),
    )


def _now(sample: Sample) -> SampleNow:
    at = datetime.fromtimestamp(sample.at_ms / 1000, UTC)
    return SampleNow(at_utc=at, **{k: v for k, v in sample._asdict().items() if k != "at_ms"})
