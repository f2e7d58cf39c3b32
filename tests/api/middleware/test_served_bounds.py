"""The real server under those who hold on to it: slow, gone, or waiting for one that hangs."""

from __future__ import annotations

import select
import socket
import threading
import time
from collections.abc import Iterator
from contextlib import ExitStack
from pathlib import Path
from typing import Any

import pytest
import uvicorn

from oddkettle.api.middleware import impatient
from oddkettle.api.middleware.impatient import Impatient
from oddkettle.usecases.service.copies import SENDING
from tests.conftest import EXAMPLES
from tests.support import http
from tests.support.patience import PATIENCE_S, until
from tests.support.serving import SERVE, Server, free_port

LARGE = 20_000_000


class Hung:
    """A service that takes every call and never answers."""

    def __init__(self) -> None:
        self.socket = socket.create_server(("127.0.0.1", 0), backlog=200)
        self.port = self.socket.getsockname()[1]
        self.calls: list[socket.socket] = []
        threading.Thread(target=self._take, daemon=True).start()

    def _take(self) -> None:
        while True:
            try:
                self.calls.append(self.socket.accept()[0])
            except OSError:
                return

    def close(self) -> None:
        self.socket.close()
        for call in self.calls:
            call.close()


@pytest.fixture
def hung() -> Iterator[Hung]:
    service = Hung()
    yield service
    service.close()


@pytest.fixture
def server(tmp_path: Path, hung: Hung) -> Iterator[Server]:
    away = {"ODDKETTLE_FORECAST_URL": f"http://127.0.0.1:{hung.port}"}
    server = Server(tmp_path, SERVE, settings=away)
    server.start()
    sample = (EXAMPLES / "moth-survey.json").read_bytes()
    http.post(f"{server.url}/api/plans/import", content=sample).raise_for_status()
    yield server
    server.kill()


def test_a_forecast_service_that_hangs_holds_up_nobody_else(server: Server, hung: Hung) -> None:
    press = b"POST /api/plans/1/forecast HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 0\r\n\r\n"
    with ExitStack() as all_of_them:
        at = ("127.0.0.1", server.port)
        callers = [all_of_them.enter_context(socket.create_connection(at)) for _ in range(45)]
        for caller in callers:
            caller.sendall(press)
        until(lambda: hung.calls)
        assert http.get(f"{server.url}/api/plans").is_success
        # That was answered while those who pressed still wait; the others may take as long as the
        # service's own limit on a busy machine, and are answered all the same.
        assert len(select.select(callers, [], [], 0)[0]) < len(callers)
        for path in ("/api/plans/1", "/api/plans/1/report", "/api/plans/1/forecast"):
            assert http.get(f"{server.url}{path}").is_success
        entry = {"kind": "monitor_percent", "at": "2026-06-08T12:00", "value": 55, "note": ""}
        log = f"{server.url}/api/plans/1/log"
        assert http.post(log, json=entry).status_code == 201


def test_a_backup_is_sent_from_the_disk_and_leaves_nothing_there(server: Server) -> None:
    def left() -> list[Path]:
        return list(server.data.glob(f"{SENDING}*"))

    whole = http.get(f"{server.url}/api/backup")
    assert whole.content.startswith(b"SQLite format 3")
    assert int(whole.headers["content-length"]) == len(whole.content)
    until(lambda: not left())
    # Somebody who hangs up in the middle.
    with socket.create_connection(("127.0.0.1", server.port)) as caller:
        caller.sendall(b"GET /api/backup HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
        assert caller.recv(100).startswith(b"HTTP/1.1 200")
    until(lambda: not left())


@pytest.fixture
def quick_server(monkeypatch: pytest.MonkeyPatch) -> Iterator[int]:
    """The protocol of the served program alone, with a short patience."""
    monkeypatch.setattr(impatient, "HEAD_S", 0.3)
    monkeypatch.setattr(impatient, "READ_S", 0.5)

    async def app(scope: dict[str, Any], receive: object, send: Any) -> None:
        large = scope["path"] == "/large"
        status = 200 if large else 204
        await send({"type": "http.response.start", "status": status, "headers": []})
        await send({"type": "http.response.body", "body": b"x" * (LARGE if large else 0)})

    port = free_port()
    config = uvicorn.Config(app, port=port, http=Impatient, lifespan="off", log_level="error")
    server = uvicorn.Server(config)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    until(lambda: server.started)
    yield port
    server.should_exit = True
    thread.join(PATIENCE_S)


def closed(caller: socket.socket, left: int = 0) -> bool:
    """Whether it is, after no more than so many bytes that were on their way."""
    caller.settimeout(PATIENCE_S)
    read = 0
    try:
        while piece := caller.recv(1_000_000):
            read += len(piece)
    except ConnectionError:
        pass
    return read <= left


def test_who_sends_no_whole_request_is_let_go(quick_server: int) -> None:
    callers = [socket.create_connection(("127.0.0.1", quick_server)) for _ in range(100)]
    for caller in callers[:50]:
        caller.sendall(b"GET / HTTP/1.1\r\nHost: 127")
    assert all(closed(caller) for caller in callers)


def test_who_sends_one_after_a_while_is_answered_and_watched_again(quick_server: int) -> None:
    request = b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n"
    with socket.create_connection(("127.0.0.1", quick_server)) as caller:
        caller.sendall(request)
        assert caller.recv(1000).startswith(b"HTTP/1.1 204")
        # The connection may stay between requests for longer than a head may take.
        time.sleep(0.6)
        caller.sendall(request)
        assert caller.recv(1000).startswith(b"HTTP/1.1 204")
        caller.sendall(request[:20])
        assert closed(caller)


def test_who_reads_nothing_of_his_answer_is_let_go_and_a_slow_reader_is_not(
    quick_server: int,
) -> None:
    request = b"GET /large HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n"
    with socket.create_connection(("127.0.0.1", quick_server)) as idle:
        idle.sendall(request)
        with socket.create_connection(("127.0.0.1", quick_server)) as slow:
            slow.settimeout(PATIENCE_S)
            slow.sendall(request)
            read = 0
            # Longer than the idle one is borne, in small sips.
            while piece := slow.recv(1_000_000):
                read += len(piece)
                time.sleep(0.05)
            assert read > LARGE
        idle.settimeout(PATIENCE_S)
        assert closed(idle, 10_000_000)
