"""What is reckoned at once is bounded: a few questions run, some wait, more are sent away.

Each question may use every core and a hundred megabytes, so that more at once would be no faster
and would fill the memory. Whoever hangs up leaves the queue, and what runs for him ends.
"""

from __future__ import annotations

import asyncio
import re
from contextlib import suppress
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from oddkettle.api.middleware.memory import give_back, tidy
from oddkettle.api.middleware.refusal import refusal
from oddkettle.core.values.cancellation import GivenUp, giving_up_when

if TYPE_CHECKING:
    from starlette.types import ASGIApp, Message, Receive, Scope, Send

MAX_WAITING = 100
HELD_BYTES = 250_000
"""What is kept of the body of one who waits."""
SLOW_READER_S = 30.0
"""Who takes no line of an answer for so long has gone [judgement]."""
IDLE_S = 20.0
ASIDE = re.compile(r"\w+ /api/(plans/\d+/glance|sentence/stories/.*)$")
"""Little pictures of many trips at once: they hold up nobody who asks about one."""
OUTSIDE = re.compile(r"POST /api/plans/\d+/forecast$")
"""Waits for a service that may hang: it holds up nobody who asks for none."""
SAMPLES = re.compile(r"POST /api/plans/\d+/samples$")
"""A monitor's own lane: what it read is stored while files are read and searches run."""
FILES = re.compile(
    r"(POST /api/(plans/archive|weather"
    r"|plans/\d+/(table(/preview)?|roads/(track|calendar)))"
    r"|GET /api/(backup|plans/\d+/(archive|calendar.ics|roads/.*)))$"
)
"""Whole files in or out: each may take a hundred megabytes."""
LONG = re.compile(
    r"\w+ /api/(improve/(weigh|schedule|seek|mend|sizes)|sentence/boxes|compare"
    r"|plans/\d+/(print/.*|track/(cheapest|schedule|seek|weigh)))$"
)
"""Takes seconds."""
QUICK = re.compile(
    r"\w+ /api/(preview|sum|schools|instant|measure|build(/.*)?|sentence(/.*)?|practise/.*"
    r"|improve/.*|boxes/\d+/life|plans/\d+/(alarms|report|today|score|export/.*|track.*))$"
)
"""Takes a part of a second."""
WRITTEN = re.compile(r"(POST|PUT|DELETE|PATCH) /")
"""Everything else that has a body: what it holds in memory is bounded with it."""


@dataclass
class Lane:
    """Who runs and who waits, of one kind of question."""

    pattern: re.Pattern[str]
    at_once: int
    free: asyncio.Semaphore = field(init=False)
    waiting: int = 0

    def __post_init__(self) -> None:
        self.free = asyncio.Semaphore(self.at_once)


class Listening:
    """Hears what its sender says ahead of the app, and so when he hangs up."""

    def __init__(self, receive: Receive) -> None:
        self._receive = receive
        self._heard: asyncio.Queue[Message | Exception] = asyncio.Queue()
        self.hung_up = asyncio.Event()
        self._held = 0
        self.large = False
        """Whether more came than is kept of one who waits."""
        self._let_in = asyncio.Event()
        self._task = asyncio.create_task(self._listen())

    async def _listen(self) -> None:
        try:
            while not self.hung_up.is_set():
                message = await self._receive()
                if message["type"] == "http.disconnect":
                    self.hung_up.set()
                self._heard.put_nowait(message)
                self._held += len(message.get("body", b""))
                if self._held > HELD_BYTES:
                    self.large = True
                    # The rest of a large body stays with its sender until it is its turn.
                    await self._let_in.wait()
        except Exception as error:
            self._heard.put_nowait(error)

    async def receive(self) -> Message:
        """The next message, or what went wrong while it was heard."""
        heard = await self._heard.get()
        if isinstance(heard, Exception):
            raise heard
        return heard

    async def until(self, lane: Lane) -> bool:
        """Wait for the lane to be free; False when the sender hangs up first."""
        if not lane.free.locked():
            await lane.free.acquire()
            self._let_in.set()
            return True
        mine = asyncio.create_task(lane.free.acquire())
        gone = asyncio.create_task(self.hung_up.wait())
        lane.waiting += 1
        try:
            await asyncio.wait((mine, gone), return_when=asyncio.FIRST_COMPLETED)
        finally:
            lane.waiting -= 1
            gone.cancel()
        if mine.done():
            self._let_in.set()
            return True
        mine.cancel()
        # It may have come free in the very moment: then it is given on.
        with suppress(asyncio.CancelledError):
            if await mine:
                lane.free.release()
        return False

    def stop(self) -> None:
        """Listen no more."""
        self._task.cancel()


class Workload:
    """ASGI middleware around the whole app."""

    def __init__(self, app: ASGIApp, *, quick: int = 2, long: int = 1) -> None:
        self.app = app
        self.lanes = (
            Lane(ASIDE, 1),
            Lane(OUTSIDE, 2),
            Lane(SAMPLES, 1),
            Lane(FILES, 1),
            Lane(LONG, long),
            Lane(QUICK, quick),
            Lane(WRITTEN, 2),
        )
        self.underway = 0
        self._tidying: asyncio.TimerHandle | None = None

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Let it run, wait, or go."""
        asked = f"{scope.get('method', 'GET')} {scope.get('path', '')}"
        lane = next((ln for ln in self.lanes if ln.pattern.match(asked)), None)
        if scope["type"] != "http" or lane is None:
            await self.app(scope, receive, send)
            return
        if lane.waiting >= MAX_WAITING:
            busy = refusal(
                503,
                f"{MAX_WAITING} questions wait already. Ask again in a moment.",
                title="Busy",
                headers={"retry-after": "5"},
            )
            await busy(scope, receive, send)
            return
        listening = Listening(receive)
        self.underway += 1
        try:
            if await listening.until(lane):
                try:
                    await self._run(scope, listening, send)
                finally:
                    lane.free.release()
        finally:
            listening.stop()
            self.underway -= 1
            if listening.large:
                # What it took goes back at once: the next one may be as large.
                asyncio.get_running_loop().run_in_executor(None, give_back)
            self._tidy_when_idle()

    async def _run(self, scope: Scope, listening: Listening, send: Send) -> None:
        async def patiently(message: Message) -> None:
            try:
                await asyncio.wait_for(send(message), SLOW_READER_S)
            except TimeoutError:
                # To the app it is a sender that hung up.
                listening.hung_up.set()
                raise OSError("nobody reads the answer") from None

        with giving_up_when(listening.hung_up.is_set), suppress(GivenUp):
            try:
                await self.app(scope, listening.receive, patiently)
            except RuntimeError as error:
                # The framework's word for it where a part of the answer was out already.
                if not isinstance(error.__cause__, GivenUp):
                    raise

    def _tidy_when_idle(self) -> None:
        if self._tidying is not None:
            self._tidying.cancel()
        loop = asyncio.get_running_loop()
        self._tidying = loop.call_later(IDLE_S, self._tidy)

    def _tidy(self) -> None:
        if self.underway == 0:
            asyncio.get_running_loop().run_in_executor(None, tidy)
