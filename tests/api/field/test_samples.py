"""The open ingest endpoint, live events, tables and archives over HTTP."""

from __future__ import annotations

import json
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.conftest import EXAMPLES
from tests.support import http
from tests.support.patience import PATIENCE_S
from tests.support.serving import Server

AT = "2026-06-08T06:00:{:02d}Z"


@pytest.fixture(scope="module")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    server = Server(tmp_path_factory.mktemp("samples"))
    server.start()
    yield server
    server.kill()


@pytest.fixture
def plan(server: Server) -> str:
    """The address of a plan of this test's own."""
    sample = (EXAMPLES / "moth-survey.json").read_bytes()
    made = http.post(f"{server.url}/api/plans/import", content=sample).json()
    return f"{server.url}/api/plans/{made['id']}"


def lines(*seconds: int, **more: object) -> str:
    made = [{"at": AT.format(s), "volts": 13.0 + s / 100, "amps": -1.5} | more for s in seconds]
    return "\n".join(json.dumps(one) for one in made)


def test_samples_are_taken_in_and_told_apart(plan: str) -> None:
    first = http.post(f"{plan}/samples", content=lines(1, 2, 3)).json()
    assert (first["stored"], first["duplicates"], first["refused"]) == (3, 0, 0)
    mixed = lines(3, 4) + "\nnot json\n" + json.dumps({"at": "2031-01-01T00:00:00Z", "volts": 1})
    again = http.post(f"{plan}/samples", content=mixed).json()
    assert (again["stored"], again["duplicates"], again["refused"]) == (1, 1, 2)
    assert [one["line"] for one in again["refusals"]] == [3, 0]
    assert http.get(f"{plan}/samples").json()["total"] == 4


def test_too_many_lines_at_once_are_refused_whole(plan: str) -> None:
    answer = http.post(f"{plan}/samples", content="{}\n" * 100_001)
    assert answer.status_code == 422
    (complaint,) = answer.json()["complaints"]
    assert complaint["value"] == "100,001"
    assert "several pieces" in complaint["remedy"]


def test_no_plan_no_samples(server: Server) -> None:
    url = f"{server.url}/api/plans/9999"
    assert http.post(f"{url}/samples", content=lines(1)).status_code == 404
    assert http.get(f"{url}/monitor").status_code == 404
    assert http.get(f"{url}/live").status_code == 404
    assert http.get(f"{url}/track").status_code == 404


def test_a_sample_is_told_to_whoever_listens_within_a_second(plan: str) -> None:
    heard: list[tuple[float, dict]] = []
    ready = threading.Event()

    def listen() -> None:
        with http.stream("GET", f"{plan}/live") as stream:
            for line in stream.iter_lines():
                if line.startswith("data: "):
                    heard.append((time.monotonic(), json.loads(line[6:])))
                    ready.set()
                    if heard[-1][1]["stored"]:
                        return

    listener = threading.Thread(target=listen)
    listener.start()
    assert ready.wait(PATIENCE_S)
    sent = time.monotonic()
    http.post(f"{plan}/samples", content=lines(7)).raise_for_status()
    listener.join(PATIENCE_S)
    assert heard[0][1]["stored"] == 0
    at, state = heard[-1]
    assert state["newest"]["volts"] == 13.07
    assert at - sent < 5


def test_a_view_says_least_most_and_mean(plan: str) -> None:
    http.post(f"{plan}/samples", content=lines(*range(0, 60, 2)))
    seen = http.get(
        f"{plan}/samples",
        params={"since": AT.format(0), "until": AT.format(59), "points": 4},
    ).json()
    assert sum(point["count"] for point in seen["points"]) == 30
    for point in seen["points"]:
        assert point["volts"]["least"] <= point["volts"]["mean"] <= point["volts"]["most"]
        assert point["percent"] is None


@pytest.mark.parametrize("points", [0, 1, 5000])
def test_points_have_bounds(plan: str, points: int) -> None:
    assert http.get(f"{plan}/samples", params={"points": points}).status_code == 422


