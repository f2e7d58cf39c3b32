"""A simulated battery monitor, for demos and tests.

It sits on a box whose truth it knows: one future of a plan in which some appliances draw more
than was typed. What it shows is off as such things are: noise on volts and amperes, a gain error
and a threshold that its counters miss, a percent that drifts with them until the battery is full.
It speaks lines of JSON, over TCP to whoever calls (after one line that may say since when), and
over HTTP at /now and /samples?since=. It can run faster than time, and leave the line now and
then. It ends with the trip.
"""

from __future__ import annotations

import json
import os
import socketserver
import threading
import time
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any
from urllib.parse import parse_qs, urlsplit

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.run import Run, simulate, trip_grid
from oddkettle.core.simulation.scenarios import draw_scenarios, scenario_of
from oddkettle.formats.plan_json import parse_plan
from oddkettle.plan.case import case_from_plan

Floats = NDArray[np.float64]
TRUTH_SEED = 20272
TRUE_LOADS = {"coolbox": 1.06, "trap": 0.72, "laptop": 1.15}
TRUE_SUN, TRUE_CAPACITY = 0.95, 0.96
GAIN, THRESHOLD_A, FIRST_PERCENT_OFF = 1.012, 0.08, 1.5
VOLTS_NOISE, AMPS_NOISE = 0.008, 0.06
FULL_SOC = 0.985
STEP_MIN = 5
SLEEP_S = 0.05
HELLO_WAIT_S = 0.5


@dataclass(frozen=True)
class Truth:
    """What the monitor knows: (steps,) series of the true box, and what its counters have come to.

    ah_in, ah_out, shown : (steps + 1,) counters [Ah] and the percent that it shows
    """

    run: Run
    begin_s: int
    volts: Floats
    amps: Floats
    ah_in: Floats
    ah_out: Floats
    shown: Floats


def true_future(case: Case) -> Run:
    """The run that really happens: a sky and loads of its own."""
    case = replace(case, step_min=STEP_MIN, doubt=replace(case.doubt, seed=TRUTH_SEED))
    future = scenario_of(case, trip_grid(case), draw_scenarios(case, 1), 0)
    load = {key: TRUE_LOADS.get(key, 1.0) for key in future.load}
    return simulate(
        case, replace(future, load=load, sun=TRUE_SUN, capacity=TRUE_CAPACITY, start=case.soc0)
    )


def truth_of(case: Case) -> Truth:
    """The truth of a box, and what a monitor makes of it."""
    run = true_future(case)
    hours = STEP_MIN / 60.0
    amps = run.track.bank_a[:, 0]
    counted = np.where(np.abs(amps) < THRESHOLD_A, 0.0, amps) * GAIN
    ah_in = np.concatenate([[0.0], np.cumsum(np.maximum(counted, 0.0)) * hours])
    ah_out = np.concatenate([[0.0], np.cumsum(np.maximum(-counted, 0.0)) * hours])
    shown = np.empty(len(amps) + 1)
    shown[0] = 100 * run.level[0] + FIRST_PERCENT_OFF
    label_ah = case.bank.capacity_ah
    for i, amp in enumerate(counted):
        at = shown[i] + 100 * amp * hours / label_ah
        shown[i + 1] = 100.0 if run.level[i + 1] > FULL_SOC and amp >= 0 else min(at, 100.0)
    begin_s = int(run.grid.starts_utc[0].astype(np.int64))
    return Truth(run, begin_s, run.track.bus_v, amps, ah_in, ah_out, np.maximum(shown, 0.0))


