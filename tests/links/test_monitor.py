"""Listening to a monitor: the simulated one, and ones that behave as badly as real ones do."""

from __future__ import annotations

import json
import socket
import socketserver
import threading
import time
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path

import numpy as np
import pytest

from oddkettle.formats.samples_ndjson import parse_line
from oddkettle.links.monitor import MonitorAway, listen, parse_address
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.standins.monitor import (
    THRESHOLD_A,
    TRUE_LOADS,
    Monitor,
    Truth,
    make_servers,
    truth_of,
)
from oddkettle.store import samples as store
from oddkettle.usecases.field.samples import monitor as service
from oddkettle.usecases.plans.plans import create_plan
from tests.conftest import example
from tests.support import http
from tests.support.patience import until

FIRST_S = 1780700400
"""2026-06-06 00:00 by the trip's clock."""


@pytest.fixture(scope="module")
def truth() -> Truth:
    return truth_of(case_from_plan(example("moth-survey")))


def serving(servers: tuple) -> None:
    for server in servers:
        threading.Thread(target=server.serve_forever, daemon=True).start()


@pytest.fixture
def standin(truth: Truth) -> Iterator[tuple[Monitor, str, str]]:
    """A monitor a thousand times as fast as time: (it, TCP address, HTTP address)."""
    start = datetime.fromtimestamp(truth.begin_s, UTC) + timedelta(hours=60)
    monitor = Monitor(truth, start, speed=1200.0, every_s=60.0)
    tcp, web = make_servers(monitor, 0, 0)
    serving((tcp, web))
    yield (
        monitor,
        f"127.0.0.1:{tcp.server_address[1]}",
        f"http://127.0.0.1:{web.server_address[1]}",
    )
    tcp.shutdown()
    web.shutdown()
    tcp.server_close()
    web.server_close()


@pytest.fixture
def plan_id(store: Path, moth: Plan) -> Iterator[int]:
    yield create_plan(moth).id
    service.stop_followers()


def first_lines(address: str, since_ms: int | None, count: int) -> list[bytes]:
    found: list[bytes] = []
    for lines in listen(address, since_ms):
        found += lines
        if len(found) >= count:
            break
    return found


def test_the_standin_counts_what_went_through_less_what_is_too_small(truth: Truth) -> None:
    amps = truth.run.track.bank_a[:, 0]
    out = -amps[amps < -THRESHOLD_A].sum() / 12
    assert truth.ah_out[-1] == pytest.approx(1.012 * out)
    assert np.all(np.diff(truth.ah_in) >= 0)
    assert truth.shown.max() == 100.0
    assert set(TRUE_LOADS) <= {draw.key for draw in truth.run.draws}


def test_its_percent_is_off_and_set_right_when_full(truth: Truth) -> None:
    off = truth.shown - 100 * truth.run.level
    assert 0.5 < off[0] < 3
    full = int(np.argmax(truth.run.level > 0.985))
    assert abs(off[full]) < 1.6


def test_samples_come_over_tcp_from_the_moment_asked_for(
    standin: tuple[Monitor, str, str],
) -> None:
    _, address, _ = standin
    samples = [parse_line(line) for line in first_lines(address, None, 30)]
    assert [s.seq for s in samples[:30]] == list(range(30))
    later = parse_line(first_lines(address, samples[9].at_ms, 1)[0])
    assert later.seq == 10


def test_samples_come_over_http_too(standin: tuple[Monitor, str, str]) -> None:
    monitor, _, url = standin
    until(lambda: monitor.count() > 5)
    now = parse_line(http.get(f"{url}/now").content)
    assert now.volts is not None
    since = monitor.sample(2)["at"]
    body = http.get(f"{url}/samples", params={"since": since}).content
    assert parse_line(body.split(b"\n")[0]).seq == 3
    assert http.get(f"{url}/other").status_code == 404


def test_a_follower_stores_each_sample_once_through_restarts(plan_id: int, truth: Truth) -> None:
    """The monitor hangs up every half second and is called again; nothing is lost or doubled."""
    start = datetime.fromtimestamp(truth.begin_s, UTC) + timedelta(hours=60)
    monitor = Monitor(truth, start, speed=3000.0, every_s=60.0)
    tcp, web = make_servers(monitor, 0, 0, leaves_every_s=0.3)
    serving((tcp, web))
    service.set_monitor(plan_id, f"127.0.0.1:{tcp.server_address[1]}")
    until(lambda: store.count(plan_id) >= 120)
    service.set_monitor(plan_id, None)
    seqs = [sample.seq for sample in store.every(plan_id)]
    assert seqs == list(range(len(seqs)))
    tcp.shutdown()
    web.server_close()


class Odd:
    """A monitor that says what it is told to, to each caller in turn, and then hangs up."""

    def __init__(self, *text: bytes) -> None:
        calls = iter(text)
        self.asked: list[dict] = []
        odd = self

        class Line(socketserver.StreamRequestHandler):
            def handle(self) -> None:
                odd.asked.append(json.loads(self.rfile.readline()))
                self.wfile.write(next(calls, b""))

        socketserver.ThreadingTCPServer.allow_reuse_address = True
        self.server = socketserver.ThreadingTCPServer(("127.0.0.1", 0), Line)
        serving((self.server,))
        self.address = f"127.0.0.1:{self.server.server_address[1]}"


