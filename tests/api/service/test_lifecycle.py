"""What runs without being asked, in the real program: started, waited for, stopped, begun anew."""

from __future__ import annotations

import json
import shutil
import sqlite3
import subprocess
from collections.abc import Iterator
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest

from oddkettle.store.file.backup import health_of
from tests.conftest import document_of
from tests.links.test_mqtt import Broker, Listener
from tests.support import http
from tests.support.patience import until
from tests.support.serving import SERVE, Server
from tests.support.tiers import SLOW

pytestmark = SLOW
FAST = {"ODDKETTLE_WATCH_S": "0.5"}


def trip_of_today() -> bytes:
    """The demo's trip, begun yesterday by the real clock."""
    plan: dict[str, Any] = document_of("moth-survey")
    plan["trip"]["start"] = (datetime.now(UTC).date() - timedelta(days=1)).isoformat()
    plan["assumptions"]["scenarios"] = 20
    return json.dumps(plan).encode()


def read_low(server: Server, plan: int) -> None:
    """Two readings that agree: the box is all but empty."""
    for minutes in (20, 10):
        at = (datetime.now(UTC) - timedelta(minutes=minutes)).isoformat(timespec="seconds")
        entry = {"kind": "monitor_percent", "value": 9, "at": at}
        http.post(f"{server.url}/api/plans/{plan}/log", json=entry).raise_for_status()


def alarms_kept(data: Path) -> list[tuple[str, str]]:
    """What the data file holds, read by no question that would make it look."""
    path = data / "oddkettle.sqlite3"
    with closing(sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True)) as db:
        return list(db.execute("SELECT kind, text FROM alarm WHERE ended_at IS NULL"))


@pytest.fixture
def server(tmp_path: Path) -> Iterator[Server]:
    server = Server(tmp_path / "data", SERVE, settings=FAST)
    server.start()
    yield server
    server.kill()


@pytest.fixture
def broker(tmp_path: Path) -> Iterator[Broker]:
    broker = Broker(tmp_path)
    yield broker
    broker.stop()


def test_a_trip_that_runs_low_is_told_of_unasked_and_a_broker_outlives_kills(
    server: Server, broker: Broker
) -> None:
    made = http.post(f"{server.url}/api/plans/import", content=trip_of_today())
    plan = made.json()["id"]
    assert alarms_kept(server.data) == []
    read_low(server, plan)
    until(lambda: alarms_kept(server.data), "an alarm that nobody asked for")
    assert [kind for kind, _ in alarms_kept(server.data)] == ["floor"]

    listener = Listener(broker.port, "homie/#")
    told = {"address": broker.address, "publish": True}
    base = http.put(f"{server.url}/api/plans/{plan}/broker", json=told).json()["base"]
    state, safe = f"{base}/$state", f"{base}/box/tonight-safe"
    until(lambda: listener.last.get(state) == "ready", "the box at the broker")
    until(lambda: listener.last.get(safe) == "false", "that tonight is not safe")

    # Killed, it is lost; started again, it is there without anybody's doing.
    server.kill()
    until(lambda: listener.last.get(state) == "lost", "the will of one that was killed")
    listener.last.clear()
    server.start()
    until(lambda: listener.last.get(state) == "ready", "the box at the broker again")
    now = http.get(f"{server.url}/api/plans/{plan}/broker").json()
    assert now["state"] == "connected"
    assert len(alarms_kept(server.data)) == 1
    until(lambda: _well(server, "watch"), "a watch that has looked")

    # Stopped, it says goodbye and leaves one whole file.
    server.stop()
    until(lambda: listener.last.get(state) == "disconnected", "the goodbye")
    late = Listener(broker.port, state)
    until(lambda: late.last.get(state) == "disconnected", "the goodbye, retained")
    for one in (listener, late):
        one.close()


def _well(server: Server, part: str) -> bool:
    parts = {one["name"]: one for one in http.get(f"{server.url}/health").json()["parts"]}
    return part in parts and bool(parts[part]["well"] and parts[part]["well_at"])


def test_after_a_stop_the_one_file_holds_everything(server: Server, tmp_path: Path) -> None:
    http.post(f"{server.url}/api/plans/import", content=trip_of_today()).raise_for_status()
    read_low(server, 1)
    server.stop()
    alone = tmp_path / "elsewhere" / "oddkettle.sqlite3"
    alone.parent.mkdir()
    shutil.copy(server.data / "oddkettle.sqlite3", alone)
    health = health_of(alone)
    assert (health.plans, health.entries, health.troubles) == (1, 2, ())
    # It serves from there.
    other = Server(alone.parent, SERVE)
    other.start()
    assert len(http.get(f"{other.url}/api/plans/1/log").json()) == 2
    other.kill()


