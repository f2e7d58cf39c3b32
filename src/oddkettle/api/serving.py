"""The app as it is served: the pages at once, plans at once, the rest as soon as it is loaded.

The whole API takes more than a second to import. The pages' files need none of it, and the list of
plans and a plan need little, so a small app answers those meanwhile; whatever else comes waits for
the whole one, which a thread loads. From then on every call goes there.
"""

from __future__ import annotations

import asyncio
import gc
import threading
from collections.abc import Callable
from concurrent.futures import Future
from pathlib import Path
from typing import TYPE_CHECKING

from fastapi import FastAPI

from oddkettle.api.middleware.guard import is_closed
from oddkettle.api.middleware.memory import give_back
from oddkettle.api.middleware.reader import InHabits
from oddkettle.api.pages import Pages
from oddkettle.api.plan import plans
from oddkettle.api.problems import add_problem_handlers

if TYPE_CHECKING:
    from starlette.types import ASGIApp, Receive, Scope, Send

    from oddkettle.usecases.people.sharing import Sharing


class Served:
    """An ASGI app that is there at once and whole soon after.

    `afterwards` is called in the loading thread when everything can be answered. What runs by
    itself (`usecases/service/background.py`) starts then, and stops with the app; of `data` copies
    are kept.
    """

    def __init__(
        self,
        front_end: Path,
        forecast_url: str | None,
        afterwards: Callable[[], None],
        sharing: Sharing | None = None,
        *,
        data: Path | None = None,
        watch_s: float = 60.0,
    ) -> None:
        self.data, self.watch_s = data, watch_s
        self.pages = Pages(front_end)
        self.forecast_url = forecast_url
        self.afterwards = afterwards
        self.sharing = sharing
        self.first = FastAPI(openapi_url=None)
        self.first.add_middleware(InHabits)
        add_problem_handlers(self.first)
        self.first.include_router(plans.router)
        self.whole: Future[ASGIApp] = Future()
        # Under way: whoever gives up waiting for it must not call it off for all.
        self.whole.set_running_or_notify_cancel()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer, or wait for the app that can."""
        if scope["type"] == "lifespan":
            await self._live(receive, send)
            return
        app: ASGIApp = self.first
        if self._is_page(scope):
            app = self.pages
        elif self.whole.done() or not self._early(scope):
            app = await asyncio.wrap_future(self.whole)
        await app(scope, receive, send)

    def _is_page(self, scope: Scope) -> bool:
        reads = scope["type"] == "http" and scope["method"] in ("GET", "HEAD")
        return self.pages.there and reads and not is_closed(scope["path"])

    def _early(self, scope: Scope) -> bool:
        """Whether the small app can answer: who reads the list of plans, or a plan."""
        parts = scope["path"].strip("/").split("/")
        reads = scope["type"] == "http" and scope["method"] == "GET"
        return reads and parts[:2] == ["api", "plans"] and len(parts) <= 3

    async def _live(self, receive: Receive, send: Send) -> None:
        while True:
            message = await receive()
            if message["type"] == "lifespan.startup":
                threading.Thread(target=self._load, name="load the app", daemon=True).start()
                await send({"type": "lifespan.startup.complete"})
            else:
                await asyncio.to_thread(self._stop)
                await send({"type": "lifespan.shutdown.complete"})
                return

    def _stop(self) -> None:
        """Stop what runs by itself, if it was started, and leave one whole data file."""
        if self.whole.done() and not self.whole.exception():
            from oddkettle.usecases.service import background

            background.stop()
        else:
            from oddkettle.store.file.database import finish

            finish()

    def _load(self) -> None:
        try:
            from oddkettle.api.app import create_app
            from oddkettle.usecases.service import background
            from oddkettle.usecases.simulate.run_cache import keep_on_disk

            keep_on_disk()
            whole = create_app(self.forecast_url, self.sharing, by_itself=False)
            background.start(self.data, self.watch_s)
            self.whole.set_result(whole)
        except BaseException as error:
            self.whole.set_exception(error)
            raise
        finally:
            # What is loaded stays: looking through it again and again would only take time.
            gc.collect()
            gc.freeze()
            gc.enable()
        self.afterwards()
        give_back()
