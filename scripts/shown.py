"""The whole product as somebody gets it: the wheel in an empty home, served, killed, upgraded.

    python -m scripts.shown                 everything
    python -m scripts.shown --old A B C D   with databases of these commits' programs

Builds the wheel, installs it into an environment of its own, and there: lets a trip run low and
waits for the alarm that nobody asks for; sets a broker, kills the program and starts it again;
stops it and reads the one file that is left; copies it, brings the copy back; and takes up data
files that the programs of four older commits wrote. Prints a line for each, and ends with 1 at the
first that is not so. Needs Debian's mosquitto and git, and no network.
"""

from __future__ import annotations

import argparse
import json
import os
import shutil
import subprocess
import sys
import tempfile
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path

from tests.api.service.test_lifecycle import trip_of_today
from tests.links.test_mqtt import Broker, Listener
from tests.support import http
from tests.support.patience import until
from tests.support.serving import Server
from tests.support.wheel import ROOT, built_wheel, fresh_with

OLDER = ("7f4be06", "e1d0f75", "39dcc65", "8dfe352")
FAST = {"ODDKETTLE_WATCH_S": "0.5"}
BEGIN = time.monotonic()


def told(text: str) -> None:
    """Print a line with its time."""
    print(f"{time.monotonic() - BEGIN:6.1f} s  {text}", flush=True)


def read(server: Server, plan: int, percent: float, minutes_ago: int) -> None:
    """Note a reading of the level."""
    at = (datetime.now(UTC) - timedelta(minutes=minutes_ago)).isoformat(timespec="seconds")
    entry = {"kind": "monitor_percent", "value": percent, "at": at, "note": ""}
    http.post(f"{server.url}/api/plans/{plan}/log", json=entry).raise_for_status()


def counted(command: Path, data: Path) -> tuple[int, int, list[str]]:
    """(plans, entries, troubles) as the installed doctor tells them."""
    environment = os.environ | {"ODDKETTLE_DATA": str(data), "ODDKETTLE_PORT": "1"}
    done = subprocess.run(
        [command, "doctor", "--json"], capture_output=True, text=True, env=environment, check=False
    )
    found = json.loads(done.stdout)
    return found["plans"], found["entries"], found["troubles"]


def story(command: Path, folder: Path) -> None:
    """Alarm, broker, kill, restart, stop, one file, copy, restore."""
    home = folder / "home"
    home.mkdir()
    settings = FAST | {"HOME": str(home)}
    server = Server(home / "data", [str(command), "serve"], cwd=home, settings=settings)
    told(f"served by the wheel, up in {server.start():.1f} s")
    made = http.post(f"{server.url}/api/plans/import", content=trip_of_today())
    plan = made.json()["id"]
    read(server, plan, 9, 20)
    read(server, plan, 9, 10)
    broker = Broker(folder)
    listener = Listener(broker.port, "homie/#")
    put = {"address": broker.address, "publish": True}
    base = http.put(f"{server.url}/api/plans/{plan}/broker", json=put).json()["base"]
    until(lambda: listener.last.get(f"{base}/box/tonight-safe") == "false", "not safe, by MQTT")
    until(lambda: f"{base}/box/alarm" in listener.last, "the alarm by MQTT")
    told(f"the alarm came unasked: {listener.last[f'{base}/box/alarm'][:90]}")
    server.kill()
    until(lambda: listener.last.get(f"{base}/$state") == "lost", "the will")
    told("killed: the broker was told that it is lost")
    listener.last.clear()
    server.start()
    until(lambda: listener.last.get(f"{base}/$state") == "ready", "ready again")
    told("started again: at the broker by itself")
    code = server.stop()
    until(lambda: listener.last.get(f"{base}/$state") == "disconnected", "the goodbye")
    left = {path.name: path.stat().st_size for path in server.data.iterdir()}
    assert left.get("oddkettle.sqlite3-wal", 0) == 0, left
    told(
        f"stopped with {code}: it said goodbye, and left all in one file of "
        f"{left['oddkettle.sqlite3']:,} bytes"
    )
    alone = folder / "alone"
    alone.mkdir()
    shutil.copy(server.data / "oddkettle.sqlite3", alone)
    assert counted(command, alone)[:2] == (1, 2)
    told("the one file, copied elsewhere, holds the plan and its two entries")
    copy = folder / "copy.sqlite3"
    environment = os.environ | {"ODDKETTLE_DATA": str(server.data)}
    subprocess.run([command, "backup", copy], check=True, capture_output=True, env=environment)
    server.start()
    read(server, plan, 50, 5)
    server.stop()
    assert counted(command, server.data)[:2] == (1, 3)
    subprocess.run([command, "restore", copy], check=True, capture_output=True, env=environment)
    assert counted(command, server.data)[:2] == (1, 2)
    told("a copy was brought back: two entries again")
    broker.stop()
    listener.close()


def upgrade(command: Path, folder: Path, commit: str) -> None:
    """A data file of an older program, taken up by this one."""
    tree, data = folder / commit, folder / f"data-{commit}"
    subprocess.run(
        ["git", "worktree", "add", "--detach", "--quiet", tree, commit], cwd=ROOT, check=True
    )
    try:
        old = Server(
            data,
            [sys.executable, "-m", "oddkettle.cli", "serve"],
            cwd=tree,
            settings={"PYTHONPATH": str(tree / "src")},
        )
        old.start()
        sample = (tree / "examples/plans/moth-survey.json").read_bytes()
        made = http.post(f"{old.url}/api/plans/import", content=sample)
        made.raise_for_status()
        plan = made.json()["id"]
        entry = {"kind": "monitor_percent", "value": 61, "at": "2026-06-08T12:00", "note": "old"}
        written = http.post(f"{old.url}/api/plans/{plan}/log", json=entry)
        written.raise_for_status()
        # As power loss leaves it.
        old.kill()
    finally:
        subprocess.run(["git", "worktree", "remove", "--force", tree], cwd=ROOT, check=True)
    new = Server(data, [str(command), "serve"], cwd=folder)
    new.start()
    report = http.get(f"{new.url}/api/plans/{plan}/report")
    assert report.is_success, report.text
    log = http.get(f"{new.url}/api/plans/{plan}/log").json()
    assert [(one["value"], one["note"]) for one in log] == [(61, "old")], log
    new.stop()
    kept = list((data / "copies").glob("*"))
    plans, entries, troubles = counted(command, data)
    assert (plans, entries) == (1, 1)
    told(
        f"a data file of {commit}: plan, report and entry are there; {len(kept)} copies; "
        f"troubles: {troubles or 'none'}"
    )


def main() -> int:
    """Tell the whole story."""
    options = argparse.ArgumentParser()
    options.add_argument("--old", nargs="*", default=OLDER, help="commits of older programs")
    given = options.parse_args()
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        command = fresh_with(built_wheel(folder), folder) / "bin" / "oddkettle"
        told("built and installed")
        story(command, folder)
        for commit in given.old:
            upgrade(command, folder, commit)
    return 0


if __name__ == "__main__":
    sys.exit(main())
