"""The first second of a start: plans and pages are served while the rest is still being loaded.

The whole app takes more than a second to import. The list of plans, a plan and the pages' files
need little of it, so a small app answers those at once; whatever else comes waits for the whole
one, which a thread loads meanwhile. From then on everything goes there.
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

from oddkettle.api import plans
from oddkettle.api.pages import serve_pages
from oddkettle.api.problems import add_problem_handlers

if TYPE_CHECKING:
    from starlette.types import ASGIApp, Receive, Scope, Send


class EarlyApp:
    """An ASGI app that is there at once and whole soon after.

    `afterwards` is called in the loading thread when everything can be answered.
    """

    def __init__(
        self,
        front_end: Path,
        forecast_url: str | None,
        afterwards: Callable[[], None],
    ) -> None:
        self.front_end = front_end
        self.forecast_url = forecast_url
        self.afterwards = afterwards
        self.first = FastAPI(openapi_url=None)
        add_problem_handlers(self.first)
        self.first.include_router(plans.router)
        self.has_pages = serve_pages(self.first, front_end)
        self.whole: Future[ASGIApp] = Future()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer, or wait for the app that can."""
        if scope["type"] == "lifespan":
            await self._live(receive, send)
            return
        app: ASGIApp = self.first
        if self.whole.done() or not self._early(scope):
            app = await asyncio.wrap_future(self.whole)
        await app(scope, receive, send)

    def _early(self, scope: Scope) -> bool:
        """Whether the small app can answer: reading plans, and the pages' own files."""
        if scope["type"] != "http" or scope["method"] not in ("GET", "HEAD"):
            return False
        parts = scope["path"].strip("/").split("/")
        if parts[0] == "api":
            return parts[1:2] == ["plans"] and len(parts) <= 3
        return self.has_pages and parts != ["openapi.json"]

    async def _live(self, receive: Receive, send: Send) -> None:
        while True:
            message = await receive()
            if message["type"] == "lifespan.startup":
                threading.Thread(target=self._load, name="load the app", daemon=True).start()
                await send({"type": "lifespan.startup.complete"})
            else:
                if self.whole.done() and not self.whole.exception():
                    from oddkettle.services import monitor

                    monitor.stop_followers()
                await send({"type": "lifespan.shutdown.complete"})
                return

    def _load(self) -> None:
        try:
            from oddkettle.api.app import create_app
            from oddkettle.services import monitor
            from oddkettle.services.run_cache import keep_on_disk

            keep_on_disk()
            self.whole.set_result(create_app(self.front_end, self.forecast_url))
            monitor.start_followers()
        except BaseException as error:
            self.whole.set_exception(error)
            raise
        finally:
            # What is loaded stays: looking through it again and again would only take time.
            gc.collect()
            gc.freeze()
            gc.enable()
        self.afterwards()