class Monitor:
    """A monitor that runs from `start` on, `speed` times as fast as time.

    It takes a sample every `every_s` of its own seconds.
    """

    def __init__(self, truth: Truth, start: datetime, speed: float, every_s: float) -> None:
        self.truth, self.speed, self.every_s = truth, speed, every_s
        self.start_s = start.timestamp()
        self.woke = time.monotonic()
        self.last = int((truth.begin_s + len(truth.amps) * STEP_MIN * 60 - self.start_s) / every_s)

    def count(self) -> int:
        """How many samples there have been by now."""
        ran_s = (time.monotonic() - self.woke) * self.speed
        return min(int(ran_s / self.every_s) + 1, self.last)

    def sample(self, seq: int) -> dict[str, Any]:
        """Sample number `seq`; always the same."""
        at_s = self.start_s + seq * self.every_s
        truth = self.truth
        place = (at_s - truth.begin_s) / (STEP_MIN * 60)
        step = min(max(int(place), 0), len(truth.amps) - 1)
        part = min(max(place - step, 0.0), 1.0)
        noise = np.random.default_rng([TRUTH_SEED, seq]).standard_normal(2)

        def between(series: Floats) -> float:
            return float(series[step] + part * (series[step + 1] - series[step]))

        return {
            "at": datetime.fromtimestamp(at_s, UTC).isoformat(),
            "seq": seq,
            "volts": round(float(truth.volts[step]) + VOLTS_NOISE * float(noise[0]), 3),
            "amps": round(float(truth.amps[step]) + AMPS_NOISE * float(noise[1]), 2),
            "percent": round(between(truth.shown), 1),
            "ah_in": round(between(truth.ah_in), 2),
            "ah_out": round(between(truth.ah_out), 2),
        }

    def after(self, since: datetime | None) -> int:
        """The number of the first sample after a moment."""
        if since is None:
            return 0
        return max(int((since.timestamp() - self.start_s) / self.every_s + 1e-6) + 1, 0)


def make_servers(
    monitor: Monitor, port: int, http_port: int, *, leaves_every_s: float = 0.0
) -> tuple[socketserver.ThreadingTCPServer, ThreadingHTTPServer]:
    """The TCP and the HTTP server on 127.0.0.1, not yet serving; port 0 takes any free one.

    With `leaves_every_s` it hangs up so often, as things on a bad line do.
    """

    class Line(socketserver.StreamRequestHandler):
        def handle(self) -> None:
            self.connection.settimeout(HELLO_WAIT_S)
            seq = monitor.after(_since(self.rfile.readline))
            self.connection.settimeout(None)
            ends = time.monotonic() + leaves_every_s if leaves_every_s > 0 else float("inf")
            try:
                while time.monotonic() < ends:
                    lines = [json.dumps(monitor.sample(n)) for n in range(seq, monitor.count())]
                    if lines:
                        self.wfile.write(("\n".join(lines) + "\n").encode())
                        seq += len(lines)
                    else:
                        self.wfile.write(b"\n")
                    time.sleep(SLEEP_S)
            except OSError:
                return

    class Page(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            parts = urlsplit(self.path)
            if parts.path == "/now":
                body = json.dumps(monitor.sample(max(monitor.count() - 1, 0)))
            elif parts.path == "/samples":
                since = parse_qs(parts.query).get("since", [None])[0]
                first = monitor.after(None if since is None else datetime.fromisoformat(since))
                last = min(first + 5000, monitor.count())
                body = "\n".join(json.dumps(monitor.sample(n)) for n in range(first, last))
            else:
                self.send_error(404, "ask for /now or /samples?since=")
                return
            data = f"{body}\n".encode()
            self.send_response(200)
            self.send_header("Content-Type", "application/x-ndjson")
            self.send_header("Content-Length", str(len(data)))
            self.end_headers()
            self.wfile.write(data)

        def log_message(self, format: str, *args: object) -> None:
            del format, args

    socketserver.ThreadingTCPServer.allow_reuse_address = True
    socketserver.ThreadingTCPServer.daemon_threads = True
    tcp = socketserver.ThreadingTCPServer(("127.0.0.1", port), Line)
    return tcp, ThreadingHTTPServer(("127.0.0.1", http_port), Page)


def _since(read: Any) -> datetime | None:
    """What the caller's first line asks for; nothing where it says nothing."""
    try:
        asked = json.loads(read(10_000) or b"{}").get("since")
        return None if asked is None else datetime.fromisoformat(asked)
    except (OSError, ValueError, AttributeError):
        return None


def serve(
    plan: Path,
    port: int,
    http_port: int,
    start_h: float,
    speed: float,
    every_s: float,
    leaves_every_s: float,
    parent: int | None,
) -> None:
    """Serve until killed, or until the process that started it is gone."""
    case = case_from_plan(parse_plan(plan.read_bytes()))
    truth = truth_of(case)
    start = datetime.fromtimestamp(truth.begin_s, UTC) + timedelta(hours=start_h)
    monitor = Monitor(truth, start, speed, every_s)
    tcp, http = make_servers(monitor, port, http_port, leaves_every_s=leaves_every_s)
    if parent is not None:
        threading.Thread(target=_watch, args=(parent,), daemon=True).start()
    threading.Thread(target=http.serve_forever, daemon=True).start()
    tcp.serve_forever()


def _watch(parent: int) -> None:
    while os.getppid() == parent:
        time.sleep(1.0)
    os._exit(0)
