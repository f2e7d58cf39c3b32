"""The forecast's client against the stand-in in every mood, and what the app keeps of it."""

from __future__ import annotations

import socket
import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from datetime import date
from pathlib import Path

import pytest

from oddkettle.links.forecast import ForecastAway, ask_forecast, parse_forecast
from oddkettle.standins.forecast import Mood, answer, make_server
from oddkettle.store.plans import NoSuchPlan
from oddkettle.usecases.plans import forecast as service
from oddkettle.usecases.plans.forecast import fetch_forecast, kept_forecast
from oddkettle.usecases.plans.plans import create_plan
from tests.conftest import example

JUNE = date(2026, 6, 6)


@contextmanager
def standin(mood: Mood = "well") -> Iterator[str]:
    server = make_server(0, mood)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    try:
        yield f"http://127.0.0.1:{server.server_port}"
    finally:
        server.shutdown()
        server.server_close()


def test_a_forecast_comes_for_the_days_asked_for_and_is_the_same_again() -> None:
    with standin() as url:
        first = ask_forecast(url, 54.9, -2.6, JUNE, 9)
        again = ask_forecast(url, 54.9, -2.6, JUNE, 9)
        elsewhere = ask_forecast(url, 40.0, 10.0, JUNE, 30)
    assert [day.date.day for day in first.days] == list(range(6, 15))
    assert first == again
    assert len(elsewhere.days) == 16
    assert elsewhere.days[0] != first.days[0]
    assert all(day.low_c <= day.high_c for day in first.days)


@pytest.mark.parametrize(
    ("mood", "text"), [("silent", "within 0.3 s"), ("nonsense", "is no forecast")]
)
def test_a_service_in_a_bad_mood_is_away_with_its_reason(mood: Mood, text: str) -> None:
    with standin(mood) as url, pytest.raises(ForecastAway, match=text):
        ask_forecast(url, 54.9, -2.6, JUNE, 3, timeout_s=0.3 if mood == "silent" else 20.0)


def test_a_service_that_drips_is_away_in_time_and_one_that_floods_is_cut() -> None:
    drip, flood = (threading.Event() for _ in range(2))

    def serve(line: socket.socket, *, floods: bool) -> None:
        peer, _ = line.accept()
        with peer, suppress(OSError):
            peer.recv(65536)
            peer.sendall(b"HTTP/1.1 200 OK\r\nContent-Length: 100000000\r\n\r\n")
            while not (flood if floods else drip).is_set():
                peer.sendall(b"x" * 100_000 if floods else b"x")
                if not floods:
                    drip.wait(0.05)

    for floods, says in ((False, "did not answer within 0.3 s"), (True, "more than")):
        with socket.create_server(("127.0.0.1", 0)) as line:
            threading.Thread(
                target=serve, args=(line,), kwargs={"floods": floods}, daemon=True
            ).start()
            url = f"http://127.0.0.1:{line.getsockname()[1]}"
            with pytest.raises(ForecastAway, match=says):
                ask_forecast(url, 51.0, 0.0, JUNE, 3, timeout_s=20.0 if floods else 0.3)
    drip.set()
    flood.set()


def test_a_service_that_is_not_there_or_refuses_is_away() -> None:
    with pytest.raises(ForecastAway, match="cannot be reached"):
        ask_forecast("http://127.0.0.1:9", 54.9, -2.6, JUNE, 3)
    with standin() as url, pytest.raises(ForecastAway, match="answered 404"):
        ask_forecast(f"{url}/elsewhere", 54.9, -2.6, JUNE, 3)


@pytest.mark.parametrize(
    "path",
    ["/forecast", "/forecast?latitude=91&longitude=0&first=2026-06-06", "/forecast?first=never"],
)
def test_the_standin_says_what_a_question_lacks(path: str) -> None:
    status, body = answer(path)
    assert status == 400
    assert body["error"]


@pytest.mark.parametrize(
    "body",
    [
        b"",
        b"[]",
        b'{"format": "other", "issued": "2026-06-06T06:00:00Z", "days": []}',
        b'{"format": "oddkettle-forecast", "issued": "2026-06-06T06:00:00Z", "days": []}',
        b'{"format": "oddkettle-forecast", "issued": "2026-06-06T06:00:00Z", "days": '
        b'[{"date": "2026-06-06", "sky": "raining frogs", "low_c": 1, "high_c": 2}]}',
        b" " * 300_000,
    ],
)
def test_what_is_no_forecast_is_never_taken_for_one(body: bytes) -> None:
    with pytest.raises(ForecastAway):
        parse_forecast(body)


@pytest.fixture
def plan_id(store: Path) -> int:
    del store
    return create_plan(example("moth-survey")).id


def test_what_was_taken_is_kept_and_grows_old(
    plan_id: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert kept_forecast(plan_id).state == "none"
    monkeypatch.setattr(service, "now_utc", lambda: "2026-06-06T07:00:00+00:00")
    with standin() as url:
        fresh = fetch_forecast(plan_id, url)
    assert (fresh.state, len(fresh.days), fresh.issued_on) == ("fresh", 9, JUNE)
    monkeypatch.setattr(service, "now_utc", lambda: "2026-06-07T08:00:00+00:00")
    assert kept_forecast(plan_id).state == "stale"
    away = fetch_forecast(plan_id, "http://127.0.0.1:9")
    assert (away.state, away.days) == ("stale", fresh.days)
    assert "away" in away.text
    assert "25 h ago" in away.text


def test_no_service_and_no_plan_are_said(plan_id: int) -> None:
    none = fetch_forecast(plan_id, None)
    assert none.state == "none"
    assert "ODDKETTLE_FORECAST_URL" in none.text
    with pytest.raises(NoSuchPlan):
        kept_forecast(999)