TABLE = "time;volts;amps\n08.06.2026 07:00;13,2;-4\n08.06.2026 07:15;13,1;-3\n"


def test_a_table_is_previewed_without_storing_and_then_stored(plan: str) -> None:
    preview = http.post(f"{plan}/table/preview", content=TABLE).json()
    assert preview["first"][0]["at"] == "2026-06-08T06:00:00Z"
    assert preview["on_trip"] == 2
    assert http.get(f"{plan}/samples").json()["total"] == 0
    mapping = preview["mapping"] | {"zone": "utc"}
    query = {"mapping": json.dumps(mapping)}
    done = http.post(f"{plan}/table", content=TABLE, params=query).json()
    assert done["stored"] == 2
    rows = http.get(f"{plan}/export/samples.json").json()
    assert rows[0]["at_utc"] == "2026-06-08T07:00:00+00:00"


@pytest.mark.parametrize(
    ("mapping", "text"),
    [
        ("{}", "required"),
        ("no json", "JSON"),
        ('{"time": 40}', "no column 41"),
        ('{"time": 0, "volts": -1}', "no column 0"),
    ],
)
def test_a_mapping_that_cannot_be_is_refused(plan: str, mapping: str, text: str) -> None:
    answer = http.post(f"{plan}/table", content=TABLE, params={"mapping": mapping})
    assert answer.status_code == 422
    assert text in answer.json()["detail"]


def test_files_leave_with_names_of_their_own(plan: str) -> None:
    for what in ("log", "samples", "tracked"):
        for shape in ("csv", "json"):
            answer = http.get(f"{plan}/export/{what}.{shape}")
            assert answer.status_code == 200
            assert f"-{what}-" in answer.headers["content-disposition"]
    assert http.get(f"{plan}/export/other.csv").status_code == 422


def test_an_archive_travels_over_http(server: Server, plan: str, tmp_path: Path) -> None:
    http.post(f"{plan}/samples", content=lines(1, 2))
    entry = {"at": "2026-06-08T07:00", "kind": "monitor_percent", "value": 60}
    http.post(f"{plan}/log", json=entry).raise_for_status()
    data = http.get(f"{plan}/archive").content
    made = http.post(f"{server.url}/api/plans/archive", content=data).json()
    other = f"{server.url}/api/plans/{made['id']}"
    assert http.get(f"{other}/log").json()[0]["value"] == 60
    assert http.get(f"{other}/samples").json()["total"] == 2
    assert http.post(f"{server.url}/api/plans/archive", content=b"zip").status_code == 422


def test_a_correction_keeps_when_it_was_written(plan: str) -> None:
    entry = {"at": "2026-06-08T07:00", "kind": "monitor_percent", "value": 60}
    first = http.post(f"{plan}/log", json=entry).json()
    second = http.put(f"{plan}/log/{first['id']}", json=entry | {"value": 40}).json()
    assert second["replaces"] == first["id"]
    assert [one["id"] for one in http.get(f"{plan}/log").json()] == [second["id"]]
    refused = http.put(f"{plan}/log/{second['id']}", json=entry | {"value": 400})
    assert refused.status_code == 422
    assert [one["id"] for one in http.get(f"{plan}/log").json()] == [second["id"]]
    assert http.put(f"{plan}/log/9999", json=entry).status_code == 404


def test_the_rest_of_the_trip_is_sought_in_lines(plan: str) -> None:
    entry = {"at": "2026-06-08T07:00", "kind": "monitor_percent", "value": 45}
    http.post(f"{plan}/log", json=entry).raise_for_status()
    goal = {"sure_percent": 60, "knob": "drive", "day": 5}
    answer = http.post(f"{plan}/track/seek", json=goal)
    found = [json.loads(line) for line in answer.text.splitlines()]
    assert found[-1]["kind"] == "sought"
    assert {line["kind"] for line in found[:-1]} == {"tried"}
    past = http.post(f"{plan}/track/seek", json=goal | {"day": 0})
    assert past.status_code == 422
    mend = http.get(f"{plan}/track/mend").json()
    assert mend["kind"] == "sought"
