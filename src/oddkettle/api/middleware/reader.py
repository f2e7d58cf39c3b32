"""Answers in their reader's habits: the one place at which the API writes quantities out."""

from __future__ import annotations

from typing import TYPE_CHECKING

from starlette.requests import HTTPConnection

from oddkettle.text.habits import COOKIE, habits_from, read_by
from oddkettle.text.render import render_bytes

if TYPE_CHECKING:
    from starlette.types import ASGIApp, Message, Receive, Scope, Send

SENTENCES_IN = ("json", "svg", "text/plain", "event-stream")
"""What holds sentences for somebody to read. Tables for other programs are written as usual."""


class InHabits:
    """Middleware: reads the habits that came along, and writes the answer out in them.

    Sits inside whatever packs answers. Lines of a long answer are whole when they are sent.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the question on; write out each piece of the answer."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        habits = habits_from(HTTPConnection(scope).cookies.get(COOKIE, ""))
        start: Message | None = None
        readable = False

        async def write_out(message: Message) -> None:
            nonlocal start, readable
            if message["type"] == "http.response.start":
                headers = {key.lower(): value for key, value in message["headers"]}
                kind = headers.get(b"content-type", b"").decode("latin-1")
                readable = any(word in kind for word in SENTENCES_IN)
                start = message
                return
            if message["type"] == "http.response.body" and readable:
                body = render_bytes(message.get("body", b""), habits)
                message = {**message, "body": body}
                if start is not None:
                    start = {**start, "headers": _of_length(start["headers"], len(body))}
            if start is not None:
                await send(start)
                start = None
            await send(message)

        with read_by(habits):
            await self.app(scope, receive, write_out)


def _of_length(headers: list[tuple[bytes, bytes]], length: int) -> list[tuple[bytes, bytes]]:
    """The headers with a stated length put right, and a word to caches of what it depends on."""
    kept = [
        (key, str(length).encode() if key.lower() == b"content-length" else value)
        for key, value in headers
    ]
    return [*kept, (b"vary", b"Cookie")]
