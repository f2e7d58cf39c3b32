"""Keeps other pages out: foreign hosts, foreign origins, frames, sniffing, caches.

A page of another site can make a browser send requests here, and a name that is rebound to this
machine can read the answers. What comes under another host's name, and what a page of another site
would read or change, is refused before anything reads it. Programs that are no browser send neither
`Origin` nor `Sec-Fetch-Site`, and are not kept out by these.
"""

from __future__ import annotations

from typing import TYPE_CHECKING
from urllib.parse import urlsplit

from starlette.datastructures import Headers

from oddkettle.api.middleware.refusal import refusal
from oddkettle.api.middleware.visitor import LOOPBACK

if TYPE_CHECKING:
    from collections.abc import Iterable

    from starlette.types import ASGIApp, Message, Receive, Scope, Send

READING = ("GET", "HEAD", "OPTIONS")
OWN_SITES = ("same-origin", "none")
CLOSED_BESIDE = ("/health", "/openapi.json")
"""What is no page and tells of the program, beside the API."""
FOREIGN_READ = (
    "A page of another site asked for this, so it is not answered. Open it on Odd Kettle's own "
    "page."
)
FORMS = ("application/x-www-form-urlencoded", "multipart/form-data", "text/plain")
"""What a page of another site can send without being asked first."""
POLICY = "; ".join(
    (
        "default-src 'self'",
        # Shapes are placed by style attributes; no script of a page is inline.
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data: blob:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)
HEADERS = (
    (b"content-security-policy", POLICY.encode()),
    (b"x-content-type-options", b"nosniff"),
    (b"x-frame-options", b"DENY"),
    (b"referrer-policy", b"no-referrer"),
    (b"cross-origin-resource-policy", b"same-origin"),
)
ALONE = (b"cross-origin-opener-policy", b"same-origin")
"""Browsers heed it, without a complaint, where they trust the origin: loopback and TLS."""


class Guard:
    """ASGI middleware around the whole app; `hosts` may be called by name besides loopback.

    Where it is `shared`, it may also be called by the address at which it was reached: a number
    cannot be rebound to another machine.
    """

    def __init__(self, app: ASGIApp, hosts: Iterable[str] = (), *, shared: bool = False) -> None:
        self.app = app
        self.shared = shared
        named = (host.strip().lower() for host in hosts if host.strip())
        self.hosts = {*LOOPBACK, "localhost", *named}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Refuse what is foreign; put the headers on everything else."""
        if scope["type"] == "lifespan":
            await self.app(scope, receive, send)
            return
        why = self._refusal(scope)
        api = scope["path"].startswith("/api/")
        name = host_name(Headers(scope=scope).get("host", ""))
        trusted = scope.get("scheme") == "https" or name in (*LOOPBACK, "localhost")
        headers = (*HEADERS, ALONE) if trusted else HEADERS

        async def with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                kept = list(message["headers"])
                if api and not any(key.lower() == b"cache-control" for key, _ in kept):
                    kept.append((b"cache-control", b"no-store"))
                message = {**message, "headers": [*kept, *headers]}
            await send(message)

        app = self.app if why is None else refusal(*why)
        await app(scope, receive, with_headers)

    def _refusal(self, scope: Scope) -> tuple[int, str] | None:
        headers = Headers(scope=scope)
        host = headers.get("host", "")
        reached = scope.get("server") if self.shared else None
        if host_name(host) not in {*self.hosts, *(reached or ())[:1]}:
            return 421, (
                f"This is not the host {host[:80]!r}. Open Odd Kettle at 127.0.0.1, or name the "
                "host in ODDKETTLE_HOSTS."
            )
        if scope["type"] != "http":
            return None
        site, origin = headers.get("sec-fetch-site"), headers.get("origin")
        foreign = site is not None and site not in OWN_SITES
        if scope["method"] in READING:
            return (403, FOREIGN_READ) if foreign and is_closed(scope["path"]) else None
        if foreign or (origin is not None and origin.partition("://")[2].lower() != host.lower()):
            return 403, (
                "A page of another site asked for this, so nothing was done. Do it on Odd "
                "Kettle's own page."
            )
        kind = headers.get("content-type", "").partition(";")[0].strip().lower()
        if origin is not None and kind in FORMS:
            return 415, f"A body of the type {kind} is not taken. Send JSON, or the file's bytes."
        return None


def is_closed(path: str) -> bool:
    """Whether an address is for those alone who were let in, and for our own pages."""
    return path.startswith("/api/") or path in CLOSED_BESIDE


def host_name(host: str) -> str:
    """A host without its port, in small letters; empty for what is none."""
    try:
        parts = urlsplit(f"//{host}")
        named = parts.hostname if parts.username is None else None
    except ValueError:
        return ""
    return (named or "").lower()
