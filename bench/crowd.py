"""How much memory the served program takes with eight of the largest of each kind at once.

Run with `python -m bench.crowd`. Starts the real `serve` on an empty folder, sends each kind eight
times at once, and prints the highest that the program and its readers together held (resident,
from /proc), the answers, and how long they took.
"""

from __future__ import annotations

import json
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from pathlib import Path

from tests.conftest import EXAMPLES, document_of
from tests.support import http
from tests.support.serving import SERVE, Server

AT_ONCE = 8
LOOK_S = 0.05
START = datetime(2026, 6, 6, tzinfo=UTC)


def fields() -> bytes:
    """3.5 MB of fields that nobody knows."""
    return json.dumps({f"a{n:06d}": n for n in range(175_000)}).encode()


def plan_with_unknowns() -> bytes:
    """A plan as full of unknown fields as is let in."""
    plan = document_of("moth-survey")
    blocks = plan["trip"]["blocks"]
    plan["trip"]["blocks"] = [{**blocks[0], **{f"x{n}": n for n in range(180)}} for _ in range(200)]
    return json.dumps(plan).encode()


def samples() -> bytes:
    """As many lines of a monitor as are taken at once."""
    lines = (
        json.dumps(
            {
                "at": (START + timedelta(seconds=3 * n)).isoformat(),
                "volts": 13.2,
                "amps": -4.5,
                "percent": 71.5,
            }
        )
        for n in range(99_000)
    )
    return "\n".join(lines).encode()[:23_900_000].rpartition(b"\n")[0]


def table() -> bytes:
    """The longest table that is read."""
    rows = (
        f"{START + timedelta(seconds=3 * n):%d.%m.%Y %H:%M:%S};13,2;-4,5;71,5"
        for n in range(249_000)
    )
    return ("time;voltage (V);current (A);soc (%)\n" + "\n".join(rows)).encode()


def gpx() -> bytes:
    """A track of as many points as are read."""
    points = "".join(
        f'<trkpt lat="{50 + n * 1e-5:.5f}" lon="{4 + n * 1e-5:.5f}"><ele>{n % 900}</ele></trkpt>'
        for n in range(390_000)
    )
    return f"<gpx><trk><trkseg>{points}</trkseg></trk></gpx>".encode()


def calendar() -> bytes:
    """A calendar of as many entries as are read."""
    events = "".join(
        f"BEGIN:VEVENT\r\nUID:{n}\r\nDTSTART:20260608T1000{n % 60:02d}Z\r\n"
        f"DTEND:20260608T110000Z\r\nSUMMARY:Drive {n}\r\nEND:VEVENT\r\n"
        for n in range(4900)
    )
    return f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n{events}END:VCALENDAR\r\n".encode()


def weather() -> bytes:
    """16 MB that begin like a weather file."""
    return b"LOCATION,Nowhere,-,-,-,0,50,4,1,100\n" + b"1,2,3,4,5,6,7,8,9,0\n" * 179_000


KINDS: dict[str, tuple[str, Callable[[], bytes]]] = {
    "unknown fields": ("/api/preview", fields),
    "a plan with unknown fields": ("/api/preview", plan_with_unknowns),
    "samples": ("/api/plans/1/samples", samples),
    "a table": ("/api/plans/1/table/preview", table),
    "a track": ("/api/plans/1/roads/track", gpx),
    "a calendar": ("/api/plans/1/roads/calendar", calendar),
    "a weather file": ("/api/weather?name=x.epw", weather),
    "a backup": ("/api/backup", bytes),
}


def resident_mb(pid: int) -> float:
    """What a process and those that it started hold [MB]."""
    total = 0
    for one in Path("/proc").glob("[0-9]*"):
        try:
            fields_of = (one / "stat").read_text().rpartition(")")[2].split()
            if int(one.name) == pid or int(fields_of[1]) == pid:
                total += int((one / "statm").read_text().split()[1]) * 4096
        except (OSError, IndexError, ValueError):
            continue
    return total / 1e6


class Highest:
    """The most that was seen while it looked."""

    def __init__(self, pid: int) -> None:
        self.pid, self.mb = pid, 0.0
        self.over = threading.Event()
        self.thread = threading.Thread(target=self._look)

    def _look(self) -> None:
        while not self.over.wait(LOOK_S):
            self.mb = max(self.mb, resident_mb(self.pid))

    def __enter__(self) -> Highest:
        self.thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        self.over.set()
        self.thread.join()


def ask(asked: tuple[str, str, bytes]) -> int:
    """The status of one answer; what has no body is read to its end."""
    server, path, body = asked
    if not body:
        with http.Client() as client, client.stream("GET", f"{server}{path}") as answer:
            return sum(0 for _ in answer.iter_bytes()) + answer.status_code
    kind = "application/json" if body[:1] == b"{" and b"\n" not in body else "text/plain"
    headers = {"content-type": kind}
    return http.post(f"{server}{path}", content=body, headers=headers).status_code


def main() -> None:
    """Print a line a kind, and one for all of them at once."""
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder), SERVE)
        server.start()
        assert server.process is not None
        pid = server.process.pid
        sample = (EXAMPLES / "moth-survey.json").read_bytes()
        http.post(f"{server.url}/api/plans/import", content=sample).raise_for_status()
        http.get(f"{server.url}/api/plans/1/report").raise_for_status()
        print(f"before: {resident_mb(pid):.0f} MB", flush=True)
        bodies = {name: make() for name, (_, make) in KINDS.items()}
        for name, (path, _) in KINDS.items():
            body = bodies[name]

            begin = time.monotonic()
            with Highest(pid) as highest, ThreadPoolExecutor(AT_ONCE) as many:
                answers = Counter(many.map(ask, [(server.url, path, body)] * AT_ONCE))
            took_s = time.monotonic() - begin
            print(
                f"{name}: {len(body) / 1e6:.1f} MB x {AT_ONCE}: {highest.mb:.0f} MB, "
                f"{dict(answers)}, {took_s:.0f} s",
                flush=True,
            )
        everything = [(server.url, path, bodies[name]) for name, (path, _) in KINDS.items()]
        with Highest(pid) as highest, ThreadPoolExecutor(AT_ONCE * len(KINDS)) as many:
            answers = Counter(many.map(ask, everything * AT_ONCE))
        print(f"all of these at once: {highest.mb:.0f} MB, {dict(answers)}", flush=True)
        server.kill()


if __name__ == "__main__":
    main()
