"""Everything that runs without being asked: started in one place, stopped in one place.

Whoever serves the app calls `start` once the store is open, and `stop` before it closes it. What
fails on the way is logged with its time and told at /health; nothing is passed over in silence.

| part | what it does | how often |
|---|---|---|
| monitors | listens to each monitor on the line | as it speaks |
| brokers | says to each MQTT broker what is new, takes its samples | within a second or so |
| watch | looks at the trips under way for alarms | `watch_s`, a minute |
| keeper | keeps copies, takes old states out | an hour |
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from oddkettle.store.file.database import finish
from oddkettle.usecases.field.samples.monitor import start_followers, stop_followers
from oddkettle.usecases.notifications.alarms.alarms import start_watch, stop_watch
from oddkettle.usecases.notifications.broker.bridge import start_bridges, stop_bridges
from oddkettle.usecases.process.failures import failed, went_well
from oddkettle.usecases.service.copies import keep_copies

KEEP_S = 3600.0
FIRST_S = 5.0
"""Copies wait so long after a start: nobody's first answer waits for them."""
GOODBYE_S = 5.0


class Keeper(threading.Thread):
    """Keeps copies by the clock, and takes old states out, until it is told to stop."""

    def __init__(self, data: Path, every_s: float = KEEP_S) -> None:
        super().__init__(name="keeper of copies", daemon=True)
        self.data, self.every_s = data, every_s
        self.halted = threading.Event()

    def run(self) -> None:
        """Look at once after the start, and again every hour."""
        wait_s = FIRST_S
        while not self.halted.wait(wait_s):
            wait_s = self.every_s
            try:
                keep_copies(self.data)
            except Exception as error:
                failed("keeper", error)
            else:
                went_well("keeper")


@dataclass(frozen=True)
class _Part:
    name: str
    start: Callable[[], None]
    stop: Callable[[], None]


_running: list[_Part] = []
_lock = threading.Lock()


def start(data: Path | None, watch_s: float) -> None:
    """Start all of it; `data` is the file of which copies are kept, None for none.

    A part that cannot be started is logged and keeps no other from starting. Called twice without a
    `stop` in between, the second call does nothing.
    """
    with _lock:
        if _running:
            return
        parts = [
            _Part("monitors", start_followers, stop_followers),
            _Part("brokers", start_bridges, stop_bridges),
            _Part("watch", lambda: start_watch(watch_s), stop_watch),
        ]
        if data is not None:
            keeper = Keeper(data)
            parts.append(_Part("keeper", keeper.start, lambda: _halt(keeper)))
        for part in parts:
            _running.append(part)
            try:
                part.start()
            except Exception as error:
                failed(part.name, error)


def _halt(keeper: Keeper) -> None:
    keeper.halted.set()
    keeper.join(GOODBYE_S)


def stop() -> None:
    """Stop all of it, the last started first, and leave one whole data file."""
    with _lock:
        while _running:
            part = _running.pop()
            try:
                part.stop()
            except Exception as error:
                failed(part.name, error)
        begin = time.monotonic()
        while not finish() and time.monotonic() - begin < GOODBYE_S:
            time.sleep(0.05)
