"""How much may be sent, by route, and how slowly: what is larger is refused before it is kept.

A body is counted as it comes in, whatever its length says, so that no more than its bound ever
stands in memory. A sender that goes quiet in the middle is let go.
"""

from __future__ import annotations

import asyncio
import re
from contextlib import suppress
from typing import TYPE_CHECKING

from starlette.datastructures import Headers

from oddkettle.api.middleware.refusal import refusal

if TYPE_CHECKING:
    from starlette.types import ASGIApp, Message, Receive, Scope, Send

MEGABYTE = 1_000_000
CLOSING = {"connection": "close"}
USUAL = 4 * MEGABYTE
"""A plan with everything in it takes less than a quarter of this."""
QUIET_S = 20.0
"""A sender that says nothing for so long has gone [judgement]."""
GRACE_S, MIN_BYTES_A_S = 30.0, 8000
"""A body may take so long and a second more for so many bytes: the poorest line of a phone sends
more, and who sends a byte now and then only to be there is let go [judgement]."""
ROUTES: tuple[tuple[re.Pattern[str], int], ...] = tuple(
    (re.compile(path), most)
    for path, most in (
        (r"/api/plans/archive$", 64 * MEGABYTE),
        (r"/api/plans/\d+/(samples|table|table/preview)$", 24 * MEGABYTE),
        (r"/api/plans/\d+/roads/track$", 24 * MEGABYTE),
        (r"/api/labels/photo$", 12 * MEGABYTE),
        (r"/api/weather$", 16 * MEGABYTE),
    )
)


def most_bytes(path: str) -> int:
    """The largest body that a route takes."""
    return next((most for pattern, most in ROUTES if pattern.match(path)), USUAL)


class _Ended(Exception):
    """More came than the route takes, or the sender went quiet."""


class Bounded:
    """ASGI middleware around the whole app."""

    def __init__(self, app: ASGIApp, quiet_s: float = QUIET_S, grace_s: float = GRACE_S) -> None:
        self.app = app
        self.quiet_s, self.grace_s = quiet_s, grace_s

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Count what comes in; refuse what is too much or never ends."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        most = most_bytes(scope["path"])
        length = Headers(scope=scope).get("content-length", "")
        if length.isdigit() and int(length) > most:
            await refusal(413, _too_large(most), headers=CLOSING)(scope, receive, send)
            return
        came, whole, begun, waited_s = 0, False, False, 0.0
        why: tuple[int, str] | None = None

        async def counted() -> Message:
            nonlocal came, whole, why, waited_s
            if whole:
                # Waiting for the sender to hang up is no sending.
                return await receive()
            # Only what is waited for him counts: while he waits for his turn nothing is asked.
            left_s = self.grace_s + came / MIN_BYTES_A_S - waited_s
            began = asyncio.get_running_loop().time()
            try:
                message = await asyncio.wait_for(receive(), min(self.quiet_s, max(left_s, 0.0)))
            except TimeoutError:
                why = 408, self._quiet() if left_s > self.quiet_s else TOO_SLOW
                raise _Ended from None
            waited_s += asyncio.get_running_loop().time() - began
            if message["type"] == "http.request":
                came += len(message.get("body", b""))
                whole = not message.get("more_body", False)
                if came > most:
                    why = 413, _too_large(most)
                    raise _Ended
            return message

        async def noting(message: Message) -> None:
            nonlocal begun
            if why is not None and not begun:
                # What the app makes of a body that ended early is not what happened.
                return
            begun = True
            await send(message)

        with suppress(_Ended):
            await self.app(scope, counted, noting)
        if why is not None and not begun:
            await refusal(*why, headers=CLOSING)(scope, receive, send)

    def _quiet(self) -> str:
        return f"Nothing came for {self.quiet_s:g} s, so nothing was done. Send it again."


TOO_SLOW = (
    f"It came more slowly than {MIN_BYTES_A_S / 1000:g} kB a second, so nothing was done. Send "
    "it over a better line, or less of it."
)


def _too_large(most: int) -> str:
    return (
        f"This is too much at once: at most {most / MEGABYTE:g} MB are taken here. Send less, or "
        "in several pieces."
    )
