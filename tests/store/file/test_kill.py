"""The server killed with -9 during saves loses no acknowledged save."""

from __future__ import annotations

import json
import random
import threading
import time
from contextlib import suppress
from datetime import UTC, datetime, timedelta

import pytest

from oddkettle.formats.archive import pack
from oddkettle.store.file.backup import health_of
from tests.conftest import EXAMPLES
from tests.support import http
from tests.support.serving import SERVE, Server
from tests.support.tiers import SLOW, TIER, in_pieces, repeats

ROUNDS = 1 if TIER == "test" else 10
PIECES = 10
pytestmark = SLOW
ENTRIES = repeats(0, 3_000, 8_000)


@pytest.fixture(scope="module")
def server(tmp_path_factory: pytest.TempPathFactory) -> Server:
    """A server with one plan in its store, killed."""
    server = Server(tmp_path_factory.mktemp("killed"), SERVE)
    server.start()
    plan = (EXAMPLES / "moth-survey.json").read_bytes()
    http.post(f"{server.url}/api/plans/import", content=plan).raise_for_status()
    server.kill()
    return server


@in_pieces(PIECES)
def test_a_killed_server_loses_no_acknowledged_save(server: Server, piece: int) -> None:
    for _ in range(ROUNDS):
        server.start()
        acknowledged = save_until_killed(server)
        server.start()
        plan = http.get(f"{server.url}/api/plans/1").json()
        # At most one save may have been stored without its answer having arrived.
        assert acknowledged > 0
        assert plan["revision"] - acknowledged in (0, 1)
        assert plan["document"]["name"].startswith("save ")
        server.kill()


def end(timer: threading.Timer, server: Server) -> None:
    """Wait for the kill; where not even one answer came before the line broke, kill now."""
    if timer.ident is None:
        server.kill()
    else:
        timer.join()


def save_until_killed(server: Server) -> int:
    """Save as fast as answers come while the server is killed; the last revision confirmed."""
    plan = http.get(f"{server.url}/api/plans/1").json()
    revision, confirmed = plan["revision"], 0
    timer = threading.Timer(0.5, server.kill)
    with http.Client(base_url=server.url) as client:
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
        except http.TransportError:
            pass
    end(timer, server)
    return confirmed


@in_pieces(PIECES)
def test_a_killed_server_loses_no_acknowledged_sample_and_counts_none_twice(
    server: Server, piece: int
) -> None:
    """The bridge sends again what was not acknowledged, as bridges do."""
    sent = acknowledged = 0
    server.start()
    # A plan of this piece's own: another has sent the same moments to its own.
    sample = (EXAMPLES / "moth-survey.json").read_bytes()
    plan = http.post(f"{server.url}/api/plans/import", content=sample).json()["id"]
    server.kill()
    for _ in range(ROUNDS):
        server.start()
        acknowledged, sent = send_until_killed(server, plan, acknowledged)
    server.start()
    # What was not acknowledged in the last round may or may not have been stored.
    stored = http.get(f"{server.url}/api/plans/{plan}/samples").json()["total"]
    assert acknowledged > 0
    assert acknowledged <= stored <= sent
    line = sample_line(0)
    again = http.post(f"{server.url}/api/plans/{plan}/samples", content=line).json()
    assert (again["stored"], again["duplicates"]) == (0, 1)
    rows = http.get(f"{server.url}/api/plans/{plan}/export/samples.json").json()
    seconds = [row["seq"] for row in rows]
    assert seconds == list(range(stored))
    server.kill()


BUNCH = 25


def sample_line(n: int) -> str:
    """Sample number `n` of the plan's box, one in ten seconds."""
    at = datetime(2026, 6, 6, tzinfo=UTC) + timedelta(seconds=10 * n)
    return json.dumps({"at": at.isoformat(), "seq": n, "volts": 12.5, "amps": -0.1})


def send_until_killed(server: Server, plan: int, first: int) -> tuple[int, int]:
    """Send bunches until the server is killed; (acknowledged, sent) in samples."""
    timer = threading.Timer(0.5, server.kill)
    sent = done = first
    with http.Client(base_url=server.url) as client:
        try:
            while True:
                lines = "\n".join(sample_line(n) for n in range(done, done + BUNCH))
                sent = done + BUNCH
                answer = client.post(f"/api/plans/{plan}/samples", content=lines)
                assert answer.status_code == 200, answer.text
                body = answer.json()
                assert body["stored"] + body["duplicates"] == BUNCH
                done += BUNCH
                if done == first + BUNCH:
                    timer.start()
        except http.TransportError:
            pass
    end(timer, server)
    return done, sent


@in_pieces(PIECES)
def test_a_server_killed_while_an_archive_comes_in_or_a_copy_is_made_keeps_all_or_nothing(
    server: Server, piece: int
) -> None:
    """Whenever it dies, the plan with its whole log is there, or nothing of it."""
    server.start()
    plan = http.get(f"{server.url}/api/plans/1/file").content
    start = datetime.fromisoformat(json.loads(plan)["trip"]["start"]).replace(tzinfo=UTC)
    archive = pack(
        plan, [entry_at(start + timedelta(hours=12, seconds=n)) for n in range(ENTRIES)], []
    )
    rng = random.Random(7 + piece)
    for _ in range(ROUNDS):
        before = len(http.get(f"{server.url}/api/plans").json())
        answers: list[int] = []
        asked = [
            threading.Thread(
                target=try_to, args=(server, "POST", "/api/plans/archive", archive, answers)
            ),
            threading.Thread(target=try_to, args=(server, "GET", "/api/backup", b"", [])),
        ]
        for one in asked:
            one.start()
        time.sleep(rng.uniform(0.1, ENTRIES / 2000))
        server.kill()
        for one in asked:
            one.join()
        server.start()
        listed = http.get(f"{server.url}/api/plans").json()
        assert len(listed) - before in ((1,) if 201 in answers else (0, 1))
        if len(listed) > before:
            log = http.get(f"{server.url}/api/plans/{listed[-1]['id']}/log")
            assert len(log.json()) == ENTRIES
        assert health_of(server.data / "oddkettle.sqlite3").troubles == ()
    server.kill()


def entry_at(moment: datetime) -> dict[str, object]:
    return {
        "at_utc": moment.isoformat(),
        "kind": "monitor_percent",
        "value": 60.0,
        "note": "",
        "written_at": moment.isoformat(timespec="seconds"),
        "written_by": "by hand",
        "detail": "{}",
    }


def try_to(server: Server, method: str, path: str, body: bytes, answers: list[int]) -> None:
    with suppress(http.TransportError):
        answer = http.request(method, f"{server.url}{path}", content=body)
        answers.append(answer.status_code)