def line(second: int, volts: float = 13.0) -> bytes:
    at = datetime.fromtimestamp(FIRST_S + 200_000 + second, UTC)
    return json.dumps({"at": at.isoformat(), "volts": volts}).encode() + b"\n"


def test_duplicates_disorder_and_nonsense_are_survived(plan_id: int) -> None:
    odd = Odd(
        line(10)
        + line(30)
        + b"not json\n"
        + line(20)
        + line(10)
        + b'{"at": "1970-01-01T00:00Z"}\n',
        line(20) + line(40) + line(5),
    )
    service.set_monitor(plan_id, odd.address)
    until(lambda: store.count(plan_id) == 5)
    assert [s.at_ms // 1000 - FIRST_S - 200_000 for s in store.every(plan_id)] == [
        5,
        10,
        20,
        30,
        40,
    ]
    assert odd.asked[0] == {"since": None}
    assert odd.asked[1]["since"].startswith("2026-06-08")


def test_a_clock_that_jumped_is_told_and_its_samples_are_not_stored(plan_id: int) -> None:
    far = b'{"at": "2041-01-01T00:00:00Z", "volts": 13}\n'
    odd = Odd(line(1) + far + far)
    service.set_monitor(plan_id, odd.address)
    until(lambda: service.monitor_state(plan_id).odd is not None)
    state = service.monitor_state(plan_id)
    assert "2041" in str(state.odd)
    assert state.stored == 1


def test_its_absence_is_told_and_its_return_noticed(plan_id: int) -> None:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    service.set_monitor(plan_id, f"127.0.0.1:{port}")
    until(lambda: service.monitor_state(plan_id).state == "away")
    assert "cannot be reached" in service.monitor_state(plan_id).text
    assert service.monitor_state(plan_id).newest is None


def test_stopping_to_listen_stops(plan_id: int, standin: tuple[Monitor, str, str]) -> None:
    _, address, _ = standin
    assert service.set_monitor(plan_id, address).address == address
    until(lambda: store.count(plan_id) > 0)
    assert service.set_monitor(plan_id, None).state == "none"
    time.sleep(0.4)
    stands = store.count(plan_id)
    time.sleep(0.4)
    assert store.count(plan_id) == stands


@pytest.mark.parametrize("address", ["", "nowhere", "host:", ":8770", "host:99999", "host:12a"])
def test_what_is_no_address_is_refused(plan_id: int, address: str) -> None:
    with pytest.raises(PlanRefused) as caught:
        service.set_monitor(plan_id, address)
    assert caught.value.complaints[0].remedy == "Write it like 127.0.0.1:8770."
    assert store.monitors() == {}


def test_addresses_are_read_as_people_write_them() -> None:
    assert parse_address(" tcp://box.local:8770 ") == ("box.local", 8770)
    assert parse_address("[::1]:8770") == ("::1", 8770)


def test_a_line_without_end_is_hung_up_on() -> None:
    odd = Odd(b"x" * 50_000)
    with pytest.raises(MonitorAway, match="more than 10,000 bytes"):
        for _ in listen(odd.address, None):
            pass


HOUR_S = 3600


def stored_seconds(plan_id: int) -> list[int]:
    return [s.at_ms // 1000 - FIRST_S - 200_000 for s in store.every(plan_id)]


def test_a_clock_that_jumps_for_one_sample_does_not_silence_the_rest(plan_id: int) -> None:
    odd = Odd(line(0) + line(10) + line(40 * HOUR_S) + line(20), line(30))
    service.set_monitor(plan_id, odd.address)
    until(lambda: store.count(plan_id) == 4)
    assert stored_seconds(plan_id) == [0, 10, 20, 30]
    assert "clock had jumped" in str(service.monitor_state(plan_id).odd)
    # It is called again since what came last.
    assert odd.asked[1]["since"] == datetime.fromtimestamp(FIRST_S + 200_020, UTC).isoformat()


def test_a_clock_that_was_set_is_followed(plan_id: int) -> None:
    far = 40 * HOUR_S
    odd = Odd(line(0) + line(far) + line(far + 10) + line(far + 20))
    service.set_monitor(plan_id, odd.address)
    until(lambda: store.count(plan_id) == 4)
    assert stored_seconds(plan_id) == [0, far, far + 10, far + 20]


def test_a_clock_that_falls_back_is_followed_at_once(plan_id: int) -> None:
    odd = Odd(line(50 * HOUR_S) + line(10) + line(20))
    service.set_monitor(plan_id, odd.address)
    until(lambda: store.count(plan_id) == 3)
    assert odd.asked[0] == {"since": None}
    until(lambda: len(odd.asked) > 1)
    assert odd.asked[1]["since"] == datetime.fromtimestamp(FIRST_S + 200_020, UTC).isoformat()


def test_a_monitor_that_speaks_once_a_day_is_one_sample_behind_and_loses_none(
    plan_id: int,
) -> None:
    odd = Odd(b"".join(line(24 * HOUR_S * day) for day in range(4)))
    service.set_monitor(plan_id, odd.address)
    until(lambda: store.count(plan_id) == 3)
    assert stored_seconds(plan_id) == [24 * HOUR_S * day for day in range(3)]