def test_copies_come_by_the_clock_and_health_says_how_it_stands(server: Server) -> None:
    http.post(f"{server.url}/api/plans/import", content=trip_of_today()).raise_for_status()
    until(lambda: http.get(f"{server.url}/health").json()["newest_copy"], "a copy by itself")
    told = http.get(f"{server.url}/health").json()
    assert (told["status"], told["database"]) == ("well", "ok")
    assert health_of(server.data / "copies" / told["newest_copy"]).troubles == ()
    assert told["free_bytes"] > 0
    assert told["step"] > 0


def test_what_fails_by_itself_is_told_and_ends_nothing(server: Server) -> None:
    """A plan that no program can read lies among those that are watched over."""
    plan = http.post(f"{server.url}/api/plans/import", content=trip_of_today()).json()["id"]
    read_low(server, plan)
    until(lambda: alarms_kept(server.data), "an alarm of the sound plan")
    path = server.data / "oddkettle.sqlite3"
    other = http.post(f"{server.url}/api/plans/import", content=trip_of_today()).json()["id"]
    with closing(sqlite3.connect(path, timeout=30)) as db, db:
        # As a disk that fails might leave it: a broken log of a trip that is under way.
        db.execute(
            "INSERT INTO log_entry (plan_id, at_utc, kind, value, note, written_at, written_by, "
            "detail) VALUES (?, ?, 'monitor_percent', 50, '', ?, 'by hand', '{broken')",
            (other, datetime.now(UTC).isoformat(), datetime.now(UTC).isoformat()),
        )
    until(
        lambda: http.get(f"{server.url}/health").json()["status"] == "troubled",
        "the trouble told",
    )
    parts = {one["name"]: one for one in http.get(f"{server.url}/health").json()["parts"]}
    assert not parts[f"watch of plan {other}"]["well"]
    assert parts["watch"]["well"]


def test_a_file_of_an_older_program_is_copied_before_it_is_brought_up_to_date(
    server: Server,
) -> None:
    http.post(f"{server.url}/api/plans/import", content=trip_of_today()).raise_for_status()
    server.stop()
    path = server.data / "oddkettle.sqlite3"
    with closing(sqlite3.connect(path)) as db, db:
        (step,) = db.execute("SELECT number FROM migration WHERE name = 'key_trips'").fetchone()
        # As the program left it that knew neither keys of plans nor devices of entries.
        db.execute("ALTER TABLE plan DROP COLUMN key")
        db.execute("ALTER TABLE log_entry DROP COLUMN device")
        db.execute("DROP TABLE log_step")
        db.execute("DELETE FROM migration WHERE number >= ?", (step,))
    server.start()
    server.stop()
    (before,) = (server.data / "copies").glob(f"before-step-{step}-*.sqlite3")
    assert health_of(before).step == step - 1
    assert health_of(path).step >= step


@pytest.mark.parametrize("address", ["/nothing", "/plan/one/trip", "/index.php", "/plan/1/a/b"])
def test_an_unknown_address_is_told_so(server: Server, address: str) -> None:
    assert http.get(server.url + address).status_code == 404


def doctor(server: Server, *words: str) -> subprocess.CompletedProcess[str]:
    command = [*SERVE[:-1], "doctor", *words]
    return subprocess.run(
        command, env=server.environment(), capture_output=True, text=True, check=False
    )


def test_the_doctor_counts_what_is_there_and_finds_what_is_wrong(server: Server) -> None:
    plan = http.post(f"{server.url}/api/plans/import", content=trip_of_today()).json()["id"]
    read_low(server, plan)
    until(lambda: _well(server, "watch"), "a watch that has looked")
    told = doctor(server)
    assert "1 plans in 1 revisions, 2 entries" in told.stdout
    assert "It is whole." in told.stdout
    found = json.loads(doctor(server, "--json").stdout)
    assert (found["running"], found["whole"], found["troubles"]) == (True, True, [])
    # A plan that no program can read, a key that was broken off, and a server that is gone.
    server.stop()
    path = server.data / "oddkettle.sqlite3"
    with closing(sqlite3.connect(path)) as db, db:
        db.execute("UPDATE revision SET document = '{\"version\": 99}'")
    (server.data / "sharing.key").write_bytes(b"")
    sick = doctor(server, "--json")
    assert sick.returncode == 1
    found = json.loads(sick.stdout)
    assert (found["running"], found["whole"]) == (False, True)
    assert any(f"plan {plan} cannot be read" in one for one in found["troubles"])
    assert any("sharing.key is empty" in one for one in found["troubles"])
