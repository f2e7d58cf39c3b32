"""A large JSON body is counted through before the app builds anything of it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers

from oddkettle.api.middleware.bounds import USUAL, most_bytes
from oddkettle.api.middleware.refusal import refusal
from oddkettle.formats.untrusted.json_bounds import TooManyFields, count_fields

if TYPE_CHECKING:
    from starlette.types import ASGIApp, Message, Receive, Scope, Send

JSON = "application/json"
SMALL = 100_000
"""A body of so many bytes holds no more fields than can be told of."""


class CountedJson:
    """ASGI middleware within the lanes, so that few bodies are held at once.

    Stands inside `Bounded`: what comes here is within its route's bytes.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Refuse what has more fields than any document (422)."""
        if scope["type"] != "http" or scope["method"] in ("GET", "HEAD", "OPTIONS"):
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        length = headers.get("content-length", "")
        small = length.isdigit() and int(length) <= SMALL
        kind = headers.get("content-type", JSON).partition(";")[0].strip().lower()
        # Routes that take more than a document take files: lines, tables, archives.
        if small or kind != JSON or most_bytes(scope["path"]) > USUAL:
            await self.app(scope, receive, send)
            return
        pieces: list[bytes] = []
        message: Message = {"more_body": True}
        while message.get("more_body", False):
            message = await receive()
            if message["type"] != "http.request":
                return
            pieces.append(message.get("body", b""))
        body: bytes | None = b"".join(pieces)
        pieces.clear()
        assert body is not None
        if len(body) > SMALL:
            try:
                await run_in_threadpool(count_fields, body)
            except TooManyFields as error:
                said = f"{error} Send what one plan says, or export it again."
                await refusal(422, said, title="Too many fields")(scope, receive, send)
                return

        async def again() -> Message:
            nonlocal body
            if body is None:
                return await receive()
            whole, body = body, None
            return {"type": "http.request", "body": whole, "more_body": False}

        await self.app(scope, again, send)
