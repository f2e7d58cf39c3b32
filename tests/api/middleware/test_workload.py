"""A few questions run at once, some wait, more are sent away; whoever hangs up is forgotten."""

from __future__ import annotations

import asyncio
import threading
import time
from collections.abc import Awaitable, Callable
from copy import deepcopy
from pathlib import Path
from typing import Any

import pytest

from oddkettle.api.middleware import workload
from oddkettle.api.middleware.workload import Workload
from oddkettle.core.values.cache import BoundedCache
from oddkettle.core.values.cancellation import GivenUp, check_given_up, given_up, giving_up_when
from tests.conftest import EXAMPLES
from tests.support import http
from tests.support.asked import run_async
from tests.support.patience import PATIENCE_S
from tests.support.serving import SERVE, Server
from tests.support.tiers import NIGHTLY, SLOW

Send = Callable[[dict[str, Any]], Awaitable[None]]
PREVIEW, MEND, LOG = "/api/preview", "/api/improve/mend", "/api/plans/1/log"
FORECAST, SAMPLES, BACKUP = "/api/plans/1/forecast", "/api/plans/1/samples", "/api/backup"


class Asked:
    """One request to a `Workload`: what it was sent, and whether it hangs up."""

    def __init__(self, app: Workload, path: str, method: str = "GET") -> None:
        self.method = method
        self.sent: list[dict[str, Any]] = []
        self.gone = asyncio.Event()
        self.first = True
        self.task = asyncio.create_task(self._ask(app, path))

    async def _ask(self, app: Workload, path: str) -> None:
        async def receive() -> dict[str, Any]:
            if self.first:
                self.first = False
                return {"type": "http.request", "body": b"{}", "more_body": False}
            await self.gone.wait()
            return {"type": "http.disconnect"}

        async def send(message: dict[str, Any]) -> None:
            self.sent.append(message)

        scope = {"type": "http", "method": self.method, "path": path}
        await app(scope, receive, send)  # type: ignore[arg-type]

    @property
    def status(self) -> int | None:
        return self.sent[0]["status"] if self.sent else None


class Door:
    """An app whose every answer waits until it is let go."""

    def __init__(self) -> None:
        self.inside: list[str] = []
        self.most = 0
        self.letting_go = asyncio.Event()
        self.given_up = 0

    async def __call__(self, scope: dict[str, Any], receive: Any, send: Send) -> None:
        self.inside.append(scope["path"])
        self.most = max(self.most, len(self.inside))
        while not self.letting_go.is_set():
            await asyncio.sleep(0.005)
            if given_up():
                self.given_up += 1
                break
        self.inside.remove(scope["path"])
        check_given_up()
        await send({"type": "http.response.start", "status": 200, "headers": []})


async def settle() -> None:
    """Let everything that can go on go on: turns of the loop count, whatever time they take."""
    for _ in range(20):
        await asyncio.sleep(0.005)


def test_two_quick_ones_and_a_long_one_run_at_once_and_all_are_answered() -> None:
    async def story() -> None:
        door = Door()
        app = Workload(door)  # type: ignore[arg-type]
        asked = [Asked(app, path) for path in [PREVIEW] * 5 + [MEND] * 3]
        await settle()
        assert sorted(door.inside) == sorted([PREVIEW] * 2 + [MEND])
        # Little pictures run beside them, one at a time.
        little = [Asked(app, f"/api/plans/{n}/glance") for n in range(4)]
        await settle()
        assert sum("glance" in path for path in door.inside) == 1
        # What reckons nothing does not wait.
        log = Asked(app, LOG)
        await settle()
        assert LOG in door.inside
        door.letting_go.set()
        await asyncio.gather(*(one.task for one in (*asked, *little, log)))
        assert [one.status for one in asked] == [200] * 8

    run_async(story())


def test_what_waits_for_the_outside_and_whole_files_hold_up_nobody() -> None:
    async def story() -> None:
        door = Door()
        app = Workload(door)  # type: ignore[arg-type]
        hung = [Asked(app, FORECAST, "POST") for _ in range(45)]
        files = [Asked(app, BACKUP) for _ in range(8)]
        written = [Asked(app, LOG, "POST") for _ in range(8)]
        await settle()
        assert door.inside.count(FORECAST) == 2
        assert door.inside.count(BACKUP) == 1
        assert door.inside.count(LOG) == 2
        # A monitor's samples, a reading of what is kept and a figure go on beside all of them.
        others = [Asked(app, SAMPLES, "POST"), Asked(app, PREVIEW), Asked(app, FORECAST)]
        await settle()
        assert {SAMPLES, PREVIEW} <= set(door.inside)
        assert door.inside.count(FORECAST) == 3
        door.letting_go.set()
        everyone = (*hung, *files, *written, *others)
        await asyncio.gather(*(one.task for one in everyone))
        assert {one.status for one in everyone} == {200}

    run_async(story())


def test_who_hangs_up_leaves_the_queue_and_what_runs_for_him_ends() -> None:
    async def story() -> None:
        door = Door()
        app = Workload(door, quick=1)  # type: ignore[arg-type]
        runs, waits, stays = (Asked(app, PREVIEW) for _ in range(3))
        await settle()
        waits.gone.set()
        await settle()
        assert waits.task.done()
        assert waits.sent == []
        assert door.given_up == 0
        runs.gone.set()
        await settle()
        assert door.given_up == 1
        # The one that still waits is let in, and the lane is free again afterwards.
        assert door.inside == [PREVIEW]
        door.letting_go.set()
        await stays.task
        assert stays.status == 200
        again = Asked(app, PREVIEW)
        await again.task
        assert again.status == 200

    run_async(story())


