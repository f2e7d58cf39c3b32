"""The server killed with -9 during saves loses no acknowledged save."""

from __future__ import annotations

import threading
import time
from pathlib import Path

import httpx

from tests.serving import Server

ROUNDS = 3


def test_a_killed_server_loses_no_acknowledged_save(tmp_path: Path) -> None:
    server = Server(tmp_path)
    for _ in range(ROUNDS):
        server.start()
        acknowledged = save_until_killed(server)
        server.start()
        plan = httpx.get(f"{server.url}/api/plans/1").json()
        # At most one save may have been stored without its answer having arrived.
        assert acknowledged > 0
        assert plan["revision"] - acknowledged in (0, 1)
        assert plan["document"]["name"].startswith("save ")
        server.kill()


def save_until_killed(server: Server) -> int:
    """Save as fast as answers come while the server is killed; the last revision confirmed."""
    plan = httpx.get(f"{server.url}/api/plans/1").json()
    revision, confirmed = plan["revision"], 0
    timer = threading.Timer(0.5, server.kill)
    with httpx.Client(base_url=server.url) as client:
        try:
            for n in range(10_000):
                document = plan["document"] | {"name": f"save {time.monotonic_ns()} {n}"}
                answer = client.put(
                    "/api/plans/1",
                    json={"base_revision": revision, "did": "save", "document": document},
                )
                assert answer.status_code == 200, answer.text
                revision = confirmed = answer.json()["revision"]
                if n == 0:
                    timer.start()
        except httpx.TransportError:
            pass
    timer.join()
    return confirmed
