"""Says with every answer of the API which data file it comes from, so that pages can tell."""

from __future__ import annotations

from typing import TYPE_CHECKING

from starlette.concurrency import run_in_threadpool

from oddkettle.store.file.identity import data_id

if TYPE_CHECKING:
    from starlette.types import ASGIApp, Message, Receive, Scope, Send

HEADER = b"data-file"


class NamesDataFile:
    """ASGI middleware. The name is asked once: a data file in use is never replaced."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app
        self._named: bytes | None = None

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Put the name on an answer of the API."""
        if scope["type"] != "http" or not scope["path"].startswith("/api/"):
            await self.app(scope, receive, send)
            return
        if self._named is None:
            self._named = (await run_in_threadpool(data_id)).encode()
        name = (HEADER, self._named)

        async def named(message: Message) -> None:
            if message["type"] == "http.response.start":
                message = {**message, "headers": [*message["headers"], name]}
            await send(message)

        await self.app(scope, receive, named)
