"""The server's HTTP protocol with an end to requests that never come whole and answers never read.

The server itself lets a connection stand for ever that sends nothing, or a header now and then, or
that takes no byte of its answer: some hundreds of them take every file handle there is.
"""

from __future__ import annotations

import asyncio

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

HEAD_S = 30.0
"""So long may a request's head take; the poorest line sends it in a second or two [judgement]."""

READ_S = 30.0
"""So long may a reader take nothing of what waits for him [judgement]."""


class Impatient(HttpToolsProtocol):
    """Closes a connection whose next request is begun and not whole after `HEAD_S`.

    And one of whose answer nothing is read for `READ_S`.
    """

    _late: asyncio.TimerHandle | None = None
    _unread: asyncio.TimerHandle | None = None

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
        self._is_read()
        super().connection_lost(exc)

    def pause_writing(self) -> None:
        """The line is full: its reader must take some of it."""
        super().pause_writing()
        if self._unread is None:
            self._look_again()

    def resume_writing(self) -> None:
        """He did."""
        self._is_read()
        super().resume_writing()

    def _is_read(self) -> None:
        if self._unread is not None:
            self._unread.cancel()
            self._unread = None

    def _look_again(self) -> None:
        left = self.transport.get_write_buffer_size()
        self._unread = self.loop.call_later(READ_S, self._look, left)

    def _look(self, before: int) -> None:
        self._unread = None
        if self.transport.get_write_buffer_size() < before:
            self._look_again()
        else:
            # Closing would wait for him to read what is left.
            self.transport.abort()

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
