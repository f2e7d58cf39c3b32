"""Lets in from the network only the devices that were paired, and guests only to what is theirs.

The pages themselves are no secret and are served to everybody; everything under `/api/` wants a
device's cookie, unless this machine asks itself: by loopback at both ends, under loopback's name.
"""

from __future__ import annotations

import re
import time
from typing import TYPE_CHECKING, cast

from starlette.concurrency import run_in_threadpool
from starlette.requests import HTTPConnection
from starlette.responses import Response

from oddkettle.api.middleware.guard import host_name, is_closed
from oddkettle.api.middleware.refusal import refusal
from oddkettle.api.middleware.visitor import LOOPBACK, OWN, STRANGER, Visitor

if TYPE_CHECKING:
    from starlette.types import ASGIApp, Message, Receive, Scope, Send

    from oddkettle.usecases.people.sharing import Role, Sharing

OPEN_TO_ALL = ("/api/sharing/me", "/api/sharing/pair")
AGAIN_S = 0.5
"""How often it is asked, while an answer is sent, whether its device is still let in."""
READING = ("GET", "HEAD", "OPTIONS")
NOT_FOR_GUESTS = ("/api/backup", "/api/sharing")
GUESTS_MAY_SEND = tuple(
    re.compile(path)
    for path in (
        # Questions: nothing is kept of them.
        r"/api/(preview|sum|instant|measure|schools|weather|battery/curve)$",
        r"/api/build(/(against-unit|moved|prices|settings))?$",
        r"/api/improve/(mend|ready-made|schedule|seek|sizes|sizes/edits|weigh)$",
        r"/api/sentence(/(boxes|change|edit|label|of|read|words))?$",
        r"/api/labels(/photo)?$",
        r"/api/practise/[^/]+/[^/]+$",
        r"/api/plans/\d+/track/(capacity|cheapest|schedule|seek|weigh)$",
        r"/api/plans/\d+/roads/(calendar|track)$",
        # What happened: a reading, a tick.
        r"/api/plans/\d+/(log|ticks|alarms/seen)$",
        r"/api/sharing/leave$",
    )
)


class Entrance:
    """ASGI middleware around the whole app. Without `sharing` it lets everything pass."""

    def __init__(self, app: ASGIApp, sharing: Sharing | None) -> None:
        self.app = app
        self.sharing = sharing

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Find out who asks; refuse strangers and what guests may not."""
        if self.sharing is None or scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        visitor = OWN if _is_this_machine(scope) else await self._known(scope)
        refused = _refusal(scope, visitor)
        if refused is not None:
            await refused(scope, receive, send)
            return
        scope["visitor"] = visitor
        if visitor.device is None:
            await self.app(scope, receive, send)
            return
        await self.app(scope, receive, self._while_let_in(scope, send))

    async def _known(self, scope: Scope) -> Visitor:
        sharing = self.sharing
        cookie = self._cookie(scope)
        if sharing is None or cookie is None or not is_closed(scope["path"]):
            return STRANGER
        device = await run_in_threadpool(sharing.device_of, cookie)
        if device is None:
            return STRANGER
        return Visitor(cast("Role", device.role), device.name, device.id)

    def _cookie(self, scope: Scope) -> str | None:
        if self.sharing is None:
            return None
        return HTTPConnection(scope).cookies.get(self.sharing.cookie_name)

    async def _still(self, cookie: str | None) -> bool:
        sharing = self.sharing
        return sharing is None or await run_in_threadpool(sharing.device_of, cookie) is not None

    def _while_let_in(self, scope: Scope, send: Send) -> Send:
        """Sends an answer on; a long one is cut when its device is sent away."""
        cookie = self._cookie(scope)
        asked = time.monotonic()

        async def sent(message: Message) -> None:
            nonlocal asked
            now = time.monotonic()
            if message["type"] == "http.response.body" and now - asked > AGAIN_S:
                asked = now
                if await self._still(cookie):
                    await send(message)
                    return
                await send({"type": "http.response.body", "body": b"", "more_body": False})
                raise OSError("the device was sent away")
            await send(message)

        return sent


def _is_this_machine(scope: Scope) -> bool:
    """Whether both ends are loopback and the page was opened under its name."""
    client, server = scope.get("client"), scope.get("server")
    host = HTTPConnection(scope).headers.get("host", "")
    ends = (client and client[0], server and server[0])
    return all(end in LOOPBACK for end in ends) and host_name(host) in (*LOOPBACK, "localhost")


def _refusal(scope: Scope, visitor: Visitor) -> Response | None:
    path, method = scope["path"], scope["method"]
    if not is_closed(path) or path in OPEN_TO_ALL or visitor.role in ("own", "full"):
        return None
    if visitor.role == "stranger":
        return refusal(
            401,
            "This device is not let in yet. Open /pair on it, and type the "
            "code that Odd Kettle's own machine shows, or the pass phrase.",
            title="Not let in",
        )
    reads = method in READING and not path.startswith(NOT_FOR_GUESTS)
    if reads or (method == "POST" and any(kind.match(path) for kind in GUESTS_MAY_SEND)):
        return None
    return refusal(
        403,
        "This device is a guest: it reads and logs, and changes or deletes "
        "nothing else. Do it on Odd Kettle's own machine, or let the device in anew with all "
        "rights.",
        title="Not for guests",
    )