def test_the_queue_is_bounded_and_says_so(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(workload, "MAX_WAITING", 2)

    async def story() -> None:
        door = Door()
        app = Workload(door, quick=1)  # type: ignore[arg-type]
        asked = [Asked(app, PREVIEW) for _ in range(4)]
        await settle()
        assert [one.status for one in asked] == [None, None, None, 503]
        assert (b"retry-after", b"5") in asked[3].sent[0]["headers"]
        door.letting_go.set()
        await asyncio.gather(*(one.task for one in asked))
        assert [one.status for one in asked] == [200, 200, 200, 503]

    run_async(story())


def test_who_reads_no_answer_holds_nothing_up(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(workload, "SLOW_READER_S", 0.05)

    async def story() -> None:
        async def app(scope: object, receive: object, send: Send) -> None:
            await send({"type": "http.response.start", "status": 200, "headers": []})

        async def receive() -> dict[str, Any]:
            await asyncio.sleep(PATIENCE_S)
            raise AssertionError

        async def never(message: object) -> None:
            await asyncio.sleep(PATIENCE_S)

        queue = Workload(app, quick=1)  # type: ignore[arg-type]
        with pytest.raises(OSError, match="nobody reads"):
            await queue({"type": "http", "path": PREVIEW}, receive, never)  # type: ignore[arg-type]
        after = Asked(queue, PREVIEW)
        await after.task
        assert after.status == 200

    run_async(story())


def test_what_one_gives_up_is_made_for_another_who_waits() -> None:
    """Two ask for the same; the first gives up while it is made, the second gets it."""
    cache, gone, making = BoundedCache(), threading.Event(), threading.Event()

    def make() -> str:
        making.set()
        for _ in range(200):
            check_given_up()
            gone.wait(0.01)
            if not given_up() and gone.is_set():
                break
        return "made"

    ends: list[object] = []

    def first() -> None:
        with giving_up_when(gone.is_set):
            try:
                ends.append(cache.ask("key", make))
            except GivenUp:
                ends.append(GivenUp)

    one = threading.Thread(target=first)
    one.start()
    making.wait(PATIENCE_S)
    other = threading.Thread(target=lambda: ends.append(cache.ask("key", make)))
    other.start()
    gone.set()
    one.join(PATIENCE_S)
    other.join(5)
    assert ends == [GivenUp, "made"]


def test_work_that_was_given_up_is_no_error_and_an_error_is_one() -> None:
    async def story() -> None:
        async def gives_up(scope: object, receive: object, send: object) -> None:
            try:
                raise GivenUp
            except GivenUp as error:
                raise RuntimeError("response already started") from error

        async def breaks(scope: object, receive: object, send: object) -> None:
            raise RuntimeError("broken")

        await Asked(Workload(gives_up), PREVIEW).task  # type: ignore[arg-type]
        with pytest.raises(RuntimeError, match="broken"):
            await Asked(Workload(breaks), PREVIEW).task  # type: ignore[arg-type]

    run_async(story())


def test_of_who_waits_no_large_body_is_kept() -> None:
    async def story() -> None:
        door = Door()
        app = Workload(door, quick=1)  # type: ignore[arg-type]
        runs = Asked(app, PREVIEW)
        await settle()
        taken = 0

        async def receive() -> dict[str, Any]:
            nonlocal taken
            if taken == 50:
                await asyncio.sleep(PATIENCE_S)
            taken += 1
            return {"type": "http.request", "body": b"x" * 300_000, "more_body": taken < 50}

        async def send(message: object) -> None:
            """Say nothing."""

        scope = {"type": "http", "path": PREVIEW}
        waits = asyncio.create_task(app(scope, receive, send))  # type: ignore[arg-type]
        await settle()
        assert taken * 300_000 <= workload.HELD_BYTES + 300_000
        door.letting_go.set()
        await asyncio.gather(runs.task, waits)
        await settle()

    run_async(story())


@NIGHTLY
@SLOW
def test_a_search_ends_soon_after_its_asker_hangs_up(tmp_path: Path) -> None:
    """Counted in the server's processor time, which no other process takes part in."""
    server = Server(tmp_path, SERVE)
    server.start()
    sample = (EXAMPLES / "moth-survey.json").read_bytes()
    small = http.post(f"{server.url}/api/plans/import", content=sample).json()["document"]
    plan = deepcopy(small)
    # As much as may be asked for, so that a quick machine has seconds of it too.
    plan["assumptions"]["scenarios"] = 2000
    plan["assumptions"]["step_min"] = 5
    plan["trip"]["days"] = (plan["trip"]["days"] * 10)[:28]
    assert server.process is not None

    def spent() -> float:
        fields = Path(f"/proc/{server.process.pid}/stat").read_text().rpartition(")")[2].split()
        return (int(fields[11]) + int(fields[12])) / 100

    try:
        # What is compiled and laid once is not counted.
        http.post(f"{server.url}/api/preview?odds=full", json=small)
        before = spent()
        http.post(f"{server.url}/api/preview?odds=full", json=plan)
        whole = spent() - before
        plan["assumptions"]["seed"] = 4711
        before = spent()
        with pytest.raises(http.ReadTimeout):
            http.post(f"{server.url}/api/preview?odds=full", json=plan, timeout=0.4)
        # Long enough for all of it, had nobody ended it.
        http.get(f"{server.url}/api/plans/1")
        time.sleep(1.5 * whole)
        assert spent() - before < 0.7 * whole
    finally:
        server.kill()
