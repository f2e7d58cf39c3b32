"""The server's HTTP protocol with an end to a request whose head never comes whole.

The server itself lets a connection stand for ever that sends nothing, or a header now and then:
some hundreds of them take every file handle there is.
"""

from __future__ import annotations

import asyncio

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

HEAD_S = 30.0
"""So long may a request's head take; the poorest line sends it in a second or two [judgement]."""


class Impatient(HttpToolsProtocol):
    """Closes a connection whose next request is begun and not whole after `HEAD_S`."""

    _late: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """Wait for the first request from here on."""
        super().connection_made(transport)
        self._expect()

    def on_message_begin(self) -> None:
        """Another request begins on the same connection."""
        super().on_message_begin()
        self._expect()

    def on_headers_complete(self) -> None:
        """Its head is whole; how its body comes is watched by `bounds.py`."""
        self._expected()
        super().on_headers_complete()

    def connection_lost(self, exc: Exception | None) -> None:
        """Nobody is there any more."""
        self._expected()
        super().connection_lost(exc)

    def _expect(self) -> None:
        if self._late is None:
            self._late = self.loop.call_later(HEAD_S, self._close)

    def _expected(self) -> None:
        if self._late is not None:
            self._late.cancel()
            self._late = None

    def _close(self) -> None:
        self._late = None
        if self.transport is not None and not self.transport.is_closing():
            self.transport.close()
